#include "saunter/ground/bake.hpp"

#include <algorithm>
#include <array>

namespace saunter {
namespace {

/// Values for a block of cells that may reach beyond the map.
template <typename T>
class Patch {
 public:
  Patch(Rect rect, T fill)
      : rect_(rect),
        width_(rect.right - rect.left),
        values_(static_cast<std::size_t>(width_) * static_cast<std::size_t>(rect.bottom - rect.top), fill) {}
  [[nodiscard]] const Rect& rect() const { return rect_; }
  [[nodiscard]] T& at(Cell cell) { return values_[place(cell)]; }
  [[nodiscard]] T at(Cell cell) const { return values_[place(cell)]; }

 private:
  [[nodiscard]] std::size_t place(Cell cell) const {
    SAUNTER_EXPECT(rect_.contains(cell));
    return static_cast<std::size_t>(cell.row - rect_.top) * static_cast<std::size_t>(width_) +
           static_cast<std::size_t>(cell.col - rect_.left);
  }
  Rect rect_;
  std::int32_t width_;
  std::vector<T> values_;
};

/// The cells a mover covers, as a sum of straight runs: from the cell at `base` steps in direction `base_direction`,
/// `length` further steps along each axis. Such a body is swept axis by axis, in doubling strides, for all cells at
/// once.
struct Body {
  Direction base_direction = 0;
  std::int32_t base_steps = 0;
  std::array<Direction, 3> axes = {};
  int axis_count = 0;
  std::int32_t length = 0;

  static Body of(Tiling tiling, int size) {
    constexpr Direction square_east = 1;
    constexpr Direction square_south = 2;
    if (tiling.shape() == Shape::square) {
      return {.axes = {square_east, square_south, 0}, .axis_count = 2, .length = size - 1};
    }
    // A hexagon of radius r is three runs of r steps, 60 degrees apart, begun r steps against the middle one.
    const bool pointy = tiling.shape() == Shape::hex_pointy;
    const Direction first = pointy ? 1 : 2;  // east or south-east, then clockwise
    return {.base_direction = first + 1 + 3 < 6 ? first + 1 + 3 : first + 1 - 3,
            .base_steps = size - 1,
            .axes = {first, first + 1, first + 2},
            .axis_count = 3,
            .length = size - 1};
  }
};

/// The offset of `steps` steps in one direction from a cell of a kind.
Offset stride(Tiling tiling, int kind, Direction direction, std::int32_t steps) {
  if (tiling.shape() == Shape::square) {
    const Offset o = tiling.neighbourhood().offset[0][static_cast<unsigned>(direction)];
    return {o.cols * steps, o.rows * steps};
  }
  Cell from{0, 0};
  if (tiling.kind(from) != kind) from = tiling.shape() == Shape::hex_pointy ? Cell{0, 1} : Cell{1, 0};
  const Axial a = tiling.to_axial(from);
  const Axial b = tiling.to_axial(tiling.neighbour(from, direction));
  return tiling.from_axial({a.q + (b.q - a.q) * steps, a.r + (b.r - a.r) * steps}) - from;
}

/// Replaces each value by op(value, the one `steps` further in a direction); cells beyond the patch count as `outside`.
template <typename T, typename Op>
void combine_shifted(Patch<T>& patch, Tiling tiling, Direction direction, std::int32_t steps, T outside, Op op) {
  const std::array<Offset, 2> by = {stride(tiling, 0, direction, steps), stride(tiling, 1, direction, steps)};
  const Patch<T> before = patch;
  const Rect rect = patch.rect();
  for (std::int32_t row = rect.top; row < rect.bottom; ++row) {
    for (std::int32_t col = rect.left; col < rect.right; ++col) {
      const Cell cell{col, row};
      const Cell other = cell + by[static_cast<unsigned>(tiling.kind(cell))];
      patch.at(cell) = op(before.at(cell), rect.contains(other) ? before.at(other) : outside);
    }
  }
}

/// Replaces each value by op over the run of `length` + 1 cells along each axis of the body; the axis `shorter` (if
/// any) is one step shorter. The result for the mover's cell then stands at its base.
template <typename T, typename Op>
void sweep(Patch<T>& patch, Tiling tiling, const Body& body, T outside, Op op, int shorter = -1) {
  for (int axis = 0; axis < body.axis_count; ++axis) {
    const std::int32_t cells = body.length + (axis == shorter ? 0 : 1);
    for (std::int32_t done = 1; done < cells;) {
      const std::int32_t step = std::min(done, cells - done);
      combine_shifted(patch, tiling, body.axes[static_cast<unsigned>(axis)], step, outside, op);
      done += step;
    }
  }
}

Cell base_of(Tiling tiling, const Body& body, Cell anchor) {
  return anchor + stride(tiling, tiling.kind(anchor), body.base_direction, body.base_steps);
}

Rect grown_freely(Rect rect, std::int32_t by) {
  return {rect.left - by, rect.top - by, rect.right + by, rect.bottom + by};
}

template <typename F>
void for_each_cell(Rect rect, F&& f) {
  for (std::int32_t row = rect.top; row < rect.bottom; ++row) {
    for (std::int32_t col = rect.left; col < rect.right; ++col) f(Cell{col, row});
  }
}

}  // namespace

/// Computes blocks of a cost grid; the whole grid is one block, so a repair can't differ from a fresh bake.
class Baker {
 public:
  Baker(CostGrid& costs, const Map& map, const Mover& mover, const BitGrid* occupied)
      : costs_(costs), map_(map), mover_(mover), occupied_(occupied), tiling_(map.tiling()) {
    for (std::size_t id = 0; id < map.kinds().size(); ++id) {
      cost_by_kind_[id] = mover.cost_on(static_cast<TerrainId>(id), map.kinds()[id]);
    }
    limited_ = map.has_heights() && (mover.climb || mover.drop);
  }

