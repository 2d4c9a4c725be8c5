#include "saunter/check/inspect.hpp"

#include <algorithm>

#include "saunter/grid/area.hpp"
#include "saunter/grid/whole_plane.hpp"
#include "saunter/search/way.hpp"

namespace saunter {
namespace {

/// A few cells of a map, as a map of their own: same kinds of cells in same places, since it begins at an even one.
class Window {
 public:
  Window(const Map& map, Cell middle, std::int32_t reach)
      : rect_(even(Rect::of(middle).grown(reach, map.size()))),
        map_({map.tiling(), {rect_.right - rect_.left, rect_.bottom - rect_.top}}, map.kinds()) {
    for_each([&](Cell there, Cell here) {
      map_.set_terrain(here, map.terrain_at(there));
      if (map.has_heights()) map_.set_height(here, map.height_at(there));
      for (Direction d = 0; d < map.tiling().edge_count(); ++d) {
        if (map.closed(there, d)) map_.set_closed(here, d);
      }
    });
  }

  [[nodiscard]] Cell local(Cell cell) const { return {cell.col - rect_.left, cell.row - rect_.top}; }
  [[nodiscard]] Map& map() { return map_; }
  [[nodiscard]] BitGrid occupied(const BitGrid* all) const {
    BitGrid cells(map_.size());
    if (all != nullptr) {
      for_each([&](Cell there, Cell here) { cells.set(here, all->test(there)); });
    }
    return cells;
  }

 private:
  static Rect even(Rect rect) { return {rect.left & ~1, rect.top & ~1, rect.right, rect.bottom}; }
  template <typename F>
  void for_each(F&& f) const {
    for (std::int32_t row = rect_.top; row < rect_.bottom; ++row) {
      for (std::int32_t col = rect_.left; col < rect_.right; ++col) f(Cell{col, row}, local({col, row}));
    }
  }
  Rect rect_;
  Map map_;
};

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
    if (!found.ok()) return found;
    if (options_.levels != nullptr) {
      found.measure = exposure_of(costs_, *options_.levels, cells_);
    } else {
      const std::uint64_t cost = *cost_of_way(costs_, cells_);
      found.measure = {.cost = cost, .weighed = cost, .covered_steps = static_cast<std::uint32_t>(cells_.size() - 1)};
    }
    if (costs_.rules().steps != 3) found.turns = turns();
    return found;
  }

 private:
  [[nodiscard]] std::optional<WayProblem> problem_at(std::size_t i) const {
    const Cell cell = cells_[i];
    WayProblem problem{.step = i, .at = cell};
    const auto is = [&](WayFault why) {
      problem.why = why;
      return problem;
    };
    if (!costs_.size().contains(cell)) return is(WayFault::off_map);
    if (!costs_.open(cell)) {
      problem.by = unit_under(cell);
      return is(WayFault::cannot_stand);
    }
    problem.by = meets(i);
    if (problem.by.kind != InTheWay::Kind::nothing) return is(WayFault::cannot_stand);
    if (i > 0) {
      const auto fault = step_fault(cells_[i - 1], cell);
      if (fault) return is(*fault);
    }
    const bool hot = options_.levels != nullptr && options_.highest && (*options_.levels)[cell] > *options_.highest;
    return hot ? std::optional(is(WayFault::threat)) : std::nullopt;
  }

  [[nodiscard]] InTheWay unit_under(Cell cell) const {
    if (options_.units == nullptr) return {};
    std::vector<Cell> body;
    body_cells(map_.tiling(), cell, mover_.size, body);
    for (const Cell part : body) {
      if (!map_.size().contains(part)) continue;
      const std::uint32_t unit = (*options_.units)[part];
      if (unit != 0 && (options_.occupied == nullptr || options_.occupied->test(part))) {
        return {InTheWay::Kind::unit, unit - 1};
      }
    }
    return {};
  }

  /// Another way that is in the same cell at this time, or comes out of it while this one goes in.
  [[nodiscard]] InTheWay meets(std::size_t i) const {
    for (std::size_t n = 0; n < options_.others.size(); ++n) {
      const std::span<const Cell> other = options_.others[n];
      if (other.empty()) continue;
      const auto at = [&](std::size_t time) { return other[std::min(time, other.size() - 1)]; };
      const bool swaps = i > 0 && at(i) == cells_[i - 1] && at(i - 1) == cells_[i] && at(i) != at(i - 1);
      if (at(i) == cells_[i] || swaps) return {InTheWay::Kind::way, n};
    }
    return {};
  }

