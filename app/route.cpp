#include <fmt/format.h>

#include <algorithm>
#include <limits>

#include "saunter/draw/overlay/marks.hpp"
#include "saunter/draw/overlay/path.hpp"
#include "saunter/draw/overlay/visits.hpp"
#include "saunter/io/prepared.hpp"
#include "saunter/io/text.hpp"
#include "saunter/search/path.hpp"
#include "saunter/search/tour.hpp"
#include "replay.hpp"
#include "turning.hpp"
#include "wary.hpp"

namespace saunter::app {
namespace {

std::string shown_list(const std::vector<Cell>& cells) {
  std::string text;
  for (const Cell cell : cells) text += (text.empty() ? "" : " ") + show(cell);
  return text;
}

class RouteCommand final : public Command {
 public:
  RouteCommand()
      : Command("route", "the way from one cell to another",
                "route demo/strand.toml --mover crab --from 2,3 --to 40,25 --draw way.png",
                Takes::scenario_picture_and_page) {}

  void add_words(Words& words) override {
    add_question(words);
    add_search(words);
    wary_.add_words(words);
    words.flag("--front", front_,
               "all routes worth choosing from, between the cheapest and the least exposed; --limit: routes kept");
    words.whole("--tick", tick_, 0, 1'000'000'000,
                "set out at this tick, a step or a wait a tick: threats with a schedule are where they are then");
    turn_words_.add_words(words);
    words.hundredths("--turns", turns_, 1, max_cost,
                     "by turns of so many movement points: the fewest, then the cheapest");
    mover_words_.add_words(words);
    words.heading("Answer");
    words.flag("--straighten", straighten_, "way points too: between two of them it can go straight");
    words.file("--trace", trace_, "write a CSV line for each cell checked");
    add_clashes(words);
  }

  Answer answer() override {
    if (wary_.any() || front_) {
      wary_answer_.emplace(common, mover_words_,
                           WaryQuestion{from_.front(), to_.front(), wary_, front_, options_.budget, limit_,
                                        options_.by == Algorithm::dead_ends, tick_});
      return wary_answer_->answer();
    }
    check_changes();
    if (turns_) {
      by_turns_.emplace(common, mover_words_,
                        TurnQuestion{from_.front(), to_.front(), *turns_, turn_words_, limit_, changes_});
      return by_turns_->answer();
    }
    if (order_ == VisitOrder::best && to_.size() > most_goals_proven) {
      throw Refused{fmt::format("--order best: found {} goals, expected at most {}", to_.size(), most_goals_proven)};
    }
    const bool wants_trace =
        (!common.draw.empty() || !common.json || !trace_.empty() || common.wants_page()) && order_ != VisitOrder::best;
    if (wants_trace && prepared_file_.empty()) options_.trace = &visits_;
    ready_.make(common, mover_words_);
    read_index();
    finish_options();
    ask();
    if (straighten_) find_waypoints();
    if (!ready_.scenario.threats.empty() && !cells().empty()) {
      watch_ = Watch(ready_.scenario, mover_words_.as_unit);
      measure_ = exposure_of(ready_.costs, watch_.levels_for(*ready_.mover), cells());
    }
    Answer answer;
    answer.exit_code = found() ? exit_yes : exit_no;
    answer.json = json();
    answer.text = found() ? found_text() : no_way_text();
    answer.picture = picture();
    if (common.wants_page()) add_replay(answer);
    if (!trace_.empty()) add_file(answer, trace_, trace_csv());
    return answer;
  }