  static CostGrid empty_grid(const Map& map, const Mover& mover) { return {map.board(), mover.rules}; }

  void bake(Rect anchors) {
    set_entries(anchors);
    const bool wants_sides = map_.has_barriers() || limited_;
    if (wants_sides && !costs_.has_sides()) {
      add_sides();
      anchors = Rect::whole(map_.size());  // the first barrier or height: every cell needs its steps written down
    }
    if (costs_.has_sides()) set_sides(anchors.grown(2, map_.size()));
  }

  /// Looks up the smallest cost anew: in the whole grid, or, when only a block changed, only if it may have gone.
  void finish_all() {
    costs_.find_cheapest();
    ++costs_.revision_;
  }
  void finish_block(Rect anchors, EntryCost cheapest_in_block_before) {
    const EntryCost after = cheapest_in(anchors);
    if (after != blocked && (costs_.cheapest_ == blocked || after <= costs_.cheapest_)) {
      costs_.cheapest_ = after;
    } else if (cheapest_in_block_before != blocked && cheapest_in_block_before == costs_.cheapest_) {
      costs_.find_cheapest();
    }
    ++costs_.revision_;
  }
  [[nodiscard]] EntryCost cheapest_in(Rect anchors) const {
    EntryCost lowest = blocked;
    for_each_cell(anchors, [&](Cell cell) {
      const EntryCost cost = costs_.entry(cell);
      if (cost != blocked && (lowest == blocked || cost < lowest)) lowest = cost;
    });
    return lowest;
  }

  /// How far a change can reach through the mover's body.
  [[nodiscard]] std::int32_t reach() const { return mover_.size == 1 ? 0 : mover_.size; }

 private:
  [[nodiscard]] EntryCost cell_cost(Cell cell) const {
    if (occupied_ != nullptr && occupied_->test(cell)) return blocked;
    return cost_by_kind_[map_.terrain_at(cell)];
  }

