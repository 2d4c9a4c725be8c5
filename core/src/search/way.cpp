#include "saunter/search/way.hpp"

#include "kernel/changed_moves.hpp"

#include <algorithm>
#include <array>
#include <bit>

#include "saunter/grid/area.hpp"

namespace saunter {
namespace {

/// A position in whole numbers. Tilings are stretched and slanted so that centres and corners fall on them, which
/// leaves crossings as they are.
struct Point {
  std::int64_t x = 0;
  std::int64_t y = 0;
  friend Point operator-(Point a, Point b) { return {a.x - b.x, a.y - b.y}; }
};
std::int64_t cross(Point a, Point b) { return a.x * b.y - a.y * b.x; }

/// A cell with its corners in order, the inside always on the same hand.
struct Outline {
  Point centre;
  std::array<Point, 6> corners;
  unsigned count = 0;

  Outline(Tiling tiling, Cell cell) {
    const std::int64_t col = cell.col;
    const std::int64_t row = cell.row;
    const int kind = tiling.kind(cell);
    const auto put = [&](std::int64_t x, std::int64_t y) { corners[count++] = {centre.x + x, centre.y + y}; };
    switch (tiling.shape()) {
      case Shape::square:
        centre = {2 * col, 2 * row};
        put(-1, -1), put(1, -1), put(1, 1), put(-1, 1);
        break;
      case Shape::hex_pointy:
        centre = {2 * col + kind, 3 * row};
        put(0, -2), put(1, -1), put(1, 1), put(0, 2), put(-1, 1), put(-1, -1);
        break;
      case Shape::hex_flat:
        centre = {3 * col, 2 * row + kind};
        put(-1, -1), put(1, -1), put(2, 0), put(1, 1), put(-1, 1), put(-2, 0);
        break;
      case Shape::triangle:
        centre = {col, 3 * row + (kind == 0 ? 2 : 1)};
        if (kind == 0) {
          put(0, -2), put(1, 1), put(-1, 1);
        } else {
          put(-1, -1), put(1, -1), put(0, 2);
        }
        break;
    }
  }
};

/// A share of the line, as a fraction with a denominator above 0.
struct Share {
  std::int64_t over = 0;
  std::int64_t under = 1;
  friend bool operator<(Share a, Share b) { return a.over * b.under < b.over * a.under; }
  friend bool operator==(Share a, Share b) { return a.over * b.under == b.over * a.under; }
};

/// The part of a line inside a cell (Cyrus and Beck 1978), or nothing when it only touches.
struct Crossing {
  Share in{-1'000'000'000, 1};
  Share out{1'000'000'000, 1};
};
std::optional<Crossing> crossing(Point from, Point along, const Outline& outline) {
  Crossing part;
  for (unsigned i = 0; i < outline.count; ++i) {
    const Point corner = outline.corners[i];
    const Point edge = outline.corners[(i + 1) % outline.count] - corner;
    const std::int64_t inside = cross(edge, from - corner);  // > 0 on the cell's side
    const std::int64_t slope = cross(edge, along);
    if (slope == 0) {
      if (inside <= 0) return std::nullopt;
    } else if (slope > 0) {
      const Share in{-inside, slope};
      if (part.in < in) part.in = in;
    } else {
      const Share out{inside, -slope};
      if (out < part.out) part.out = out;
    }
  }
  if (!(part.in < part.out)) return std::nullopt;
  return part;
}

/// A board as one query sees it.
class Ground {
 public:
  Ground(const CostGrid& costs, std::span<const EntryChange> changes) : costs_(costs) {
    moves_.begin(costs, changes, detail::ChangedMoves::Lookup::by_list);
  }
  [[nodiscard]] Tiling tiling() const { return costs_.tiling(); }
  [[nodiscard]] bool open(Cell cell) const { return moves_.open(cell); }
  [[nodiscard]] EntryCost entry(Cell cell) const { return moves_.entry(cell); }
  [[nodiscard]] unsigned moves(Cell cell) const { return moves_.moves(cell); }
  [[nodiscard]] Cost cost_of_step(Cell from, Direction d) const {
    return step_cost(costs_.step_length(tiling().kind(from), d), entry(tiling().neighbour(from, d)));
  }

 private:
  const CostGrid& costs_;
  detail::ChangedMoves moves_;
};

std::optional<std::uint64_t> cost_of_cells(const Ground& ground, std::span<const Cell> cells) {
  if (cells.empty()) return 0;
  if (!ground.open(cells.front())) return std::nullopt;
  std::uint64_t sum = 0;
  for (std::size_t i = 1; i < cells.size(); ++i) {
    const Direction d = ground.tiling().direction(cells[i - 1], cells[i]);
    if (d < 0 || !holds(ground.moves(cells[i - 1]), d)) return std::nullopt;
    sum += ground.cost_of_step(cells[i - 1], d);
  }
  return sum;
}

/// The largest entry cost of the cells a straight line enters, or nothing when it is not free.
std::optional<EntryCost> dearest_on_line(const Ground& ground, Cell from, Cell to) {
  if (!ground.open(from) || !ground.open(to)) return std::nullopt;
  const Tiling tiling = ground.tiling();
  const Point start = Outline(tiling, from).centre;
  const Point along = Outline(tiling, to).centre - start;
  EntryCost dearest = 0;
  for (Cell cell = from; cell != to;) {
    const auto here = crossing(start, along, Outline(tiling, cell));
    if (!here) return std::nullopt;
    Cell next = cell;
    for (unsigned left = ground.moves(cell); left != 0 && next == cell; left &= left - 1) {
      const Cell neighbour = tiling.neighbour(cell, Direction(std::countr_zero(left)));
      const auto there = crossing(start, along, Outline(tiling, neighbour));
      if (there && there->in == here->out) next = neighbour;
    }
    if (next == cell) return std::nullopt;
    dearest = std::max(dearest, ground.entry(next));
    cell = next;
  }
  return dearest;
}

}  // namespace

std::optional<std::uint64_t> cost_of_way(const CostGrid& costs, std::span<const Cell> cells,
                                         std::span<const EntryChange> changes) {
  return cost_of_cells(Ground(costs, changes), cells);
}

bool straight_way_free(const CostGrid& costs, Cell from, Cell to, std::span<const EntryChange> changes) {
  return dearest_on_line(Ground(costs, changes), from, to).has_value();
}

namespace {

/// Straightens one way, leg by leg: each as far as it goes.
class Straightener {
 public:
  Straightener(const Ground& ground, std::span<const Cell> cells, bool across_corners)
      : ground_(ground), cells_(cells), kind_(across_corners ? LineKind::corners : LineKind::edges) {
    const Tiling tiling = ground.tiling();
    std::uint64_t sum = 0;
    std::vector<Direction> steps;
    for (std::size_t i = 1; i < cells.size(); ++i) {
      steps.push_back(tiling.direction(cells[i - 1], cells[i]));
      cost_.push_back(sum);
      sum += ground.cost_of_step(cells[i - 1], steps.back());
    }
    cost_.push_back(sum);
    run_end_.resize(cells.size());
    for (std::size_t i = cells.size(); i-- > 0;) {
      const bool last = i + 1 >= cells.size();
      // On triangles straight ahead alternates.
      const bool goes_on = i + 2 < cells.size() && steps[i] == steps[i + 1] && tiling.shape() != Shape::triangle;
      run_end_[i] = last ? i : goes_on ? run_end_[i + 1] : i + 1;
    }
  }

