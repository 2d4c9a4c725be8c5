#include <fmt/format.h>

#include <algorithm>
#include <array>

#include "shared.hpp"

namespace saunter::app {
namespace {

struct DrawCommand {
  Common common;
  std::string mover;
  std::string layers = "terrain,barriers,units";
  bool diamond = false;
};

struct Kept {
  io::Scenario scenario;
  std::optional<CostGrid> costs;
  std::vector<draw::Thing> things;
  Watch watch = {};
};

struct LayerName {
  const char* name;
  bool draw::Layers::*flag;
};
constexpr std::array<LayerName, 6> layer_names = {{
    {"terrain", &draw::Layers::terrain},
    {"cost", &draw::Layers::cost},
    {"height", &draw::Layers::height},
    {"blocked", &draw::Layers::blocked},
    {"barriers", &draw::Layers::barriers},
    {"units", &draw::Layers::units},
}};

/// What is asked for: layers of the map, and `threat`, which is reckoned.
struct Wanted {
  draw::Layers layers;
  bool threat = false;
};

Wanted parse_layers(const std::string& text) {
  Wanted wanted;
  draw::Layers& layers = wanted.layers;
  for (const LayerName& layer : layer_names) layers.*layer.flag = false;
  for (const std::string& word : split(text, ',')) {
    if (word == "threat") {
      wanted.threat = true;
      continue;
    }
    const auto* const found = std::find_if(layer_names.begin(), layer_names.end(),
                                           [&](const LayerName& layer) { return word == layer.name; });
    if (found == layer_names.end()) {
      throw Refused{"--layers: found \"" + word +
                    "\", expected a list of terrain, cost, height, blocked, barriers, units, threat"};
    }
    layers.*found->flag = true;
  }
  return wanted;
}

Answer draw_map(const DrawCommand& options) {
  const Wanted wanted = parse_layers(options.layers);
  const draw::Layers layers = wanted.layers;
  auto kept = std::make_shared<Kept>(Kept{.scenario = load(options.common), .costs = {}, .things = {}});
  const Map& map = kept->scenario.map;
  kept->things = things_of(kept->scenario);
  draw::Picture picture{.title = kept->scenario.title, .map = &map, .layers = layers, .things = kept->things};
  picture.diamond = options.diamond;
  if (layers.cost || layers.blocked) {
    const Mover& mover = choose_mover(kept->scenario, options.mover);
    kept->costs = bake_for(kept->scenario, mover);
    picture.costs = &*kept->costs;
    picture.mover = &mover;
    picture.facts = {{"mover", mover.name}};
  }
  if (wanted.threat) {
    kept->watch = Watch(kept->scenario, "");
    picture.threat = &kept->watch.field;
    picture.watchers = kept->watch.watchers;
  }
  Answer answer;
  const draw::Layout layout = draw::layout(picture);
  answer.json = {{"command", "draw"}};
  answer.json["file"] = options.common.draw.empty() ? Json() : Json(options.common.draw);
  answer.json["width"] = layout.width;
  answer.json["height"] = layout.height;
  if (!options.common.json) answer.terminal_picture = terminal_picture(picture);
  if (!options.common.draw.empty()) {
    answer.terminal_picture.clear();
    answer.text = fmt::format("{}: {} x {} pixels\n", options.common.draw, layout.width, layout.height);
  }
  answer.pictures = {picture};
  answer.keep = kept;
  return answer;
}

}  // namespace

void add_draw(CLI::App& app, Chosen& chosen) {
  auto options = std::make_shared<DrawCommand>();
  CLI::App& command = *app.add_subcommand("draw", "a picture of a map, in layers");
  command.footer("Example: saunter draw demo/strand.toml --layers cost,units --mover crab --draw costs.png");
  add_common(command, options->common);
  command.add_option("--mover", options->mover, "whose costs are shown (default: the first mover)");
  command.add_option("--layers", options->layers,
                     "terrain, cost, height, blocked, barriers, units, threat; separated by commas");
  command.add_flag("--diamond", options->diamond, "the sheared view of isometric games");
  command.callback([&chosen, options] { chosen = {[options] { return draw_map(*options); }, &options->common}; });
}

}  // namespace saunter::app
