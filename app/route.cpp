#include <fmt/format.h>

#include "saunter/search/searcher.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

struct RouteCommand {
  Common common;
  std::string mover;
  std::string as_unit;
  std::string from;
  std::string to;
  std::string by = "astar";
  std::string budget;
  std::optional<std::uint64_t> limit;
};

struct Kept : Ready {
  std::vector<Visit> visits;
  Route route;
  Cell from;
  Cell to;
};

RouteOptions search_options(const RouteCommand& options, std::vector<Visit>* trace) {
  RouteOptions search{.by = parse_algorithm(options.by)};
  if (!options.budget.empty()) {
    if (search.by == Algorithm::bfs) throw Refused{"--budget: found with --by bfs, which does not minimise cost"};
    search.budget = static_cast<Cost>(parse_hundredths(options.budget, "--budget", 0, max_cost));
  }
  if (options.limit) {
    if (*options.limit == 0) throw Refused{"--limit: found 0, expected at least 1"};
    search.limit = *options.limit;
  }
  search.trace = trace;
  return search;
}

std::string sentence(const Kept& kept) {
  const Route& route = kept.route;
  const std::string ends = fmt::format("from {} to {}", show(kept.from), show(kept.to));
  const std::string checked = counted(route.expanded(), "cell", "cells") + " checked";
  if (!route.found()) {
    return fmt::format("{} finds no way {}: {} ({} by {})\n", kept.mover->name, ends, to_string(route.verdict()),
                       checked, algorithm_name(route.algorithm()));
  }
  return fmt::format("{} goes {}: cost {}, {} ({} by {})\n", kept.mover->name, ends, to_decimal(route.cost()),
                     counted(route.steps(), "step", "steps"), checked, algorithm_name(route.algorithm()));
}

Json answer_json(const Route& route) {
  const bool found = route.found();
  return {{"command", "route"},
          {"found", found},
          {"algorithm", algorithm_name(route.algorithm())},
          {"cost", found ? json_cost(route.cost()) : Json()},
          {"steps", found ? Json(route.steps()) : Json()},
          {"expanded", route.expanded()},
          {"path", found ? json_cells(route.cells()) : Json()},
          {"reason", found ? Json() : Json(reason_name(route.verdict().reason))},
          {"at", found ? Json() : json_cell(route.verdict().at)}};
}

draw::Picture picture_of(const Kept& kept) {
  draw::Picture picture = kept.picture();
  picture.visits = kept.visits;
  picture.path = kept.route.cells();
  picture.start = &kept.from;
  picture.goal = &kept.to;
  const Route& route = kept.route;
  picture.facts = {{"mover", kept.mover->name}, {"search", std::string(algorithm_name(route.algorithm()))}};
  if (route.found()) {
    picture.facts.emplace_back("cost", to_decimal(route.cost()));
    picture.facts.emplace_back("steps", std::to_string(route.steps()));
  } else {
    picture.facts.emplace_back("answer", to_string(route.verdict()));
    picture.mark = &route.verdict().at;
  }
  picture.facts.emplace_back("cells checked", std::to_string(route.expanded()));
  return picture;
}

Answer route(const RouteCommand& options) {
  auto kept = std::make_shared<Kept>();
  kept->from = parse_cell(options.from, "--from");
  kept->to = parse_cell(options.to, "--to");
  const bool wants_trace = !options.common.draw.empty() || !options.common.json;
  const RouteOptions search = search_options(options, wants_trace ? &kept->visits : nullptr);
  kept->make(options.common, options.mover, options.as_unit);
  Searcher searcher;
  kept->route = searcher.route(kept->costs, kept->from, kept->to, search);

  Answer answer;
  answer.exit_code = kept->route.found() ? exit_yes : exit_no;
  answer.json = answer_json(kept->route);
  answer.text = sentence(*kept);
  answer.pictures = {picture_of(*kept)};
  if (!options.common.json) answer.terminal_picture = terminal_picture(answer.pictures.front());
  answer.keep = kept;
  return answer;
}

}  // namespace

void add_route(CLI::App& app, Chosen& chosen) {
  auto options = std::make_shared<RouteCommand>();
  CLI::App& command = *app.add_subcommand("route", "the way from one cell to another");
  command.footer("Example: saunter route demo/strand.toml --mover crab --from 2,3 --to 40,25 --draw way.png");
  add_common(command, options->common);
  command.add_option("--mover", options->mover, "who walks (default: the first mover of the file)");
  command.add_option("--as", options->as_unit, "the unit that walks: its own cells are not in its way");
  command.add_option("--from", options->from, "start cell as col,row")->required();
  command.add_option("--to", options->to, "goal cell as col,row")->required();
  command.add_option("--by", options->by, "astar (default), dijkstra or bfs (fewest steps)");
  command.add_option("--budget", options->budget, "give up beyond this cost");
  command.add_option("--limit", options->limit, "check at most this many cells");
  command.callback([&chosen, options] { chosen = {[options] { return route(*options); }, &options->common}; });
}

}  // namespace saunter::app
