#include "saunter/io/scenario.hpp"

#include <algorithm>

namespace saunter::inline v0_2::io {

const Mover* Scenario::find_mover(std::string_view name) const {
  if (name.empty()) return movers.empty() ? nullptr : &movers.front();
  const auto found = std::find_if(movers.begin(), movers.end(), [&](const Mover& m) { return m.name == name; });
  return found == movers.end() ? nullptr : &*found;
}

const Unit* Scenario::find_unit(std::string_view name) const {
  const auto found = std::find_if(units.begin(), units.end(), [&](const Unit& u) { return u.name == name; });
  return found == units.end() ? nullptr : &*found;
}

const RuleSet* Scenario::find_rules(std::string_view name) const {
  const auto found = std::find_if(rules.begin(), rules.end(), [&](const RuleSet& set) { return set.name == name; });
  return found == rules.end() ? nullptr : &*found;
}

std::string Scenario::rule_problem(const RuleWords& rule) const {
  using Kind = RuleWords::Kind;
  if (rule.kind == Kind::away_from || rule.kind == Kind::near_to) {
    const auto& kinds = map.kinds();
    const bool terrain = std::any_of(kinds.begin(), kinds.end(), [&](const Terrain& t) { return t.name == rule.name; });
    if (!terrain && find_unit(rule.name) == nullptr) return "the name of a terrain or a unit";
  } else if (rule.kind != Kind::against_wall && rule.kind != Kind::margin && !map.size().contains(rule.cell)) {
    return "a cell of the map, which is " + std::to_string(map.size().cols) + " x " + std::to_string(map.size().rows);
  }
  return {};
}

BitGrid Scenario::occupied(std::string_view except) const {
  BitGrid cells(map.size());
  for (const Unit& unit : units) {
    if (!unit.blocks || (!except.empty() && unit.name == except)) continue;
    for (const Cell cell : unit.cells) cells.set(cell);
  }
  return cells;
}

Occupancy Scenario::occupancy() const {
  Occupancy standing(map.board());
  for (const Unit& unit : units)
    (void)standing.place(standing.add(unit.footprint, 0, unit.blocks), {unit.at, unit.turn});
  return standing;
}

SightGrid Scenario::sight(std::string_view except) const {
  BitGrid opaque = opaque_terrain(map);
  for (const Unit& unit : units) {
    if (!unit.opaque || (!except.empty() && unit.name == except)) continue;
    for (const Cell cell : unit.cells) opaque.set(cell);
  }
  return {map.board(), opaque};
}

ThreatField Scenario::threat_field(const SightGrid& sight, std::uint64_t tick) const {
  ThreatField field(map.board(), void_terrain(map));
  for (const NamedThreat& named : threats) (void)field.add(sight, named.at_tick(tick));
  return field;
}

TimedDanger Scenario::timed_danger(const SightGrid& sight) const {
  TimedDanger danger(map.board(), void_terrain(map));
  for (const NamedThreat& named : threats) {
    if (named.schedule) {
      (void)danger.add(sight, named.threat, *named.schedule);
    } else {
      (void)danger.add(sight, named.threat);
    }
  }
  return danger;
}

}  // namespace saunter::inline v0_2::io
