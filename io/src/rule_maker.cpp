#include "saunter/io/rule_maker.hpp"

#include "saunter/search/searcher.hpp"

namespace saunter::inline v0_2::io {

/// The cells of a terrain, or of a unit, by name.
const BitGrid& RuleMaker::cells_named(const std::string& name) {
  const Map& map = scenario_.map;
  cells_.push_back(std::make_unique<BitGrid>(map.size()));
  BitGrid& cells = *cells_.back();
  for (const Cell cell : map.size().cells()) {
    if (map.kind(map.terrain_at(cell)).name == name) cells.set(cell);
  }
  if (const Unit* unit = scenario_.find_unit(name)) {
    for (const Cell cell : unit->cells) cells.set(cell);
  }
  return cells;
}

/// Cells that count as walls: what cannot be stood on by terrain. Their opposite: what is free of walls and units.
const BitGrid& RuleMaker::walls(bool the_opposite) {
  const Map& map = scenario_.map;
  auto cells = std::make_unique<BitGrid>(map.size());
  const FitTerms ground{.map = &map, .mover = terms_.mover};
  const BitGrid free = free_cells(ground);
  for (const Cell cell : map.size().cells()) {
    const UnitId there = the_opposite && terms_.units != nullptr ? terms_.units->at(cell) : 0;
    const bool taken = there != 0 && there != terms_.self;
    cells->set(cell, the_opposite ? free.test(cell) && !taken : !free.test(cell));
  }
  cells_.push_back(std::move(cells));
  return *cells_.back();
}

const SightGrid& RuleMaker::sight() {
  if (!sight_) sight_ = scenario_.sight(hidden_unit_);
  return *sight_;
}

std::optional<Rule> RuleMaker::make(const RuleWords& words) {
  using Kind = RuleWords::Kind;
  const Tiling tiling = scenario_.map.tiling();
  Rule rule;
  switch (words.kind) {
    case Kind::against_wall: rule = against(tiling, walls(false), words.steps); break;
    case Kind::margin: rule = clear_margin(tiling, walls(true), words.steps); break;
    case Kind::away_from: rule = away_from(tiling, cells_named(words.name), words.steps); break;
    case Kind::near_to: rule = near_to(tiling, cells_named(words.name), words.steps); break;
    case Kind::seen_from: rule = seen_from(sight(), words.cell); break;
    case Kind::unseen_from: rule = no(seen_from(sight(), words.cell)); break;
    case Kind::reach:
      if (terms_.mover == nullptr || terms_.costs == nullptr) return std::nullopt;
      fields_.push_back(std::make_unique<Field>(Searcher().reach(*terms_.costs, words.cell, FieldOptions{})));
      rule = reached_within(*fields_.back(), Hundredths(words.cost));
      break;
  }
  rule.name = words.text;
  return rule;
}

}  // namespace saunter::inline v0_2::io
