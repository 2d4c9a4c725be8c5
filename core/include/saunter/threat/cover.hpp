/// @file
/// Where to hide.
///
/// Units: levels of danger, costs in hundredths.
/// Errors: nothing where no cell is safe enough.
/// Cost: O(cells) and a sort of those found.
/// Threads: any number, nothing is shared.
#pragma once

#include "saunter/grid/visible.hpp"
#include "saunter/threat/wary.hpp"

namespace saunter {
inline namespace v0 SAUNTER_VISIBLE {

/// A place to hide.
struct Cover {
  Cell cell;
  Cost cost = 0;  ///< to get there, hundredths
};

/// The cells a unit can reach for at most `budget` whose level is at most `highest`, nearest first (ties: reading
/// order): where to hide. The start is among them if it qualifies. Made from a reach field (`Searcher::reach` with a
/// budget). O(cells)
[[nodiscard]] std::vector<Cover> find_cover(const Field& reach, const Levels& levels, std::uint16_t highest = 0);

}  // namespace v0 SAUNTER_VISIBLE
}  // namespace saunter
