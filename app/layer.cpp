#include "saunter/io/layer.hpp"

#include <fmt/format.h>

#include "saunter/ground/clearance.hpp"
#include "saunter/io/files.hpp"
#include "saunter/region/regions.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

enum class Kind : std::uint8_t { terrain, height, cost, clearance, regions };

class LayerCommand final : public Command {
 public:
  LayerCommand()
      : Command("layer", "one number per cell, for other programs",
                "layer demo/strand.toml clearance --mover crab --out clearance.csv", Takes::scenario) {}

  void add_words(Words& words) override {
    words
        .choice<Kind>("LAYER", kind_,
                      {{"terrain", Kind::terrain},
                       {"height", Kind::height},
                       {"cost", Kind::cost},
                       {"clearance", Kind::clearance},
                       {"regions", Kind::regions}},
                      "terrain, height, cost, clearance or regions")
        .required();
    words.heading("Question");
    words.text("--mover", mover_, "whose costs, clearance and regions (default: the first mover)");
    words.heading("Answer");
    words.file("--out", out_, "FILE.csv, FILE.json or FILE.png (default: CSV to standard output)");
    words.flag("--ramp", ramp_, "PNG in colours from pale to dark instead of 16-bit grey");
  }

  Answer answer() override {
    const io::Scenario scenario = load(common);
    const Size size = scenario.map.size();
    const io::Layer layer = make_layer(scenario);
    Answer answer;
    answer.json = {{"command", "layer"}, {"layer", name()}};
    if (out_.empty()) {
      answer.text = io::to_csv(layer);
      answer.json["size"] = {size.cols, size.rows};
      answer.json["rows"] = Json::parse(io::to_json(layer))["rows"];
      return answer;
    }
    add_file(answer, out_, bytes_of(layer));
    answer.text = fmt::format("{}: layer {} of {} x {} cells\n", out_, name(), size.cols, size.rows);
    answer.json["file"] = out_;
    return answer;
  }

 private:
  [[nodiscard]] const char* name() const {
    constexpr std::array names = {"terrain", "height", "cost", "clearance", "regions"};
    return names[static_cast<std::size_t>(kind_)];
  }

  [[nodiscard]] io::Layer make_layer(const io::Scenario& scenario) const {
    const Map& map = scenario.map;
    if (kind_ == Kind::terrain) return filled(map.size(), [&](Cell cell) { return map.terrain_at(cell); });
    if (kind_ == Kind::height) return filled(map.size(), [&](Cell cell) { return map.height_at(cell); });
    Mover mover = choose_mover(scenario, mover_);
    if (kind_ == Kind::clearance) mover.size = 1;
    const CostGrid costs = bake_for(scenario, mover);
    if (kind_ == Kind::cost) {
      io::Layer layer = filled(map.size(), [&](Cell cell) { return none_for_zero(costs.entry(cell)); });
      layer.hundredths = true;
      return layer;
    }
    if (kind_ == Kind::clearance) {
      const Grid<std::uint8_t> largest = clearance(costs);
      return filled(map.size(), [&](Cell cell) { return none_for_zero(largest[cell]); });
    }
    const Regions regions(costs);
    return filled(map.size(), [&](Cell cell) { return none_for_zero(regions.at(cell)); });
  }

  [[nodiscard]] std::string bytes_of(const io::Layer& layer) const {
    if (out_.ends_with(".csv")) return io::to_csv(layer);
    if (out_.ends_with(".json")) return io::to_json(layer);
    if (!out_.ends_with(".png")) Words::refuse_word("--out", out_, "a name that ends in .csv, .json or .png");
    if (ramp_) return io::to_ramp_png(layer);
    auto grey = io::to_grey_png(layer);
    if (!grey) throw Refused{grey.error().message()};
    return std::move(grey).value();
  }

  Kind kind_ = Kind::terrain;
  std::string mover_;
  std::string out_;
  bool ramp_ = false;
};

}  // namespace

std::unique_ptr<Command> make_layer() { return std::make_unique<LayerCommand>(); }

}  // namespace saunter::app
