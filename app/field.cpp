#include <fmt/format.h>

#include "saunter/io/files.hpp"
#include "saunter/io/layer.hpp"
#include "saunter/search/searcher.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

struct FieldCommand {
  Common common;
  std::string mover;
  std::vector<std::string> to;
  std::string csv;
  std::string budget;
  bool steps = false;
};

struct Kept : Ready {
  Field field;
  std::vector<Source> goals;
  std::vector<Cell> marks;  // the goals that can be used
};

void add_csv(Answer& answer, const Kept& kept, const std::string& file) {
  io::Layer layer = filled(kept.costs.size(), [&](Cell cell) {
    return kept.field.reached(cell) ? std::int64_t{kept.field.cost(cell)} : io::Layer::none;
  });
  layer.hundredths = true;
  add_file(answer, file, io::to_csv(layer));
}

Answer field(const FieldCommand& options) {
  auto kept = std::make_shared<Kept>();
  for (const std::string& goal : options.to) kept->goals.push_back({parse_cell(goal, "--to")});
  FieldOptions limits{.count_steps = options.steps};
  if (!options.budget.empty()) {
    limits.budget = static_cast<Cost>(parse_hundredths(options.budget, "--budget", 0, max_cost));
  }
  kept->make(options.common, {options.mover, {}});
  kept->field = Searcher().field_to(kept->costs, kept->goals, limits);

  Answer answer;
  answer.keep = kept;
  answer.json = {{"command", "field"}, {"goals", Json::array()}, {"reached", kept->field.reached_count()}};
  const auto& unused = kept->field.unused();
  std::string left_out;
  for (std::size_t i = 0; i < kept->goals.size(); ++i) {
    const auto found = std::find_if(unused.begin(), unused.end(), [&](const UnusedSource& u) { return u.number == i; });
    if (found == unused.end()) {
      answer.json["goals"].push_back(json_cell(kept->goals[i].cell));
      kept->marks.push_back(kept->goals[i].cell);
    } else {
      left_out += "left out: " + to_string(found->verdict) + "\n";
    }
  }
  Json unused_json = Json::array();
  for (const UnusedSource& u : unused) {
    unused_json.push_back({{"reason", reason_name(u.verdict.reason)}, {"at", json_cell(u.verdict.at)}});
  }
  answer.json["unused"] = unused_json;
  if (unused.size() == kept->goals.size()) {
    refuse_cell(answer, "no goal can be used", unused.front().verdict, kept->picture());
    return answer;
  }
  answer.text = fmt::format("{} gets to {} of {} from {}\n{}", kept->mover->name,
                            counted(kept->goals.size() - unused.size(), "goal", "goals"), kept->goals.size(),
                            counted(kept->field.reached_count(), "cell", "cells"), left_out);
  answer.json["overflowed"] = kept->field.overflowed();
  if (kept->field.overflowed()) answer.text += "some cells were left out: their cost does not fit\n";
  if (!options.csv.empty()) add_csv(answer, *kept, options.csv);

  draw::Picture picture = kept->picture();
  picture.field = &kept->field;
  picture.arrows = true;
  picture.facts = {{"mover", kept->mover->name},
                   {"goals", std::to_string(kept->goals.size() - unused.size())},
                   {"cells with a way", std::to_string(kept->field.reached_count())}};
  picture.goals = kept->marks;
  if (!options.common.json) answer.terminal_picture = terminal_picture(picture);
  answer.pictures = {picture};
  return answer;
}

}  // namespace

void add_field(CLI::App& app, Chosen& chosen) {
  auto options = std::make_shared<FieldCommand>();
  CLI::App& command = *app.add_subcommand("field", "the cost and the next step to a goal from every cell");
  command.footer("Example: saunter field demo/strand.toml --mover crab --to 45,25 --to 3,4 --draw field.png");
  add_common(command, options->common);
  command.add_option("--mover", options->mover, "who walks (default: the first mover of the file)");
  add_cells(command, "--to", options->to, "goal cell as col,row; several: to the one that is cheapest")->required();
  command.add_option("--budget", options->budget, "leave out cells from where it costs more");
  command.add_flag("--steps", options->steps, "count steps, whatever they cost");
  command.add_option("--csv", options->csv, "write the costs, one line a row, - where there is no way");
  command.callback([&chosen, options] { chosen = {[options] { return field(*options); }, &options->common}; });
}

}  // namespace saunter::app