 private:
  void add_question(Words& words) {
    words.heading("Question");
    words.cells("--from", from_, "start cell as col,row; several: from the one that is cheapest").required();
    words.cells("--to", to_, "goal cell as col,row; several: to the one that is cheapest").required();
    words.choice<std::optional<VisitOrder>>("--order", order_,
                                            {{"given", VisitOrder::given}, {"best", VisitOrder::best}},
                                            "visit every --to: in the order given, or in the best one");
    words.flag("--beside", beside_, "arrive next to the goal, which may be blocked");
    words.whole("--within", within_, 0, most_edge_steps, "arrive at most so many edge steps from the goal");
    words.flag("--or-nearest", options_.or_nearest, "without a way: the way to the nearest cell there is one to");
    words.cells("--avoid", avoided_, "a cell to keep out of, for this question only");
    words.cells("--allow", allowed_, "a cell to enter at cost 1, for this question only");
    words.flag("--natural", options_.natural, "of the cheapest routes one with few turns, close to the straight line");
    words.hundredths("--turn-cost", turn_cost_, 0, 65'535, "what an eighth (hexes: a sixth) of a turn costs");
    words.text("--heading", heading_, "the side the unit faces at the start: n, ne, ...");
  }

  void add_search(Words& words) {
    words.heading("Search");
    words.algorithm(
        "--by", options_.by,
        "automatic (default), astar, dijkstra, bfs (fewest steps), greedy (some way soon), jump, dead-ends or "
        "prepared");
    words.file("--prepared", prepared_file_, "look the route up in this index, which `prepare` has made");
    words.hundredths("--weight", weight_, 100, 10'000,
                     "trust the estimate so many times as much: the route costs at most that many times the least");
    words.hundredths("--budget", options_.budget, 0, max_cost, "give up beyond this cost");
    words.whole("--limit", limit_, 1, std::numeric_limits<std::int64_t>::max(), "check at most this many cells");
  }

  static void add_clashes(Words& words) {
    words.exclude({"--budget"}, {"--by=bfs"}, "which does not minimise cost");
    words.exclude({"--weight"}, {"--by=dijkstra", "--by=bfs", "--by=greedy", "--by=jump", "--by=dead-ends"},
                  "expected astar");
    words.exclude({"--natural"}, {"--by=bfs", "--by=greedy", "--weight"});
    words.exclude({"--turn-cost"}, {"--by=bfs", "--by=greedy", "--natural"});
    words.need({"--heading"}, {"--turn-cost"});
    words.exclude({"--prepared"},
                  {"--by=astar", "--by=dijkstra", "--by=bfs", "--by=greedy", "--by=jump", "--by=dead-ends", "--weight",
                   "--limit", "--order", "--beside", "--within", "--allow", "--natural", "--turn-cost", "--trace",
                   "--front", "--wary", "--max-threat"});
    words.exclude_several({"--prepared"}, {"--from"});
    words.exclude_several({"--prepared"}, {"--to"});
    words.need({"--by=prepared"}, {"--prepared"});
    words.exclude({"--order"}, {"--beside", "--within", "--or-nearest"});
    words.exclude({"--trace"}, {"--order=best"});
    for (const char* const danger : {"--front", "--wary", "--max-threat"}) {
      words.exclude({danger}, {"--by=dijkstra", "--by=bfs", "--by=greedy", "--by=jump", "--weight", "--order",
                               "--beside", "--within", "--or-nearest", "--avoid", "--allow", "--natural", "--turn-cost",
                               "--straighten", "--trace"});
      words.exclude_several({danger, "--order"}, {"--from"});
      words.exclude_several({danger}, {"--to"});
    }
    words.need({"--stop", "--stop-around", "--pass"}, {"--turns"});
    words.exclude({"--turns"}, {"--by=dijkstra", "--by=bfs",   "--by=greedy",  "--by=jump", "--by=dead-ends",
                                "--by=prepared", "--prepared", "--weight",     "--budget",  "--order",
                                "--beside",      "--within",   "--or-nearest", "--natural", "--turn-cost",
                                "--straighten",  "--trace",    "--front",      "--wary",    "--max-threat"});
    words.exclude_several({"--turns"}, {"--from"});
    words.exclude_several({"--turns"}, {"--to"});
    words.exclude({"--front", "--max-threat"}, {"--by=dead-ends"});
    words.need({"--tick"}, {"--wary", "--max-threat"});
    words.exclude({"--tick"}, {"--front", "--linger", "--by=dead-ends"});
    words.exclude({"--linger"}, {"--by=dead-ends"}, "where turning back in a dead end can pay");
    words.exclude({"--front"}, {"--linger"});
  }

  void read_index() {
    if (prepared_file_.empty()) return;
    io::Result<Prepared> read = io::read_prepared(prepared_file_, ready_.costs);
    if (!read) throw Refused{read.error().message()};
    index_ = std::move(read).value();
    options_.prepared = &index_;
  }

  /// Cells avoided and allowed, as the search wants them.
  void check_changes() {
    for (const Cell cell : avoided_) changes_.push_back({cell, blocked});
    for (const Cell cell : allowed_) {
      if (std::find(avoided_.begin(), avoided_.end(), cell) != avoided_.end()) {
        throw Refused{"--allow: found cell " + show(cell) + ", which --avoid names too; expected different cells"};
      }
      changes_.push_back({cell, 1_steps});
    }
    options_.changes = changes_;
  }

  /// What can only be said once the map is read.
  void finish_options() {
    const Tiling tiling = ready_.costs.tiling();
    if (weight_) {
      options_.weight = *weight_;
      options_.by = Algorithm::astar;
    }
    if (limit_) options_.limit = *limit_;
    if (turn_cost_) options_.turn_cost = *turn_cost_;
    if (options_.turn_cost > 0 && tiling.shape() == Shape::triangle) {
      throw Refused{"--turn-cost: found on a triangle map, where straight ahead alternates; expected squares or hexes"};
    }
    if (!heading_.empty()) choose_heading();
    for (const Cell cell : avoided_) check_on_map(ready_.scenario.map, cell, "--avoid");
    for (const Cell cell : allowed_) check_on_map(ready_.scenario.map, cell, "--allow");
  }

  void choose_heading() {
    const Tiling tiling = ready_.costs.tiling();
    std::string names;
    for (Direction d{0}; d < ready_.costs.rules().steps; ++d) {
      const std::string name(tiling.direction_name(from_.front(), d));
      if (name == heading_) options_.heading = d;
      names += (names.empty() ? "" : ", ") + name;
    }
    if (!options_.heading) Words::refuse_word("--heading", heading_, "one of " + names);
  }

  void ask() {
    Searcher searcher;
    if (order_) {
      tour_ = tour(searcher, ready_.costs, from_.front(), to_, *order_, options_);
      return;
    }
    if (from_.size() == 1 && to_.size() == 1 && !beside_ && !within_) {
      route_ = searcher.route(ready_.costs, from_.front(), to_.front(), options_);
      return;
    }
    std::vector<Source> starts;
    starts.reserve(from_.size());
    for (const Cell cell : from_) starts.push_back({cell});
    const Query query{.starts = starts, .goals = to_, .within = within_.value_or(0), .beside = beside_};
    route_ = searcher.route(ready_.costs, query, options_);
  }

  /// Way points of each leg: a tour must still come by every goal.
  void find_waypoints() {
    std::vector<std::size_t> stops = tour_.stops;
    if (!order_ && !cells().empty()) stops = {cells().size() - 1};
    std::size_t first = 0;
    for (const std::size_t stop : stops) {
      std::vector<Cell> leg;
      straighten(ready_.costs, cells().subspan(first, stop - first + 1), leg, changes_);
      waypoints_.insert(waypoints_.end(), leg.begin() + (waypoints_.empty() ? 0 : 1), leg.end());
      first = stop;
    }
  }

  // One answer, wherever it comes from.
  [[nodiscard]] const Verdict& verdict() const { return order_ ? tour_.verdict : route_.verdict(); }
  [[nodiscard]] bool found() const { return verdict().reason == Reason::found; }
  [[nodiscard]] std::span<const Cell> cells() const { return order_ ? std::span(tour_.cells) : route_.cells(); }
  [[nodiscard]] Cost cost() const { return order_ ? tour_.cost : route_.cost(); }
  [[nodiscard]] std::size_t steps() const { return cells().empty() ? 0 : cells().size() - 1; }
  [[nodiscard]] std::uint64_t expanded() const { return order_ ? tour_.expanded : route_.expanded(); }
  [[nodiscard]] Algorithm algorithm() const { return order_ ? tour_.algorithm : route_.algorithm(); }

  [[nodiscard]] std::string search_name() const {
    std::string name(algorithm_name(algorithm()));
    if (weight_) name += ", weight " + to_decimal(*weight_);
    return name;
  }
  [[nodiscard]] std::string checked() const {
    return counted(expanded(), "cell", "cells") + " checked by " + search_name();
  }
  [[nodiscard]] std::string ends() const { return fmt::format("from {} to {}", shown_list(from_), shown_list(to_)); }

  [[nodiscard]] std::string found_text() const {
    const bool several = from_.size() > 1 || (to_.size() > 1 && !order_) || beside_ || within_;
    const std::string walked =
        several ? fmt::format("from {} to {}", show(cells().front()), show(cells().back())) : ends();
    std::string text = fmt::format("{} goes {}: cost {}, {} ({})\n", ready_.mover->name, walked, to_decimal(cost()),
                                   counted(steps(), "step", "steps"), checked());
    if (order_) {
      text += "in this order:";
      for (const std::size_t goal : tour_.order) text += " " + show(to_[goal]);
      text += tour_.best_proven ? "\n" : " (a good order; with so many goals not proven the best)\n";
    }
    if (options_.natural && !order_ && !route_.natural()) {
      text += "the limit was used up before all routes of this cost were looked at: there may be a more natural one\n";
    }
    if (!ready_.scenario.threats.empty()) text += exposure_text(measure_) + "\n";
    if (straighten_) text += "way points: " + shown_list(waypoints_) + "\n";
    return text;
  }

  [[nodiscard]] std::string no_way_text() const {
    std::string text =
        fmt::format("{} finds no way {}: {} ({})\n", ready_.mover->name, ends(), to_string(verdict()), checked());
    if (cells().empty()) return text;
    return text + fmt::format("the nearest it gets is {}: cost {}, {}; at least {} remain\n", show(cells().back()),
                              to_decimal(cost()), counted(steps(), "step", "steps"),
                              to_decimal(static_cast<std::int64_t>(route_.remaining())));
  }

  [[nodiscard]] Json json() const {
    const bool some = !cells().empty();
    const bool no_threats = ready_.scenario.threats.empty();
    Json json = {{"command", "route"},
                 {"found", found()},
                 {"algorithm", algorithm_name(algorithm())},
                 {"cost", some ? json_cost(cost()) : Json()},
                 {"steps", some ? Json(steps()) : Json()},
                 {"expanded", expanded()},
                 {"path", some ? json_cells(cells()) : Json()},
                 {"reason", found() ? Json() : Json(reason_name(verdict().reason))},
                 {"at", found() ? Json() : json_cell(verdict().at)},
                 {"exposure", !some        ? Json()
                              : no_threats ? json_cost(0)
                                           : json_sum(measure_.exposure)},
                 {"weighed", nullptr},
                 {"waypoints", some && straighten_ ? json_cells(waypoints_) : Json()}};
    if (options_.natural) json["natural"] = found() ? Json(order_ || route_.natural()) : Json();
    if (options_.or_nearest) {
      json["remaining"] = some ? json_cost(static_cast<std::int64_t>(route_.remaining())) : Json();
    }
    if (!order_) return json;
    json["order"] = Json::array();
    for (const std::size_t goal : tour_.order) json["order"].push_back(json_cell(to_[goal]));
    json["proven"] = tour_.best_proven;
    return json;
  }

  [[nodiscard]] draw::Picture picture() const {
    draw::Picture picture = ready_.picture();
    picture.facts = {{"mover", ready_.mover->name}, {"search", search_name()}};
    if (!cells().empty()) {
      picture.facts.emplace_back("cost", to_decimal(cost()));
      picture.facts.emplace_back("steps", std::to_string(steps()));
    }
    picture.facts.emplace_back("cells checked", std::to_string(expanded()));
    picture.add(draw::Visits(visits_)).add(draw::Threats(watch_.threats));
    picture.add(draw::Path({cells().begin(), cells().end()})).add(draw::Waypoints(waypoints_));
    picture.add(draw::Avoided(avoided_));
    if (!found()) picture.add(draw::Ring(verdict().at, to_string(verdict())));
    picture.add(draw::Ends(draw::Ends::Kind::start, from_)).add(draw::Ends(draw::Ends::Kind::goal, to_));
    return picture;
  }

  void add_replay(Answer& answer) const {
    const bool as_it_is = changes_.empty() && options_.turn_cost == 0 && !options_.natural && !order_;
    answer.replay = search_replay(ready_.costs, visits_, algorithm(), as_it_is);
    ready_.add_scene(answer, from_, to_);
  }

  /// One line for each state expanded.
  [[nodiscard]] std::string trace_csv() const {
    const Size size = ready_.costs.size();
    std::string text = "order,col,row,cost,estimate,parent_col,parent_row\n";
    std::size_t order = 0;
    for (const Visit& visit : visits_) {
      const Cell cell = size.cell(visit.cell);
      const Cell parent = size.cell(visit.parent);
      text += fmt::format("{},{},{},{},{},{},{}\n", order++, cell.col, cell.row, to_decimal(visit.cost),
                          to_decimal(static_cast<std::int64_t>(visit.estimate)), parent.col, parent.row);
    }
    return text;
  }

  MoverWords mover_words_;
  std::vector<Cell> from_;
  std::vector<Cell> to_;
  RouteOptions options_;
  std::optional<Hundredths> weight_;
  std::optional<Hundredths> turn_cost_;
  std::optional<std::uint64_t> limit_;
  std::optional<VisitOrder> order_;
  std::optional<int> within_;
  bool beside_ = false;
  std::vector<Cell> avoided_;
  std::vector<Cell> allowed_;
  std::string heading_;
  bool straighten_ = false;
  std::string trace_;
  WaryWords wary_;
  bool front_ = false;

  std::string prepared_file_;

  Ready ready_;
  Prepared index_;
  std::vector<EntryChange> changes_;
  std::vector<Visit> visits_;
  std::vector<Cell> waypoints_;
  Route route_;
  Tour tour_;  // with --order
  Watch watch_;
  Exposure measure_;
  std::optional<WaryAnswer> wary_answer_;
  std::optional<std::uint32_t> tick_;
  TurnWords turn_words_;
  std::optional<Hundredths> turns_;
  std::optional<AnswerByTurns> by_turns_;
};

}  // namespace

std::unique_ptr<Command> make_route() { return std::make_unique<RouteCommand>(); }

}  // namespace saunter::app
