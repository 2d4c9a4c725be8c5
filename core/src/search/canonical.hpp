/// @file
/// On square boards of one cost: which of the legal steps are worth taking.
#pragma once

#include <array>

#include "saunter/ground/cost_grid.hpp"

namespace saunter::inline v0_2::detail {

/// Of the legal steps at a square cell, those worth taking, by the direction back to where we come from: where the
/// others lead, an equally cheap way leads that avoids the cell (canonical orderings; Harabor and Grastien 2011,
/// Sturtevant and Rabin 2016). Diagonals come first in a canonical way. For boards of one cost, strict corners, and
/// diagonals costlier than one edge step and cheaper than two.
class Worthwhile {
 public:
  static constexpr unsigned directions = 8;
  static constexpr std::uint8_t at_start = 15;

  constexpr Worthwhile() {
    for (unsigned legal = 0; legal < 256; ++legal) {
      table_[at_start][legal] = static_cast<std::uint8_t>(legal);
      // Directions 0..3 are n e s w, 4..7 ne se sw nw.
      for (unsigned d = 0; d < 4; ++d) {
        const unsigned right = (d + 1) % 4;  // e for n
        const unsigned left = (d + 3) % 4;
        const unsigned ahead_right = 4 + d;
        const unsigned ahead_left = 4 + (d + 3) % 4;
        const unsigned behind_right = 4 + right;
        const unsigned behind_left = 4 + (d + 2) % 4;
        unsigned wanted = 1U << d;
        // A cell beside the one we come from is shut: what lies before it is reached only from here.
        if ((legal >> behind_right & 1U) == 0) wanted |= 1U << right | 1U << ahead_right;
        if ((legal >> behind_left & 1U) == 0) wanted |= 1U << left | 1U << ahead_left;
        table_[(d + 2) % 4][legal] = static_cast<std::uint8_t>(legal & wanted);
        // Diagonal d + 4 lies between the edge directions d and d + 1.
        table_[4 + (d + 2) % 4][legal] = static_cast<std::uint8_t>(legal & (1U << (4 + d) | 1U << d | 1U << right));
      }
    }
  }
  [[nodiscard]] unsigned of(unsigned legal, std::uint8_t back) const { return table_[back][legal]; }

 private:
  std::array<std::array<std::uint8_t, 256>, 16> table_ = {};
};

inline constexpr Worthwhile worthwhile;

/// Whether Worthwhile may be used.
inline bool canonical(const CostGrid& costs) {
  if (costs.tiling().shape() != Shape::square || costs.rules().steps != static_cast<int>(Worthwhile::directions))
    return false;
  if (costs.rules().corners != Corners::strict || costs.has_sides()) return false;
  const Cost edge = costs.lowest_entry();
  const Cost diagonal = step_cost(costs.rules().diagonal, costs.lowest_entry());
  return costs.lowest_entry() == costs.highest_entry() && edge < diagonal && diagonal < 2 * edge;
}

}  // namespace saunter::inline v0_2::detail
