#include <fmt/format.h>

#include <algorithm>

#include "saunter/draw/overlay/marks.hpp"
#include "saunter/draw/overlay/path.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

class SightCommand final : public Command {
 public:
  SightCommand()
      : Command("sight", "what is seen from a cell, and what hides the rest",
                "sight demo/gulls.toml --from 17,4 --range 9 --draw sight.png") {}

  void add_words(Words& words) override {
    words.heading("Question");
    words.cell("--from", from_, "the viewer's cell as col,row").required();
    words.cell("--to", to_, "only: is this cell seen?");
    words.hundredths("--range", range_, 0, std::int64_t{max_line_cells} * 100,
                     "no farther than so many steps, straight (default: the whole map)");
    words.text("--as", as_unit_, "a unit that does not hide anything, such as the viewer itself");
  }

  Answer answer() override {
    scenario_ = load(common);
    check_unit(scenario_, as_unit_);
    check_on_map(scenario_.map, from_, "--from");
    if (to_) check_on_map(scenario_.map, *to_, "--to");
    sight_ = scenario_.sight(as_unit_);
    Answer answer;
    answer.json = {{"command", "sight"}, {"sees", nullptr}, {"visible", nullptr}, {"reason", nullptr}, {"at", nullptr}};
    answer.picture = picture_of(scenario_);
    answer.picture->facts = {{"from", show(from_)}};
    if (range_) answer.picture->facts.emplace_back("range", to_decimal(*range_));
    if (to_) {
      look_at(answer);
    } else {
      look_round(answer);
    }
    answer.picture->add(draw::Ends(draw::Ends::Kind::start, {from_}));
    return answer;
  }

 private:
  /// Whether one cell sees another, and what stands between.
  void look_at(Answer& answer) const {
    const bool within = !range_ || distance_squared(sight_.board().tiling, from_, *to_) <= farthest_squared(*range_);
    const std::optional<Cell> between = hidden_by(sight_, from_, *to_);
    const bool seen = within && !between;
    answer.exit_code = seen ? exit_yes : exit_no;
    answer.json["sees"] = seen;
    std::vector<Cell> hiding;
    if (!within) {
      answer.json["reason"] = "out-of-range";
      answer.json["at"] = json_cell(*to_);
      answer.text = fmt::format("{} does not see {}: out of range\n", show(from_), show(*to_));
    } else if (between) {
      hiding = {*between};
      answer.json["reason"] = "hidden";
      answer.json["at"] = json_cell(*between);
      answer.text = fmt::format("{} does not see {}: hidden by {}\n", show(from_), show(*to_), show(*between));
    } else {
      answer.text = fmt::format("{} sees {}\n", show(from_), show(*to_));
    }
    answer.picture->facts.emplace_back("sees " + show(*to_), seen ? "yes" : within ? "no" : "no: out of range");
    answer.picture->add(draw::SightLine(from_, *to_, hiding)).add(draw::Ends(draw::Ends::Kind::goal, {*to_}));
  }

  void look_round(Answer& answer) {
    std::vector<Cell> visible;
    Lookout().visible(sight_, from_, range_, visible);
    const Map& map = scenario_.map;
    std::erase_if(visible, [&](Cell cell) { return map.kind(map.terrain_at(cell)).is_void; });
    std::sort(visible.begin(), visible.end());
    seen_ = BitGrid(map.size());
    for (const Cell cell : visible) seen_.set(cell);
    answer.json["visible"] = json_cells(visible);
    answer.text = fmt::format("{} sees {}\n", show(from_), counted(visible.size(), "cell", "cells"));
    answer.picture->facts.emplace_back("cells seen", std::to_string(visible.size()));
    answer.picture->add(draw::Unseen(seen_));
  }

  Cell from_;
  std::optional<Cell> to_;
  std::optional<Hundredths> range_;
  std::string as_unit_;

  io::Scenario scenario_;
  SightGrid sight_;
  BitGrid seen_;
};

}  // namespace

std::unique_ptr<Command> make_sight() { return std::make_unique<SightCommand>(); }

}  // namespace saunter::app
