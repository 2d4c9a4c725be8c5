#include "saunter/check/inspect.hpp"

#include <algorithm>

#include "saunter/grid/area.hpp"
#include "saunter/grid/whole_plane.hpp"
#include "saunter/search/path.hpp"

namespace saunter::inline v0_2 {
namespace {

class Inspector {
 public:
  Inspector(const Map& map, const Mover& mover, const CostGrid& costs, std::span<const Cell> cells,
            const InspectOptions& options)
      : map_(map), mover_(mover), costs_(costs), cells_(cells), options_(options) {}

  Inspection run() {
    Inspection found;
    for (std::size_t i = 0; i < cells_.size(); ++i) {
      if (const auto problem = problem_at(i)) found.problems.push_back(*problem);
    }
    if (found.ok()) measure(found);
    return found;
  }

 private:
  /// Waiting costs nothing and turns nowhere.
  void measure(Inspection& found) const {
    std::vector<Cell> steps(cells_.begin(), cells_.end());
    steps.erase(std::unique(steps.begin(), steps.end()), steps.end());
    const bool waits = steps.size() < cells_.size();
    if (options_.timed != nullptr || (waits && options_.levels != nullptr)) {
      found.measure = exposure_by_ticks();
    } else if (options_.levels != nullptr) {
      found.measure = exposure_of(costs_, *options_.levels, steps);
    } else {
      const std::uint64_t cost = *cost_of_path(costs_, steps);
      found.measure = {.cost = cost, .weighed = cost, .covered_steps = static_cast<std::uint32_t>(steps.size() - 1)};
    }
    if (costs_.rules().steps != 3) found.turns = turns(steps);
  }

  /// The danger at a cell of the path when the unit stands there.
  [[nodiscard]] std::uint16_t level_at(std::size_t i) const {
    if (options_.timed == nullptr) return options_.levels == nullptr ? std::uint16_t{0} : (*options_.levels)[cells_[i]];
    body_cells(map_.tiling(), cells_[i], mover_.size, body_);
    return options_.timed->level(body_, options_.tick + i);
  }

  /// A tick of waiting costs nothing, and exposes as a step of 1.00 does.
  [[nodiscard]] Exposure exposure_by_ticks() const {
    Exposure sum;
    std::uint32_t stretch = 0;
    std::uint64_t stretch_cost = 0;
    for (std::size_t i = 1; i < cells_.size(); ++i) {
      const bool waits = cells_[i] == cells_[i - 1];
      const Tiling tiling = costs_.tiling();
      const Direction d = tiling.direction(cells_[i - 1], cells_[i]);
      const Length length = waits ? 100 : costs_.step_length(tiling.kind(cells_[i - 1]), d);
      const Cost cost = waits ? 0 : step_cost(length, costs_.entry(cells_[i]));
      const std::uint16_t level = level_at(i);
      sum.cost += cost;
      sum.exposure += std::uint64_t{level} * length;
      stretch = level == 0 ? 0 : stretch + 1;
      stretch_cost = level == 0 ? 0 : stretch_cost + cost;
      sum.longest = std::max(sum.longest, stretch);
      sum.longest_cost = std::max(sum.longest_cost, stretch_cost);
      (level == 0 ? sum.covered_steps : sum.exposed_steps) += 1;
    }
    sum.weighed = sum.cost + sum.exposure;
    return sum;
  }

  [[nodiscard]] std::optional<PathProblem> problem_at(std::size_t i) const {
    const Cell cell = cells_[i];
    PathProblem problem{.step = i, .at = cell};
    const auto is = [&](PathFault why) {
      problem.why = why;
      return problem;
    };
    if (!costs_.size().contains(cell)) return is(PathFault::off_map);
    if (!costs_.open(cell)) {
      problem.by = unit_under(cell);
      return is(PathFault::cannot_stand);
    }
    problem.by = meets(i);
    if (problem.by.kind != InTheWay::Kind::nothing) return is(PathFault::cannot_stand);
    if (i > 0 && !(options_.waiting && cell == cells_[i - 1])) {
      const auto fault = step_fault(cells_[i - 1], cell);
      if (fault) return is(*fault);
    }
    const bool hot = options_.highest && level_at(i) > *options_.highest;
    return hot ? std::optional(is(PathFault::threat)) : std::nullopt;
  }

