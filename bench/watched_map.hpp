/// @file
/// The map on which sight and threat are measured.
#pragma once

#include "saunter/sight/sight.hpp"
#include "support/random_maps.hpp"

namespace saunter::test {

inline constexpr Size size{512, 512};
inline constexpr Length range = 3000;
inline constexpr int watchers = 100;

/// About 30 % opaque, in round clumps.
inline BitGrid clumps() {
  Random random(7);
  BitGrid opaque(size);
  const double wanted = 0.3 * static_cast<double>(size.cell_count());
  while (static_cast<double>(opaque.count()) < wanted) {
    const Cell middle = random.cell(size);
    const int radius = random.whole(1, 5);
    for (std::int32_t row = middle.row - radius; row <= middle.row + radius; ++row) {
      for (std::int32_t col = middle.col - radius; col <= middle.col + radius; ++col) {
        const Cell cell{col, row};
        if (size.contains(cell) && distance_squared(Tiling::square(), middle, cell) <= radius * radius)
          opaque.set(cell);
      }
    }
  }
  return opaque;
}

/// Where watchers stand: cells that are not opaque.
inline std::vector<Cell> stands(const SightGrid& grid) {
  Random random(8);
  std::vector<Cell> cells;
  while (cells.size() < watchers) {
    const Cell cell = random.cell(size);
    if (!grid.opaque(cell)) cells.push_back(cell);
  }
  return cells;
}

}  // namespace saunter::test
