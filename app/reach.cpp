#include <fmt/format.h>

#include "saunter/draw/overlay/field.hpp"
#include "saunter/draw/overlay/marks.hpp"
#include "saunter/draw/overlay/placing.hpp"
#include "saunter/draw/overlay/turns.hpp"
#include "saunter/turn/acting.hpp"
#include "turning.hpp"

namespace saunter::app {
namespace {

class ReachCommand final : public Command {
 public:
  ReachCommand()
      : Command("reach", "where a unit gets with its movement points, and what it can act on from there",
                "reach demo/strand.toml --mover crab --from 30,12 --budget 8 --stop-around 34,10:1 --range 1-2") {}

  void add_words(Words& words) override {
    words.heading("Question");
    words.cell("--from", from_, "start cell as col,row").required();
    words.hundredths("--budget", budget_, 0, max_cost, "movement points (default: no limit)");
    words.text("--range", range_words_,
               "then acts on cells A to B edge steps away, A-B or B alone: these are told too, and from where");
    words.flag("--touch", touches_, "then acts on cells across an edge without a barrier between");
    words.flag("--range-sight", by_sight_, "acts only on what it sees");
    words.cell("--why", asked_,
               "tell why the move may end on this cell, or why not; with --range or --touch also why it can act");
    turn_words_.add_words(words);
    mover_words_.add_words(words);
    words.need({"--range-sight"}, {"--range"});
    words.exclude({"--touch"}, {"--range"});
  }

  Answer answer() override {
    if (!range_words_.empty()) parse_range();
    ready_.make(common, mover_words_);
    turning_.make(turn_words_, ready_, mover_words_.as_unit);
    turn_.ask(ready_.costs, from_, turning_.terms(budget_));
    Answer answer;
    answer.json = {{"command", "reach"},     {"budget", budget_ ? json_cost(*budget_) : Json()},
                   {"cells", Json::array()}, {"left", nullptr},
                   {"overflowed", false},    {"reason", nullptr},
                   {"at", nullptr}};
    if (turn_.verdict().reason != Reason::found) {
      ready_.refuse_cell(answer, ready_.mover->name + " reaches nothing", turn_.verdict());
      return answer;
    }
    tell_ends(answer);
    if (acts()) find_in_range(answer);
    if (asked_) tell_why(answer);
    answer.json["overflowed"] = turn_.field().overflowed();
    if (turn_.field().overflowed()) answer.text += "some cells were left out: their cost does not fit\n";
    answer.picture = picture();
    return answer;
  }

 private:
  [[nodiscard]] bool acts() const { return touches_ || !range_words_.empty(); }
  /// "2-4" or "3"
  void parse_range() {
    const std::size_t dash = range_words_.find('-', 1);
    const auto number = [&](const std::string& text, std::int64_t least) {
      return static_cast<int>(Words::parse_whole(text, "--range", least, most_edge_steps));
    };
    if (dash != std::string::npos) range_.least = number(range_words_.substr(0, dash), 0);
    range_.most = number(range_words_.substr(dash == std::string::npos ? 0 : dash + 1), range_.least);
  }

  void tell_ends(Answer& answer) {
    Json left = Json::array();
    turn_.for_each_end([&](Cell cell, Cost cost) {
      ++ends_;
      answer.json["cells"].push_back({cell.col, cell.row, json_cost(cost)});
      if (budget_) left.push_back(json_cost(turn_.left(cell).value_or(0)));
    });
    answer.json["left"] = budget_ ? left : Json();
    const std::string within = budget_ ? " within " + to_decimal(*budget_) : "";
    answer.text = fmt::format("{} reaches {}{} from {}\n", ready_.mover->name, reached(), within, show(from_));
    const std::size_t over = turn_.field().reached_count() - ends_;
    if (over > 0) answer.text += fmt::format("it passes over {} more\n", counted(over, "cell", "cells"));
  }

  [[nodiscard]] std::string reached() const { return counted(ends_, "cell", "cells"); }
  [[nodiscard]] std::string range_text() const {
    if (touches_) return "across an open edge";
    const std::string most = counted(static_cast<std::uint64_t>(range_.most), "edge step", "edge steps");
    return range_.least == 0 ? "within " + most : std::to_string(range_.least) + " to " + most + " away";
  }

  void find_in_range(Answer& answer) {
    nowhere_ = void_terrain(ready_.scenario.map);
    range_.nowhere = &nowhere_;
    if (touches_) range_.touch = &ready_.costs;
    if (by_sight_) {
      sight_ = ready_.scenario.sight(mover_words_.as_unit);
      range_.sight = &sight_;
    }
    acting_.ask(turn_, range_);
    answer.json["in_range"] = Json::array();
    answer.json["act_from"] = Json::array();
    BitGrid striking(ready_.costs.size());
    acting_.for_each([&](Cell cell, Cell from) {
      answer.json["in_range"].push_back(json_cell(cell));
      answer.json["act_from"].push_back(json_cell(from));
      ++targets_;
      if (turn_.can_end(cell)) return;
      in_range_.push_back(cell);
      striking.set(from);
    });
    striking.for_each_set([&](Cell cell) { striking_.push_back(cell); });
    answer.text += fmt::format("from there it can act on {} {}, {} of them beyond its reach\n",
                               counted(targets_, "cell", "cells"), range_text(), in_range_.size());
  }