  [[nodiscard]] InTheWay unit_under(Cell cell) const {
    if (options_.units == nullptr) return {};
    body_cells(map_.tiling(), cell, mover_.size, body_);
    for (const Cell part : body_) {
      if (!map_.size().contains(part)) continue;
      const std::uint32_t unit = (*options_.units)[part];
      if (unit != 0 && (options_.occupied == nullptr || options_.occupied->test(part))) {
        return {InTheWay::Kind::unit, unit - 1};
      }
    }
    return {};
  }

  /// Another path that is in the same cell at this time, or comes out of it while this one goes in; or into the last
  /// cell once this one has arrived, for it stays.
  [[nodiscard]] InTheWay meets(std::size_t i) const {
    for (std::size_t n = 0; n < options_.others.size(); ++n) {
      const std::span<const Cell> other = options_.others[n];
      if (other.empty()) continue;
      const auto at = [&](std::size_t time) { return other[std::min(time, other.size() - 1)]; };
      const bool swaps = i > 0 && at(i) == cells_[i - 1] && at(i - 1) == cells_[i] && at(i) != at(i - 1);
      const bool arrived = i + 1 == cells_.size() && i + 1 < other.size();
      const auto later = other.subspan(arrived ? i + 1 : other.size());
      const bool walked_over = std::find(later.begin(), later.end(), cells_[i]) != later.end();
      if (at(i) == cells_[i] || swaps || walked_over) return {InTheWay::Kind::path, n};
    }
    return {};
  }

  [[nodiscard]] std::optional<PathFault> step_fault(Cell from, Cell to) const {
    const Direction d = costs_.tiling().direction(from, to);
    if (d < 0 || d >= costs_.rules().steps) return PathFault::not_a_step;
    if (!costs_.size().contains(from) || holds(costs_.moves(from), d)) return std::nullopt;
    for (const auto& [obstacles, fault] : {std::pair{Obstacles::barriers, PathFault::barrier},
                                           {Obstacles::heights, PathFault::height},
                                           {Obstacles::all, PathFault::corner}}) {
      if (!passes(from, d, obstacles)) return fault;
    }
    return std::nullopt;  // from a place where the mover cannot stand, which has been told
  }

  /// What is there to hinder a step: each kind comes on top of the one before.
  enum class Obstacles : std::uint8_t { barriers, heights, all };

  /// Whether a step could be taken if there were only these obstacles and the mover stood where it sets out from.
  [[nodiscard]] bool passes(Cell from, Direction d, Obstacles obstacles) const {
    const Neighbourhood& hood = costs_.tiling().neighbourhood();
    const bool heights = obstacles >= Obstacles::heights;
    if (heights && !level(from, d)) return false;
    if (d < hood.edges) return unbarred(from, d);
    const auto kind = static_cast<unsigned>(costs_.tiling().kind(from));
    int open = 0;
    for (const CornerWay& way : hood.ways[kind][d.index()]) {
      open += way_passes(from, way, obstacles) ? 1 : 0;
    }
    return open >= (mover_.rules.corners == Corners::strict ? 2 : 1);
  }

  [[nodiscard]] bool way_passes(Cell at, const CornerWay& way, Obstacles obstacles) const {
    const bool free = mover_.rules.corners == Corners::free;  // then only barriers and the rim matter beside the step
    for (unsigned i = 0; i < way.count; ++i) {
      const Direction edge(way.steps[i]);
      if (!unbarred(at, edge) || (!free && obstacles >= Obstacles::heights && !level(at, edge))) return false;
      at = costs_.tiling().neighbour(at, edge);
      if (i + 1 == way.count) break;
      if (obstacles == Obstacles::all && !(free ? body_on_map(at) : costs_.open(at))) return false;
      if (!free && !whole_by_barriers(at)) return false;
    }
    return true;
  }

