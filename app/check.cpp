#include "saunter/check/inspect.hpp"

#include <fmt/format.h>

#include <list>

#include "saunter/draw/overlay/marks.hpp"
#include "saunter/draw/overlay/path.hpp"
#include "saunter/io/path.hpp"
#include "saunter/search/path.hpp"
#include "saunter/search/searcher.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

std::vector<Cell> read_cells(const std::string& file) {
  io::Result<std::vector<Cell>> cells = io::read_path(file);
  if (!cells) throw Refused{cells.error().message()};
  return std::move(cells).value();
}

/// How paths are checked.
struct CheckTerms {
  std::string as_unit;
  std::optional<std::uint16_t> highest;
  bool waiting = false;
  std::optional<std::uint32_t> tick;  // at which it sets out
};

/// A path, what it is checked against, and what is wrong with it.
struct Checked : Ready {
  Watch watch;
  Levels levels;
  TimedDanger timed;
  BitGrid occupied;
  Occupancy standing;
  std::vector<Cell> cells;
  Inspection found;

  /// @pre the scenario is loaded and the mover chosen
  void inspect(const CheckTerms& terms, std::span<const std::span<const Cell>> others) {
    watch = Watch(scenario, terms.as_unit, terms.tick.value_or(0));
    levels = watch.levels_for(*mover);
    if (terms.tick) timed = scenario.timed_danger(watch.sight);
    occupied = scenario.occupied(terms.as_unit);
    standing = scenario.occupancy();
    const InspectOptions asked{.occupied = &occupied,
                               .units = standing.layer(0),
                               .levels = &levels,
                               .timed = terms.tick ? &timed : nullptr,
                               .tick = terms.tick.value_or(0),
                               .highest = terms.highest,
                               .others = others,
                               .waiting = terms.waiting};
    found = inspect_path(scenario.map, *mover, costs, cells, asked);
  }

  /// "the way holds, cost 12, 3 steps, 1 turn", or how many problems there are.
  [[nodiscard]] std::string outcome() const {
    const std::string walked = counted(cells.size() - 1, "step", "steps");
    if (!found.ok()) return fmt::format("{} in {}", counted(found.problems.size(), "problem", "problems"), walked);
    std::string text = fmt::format("the way holds, cost {}, {}", decimal_sum(found.measure.cost), walked);
    if (found.turns) text += ", " + counted(*found.turns, "turn", "turns");
    return text;
  }

  [[nodiscard]] draw::Picture picture_with(std::vector<draw::Problem> problems) const {
    draw::Picture drawn = picture();
    std::vector<Cell> shown;
    for (const Cell cell : cells) {
      if (costs.size().contains(cell)) shown.push_back(cell);
    }
    using Kind = draw::Ends::Kind;
    drawn.facts = {{"mover", mover->name}, {"holds", problems.empty() ? "yes" : "no"}};
    drawn.add(draw::Threats(watch.threats)).add(draw::Path(shown));
    drawn.add(draw::Ends(Kind::start, {cells.front()})).add(draw::Ends(Kind::goal, {cells.back()}));
    drawn.add(draw::Problems(std::move(problems)));
    return drawn;
  }
};

/// The figures of a path that holds; null where it does not.
void put_measure(const Inspection& found, Json& json) {
  const Exposure& measure = found.measure;
  json["cost"] = found.ok() ? json_sum(measure.cost) : Json();
  json["exposure"] = found.ok() ? json_sum(measure.exposure) : Json();
  json["longest_exposed"] = found.ok() ? Json(measure.longest) : Json();
  json["turns"] = found.turns ? Json(*found.turns) : Json();
}

class CheckCommand final : public Command {
 public:
  CheckCommand()
      : Command("check", "whether a finished path, or every patrol of the file, can be walked, and all that is wrong",
                "check demo/strand.toml --mover crab --path \"3,4 4,4 5,5\" --draw check.png") {}

  void add_words(Words& words) override {
    words.heading("Question");
    words.text("--path", path_, "the path as cells: \"c,r c,r ...\" (without a path: every [[patrol]] of the file)");
    words.file("--path-file", path_file_,
               "the path from a file: JSON ([[c,r],...] or an answer of route) or CSV (c,r a line)");
    words.files("--against", against_files_,
                "a path of another unit that sets out at the same time, from such a file; several");
    words.level("--max-threat", terms_.highest, "cells above this level of danger are a problem");
    words.flag("--waiting", terms_.waiting, "the same cell again is a tick of waiting, at no cost");
    words.whole("--tick", terms_.tick, 0, 1'000'000'000,
                "sets out at this tick, a cell a tick: threats with a schedule are where they are then");
    mover_words_.add_words(words);
    words.exclude({"--path"}, {"--path-file"}, "expected one of them");
    words.need({"--against"}, {"--path", "--path-file"});
  }

  Answer answer() override { return path_.empty() && path_file_.empty() ? check_patrols() : check_path(); }

 private:
  [[nodiscard]] std::vector<Cell> given_path() const {
    if (!path_file_.empty()) return read_cells(path_file_);
    std::vector<Cell> cells;
    for (const std::string& word : split(path_, ' ')) {
      if (!word.empty()) cells.push_back(Words::parse_cell(word, "--path"));
    }
    if (cells.empty()) throw Refused{"--path: found no cell, expected at least one"};
    return cells;
  }

