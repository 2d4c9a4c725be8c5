/// @file
/// Straight distances between cells, in whole numbers.
#pragma once

#include "saunter/grid/tiling.hpp"

namespace saunter {

/// The square of the straight distance of two centres in edge steps: a whole number in every tiling (squares
/// c^2 + r^2, hexes q^2 + q r + r^2, triangles by their lanes). O(1). The cells may lie off the map.
[[nodiscard]] std::int64_t distance_squared(Tiling tiling, Cell a, Cell b);

/// The largest `distance_squared` within a part of a range: both in hundredths, of a step and of the range.
/// Range 0 is the own cell. @pre part <= 100
[[nodiscard]] std::int64_t farthest_squared(Length range, Length part = 100);

}  // namespace saunter