  /// How far one can go straight from a cell of the way. Every end is tried on the first stretch, so that nothing near
  /// is missed; further out ends are tried in leaps, which keeps the whole near linear.
  [[nodiscard]] std::size_t leg_from(std::size_t at) {
    constexpr std::size_t blind_for = 16;  // a leg that fails may be free again a few cells on
    constexpr std::size_t stretch = 64;
    std::size_t best = std::max(at + 1, run_end_[at]);  // a run in one direction is its own line
    dearest_from_ = at;
    dearest_.clear();
    for (std::size_t end = best + 1; end < cells_.size() && end <= best + blind_for && end <= at + stretch; ++end) {
      if (goes_straight(at, end)) best = end;
    }
    if (best + blind_for < at + stretch) return best;
    for (std::size_t leap = blind_for; leap > 0 && best + 1 < cells_.size();) {
      const std::size_t end = std::min(best + leap, cells_.size() - 1);
      if (goes_straight(at, end)) {
        best = end;
        leap *= 2;
      } else {
        leap /= 2;
      }
    }
    return best;
  }

 private:
  /// The largest entry cost of the cells after the leg's first, up to one.
  [[nodiscard]] EntryCost dearest_up_to(std::size_t end) {
    while (dearest_.size() < end - dearest_from_) {
      const EntryCost next = ground_.entry(cells_[dearest_from_ + dearest_.size() + 1]);
      dearest_.push_back(dearest_.empty() ? next : std::max(dearest_.back(), next));
    }
    return dearest_[end - dearest_from_ - 1];
  }
  [[nodiscard]] bool goes_straight(std::size_t at, std::size_t end) {
    const auto dearest = dearest_on_line(ground_, cells_[at], cells_[end]);
    if (!dearest || *dearest > dearest_up_to(end)) return false;
    line_of_cells(ground_.tiling(), cells_[at], cells_[end], line_, kind_);
    const auto walked = cost_of_cells(ground_, line_);
    return walked && *walked <= cost_[end] - cost_[at];
  }

  const Ground& ground_;
  std::span<const Cell> cells_;
  LineKind kind_;
  std::vector<std::uint64_t> cost_;   // from the start to each cell
  std::vector<std::size_t> run_end_;  // where the run of equal steps from each cell ends
  std::size_t dearest_from_ = 0;
  std::vector<EntryCost> dearest_;  // running, from the leg's first cell on
  std::vector<Cell> line_;
};

}  // namespace

void straighten(const CostGrid& costs, std::span<const Cell> cells, std::vector<Cell>& out,
                std::span<const EntryChange> changes) {
  out.clear();
  if (cells.empty()) return;
  const Ground ground(costs, changes);
  const bool walkable = cost_of_cells(ground, cells).has_value();
  SAUNTER_EXPECT(walkable);
  if (!walkable) {
    out.assign(cells.begin(), cells.end());
    return;
  }
  Straightener legs(ground, cells, costs.tiling().shape() == Shape::square && costs.rules().steps == 8);
  for (std::size_t at = 0; at + 1 < cells.size(); at = legs.leg_from(at)) out.push_back(cells[at]);
  out.push_back(cells.back());
}

}  // namespace saunter
