#include <fmt/format.h>

#include "placing.hpp"
#include "saunter/draw/overlay/placing.hpp"

namespace saunter::app {
namespace {

/// "xx/x." or "xx/x.*3" with a weight.
ScatterUnit parse_scattered(const std::string& text, Tiling tiling) {
  const std::size_t star = text.find('*');
  ScatterUnit unit{.footprint = parse_footprint(text.substr(0, star), tiling)};
  if (star == std::string::npos) return unit;
  const std::string weight = text.substr(star + 1);
  const bool whole =
      !weight.empty() && weight.size() <= 6 && weight.find_first_not_of("0123456789") == std::string::npos;
  if (!whole || std::stoul(weight) == 0) {
    Words::refuse_word("--footprint", text, "a weight of 1 to 999999 behind *");
  }
  unit.weight = static_cast<std::uint32_t>(std::stoul(weight));
  return unit;
}

class ScatterCommand final : public Command {
 public:
  ScatterCommand()
      : Command("scatter", "many units put down by chance and rules",
                "scatter demo/strand.toml --footprint xx --count 12 --spacing 3 --rule against-wall:1") {}

  void add_words(Words& words) override {
    words.heading("What is scattered");
    words.texts("--footprint", footprints_, "a unit's cells, as in fit; several, with a weight: xx*3").required();
    words.whole("--count", asked_.most, 0, 1'000'000, "so many at the most (default: 10)");
    // Hundredths of a per cent are ten-thousandths.
    words.hundredths("--chance", chance_, 0, 10'000, "that a cell is tried at all, in per cent (default: 100)");
    words.whole("--spacing", asked_.spacing, 0, most_edge_steps,
                "edge steps that lie free between two of them (default: 0)");
    words.flag("--turned", asked_.turned, "by any turn");
    words.cell("--reach-from", asked_.reachable_from,
               "a cell from which --mover gets at everything put down, in the end too");
    words.flag("--mirrored", asked_.mirrored, "or not, as chance has it");
    words.seed("--seed", asked_.seed, "the same seed puts the same units down everywhere (default: 1)");
    placing_words_.add_words(words);
  }

  Answer answer() override {
    if (chance_) asked_.chance = *chance_;
    placing_.scenario = load(common);
    const Map& map = placing_.scenario.map;
    if (asked_.turned && map.tiling().shape() == Shape::triangle) {
      throw Refused{"--turned: found on a triangle map, where units are not turned"};
    }
    for (const std::string& text : footprints_) units_.push_back(parse_scattered(text, map.tiling()));
    if (asked_.reachable_from) {
      if (placing_words_.mover.empty()) throw Refused{"--reach-from: found no --mover, which it needs"};
      check_on_map(map, *asked_.reachable_from, "--reach-from");
    }
    placing_.prepare(placing_words_);
    const ScatterResult result = scatter(placing_.fitter, placing_.terms, units_, asked_);

    Answer answer;
    answer.exit_code = result.placed.empty() && asked_.most > 0 ? exit_no : exit_yes;
    answer.json = {{"command", "scatter"}, {"seed", asked_.seed}, {"asked", asked_.most}, {"placed", Json::array()}};
    const std::vector<Cell> put = tell_placed(result, answer);
    tell_refused(result, answer);
    answer.picture = placing_.picture();
    answer.picture->facts.emplace_back("placed", std::to_string(result.placed.size()));
    answer.picture->facts.emplace_back("seed", std::to_string(asked_.seed));
    answer.picture->add(draw::Ghost(put));
    return answer;
  }

 private:
  [[nodiscard]] std::vector<Cell> tell_placed(const ScatterResult& result, Answer& answer) const {
    std::vector<Cell> put;
    std::vector<Cell> cells;
    for (const Scattered& one : result.placed) {
      cells_in_pose(placing_.scenario.map.tiling(), units_[one.unit].footprint, one.pose, cells);
      put.insert(put.end(), cells.begin(), cells.end());
      answer.json["placed"].push_back({{"footprint", footprints_[one.unit]},
                                       {"at", json_cell(one.pose.at)},
                                       {"turn", one.pose.turn},
                                       {"mirrored", one.pose.mirrored},
                                       {"cells", json_cells(cells)}});
    }
    return put;
  }

  void tell_refused(const ScatterResult& result, Answer& answer) const {
    answer.json["tried"] = result.tried;
    answer.json["passed_by"] = result.passed_by;
    answer.json["too_near"] = result.too_near;
    answer.json["refused"] = Json::object();
    answer.text = fmt::format("{} of {} placed; {} tried", result.placed.size(), asked_.most,
                              counted(result.tried, "cell", "cells"));
    if (result.too_near > 0) answer.text += fmt::format(", {} too near to another", result.too_near);
    for (std::size_t i = 0; i < result.refused.size(); ++i) {
      const std::string_view why = fault_name(static_cast<FitFault>(i));
      answer.json["refused"][std::string(why)] = result.refused[i];
      if (result.refused[i] > 0) answer.text += fmt::format(", {} refused: {}", result.refused[i], why);
    }
    answer.text += "\n";
  }

  PlacingWords placing_words_;
  std::vector<std::string> footprints_;
  ScatterOptions asked_;
  std::optional<Hundredths> chance_;

  Placing placing_;
  std::vector<ScatterUnit> units_;
};

}  // namespace

std::unique_ptr<Command> make_scatter() { return std::make_unique<ScatterCommand>(); }

}  // namespace saunter::app
