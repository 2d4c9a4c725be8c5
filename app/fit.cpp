#include "saunter/place/fit.hpp"

#include <fmt/format.h>

#include "saunter/search/searcher.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

struct FitCommand {
  Common common;
  std::string mover;
  std::string footprint;
  std::string unit;
  std::optional<int> size;
  std::optional<int> turn;
  bool mirrored = false;
  std::string at;
  bool all = false;
  std::string nearest;
  std::optional<std::int64_t> max_threat;
  std::optional<int> flatness;
  std::vector<std::string> keep_open;
  std::vector<std::string> rules;
};

struct Kept {
  io::Scenario scenario;
  std::vector<draw::Thing> things;
  const Mover* mover = nullptr;
  const io::Unit* unit = nullptr;
  CostGrid costs;
  std::optional<Regions> regions;
  Watch watch;
  Occupancy occupancy;
  // What rules look at, for as long as they live.
  std::vector<std::unique_ptr<BitGrid>> cells;
  std::vector<std::unique_ptr<Field>> fields;
  std::vector<Rule> rules;
  std::vector<Cell> keep_open;
  Footprint footprint;
  Pose pose;
  FitTerms terms;
  Fitter fitter;
  std::vector<FitProblem> problems;
  std::vector<Cell> spots;
  std::vector<Cell> faults;
  std::vector<Cell> ghost;
};

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

void choose_footprint(const FitCommand& options, Kept& kept) {
  const Tiling tiling = kept.scenario.map.tiling();
  const int ways = (options.footprint.empty() ? 0 : 1) + (options.unit.empty() ? 0 : 1) + (options.size ? 1 : 0);
  if (ways != 1) throw Refused{fmt::format("fit: found {} of --footprint, --unit and --size, expected one", ways)};
  if (!options.unit.empty()) {
    kept.unit = kept.scenario.find_unit(options.unit);
    if (kept.unit == nullptr) throw Refused{"--unit: found \"" + options.unit + "\", expected the name of a [[unit]]"};
    kept.footprint = kept.unit->footprint;
    kept.pose.turn = kept.unit->turn;
  } else if (options.size) {
    const int most = tiling.shape() == Shape::triangle ? 1 : 32;
    if (*options.size < 1 || *options.size > most) {
      throw Refused{fmt::format("--size: found {}, expected 1 to {}", *options.size, most)};
    }
    std::vector<Cell> body;
    body_cells(tiling, {0, 0}, *options.size, body);
    std::vector<Offset> parts;
    for (const Cell cell : body) {
      const Axial axial = tiling.is_hex() ? tiling.to_axial(cell) : Axial{};
      const Axial origin = tiling.is_hex() ? tiling.to_axial({0, 0}) : Axial{};
      parts.push_back(tiling.is_hex() ? Offset{axial.q - origin.q, axial.r - origin.r} : Offset{cell.col, cell.row});
    }
    kept.footprint = Footprint(std::move(parts));
  } else {
    kept.footprint = parse_footprint(options.footprint, tiling);
  }
  if (options.turn) {
    if (*options.turn < 0 || *options.turn >= full_turn(tiling)) {
      throw Refused{fmt::format("--turn: found {}, expected 0 to {}", *options.turn, full_turn(tiling) - 1)};
    }
    kept.pose.turn = *options.turn;
  }
  kept.pose.mirrored = options.mirrored;
}

