/// @file
/// The ends of a level: where an exit goes.
///
/// Units: costs in hundredths.
/// Errors: nothing where there is no such region.
/// Cost: one field, four for both ends; allocates them.
/// Threads: any number, nothing is shared.
#pragma once

#include <optional>

#include "saunter/grid/visible.hpp"
#include "saunter/region/regions.hpp"
#include "saunter/search/searcher.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// The cell that costs the most to reach from a start, first in reading order among equals.
struct Farthest {
  Cell cell;
  Cost cost = 0;
};
/// Nothing when the start can't be stood on. @cost one field, and the memory of one
[[nodiscard]] std::optional<Farthest> farthest_from(Searcher& searcher, const CostGrid& costs, Cell start);

/// Two cells of a region that are far apart.
struct FarPair {
  Cell from;
  Cell to;
  Cost cost = 0;  ///< of the way from the one to the other
  /// Whether no two cells of the region are farther apart: proven where the region is a tree, with one way between any
  /// two cells. Else the cost is at least half of the largest there is where every step costs the same both ways, and
  /// mostly close to it.
  bool exact = false;
};
/// Sweeps there and back (Dragan, Nicolai and Brandstaedt 1997): the farthest cell from anywhere is an end, the
/// farthest from that the other; then the cell from which either costs the most. Nothing when there is no such region.
/// @pre regions.made_from(costs), else nothing
/// @cost four fields
[[nodiscard]] std::optional<FarPair> farthest_apart(Searcher& searcher, const CostGrid& costs, const Regions& regions,
                                                    std::uint32_t region);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
