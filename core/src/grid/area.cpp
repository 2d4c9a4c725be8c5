#include "saunter/grid/area.hpp"

#include <algorithm>
#include <cstdlib>
#include <limits>

#include "saunter/grid/whole_plane.hpp"

namespace saunter::inline v0_2 {
namespace {

/// A straight line between two cells' centres.
class Line {
 public:
  Line(Tiling tiling, Cell from, Cell to)
      : plane_(tiling), start_(plane_.centre(from)), along_(plane_.centre(to) - start_) {}

  /// 0 on the line, else the side (sign) and how far off (in a unit that is the same for all points).
  [[nodiscard]] std::int64_t off(WholePoint p) const { return cross(along_, p - start_); }
  [[nodiscard]] std::int64_t distance(Cell cell) const { return std::abs(off(plane_.centre(cell))); }

  /// Whether the line crosses or touches the edge between two triangles.
  [[nodiscard]] bool crosses_edge(Cell triangle, Cell next) const {
    // The corner that is not shared lies opposite the neighbour; the edge's ends are the two others.
    const WholePoint centre = plane_.centre(triangle);
    const WholePoint towards = plane_.centre(next) - centre;
    const std::int64_t turn = WholePlane::points_up(centre) ? 1 : -1;
    WholePoint ends[2];
    int count = 0;
    for (const WholePoint corner : plane_.corners()) {
      const WholePoint seen = turn * corner;
      const bool shared =
          towards.x == 0 ? (seen.y > 0) == (towards.y > 0) : seen.x == 0 || (seen.x > 0) == (towards.x > 0);
      if (shared) ends[count++] = centre + seen;
    }
    return opposite_sides(ends[0], ends[1]);
  }

 private:
  [[nodiscard]] bool opposite_sides(WholePoint p, WholePoint q) const {
    const std::int64_t a = off(p);
    const std::int64_t b = off(q);
    return (a <= 0 && b >= 0) || (a >= 0 && b <= 0);
  }

