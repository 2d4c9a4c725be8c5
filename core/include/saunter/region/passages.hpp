/// @file
/// For which sizes of a mover a map falls apart: where larger ones have more regions, passages are too narrow for them.
///
/// Units: sizes of movers in cells across, cells counted.
/// Errors: none: where nobody can stand the list ends.
/// Cost: a bake and the regions of each size.
/// Threads: any number, nothing is shared.
#pragma once

#include <vector>

#include "saunter/grid/bit_grid.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/ground/map.hpp"
#include "saunter/ground/mover.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// What a mover of some size can stand on.
struct Passage {
  int size = 1;
  std::size_t cells = 0;  ///< where it can stand
  std::size_t regions = 0;
  std::size_t largest = 0;  ///< cells of the largest region
  friend bool operator==(const Passage&, const Passage&) = default;
};

/// The passages of movers like this one but of sizes 1 to `largest_size`, as far as one can stand anywhere; on
/// triangles of size 1 only.
/// @param occupied  cells in the way, null = none
/// @cost a bake and the regions of each size; 10 bytes a cell while it works. @pre the mover suits the map
[[nodiscard]] std::vector<Passage> passages(const Map& map, Mover mover, int largest_size,
                                            const BitGrid* occupied = nullptr);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
