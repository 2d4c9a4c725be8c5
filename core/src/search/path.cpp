#include "saunter/search/path.hpp"

#include "kernel/changed_moves.hpp"

#include <algorithm>
#include <array>

#include "saunter/grid/area.hpp"
#include "saunter/grid/whole_plane.hpp"
#include "saunter/search/searcher.hpp"

namespace saunter::inline v0_2 {
namespace {

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
std::optional<Crossing> crossing(const WholePlane& plane, WholePoint from, WholePoint along, Cell cell) {
  Crossing part;
  const WholePoint centre = plane.centre(cell);
  const std::span<const WholePoint> corners = plane.corners();
  const std::int64_t turn = plane.family() == CellShape::triangle && !WholePlane::points_up(centre) ? -1 : 1;
  for (std::size_t i = 0; i < corners.size(); ++i) {
    const WholePoint corner = centre + turn * corners[i];
    const WholePoint edge = turn * (corners[i + 1 < corners.size() ? i + 1 : 0] - corners[i]);
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
class AsAsked {
 public:
  AsAsked(const CostGrid& costs, std::span<const EntryChange> changes) : costs_(costs) {
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

std::optional<std::uint64_t> cost_of_cells(const AsAsked& ground, std::span<const Cell> cells) {
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
std::optional<EntryCost> highest_on_line(const AsAsked& ground, Cell from, Cell to) {
  if (!ground.open(from) || !ground.open(to)) return std::nullopt;
  const Tiling tiling = ground.tiling();
  const WholePlane plane(tiling);
  const WholePoint start = plane.centre(from);
  const WholePoint along = plane.centre(to) - start;
  EntryCost costliest = 0;
  for (Cell cell = from; cell != to;) {
    const auto here = crossing(plane, start, along, cell);
    if (!here) return std::nullopt;
    Cell next = cell;
    for (const Direction d : directions(ground.moves(cell))) {
      const Cell neighbour = tiling.neighbour(cell, d);
      const auto there = crossing(plane, start, along, neighbour);
      if (!there || !(there->in == here->out)) continue;
      next = neighbour;
      break;
    }
    if (next == cell) return std::nullopt;
    costliest = std::max(costliest, ground.entry(next));
    cell = next;
  }
  return costliest;
}

}  // namespace

std::optional<std::uint64_t> cost_of_path(const CostGrid& costs, std::span<const Cell> cells,
                                          std::span<const EntryChange> changes) {
  return cost_of_cells(AsAsked(costs, changes), cells);
}

bool straight_line_free(const CostGrid& costs, Cell from, Cell to, std::span<const EntryChange> changes) {
  return highest_on_line(AsAsked(costs, changes), from, to).has_value();
}

namespace {

/// Straightens one way, leg by leg: each as far as it goes.
class Straightener {
 public:
  Straightener(const AsAsked& ground, std::span<const Cell> cells, bool across_corners)
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

  /// How far one can go straight from a cell of the path. Every end is tried on the first stretch, so that nothing near
  /// is missed; further out ends are tried in leaps, which keeps the whole near linear.
  [[nodiscard]] std::size_t leg_from(std::size_t at) {
    constexpr std::size_t blind_for = 16;  // a leg that fails may be free again a few cells on
    constexpr std::size_t stretch = 64;
    std::size_t best = std::max(at + 1, run_end_[at]);  // a run in one direction is its own line
    highest_from_ = at;
    highest_.clear();
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
  [[nodiscard]] EntryCost highest_up_to(std::size_t end) {
    while (highest_.size() < end - highest_from_) {
      const EntryCost next = ground_.entry(cells_[highest_from_ + highest_.size() + 1]);
      highest_.push_back(highest_.empty() ? next : std::max(highest_.back(), next));
    }
    return highest_[end - highest_from_ - 1];
  }
  [[nodiscard]] bool goes_straight(std::size_t at, std::size_t end) {
    const auto costliest = highest_on_line(ground_, cells_[at], cells_[end]);
    if (!costliest || *costliest > highest_up_to(end)) return false;
    line_of_cells(ground_.tiling(), cells_[at], cells_[end], line_, kind_);
    const auto walked = cost_of_cells(ground_, line_);
    return walked && *walked <= cost_[end] - cost_[at];
  }

  const AsAsked& ground_;
  std::span<const Cell> cells_;
  LineKind kind_;
  std::vector<std::uint64_t> cost_;   // from the start to each cell
  std::vector<std::size_t> run_end_;  // where the run of equal steps from each cell ends
  std::size_t highest_from_ = 0;
  std::vector<EntryCost> highest_;  // running, from the leg's first cell on
  std::vector<Cell> line_;
};

}  // namespace

void straighten(const CostGrid& costs, std::span<const Cell> cells, std::vector<Cell>& out,
                std::span<const EntryChange> changes) {
  out.clear();
  if (cells.empty()) return;
  const AsAsked ground(costs, changes);
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

Verdict path_by_way_points(Searcher& searcher, const CostGrid& costs, std::span<const Cell> points,
                           std::vector<Cell>& out, bool waiting, std::vector<MissingLeg>* missing) {
  out.clear();
  if (missing != nullptr) missing->clear();
  SAUNTER_EXPECT(!points.empty());
  if (points.empty()) return {};
  const auto is_step = [&](Cell a, Cell b) {
    if (waiting && a == b) return true;
    const Direction d = costs.tiling().direction(a, b);
    return d >= 0 && d < costs.rules().steps;
  };
  bool every_step = true;
  for (std::size_t i = 1; i < points.size(); ++i) every_step = every_step && is_step(points[i - 1], points[i]);
  Verdict verdict{Reason::found, {}};
  if (every_step) {
    out.assign(points.begin(), points.end());
    return verdict;
  }
  out.push_back(points.front());
  for (std::size_t i = 1; i < points.size(); ++i) {
    if (waiting && points[i] == points[i - 1]) {
      out.push_back(points[i]);
      continue;
    }
    const Route& route = searcher.route(costs, points[i - 1], points[i]);
    if (route.found()) {
      out.insert(out.end(), route.cells().begin() + 1, route.cells().end());
      continue;
    }
    if (verdict.reason == Reason::found) verdict = route.verdict();
    if (missing == nullptr) return verdict;
    missing->push_back({out.size(), route.verdict()});
    out.push_back(points[i]);
  }
  return verdict;
}

}  // namespace saunter::inline v0_2