  /// Who stands where, for naming who is in the way; units passed over are not.
  [[nodiscard]] Grid<UnitId> standing() const {
    Grid<UnitId> units(ready_.costs.size());
    for (std::size_t i = 0; i < ready_.scenario.units.size(); ++i) {
      const io::Unit& unit = ready_.scenario.units[i];
      if (!unit.blocks || unit.name == mover_words_.as_unit) continue;
      for (const Cell cell : unit.cells) units[cell] = static_cast<UnitId>(i + 1);
    }
    for (const Cell cell : turning_.passed_cells) units[cell] = 0;
    return units;
  }

  void tell_why(Answer& answer) {
    const Grid<UnitId> units = standing();
    const TurnReason why = turn_.why(ready_.costs, *asked_, &units);
    const std::string by = why.by == 0 ? "" : ready_.scenario.units[why.by - 1].name;
    const bool led_to = why.answer == TurnAnswer::reached || why.answer == TurnAnswer::passed_over;
    const bool priced = led_to || why.answer == TurnAnswer::stop_between || why.answer == TurnAnswer::too_dear;
    const bool placed = why.answer == TurnAnswer::stop_between || why.answer == TurnAnswer::occupied;
    Json json = {{"at", json_cell(*asked_)},
                 {"move", answer_name(why.answer)},
                 {"cost", priced ? json_cost(why.cost) : Json()},
                 {"left", led_to && budget_ ? json_cost(why.left) : Json()},
                 {"missing", why.answer == TurnAnswer::too_dear ? json_cost(why.missing) : Json()},
                 {"place", placed ? json_cell(why.at) : Json()},
                 {"by", by.empty() ? Json() : Json(by)},
                 {"act", nullptr},
                 {"act_from", nullptr}};
    answer.text += fmt::format("{}: {}{}\n", show(*asked_), answer_name(why.answer), why_text(why, by));
    if (acts()) {
      const Strike strike = acting_.strike(turn_, range_, std::span(&*asked_, 1));
      json["act"] = answer_name(strike.answer);
      if (strike.answer == ActAnswer::can_act) json["act_from"] = json_cell(strike.from);
      answer.text += strike.answer == ActAnswer::can_act
                         ? fmt::format("  acted on from {}, cost {}\n", show(strike.from), to_decimal(strike.cost))
                         : fmt::format("  acting on it: {}\n", answer_name(strike.answer));
    }
    answer.json["why"] = json;
  }

  [[nodiscard]] std::string why_text(const TurnReason& why, const std::string& by) const {
    switch (why.answer) {
      case TurnAnswer::reached:
      case TurnAnswer::passed_over:
        return fmt::format(", cost {}{}", to_decimal(why.cost),
                           budget_ ? fmt::format(", {} left", to_decimal(why.left)) : "");
      case TurnAnswer::stop_between: return fmt::format(" at {}", show(why.at));
      case TurnAnswer::too_dear:
        return fmt::format(", cost {}: {} too much", to_decimal(why.cost), to_decimal(why.missing));
      case TurnAnswer::occupied: return fmt::format(" by {}", by);
      default: return {};
    }
  }

  [[nodiscard]] draw::Picture picture() const {
    draw::Picture picture = ready_.picture();
    picture.facts = {{"mover", ready_.mover->name}, {"reaches", reached()}};
    if (budget_) picture.facts.emplace_back("budget", to_decimal(*budget_));
    picture.add(draw::FieldCosts(turn_.field())).add(draw::InRange(in_range_));
    picture.add(draw::Stops(turning_.stop_cells)).add(draw::PassedOver(turning_.passed_cells));
    if (acts()) {
      picture.facts.emplace_back("acts", range_text());
      picture.add(draw::StrikingCells(striking_));
    }
    if (asked_) picture.add(draw::Ring(*asked_, "asked about"));
    picture.add(draw::Ends(draw::Ends::Kind::start, {from_}));
    return picture;
  }

  MoverWords mover_words_;
  TurnWords turn_words_;
  Cell from_;
  std::optional<Hundredths> budget_;
  std::string range_words_;
  bool by_sight_ = false;
  bool touches_ = false;
  std::optional<Cell> asked_;

  Ready ready_;
  Turning turning_;
  TurnReach turn_;
  Acting acting_;
  ActRange range_{.least = 0};
  SightGrid sight_;
  BitGrid nowhere_;
  std::size_t ends_ = 0;
  std::size_t targets_ = 0;
  std::vector<Cell> in_range_;  // what can be acted on but not ended on
  std::vector<Cell> striking_;  // where those are acted on from
};

}  // namespace

std::unique_ptr<Command> make_reach() { return std::make_unique<ReachCommand>(); }

}  // namespace saunter::app
