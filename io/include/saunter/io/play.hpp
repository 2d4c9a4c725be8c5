/// @file
/// Scripts of timed edits and units that go, in TOML, for a scenario.
///
/// Units: ticks, cells, hundredths.
/// Errors: the first Error with line, column and, of an edit, its tick.
/// Cost: O(bytes); lists are allocated.
/// Threads: any number, nothing is shared.
#pragma once

#include <string>
#include <string_view>

#include "saunter/grid/visible.hpp"
#include "saunter/io/scenario.hpp"
#include "saunter/live/play.hpp"

namespace saunter::inline v0_2 {
namespace io SAUNTER_VISIBLE {

/// The scenario as a map in play: units and threats stand as in the file, and their numbers are their places in it
/// (units from 1, threats from 0).
[[nodiscard]] LiveMap live_map(const Scenario& scenario);

/// Reads a script for a scenario; "-" reads standard input. What is wrong whatever units do is an error: names, cells,
/// edits after the last tick, two edits of one tick about the same cell, side, unit or threat.
[[nodiscard]] Result<PlayScript> read_play(const std::string& file, const Scenario& scenario);
/// The same from text. @param name  what errors call it
[[nodiscard]] Result<PlayScript> parse_play(std::string_view text, const std::string& name, const Scenario& scenario);

}  // namespace io SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
