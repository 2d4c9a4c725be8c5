#include <fmt/format.h>

#include <algorithm>

#include "saunter/draw/overlay/field.hpp"
#include "saunter/draw/overlay/marks.hpp"
#include "saunter/search/searcher.hpp"
#include "scene.hpp"

namespace saunter::app {
namespace {

class FieldCommand final : public Command {
 public:
  FieldCommand()
      : Command("field", "the cost and the next step to a goal from every cell",
                "field demo/strand.toml --mover crab --to 45,25 --to 3,4 --draw field.png") {}

  void add_words(Words& words) override {
    words.heading("Question");
    words.cells("--to", to_, "goal cell as col,row; several: to the one that is cheapest").required();
    words.hundredths("--budget", limits_.budget, 0, max_cost, "leave out cells from where it costs more");
    words.flag("--steps", limits_.count_steps, "count steps, whatever they cost");
    words.heading("Who walks");
    words.text("--mover", mover_, "who walks (default: the first mover of the file)");
    words.heading("Answer");
    words.file("--csv", csv_, "write the costs, one line a row, - where there is no way");
  }

  Answer answer() override {
    ready_.make(common, {mover_, {}});
    std::vector<Source> goals;
    goals.reserve(to_.size());
    for (const Cell cell : to_) goals.push_back({cell});
    field_ = Searcher().field_to(ready_.costs, goals, limits_);

    Answer answer;
    answer.json = {{"command", "field"},
                   {"goals", Json::array()},
                   {"reached", field_.reached_count()},
                   {"overflowed", field_.overflowed()},
                   {"reason", nullptr},
                   {"at", nullptr}};
    const std::string left_out = sort_goals(answer);
    const auto& unused = field_.unused();
    if (unused.size() == to_.size()) {
      ready_.refuse_cell(answer, "no goal can be used", unused.front().verdict);
      return answer;
    }
    answer.text =
        fmt::format("{} gets to {} of {} from {}\n{}", ready_.mover->name, counted(used_.size(), "goal", "goals"),
                    to_.size(), counted(field_.reached_count(), "cell", "cells"), left_out);
    if (field_.overflowed()) answer.text += "some cells were left out: their cost does not fit\n";
    if (!csv_.empty()) add_file(answer, csv_, csv());
    answer.picture = picture();
    if (common.wants_page()) answer.replay = {{"field", field_json()}};
    return answer;
  }

 private:
  /// Which goals can be used, and words about the others.
  std::string sort_goals(Answer& answer) {
    const auto& unused = field_.unused();
    std::string left_out;
    for (std::size_t i = 0; i < to_.size(); ++i) {
      const auto found =
          std::find_if(unused.begin(), unused.end(), [&](const UnusedSource& u) { return u.number == i; });
      if (found == unused.end()) {
        answer.json["goals"].push_back(json_cell(to_[i]));
        used_.push_back(to_[i]);
      } else {
        left_out += "left out: " + to_string(found->verdict) + "\n";
      }
    }
    Json list = Json::array();
    for (const UnusedSource& u : unused) {
      list.push_back({{"reason", reason_name(u.verdict.reason)}, {"at", json_cell(u.verdict.at)}});
    }
    answer.json["unused"] = list;
    return left_out;
  }

  /// For each cell its cost, -1 where there is no way, and how far on in the list the next cell is.
  [[nodiscard]] Json field_json() const {
    const Size size = ready_.costs.size();
    std::vector<std::int64_t> costs;
    std::vector<std::int64_t> next;
    for (const Cell cell : size.cells()) {
      const auto to = field_.next(cell);
      costs.push_back(field_.reached(cell) ? std::int64_t{field_.cost(cell)} : -1);
      next.push_back(to ? std::int64_t{size.index(*to).value()} - std::int64_t{size.index(cell).value()} : 0);
    }
    return {{"costs", runs_of(costs)}, {"next", runs_of(next)}};
  }

  [[nodiscard]] std::string csv() const {
    io::Layer layer = filled(ready_.costs.size(), [&](Cell cell) {
      return field_.reached(cell) ? std::int64_t{field_.cost(cell)} : io::Layer::none;
    });
    layer.hundredths = true;
    return io::to_csv(layer);
  }

  [[nodiscard]] draw::Picture picture() const {
    draw::Picture picture = ready_.picture();
    picture.facts = {{"mover", ready_.mover->name},
                     {"goals", std::to_string(used_.size())},
                     {"cells with a way", std::to_string(field_.reached_count())}};
    picture.add(draw::FieldCosts(field_)).add(draw::FieldArrows(field_));
    picture.add(draw::Ends(draw::Ends::Kind::goal, used_));
    return picture;
  }

  std::string mover_;
  std::vector<Cell> to_;
  FieldOptions limits_;
  std::string csv_;

  Ready ready_;
  Field field_;
  std::vector<Cell> used_;  // goals that can be
};

}  // namespace

std::unique_ptr<Command> make_field() { return std::make_unique<FieldCommand>(); }

}  // namespace saunter::app
