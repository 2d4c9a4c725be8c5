#include <fmt/format.h>

#include "saunter/draw/overlay/field.hpp"
#include "saunter/draw/overlay/marks.hpp"
#include "saunter/draw/overlay/placing.hpp"
#include "saunter/search/searcher.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

class ReachCommand final : public Command {
 public:
  ReachCommand()
      : Command("reach", "where a unit gets with its movement points",
                "reach demo/strand.toml --mover crab --from 30,12 --budget 8") {}

  void add_words(Words& words) override {
    words.heading("Question");
    words.cell("--from", from_, "start cell as col,row").required();
    words.hundredths("--budget", limits_.budget, 0, max_cost, "movement points (default: no limit)");
    words.whole("--range", range_, 0, most_edge_steps,
                "then acts on cells this many edge steps away: these are told too");
    mover_words_.add_words(words);
  }

  Answer answer() override {
    ready_.make(common, mover_words_);
    field_ = Searcher().reach(ready_.costs, from_, limits_);
    Answer answer;
    answer.json = {{"command", "reach"}, {"budget", limits_.budget ? json_cost(*limits_.budget) : Json()}};
    answer.json["cells"] = Json::array();
    if (!field_.unused().empty()) {
      ready_.refuse_cell(answer, ready_.mover->name + " reaches nothing", field_.unused().front().verdict);
      return answer;
    }
    for (const Cell cell : ready_.costs.size().cells()) {
      if (field_.reached(cell)) answer.json["cells"].push_back({cell.col, cell.row, json_cost(field_.cost(cell))});
    }
    const std::string within = limits_.budget ? " within " + to_decimal(*limits_.budget) : "";
    answer.text = fmt::format("{} reaches {}{} from {}\n", ready_.mover->name, reached(), within, show(from_));
    if (range_) find_in_range(answer);
    answer.json["overflowed"] = field_.overflowed();
    if (field_.overflowed()) answer.text += "some cells were left out: their cost does not fit\n";
    answer.picture = picture();
    return answer;
  }

 private:
  [[nodiscard]] std::string reached() const { return counted(field_.reached_count(), "cell", "cells"); }

  void find_in_range(Answer& answer) {
    BitGrid near;
    cells_in_range(field_, *range_, near);
    answer.json["in_range"] = Json::array();
    for (const Cell cell : ready_.costs.size().cells()) {
      if (!near.test(cell)) continue;
      answer.json["in_range"].push_back(json_cell(cell));
      if (!field_.reached(cell)) in_range_.push_back(cell);
    }
    answer.text +=
        fmt::format("from there {} within {}\n", counted(in_range_.size(), "more cell lies", "more cells lie"),
                    counted(static_cast<std::uint64_t>(*range_), "edge step", "edge steps"));
  }

  [[nodiscard]] draw::Picture picture() const {
    draw::Picture picture = ready_.picture();
    picture.facts = {{"mover", ready_.mover->name}, {"reaches", reached()}};
    if (limits_.budget) picture.facts.emplace_back("budget", to_decimal(*limits_.budget));
    if (range_) picture.facts.emplace_back("acts within", std::to_string(*range_));
    picture.add(draw::FieldCosts(field_)).add(draw::InRange(in_range_));
    picture.add(draw::Ends(draw::Ends::Kind::start, {from_}));
    return picture;
  }

  MoverWords mover_words_;
  Cell from_;
  FieldOptions limits_;
  std::optional<int> range_;

  Ready ready_;
  Field field_;
  std::vector<Cell> in_range_;  // what can be acted on but not walked to
};

}  // namespace

std::unique_ptr<Command> make_reach() { return std::make_unique<ReachCommand>(); }

}  // namespace saunter::app
