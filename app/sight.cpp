#include <fmt/format.h>

#include <algorithm>

#include "shared.hpp"

namespace saunter::app {
namespace {

struct SightCommand {
  Common common;
  std::string from;
  std::string to;
  std::string range;
  std::string as_unit;
};

struct Kept {
  io::Scenario scenario;
  std::vector<draw::Thing> things;
  SightGrid sight;
  Cell from;
  std::optional<Cell> to;
  std::vector<Cell> visible;
  BitGrid seen;
  std::vector<Cell> line;
  std::vector<Cell> hidden_by;
};

/// Whether one cell sees another, and what stands between.
void look_at(Kept& kept, const std::optional<Length>& range, Answer& answer) {
  const Cell from = kept.from;
  const Cell to = *kept.to;
  const bool within = !range || distance_squared(kept.sight.board().tiling, from, to) <= farthest_squared(*range);
  const std::optional<Cell> between = hidden_by(kept.sight, from, to);
  const bool seen = within && !between;
  answer.exit_code = seen ? exit_yes : exit_no;
  answer.json["sees"] = seen;
  if (!within) {
    answer.json["reason"] = "out-of-range";
    answer.json["at"] = json_cell(to);
    answer.text = fmt::format("{} does not see {}: out of range\n", show(from), show(to));
  } else if (between) {
    kept.hidden_by = {*between};
    answer.json["reason"] = "hidden";
    answer.json["at"] = json_cell(*between);
    answer.text = fmt::format("{} does not see {}: hidden by {}\n", show(from), show(to), show(*between));
  } else {
    answer.text = fmt::format("{} sees {}\n", show(from), show(to));
  }
}

void look_round(Kept& kept, const std::optional<Length>& range, Answer& answer) {
  Lookout().visible(kept.sight, kept.from, range, kept.visible);
  const Map& map = kept.scenario.map;
  std::erase_if(kept.visible, [&](Cell cell) { return map.kind(map.terrain_at(cell)).is_void; });
  std::sort(kept.visible.begin(), kept.visible.end());
  kept.seen = BitGrid(map.size());
  for (const Cell cell : kept.visible) kept.seen.set(cell);
  answer.json["visible"] = json_cells(kept.visible);
  answer.text = fmt::format("{} sees {}\n", show(kept.from), counted(kept.visible.size(), "cell", "cells"));
}

Answer sight(const SightCommand& options) {
  auto kept = std::make_shared<Kept>();
  std::optional<Length> range;
  if (!options.range.empty()) {
    range = static_cast<Length>(parse_hundredths(options.range, "--range", 0, std::int64_t{max_line_cells} * 100));
  }
  kept->scenario = load(options.common);
  const Map& map = kept->scenario.map;
  check_unit(kept->scenario, options.as_unit);
  kept->from = parse_cell_on(map, options.from, "--from");
  if (!options.to.empty()) kept->to = parse_cell_on(map, options.to, "--to");
  kept->sight = kept->scenario.sight(options.as_unit);
  kept->things = things_of(kept->scenario);

  Answer answer;
  answer.keep = kept;
  answer.json = {{"command", "sight"}, {"sees", nullptr}, {"visible", nullptr}, {"reason", nullptr}, {"at", nullptr}};
  if (kept->to) {
    look_at(*kept, range, answer);
  } else {
    look_round(*kept, range, answer);
  }
  draw::Picture picture{.title = kept->scenario.title, .map = &map, .things = kept->things};
  picture.start = &kept->from;
  picture.facts = {{"from", show(kept->from)}};
  if (range) picture.facts.emplace_back("range", to_decimal(*range));
  if (kept->to) {
    picture.goal = &*kept->to;
    kept->line = {kept->from, *kept->to};
    picture.sight_line = kept->line;
    picture.hidden_by = kept->hidden_by;
    picture.facts.emplace_back("sees " + show(*kept->to), answer.exit_code == exit_yes ? "yes" : "no");
  } else {
    picture.seen = &kept->seen;
    picture.facts.emplace_back("cells seen", std::to_string(kept->visible.size()));
  }
  if (!options.common.json) answer.terminal_picture = terminal_picture(picture);
  answer.pictures = {picture};
  return answer;
}

}  // namespace

void add_sight(CLI::App& app, Chosen& chosen) {
  auto options = std::make_shared<SightCommand>();
  CLI::App& command = *app.add_subcommand("sight", "what is seen from a cell, and what hides the rest");
  command.footer("Example: saunter sight demo/gulls.toml --from 17,4 --range 9 --draw sight.png");
  add_common(command, options->common);
  command.add_option("--from", options->from, "the viewer's cell as col,row")->required();
  command.add_option("--to", options->to, "only: is this cell seen?");
  command.add_option("--range", options->range, "no farther than so many steps, straight (default: the whole map)");
  command.add_option("--as", options->as_unit, "a unit that does not hide anything, such as the viewer itself");
  command.callback([&chosen, options] { chosen = {[options] { return sight(*options); }, &options->common}; });
}

}  // namespace saunter::app
