#include <fmt/format.h>

#include "saunter/search/searcher.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

struct Reach {
  Common common;
  Walker walker;
  std::string from;
  std::string budget;
  std::optional<int> range;
};

struct Kept : Ready {
  Field field;
  std::vector<Cell> in_range;  // what can be acted on but not walked to
  Cell from;
};

Answer reach(const Reach& options) {
  auto kept = std::make_shared<Kept>();
  kept->from = parse_cell(options.from, "--from");
  FieldOptions limits;
  if (!options.budget.empty())
    limits.budget = static_cast<Cost>(parse_hundredths(options.budget, "--budget", 0, max_cost));
  kept->make(options.common, options.walker);
  kept->field = Searcher().reach(kept->costs, kept->from, limits);

  Answer answer;
  answer.json = {{"command", "reach"}, {"budget", limits.budget ? json_cost(*limits.budget) : Json()}};
  answer.json["cells"] = Json::array();
  answer.keep = kept;
  if (!kept->field.unused().empty()) {
    refuse_cell(answer, kept->mover->name + " reaches nothing", kept->field.unused().front().verdict, kept->picture());
    return answer;
  }
  const Size size = kept->scenario.map.size();
  for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
    const Cell cell = size.cell(CellIndex{i});
    if (!kept->field.reached(cell)) continue;
    answer.json["cells"].push_back({cell.col, cell.row, json_cost(kept->field.cost(cell))});
  }
  const std::string within = limits.budget ? " within " + to_decimal(*limits.budget) : "";
  const std::string what = counted(kept->field.reached_count(), "cell", "cells");
  answer.text = fmt::format("{} reaches {}{} from {}\n", kept->mover->name, what, within, show(kept->from));
  if (options.range) {
    BitGrid near;
    cells_in_range(kept->field, *options.range, near);
    answer.json["in_range"] = Json::array();
    for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
      const Cell cell = size.cell(CellIndex{i});
      if (!near.test(cell)) continue;
      answer.json["in_range"].push_back(json_cell(cell));
      if (!kept->field.reached(cell)) kept->in_range.push_back(cell);
    }
    answer.text +=
        fmt::format("from there {} within {}\n", counted(kept->in_range.size(), "more cell lies", "more cells lie"),
                    counted(static_cast<std::uint64_t>(*options.range), "edge step", "edge steps"));
  }
  answer.json["overflowed"] = kept->field.overflowed();
  if (kept->field.overflowed()) answer.text += "some cells were left out: their cost does not fit\n";

  draw::Picture picture = kept->picture();
  picture.field = &kept->field;
  picture.start = &kept->from;
  picture.in_range = kept->in_range;
  picture.facts = {{"mover", kept->mover->name}, {"reaches", what}};
  if (limits.budget) picture.facts.emplace_back("budget", to_decimal(*limits.budget));
  if (options.range) picture.facts.emplace_back("acts within", std::to_string(*options.range));
  if (!options.common.json) answer.terminal_picture = terminal_picture(picture);
  answer.pictures = {picture};
  return answer;
}

}  // namespace

void add_reach(CLI::App& app, Chosen& chosen) {
  auto options = std::make_shared<Reach>();
  CLI::App& command = *app.add_subcommand("reach", "where a unit gets with its movement points");
  command.footer("Example: saunter reach demo/strand.toml --mover crab --from 30,12 --budget 8");
  add_common(command, options->common);
  add_walker(command, options->walker);
  command.add_option("--from", options->from, "start cell as col,row")->required();
  command.add_option("--budget", options->budget, "movement points (default: no limit)");
  add_whole(command, "--range", options->range, 0, most_edge_steps,
            "then acts on cells this many edge steps away: these are told too");
  command.callback([&chosen, options] { chosen = {[options] { return reach(*options); }, &options->common}; });
}

}  // namespace saunter::app
