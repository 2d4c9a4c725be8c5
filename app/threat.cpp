#include <fmt/format.h>

#include <algorithm>

#include "saunter/io/layer.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

struct ThreatCommand {
  Common common;
  std::string at;
  std::string facing;
  std::string as_unit;
  std::string csv;
};

struct Kept {
  io::Scenario scenario;
  std::vector<draw::Thing> things;
  Watch watch;
  std::optional<Cell> at;
};

Json sides_json(const ThreatField& field, Cell cell) {
  Json sides = Json::object();
  const Tiling tiling = field.board().tiling;
  for (Side side{0}; side < side_count(tiling); ++side) {
    sides[std::string(side_name(tiling, side))] = field.side(cell, side);
  }
  return sides;
}

void tell_about(const Kept& kept, const ThreatCommand& options, Answer& answer) {
  const ThreatField& field = kept.watch.field;
  const Tiling tiling = field.board().tiling;
  const Cell at = *kept.at;
  answer.json["at"] = json_cell(at);
  answer.json["level"] = field.level(at);
  answer.json["sides"] = sides_json(field, at);
  answer.text += fmt::format("at {}: level {}\n", show(at), field.level(at));
  Json from = Json::array();
  for (std::size_t i = 0; i < kept.scenario.threats.size(); ++i) {
    const io::Threat& threat = kept.scenario.threats[i];
    const int level = field.level_from(static_cast<ThreatField::SourceId>(i), at);
    if (level == 0) continue;
    const bool here = threat.source.at == at;
    const std::string side(here ? "all sides" : side_name(tiling, side_towards(tiling, at, threat.source.at)));
    from.push_back({{"name", threat.name}, {"level", level}, {"side", here ? Json() : Json(side)}});
    answer.text += fmt::format("  {} from {} at {}: {}\n", level, threat.name, show(threat.source.at), side);
  }
  answer.json["sources"] = from;
  if (options.facing.empty()) return;
  const Side facing = side_named(tiling, options.facing);
  if (facing < 0) {
    std::string names;
    for (Side side{0}; side < side_count(tiling); ++side) {
      names += (side == 0 ? "" : " ") + std::string(side_name(tiling, side));
    }
    throw Refused{"--facing: found \"" + options.facing + "\", expected a side: " + names};
  }
  const ThreatAround around = field.around(at, facing);
  answer.json["around"] = {
      {"ahead", around.ahead}, {"behind", around.behind}, {"left", around.left}, {"right", around.right}};
  answer.text += fmt::format("facing {}: {} ahead, {} behind, {} on the left flank, {} on the right\n", options.facing,
                             around.ahead, around.behind, around.left, around.right);
}

Answer threat(const ThreatCommand& options) {
  auto kept = std::make_shared<Kept>();
  kept->scenario = load(options.common);
  const Map& map = kept->scenario.map;
  if (!options.at.empty()) kept->at = parse_cell_on(map, options.at, "--at");
  if (!options.facing.empty() && !kept->at) throw Refused{"--facing: found without --at, which it belongs to"};
  check_unit(kept->scenario, options.as_unit);
  kept->things = things_of(kept->scenario);
  kept->watch = Watch(kept->scenario, options.as_unit);
  const ThreatField& field = kept->watch.field;

  Answer answer;
  answer.keep = kept;
  const auto levels = field.levels().values();
  const auto exposed = levels.size() - static_cast<std::size_t>(std::count(levels.begin(), levels.end(), 0));
  const std::string sources = counted(kept->scenario.threats.size(), "source", "sources");
  answer.json = {{"command", "threat"}, {"cells", exposed}, {"max", field.highest()}, {"at", nullptr},
                 {"level", nullptr},    {"sides", nullptr}, {"sources", nullptr}};
  answer.text =
      fmt::format("{} exposed to {}, at most {}\n", counted(exposed, "cell", "cells"), sources, field.highest());
  if (kept->at) tell_about(*kept, options, answer);
  if (!options.csv.empty()) {
    add_file(answer, options.csv, io::to_csv(filled(map.size(), [&](Cell cell) {
               return map.kind(map.terrain_at(cell)).is_void ? io::Layer::none : std::int64_t{field.level(cell)};
             })));
  }
  draw::Picture picture{.title = kept->scenario.title, .map = &map, .things = kept->things};
  picture.threat = &field;
  picture.watchers = kept->watch.watchers;
  picture.facts = {{"sources", std::to_string(kept->scenario.threats.size())},
                   {"cells exposed", std::to_string(exposed)},
                   {"highest level", std::to_string(field.highest())}};
  if (kept->at) {
    picture.mark = &*kept->at;
    picture.facts.emplace_back("level at " + show(*kept->at), std::to_string(field.level(*kept->at)));
  }
  if (!options.common.json) answer.terminal_picture = terminal_picture(picture);
  answer.pictures = {picture};
  return answer;
}

}  // namespace

void add_threat(CLI::App& app, Chosen& chosen) {
  auto options = std::make_shared<ThreatCommand>();
  CLI::App& command = *app.add_subcommand("threat", "how dangerous each cell is, and from which side");
  command.footer("Example: saunter threat demo/gulls.toml --at 12,9 --facing n --draw threat.png");
  add_common(command, options->common);
  command.add_option("--at", options->at, "tell about this cell: its level, from which sides and sources");
  command.add_option("--facing", options->facing, "what is ahead, behind and on the flanks of one who faces this side");
  command.add_option("--as", options->as_unit, "a unit that does not hide anything");
  command.add_option("--csv", options->csv, "write the level of each cell, - for void");
  command.callback([&chosen, options] { chosen = {[options] { return threat(*options); }, &options->common}; });
}

}  // namespace saunter::app