  void set_entries(Rect anchors) {
    if (mover_.size == 1) {
      for_each_cell(anchors, [&](Cell cell) { set_entry(cell, cell_cost(cell)); });
      return;
    }
    // Cost - 1 wraps "blocked" to the largest number, so that one maximum answers both what it costs and whether.
    constexpr std::uint16_t closed = 65'535;
    const Body body = Body::of(tiling_, mover_.size);
    Patch<std::uint16_t> worst(grown_freely(anchors, mover_.size), closed);
    for_each_cell(worst.rect().grown(0, map_.size()),
                  [&](Cell cell) { worst.at(cell) = static_cast<std::uint16_t>(cell_cost(cell) - 1U); });
    sweep(worst, tiling_, body, closed, [](std::uint16_t a, std::uint16_t b) { return std::max(a, b); });
    if (map_.has_barriers()) bar_split_places(worst, body);
    for_each_cell(anchors, [&](Cell cell) {
      set_entry(cell, static_cast<EntryCost>(worst.at(base_of(tiling_, body, cell)) + 1U));
    });
  }

  /// Closes the places where a barrier closed both ways would run through the mover.
  void bar_split_places(Patch<std::uint16_t>& worst, const Body& body) const {
    for (int axis = 0; axis < body.axis_count; ++axis) {
      const Direction d = body.axes[static_cast<unsigned>(axis)];
      Patch<std::uint8_t> walls(worst.rect(), 0);
      for_each_cell(walls.rect().grown(0, map_.size()), [&](Cell cell) {
        const Cell next = tiling_.neighbour(cell, d);
        if (!map_.size().contains(next)) return;
        walls.at(cell) = map_.closed(cell, d) && map_.closed(next, tiling_.direction(next, cell)) ? 1 : 0;
      });
      sweep(
          walls, tiling_, body, std::uint8_t{0},
          [](std::uint8_t a, std::uint8_t b) { return static_cast<std::uint8_t>(a | b); }, axis);
      for_each_cell(walls.rect(), [&](Cell cell) {
        if (walls.at(cell) != 0) worst.at(cell) = 65'535;
      });
    }
  }

  void set_entry(Cell cell, EntryCost cost) {
    costs_.entry_[cell] = cost;
    costs_.open_.set(cell, cost != blocked);
  }

  void add_sides() {
    if (tiling_.shape() == Shape::triangle) {
      costs_.wide_sides_ = Grid<std::uint16_t>(map_.size());
    } else {
      costs_.narrow_sides_ = Grid<std::uint8_t>(map_.size());
    }
  }

  /// Per cell, the directions in which a step passes barriers (edges only) and keeps to the height limits.
  struct Passes {
    Patch<DirectionSet> unbarred;
    Patch<DirectionSet> level;
  };

  void set_sides(Rect anchors) {
    // Ways round a corner start up to two cells from where they end, and each place covers the mover's body.
    const Rect rect = grown_freely(anchors, reach() + 3);
    Passes passes{Patch<DirectionSet>(rect, 0), Patch<DirectionSet>(rect, 0)};
    for_each_cell(rect.grown(0, map_.size()), [&](Cell cell) {
      passes.unbarred.at(cell) = static_cast<DirectionSet>(~unsigned{map_.closed_sides(cell)});
      passes.level.at(cell) = level_directions(cell);
    });
    const Body body = Body::of(tiling_, mover_.size);
    if (mover_.size > 1) {
      const auto both = [](DirectionSet a, DirectionSet b) { return static_cast<DirectionSet>(a & b); };
      sweep(passes.unbarred, tiling_, body, DirectionSet{0}, both);
      sweep(passes.level, tiling_, body, DirectionSet{0}, both);
    }
    for_each_cell(anchors, [&](Cell cell) { costs_.put_sides(cell, legal_steps(cell, body, passes)); });
  }

