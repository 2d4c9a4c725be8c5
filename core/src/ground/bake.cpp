#include "saunter/ground/bake.hpp"

#include <algorithm>
#include <array>
#include <cstddef>

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
  /// Cells from one row to the next.
  [[nodiscard]] std::ptrdiff_t stride() const { return width_; }
  /// Where a cell's value stands; the cell may be any of the rect.
  [[nodiscard]] T* at(Cell cell) { return values_.data() + place(cell); }
  [[nodiscard]] const T* at(Cell cell) const { return values_.data() + place(cell); }

 private:
  [[nodiscard]] std::ptrdiff_t place(Cell cell) const {
    return std::ptrdiff_t{cell.row - rect_.top} * width_ + (cell.col - rect_.left);
  }
  Rect rect_;
  std::int32_t width_;
  std::vector<T> values_;
};

/// The cells of one kind in one row: every neighbour lies at the same offset from each of them.
struct Run {
  unsigned kind = 0;
  std::int32_t row = 0;
  std::int32_t first = 0;  // first column
  std::int32_t last = 0;   // one past the last column
  std::int32_t apart = 1;  // 2 where kinds alternate along the row
};

/// Calls f(Run) for all cells of a block, row by row, kind 0 before kind 1.
template <typename F>
void for_each_run(Tiling tiling, Rect rect, F&& f) {
  const bool alternating = tiling.shape() == Shape::hex_flat || tiling.shape() == Shape::triangle;
  for (std::int32_t row = rect.top; row < rect.bottom; ++row) {
    const auto kind = static_cast<unsigned>(tiling.kind({rect.left, row}));
    if (!alternating) {
      f(Run{kind, row, rect.left, rect.right, 1});
      continue;
    }
    f(Run{0, row, rect.left + static_cast<std::int32_t>(kind), rect.right, 2});
    f(Run{1, row, rect.left + 1 - static_cast<std::int32_t>(kind), rect.right, 2});
  }
}

template <typename F>
void for_each_cell(Rect rect, F&& f) {
  for (std::int32_t row = rect.top; row < rect.bottom; ++row) {
    for (std::int32_t col = rect.left; col < rect.right; ++col) f(Cell{col, row});
  }
}

Rect grown_freely(Rect rect, std::int32_t by) {
  return {rect.left - by, rect.top - by, rect.right + by, rect.bottom + by};
}

/// The cells a mover covers, as a sum of straight runs: from the cell at `base_steps` steps in direction
/// `base_direction`, `length` further steps along each axis. Such a body is swept axis by axis, in doubling strides,
/// for all cells at once.
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
    const Direction first = tiling.shape() == Shape::hex_pointy ? 1 : 2;  // east or south-east, then clockwise
    return {.base_direction = (first + 1 + 3) % 6,
            .base_steps = size - 1,
            .axes = {first, first + 1, first + 2},
            .axis_count = 3,
            .length = size - 1};
  }
};

/// The offset of `steps` steps in one direction from a cell of a kind.
Offset leap(Tiling tiling, unsigned kind, Direction direction, std::int32_t steps) {
  if (tiling.shape() == Shape::square) {
    const Offset o = tiling.neighbourhood().offset[0][static_cast<unsigned>(direction)];
    return {o.cols * steps, o.rows * steps};
  }
  Cell from{0, 0};
  if (static_cast<unsigned>(tiling.kind(from)) != kind) {
    from = tiling.shape() == Shape::hex_pointy ? Cell{0, 1} : Cell{1, 0};
  }
  const Axial a = tiling.to_axial(from);
  const Axial b = tiling.to_axial(tiling.neighbour(from, direction));
  return tiling.from_axial({a.q + (b.q - a.q) * steps, a.r + (b.r - a.r) * steps}) - from;
}

