/// @file
/// Danger as a number for each cell.
///
/// Units: levels 0 to 65,535.
/// Errors: sizes of movers that do not suit the tiling: see docs/misuse.md.
/// Cost: O(cells x log size), a copy of the grid.
/// Threads: any number, nothing is shared.
#pragma once

#include "saunter/grid/grid.hpp"
#include "saunter/grid/tiling.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Levels of danger, one for each cell: `ThreatField::levels()`, or a game's own.
using Levels = Grid<std::uint16_t>;

/// For a large mover the level of a place is the largest of the cells it covers. Off the map counts as 0.
/// O(cells x log size), and up to 9 x the cells of scratch memory for movers as large as the map. @pre size >= 1, 1 on
/// triangles; else the levels as they are
[[nodiscard]] Levels levels_for_size(Tiling tiling, const Levels& levels, int size);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
