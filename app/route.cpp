#include <fmt/format.h>

#include <algorithm>
#include <limits>

#include "saunter/io/files.hpp"
#include "saunter/io/text.hpp"
#include "saunter/search/tour.hpp"
#include "saunter/search/way.hpp"
#include "wary.hpp"

namespace saunter::app {
namespace {

struct RouteCommand {
  Common common;
  Walker walker;
  std::vector<std::string> from;
  std::vector<std::string> to;
  std::string by = "automatic";
  std::string weight;
  std::string budget;
  std::optional<std::uint64_t> limit;
  std::string order;
  bool beside = false;
  std::optional<int> within;
  bool or_nearest = false;
  std::vector<std::string> avoid;
  std::vector<std::string> allow;
  bool natural = false;
  std::string turn_cost;
  std::string heading;
  bool straighten = false;
  std::string trace;
  WaryWords wary;
  bool front = false;
};

struct Kept : Ready {
  std::vector<Cell> from;
  std::vector<Cell> to;
  std::vector<EntryChange> changes;
  std::vector<Cell> avoided;
  std::vector<Visit> visits;
  std::vector<Cell> waypoints;
  Route route;
  Tour tour;
  bool toured = false;
  Watch watch;
  Exposure measure;

  // One answer, wherever it comes from.
  [[nodiscard]] const Verdict& verdict() const { return toured ? tour.verdict : route.verdict(); }
  [[nodiscard]] bool found() const { return verdict().reason == Reason::found; }
  [[nodiscard]] std::span<const Cell> cells() const { return toured ? std::span(tour.cells) : route.cells(); }
  [[nodiscard]] Cost cost() const { return toured ? tour.cost : route.cost(); }
  [[nodiscard]] std::size_t steps() const { return cells().empty() ? 0 : cells().size() - 1; }
  [[nodiscard]] std::uint64_t expanded() const { return toured ? tour.expanded : route.expanded(); }
  [[nodiscard]] Algorithm algorithm() const { return toured ? tour.algorithm : route.algorithm(); }
  [[nodiscard]] Cell start() const { return cells().empty() ? from.front() : cells().front(); }
};

void refuse_together(bool together, const char* option, const char* other) {
  if (together) throw Refused{fmt::format("{}: found with {}, which it does not go with", option, other)};
}

/// Turns words into options, and refuses what does not go together.
RouteOptions search_options(const RouteCommand& options, Kept& kept) {
  RouteOptions search{.by = parse_algorithm(options.by)};
  const bool bfs = search.by == Algorithm::bfs;
  const bool greedy = search.by == Algorithm::greedy;
  if (!options.budget.empty()) {
    if (bfs) throw Refused{"--budget: found with --by bfs, which does not minimise cost"};
    search.budget = static_cast<Cost>(parse_hundredths(options.budget, "--budget", 0, max_cost));
  }
  if (options.limit) {
    search.limit = *options.limit;
  }
  if (!options.weight.empty()) {
    search.weight = static_cast<Length>(parse_hundredths(options.weight, "--weight", 100, 10'000));
    if (search.by == Algorithm::automatic) search.by = Algorithm::astar;
    if (search.by != Algorithm::astar) throw Refused{"--weight: found with --by " + options.by + ", expected astar"};
  }
  search.natural = options.natural;
  search.or_nearest = options.or_nearest;
  refuse_together(options.natural && (bfs || greedy), "--natural", "--by bfs or greedy");
  refuse_together(options.natural && search.weight != 100, "--natural", "--weight");
  if (!options.turn_cost.empty()) {
    refuse_together(bfs || greedy, "--turn-cost", "--by bfs or greedy");
    refuse_together(options.natural, "--turn-cost", "--natural");
    search.turn_cost = static_cast<Cost>(parse_hundredths(options.turn_cost, "--turn-cost", 0, 65'535));
  }
  if (!options.heading.empty() && options.turn_cost.empty()) {
    throw Refused{"--heading: found without --turn-cost, which it belongs to"};
  }
  if (!options.order.empty()) {
    if (options.order != "given" && options.order != "best") {
      throw Refused{"--order: found " + io::shown(options.order) + ", expected given or best"};
    }
    refuse_together(options.beside || options.within || options.or_nearest, "--order",
                    "--beside, --within or --or-nearest");
    refuse_together(options.from.size() > 1, "--order", "several --from");
    refuse_together(options.order == "best" && !options.trace.empty(), "--trace", "--order best");
    if (options.order == "best" && options.to.size() > most_goals_proven) {
      throw Refused{
          fmt::format("--order best: found {} goals, expected at most {}", options.to.size(), most_goals_proven)};
    }
  }
  for (const std::string& cell : options.from) kept.from.push_back(parse_cell(cell, "--from"));
  for (const std::string& cell : options.to) kept.to.push_back(parse_cell(cell, "--to"));
  for (const std::string& cell : options.avoid) kept.avoided.push_back(parse_cell(cell, "--avoid"));
  for (const Cell cell : kept.avoided) kept.changes.push_back({cell, blocked});
  for (const std::string& cell : options.allow) {
    if (std::find(kept.avoided.begin(), kept.avoided.end(), parse_cell(cell, "--allow")) == kept.avoided.end())
      continue;
    throw Refused{"--allow: found cell " + cell + ", which --avoid names too; expected different cells"};
  }
  for (const std::string& cell : options.allow) kept.changes.push_back({parse_cell(cell, "--allow"), 1_steps});
  search.changes = kept.changes;
  return search;
}

/// What can only be said once the map is read.
void finish_options(const RouteCommand& options, const Kept& kept, RouteOptions& search) {
  const Tiling tiling = kept.costs.tiling();
  if (search.turn_cost > 0 && tiling.shape() == Shape::triangle) {
    throw Refused{"--turn-cost: found on a triangle map, where straight ahead alternates; expected squares or hexes"};
  }
  for (const EntryChange& change : kept.changes) {
    const bool known = !kept.costs.has_sides() || change.cost == blocked || !kept.costs.size().contains(change.cell) ||
                       kept.costs.open(change.cell);
    if (!known) {
      throw Refused{"--allow: found blocked cell " + show(change.cell) +
                    " on a map with barriers or height limits; paint it on the map instead"};
    }
  }
  if (options.heading.empty()) return;
  std::string names;
  for (Direction d{0}; d < kept.costs.rules().steps; ++d) {
    const std::string name(tiling.direction_name(kept.from.front(), d));
    if (name == options.heading) search.heading = d;
    names += (names.empty() ? "" : ", ") + name;
  }
  if (!search.heading) throw Refused{"--heading: found " + io::shown(options.heading) + ", expected one of " + names};
}

void ask(const RouteCommand& options, Kept& kept, const RouteOptions& search) {
  Searcher searcher;
  if (!options.order.empty()) {
    kept.toured = true;
    const VisitOrder order = options.order == "best" ? VisitOrder::best : VisitOrder::given;
    kept.tour = tour(searcher, kept.costs, kept.from.front(), kept.to, order, search);
    return;
  }
  const bool plain = kept.from.size() == 1 && kept.to.size() == 1 && !options.beside && !options.within;
  if (plain) {
    kept.route = searcher.route(kept.costs, kept.from.front(), kept.to.front(), search);
    return;
  }
  std::vector<Source> starts;
  for (const Cell cell : kept.from) starts.push_back({cell});
  const Query query{.starts = starts, .goals = kept.to, .within = options.within.value_or(0), .beside = options.beside};
  kept.route = searcher.route(kept.costs, query, search);
}

/// Way points of each leg: a tour must still come by every goal.
void find_waypoints(Kept& kept) {
  std::vector<std::size_t> stops = kept.tour.stops;
  if (!kept.toured && !kept.cells().empty()) stops = {kept.cells().size() - 1};
  std::size_t first = 0;
  for (const std::size_t stop : stops) {
    std::vector<Cell> leg;
    straighten(kept.costs, kept.cells().subspan(first, stop - first + 1), leg, kept.changes);
    kept.waypoints.insert(kept.waypoints.end(), leg.begin() + (kept.waypoints.empty() ? 0 : 1), leg.end());
    first = stop;
  }
}

std::string search_name(const RouteCommand& options, const Kept& kept) {
  std::string name(algorithm_name(kept.algorithm()));
  if (!options.weight.empty()) name += ", weight " + options.weight;
  return name;
}

std::string shown_list(const std::vector<Cell>& cells) {
  std::string text;
  for (const Cell cell : cells) text += (text.empty() ? "" : " ") + show(cell);
  return text;
}

std::string sentence(const RouteCommand& options, const Kept& kept) {
  const std::string checked = counted(kept.expanded(), "cell", "cells") + " checked by " + search_name(options, kept);
  const std::string ends = fmt::format("from {} to {}", shown_list(kept.from), shown_list(kept.to));
  std::string text;
  if (kept.found()) {
    const bool several =
        kept.from.size() > 1 || (kept.to.size() > 1 && !kept.toured) || options.beside || options.within;
    const std::string walked =
        several ? fmt::format("from {} to {}", show(kept.start()), show(kept.cells().back())) : ends;
    text = fmt::format("{} goes {}: cost {}, {} ({})\n", kept.mover->name, walked, to_decimal(kept.cost()),
                       counted(kept.steps(), "step", "steps"), checked);
    if (kept.toured) {
      text += "in this order:";
      for (const std::size_t goal : kept.tour.order) text += " " + show(kept.to[goal]);
      text += kept.tour.best_proven ? "\n" : " (a good order; with so many goals not proven the best)\n";
    }
    if (options.natural && !kept.toured && !kept.route.natural()) {
      text += "the limit was used up before all ways of this cost were looked at: there may be a more natural one\n";
    }
    if (!kept.scenario.threats.empty()) text += exposure_text(kept.measure) + "\n";
    if (options.straighten) text += "way points: " + shown_list(kept.waypoints) + "\n";
    return text;
  }
  text = fmt::format("{} finds no way {}: {} ({})\n", kept.mover->name, ends, to_string(kept.verdict()), checked);
  if (!kept.cells().empty()) {
    text += fmt::format("the nearest it gets is {}: cost {}, {}; at least {} remain\n", show(kept.cells().back()),
                        to_decimal(kept.cost()), counted(kept.steps(), "step", "steps"),
                        to_decimal(static_cast<std::int64_t>(kept.route.remaining())));
  }
  return text;
}

Json answer_json(const RouteCommand& options, const Kept& kept) {
  const bool found = kept.found();
  const bool way = !kept.cells().empty();
  Json json = {{"command", "route"},
               {"found", found},
               {"algorithm", algorithm_name(kept.algorithm())},
               {"cost", way ? json_cost(kept.cost()) : Json()},
               {"steps", way ? Json(kept.steps()) : Json()},
               {"expanded", kept.expanded()},
               {"path", way ? json_cells(kept.cells()) : Json()},
               {"reason", found ? Json() : Json(reason_name(kept.verdict().reason))},
               {"at", found ? Json() : json_cell(kept.verdict().at)},
               {"exposure", way && kept.scenario.threats.empty() ? json_cost(0)
                            : way                                ? json_sum(kept.measure.exposure)
                                                                 : Json()},
               {"weighed", nullptr},
               {"waypoints", way && options.straighten ? json_cells(kept.waypoints) : Json()}};
  if (options.natural) json["natural"] = found ? Json(kept.toured || kept.route.natural()) : Json();
  if (options.or_nearest)
    json["remaining"] = way ? json_cost(static_cast<std::int64_t>(kept.route.remaining())) : Json();
  if (kept.toured) {
    json["order"] = Json::array();
    for (const std::size_t goal : kept.tour.order) json["order"].push_back(json_cell(kept.to[goal]));
    json["proven"] = kept.tour.best_proven;
  }
  return json;
}

draw::Picture picture_of(const RouteCommand& options, const Kept& kept) {
  draw::Picture picture = kept.picture();
  picture.visits = kept.visits;
  picture.path = kept.cells();
  picture.waypoints = kept.waypoints;
  picture.avoided = kept.avoided;
  picture.starts = kept.from;
  picture.goals = kept.to;
  picture.watchers = kept.watch.watchers;
  picture.facts = {{"mover", kept.mover->name}, {"search", search_name(options, kept)}};
  if (!kept.found()) {
    picture.facts.emplace_back("answer", to_string(kept.verdict()));
    picture.mark = &kept.verdict().at;
  }
  if (!kept.cells().empty()) {
    picture.facts.emplace_back("cost", to_decimal(kept.cost()));
    picture.facts.emplace_back("steps", std::to_string(kept.steps()));
  }
  if (options.straighten) picture.facts.emplace_back("way points", std::to_string(kept.waypoints.size()));
  picture.facts.emplace_back("cells checked", std::to_string(kept.expanded()));
  return picture;
}

/// One line for each place expanded.
std::string trace_csv(const Kept& kept) {
  const Size size = kept.costs.size();
  std::string text = "order,col,row,cost,estimate,parent_col,parent_row\n";
  std::size_t order = 0;
  for (const Visit& visit : kept.visits) {
    const Cell cell = size.cell(visit.cell);
    const Cell parent = size.cell(visit.parent);
    text += fmt::format("{},{},{},{},{},{},{}\n", order++, cell.col, cell.row, to_decimal(visit.cost),
                        to_decimal(static_cast<std::int64_t>(visit.estimate)), parent.col, parent.row);
  }
  return text;
}

/// With danger weighed: one start, one goal, and only what such a search can take into account.
Answer wary_way(const RouteCommand& options) {
  const char* const word = options.front ? "--front" : !options.wary.wary.empty() ? "--wary" : "--max-threat";
  refuse_together(options.by != "automatic" && options.by != "astar", word, ("--by " + options.by).c_str());
  refuse_together(options.from.size() > 1 || options.to.size() > 1, word, "several --from or --to");
  refuse_together(!options.weight.empty(), word, "--weight");
  refuse_together(!options.order.empty(), word, "--order");
  refuse_together(options.beside || options.within, word, "--beside or --within");
  refuse_together(options.or_nearest, word, "--or-nearest");
  refuse_together(!options.avoid.empty() || !options.allow.empty(), word, "--avoid or --allow");
  refuse_together(options.natural, word, "--natural");
  refuse_together(!options.turn_cost.empty() || !options.heading.empty(), word, "--turn-cost");
  refuse_together(options.straighten, word, "--straighten");
  refuse_together(!options.trace.empty(), word, "--trace");
  refuse_together(options.front && !options.wary.linger.empty(), "--front", "--linger");
  WaryQuestion question{options.common,
                        options.walker,
                        parse_cell(options.from.front(), "--from"),
                        parse_cell(options.to.front(), "--to"),
                        options.wary,
                        options.front,
                        {},
                        options.limit};
  if (!options.budget.empty()) {
    question.budget = static_cast<Cost>(parse_hundredths(options.budget, "--budget", 0, max_cost));
  }
  return wary_route(question);
}

Answer route(const RouteCommand& options) {
  if (options.wary.any() || options.front) return wary_way(options);
  auto kept = std::make_shared<Kept>();
  RouteOptions search = search_options(options, *kept);
  const bool wants_trace =
      (!options.common.draw.empty() || !options.common.json || !options.trace.empty()) && options.order != "best";
  if (wants_trace) search.trace = &kept->visits;
  kept->make(options.common, options.walker);
  finish_options(options, *kept, search);
  ask(options, *kept, search);
  if (options.straighten) find_waypoints(*kept);
  if (!kept->scenario.threats.empty() && !kept->cells().empty()) {
    kept->watch = Watch(kept->scenario, options.walker.as_unit);
    const Levels levels = kept->watch.levels_for(*kept->mover);
    kept->measure = exposure_of(kept->costs, levels, kept->cells());
  }

  Answer answer;
  answer.exit_code = kept->found() ? exit_yes : exit_no;
  answer.json = answer_json(options, *kept);
  answer.text = sentence(options, *kept);
  answer.pictures = {picture_of(options, *kept)};
  if (!options.common.json) answer.terminal_picture = terminal_picture(answer.pictures.front());
  if (!options.trace.empty()) add_file(answer, options.trace, trace_csv(*kept));
  answer.keep = kept;
  return answer;
}

}  // namespace

void add_route(CLI::App& app, Chosen& chosen) {
  auto options = std::make_shared<RouteCommand>();
  CLI::App& command = *app.add_subcommand("route", "the way from one cell to another");
  command.footer("Example: saunter route demo/strand.toml --mover crab --from 2,3 --to 40,25 --draw way.png");
  add_common(command, options->common);
  add_walker(command, options->walker);
  add_cells(command, "--from", options->from, "start cell as col,row; several: from the one that is cheapest")
      ->required();
  add_cells(command, "--to", options->to, "goal cell as col,row; several: to the one that is cheapest")->required();
  command.add_option("--by", options->by,
                     "automatic (default), astar, dijkstra, bfs (fewest steps), greedy (some way soon) or jump");
  command.add_option("--weight", options->weight,
                     "trust the estimate so many times as much: the way costs at most that many times the least");
  command.add_option("--budget", options->budget, "give up beyond this cost");
  add_whole(command, "--limit", options->limit, 1, std::numeric_limits<std::int64_t>::max(),
            "check at most this many cells");
  command.add_option("--order", options->order, "visit every --to: in the order given, or in the best one");
  command.add_flag("--beside", options->beside, "arrive next to the goal, which may be blocked");
  add_whole(command, "--within", options->within, 0, most_edge_steps,
            "arrive at most so many edge steps from the goal");
  command.add_flag("--or-nearest", options->or_nearest, "without a way: the way to the nearest cell there is one to");
  add_cells(command, "--avoid", options->avoid, "a cell to keep out of, for this question only");
  add_cells(command, "--allow", options->allow, "a cell to enter at cost 1, for this question only");
  command.add_flag("--natural", options->natural,
                   "of the cheapest ways one with few turns, close to the straight line");
  command.add_option("--turn-cost", options->turn_cost, "what an eighth (hexes: a sixth) of a turn costs");
  command.add_option("--heading", options->heading, "the side the unit faces at the start: n, ne, ...");
  command.add_flag("--straighten", options->straighten, "way points too: between two of them it can go straight");
  add_wary(command, options->wary);
  command.add_flag("--front", options->front,
                   "all ways worth choosing from, between the cheapest and the least exposed; --limit: places kept");
  command.add_option("--trace", options->trace, "write a CSV line for each cell checked");
  command.callback([&chosen, options] { chosen = {[options] { return route(*options); }, &options->common}; });
}

}  // namespace saunter::app
