#include <fmt/format.h>

#include "placing.hpp"
#include "saunter/draw/overlay/marks.hpp"
#include "saunter/draw/overlay/placing.hpp"

namespace saunter::app {
namespace {

class FitCommand final : public Command {
 public:
  FitCommand()
      : Command("fit", "whether a unit can be put somewhere, why not, and where else",
                "fit demo/strand.toml --unit hut --at 28,24 --mover crab --keep-open 3,4") {}

  void add_words(Words& words) override {
    words.heading("What is placed (one of the first three)");
    words.text("--footprint", footprint_text_, "its cells: rows of x and . joined by /, hexes: \"q,r q,r\"");
    words.text("--unit", unit_, "a unit of the file; where it stands now is free to it");
    words.whole("--size", size_, 1, 32, "so many cells wide and high, hexes: all within size - 1");
    words.whole("--turn", turn_, 0, 5, "turned clockwise, in quarters or sixths (default: as it stands, or 0)");
    words.flag("--mirrored", pose_.mirrored, "left and right exchanged");
    words.heading("Question (at least one)");
    words.cell("--at", at_, "the anchor's cell: does it fit there?");
    words.flag("--all", all_, "every cell at which it fits");
    words.cell("--nearest", nearest_, "the spot nearest to this cell");
    placing_words_.add_words(words);
  }

  Answer answer() override {
    if (!at_ && !all_ && !nearest_) {
      throw Refused{"fit: found none of --at, --all and --nearest, expected at least one"};
    }
    placing_.scenario = load(common);
    choose_footprint();
    choose_turn();
    if (nearest_) check_on_map(placing_.scenario.map, *nearest_, "--nearest");
    placing_.prepare(placing_words_, unit_);
    Answer answer;
    answer.json = {
        {"command", "fit"}, {"fits", nullptr}, {"reasons", nullptr}, {"spots", nullptr}, {"nearest", nullptr}};
    answer.picture = placing_.picture();
    if (at_) judge(answer);
    if (all_ || nearest_) find_spots(answer);
    if (common.wants_page()) answer.replay = {{"ghost", json_cells(ghost_)}};
    answer.picture->add(draw::Spots(spots_)).add(draw::Ghost(ghost_)).add(draw::Problems(problems_));
    return answer;
  }

 private:
  void choose_footprint() {
    const Tiling tiling = placing_.scenario.map.tiling();
    const int ways = (footprint_text_.empty() ? 0 : 1) + (unit_.empty() ? 0 : 1) + (size_ ? 1 : 0);
    if (ways != 1) throw Refused{fmt::format("fit: found {} of --footprint, --unit and --size, expected one", ways)};
    if (!unit_.empty()) {
      const io::Unit* const unit = placing_.scenario.find_unit(unit_);
      if (unit == nullptr) Words::refuse_word("--unit", unit_, "the name of a [[unit]]");
      footprint_ = unit->footprint;
      pose_.turn = unit->turn;
    } else if (size_) {
      if (*size_ > 1 && tiling.shape() == Shape::triangle) {
        throw Refused{fmt::format("--size: found {}, expected 1 on triangles", *size_)};
      }
      footprint_ = Footprint::of_size(tiling, *size_);
    } else {
      footprint_ = parse_footprint(footprint_text_, tiling);
    }
  }

  void choose_turn() {
    const int most = full_turn(placing_.scenario.map.tiling()) - 1;
    if (!turn_) return;
    if (*turn_ > most) throw Refused{fmt::format("--turn: found {}, expected 0 to {}", *turn_, most)};
    pose_.turn = *turn_;
  }

  /// Who or what a reason is about.
  [[nodiscard]] Json name_of(const FitProblem& problem) const {
    if (problem.by != 0) return placing_.scenario.units[problem.by - 1].name;
    return problem.rule.empty() ? Json() : Json(problem.rule);
  }

  /// Whether it fits at --at, and every reason why not.
  void judge(Answer& answer) {
    const Map& map = placing_.scenario.map;
    pose_.at = *at_;
    // Nothing is drawn of what lies far off, and its cells need not fit the range of numbers.
    const Rect about = {-max_line_cells, -max_line_cells, 2 * max_line_cells, 2 * max_line_cells};
    if (about.contains(pose_.at)) {
      cells_in_pose(map.tiling(), footprint_, pose_, ghost_);
      std::erase_if(ghost_, [&](Cell cell) { return !map.size().contains(cell); });
    }
    const std::vector<FitProblem> problems = placing_.fitter.problems(placing_.terms, footprint_, pose_);
    const bool fits = problems.empty();
    if (!fits) answer.exit_code = exit_no;
    answer.json["fits"] = fits;
    answer.json["reasons"] = Json::array();
    answer.text += fmt::format("{} at {}\n", fits ? "it fits" : "it does not fit", show(pose_.at));
    answer.picture->facts.emplace_back("fits at " + show(pose_.at), fits ? "yes" : "no");
    for (const FitProblem& problem : problems) tell(problem, answer);
  }

  void tell(const FitProblem& problem, Answer& answer) {
    const Json by = name_of(problem);
    answer.json["reasons"].push_back({{"why", fault_name(problem.why)},
                                      {"at", json_cell(problem.at)},
                                      {"by", by},
                                      {"across", problem.across ? json_cell(*problem.across) : Json()},
                                      {"apart_from", problem.apart_from ? json_cell(*problem.apart_from) : Json()}});
    std::string more = by.is_null() ? "" : ": " + by.get<std::string>();
    if (problem.across) more = " towards " + show(*problem.across);
    if (problem.apart_from) more = " from " + show(*problem.apart_from);
    const std::string words = fmt::format("{} at {}{}", fault_name(problem.why), show(problem.at), more);
    answer.text += "  " + words + "\n";
    problems_.push_back({problem.at, words});
  }

  void find_spots(Answer& answer) {
    const Map& map = placing_.scenario.map;
    const BitGrid spots = placing_.fitter.spots(placing_.terms, footprint_, pose_.turn, pose_.mirrored);
    for (const Cell cell : map.size().cells()) {
      if (spots.test(cell)) spots_.push_back(cell);
    }
    if (spots_.empty()) answer.exit_code = exit_no;
    answer.text += fmt::format("it fits at {}\n", counted(spots_.size(), "spot", "spots"));
    if (all_) answer.json["spots"] = json_cells(spots_);
    if (!nearest_) return;
    const auto nearest = nearest_spot(map.tiling(), spots, *nearest_);
    answer.json["nearest"] = nearest ? json_cell(*nearest) : Json();
    if (!nearest) return;
    answer.text += fmt::format("nearest to {}: {}\n", show(*nearest_), show(*nearest));
    answer.picture->facts.emplace_back("nearest to " + show(*nearest_), show(*nearest));
    if (ghost_.empty()) cells_in_pose(map.tiling(), footprint_, {*nearest, pose_.turn, pose_.mirrored}, ghost_);
  }

  PlacingWords placing_words_;
  std::string footprint_text_;
  std::string unit_;
  std::optional<int> size_;
  std::optional<int> turn_;
  std::optional<Cell> at_;
  bool all_ = false;
  std::optional<Cell> nearest_;

  Placing placing_;
  Footprint footprint_;
  Pose pose_;
  std::vector<Cell> spots_;
  std::vector<Cell> ghost_;
  std::vector<draw::Problem> problems_;
};

}  // namespace

std::unique_ptr<Command> make_fit() { return std::make_unique<FitCommand>(); }

}  // namespace saunter::app