  Answer check_path() {
    Checked& path = checked_.emplace_back();
    path.cells = given_path();
    for (const std::string& file : against_files_) against_.push_back(read_cells(file));
    path.make(common, mover_words_);
    if (!against_.empty() && path.mover->size != 1) {
      throw Refused{fmt::format("--against: found mover \"{}\" of size {}, expected one of size 1", path.mover->name,
                                path.mover->size)};
    }
    terms_.as_unit = mover_words_.as_unit;
    path.inspect(terms_, std::vector<std::span<const Cell>>(against_.begin(), against_.end()));
    Answer answer;
    answer.exit_code = path.found.ok() ? exit_yes : exit_no;
    answer.json = {{"command", "check"}, {"ok", path.found.ok()}, {"problems", Json::array()}};
    put_measure(path.found, answer.json);
    answer.text = fmt::format("{} from {} to {}: {}\n", path.mover->name, show(path.cells.front()),
                              show(path.cells.back()), path.outcome());
    if (path.found.ok() && !path.scenario.threats.empty()) answer.text += exposure_text(path.found.measure) + "\n";
    answer.picture = path.picture_with(tell_problems(path, answer.json["problems"], answer.text));
    if (path.found.ok()) answer.picture->facts.emplace_back("cost", decimal_sum(path.found.measure.cost));
    return answer;
  }

  /// The name of what is in the way.
  [[nodiscard]] Json name_of(const Checked& path, InTheWay by) const {
    switch (by.kind) {
      case InTheWay::Kind::unit: return path.scenario.units[by.number].name;
      case InTheWay::Kind::path: return against_files_[by.number];
      case InTheWay::Kind::nothing: break;
    }
    return {};
  }

  /// Adds each problem to the JSON and the text, and gives them as a picture shows them.
  std::vector<draw::Problem> tell_problems(const Checked& path, Json& problems, std::string& text) const {
    std::vector<draw::Problem> shown;
    for (const PathProblem& problem : path.found.problems) {
      const Json by = name_of(path, problem.by);
      problems.push_back(
          {{"step", problem.step}, {"at", json_cell(problem.at)}, {"why", fault_name(problem.why)}, {"by", by}});
      const std::string who = by.is_null() ? "" : " by " + by.get<std::string>();
      text += fmt::format("  step {} at {}: {}{}\n", problem.step, show(problem.at), fault_name(problem.why), who);
      shown.push_back({problem.at, fmt::format("step {}: {}{}", problem.step, fault_name(problem.why), who)});
    }
    return shown;
  }

  Answer check_patrols() {
    const io::Scenario scenario = load(common);
    if (scenario.patrols.empty()) {
      throw Refused{"--path: found neither it nor --path-file nor a [[patrol]] in the scenario, expected one of them"};
    }
    Answer answer;
    answer.json = {{"command", "check"},        {"ok", true},
                   {"problems", Json::array()}, {"cost", nullptr},
                   {"exposure", nullptr},       {"longest_exposed", nullptr},
                   {"turns", nullptr},          {"patrols", Json::array()}};
    answer.sheet = draw::Sheet{.title = scenario.title + ": patrols"};
    for (const io::Patrol& patrol : scenario.patrols) {
      Checked& path = checked_.emplace_back();
      path.scenario = scenario;
      check_patrol(patrol, path, answer);
    }
    return answer;
  }

  /// Judges one patrol and adds what is found to the answer.
  void check_patrol(const io::Patrol& patrol, Checked& path, Answer& answer) {
    path.make_for({mover_words_.mover.empty() ? patrol.mover : mover_words_.mover, mover_words_.as_unit});
    std::vector<Cell> points = patrol.cells;
    if (patrol.loop && points.size() > 1) points.push_back(points.front());
    Searcher searcher;
    std::vector<MissingLeg> missing;
    (void)path_by_way_points(searcher, path.costs, points, path.cells, terms_.waiting, &missing);
    const bool whole = missing.empty();
    terms_.as_unit = mover_words_.as_unit;
    path.inspect(terms_, {});
    for (const MissingLeg& leg : missing) {  // told of below, as what it is
      std::erase_if(path.found.problems, [&](const PathProblem& problem) {
        return problem.step == leg.place && problem.why == PathFault::not_a_step;
      });
    }
    const bool ok = path.found.ok() && whole;
    Json json = {{"name", patrol.name}, {"mover", path.mover->name}, {"ok", ok}, {"problems", Json::array()}};
    put_measure(whole ? path.found : Inspection{{PathProblem{}}, {}, {}}, json);
    answer.text += fmt::format("{}, {}: {}\n", patrol.name, path.mover->name,
                               whole ? path.outcome() : "no way from way point to way point");
    std::vector<draw::Problem> shown = tell_problems(path, json["problems"], answer.text);
    for (const MissingLeg& leg : missing) {
      json["problems"].push_back(
          {{"step", leg.place}, {"at", json_cell(leg.why.at)}, {"why", reason_name(leg.why.reason)}, {"by", nullptr}});
      answer.text += fmt::format("  after step {}: {}\n", leg.place - 1, to_string(leg.why));
      shown.push_back(
          {leg.why.at, fmt::format("{}, after step {}: {}", patrol.name, leg.place - 1, reason_name(leg.why.reason))});
    }
    for (Json problem : json["problems"]) {
      problem["patrol"] = patrol.name;
      answer.json["problems"].push_back(problem);
    }
    answer.json["patrols"].push_back(json);
    if (!ok) {
      answer.json["ok"] = false;
      answer.exit_code = exit_no;
    }
    answer.sheet->panels.push_back(path.picture_with(std::move(shown)));
    answer.sheet->panels.back().title = patrol.name;
  }

  MoverWords mover_words_;
  std::string path_;
  std::string path_file_;
  std::vector<std::string> against_files_;
  CheckTerms terms_;

  std::vector<std::vector<Cell>> against_;
  std::list<Checked> checked_;
};

}  // namespace

std::unique_ptr<Command> make_check() { return std::make_unique<CheckCommand>(); }

}  // namespace saunter::app
