#include <fmt/format.h>

#include "saunter/check/inspect.hpp"
#include "saunter/io/way.hpp"
#include "saunter/search/searcher.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

struct CheckCommand {
  Common common;
  Walker walker;
  std::string path;
  std::string path_file;
  std::vector<std::string> against;
  std::optional<std::int64_t> max_threat;
};

struct Kept : Ready {
  Watch watch;
  Levels levels;
  BitGrid occupied;
  Grid<std::uint32_t> units;
  std::vector<Cell> cells;
  std::vector<std::vector<Cell>> against;
  std::vector<std::span<const Cell>> others;
  Inspection found;
  std::vector<Cell> faults;
  std::vector<Cell> shown;  // those on the map
};

std::vector<Cell> read_cells(const std::string& file) {
  io::Result<std::vector<Cell>> cells = io::read_way(file);
  if (!cells) throw Refused{cells.error().message()};
  return std::move(cells).value();
}

std::vector<Cell> the_way(const CheckCommand& options) {
  if (!options.path.empty() && !options.path_file.empty()) {
    throw Refused{"--path: found it and --path-file, expected one of them"};
  }
  if (!options.path_file.empty()) return read_cells(options.path_file);
  std::vector<Cell> cells;
  for (const std::string& word : split(options.path, ' ')) {
    if (!word.empty()) cells.push_back(parse_cell(word, "--path"));
  }
  if (cells.empty()) throw Refused{"--path: found no cell, expected at least one"};
  return cells;
}

/// The name of what is in the way.
Json name_of(const Kept& kept, const CheckCommand& options, InTheWay by) {
  switch (by.kind) {
    case InTheWay::Kind::unit: return kept.scenario.units[by.number].name;
    case InTheWay::Kind::way: return options.against[by.number];
    case InTheWay::Kind::nothing: break;
  }
  return {};
}

/// What a way is checked against, made once for each mover.
void prepare(const CheckCommand& options, Kept& kept, InspectOptions& asked) {
  const io::Scenario& scenario = kept.scenario;
  kept.watch = Watch(scenario, options.walker.as_unit);
  kept.levels = kept.watch.levels_for(*kept.mover);
  kept.occupied = scenario.occupied(options.walker.as_unit);
  kept.units = Grid<std::uint32_t>(kept.costs.size());
  for (std::size_t i = 0; i < scenario.units.size(); ++i) {
    for (const Cell cell : scenario.units[i].cells) kept.units[cell] = static_cast<std::uint32_t>(i + 1);
  }
  for (const std::vector<Cell>& cells : kept.against) kept.others.emplace_back(cells);
  asked.occupied = &kept.occupied;
  asked.units = &kept.units;
  asked.levels = &kept.levels;
  asked.others = kept.others;
}

/// The figures of a way that holds; null where it does not.
void put_measure(const Inspection& found, Json& json) {
  const Exposure& measure = found.measure;
  json["cost"] = found.ok() ? json_sum(measure.cost) : Json();
  json["exposure"] = found.ok() ? json_sum(measure.exposure) : Json();
  json["longest_exposed"] = found.ok() ? Json(measure.longest) : Json();
  json["turns"] = found.turns ? Json(*found.turns) : Json();
}

void put_problems(const Kept& kept, const CheckCommand& options, const Inspection& found, Json& problems,
                  std::string& text) {
  for (const WayProblem& problem : found.problems) {
    const Json by = name_of(kept, options, problem.by);
    problems.push_back(
        {{"step", problem.step}, {"at", json_cell(problem.at)}, {"why", fault_name(problem.why)}, {"by", by}});
    text += fmt::format("  step {} at {}: {}{}\n", problem.step, show(problem.at), fault_name(problem.why),
                        by.is_null() ? "" : " by " + by.get<std::string>());
  }
}

/// "the way holds, cost 12, 3 steps, 1 turn", or how many problems there are.
std::string outcome(const Inspection& found, std::size_t steps) {
  const std::string walked = counted(steps, "step", "steps");
  if (!found.ok()) return fmt::format("{} in {}", counted(found.problems.size(), "problem", "problems"), walked);
  std::string text = fmt::format("the way holds, cost {}, {}", decimal_sum(found.measure.cost), walked);
  if (found.turns) text += ", " + counted(*found.turns, "turn", "turns");
  return text;
}

