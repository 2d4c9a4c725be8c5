/// @file
/// Straight distances between cells, in whole numbers.
///
/// Units: squared edge steps, whole numbers.
/// Errors: distances that do not fit are the largest number.
/// Cost: O(1), no allocation.
/// Threads: any number, nothing is shared.
#pragma once

#include "saunter/grid/tiling.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/ground/hundredths.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// The square of the straight distance of two centres in edge steps: a whole number in every tiling (squares
/// c^2 + r^2, hexes q^2 + q r + r^2, triangles by their strips). O(1). The cells may lie off the map; what does not
/// fit 63 bits is cut to the largest number that does.
[[nodiscard]] std::int64_t distance_squared(Tiling tiling, Cell a, Cell b);

/// The largest `distance_squared` within a part of a range: both in hundredths, of a step and of the range.
/// Range 0 is the own cell. @pre part <= 1.00, else the whole range is taken
[[nodiscard]] std::int64_t farthest_squared(Hundredths range, Hundredths part = 1_steps);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
