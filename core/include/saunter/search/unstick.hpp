/// @file
/// Where a unit goes that stands where it may not: a wall has landed on it, a door has closed, a bridge is gone.
///
/// Units: costs in hundredths.
/// Errors: nothing where there is no place to stand, or off the map.
/// Cost: O(blocked cells about it x log), a bit a cell of the map; allocates.
/// Threads: any number, nothing is shared.
#pragma once

#include <optional>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost_grid.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// The way out.
struct WayOut {
  std::vector<Cell> cells;  ///< from where the unit is to where it may stand; one cell when it may stand there already
  std::size_t blocked = 0;  ///< how many cells on the way, the first included, it may not stand on
  std::uint64_t cost = 0;   ///< steps into blocked cells count their length alone, the last one what it costs to enter
  [[nodiscard]] Cell end() const { return cells.back(); }
};

/// The nearest place to stand, as a person would look for it: through the fewest blocked cells, then for the least cost
/// (then first in reading order). Steps go in all directions of the mover, past corners and barriers: who is stuck in a
/// wall can't mind them. For a large mover cells are its places. Breadth first from the cell, a level of blocked cells
/// at a time (Moore 1959).
[[nodiscard]] std::optional<WayOut> unstick(const CostGrid& costs, Cell from);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
