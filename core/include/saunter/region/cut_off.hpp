/// @file
/// What can't be reached, and what can't be come back from.
///
/// Units: cells.
/// Errors: from a cell nobody can stand on everything is cut off.
/// Cost: O(cells), two floods; bits and lists are allocated.
/// Threads: any number, nothing is shared.
#pragma once

#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost_grid.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Places the mover can stand on, sorted by how they lie to a start. One-way steps count: getting there and coming back
/// are two questions.
struct CutOff {
  BitGrid reached;              ///< it can walk there
  BitGrid returns;              ///< it can walk from there to the start
  std::vector<Cell> cut_off;    ///< it can't walk there; reading order
  std::vector<Cell> no_return;  ///< it can walk there but not come back; reading order
};

/// From where it cannot stand it reaches nothing: every cell is cut off.
/// @cost O(cells x directions), two bits and up to 8 bytes a cell
[[nodiscard]] CutOff cut_off_from(const CostGrid& costs, Cell start);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
