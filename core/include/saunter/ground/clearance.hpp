/// @file
/// How large a mover fits where, and which places cover which cells.
///
/// Units: sizes of movers in cells across.
/// Errors: where nothing can stand it is 0; triangles have 0 and 1.
/// Cost: O(cells), a byte a cell.
/// Threads: any number, nothing is shared.
#pragma once

#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost_grid.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// For each cell the largest size of mover that can stand with its cell there, 0 where not even one cell is open, at
/// most `max_mover_size`. Squares: the largest open square with its top left there; hexes: the largest open disk about
/// it; triangles: 1 or 0. Barriers are not looked at (a bake for the size itself does that).
/// @param one_cell  cost grid of a mover of size 1
/// @cost O(cells), one pass on squares, one breadth-first sweep on hexes
[[nodiscard]] Grid<std::uint8_t> clearance(const CostGrid& one_cell);

/// The places of a mover of a size that cover at least one of some cells: with its cell there, its body lies on one.
/// O(cells x log size), and up to 9 x the cells of scratch memory for movers as large as the map; a copy for size 1.
/// @pre size >= 1, 1 on triangles; else the cells as they are
[[nodiscard]] BitGrid places_over(Tiling tiling, const BitGrid& cells, int size);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
