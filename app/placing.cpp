#include "placing.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "saunter/draw/overlay/ground.hpp"
#include "saunter/draw/overlay/marks.hpp"
#include "saunter/io/text.hpp"

namespace saunter::app {
namespace {

constexpr std::size_t most_parts = 4096;

/// Rows of x and . joined by /.
std::vector<Offset> parts_by_rows(const std::string& text) {
  std::vector<Offset> parts;
  std::int32_t row = 0;
  for (const std::string& line : split(text, '/')) {
    for (std::size_t col = 0; col < line.size(); ++col) {
      if (line[col] != 'x' && line[col] != '.') {
        Words::refuse_word("--footprint", text, "rows of x and . joined by /");
      }
      if (line[col] == 'x') parts.push_back({static_cast<std::int32_t>(col), row});
    }
    ++row;
  }
  return parts;
}

std::vector<Offset> parts_by_offsets(const std::string& text) {
  std::vector<Offset> parts;
  for (const std::string& word : split(text, ' ')) {
    if (word.empty()) continue;
    const Cell part = Words::parse_cell(word, "--footprint");
    parts.push_back({part.col, part.row});
  }
  return parts;
}

}  // namespace

void PlacingWords::add_words(Words& words) {
  words.heading("What the place must be like");
  words.text("--mover", mover, "ground is what this mover can enter (default: what is not blocked)");
  words.level("--max-threat", max_threat, "on no cell above this level of danger");
  words.whole("--flatness", flatness, 0, 65'535, "at most this difference of height under it");
  words.cells("--keep-open", keep_open, "cells that must go on reaching each other; several");
  words.rules("--rule", rules, io::rule_words_expected);
  words.text("--rules", rule_set, "the rules of that name in the file (a --unit minds its own anyway)");
  words.need({"--keep-open"}, {"--mover"}, "which it needs");
}

Footprint parse_footprint(const std::string& text, Tiling tiling) {
  std::vector<Offset> parts = tiling.is_hex() ? parts_by_offsets(text) : parts_by_rows(text);
  const auto given_twice = [&](Offset part) { return std::count(parts.begin(), parts.end(), part) > 1; };
  if (parts.size() <= most_parts && std::any_of(parts.begin(), parts.end(), given_twice)) {
    throw Refused{"--footprint: found a cell given twice, expected each once"};
  }
  if (parts.empty() || parts.size() > most_parts) {
    throw Refused{fmt::format("--footprint: found {} cells, expected 1 to {}", parts.size(), most_parts)};
  }
  return Footprint(std::move(parts));
}

/// Everything that stands on the map, numbered as in the file.
void Placing::put_units(const std::string& unit) {
  occupancy = scenario.occupancy();
  const io::Unit* const self = unit.empty() ? nullptr : scenario.find_unit(unit);
  if (self != nullptr) terms.self = static_cast<UnitId>(self - scenario.units.data() + 1);
  terms.units = &occupancy;
}

void Placing::add_rule(const io::RuleWords& words) {
  std::optional<Rule> rule = maker->make(words);
  if (!rule) throw Refused{"rule \"" + words.text + "\": found no --mover, which it needs"};
  rules.push_back(std::move(*rule));
}

/// The unit's own rules, those named, and those given.
void Placing::make_rules(const PlacingWords& words, const std::string& unit) {
  maker.emplace(scenario, terms, unit);
  const io::RuleSet* const own = unit.empty() ? nullptr : scenario.find_rules(unit);
  const io::RuleSet* const named = words.rule_set.empty() ? nullptr : scenario.find_rules(words.rule_set);
  if (!words.rule_set.empty() && named == nullptr) Words::refuse_word("--rules", words.rule_set, "a name in [rules]");
  for (const io::RuleSet* const set : {own, named == own ? nullptr : named}) {
    if (set == nullptr) continue;
    for (const io::RuleWords& rule : set->rules) add_rule(rule);
  }
  for (const io::RuleWords& rule : words.rules) {
    const std::string problem = scenario.rule_problem(rule);
    if (!problem.empty()) Words::refuse_word("--rule", rule.text, problem);
    add_rule(rule);
  }
  terms.rules = rules;
}

void Placing::prepare(const PlacingWords& words, const std::string& unit) {
  terms.map = &scenario.map;
  if (!words.mover.empty()) {
    terms.mover = &choose_mover(scenario, words.mover);
    costs = bake_for(scenario, *terms.mover, unit);
    terms.costs = &costs;
  }
  put_units(unit);
  terms.flatness = words.flatness;
  terms.highest = words.max_threat;
  if (terms.highest) {
    watch = Watch(scenario, unit);
    terms.levels = &watch.field.levels();
  }
  make_rules(words, unit);
  keep_open = words.keep_open;
  for (const Cell cell : keep_open) check_on_map(scenario.map, cell, "--keep-open");
  if (keep_open.empty()) return;
  regions.emplace(costs);
  terms.keep_open = keep_open;
  terms.regions = &*regions;
}

draw::Picture Placing::picture() const {
  draw::Picture picture = picture_of(scenario, terms.mover);
  if (terms.mover != nullptr) {
    picture.add(draw::Blocked(costs));
    picture.facts.emplace_back("ground for", terms.mover->name);
  }
  picture.add(draw::Ends(draw::Ends::Kind::kept, keep_open));
  return picture;
}

}  // namespace saunter::app