  /// Calls f(cell) for the cells a mover covers that are on the map, while it says yes.
  template <typename F>
  [[nodiscard]] bool all_of_body(Cell at, F&& f) const {
    body_cells(costs_.tiling(), at, mover_.size, body_);
    return std::all_of(body_.begin(), body_.end(), [&](Cell cell) { return !map_.size().contains(cell) || f(cell); });
  }
  [[nodiscard]] bool unbarred(Cell at, Direction edge) const {
    return all_of_body(at, [&](Cell cell) { return !map_.closed(cell, edge); });
  }
  [[nodiscard]] bool level(Cell at, Direction d) const {
    return !map_.has_heights() || all_of_body(at, [&](Cell cell) {
      const Cell next = map_.tiling().neighbour(cell, d);
      if (!map_.size().contains(next)) return true;
      const std::int32_t rise = std::int32_t{map_.height_at(next)} - map_.height_at(cell);
      return (!mover_.climb || rise <= *mover_.climb) && (!mover_.drop || -rise <= *mover_.drop);
    });
  }
  [[nodiscard]] bool body_on_map(Cell at) const {
    body_cells(costs_.tiling(), at, mover_.size, body_);
    return std::all_of(body_.begin(), body_.end(), [&](Cell cell) { return map_.size().contains(cell); });
  }
  /// Whether no barrier closed both ways runs between two cells of the body.
  [[nodiscard]] bool whole_by_barriers(Cell at) const {
    if (mover_.size == 1 || !map_.has_barriers()) return true;
    body_cells(costs_.tiling(), at, mover_.size, body_);
    std::sort(body_.begin(), body_.end());
    return std::all_of(body_.begin(), body_.end(), [&](Cell cell) {
      for (Direction d{0}; d < map_.tiling().edge_count(); ++d) {
        const Cell other = map_.tiling().neighbour(cell, d);
        if (!std::binary_search(body_.begin(), body_.end(), other)) continue;
        if (map_.closed(cell, d) && map_.closed(other, map_.tiling().direction(other, cell))) return false;
      }
      return true;
    });
  }

  [[nodiscard]] std::uint32_t turns(std::span<const Cell> steps) const {
    std::uint32_t count = 0;
    const WholePlane plane(costs_.tiling());
    const auto travel = [&](std::size_t i) { return plane.centre(steps[i]) - plane.centre(steps[i - 1]); };
    for (std::size_t i = 2; i < steps.size(); ++i) {
      const WholePoint before = travel(i - 1);
      const WholePoint now = travel(i);
      const bool straight_on = cross(before, now) == 0 && before.x * now.x + before.y * now.y > 0;
      count += straight_on ? 0U : 1U;
    }
    return count;
  }

  const Map& map_;
  const Mover& mover_;
  const CostGrid& costs_;
  const std::span<const Cell> cells_;
  const InspectOptions& options_;
  mutable std::vector<Cell> body_;  // of the place looked at
};

}  // namespace

std::string_view fault_name(PathFault fault) {
  switch (fault) {
    case PathFault::off_map: return "off-map";
    case PathFault::cannot_stand: return "blocked";
    case PathFault::not_a_step: return "not-a-step";
    case PathFault::barrier: return "barrier";
    case PathFault::height: return "height";
    case PathFault::corner: return "corner";
    case PathFault::threat: return "threat";
  }
  return "";
}

Inspection inspect_path(const Map& map, const Mover& mover, const CostGrid& costs, std::span<const Cell> cells,
                        const InspectOptions& options) {
  SAUNTER_EXPECT(!cells.empty() && costs.board() == map.board());
  return Inspector(map, mover, costs, cells, options).run();
}

}  // namespace saunter::inline v0_2
