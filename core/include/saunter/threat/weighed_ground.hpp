/// @file
/// Ground on which danger is part of what cells cost.
///
/// Units: entry costs in hundredths, danger included.
/// Errors: nothing where danger can't be told as an entry cost.
/// Cost: O(cells), a few nanoseconds a cell; allocates the grid it makes.
/// Threads: any number, nothing is shared.
#pragma once

#include <optional>

#include "saunter/grid/visible.hpp"
#include "saunter/threat/wary.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// The ground as a wary mover weighs it: entering a cell of entry cost e and level v costs e + wary x v. Whatever is
/// asked of it is answered in weighed sums, right to the hundredth: a field for a whole squad, a reach, regions, an
/// index, jumps and standing routes. One such grid serves all units that mind danger alike; made anew when levels
/// change.
/// ```cpp
/// const auto ground = saunter::weighed_ground(costs, threat.levels(), {.wary = 2_steps});
/// if (ground) searcher.field_to(*ground, goals, field);       // weighed cost and next step from everywhere
/// ```
/// With `highest`, cells above that level are left and passed by their corners, but not entered.
/// @return nothing with linger, which depends on the way, and where a cell would weigh more than 655.35
/// @pre levels of the grid's size, else cells without a level have level 0
[[nodiscard]] std::optional<CostGrid> weighed_ground(const CostGrid& costs, const Levels& levels, const Wariness& care);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
