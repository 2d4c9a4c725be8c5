#include "saunter/ground/bake.hpp"

#include <algorithm>
#include <array>
#include <cstddef>

#include "sweep.hpp"

namespace saunter {

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

  void finish_all() { costs_.count_entries(); }

  /// Bakes a block again. When it throws, nothing has changed.
  Rect rebake(Rect anchors) {
    const bool first_sides = (map_.has_barriers() || limited_) && !costs_.has_sides();
    const Rect sides = first_sides ? Rect::whole(map_.size()) : anchors.grown(2, map_.size());
    for (std::size_t id = 0; id < map_.kinds().size(); ++id) costs_.counts_.make_room(cost_by_kind_[id]);
    Undo undo(*this, anchors, sides);
    const Rect touched = bake(anchors);
    undo.keep();
    for_each_cell(anchors, [&](Cell cell) { costs_.counts_.add(costs_.entry_[cell]); });  // there is room for all kinds
    costs_.note_change(touched);
    return touched;
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

  /// A block as it was, put back unless what came instead is kept.
  class Undo {
   public:
    Undo(Baker& baker, Rect anchors, Rect sides) : baker_(baker), anchors_(anchors), sides_(sides) {
      CostGrid& costs = baker.costs_;
      had_sides_ = costs.has_sides();
      for_each_cell(anchors, [&](Cell cell) { entries_.push_back(costs.entry_[cell]); });
      if (had_sides_) for_each_cell(sides, [&](Cell cell) { moves_.push_back(costs.moves_on_map(cell)); });
      for (const EntryCost cost : entries_) costs.counts_.remove(cost);
    }
    ~Undo() {
      if (kept_) return;
      CostGrid& costs = baker_.costs_;
      std::size_t i = 0;
      for_each_cell(anchors_, [&](Cell cell) {
        costs.counts_.add(entries_[i]);  // its page is there already
        costs.entry_[cell] = entries_[i++];
      });
      for (std::int32_t row = anchors_.top; row < anchors_.bottom; ++row) {
        baker_.set_open_bits(costs.entry_.row(row).data(), anchors_, row);
      }
      costs.take_open_bits(anchors_);
      if (!had_sides_) {
        costs.narrow_sides_ = {};
        costs.wide_sides_ = {};
        return;
      }
      i = 0;
      for_each_cell(sides_, [&](Cell cell) {
        if (costs.narrow_sides_.empty()) {
          costs.wide_sides_[cell] = moves_[i++];
        } else {
          costs.narrow_sides_[cell] = static_cast<std::uint8_t>(moves_[i++]);
        }
      });
    }
    Undo(const Undo&) = delete;
    Undo& operator=(const Undo&) = delete;
    void keep() { kept_ = true; }

   private:
    Baker& baker_;
    Rect anchors_;
    Rect sides_;
    bool had_sides_ = false;
    bool kept_ = false;
    std::vector<EntryCost> entries_;
    std::vector<DirectionSet> moves_;
  };

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
  SAUNTER_EXPECT(occupied == nullptr || occupied->size() == map.size());
  if (mover_problem(map.tiling(), mover) || map.kinds().empty()) return {};
  CostGrid costs = Baker::empty_grid(map, mover);
  Baker baker(costs, map, mover, occupied);
  baker.bake(Rect::whole(map.size()));
  baker.finish_all();
  return costs;
}

Rect rebake(CostGrid& costs, const Map& map, const Mover& mover, Rect changed, const BitGrid* occupied) {
  SAUNTER_EXPECT(costs.board() == map.board());
  SAUNTER_EXPECT(occupied == nullptr || occupied->size() == map.size());
  if (costs.board() != map.board()) {
    costs = bake(map, mover, occupied);
    return Rect::whole(costs.size());
  }
  Baker baker(costs, map, mover, occupied);
  changed = changed.grown(0, map.size());
  if (changed.empty()) return {};
  return baker.rebake(changed.grown(baker.reach(), map.size()));
}

}  // namespace saunter