  WholePlane plane_;
  WholePoint start_;
  WholePoint along_;
};

std::int64_t steps_left(Tiling tiling, Cell from, Cell to, LineKind kind) {
  if (kind == LineKind::corners && tiling.shape() == Shape::square) {
    return std::max(std::abs(std::int64_t{from.col} - to.col), std::abs(std::int64_t{from.row} - to.row));
  }
  return tiling.edge_distance(from, to);
}

}  // namespace

void line_of_cells(Tiling tiling, Cell from, Cell to, std::vector<Cell>& out, LineKind kind) {
  out.clear();
  // Always drawn from the first end in reading order, so that both directions give the same cells.
  const bool swapped = to < from;
  if (swapped) std::swap(from, to);
  const Line straight(tiling, from, to);
  const bool triangles = tiling.shape() == Shape::triangle;
  const bool by_corners = kind == LineKind::corners && tiling.shape() == Shape::square;
  const int directions = by_corners ? tiling.direction_count() : tiling.edge_count();
  out.push_back(from);
  for (Cell at = from; at != to; out.push_back(at)) {
    const std::int64_t left = steps_left(tiling, at, to, kind);
    Cell best = at;
    std::int64_t best_off = 0;
    for (Direction d{0}; d < directions; ++d) {
      const Cell next = tiling.neighbour(at, d);
      if (steps_left(tiling, next, to, kind) >= left) continue;
      if (triangles && !straight.crosses_edge(at, next)) continue;
      // Triangles' centres lie off any line in turn; there the crossed edge decides, and the first one will do.
      const std::int64_t off = triangles ? 0 : straight.distance(next);
      if (best != at && off >= best_off) continue;
      best = next;
      best_off = off;
    }
    at = best;
  }
  if (swapped) std::reverse(out.begin(), out.end());
}

namespace {

/// The cells of a block within a radius, row by row. On squares and hexes the distance along a row falls and then
/// rises, so each row holds one stretch, whose ends are found by halving; on triangles it goes up and down by turns.
void add_disk(Tiling tiling, Cell centre, std::int64_t radius, const Rect& block, std::vector<Cell>& out) {
  if (block.empty() || radius < 0) return;
  for (std::int64_t row = block.top; row < block.bottom; ++row) {
    const auto at = [&](std::int64_t col) {
      return Cell{static_cast<std::int32_t>(col), static_cast<std::int32_t>(row)};
    };
    const auto within = [&](std::int64_t col) { return tiling.edge_distance(centre, at(col)) <= radius; };
    if (tiling.shape() == Shape::triangle) {
      for (std::int64_t col = block.left; col < block.right; ++col) {
        if (within(col)) out.push_back(at(col));
      }
      continue;
    }
    // Nearest in the row is the centre's own column, or one beside it.
    const std::int64_t middle = std::clamp<std::int64_t>(centre.col, block.left, block.right - std::int64_t{1});
    std::int64_t inside = middle;
    for (const std::int64_t beside : {middle - 1, middle + 1}) {
      if (within(inside)) break;
      if (beside >= block.left && beside < block.right && within(beside)) inside = beside;
    }
    if (!within(inside)) continue;
    const auto last_within = [&](std::int64_t good, std::int64_t bad) {  // one side of `inside`, good is within
      while (std::abs(bad - good) > 1) {
        const std::int64_t half = good + (bad - good) / 2;
        (within(half) ? good : bad) = half;
      }
      return good;
    };
    const std::int64_t first = last_within(inside, std::int64_t{block.left} - 1);
    const std::int64_t last = last_within(inside, block.right);
    for (std::int64_t col = first; col <= last; ++col) out.push_back(at(col));
  }
}

/// All that an edge-step disk can touch: no edge step leads further than one column and one row.
Rect block_about(Cell centre, std::int64_t radius) {
  const auto cut = [](std::int64_t edge) {
    return static_cast<std::int32_t>(std::clamp<std::int64_t>(edge, std::numeric_limits<std::int32_t>::min(),
                                                              std::numeric_limits<std::int32_t>::max()));
  };
  return {cut(centre.col - radius), cut(centre.row - radius), cut(centre.col + radius + 1),
          cut(centre.row + radius + 1)};
}

}  // namespace

void disk_of_cells(Tiling tiling, Cell centre, int radius, std::vector<Cell>& out) {
  out.clear();
  add_disk(tiling, centre, radius, block_about(centre, std::max(radius, 0)), out);
}

void disk_of_cells(Tiling tiling, Cell centre, int radius, Size within, std::vector<Cell>& out) {
  out.clear();
  const Rect all = block_about(centre, std::max(radius, 0));
  add_disk(tiling, centre, radius, all.grown(0, within), out);
}

void ring_of_cells(Tiling tiling, Cell centre, int radius, std::vector<Cell>& out) {
  disk_of_cells(tiling, centre, radius, out);
  std::erase_if(out, [&](Cell cell) { return tiling.edge_distance(centre, cell) != radius; });
}

void body_cells(Tiling tiling, Cell cell, int size, std::vector<Cell>& out) {
  SAUNTER_EXPECT(size >= 1 && (size == 1 || tiling.shape() != Shape::triangle));
  if (size < 1 || tiling.shape() == Shape::triangle) size = 1;
  if (tiling.is_hex()) {
    disk_of_cells(tiling, cell, size - 1, out);
    return;
  }
  out.clear();
  for (std::int32_t row = 0; row < size; ++row) {
    for (std::int32_t col = 0; col < size; ++col) out.push_back(cell + Offset{col, row});
  }
}

Cell turned_about(Tiling tiling, Cell cell, Cell centre, int turns) {
  SAUNTER_EXPECT(tiling.shape() != Shape::triangle && turns >= 0);
  const int full = full_turn(tiling);
  turns = ((turns % full) + full) % full;
  if (tiling.is_hex()) {
    const Axial a = tiling.to_axial(cell);
    const Axial c = tiling.to_axial(centre);
    Offset by = Cell{a.q, a.r} - Cell{c.q, c.r};
    for (int i = 0; i < turns; ++i) by = {wrapping_subtract(0, by.rows), wrapping_add(by.cols, by.rows)};
    const Cell moved = Cell{c.q, c.r} + by;
    return tiling.from_axial({moved.col, moved.row});
  }
  Offset by = cell - centre;
  for (int i = 0; i < turns; ++i) by = {wrapping_subtract(0, by.rows), by.cols};
  return centre + by;
}

}  // namespace saunter::inline v0_2