/// Replaces each value by op(value, the one `steps` further along an axis); cells beyond the patch count as `outside`.
/// Works in place: an axis leads to later rows, or along the row to cells that are still as they were (see
/// for_each_run's order).
template <typename T, typename Op>
void combine_ahead(Patch<T>& patch, Tiling tiling, Direction axis, std::int32_t steps, T outside, Op op) {
  const std::array<Offset, 2> by = {leap(tiling, 0, axis, steps), leap(tiling, 1, axis, steps)};
  const Rect rect = patch.rect();
  for_each_run(tiling, rect, [&](Run run) {
    const Offset o = by[run.kind];
    T* const here = patch.at({rect.left, run.row});
    const bool row_inside = run.row + o.rows < rect.bottom;
    const T* const ahead = row_inside ? patch.at({rect.left, run.row + o.rows}) + o.cols : nullptr;
    std::int32_t col = run.first - rect.left;
    const std::int32_t end = run.last - rect.left;
    const std::int32_t from = row_inside ? std::max(0, -o.cols) : end;
    const std::int32_t to = row_inside ? std::min(end, end - o.cols) : end;
    for (; col < end && col < from; col += run.apart) here[col] = op(here[col], outside);
    if (run.apart == 1) {
      for (; col < to; ++col) here[col] = op(here[col], ahead[col]);
    } else {
      for (; col < to; col += 2) here[col] = op(here[col], ahead[col]);
    }
    for (; col < end; col += run.apart) here[col] = op(here[col], outside);
  });
}

