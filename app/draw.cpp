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

draw::Layers parse_layers(const std::string& text) {
  draw::Layers layers;
  for (const LayerName& layer : layer_names) layers.*layer.flag = false;
  for (const std::string& word : split(text, ',')) {
    const auto* const found = std::find_if(layer_names.begin(), layer_names.end(),
                                           [&](const LayerName& layer) { return word == layer.name; });
    if (found == layer_names.end()) {
      throw Refused{"--layers: found \"" + word +
                    "\", expected a list of terrain, cost, height, blocked, barriers, units"};
    }
    layers.*found->flag = true;
  }
  return layers;
}

Answer draw_map(const DrawCommand& options) {
  const draw::Layers layers = parse_layers(options.layers);
  auto kept = std::make_shared<Kept>(Kept{load(options.common), {}, {}});
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
                     "terrain, cost, height, blocked, barriers, units; separated by commas");
  command.add_flag("--diamond", options->diamond, "the sheared view of isometric games");
  command.callback([&chosen, options] { chosen = {[options] { return draw_map(*options); }, &options->common}; });
}

}  // namespace saunter::app
