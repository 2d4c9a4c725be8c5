/// @file
/// Random changes to a map in play.
#pragma once

#include "random_maps.hpp"

namespace saunter::test {

/// Changes terrain, heights, thin walls or occupied cells of one cell or a block of them, and brings the grid up to
/// date.
inline void random_change(Random& random, Map& map, BitGrid& occupied, const Mover& mover, CostGrid& costs) {
  const Cell middle = random.cell(map.size());
  const int spread = random.chance(70) ? 0 : random.whole(1, 3);
  const Rect block = Rect::of(middle).grown(spread, map.size());
  const int what = random.whole(0, map.has_barriers() ? 3 : 1);
  for (std::int32_t row = block.top; row < block.bottom; ++row) {
    for (std::int32_t col = block.left; col < block.right; ++col) {
      const Cell cell{col, row};
      if (what == 0) {
        map.set_terrain(cell, static_cast<TerrainId>(random.whole(0, static_cast<int>(map.kinds().size()) - 1)));
      } else if (what == 1) {
        occupied.set(cell, random.chance(40));
      } else if (what == 2) {
        map.set_closed(cell, Direction(random.whole(0, map.tiling().edge_count() - 1)), random.chance(50));
      } else {
        map.set_height(cell, static_cast<std::int16_t>(random.whole(-4, 4)));
      }
    }
  }
  rebake(costs, map, mover, block.grown(1, map.size()), &occupied);
}

}  // namespace saunter::test