Answer check_way(const CheckCommand& options) {
  auto kept = std::make_shared<Kept>();
  kept->cells = the_way(options);
  for (const std::string& file : options.against) kept->against.push_back(read_cells(file));
  InspectOptions asked;
  asked.highest = parse_level(options.max_threat);
  kept->make(options.common, options.walker);
  const io::Scenario& scenario = kept->scenario;
  if (!options.against.empty() && kept->mover->size != 1) {
    throw Refused{fmt::format("--against: found mover \"{}\" of size {}, expected one of size 1", kept->mover->name,
                              kept->mover->size)};
  }
  prepare(options, *kept, asked);
  kept->found = inspect_way(scenario.map, *kept->mover, kept->costs, kept->cells, asked);

  const Inspection& found = kept->found;
  Answer answer;
  answer.keep = kept;
  answer.exit_code = found.ok() ? exit_yes : exit_no;
  answer.json = {{"command", "check"}, {"ok", found.ok()}, {"problems", Json::array()}};
  put_measure(found, answer.json);
  answer.text = fmt::format("{} from {} to {}: {}\n", kept->mover->name, show(kept->cells.front()),
                            show(kept->cells.back()), outcome(found, kept->cells.size() - 1));
  if (found.ok() && !scenario.threats.empty()) answer.text += exposure_text(found.measure) + "\n";
  put_problems(*kept, options, found, answer.json["problems"], answer.text);
  for (const WayProblem& problem : found.problems) {
    if (scenario.map.size().contains(problem.at)) kept->faults.push_back(problem.at);
  }
  draw::Picture picture = kept->picture();
  for (const Cell cell : kept->cells) {
    if (scenario.map.size().contains(cell)) kept->shown.push_back(cell);
  }
  picture.path = kept->shown;
  picture.faults = kept->faults;
  picture.start = &kept->cells.front();
  picture.goal = &kept->cells.back();
  picture.watchers = kept->watch.watchers;
  picture.facts = {{"mover", kept->mover->name}, {"holds", found.ok() ? "yes" : "no"}};
  if (found.ok()) {
    picture.facts.emplace_back("cost", decimal_sum(found.measure.cost));
  } else {
    picture.facts.emplace_back("problems", std::to_string(found.problems.size()));
  }
  if (!options.common.json) answer.terminal_picture = terminal_picture(picture);
  answer.pictures = {picture};
  return answer;
}

/// Every step of a patrol: as given, or way points joined by the cheapest ways.
struct Walked {
  std::vector<Cell> cells;
  std::optional<Verdict> broken;  ///< where there is no way from one way point to the next
};
Walked steps_of(const io::Patrol& patrol, const CostGrid& costs) {
  std::vector<Cell> points = patrol.cells;
  if (patrol.loop && points.size() > 1) points.push_back(points.front());
  const auto is_step = [&](Cell a, Cell b) {
    const Direction d = costs.tiling().direction(a, b);
    return d >= 0 && d < costs.rules().steps;
  };
  bool every_step = true;
  for (std::size_t i = 1; i < points.size(); ++i) every_step = every_step && is_step(points[i - 1], points[i]);
  if (every_step) return {points, std::nullopt};
  Searcher searcher;
  Walked walked{{points.front()}, std::nullopt};
  for (std::size_t i = 1; i < points.size(); ++i) {
    const Route& route = searcher.route(costs, points[i - 1], points[i]);
    if (!route.found()) {
      walked.broken = route.verdict();
      return walked;
    }
    walked.cells.insert(walked.cells.end(), route.cells().begin() + 1, route.cells().end());
  }
  return walked;
}

/// The picture of one patrol, with what is wrong on it.
draw::Picture panel_of(const io::Patrol& patrol, Kept& kept, bool ok) {
  for (const WayProblem& problem : kept.found.problems) kept.faults.push_back(problem.at);
  for (const Cell cell : kept.cells) {
    if (kept.costs.size().contains(cell)) kept.shown.push_back(cell);
  }
  draw::Picture panel = kept.picture();
  panel.title = patrol.name;
  panel.path = kept.shown;
  panel.faults = kept.faults;
  panel.watchers = kept.watch.watchers;
  panel.start = &kept.cells.front();
  panel.facts = {{"mover", kept.mover->name}, {"holds", ok ? "yes" : "no"}};
  return panel;
}

