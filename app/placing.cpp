#include "placing.hpp"

#include <fmt/format.h>

#include "saunter/search/searcher.hpp"

namespace saunter::app {
namespace {

/// The cells of a terrain, or of a unit, by name.
const BitGrid& cells_named(Placing& kept, const std::string& name, const std::string& rule) {
  const Map& map = kept.scenario.map;
  auto cells = std::make_unique<BitGrid>(map.size());
  bool known = false;
  for (std::size_t id = 0; id < map.kinds().size(); ++id) {
    if (map.kinds()[id].name != name) continue;
    known = true;
    for (std::uint32_t i = 0; i < map.size().cell_count(); ++i) {
      if (map.terrain()[CellIndex{i}] == id) cells->set(map.size().cell(CellIndex{i}));
    }
  }
  if (const io::Unit* unit = kept.scenario.find_unit(name)) {
    known = true;
    for (const Cell cell : unit->cells) cells->set(cell);
  }
  if (!known) {
    throw Refused{"--rule: found \"" + name + "\" in \"" + rule + "\", expected the name of a terrain or a unit"};
  }
  kept.cells.push_back(std::move(cells));
  return *kept.cells.back();
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

constexpr const char* known_rules =
    "against-wall:N, away-from:NAME:N, near:NAME:N, margin:N, seen-from:c,r, unseen-from:c,r or reach:c,r:COST";

/// "against-wall:2" and so on.
Rule parse_rule(Placing& kept, const std::string& text) {
  const Map& map = kept.scenario.map;
  const Tiling tiling = map.tiling();
  const std::vector<std::string> words = split(text, ':');
  const auto refuse = [&]() -> Rule { throw Refused{"--rule: found \"" + text + "\", expected " + known_rules}; };
  const auto steps = [&](const std::string& word) {
    return static_cast<int>(parse_hundredths(word, "--rule", 0, 10'000) / 100);
  };
  Rule rule;
  if (words[0] == "against-wall" && words.size() == 2) {
    rule = against(tiling, walls(kept, false), steps(words[1]));
  } else if (words[0] == "margin" && words.size() == 2) {
    rule = clear_margin(tiling, walls(kept, true), steps(words[1]));
  } else if (words[0] == "away-from" && words.size() == 3) {
    rule = away_from(tiling, cells_named(kept, words[1], text), steps(words[2]));
  } else if (words[0] == "near" && words.size() == 3) {
    rule = near_to(tiling, cells_named(kept, words[1], text), steps(words[2]));
  } else if (words[0] == "seen-from" && words.size() == 2) {
    rule = seen_from(kept.watch.sight, parse_cell_on(map, words[1], "--rule"));
  } else if (words[0] == "unseen-from" && words.size() == 2) {
    rule = no(seen_from(kept.watch.sight, parse_cell_on(map, words[1], "--rule")));
  } else if (words[0] == "reach" && words.size() == 3) {
    if (kept.mover == nullptr) throw Refused{"--rule: found \"" + text + "\" without --mover, which it needs"};
    auto field =
        std::make_unique<Field>(Searcher().reach(kept.costs, parse_cell_on(map, words[1], "--rule"), FieldOptions{}));
    const auto cost = static_cast<Cost>(parse_hundredths(words[2], "--rule", 0, max_cost));
    rule = reached_within(*field, cost);
    kept.fields.push_back(std::move(field));
  } else {
    return refuse();
  }
  rule.name = text;
  return rule;
}

}  // namespace

void add_placing(CLI::App& command, PlacingWords& words) {
  command.add_option("--mover", words.mover, "ground is what this mover can enter (default: what is not blocked)");
  command.add_option("--max-threat", words.max_threat, "on no cell above this level of danger");
  command.add_option("--flatness", words.flatness, "at most this difference of height under it");
  add_cells(command, "--keep-open", words.keep_open, "cells that must go on reaching each other; several");
  add_cells(command, "--rule", words.rules, known_rules);
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
  watch = Watch(scenario, unit);
  occupancy = Occupancy(map.board());
  for (const io::Unit& other : scenario.units) {
    const ThingId id = occupancy.add(other.footprint, 0, other.blocks);
    (void)occupancy.place(id, {other.at, other.turn});
    if (!unit.empty() && other.name == unit) terms.self = id;
  }
  terms.things = &occupancy;
  terms.flatness = words.flatness;
  if (words.flatness && *words.flatness < 0) {
    throw Refused{fmt::format("--flatness: found {}, expected at least 0", *words.flatness)};
  }
  if (words.max_threat) {
    if (*words.max_threat < 0 || *words.max_threat > 65'535) {
      throw Refused{fmt::format("--max-threat: found {}, expected 0 to 65535", *words.max_threat)};
    }
    terms.levels = &watch.field.levels();
    terms.highest = static_cast<std::uint16_t>(*words.max_threat);
  }
  for (const std::string& rule : words.rules) rules.push_back(parse_rule(*this, rule));
  terms.rules = rules;
  for (const std::string& cell : words.keep_open) {
    keep_open.push_back(parse_cell_on(map, cell, "--keep-open"));
  }
  if (keep_open.empty()) return;
  if (mover == nullptr) throw Refused{"--keep-open: found without --mover, which it needs"};
  regions.emplace(costs);
  terms.keep_open = keep_open;
  terms.costs = &costs;
  terms.mover_size = mover->size;
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
