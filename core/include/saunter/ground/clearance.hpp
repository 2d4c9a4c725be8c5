/// @file
/// How large a mover fits where.
#pragma once

#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost_grid.hpp"

namespace saunter SAUNTER_VISIBLE {

/// For each cell the largest size of mover that can stand with its cell there, 0 where not even one cell is open, at
/// most `max_mover_size`. Squares: the largest open square with its top left there; hexes: the largest open disk about
/// it; triangles: 1 or 0. Barriers are not looked at (a bake for the size itself does that).
/// @param one_cell  cost grid of a mover of size 1
/// @cost O(cells), one pass on squares, one breadth-first sweep on hexes
[[nodiscard]] Grid<std::uint8_t> clearance(const CostGrid& one_cell);

}  // namespace saunter SAUNTER_VISIBLE
