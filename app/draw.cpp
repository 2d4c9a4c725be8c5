#include <fmt/format.h>

#include "saunter/draw/overlay/ground.hpp"
#include "saunter/draw/overlay/rim.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

/// What is asked for: layers of the map, and danger, which is reckoned.
struct Layers {
  bool terrain = false;
  bool cost = false;
  bool height = false;
  bool blocked = false;
  bool barriers = false;
  bool units = false;
  bool threat = false;
};

Layers parse_layers(const std::string& text) {
  Layers layers;
  const std::array<std::pair<const char*, bool*>, 7> known = {{{"terrain", &layers.terrain},
                                                               {"cost", &layers.cost},
                                                               {"height", &layers.height},
                                                               {"blocked", &layers.blocked},
                                                               {"barriers", &layers.barriers},
                                                               {"units", &layers.units},
                                                               {"threat", &layers.threat}}};
  for (const std::string& word : split(text, ',')) {
    bool found = false;
    for (const auto& [name, flag] : known) {
      if (word != name) continue;
      *flag = true;
      found = true;
    }
    if (!found) {
      Words::refuse_word("--layers", word, "a list of terrain, cost, height, blocked, barriers, units, threat");
    }
  }
  return layers;
}

class DrawCommand final : public Command {
 public:
  DrawCommand()
      : Command("draw", "a picture of a map, in layers",
                "draw demo/strand.toml --layers cost,units --mover crab --draw costs.png") {}

  void add_words(Words& words) override {
    words.heading("What is shown");
    words.text("--layers", layers_,
               "terrain, cost, height, blocked, barriers, units, threat; separated by commas (default: "
               "terrain,barriers,units)");
    words.text("--mover", mover_, "whose costs are shown (default: the first mover)");
    words.flag("--diamond", diamond_, "the sheared view of isometric games");
  }

  Answer answer() override {
    const Layers layers = parse_layers(layers_);
    scenario_ = load(common);
    const Map& map = scenario_.map;
    draw::Picture picture(scenario_.title, map);
    picture.diamond = diamond_;
    const Mover* const mover = layers.cost || layers.blocked ? &choose_mover(scenario_, mover_) : nullptr;
    if (mover != nullptr) {
      costs_ = bake_for(scenario_, *mover);
      picture.facts = {{"mover", mover->name}};
    }
    if (layers.cost) {
      picture.add(draw::EntryCosts(costs_));
    } else if (layers.height && map.has_heights()) {
      picture.add(draw::Heights(map));
    } else if (layers.terrain) {
      picture.add(draw::Terrains(mover));
    }
    picture.add(draw::Outlines()).add(draw::Coordinates());
    if (layers.blocked) picture.add(draw::Blocked(costs_));
    if (layers.barriers) picture.add(draw::Barriers());
    if (layers.units) picture.add(units_of(scenario_));
    if (layers.threat) {
      watch_ = Watch(scenario_, "");
      picture.add(draw::Danger(watch_.field)).add(draw::Threats(watch_.threats));
    }
    return answer_with(std::move(picture));
  }

 private:
  [[nodiscard]] Answer answer_with(draw::Picture picture) const {
    Answer answer;
    const draw::Layout layout = draw::layout(picture, common.pixels.value_or(draw::PixelSize{}));
    answer.json = {{"command", "draw"}};
    answer.json["file"] = common.draw.empty() ? Json() : Json(common.draw);
    answer.json["width"] = layout.width;
    answer.json["height"] = layout.height;
    if (common.draw.empty()) {
      answer.text = fmt::format("{}: {} x {} cells; --draw FILE.png writes a picture, --view shows it in characters\n",
                                scenario_.title, scenario_.map.size().cols, scenario_.map.size().rows);
    } else {
      answer.text = fmt::format("{}: {} x {} pixels\n", common.draw, layout.width, layout.height);
    }
    answer.picture = std::move(picture);
    return answer;
  }

  std::string mover_;
  std::string layers_ = "terrain,barriers,units";
  bool diamond_ = false;

  io::Scenario scenario_;
  CostGrid costs_;
  Watch watch_;
};

}  // namespace

std::unique_ptr<Command> make_draw() { return std::make_unique<DrawCommand>(); }

}  // namespace saunter::app
