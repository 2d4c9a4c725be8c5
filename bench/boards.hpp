/// @file
/// The boards that searches are measured on.
#pragma once

#include <algorithm>

#include "saunter/ground/cost_grid.hpp"
#include "support/random_maps.hpp"

namespace saunter::bench {

/// Cells blocked by chance; weighted: 1.00 to 4.00.
inline CostGrid noise(Tiling tiling, int side, int blocked_percent, bool weighted) {
  test::Random random(11);
  const Board board{tiling, {side, side}};
  return CostGrid(board, {}, [&](Cell) -> EntryCost {
    if (random.chance(blocked_percent)) return 0;
    return weighted ? 100 + 50 * random.whole(0, 6) : 100;
  });
}

/// Rooms of 32 cells with a door of one cell in each wall.
inline CostGrid rooms(int side) {
  test::Random random(23);
  Grid<std::uint8_t> wall({side, side}, 0);
  constexpr int room = 33;
  for (int row = 0; row < side; ++row) {
    for (int col = 0; col < side; ++col) wall[Cell{col, row}] = col % room == room - 1 || row % room == room - 1;
  }
  for (int top = 0; top < side; top += room) {
    for (int left = 0; left < side; left += room) {
      const Cell east{left + room - 1, std::min(side - 1, top + random.whole(0, room - 2))};
      const Cell south{std::min(side - 1, left + random.whole(0, room - 2)), top + room - 1};
      if (east.col < side) wall[east] = 0;
      if (south.row < side) wall[south] = 0;
    }
  }
  return CostGrid({Tiling::square(), {side, side}}, {},
                  [&](Cell cell) -> EntryCost { return wall[cell] != 0 ? 0 : 100; });
}

}  // namespace saunter::bench
