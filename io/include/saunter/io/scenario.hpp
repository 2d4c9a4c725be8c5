/// @file
/// Scenario files: a map, its movers and what stands on it, in TOML.
///
/// Units: costs in hundredths, lengths in edge steps.
/// Errors: the first Error, or all of them, with line and column.
/// Cost: O(bytes of all files), the map is allocated.
/// Threads: any number, nothing is shared.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "saunter/grid/bit_grid.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/ground/map.hpp"
#include "saunter/ground/mover.hpp"
#include "saunter/io/result.hpp"
#include "saunter/io/rule.hpp"
#include "saunter/place/footprint.hpp"
#include "saunter/place/occupancy.hpp"
#include "saunter/threat/schedule.hpp"
#include "saunter/threat/threat_field.hpp"

namespace saunter::inline v0_2 {
namespace io SAUNTER_VISIBLE {

/// A thing that stands on the map.
struct Unit {
  std::string name = {};
  Cell at = {};              ///< its anchor
  Footprint footprint = {};  ///< as drawn, before turning
  int turn = 0;
  bool blocks = true;  ///< stands in the way of movers
  bool opaque = false;
  std::vector<Cell> cells = {};  ///< covered, all on the map
};

/// A source of danger.
struct NamedThreat {
  std::string name = {};
  Threat threat = {};                     ///< as it is at tick 0
  std::optional<Schedule> schedule = {};  ///< where it stands and looks at which tick; nothing: always alike
  /// As it is at a tick.
  [[nodiscard]] Threat at_tick(std::uint64_t tick) const {
    return schedule ? threat_at(threat, *schedule, tick) : threat;
  }
};

/// A named place.
struct Spot {
  std::string name = {};
  Cell at = {};
};

/// A way that a mover goes again and again: way points, or every step of it.
struct Patrol {
  std::string name = {};
  std::string mover = {};  ///< "" = the first of the file
  std::vector<Cell> cells = {};
  bool loop = false;  ///< from the last cell back to the first
};

struct Scenario {
  std::string title;
  Map map;
  std::vector<Mover> movers;
  std::vector<Unit> units;
  std::vector<NamedThreat> threats;
  std::vector<RuleSet> rules;
  std::vector<Spot> spots;
  std::vector<Patrol> patrols;
  std::string others;  ///< tables of other programs, those that begin with x-, as TOML; kept as they are

  /// The mover of that name; the first of the file for an empty name. Null when there is none.
  [[nodiscard]] const Mover* find_mover(std::string_view name) const;
  [[nodiscard]] const Unit* find_unit(std::string_view name) const;
  /// The rules of that name; null when there are none.
  [[nodiscard]] const RuleSet* find_rules(std::string_view name) const;
  /// What is wrong with a rule on this map, as what was expected ("the name of a terrain or a unit"); "" when nothing
  /// is.
  [[nodiscard]] std::string rule_problem(const RuleWords& rule) const;
  /// The cells under units that stand in the way, all but those of the unit named `except`.
  [[nodiscard]] BitGrid occupied(std::string_view except = {}) const;
  /// Everything that stands, numbered from 1 as in the list of units.
  [[nodiscard]] Occupancy occupancy() const;
  /// What hides what lies behind: opaque terrain and opaque units, all but the unit named `except`.
  [[nodiscard]] SightGrid sight(std::string_view except = {}) const;
  /// The sum of all threats at a tick; their numbers in the field are their places in the list.
  /// @param sight  as made by sight()
  [[nodiscard]] ThreatField threat_field(const SightGrid& sight, std::uint64_t tick = 0) const;
  /// The same at every tick.
  [[nodiscard]] TimedDanger timed_danger(const SightGrid& sight) const;
};

/// Reads a scenario file; "-" reads standard input. Files it names are found relative to it (from "-": to the working
/// folder).
/// @errors the first thing wrong, in this order: TOML itself; keys of the file, of [map], [terrain.*]; the map's
/// layers;
///         [mover.*]; [[barrier]], [[unit]], [[threat]], [rules], [[spot]], [[patrol]]. Memory for a map is taken only
///         after its size was checked; keys of more than 32 parts and brackets more than 32 deep are refused before
///         parsing.
[[nodiscard]] Result<Scenario> read_scenario(const std::string& file);
/// The same from text. @param name  what errors call it
/// @param folder  where named files are looked for, "" = here; nothing: a scenario that names files is refused
[[nodiscard]] Result<Scenario> parse_scenario(std::string_view text, const std::string& name,
                                              const std::optional<std::string>& folder = "");

/// No more than about so many errors of one file are gathered.
inline constexpr std::size_t most_errors = 10'000;
/// Everything that is wrong with a scenario, each field on its own: in the order of the file, then what is wrong in
/// the files it names. Of broken TOML the first place only. Empty when it can be read. What depends on a thing that
/// can't be read is not judged: places on a map whose size is not known, glyphs drawn where a kind's glyph is wrong,
/// anything that stands on a map of unknown tiling.
[[nodiscard]] std::vector<Error> scenario_errors(const std::string& file);
/// The same from text; see parse_scenario.
[[nodiscard]] std::vector<Error> scenario_errors(std::string_view text, const std::string& name,
                                                 const std::optional<std::string>& folder = "");

}  // namespace io SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
