#include "placing.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "saunter/search/searcher.hpp"

namespace saunter::app {
namespace {

/// The cells of a terrain, or of a unit, by name.
const BitGrid& cells_named(Placing& kept, const std::string& name) {
  const Map& map = kept.scenario.map;
  kept.cells.push_back(std::make_unique<BitGrid>(map.size()));
  BitGrid& cells = *kept.cells.back();
  for (std::uint32_t i = 0; i < map.size().cell_count(); ++i) {
    if (map.kind(map.terrain()[CellIndex{i}]).name == name) cells.set(map.size().cell(CellIndex{i}));
  }
  if (const io::Unit* unit = kept.scenario.find_unit(name)) {
    for (const Cell cell : unit->cells) cells.set(cell);
  }
  return cells;
}

/// Cells that count as walls: what cannot be stood on by terrain.
const BitGrid& walls(Placing& kept, bool the_opposite) {
  const Map& map = kept.scenario.map;
  auto cells = std::make_unique<BitGrid>(map.size());
  FitTerms ground{.map = &map, .mover = kept.mover};
  const BitGrid free = free_cells(ground);
  for (std::uint32_t i = 0; i < map.size().cell_count(); ++i) {
    const Cell cell = map.size().cell(CellIndex{i});
    const bool taken = the_opposite && kept.occupancy.at(cell) != 0 && kept.occupancy.at(cell) != kept.terms.self;
    cells->set(cell, the_opposite ? free.test(cell) && !taken : !free.test(cell));
  }
  kept.cells.push_back(std::move(cells));
  return *kept.cells.back();
}

/// Made when the first rule looks.
const SightGrid& sight_of(Placing& kept) {
  if (!kept.sight) kept.sight = kept.scenario.sight(kept.hidden_unit);
  return *kept.sight;
}

/// A rule of the map, from its words.
Rule rule_of(Placing& kept, const io::RuleWords& words) {
  using Kind = io::RuleWords::Kind;
  const Tiling tiling = kept.scenario.map.tiling();
  Rule rule;
  switch (words.kind) {
    case Kind::against_wall: rule = against(tiling, walls(kept, false), words.steps); break;
    case Kind::margin: rule = clear_margin(tiling, walls(kept, true), words.steps); break;
    case Kind::away_from: rule = away_from(tiling, cells_named(kept, words.name), words.steps); break;
    case Kind::near_to: rule = near_to(tiling, cells_named(kept, words.name), words.steps); break;
    case Kind::seen_from: rule = seen_from(sight_of(kept), words.cell); break;
    case Kind::unseen_from: rule = no(seen_from(sight_of(kept), words.cell)); break;
    case Kind::reach:
      if (kept.mover == nullptr) throw Refused{"rule \"" + words.text + "\": found no --mover, which it needs"};
      kept.fields.push_back(std::make_unique<Field>(Searcher().reach(kept.costs, words.cell, FieldOptions{})));
      rule = reached_within(*kept.fields.back(), words.cost);
      break;
  }
  rule.name = words.text;
  return rule;
}

io::RuleWords parse_rule(const Placing& kept, const std::string& text) {
  const auto rule = io::parse_rule_words(text);
  if (!rule) throw Refused{"--rule: found \"" + text + "\", expected " + io::rule_words_expected};
  const std::string problem = kept.scenario.rule_problem(*rule);
  if (!problem.empty()) throw Refused{"--rule: found \"" + text + "\", expected " + problem};
  return *rule;
}

}  // namespace

void add_placing(CLI::App& command, PlacingWords& words) {
  command.add_option("--mover", words.mover, "ground is what this mover can enter (default: what is not blocked)");
  add_whole(command, "--max-threat", words.max_threat, 0, 65'535, "on no cell above this level of danger");
  add_whole(command, "--flatness", words.flatness, 0, 65'535, "at most this difference of height under it");
  add_cells(command, "--keep-open", words.keep_open, "cells that must go on reaching each other; several");
  add_cells(command, "--rule", words.rules, io::rule_words_expected);
  command.add_option("--rules", words.rule_set, "the rules of that name in the file (a --unit minds its own anyway)");
}

/// "xx/x." by rows, or on hexes "0,0 1,0" by offsets.
Footprint parse_footprint(const std::string& text, Tiling tiling) {
  std::vector<Offset> parts;
  if (tiling.is_hex()) {
    for (const std::string& word : split(text, ' ')) {
      if (word.empty()) continue;
      const Cell part = parse_cell(word, "--footprint");
      parts.push_back({part.col, part.row});
    }
  } else {
    std::int32_t row = 0;
    for (const std::string& line : split(text, '/')) {
      for (std::size_t col = 0; col < line.size(); ++col) {
        if (line[col] != 'x' && line[col] != '.') {
          throw Refused{"--footprint: found \"" + text + "\", expected rows of x and . joined by /"};
        }
        if (line[col] == 'x') parts.push_back({static_cast<std::int32_t>(col), row});
      }
      ++row;
    }
  }
  const auto given_twice = [&](Offset part) { return std::count(parts.begin(), parts.end(), part) > 1; };
  if (parts.size() <= 4096 && std::any_of(parts.begin(), parts.end(), given_twice)) {
    throw Refused{"--footprint: found a cell given twice, expected each once"};
  }
  if (parts.empty() || parts.size() > 4096) {
    throw Refused{"--footprint: found " + std::to_string(parts.size()) + " cells, expected 1 to 4096"};
  }
  return Footprint(std::move(parts));
}

void Placing::prepare(const PlacingWords& words, const std::string& unit) {
  const Map& map = scenario.map;
  terms.map = &map;
  if (!words.mover.empty()) {
    mover = &choose_mover(scenario, words.mover);
    terms.mover = mover;
    costs = bake_for(scenario, *mover, unit);
  }
  things = things_of(scenario);
  hidden_unit = unit;
  occupancy = Occupancy(map.board());
  for (const io::Unit& other : scenario.units) {
    const ThingId id = occupancy.add(other.footprint, 0, other.blocks);
    (void)occupancy.place(id, {other.at, other.turn});
    if (!unit.empty() && other.name == unit) terms.self = id;
  }
  terms.things = &occupancy;
  terms.flatness = words.flatness;
  terms.highest = parse_level(words.max_threat);
  if (terms.highest) {
    watch = Watch(scenario, unit);
    terms.levels = &watch.field.levels();
  }
  const io::RuleSet* const own = unit.empty() ? nullptr : scenario.find_rules(unit);
  const io::RuleSet* const named = words.rule_set.empty() ? nullptr : scenario.find_rules(words.rule_set);
  if (!words.rule_set.empty() && named == nullptr) {
    throw Refused{"--rules: found \"" + words.rule_set + "\", expected a name in [rules]"};
  }
  for (const io::RuleSet* const set : {own, named == own ? nullptr : named}) {
    if (set == nullptr) continue;
    for (const io::RuleWords& rule : set->rules) rules.push_back(rule_of(*this, rule));
  }
  for (const std::string& rule : words.rules) rules.push_back(rule_of(*this, parse_rule(*this, rule)));
  terms.rules = rules;
  for (const std::string& cell : words.keep_open) {
    keep_open.push_back(parse_cell_on(map, cell, "--keep-open"));
  }
  if (keep_open.empty()) return;
  if (mover == nullptr) throw Refused{"--keep-open: found without --mover, which it needs"};
  regions.emplace(costs);
  terms.keep_open = keep_open;
  terms.costs = &costs;
  terms.regions = &*regions;
}

draw::Picture Placing::picture() const {
  draw::Picture picture{.title = scenario.title, .map = &scenario.map, .things = things};
  picture.keep_open = keep_open;
  if (mover == nullptr) return picture;
  picture.costs = &costs;
  picture.mover = mover;
  picture.layers.blocked = true;
  picture.facts.emplace_back("ground for", mover->name);
  return picture;
}

}  // namespace saunter::app
