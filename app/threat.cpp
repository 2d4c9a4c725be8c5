#include <fmt/format.h>

#include <algorithm>

#include "saunter/draw/overlay/marks.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

class ThreatCommand final : public Command {
 public:
  ThreatCommand()
      : Command("threat", "how dangerous each cell is, and from which side",
                "threat demo/gulls.toml --at 12,9 --facing n --draw threat.png") {}

  void add_words(Words& words) override {
    words.heading("Question");
    words.cell("--at", at_, "tell about this cell: its level, from which sides and threats");
    words.text("--facing", facing_, "what is ahead, behind and on the flanks of one who faces this side");
    words.whole("--tick", tick_, 0, 1'000'000'000, "at this tick, for threats with a schedule (default: 0)");
    words.text("--as", as_unit_, "a unit that does not hide anything");
    words.heading("Answer");
    words.file("--csv", csv_, "write the level of each cell, - for void");
    words.need({"--facing"}, {"--at"});
  }

  Answer answer() override {
    scenario_ = load(common);
    const Map& map = scenario_.map;
    if (at_) check_on_map(map, *at_, "--at");
    check_unit(scenario_, as_unit_);
    watch_ = Watch(scenario_, as_unit_, tick_.value_or(0));
    const ThreatField& field = watch_.field;

    Answer answer;
    const auto levels = field.levels().values();
    const auto exposed = levels.size() - static_cast<std::size_t>(std::count(levels.begin(), levels.end(), 0));
    const std::string threats = counted(scenario_.threats.size(), "threat", "threats");
    answer.json = {{"command", "threat"}, {"cells", exposed}, {"max", field.highest()}, {"at", nullptr},
                   {"level", nullptr},    {"sides", nullptr}, {"sources", nullptr},     {"tick", tick_.value_or(0)}};
    answer.text =
        fmt::format("{} exposed to {}, at most {}\n", counted(exposed, "cell", "cells"), threats, field.highest());
    if (at_) tell_about(*at_, answer);
    if (!csv_.empty()) {
      add_file(answer, csv_, io::to_csv(filled(map.size(), [&](Cell cell) {
                 return map.kind(map.terrain_at(cell)).is_void ? io::Layer::none : std::int64_t{field.level(cell)};
               })));
    }
    draw::Picture picture = picture_of(scenario_);
    if (tick_) picture.facts.emplace_back("tick", std::to_string(*tick_));
    picture.facts.insert(picture.facts.end(), {{"threats", std::to_string(scenario_.threats.size())},
                                               {"cells exposed", std::to_string(exposed)},
                                               {"highest level", std::to_string(field.highest())}});
    picture.add(draw::Danger(field)).add(draw::Threats(watch_.threats));
    if (at_) picture.add(draw::Ring(*at_, fmt::format("level {} at {}", field.level(*at_), show(*at_))));
    answer.picture = std::move(picture);
    return answer;
  }

 private:
  void tell_about(Cell at, Answer& answer) const {
    const ThreatField& field = watch_.field;
    const Tiling tiling = field.board().tiling;
    answer.json["at"] = json_cell(at);
    answer.json["level"] = field.level(at);
    answer.json["sides"] = Json::object();
    for (Side side{0}; side < side_count(tiling); ++side) {
      answer.json["sides"][std::string(side_name(tiling, side))] = field.side(at, side);
    }
    answer.text += fmt::format("at {}: level {}\n", show(at), field.level(at));
    Json from = Json::array();
    for (std::size_t i = 0; i < scenario_.threats.size(); ++i) {
      const io::NamedThreat& named = scenario_.threats[i];
      const int level = field.level_from(static_cast<ThreatField::ThreatId>(i), at);
      if (level == 0) continue;
      const Cell from_there = watch_.threats[i].threat.at;
      const bool here = from_there == at;
      const std::string side(here ? "all sides" : side_name(tiling, side_towards(tiling, at, from_there)));
      from.push_back({{"name", named.name}, {"level", level}, {"side", here ? Json() : Json(side)}});
      answer.text += fmt::format("  {} from {} at {}: {}\n", level, named.name, show(from_there), side);
    }
    answer.json["sources"] = from;
    if (!facing_.empty()) tell_around(at, answer);
  }

  void tell_around(Cell at, Answer& answer) const {
    const Tiling tiling = watch_.field.board().tiling;
    const Side facing = side_named(tiling, facing_);
    if (facing < 0) {
      std::string names;
      for (Side side{0}; side < side_count(tiling); ++side) {
        names += (side == 0 ? "" : " ") + std::string(side_name(tiling, side));
      }
      Words::refuse_word("--facing", facing_, "a side: " + names);
    }
    const ThreatAround around = watch_.field.around(at, facing);
    answer.json["around"] = {
        {"ahead", around.ahead}, {"behind", around.behind}, {"left", around.left}, {"right", around.right}};
    answer.text += fmt::format("facing {}: {} ahead, {} behind, {} on the left flank, {} on the right\n", facing_,
                               around.ahead, around.behind, around.left, around.right);
  }

  std::optional<Cell> at_;
  std::string facing_;
  std::optional<std::uint32_t> tick_;
  std::string as_unit_;
  std::string csv_;

  io::Scenario scenario_;
  Watch watch_;
};

}  // namespace

std::unique_ptr<Command> make_threat() { return std::make_unique<ThreatCommand>(); }

}  // namespace saunter::app
