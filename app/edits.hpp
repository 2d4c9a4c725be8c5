/// @file
/// Edits of a scenario that the page makes: painting, barriers, units and threats that are put elsewhere.
#pragma once

#include "command.hpp"

namespace saunter::app {

/// Makes one edit. Refuses with a sentence what is malformed or can't be, and has then changed nothing.
///
/// @param edit  an object with `do` and what belongs to it:
///   `paint`   `cells` (pointer positions), `with` line, block, disk or flood, `radius`, and `terrain` or `height`
///   `barrier` `from`, `to` (neighbours across an edge), `sides`: closed, one-way (open from the first only) or open
///   `unit`    `name`, `at`, `turn`: where it does not fit, it is refused with the reason
///   `threat`  `name`, and any of `at`, `range`, `facing` (degrees clockwise from north, or null), `arc`
///   `new-threat` `name`, `at`;  `remove` `name` of a threat or unit
void apply_edit(io::Scenario& scenario, const Json& edit);

/// The scenario in one file.
[[nodiscard]] std::string text_of(const io::Scenario& scenario);

/// A member of an object that came from outside; refused when it is missing or of another kind.
[[nodiscard]] const Json& member(const Json& object, const char* key, Json::value_t kind, const char* expected);
[[nodiscard]] std::string text_member(const Json& object, const char* key);

}  // namespace saunter::app
