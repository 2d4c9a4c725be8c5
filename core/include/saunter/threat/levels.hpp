/// @file
/// Danger as a number for each cell.
#pragma once

#include "saunter/grid/grid.hpp"
#include "saunter/grid/tiling.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter SAUNTER_VISIBLE {

/// Levels of danger, one for each cell: `ThreatField::levels()`, or a game's own.
using Levels = Grid<std::uint16_t>;

/// For a large mover the level of a place is the largest of the cells it covers. Off the map counts as 0.
/// O(cells x log size), and up to 9 x the cells of scratch memory for movers as large as the map. @pre size >= 1, 1 on
/// triangles; else the levels as they are
[[nodiscard]] Levels levels_for_size(Tiling tiling, const Levels& levels, int size);

}  // namespace saunter SAUNTER_VISIBLE
