#include "saunter/io/layer.hpp"

#include <fmt/format.h>

#include "saunter/ground/clearance.hpp"
#include "saunter/io/files.hpp"
#include "saunter/region/regions.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

struct LayerCommand {
  Common common;
  std::string name;
  std::string mover;
  std::string out;
  bool ramp = false;
};

io::Layer make_layer(const io::Scenario& scenario, const LayerCommand& options) {
  const Map& map = scenario.map;
  if (options.name == "terrain") return filled(map.size(), [&](Cell cell) { return map.terrain_at(cell); });
  if (options.name == "height") return filled(map.size(), [&](Cell cell) { return map.height_at(cell); });
  if (options.name != "cost" && options.name != "clearance" && options.name != "regions") {
    throw Refused{"layer: found \"" + options.name + "\", expected one of terrain, height, cost, clearance, regions"};
  }
  Mover mover = choose_mover(scenario, options.mover);
  if (options.name == "clearance") mover.size = 1;
  const CostGrid costs = bake_for(scenario, mover);
  if (options.name == "cost") {
    io::Layer layer = filled(map.size(), [&](Cell cell) { return none_for_zero(costs.entry(cell)); });
    layer.hundredths = true;
    return layer;
  }
  if (options.name == "clearance") {
    const Grid<std::uint8_t> largest = clearance(costs);
    return filled(map.size(), [&](Cell cell) { return none_for_zero(largest[cell]); });
  }
  const Regions regions(costs);
  return filled(map.size(), [&](Cell cell) { return none_for_zero(regions.at(cell)); });
}

std::string bytes_of(const io::Layer& layer, const LayerCommand& options) {
  if (options.out.ends_with(".csv")) return io::to_csv(layer);
  if (options.out.ends_with(".json")) return io::to_json(layer);
  if (!options.out.ends_with(".png")) {
    throw Refused{"--out: found \"" + options.out + "\", expected a name that ends in .csv, .json or .png"};
  }
  if (options.ramp) return io::to_ramp_png(layer);
  auto grey = io::to_grey_png(layer);
  if (!grey) throw Refused{grey.error().message()};
  return std::move(grey).value();
}

Answer export_layer(const LayerCommand& options) {
  const io::Scenario scenario = load(options.common);
  const io::Layer layer = make_layer(scenario, options);
  Answer answer;
  answer.json = {{"command", "layer"}, {"layer", options.name}};
  if (options.out.empty()) {
    answer.text = io::to_csv(layer);
    answer.json["size"] = {scenario.map.size().cols, scenario.map.size().rows};
    answer.json["rows"] = Json::parse(io::to_json(layer))["rows"];
    return answer;
  }
  add_file(answer, options.out, bytes_of(layer, options));
  answer.text = fmt::format("{}: layer {} of {} x {} cells\n", options.out, options.name, scenario.map.size().cols,
                            scenario.map.size().rows);
  answer.json["file"] = options.out;
  return answer;
}

}  // namespace

void add_layer(CLI::App& app, Chosen& chosen) {
  auto options = std::make_shared<LayerCommand>();
  CLI::App& command = *app.add_subcommand("layer", "one number per cell, for other programs");
  command.footer("Example: saunter layer demo/strand.toml clearance --mover crab --out clearance.csv");
  add_scenario(command, options->common);
  command.add_option("LAYER", options->name, "terrain, height, cost, clearance or regions")->required();
  command.add_option("--mover", options->mover, "whose costs, clearance and regions (default: the first mover)");
  command.add_option("--out", options->out, "FILE.csv, FILE.json or FILE.png (default: CSV to standard output)");
  command.add_flag("--ramp", options->ramp, "PNG in colours from pale to dark instead of 16-bit grey");
  command.callback([&chosen, options] { chosen = {[options] { return export_layer(*options); }, &options->common}; });
}

}  // namespace saunter::app
