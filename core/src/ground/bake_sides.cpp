#include <algorithm>
#include <array>
#include <cstddef>

#include "baker.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

constexpr std::int32_t no_limit = 1 << 20;

/// Calls f(column) for the cells of a run, in a form the compiler can do several at a time.
template <typename F>
void along(Run run, F&& f) {
  if (run.apart == 1) {
    for (std::int32_t col = run.first; col < run.last; ++col) f(col);
  } else {
    for (std::int32_t col = run.first; col < run.last; col += 2) f(col);
  }
}

/// A way round a corner as jumps within a patch.
struct Way {
  unsigned count = 0;
  std::array<std::ptrdiff_t, 5> at = {};  // from the mover's cell to each place of the way, the last one included
  std::array<unsigned, 4> step = {};      // the edge direction taken there
};
template <typename Jump>
Way way_of(const Neighbourhood& hood, unsigned kind, const CornerWay& corner, Jump&& jump) {
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

/// Clears `passes` where a way round a corner is not open (with free corners: has a barrier or leaves the map).
void pass_way(bool free, Run run, const Way& way, const DirectionSet* bars, const DirectionSet* levels,
              const DirectionSet* stands, DirectionSet* passes) {
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

}  // namespace

void CostGrid::Baker::add_sides() {
  const Board board = map_.board();
  Sides sides = Sides::of(board, 0);
  costs_.unbarred_ = Sides::of(board, 0);
  costs_.sides_ = std::move(sides);
}

/// Edges with a barrier, of single cells.
void CostGrid::Baker::set_walls(Rect block) {
  const unsigned edges = (1U << static_cast<unsigned>(tiling_.edge_count())) - 1;
  for_each_cell(block, [&](Cell cell) {
    costs_.walls_[cell] = static_cast<std::uint8_t>(unsigned{map_.closed_sides(cell)} & edges);
  });
}

/// Writes the legal steps of a block, in bands of rows so that what is worked on stays in the cache.
void CostGrid::Baker::set_sides(Rect anchors) {
  constexpr std::int32_t band = 32;
  for (std::int32_t top = anchors.top; top < anchors.bottom; top += band) {
    set_sides_of_band({anchors.left, top, anchors.right, std::min(top + band, anchors.bottom)});
  }
}

void CostGrid::Baker::set_sides_of_band(Rect anchors) {
  // Ways round a corner start up to two cells from where they end, and each place covers the mover's body.
  const Rect rect = grown_freely(anchors, reach() + 4);
  Patch<DirectionSet> unbarred(rect, 0);
  Patch<DirectionSet> level(rect, 0);
  for_each_cell(rect.grown(0, map_.size()),
                [&](Cell cell) { *unbarred.at(cell) = static_cast<DirectionSet>(~unsigned{map_.closed_sides(cell)}); });
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
void CostGrid::Baker::set_level(Patch<DirectionSet>& level) const {
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
void CostGrid::Baker::move_to_anchors(Patch<DirectionSet>& patch, const Body& body) const {
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
Patch<DirectionSet> CostGrid::Baker::open_neighbours(Rect rect) const {
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

void CostGrid::Baker::write_row(Sides& sides, Run run, const DirectionSet* sets) {
  if (sides.narrow.empty()) {
    std::uint16_t* const out = sides.wide.row(run.row).data();
    along(run, [=](std::int32_t col) { out[col] = sets[col]; });
  } else {
    std::uint8_t* const out = sides.narrow.row(run.row).data();
    along(run, [=](std::int32_t col) { out[col] = static_cast<std::uint8_t>(sets[col]); });
  }
}

/// Puts together what single cells know: a step is legal when its own bits are set, and round a corner when all bits
/// along one or both ways are.
void CostGrid::Baker::combine_steps(Rect anchors, const Patch<DirectionSet>& unbarred, const Patch<DirectionSet>& level,
                                    const Patch<DirectionSet>& open) {
  const Neighbourhood& hood = tiling_.neighbourhood();
  const bool strict = mover_.rules.corners == Corners::strict;
  const bool free = mover_.rules.corners == Corners::free;
  const std::ptrdiff_t stride = open.stride();
  const auto jump = [&](Offset o) { return std::ptrdiff_t{o.rows} * stride + o.cols; };
  const auto width = static_cast<std::size_t>(anchors.right - anchors.left);
  std::array<std::vector<DirectionSet>, 4> rows;  // legal steps; either way round a corner; steps whatever is open
  for (auto& row : rows) row.resize(width);
  DirectionSet* const legal = rows[0].data() - anchors.left;
  DirectionSet* const left = rows[3].data() - anchors.left;
  for_each_run(tiling_, anchors, [&](Run run) {
    const DirectionSet* const bars = unbarred.at({0, run.row});
    const DirectionSet* const levels = level.at({0, run.row});
    const DirectionSet* const stands = open.at({0, run.row});
    for (std::int32_t col = run.first; col < run.last; col += run.apart) legal[col] = left[col] = 0;
    for (unsigned d = 0; d < static_cast<unsigned>(costs_.rules().steps); ++d) {
      const DirectionSet* const target = stands + jump(hood.offset[run.kind][d]);
      if (d < static_cast<unsigned>(hood.edges)) {
        along(run, [=](std::int32_t col) {
          const unsigned passes = static_cast<unsigned>(bars[col] & levels[col]) >> d & 1U;
          left[col] = static_cast<DirectionSet>(left[col] | (passes << d));
          legal[col] = static_cast<DirectionSet>(legal[col] | ((passes & target[col]) << d));
        });
        continue;
      }
      for (unsigned side = 0; side < 2; ++side) {
        DirectionSet* const passes = rows[1 + side].data() - anchors.left;
        along(run, [=](std::int32_t col) { passes[col] = 1; });
        pass_way(free, run, way_of(hood, run.kind, hood.ways[run.kind][d][side], jump), bars, levels, stands, passes);
      }
      const DirectionSet* const first = rows[1].data() - anchors.left;
      const DirectionSet* const second = rows[2].data() - anchors.left;
      along(run, [=](std::int32_t col) {
        const unsigned round = strict ? first[col] & second[col] : first[col] | second[col];
        const unsigned passes = (unsigned{levels[col]} >> d) & (free ? round : 1U) & 1U;
        left[col] = static_cast<DirectionSet>(left[col] | (passes << d));
        legal[col] = static_cast<DirectionSet>(legal[col] | ((passes & target[col] & round) << d));
      });
    }
    along(run, [=](std::int32_t col) {
      legal[col] = static_cast<DirectionSet>(legal[col] & (0U - (stands[col] & 1U)));  // none from a blocked place
    });
    write_row(costs_.sides_, run, legal);
    write_row(costs_.unbarred_, run, left);
  });
}

}  // namespace saunter::inline v0_2
