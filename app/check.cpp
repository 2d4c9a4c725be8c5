#include <fmt/format.h>

#include "saunter/check/inspect.hpp"
#include "saunter/io/way.hpp"
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
  if (options.path.empty() == options.path_file.empty()) {
    throw Refused{"--path: found " + std::string(options.path.empty() ? "neither it nor" : "it and") +
                  " --path-file, expected one of them"};
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

Answer check(const CheckCommand& options) {
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
  kept->watch = Watch(scenario, options.walker.as_unit);
  kept->levels = kept->watch.levels_for(*kept->mover);
  kept->occupied = scenario.occupied(options.walker.as_unit);
  kept->units = Grid<std::uint32_t>(kept->costs.size());
  for (std::size_t i = 0; i < scenario.units.size(); ++i) {
    for (const Cell cell : scenario.units[i].cells) kept->units[cell] = static_cast<std::uint32_t>(i + 1);
  }
  for (const std::vector<Cell>& cells : kept->against) kept->others.emplace_back(cells);
  asked.occupied = &kept->occupied;
  asked.units = &kept->units;
  asked.levels = &kept->levels;
  asked.others = kept->others;
  kept->found = inspect_way(scenario.map, *kept->mover, kept->costs, kept->cells, asked);

  const Inspection& found = kept->found;
  const Exposure& measure = found.measure;
  Answer answer;
  answer.keep = kept;
  answer.exit_code = found.ok() ? exit_yes : exit_no;
  answer.json = {{"command", "check"}, {"ok", found.ok()}, {"problems", Json::array()}};
  answer.json["cost"] = found.ok() ? json_sum(measure.cost) : Json();
  answer.json["exposure"] = found.ok() ? json_sum(measure.exposure) : Json();
  answer.json["longest_exposed"] = found.ok() ? Json(measure.longest) : Json();
  answer.json["turns"] = found.turns ? Json(*found.turns) : Json();
  const std::string way =
      fmt::format("{} from {} to {}", kept->mover->name, show(kept->cells.front()), show(kept->cells.back()));
  if (found.ok()) {
    answer.text = fmt::format("{}: the way holds, cost {}, {}", way, decimal_sum(measure.cost),
                              counted(kept->cells.size() - 1, "step", "steps"));
    if (found.turns) answer.text += ", " + counted(*found.turns, "turn", "turns");
    answer.text += "\n";
    if (!scenario.threats.empty()) answer.text += exposure_text(measure) + "\n";
  } else {
    answer.text = fmt::format("{}: {} in {}\n", way, counted(found.problems.size(), "problem", "problems"),
                              counted(kept->cells.size() - 1, "step", "steps"));
  }
  for (const WayProblem& problem : found.problems) {
    const Json by = name_of(*kept, options, problem.by);
    answer.json["problems"].push_back(
        {{"step", problem.step}, {"at", json_cell(problem.at)}, {"why", fault_name(problem.why)}, {"by", by}});
    answer.text += fmt::format("  step {} at {}: {}{}\n", problem.step, show(problem.at), fault_name(problem.why),
                               by.is_null() ? "" : " by " + by.get<std::string>());
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
    picture.facts.emplace_back("cost", decimal_sum(measure.cost));
  } else {
    picture.facts.emplace_back("problems", std::to_string(found.problems.size()));
  }
  if (!options.common.json) answer.terminal_picture = terminal_picture(picture);
  answer.pictures = {picture};
  return answer;
}

}  // namespace

void add_check(CLI::App& app, Chosen& chosen) {
  auto options = std::make_shared<CheckCommand>();
  CLI::App& command =
      *app.add_subcommand("check", "whether a finished way can be walked, and everything wrong with it");
  command.footer("Example: saunter check demo/strand.toml --mover crab --path \"3,4 4,4 5,5\" --draw check.png");
  add_common(command, options->common);
  add_walker(command, options->walker);
  command.add_option("--path", options->path, "the way as cells: \"c,r c,r ...\"");
  command.add_option("--path-file", options->path_file,
                     "the way from a file: JSON ([[c,r],...] or an answer of route) or CSV (c,r a line)");
  command
      .add_option("--against", options->against,
                  "a way of another unit that sets out at the same time, from such a file; several")
      ->multi_option_policy(CLI::MultiOptionPolicy::TakeAll)
      ->expected(1)
      ->allow_extra_args(false);
  command.add_option("--max-threat", options->max_threat, "cells above this level of danger are a problem");
  command.callback([&chosen, options] { chosen = {[options] { return check(*options); }, &options->common}; });
}

}  // namespace saunter::app