/// The cells of a terrain, or of a unit, by name.
const BitGrid& cells_named(Kept& kept, const std::string& name, const std::string& rule) {
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
const BitGrid& walls(Kept& kept, bool the_opposite) {
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
Rule parse_rule(Kept& kept, const std::string& text) {
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

void prepare(const FitCommand& options, Kept& kept) {
  io::Scenario& scenario = kept.scenario;
  const Map& map = scenario.map;
  FitTerms& terms = kept.terms;
  terms.map = &map;
  if (!options.mover.empty()) {
    kept.mover = &choose_mover(scenario, options.mover);
    terms.mover = kept.mover;
    kept.costs = bake_for(scenario, *kept.mover, options.unit);
  }
  kept.watch = Watch(scenario, options.unit);
  kept.occupancy = Occupancy(map.board());
  for (const io::Unit& unit : scenario.units) {
    const ThingId id = kept.occupancy.add(unit.footprint, 0, unit.blocks);
    (void)kept.occupancy.place(id, {unit.at, unit.turn});
    if (&unit == kept.unit) terms.self = id;
  }
  terms.things = &kept.occupancy;
  terms.flatness = options.flatness;
  if (options.flatness && *options.flatness < 0) {
    throw Refused{fmt::format("--flatness: found {}, expected at least 0", *options.flatness)};
  }
  if (options.max_threat) {
    if (*options.max_threat < 0 || *options.max_threat > 65'535) {
      throw Refused{fmt::format("--max-threat: found {}, expected 0 to 65535", *options.max_threat)};
    }
    terms.levels = &kept.watch.field.levels();
    terms.highest = static_cast<std::uint16_t>(*options.max_threat);
  }
  for (const std::string& rule : options.rules) kept.rules.push_back(parse_rule(kept, rule));
  terms.rules = kept.rules;
  for (const std::string& cell : options.keep_open) {
    kept.keep_open.push_back(parse_cell_on(map, cell, "--keep-open"));
  }
  if (kept.keep_open.empty()) return;
  if (kept.mover == nullptr) throw Refused{"--keep-open: found without --mover, which it needs"};
  kept.regions.emplace(kept.costs);
  terms.keep_open = kept.keep_open;
  terms.costs = &kept.costs;
  terms.mover_size = kept.mover->size;
  terms.regions = &*kept.regions;
}

/// Who or what a reason is about.
Json name_of(const Kept& kept, const FitProblem& problem) {
  if (problem.by != 0) return kept.scenario.units[problem.by - 1].name;
  return problem.rule.empty() ? Json() : Json(problem.rule);
}

void answer_at(Kept& kept, Answer& answer) {
  const Map& map = kept.scenario.map;
  cells_in_pose(map.tiling(), kept.footprint, kept.pose, kept.ghost);
  std::erase_if(kept.ghost, [&](Cell cell) { return !map.size().contains(cell); });
  kept.problems = kept.fitter.problems(kept.terms, kept.footprint, kept.pose);
  const bool fits = kept.problems.empty();
  if (!fits) answer.exit_code = exit_no;
  answer.json["fits"] = fits;
  answer.json["reasons"] = Json::array();
  answer.text += fmt::format("{} at {}\n", fits ? "it fits" : "it does not fit", show(kept.pose.at));
  for (const FitProblem& problem : kept.problems) {
    const Json by = name_of(kept, problem);
    answer.json["reasons"].push_back({{"why", fault_name(problem.why)}, {"at", json_cell(problem.at)}, {"by", by}});
    answer.text += fmt::format("  {} at {}{}\n", fault_name(problem.why), show(problem.at),
                               by.is_null() ? "" : ": " + by.get<std::string>());
    kept.faults.push_back(problem.at);
  }
}

Answer fit(const FitCommand& options) {
  auto kept = std::make_shared<Kept>();
  if (options.at.empty() && !options.all && options.nearest.empty()) {
    throw Refused{"fit: found none of --at, --all and --nearest, expected at least one"};
  }
  kept->scenario = load(options.common);
  choose_footprint(options, *kept);
  prepare(options, *kept);
  kept->things = things_of(kept->scenario);
  const Map& map = kept->scenario.map;

  Answer answer;
  answer.keep = kept;
  answer.json = {{"command", "fit"}, {"fits", nullptr}, {"reasons", nullptr}, {"spots", nullptr}, {"nearest", nullptr}};
  if (!options.at.empty()) {
    kept->pose.at = parse_cell(options.at, "--at");
    answer_at(*kept, answer);
  }
  if (options.all || !options.nearest.empty()) {
    const BitGrid spots = kept->fitter.spots(kept->terms, kept->footprint, kept->pose.turn, kept->pose.mirrored);
    for (std::uint32_t i = 0; i < map.size().cell_count(); ++i) {
      if (spots.test(map.size().cell(CellIndex{i}))) kept->spots.push_back(map.size().cell(CellIndex{i}));
    }
    if (kept->spots.empty()) answer.exit_code = exit_no;
    answer.text += fmt::format("it fits at {}\n", counted(kept->spots.size(), "spot", "spots"));
    if (options.all) answer.json["spots"] = json_cells(kept->spots);
    if (!options.nearest.empty()) {
      const Cell wished = parse_cell(options.nearest, "--nearest");
      const auto nearest = nearest_spot(map.tiling(), spots, wished);
      answer.json["nearest"] = nearest ? json_cell(*nearest) : Json();
      if (nearest) {
        answer.text += fmt::format("nearest to {}: {}\n", show(wished), show(*nearest));
        if (kept->ghost.empty()) {
          cells_in_pose(map.tiling(), kept->footprint, {*nearest, kept->pose.turn, kept->pose.mirrored}, kept->ghost);
        }
      }
    }
  }
  draw::Picture picture{.title = kept->scenario.title, .map = &map, .things = kept->things};
  picture.spots = kept->spots;
  picture.ghost = kept->ghost;
  picture.faults = kept->faults;
  picture.keep_open = kept->keep_open;
  if (kept->mover != nullptr) {
    picture.costs = &kept->costs;
    picture.mover = kept->mover;
    picture.layers.blocked = true;
    picture.facts.emplace_back("ground for", kept->mover->name);
  }
  if (!options.at.empty()) picture.facts.emplace_back("fits at " + options.at, kept->problems.empty() ? "yes" : "no");
  for (const FitProblem& problem : kept->problems) {
    if (picture.facts.size() > 8) break;
    picture.facts.emplace_back(std::string(fault_name(problem.why)), show(problem.at));
  }
  if (options.all || !options.nearest.empty()) {
    picture.facts.emplace_back("spots", std::to_string(kept->spots.size()));
  }
  if (!options.common.json) answer.terminal_picture = terminal_picture(picture);
  answer.pictures = {picture};
  return answer;
}

}  // namespace

void add_fit(CLI::App& app, Chosen& chosen) {
  auto options = std::make_shared<FitCommand>();
  CLI::App& command = *app.add_subcommand("fit", "whether a thing can be put somewhere, why not, and where else");
  command.footer("Example: saunter fit demo/strand.toml --unit hut --at 28,24 --mover crab --keep-open 3,4");
  add_common(command, options->common);
  command.add_option("--mover", options->mover, "ground is what this mover can enter (default: what is not blocked)");
  command.add_option("--footprint", options->footprint, "its cells: rows of x and . joined by /, hexes: \"q,r q,r\"");
  command.add_option("--unit", options->unit, "a unit of the file; where it stands now is free to it");
  command.add_option("--size", options->size, "so many cells wide and high, hexes: all within size - 1");
  command.add_option("--turn", options->turn, "turned clockwise, in quarters or sixths (default: as it stands, or 0)");
  command.add_flag("--mirrored", options->mirrored, "left and right exchanged");
  command.add_option("--at", options->at, "the anchor's cell: does it fit there?");
  command.add_flag("--all", options->all, "every cell at which it fits");
  command.add_option("--nearest", options->nearest, "the spot nearest to this cell");
  command.add_option("--max-threat", options->max_threat, "on no cell above this level of danger");
  command.add_option("--flatness", options->flatness, "at most this difference of height under it");
  add_cells(command, "--keep-open", options->keep_open, "cells that must go on reaching each other; several");
  add_cells(command, "--rule", options->rules, known_rules);
  command.callback([&chosen, options] { chosen = {[options] { return fit(*options); }, &options->common}; });
}

}  // namespace saunter::app