/// Judges one patrol and adds what is found to the answer.
void check_patrol(const CheckCommand& options, const io::Patrol& patrol, Kept& kept, Answer& answer) {
  InspectOptions asked;
  asked.highest = parse_level(options.max_threat);
  kept.make_for({options.walker.mover.empty() ? patrol.mover : options.walker.mover, options.walker.as_unit});
  prepare(options, kept, asked);
  const Walked walked = steps_of(patrol, kept.costs);
  kept.cells = walked.cells;
  kept.found = inspect_way(kept.scenario.map, *kept.mover, kept.costs, kept.cells, asked);
  const Inspection& found = kept.found;
  const bool ok = found.ok() && !walked.broken;
  Json json = {{"name", patrol.name}, {"mover", kept.mover->name}, {"ok", ok}, {"problems", Json::array()}};
  put_measure(walked.broken ? Inspection{{WayProblem{}}, {}, {}} : found, json);
  answer.text +=
      fmt::format("{}, {}: {}\n", patrol.name, kept.mover->name,
                  walked.broken ? "no way from way point to way point" : outcome(found, kept.cells.size() - 1));
  put_problems(kept, options, found, json["problems"], answer.text);
  if (walked.broken) {
    json["problems"].push_back({{"step", kept.cells.size()},
                                {"at", json_cell(walked.broken->at)},
                                {"why", reason_name(walked.broken->reason)},
                                {"by", nullptr}});
    answer.text += fmt::format("  after step {}: {}\n", kept.cells.size() - 1, to_string(*walked.broken));
    kept.faults.push_back(walked.broken->at);
  }
  for (Json problem : json["problems"]) {
    problem["patrol"] = patrol.name;
    answer.json["problems"].push_back(problem);
  }
  answer.json["patrols"].push_back(json);
  if (!ok) {
    answer.json["ok"] = false;
    answer.exit_code = exit_no;
  }
  answer.pictures.push_back(panel_of(patrol, kept, ok));
}

Answer check_patrols(const CheckCommand& options) {
  if (!options.against.empty()) throw Refused{"--against: found without --path or --path-file, which it belongs to"};
  const io::Scenario patrols = load(options.common);
  if (patrols.patrols.empty()) {
    throw Refused{"--path: found neither it nor --path-file nor a [[patrol]] in the scenario, expected one of them"};
  }
  Answer answer;
  answer.json = {{"command", "check"},        {"ok", true},
                 {"problems", Json::array()}, {"cost", nullptr},
                 {"exposure", nullptr},       {"longest_exposed", nullptr},
                 {"turns", nullptr},          {"patrols", Json::array()}};
  auto all = std::make_shared<std::vector<std::shared_ptr<Kept>>>();
  answer.keep = all;
  for (const io::Patrol& patrol : patrols.patrols) {
    all->push_back(std::make_shared<Kept>());
    all->back()->scenario = patrols;
    check_patrol(options, patrol, *all->back(), answer);
  }
  return answer;
}

Answer check(const CheckCommand& options) {
  return options.path.empty() && options.path_file.empty() ? check_patrols(options) : check_way(options);
}

}  // namespace

void add_check(CLI::App& app, Chosen& chosen) {
  auto options = std::make_shared<CheckCommand>();
  CLI::App& command = *app.add_subcommand(
      "check", "whether a finished way, or every patrol of the file, can be walked, and all that is wrong");
  command.footer("Example: saunter check demo/strand.toml --mover crab --path \"3,4 4,4 5,5\" --draw check.png");
  add_common(command, options->common);
  add_walker(command, options->walker);
  command.add_option("--path", options->path,
                     "the way as cells: \"c,r c,r ...\" (without a way: every [[patrol]] of the file)");
  command.add_option("--path-file", options->path_file,
                     "the way from a file: JSON ([[c,r],...] or an answer of route) or CSV (c,r a line)");
  command
      .add_option("--against", options->against,
                  "a way of another unit that sets out at the same time, from such a file; several")
      ->multi_option_policy(CLI::MultiOptionPolicy::TakeAll)
      ->expected(1)
      ->allow_extra_args(false);
  add_whole(command, "--max-threat", options->max_threat, 0, 65'535, "cells above this level of danger are a problem");
  command.callback([&chosen, options] { chosen = {[options] { return check(*options); }, &options->common}; });
}

}  // namespace saunter::app