/// Replaces each value by op over the run of `length` + 1 cells along each axis of the body; the axis `shorter` (if
/// any) is one step shorter. The result for the mover's cell then stands at its base.
template <typename T, typename Op>
void sweep(Patch<T>& patch, Tiling tiling, const Body& body, T outside, Op op, int shorter = -1) {
  for (int axis = 0; axis < body.axis_count; ++axis) {
    const std::int32_t cells = body.length + (axis == shorter ? 0 : 1);
    for (std::int32_t done = 1; done < cells;) {
      const std::int32_t step = std::min(done, cells - done);
      combine_ahead(patch, tiling, body.axes[static_cast<unsigned>(axis)], step, outside, op);
      done += step;
    }
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

  /// @return what it touched
  Rect bake(Rect anchors) {
    set_entries(anchors);
    const bool wants_sides = map_.has_barriers() || limited_;
    if (wants_sides && !costs_.has_sides()) {
      add_sides();
      anchors = Rect::whole(map_.size());  // the first barrier or height: every cell needs its steps written down
    }
    if (!costs_.has_sides()) return anchors;
    anchors = anchors.grown(2, map_.size());
    set_sides(anchors);
    return anchors;
  }

  void finish_all() {
    costs_.find_cheapest();
    ++costs_.revision_;
  }
  /// Takes the costs of a block out of the count of cheapest cells, and puts them in again after it was baked anew.
  void leave_block(Rect anchors) {
    for_each_cell(anchors, [&](Cell cell) { costs_.drop_cheapest(costs_.entry(cell)); });
  }
  void finish_block(Rect anchors) {
    for_each_cell(anchors, [&](Cell cell) { costs_.take_cheapest(costs_.entry(cell)); });
    if (costs_.cheapest_cells_ == 0) costs_.find_cheapest();
    ++costs_.revision_;
  }

  /// How far a change can reach through the mover's body.
  [[nodiscard]] std::int32_t reach() const { return mover_.size == 1 ? 0 : mover_.size; }

 private:
  void set_entries(Rect anchors) {
    if (mover_.size == 1) {
      for (std::int32_t row = anchors.top; row < anchors.bottom; ++row) {
        const TerrainId* const kinds = map_.terrain().row(row).data();
        EntryCost* const entries = costs_.entry_.row(row).data();
        for (std::int32_t col = anchors.left; col < anchors.right; ++col) entries[col] = cost_by_kind_[kinds[col]];
        if (occupied_ != nullptr) shut_occupied(entries, anchors, row);
        set_open_bits(entries, anchors, row);
      }
      costs_.take_open_bits(anchors);
      return;
    }
    // Cost - 1 wraps "blocked" to the largest number, so that one maximum answers both what it costs and whether.
    const Body body = Body::of(tiling_, mover_.size);
    Patch<std::uint16_t> worst(grown_freely(anchors, mover_.size), shut);
    const Rect inside = worst.rect().grown(0, map_.size());
    for (std::int32_t row = inside.top; row < inside.bottom; ++row) {
      const TerrainId* const kinds = map_.terrain().row(row).data();
      std::uint16_t* const to = worst.at({0, row});
      for (std::int32_t col = inside.left; col < inside.right; ++col) {
        to[col] = static_cast<std::uint16_t>(cost_by_kind_[kinds[col]] - 1U);
      }
      for (std::int32_t col = inside.left; occupied_ != nullptr && col < inside.right; ++col) {
        if (occupied_->test({col, row})) to[col] = shut;
      }
    }
    sweep(worst, tiling_, body, shut, [](std::uint16_t a, std::uint16_t b) { return std::max(a, b); });
    if (map_.has_barriers()) shut_split_places(worst, body);
    for_each_run(tiling_, anchors, [&](Run run) {
      const Offset to_base = leap(tiling_, run.kind, body.base_direction, body.base_steps);
      const std::uint16_t* const from = worst.at({to_base.cols, run.row + to_base.rows});
      EntryCost* const entries = costs_.entry_.row(run.row).data();
      for (std::int32_t col = run.first; col < run.last; col += run.apart) {
        entries[col] = static_cast<EntryCost>(from[col] + 1U);
      }
    });
    for (std::int32_t row = anchors.top; row < anchors.bottom; ++row) {
      set_open_bits(costs_.entry_.row(row).data(), anchors, row);
    }
    costs_.take_open_bits(anchors);
  }

  void shut_occupied(EntryCost* entries, Rect anchors, std::int32_t row) const {
    for (std::int32_t col = anchors.left; col < anchors.right; ++col) {
      if (occupied_->test({col, row})) entries[col] = blocked;
    }
  }

  /// Writes the open cells of a row a word of bits at a time.
  void set_open_bits(const EntryCost* entries, Rect anchors, std::int32_t row) {
    const std::span<std::uint64_t> words = costs_.open_.row_words(row);
    const auto first_bit = static_cast<std::size_t>(anchors.left) + BitGrid::margin;
    const auto end_bit = static_cast<std::size_t>(anchors.right) + BitGrid::margin;
    for (std::size_t bit = first_bit; bit < end_bit;) {
      const std::size_t word = bit / 64;
      const std::size_t word_end = std::min(end_bit, (word + 1) * 64);
      const std::size_t count = word_end - bit;
      const EntryCost* const from = entries + (bit - BitGrid::margin);
      std::uint64_t open = 0;
      for (std::size_t i = 0; i < count; ++i) open |= std::uint64_t{from[i] != blocked ? 1U : 0U} << i;
      const std::uint64_t changed = (count == 64 ? ~std::uint64_t{0} : (std::uint64_t{1} << count) - 1) << (bit % 64);
      open <<= bit % 64;
      bit = word_end;
      words[word] = (words[word] & ~changed) | open;
    }
  }

  /// Shuts the places where a barrier closed both ways would run through the mover.
  void shut_split_places(Patch<std::uint16_t>& worst, const Body& body) const {
    for (int axis = 0; axis < body.axis_count; ++axis) {
      const Direction d = body.axes[static_cast<unsigned>(axis)];
      Patch<std::uint16_t> walls(worst.rect(), 0);
      for_each_cell(walls.rect().grown(0, map_.size()), [&](Cell cell) {
        if (!map_.closed(cell, d)) return;  // never set on the map's rim
        const Cell next = tiling_.neighbour(cell, d);
        if (map_.closed(next, tiling_.direction(next, cell))) *walls.at(cell) = shut;
      });
      const auto either = [](std::uint16_t a, std::uint16_t b) { return static_cast<std::uint16_t>(a | b); };
      sweep(walls, tiling_, body, std::uint16_t{0}, either, axis);
      const std::size_t count =
          static_cast<std::size_t>(walls.stride()) * static_cast<std::size_t>(walls.rect().bottom - walls.rect().top);
      std::uint16_t* const to = worst.at({walls.rect().left, walls.rect().top});
      const std::uint16_t* const from = walls.at({walls.rect().left, walls.rect().top});
      for (std::size_t i = 0; i < count; ++i) to[i] |= from[i];
    }
  }

  void add_sides() {
    if (tiling_.shape() == Shape::triangle) {
      costs_.wide_sides_ = Grid<std::uint16_t>(map_.size());
    } else {
      costs_.narrow_sides_ = Grid<std::uint8_t>(map_.size());
    }
  }

  /// Writes the legal steps of a block, in bands of rows so that what is worked on stays in the cache.
  void set_sides(Rect anchors) {
    constexpr std::int32_t band = 32;
    for (std::int32_t top = anchors.top; top < anchors.bottom; top += band) {
      set_sides_of_band({anchors.left, top, anchors.right, std::min(top + band, anchors.bottom)});
    }
  }

  void set_sides_of_band(Rect anchors) {
    // Ways round a corner start up to two cells from where they end, and each place covers the mover's body.
    const Rect rect = grown_freely(anchors, reach() + 4);
    Patch<DirectionSet> unbarred(rect, 0);
    Patch<DirectionSet> level(rect, 0);
    for_each_cell(rect.grown(0, map_.size()), [&](Cell cell) {
      *unbarred.at(cell) = static_cast<DirectionSet>(~unsigned{map_.closed_sides(cell)});
    });
    set_level(level);
    if (mover_.size > 1) {
      const Body body = Body::of(tiling_, mover_.size);
      const auto both = [](DirectionSet a, DirectionSet b) { return static_cast<DirectionSet>(a & b); };
      sweep(unbarred, tiling_, body, DirectionSet{0}, both);
      sweep(level, tiling_, body, DirectionSet{0}, both);
      move_to_anchors(unbarred, body);
      move_to_anchors(level, body);
    }
    const Patch<DirectionSet> open = open_neighbours(rect);
    combine_steps(anchors, unbarred, level, open);
  }

  /// For each cell the directions in which the height difference is within the mover's limits.
  void set_level(Patch<DirectionSet>& level) const {
    const Rect inside = level.rect().grown(0, map_.size());
    const std::int32_t climb = mover_.climb.value_or(no_limit);
    const std::int32_t drop = mover_.drop.value_or(no_limit);
    for_each_run(tiling_, inside, [&](Run run) {
      DirectionSet* const to = level.at({0, run.row});
      if (!limited_) {
        for (std::int32_t col = run.first; col < run.last; col += run.apart) to[col] = static_cast<DirectionSet>(~0U);
        return;
      }
      const std::int16_t* const here = map_.heights().row(run.row).data();
      for (unsigned d = 0; d < static_cast<unsigned>(tiling_.direction_count()); ++d) {
        const Offset o = tiling_.neighbourhood().offset[run.kind][d];
        if (run.row + o.rows < 0 || run.row + o.rows >= map_.size().rows) continue;
        const std::int16_t* const there = map_.heights().row(run.row + o.rows).data() + o.cols;
        const std::int32_t end = std::min(run.last, map_.size().cols - o.cols);
        std::int32_t col = run.first;
        while (col + o.cols < 0) col += run.apart;
        for (; col < end; col += run.apart) {
          const std::int32_t rise = std::int32_t{there[col]} - here[col];
          const unsigned passes = static_cast<unsigned>(rise <= climb) & static_cast<unsigned>(-rise <= drop);
          to[col] = static_cast<DirectionSet>(to[col] | (passes << d));
        }
      }
    });
  }

  /// A swept result stands at the body's base; this brings it to the mover's cell.
  void move_to_anchors(Patch<DirectionSet>& patch, const Body& body) const {
    if (body.base_steps == 0) return;
    const Patch<DirectionSet> at_base = patch;
    const Rect rect = patch.rect();
    for_each_run(tiling_, rect, [&](Run run) {
      const Offset to_base = leap(tiling_, run.kind, body.base_direction, body.base_steps);
      for (std::int32_t col = run.first; col < run.last; col += run.apart) {
        const Cell base = Cell{col, run.row} + to_base;
        *patch.at({col, run.row}) = rect.contains(base) ? *at_base.at(base) : DirectionSet{0};
      }
    });
  }

  /// For each cell of a block bit 0: the mover can stand there; bit 1: it is on the map.
  [[nodiscard]] Patch<DirectionSet> open_neighbours(Rect rect) const {
    Patch<DirectionSet> open(rect, 0);
    const Rect inside = rect.grown(0, map_.size());
    for (std::int32_t row = inside.top; row < inside.bottom; ++row) {
      const EntryCost* const entries = costs_.entry_.row(row).data();
      DirectionSet* const to = open.at({0, row});
      for (std::int32_t col = inside.left; col < inside.right; ++col) {
        to[col] = static_cast<DirectionSet>(entries[col] != blocked ? 3U : 2U);
      }
    }
    return open;
  }

  /// Puts together what single cells know: a step is legal when its own bits are set, and round a corner when all bits
  /// along one or both ways are.
  void combine_steps(Rect anchors, const Patch<DirectionSet>& unbarred, const Patch<DirectionSet>& level,
                     const Patch<DirectionSet>& open) {
    const Neighbourhood& hood = tiling_.neighbourhood();
    const bool strict = mover_.rules.corners == Corners::strict;
    const std::ptrdiff_t stride = open.stride();
    const auto jump = [&](Offset o) { return std::ptrdiff_t{o.rows} * stride + o.cols; };
    const auto width = static_cast<std::size_t>(anchors.right - anchors.left);
    std::array<std::vector<DirectionSet>, 3> rows;  // legal steps; whether either way round a corner passes
    for (auto& row : rows) row.resize(width);
    DirectionSet* const legal = rows[0].data() - anchors.left;
    for_each_run(tiling_, anchors, [&](Run run) {
      const DirectionSet* const bars = unbarred.at({0, run.row});
      const DirectionSet* const levels = level.at({0, run.row});
      const DirectionSet* const stands = open.at({0, run.row});
      for (std::int32_t col = run.first; col < run.last; col += run.apart) legal[col] = 0;
      for (unsigned d = 0; d < static_cast<unsigned>(costs_.rules().steps); ++d) {
        const DirectionSet* const target = stands + jump(hood.offset[run.kind][d]);
        if (d < static_cast<unsigned>(hood.edges)) {
          along(run, [=](std::int32_t col) {
            const unsigned step = static_cast<unsigned>(bars[col] & levels[col] & (target[col] << d)) >> d & 1U;
            legal[col] = static_cast<DirectionSet>(legal[col] | (step << d));
          });
          continue;
        }
        for (unsigned side = 0; side < 2; ++side) {
          DirectionSet* const passes = rows[1 + side].data() - anchors.left;
          along(run, [=](std::int32_t col) { passes[col] = 1; });
          pass_way(run, way_of(run.kind, hood.ways[run.kind][d][side], jump), bars, levels, stands, passes);
        }
        const DirectionSet* const first = rows[1].data() - anchors.left;
        const DirectionSet* const second = rows[2].data() - anchors.left;
        along(run, [=](std::int32_t col) {
          const unsigned round = strict ? first[col] & second[col] : first[col] | second[col];
          const unsigned step = (unsigned{levels[col]} >> d) & target[col] & round & 1U;
          legal[col] = static_cast<DirectionSet>(legal[col] | (step << d));
        });
      }
      along(run, [=](std::int32_t col) {
        legal[col] = static_cast<DirectionSet>(legal[col] & (0U - (stands[col] & 1U)));  // none from a blocked place
      });
      if (costs_.narrow_sides_.empty()) {
        std::uint16_t* const out = costs_.wide_sides_.row(run.row).data();
        along(run, [=](std::int32_t col) { out[col] = legal[col]; });
      } else {
        std::uint8_t* const out = costs_.narrow_sides_.row(run.row).data();
        along(run, [=](std::int32_t col) { out[col] = static_cast<std::uint8_t>(legal[col]); });
      }
    });
  }

  /// Calls f(column) for the cells of a run, in a form the compiler can do several at a time.
  template <typename F>
  static void along(Run run, F&& f) {
    if (run.apart == 1) {
      for (std::int32_t col = run.first; col < run.last; ++col) f(col);
    } else {
      for (std::int32_t col = run.first; col < run.last; col += 2) f(col);
    }
  }

  struct Way;
  /// Clears `passes` where a way round a corner is not open (with free corners: has a barrier or leaves the map).
  void pass_way(Run run, const Way& way, const DirectionSet* bars, const DirectionSet* levels,
                const DirectionSet* stands, DirectionSet* passes) const {
    const bool free = mover_.rules.corners == Corners::free;
    for (unsigned i = 0; i < way.count; ++i) {
      const DirectionSet* const bars_there = bars + way.at[i];
      const DirectionSet* const levels_there = levels + way.at[i];
      const DirectionSet* const next = stands + way.at[i + 1];
      const unsigned step = way.step[i];
      if (free) {
        along(run, [=](std::int32_t col) {
          passes[col] = static_cast<DirectionSet>(passes[col] & (bars_there[col] >> step) & (next[col] >> 1U));
        });
      } else {
        along(run, [=](std::int32_t col) {
          const unsigned edge = static_cast<unsigned>(bars_there[col] & levels_there[col]) >> step;
          passes[col] = static_cast<DirectionSet>(passes[col] & edge & next[col]);
        });
      }
    }
  }

  /// A way round a corner as jumps within a patch.
  struct Way {
    unsigned count = 0;
    std::array<std::ptrdiff_t, 5> at = {};  // from the mover's cell to each place of the way, the last one included
    std::array<unsigned, 4> step = {};      // the edge direction taken there
  };
  template <typename Jump>
  [[nodiscard]] Way way_of(unsigned kind, const CornerWay& corner, Jump&& jump) const {
    const Neighbourhood& hood = tiling_.neighbourhood();
    Way way;
    way.count = corner.count;
    Offset offset;
    for (unsigned i = 0; i < corner.count; ++i) {
      way.step[i] = corner.steps[i];
      offset = offset + hood.offset[kind][corner.steps[i]];
      kind = hood.kind_after[kind][corner.steps[i]];
      way.at[i + 1] = jump(offset);
    }
    return way;
  }

  static constexpr std::uint16_t shut = 65'535;
  static constexpr std::int32_t no_limit = 1 << 20;

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

Rect rebake(CostGrid& costs, const Map& map, const Mover& mover, Rect changed, const BitGrid* occupied) {
  SAUNTER_EXPECT(costs.board() == map.board());
  Baker baker(costs, map, mover, occupied);
  changed = changed.grown(0, map.size());
  if (changed.empty()) return {};
  const Rect anchors = changed.grown(baker.reach(), map.size());
  baker.leave_block(anchors);
  const Rect touched = baker.bake(anchors);
  baker.finish_block(anchors);
  return touched;
}

}  // namespace saunter
