#include "saunter/grid/area.hpp"

#include <algorithm>
#include <cstdlib>

namespace saunter {
namespace {

/// A place in whole numbers. The two axes may count in different units: that stretches the plane, and straight lines
/// stay straight.
struct Point {
  std::int64_t x = 0;
  std::int64_t y = 0;
};

Point whole_centre(Tiling tiling, Cell cell) {
  const std::int64_t col = cell.col;
  const std::int64_t row = cell.row;
  const int kind = tiling.kind(cell);
  switch (tiling.shape()) {
    case Shape::hex_pointy: return {2 * col + kind, row};
    case Shape::hex_flat: return {col, 2 * row + kind};
    case Shape::triangle: return {col, 3 * row - kind};
    case Shape::square: break;
  }
  return {col, row};
}

/// A straight line between two cells' centres.
class Line {
 public:
  Line(Tiling tiling, Cell from, Cell to)
      : tiling_(tiling), start_(whole_centre(tiling, from)), end_(whole_centre(tiling, to)) {}

  /// 0 on the line, else the side (sign) and how far off (in a unit that is the same for all points).
  [[nodiscard]] std::int64_t off(Point p) const {
    return (end_.x - start_.x) * (p.y - start_.y) - (end_.y - start_.y) * (p.x - start_.x);
  }
  [[nodiscard]] std::int64_t distance(Cell cell) const { return std::abs(off(whole_centre(tiling_, cell))); }

  /// Whether the line crosses or touches the edge between two triangles.
  [[nodiscard]] bool crosses_edge(Cell triangle, Cell next) const {
    // The corner that is not shared lies opposite the neighbour; the edge's ends are the two others.
    const Point a = whole_centre(tiling_, triangle);
    const std::int64_t tip = tiling_.kind(triangle) == 0 ? -2 : 2;  // the lone corner, above or below the centre
    const Point lone{a.x, a.y + tip};
    const Point left{a.x - 1, a.y - tip / 2};
    const Point right{a.x + 1, a.y - tip / 2};
    if (next.row != triangle.row) return opposite_sides(left, right);
    return opposite_sides(lone, next.col < triangle.col ? left : right);
  }

 private:
  [[nodiscard]] bool opposite_sides(Point p, Point q) const {
    const std::int64_t a = off(p);
    const std::int64_t b = off(q);
    return (a <= 0 && b >= 0) || (a >= 0 && b <= 0);
  }

  Tiling tiling_;
  Point start_;
  Point end_;
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
    for (Direction d = 0; d < directions; ++d) {
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

void disk_of_cells(Tiling tiling, Cell centre, int radius, std::vector<Cell>& out) {
  out.clear();
  // No edge step leads further than one column and one row.
  for (std::int32_t row = centre.row - radius; row <= centre.row + radius; ++row) {
    for (std::int32_t col = centre.col - radius; col <= centre.col + radius; ++col) {
      if (tiling.edge_distance(centre, {col, row}) <= radius) out.push_back({col, row});
    }
  }
}

void ring_of_cells(Tiling tiling, Cell centre, int radius, std::vector<Cell>& out) {
  disk_of_cells(tiling, centre, radius, out);
  std::erase_if(out, [&](Cell cell) { return tiling.edge_distance(centre, cell) != radius; });
}

void body_cells(Tiling tiling, Cell cell, int size, std::vector<Cell>& out) {
  SAUNTER_EXPECT(size >= 1 && (size == 1 || tiling.shape() != Shape::triangle));
  if (tiling.is_hex()) {
    disk_of_cells(tiling, cell, size - 1, out);
    return;
  }
  out.clear();
  for (std::int32_t row = 0; row < size; ++row) {
    for (std::int32_t col = 0; col < size; ++col) out.push_back({cell.col + col, cell.row + row});
  }
}

Cell turned_about(Tiling tiling, Cell cell, Cell centre, int turns) {
  SAUNTER_EXPECT(tiling.shape() != Shape::triangle && turns >= 0);
  turns %= full_turn(tiling);
  if (tiling.is_hex()) {
    const Axial a = tiling.to_axial(cell);
    const Axial c = tiling.to_axial(centre);
    Axial by{a.q - c.q, a.r - c.r};
    for (int i = 0; i < turns; ++i) by = {-by.r, by.q + by.r};
    return tiling.from_axial({c.q + by.q, c.r + by.r});
  }
  Offset by = cell - centre;
  for (int i = 0; i < turns; ++i) by = {-by.rows, by.cols};
  return centre + by;
}

}  // namespace saunter
