#include <fmt/format.h>

#include "placing.hpp"

namespace saunter::app {
namespace {

struct ScatterCommand {
  Common common;
  PlacingWords placing;
  std::vector<std::string> footprints;
  std::int64_t count = 10;
  std::string chance;
  int spacing = 0;
  bool turned = false;
  bool mirrored = false;
  std::uint64_t seed = 1;
};

struct Kept : Placing {
  std::vector<Cell> put;
};

/// "xx/x." or "xx/x.*3" with a weight.
ScatterThing parse_thing(const std::string& text, Tiling tiling) {
  const std::size_t star = text.find('*');
  ScatterThing thing{.footprint = parse_footprint(text.substr(0, star), tiling)};
  if (star == std::string::npos) return thing;
  const std::string weight = text.substr(star + 1);
  const bool whole =
      !weight.empty() && weight.size() <= 6 && weight.find_first_not_of("0123456789") == std::string::npos;
  if (!whole || std::stoul(weight) == 0) {
    throw Refused{"--footprint: found \"" + text + "\", expected a weight of 1 to 999999 behind *"};
  }
  thing.weight = static_cast<std::uint32_t>(std::stoul(weight));
  return thing;
}

Answer scatter_things(const ScatterCommand& options) {
  auto kept = std::make_shared<Kept>();
  ScatterOptions asked{.turned = options.turned, .mirrored = options.mirrored, .seed = options.seed};
  asked.most = static_cast<std::size_t>(options.count);
  if (!options.chance.empty()) {
    // Hundredths of a per cent are ten-thousandths.
    asked.chance = static_cast<std::uint32_t>(parse_hundredths(options.chance, "--chance", 0, 10'000));
  }
  asked.spacing = options.spacing;
  kept->scenario = load(options.common);
  const Map& map = kept->scenario.map;
  if (options.turned && map.tiling().shape() == Shape::triangle) {
    throw Refused{"--turned: found on a triangle map, where things are not turned"};
  }
  std::vector<ScatterThing> things;
  for (const std::string& text : options.footprints) things.push_back(parse_thing(text, map.tiling()));
  kept->prepare(options.placing);
  const ScatterResult result = scatter(kept->fitter, kept->terms, things, asked);

  Answer answer;
  answer.keep = kept;
  answer.exit_code = result.placed.empty() && asked.most > 0 ? exit_no : exit_yes;
  answer.json = {{"command", "scatter"}, {"seed", options.seed}, {"asked", asked.most}, {"placed", Json::array()}};
  std::vector<Cell> cells;
  for (const Scattered& one : result.placed) {
    cells_in_pose(map.tiling(), things[one.thing].footprint, one.pose, cells);
    kept->put.insert(kept->put.end(), cells.begin(), cells.end());
    answer.json["placed"].push_back({{"footprint", options.footprints[one.thing]},
                                     {"at", json_cell(one.pose.at)},
                                     {"turn", one.pose.turn},
                                     {"mirrored", one.pose.mirrored},
                                     {"cells", json_cells(cells)}});
  }
  answer.json["tried"] = result.tried;
  answer.json["passed_by"] = result.passed_by;
  answer.json["too_near"] = result.too_near;
  answer.json["refused"] = Json::object();
  answer.text = fmt::format("{} of {} placed; {} tried", result.placed.size(), asked.most,
                            counted(result.tried, "cell", "cells"));
  if (result.too_near > 0) answer.text += fmt::format(", {} too near to another", result.too_near);
  for (std::size_t i = 0; i < result.refused.size(); ++i) {
    const std::string_view why = fault_name(static_cast<FitFault>(i));
    answer.json["refused"][std::string(why)] = result.refused[i];
    if (result.refused[i] > 0) answer.text += fmt::format(", {} refused: {}", result.refused[i], why);
  }
  answer.text += "\n";
  draw::Picture picture = kept->picture();
  picture.ghost = kept->put;
  picture.facts.emplace_back("placed", std::to_string(result.placed.size()));
  picture.facts.emplace_back("seed", std::to_string(options.seed));
  if (!options.common.json) answer.terminal_picture = terminal_picture(picture);
  answer.pictures = {picture};
  return answer;
}

}  // namespace

void add_scatter(CLI::App& app, Chosen& chosen) {
  auto options = std::make_shared<ScatterCommand>();
  CLI::App& command = *app.add_subcommand("scatter", "many things put down by chance and rules");
  command.footer(
      "Example: saunter scatter demo/strand.toml --footprint xx --count 12 --spacing 3 --rule against-wall:1");
  add_common(command, options->common);
  add_cells(command, "--footprint", options->footprints, "a thing, as in fit; several, with a weight: xx*3")
      ->required();
  add_whole(command, "--count", options->count, 0, 1'000'000, "so many at the most (default: 10)");
  command.add_option("--chance", options->chance, "that a cell is tried at all, in per cent (default: 100)");
  add_whole(command, "--spacing", options->spacing, 0, most_edge_steps,
            "edge steps that lie free between two of them (default: 0)");
  command.add_flag("--turned", options->turned, "by any turn");
  command.add_flag("--mirrored", options->mirrored, "or not, as chance has it");
  command.add_option_function<std::string>(
      "--seed", [options](const std::string& text) { options->seed = parse_seed(text, "--seed"); },
      "the same seed puts the same things down everywhere (default: 1)");
  add_placing(command, options->placing);
  command.callback([&chosen, options] { chosen = {[options] { return scatter_things(*options); }, &options->common}; });
}

}  // namespace saunter::app