  [[nodiscard]] std::optional<WayFault> step_fault(Cell from, Cell to) const {
    const Direction d = costs_.tiling().direction(from, to);
    if (d < 0 || d >= costs_.rules().steps) return WayFault::not_a_step;
    if (!costs_.size().contains(from)) return std::nullopt;
    if (((costs_.moves(from) >> d) & 1U) != 0) return std::nullopt;
    return forbidden_by(from, d);
  }

  /// Adds one kind of obstacle after the other until the step is not legal any more.
  [[nodiscard]] std::optional<WayFault> forbidden_by(Cell from, Direction d) const {
    // A corner's ways lead up to two cells aside, and each place covers the body.
    Window window(map_, from, mover_.size + 4);
    const Cell here = window.local(from);
    const BitGrid nobody(window.map().size());
    const auto legal = [&](const Mover& mover, const BitGrid& occupied) {
      const CostGrid costs = bake(window.map(), mover, &occupied);
      // Who cannot even stand here because of a barrier has been told so.
      return !costs.open(here) || ((costs.moves(here) >> d) & 1U) != 0;
    };
    Mover anywhere = mover_;
    anywhere.costs.assign(map_.kinds().size(), EntryCost{100});
    Mover light = anywhere;
    light.climb.reset();
    light.drop.reset();
    const Grid<TerrainId> terrain = window.map().terrain();
    fill_voids(window.map());
    if (!legal(light, nobody)) return WayFault::barrier;
    if (!legal(anywhere, nobody)) return WayFault::height;
    window.map().set_all_terrain(terrain);
    // As if the mover stood where it is, whatever is there.
    BitGrid occupied = window.occupied(options_.occupied);
    std::vector<Cell> body;
    body_cells(map_.tiling(), here, mover_.size, body);
    const std::optional<TerrainId> open = some_open_terrain();
    for (const Cell cell : body) {
      if (!window.map().size().contains(cell)) continue;
      occupied.set(cell, false);
      const TerrainId id = window.map().terrain_at(cell);
      if (open && mover_.cost_on(id, map_.kind(id)) == blocked) window.map().set_terrain(cell, *open);
    }
    return legal(mover_, occupied) ? std::nullopt : std::optional(WayFault::corner);
  }

  /// Void stays closed to every mover; for what barriers and heights alone forbid it must not be there.
  void fill_voids(Map& window) const {
    const auto solid =
        std::find_if(map_.kinds().begin(), map_.kinds().end(), [](const Terrain& t) { return !t.is_void; });
    if (solid == map_.kinds().end()) return;
    const auto id = static_cast<TerrainId>(solid - map_.kinds().begin());
    for (std::uint32_t i = 0; i < window.size().cell_count(); ++i) {
      const Cell cell = window.size().cell(CellIndex{i});
      if (window.kind(window.terrain_at(cell)).is_void) window.set_terrain(cell, id);
    }
  }
  [[nodiscard]] std::optional<TerrainId> some_open_terrain() const {
    for (std::size_t id = 0; id < map_.kinds().size(); ++id) {
      if (mover_.cost_on(static_cast<TerrainId>(id), map_.kinds()[id]) != blocked) return static_cast<TerrainId>(id);
    }
    return std::nullopt;
  }

  [[nodiscard]] std::uint32_t turns() const {
    std::uint32_t count = 0;
    const WholePlane plane(costs_.tiling());
    const auto travel = [&](std::size_t i) { return plane.centre(cells_[i]) - plane.centre(cells_[i - 1]); };
    for (std::size_t i = 2; i < cells_.size(); ++i) {
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
};

}  // namespace

std::string_view fault_name(WayFault fault) {
  switch (fault) {
    case WayFault::off_map: return "off-map";
    case WayFault::cannot_stand: return "blocked";
    case WayFault::not_a_step: return "not-a-step";
    case WayFault::barrier: return "barrier";
    case WayFault::height: return "height";
    case WayFault::corner: return "corner";
    case WayFault::threat: return "threat";
  }
  return "";
}

Inspection inspect_way(const Map& map, const Mover& mover, const CostGrid& costs, std::span<const Cell> cells,
                       const InspectOptions& options) {
  SAUNTER_EXPECT(!cells.empty() && costs.board() == map.board());
  return Inspector(map, mover, costs, cells, options).run();
}

}  // namespace saunter
