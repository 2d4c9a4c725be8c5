// [rules], [[spot]] and [[patrol]]
#include "reading.hpp"

namespace saunter::inline v0_2::io::detail {

std::string Names::take(const Fields& fields) {
  std::string name = fields.text("name");
  if (name.empty()) fields.fail("name", "a name");
  if (!taken_.insert(name).second) fields.fail("name", "a name not used before");
  return name;
}

void read_rules(Reading& reading, const toml::node& node) {
  const Source& source = reading.source;
  const std::string lists = "a [rules] table of lists such as hut = [\"against-wall:2\"]";
  const toml::table* const table = node.as_table();
  if (table == nullptr) source.fail(node, describe(node), lists);
  const auto read_rule = [&](const toml::node& entry) {
    const auto* const text = entry.as_string();
    const auto rule = text == nullptr ? std::nullopt : parse_rule_words(text->get());
    if (!rule) source.fail(entry, describe(entry), rule_words_expected);
    const std::string problem = reading.ground_known ? reading.scenario.rule_problem(*rule) : "";
    if (!problem.empty()) source.fail(entry, describe(entry), problem);
    return *rule;
  };
  for (const auto& [key, value] : *table) {
    RuleSet set{std::string(key.str()), {}};
    source.attempt([&, &value = value] {
      const toml::array* const list = value.as_array();
      if (list == nullptr) source.fail(value, describe(value), lists);
      for (const toml::node& entry : *list) source.attempt([&] { set.rules.push_back(read_rule(entry)); });
    });
    reading.scenario.rules.push_back(std::move(set));
  }
}

void read_spot(Reading& reading, Names& names, const toml::table& table) {
  const Fields fields(reading.source, table, "[[spot]]", {"name", "at"});
  Spot spot;
  reading.source.attempt([&] { spot.name = names.take(fields); });
  reading.source.attempt([&] { spot.at = cell_on_map(reading, fields.require("at", "a cell")); });
  reading.scenario.spots.push_back(std::move(spot));
}

void read_patrol(Reading& reading, Names& names, const toml::table& table) {
  const Source& source = reading.source;
  const Fields fields(source, table, "[[patrol]]", {"name", "mover", "cells", "loop"});
  Patrol patrol;
  source.attempt([&] { patrol.name = names.take(fields); });
  source.attempt([&] {
    patrol.mover = fields.text_or("mover", "");
    if (reading.scenario.find_mover(patrol.mover) != nullptr) return;
    if (!fields.has("mover")) source.fail(table, "no mover in the file", "a [mover.name] for the patrol");
    fields.fail("mover", "the name of a [mover.name]");
  });
  source.attempt([&] {
    Attempts attempt(source);
    for (const toml::node& node : fields.list("cells", "a list of cells as [col, row]"))
      attempt([&] { patrol.cells.push_back(cell_on_map(reading, node)); });
    if (attempt.well() && patrol.cells.empty()) fields.fail("cells", "at least one cell");
  });
  source.attempt([&] { patrol.loop = fields.flag_or("loop", false); });
  reading.scenario.patrols.push_back(std::move(patrol));
}

}  // namespace saunter::inline v0_2::io::detail