  [[nodiscard]] DirectionSet level_directions(Cell cell) const {
    if (!limited_) return static_cast<DirectionSet>(~0U);
    unsigned level = 0;
    for (Direction d = 0; d < tiling_.direction_count(); ++d) {
      const Cell next = tiling_.neighbour(cell, d);
      if (!map_.size().contains(next)) continue;
      const std::int32_t rise = std::int32_t{map_.height_at(next)} - map_.height_at(cell);
      if (mover_.climb && rise > *mover_.climb) continue;
      if (mover_.drop && -rise > *mover_.drop) continue;
      level |= 1U << static_cast<unsigned>(d);
    }
    return static_cast<DirectionSet>(level);
  }

  [[nodiscard]] bool passes_at(const Patch<DirectionSet>& patch, const Body& body, Cell place, Direction d) const {
    const Cell base = mover_.size == 1 ? place : base_of(tiling_, body, place);
    return patch.rect().contains(base) && ((patch.at(base) >> static_cast<unsigned>(d)) & 1U) != 0;
  }

  [[nodiscard]] DirectionSet legal_steps(Cell from, const Body& body, const Passes& passes) const {
    if (!costs_.open(from)) return 0;
    const int edges = tiling_.edge_count();
    unsigned legal = 0;
    for (Direction d = 0; d < costs_.rules().steps; ++d) {
      if (!costs_.open(tiling_.neighbour(from, d)) || !passes_at(passes.level, body, from, d)) continue;
      const bool passable = d < edges ? passes_at(passes.unbarred, body, from, d) : corner_open(from, d, body, passes);
      if (passable) legal |= 1U << static_cast<unsigned>(d);
    }
    return static_cast<DirectionSet>(legal);
  }

  [[nodiscard]] bool corner_open(Cell from, Direction d, const Body& body, const Passes& passes) const {
    const auto& ways =
        tiling_.neighbourhood().ways[static_cast<unsigned>(tiling_.kind(from))][static_cast<unsigned>(d)];
    const bool first = way_open(from, ways[0], body, passes);
    if (mover_.rules.corners != Corners::strict && first) return true;
    if (mover_.rules.corners == Corners::strict && !first) return false;
    return way_open(from, ways[1], body, passes);
  }

  [[nodiscard]] bool way_open(Cell from, const CornerWay& way, const Body& body, const Passes& passes) const {
    const bool free = mover_.rules.corners == Corners::free;
    Cell at = from;
    for (unsigned i = 0; i < way.count; ++i) {
      const Direction d = way.steps[i];
      if (!passes_at(passes.unbarred, body, at, d)) return false;
      if (!free && !passes_at(passes.level, body, at, d)) return false;
      at = tiling_.neighbour(at, d);
      if (!map_.size().contains(at)) return false;
      if (!free && !costs_.open(at)) return false;
    }
    return true;
  }

  CostGrid& costs_;
  const Map& map_;
  const Mover& mover_;
  const BitGrid* occupied_;
  Tiling tiling_;
  std::array<EntryCost, max_terrain_kinds> cost_by_kind_ = {};
  bool limited_ = false;
};

CostGrid bake(const Map& map, const Mover& mover, const BitGrid* occupied) {
  SAUNTER_EXPECT(!mover_problem(map.tiling(), mover));
  CostGrid costs = Baker::empty_grid(map, mover);
  Baker baker(costs, map, mover, occupied);
  baker.bake(Rect::whole(map.size()));
  baker.finish_all();
  return costs;
}

void rebake(CostGrid& costs, const Map& map, const Mover& mover, Rect changed, const BitGrid* occupied) {
  SAUNTER_EXPECT(costs.board() == map.board());
  Baker baker(costs, map, mover, occupied);
  changed = changed.grown(0, map.size());
  if (changed.empty()) return;
  const Rect anchors = changed.grown(baker.reach(), map.size());
  const EntryCost cheapest_before = baker.cheapest_in(anchors);
  baker.bake(anchors);
  baker.finish_block(anchors, cheapest_before);
}

}  // namespace saunter
