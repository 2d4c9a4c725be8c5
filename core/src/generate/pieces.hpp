/// @file
/// Open cells as regions of edge steps, and as one.
#pragma once

#include "saunter/grid/bit_grid.hpp"
#include "saunter/ground/cost_grid.hpp"
#include "saunter/region/regions.hpp"

namespace saunter::inline v0_2::detail {

/// The open cells as ground of one cost, for steps across edges.
[[nodiscard]] CostGrid ground_of(Tiling tiling, const BitGrid& open);
/// Leaves the largest region, the first among equals.
void keep_largest(Tiling tiling, BitGrid& open);
/// Fills regions of fewer cells, and digs the cheapest passages between the others, not through the rim. @return the
/// cells dug
std::vector<Cell> join_all(Tiling tiling, BitGrid& open, std::uint32_t least_cells);

}  // namespace saunter::inline v0_2::detail
