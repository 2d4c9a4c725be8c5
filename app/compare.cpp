#include <fmt/format.h>

#include <algorithm>
#include <chrono>

#include "saunter/io/text.hpp"
#include "saunter/search/searcher.hpp"
#include "wary.hpp"

namespace saunter::app {
namespace {

struct Compare {
  Common common;
  Walker walker;
  std::string from;
  std::string to;
  std::string by;
  WaryWords wary;
  int repeat = 5;
};

/// One algorithm's answer and how long it took.
struct Entrant {
  std::string name;
  Algorithm by = Algorithm::automatic;
  Length weight = 100;
  Route route;
  std::vector<Visit> visits;
  Exposure measure;
  double micros = 0;
};

struct Kept : Ready {
  std::vector<Entrant> entrants;
  Watch watch;
  Levels levels;
  WarySearcher wary;
  Cell from;
  Cell to;
};

/// "astar", or "astar:1.5" for a weight.
Entrant parse_entrant(const std::string& text) {
  Entrant entrant;
  entrant.name = text;
  const std::size_t colon = text.find(':');
  entrant.by = parse_algorithm(text.substr(0, colon));
  if (colon == std::string::npos) return entrant;
  entrant.weight = static_cast<Length>(parse_hundredths(text.substr(colon + 1), "--by", 100, 10'000));
  if (entrant.by != Algorithm::astar)
    throw Refused{"--by: found " + io::shown(text) + ", expected a weight for astar only"};
  return entrant;
}

/// The median time of a question asked several times, in microseconds.
template <typename Ask>
double median_micros(int repeat, Ask&& ask) {
  using Clock = std::chrono::steady_clock;
  std::vector<double> times;
  for (int i = 0; i < repeat; ++i) {
    const auto began = Clock::now();
    ask();
    times.push_back(std::chrono::duration<double, std::micro>(Clock::now() - began).count());
  }
  std::nth_element(times.begin(), times.begin() + static_cast<std::ptrdiff_t>(times.size() / 2), times.end());
  return times[times.size() / 2];
}

Entrant run(const Kept& kept, Entrant entrant, int repeat) {
  Searcher searcher;
  RouteOptions options{.by = entrant.by, .weight = entrant.weight, .trace = &entrant.visits};
  entrant.route = searcher.route(kept.costs, kept.from, kept.to, options);
  options.trace = nullptr;
  entrant.micros = median_micros(repeat, [&] { (void)searcher.route(kept.costs, kept.from, kept.to, options); });
  entrant.measure = exposure_of(kept.costs, kept.levels, entrant.route.cells());
  return entrant;
}

/// The way that weighs danger, beside the others.
void run_wary(Kept& kept, const Compare& options, Answer& answer) {
  const WaryOptions asked{.care = parse_wariness(options.wary)};
  const double micros =
      median_micros(options.repeat, [&] { (void)kept.wary.route(kept.costs, kept.levels, kept.from, kept.to, asked); });
  const WaryRoute& route = kept.wary.route(kept.costs, kept.levels, kept.from, kept.to, asked);
  const Exposure& measure = route.measure();
  answer.json["runs"].push_back({{"algorithm", "wary"},
                                 {"used", "astar"},
                                 {"found", route.found()},
                                 {"cost", route.found() ? json_sum(measure.cost) : Json()},
                                 {"steps", route.found() ? Json(route.steps()) : Json()},
                                 {"expanded", route.expanded()},
                                 {"micros", json_cost(std::llround(micros * 100))},
                                 {"optimal", nullptr},
                                 {"exposure", route.found() ? json_sum(measure.exposure) : Json()},
                                 {"weighed", route.found() ? json_sum(measure.weighed) : Json()}});
  answer.text += fmt::format("{:<10} {:>10} {:>7} {:>9} {:>12.1f}  {}\n", "wary",
                             route.found() ? decimal_sum(measure.cost) : to_string(route.verdict()), route.steps(),
                             route.expanded(), micros, route.found() ? exposure_text(measure) : "");
  draw::Picture panel = kept.picture();
  panel.title = "wary " + options.wary.wary;
  if (!options.wary.linger.empty()) panel.title += ", linger " + options.wary.linger;
  if (options.wary.max_threat) panel.title += ", no level above " + std::to_string(*options.wary.max_threat);
  panel.path = route.cells();
  panel.start = &kept.from;
  panel.goal = &kept.to;
  panel.threat = &kept.watch.field;
  panel.watchers = kept.watch.watchers;
  panel.facts = {{"cost", route.found() ? decimal_sum(measure.cost) : to_string(route.verdict())},
                 {"exposure", decimal_sum(measure.exposure)},
                 {"exposed steps", std::to_string(measure.exposed_steps)},
                 {"most in a row", std::to_string(measure.longest)}};
  answer.pictures.push_back(panel);
}

/// One search's line, its object and its panel.
void tell(const Entrant& entrant, const Kept& kept, const Route& best, bool wary, Answer& answer) {
  const Route& route = entrant.route;
  const bool optimal = route.found() && route.cost() == best.cost();
  answer.json["runs"].push_back({{"algorithm", entrant.name},
                                 {"used", algorithm_name(route.algorithm())},
                                 {"found", route.found()},
                                 {"cost", route.found() ? json_cost(route.cost()) : Json()},
                                 {"steps", route.found() ? Json(route.steps()) : Json()},
                                 {"expanded", route.expanded()},
                                 {"micros", json_cost(std::llround(entrant.micros * 100))},
                                 {"optimal", optimal},
                                 {"exposure", route.found() ? json_sum(entrant.measure.exposure) : Json()},
                                 {"weighed", nullptr}});
  std::string remark;
  if (!kept.scenario.threats.empty() && route.found()) remark = "  " + exposure_text(entrant.measure);
  if (route.found() && !optimal) {
    remark += fmt::format("  {:.1f} % dearer than needed", 100.0 * route.cost() / best.cost() - 100);
  }
  if (entrant.by == Algorithm::automatic || entrant.by != route.algorithm()) {
    remark += fmt::format("  (is {} here)", algorithm_name(route.algorithm()));
  }
  answer.text += fmt::format("{:<10} {:>10} {:>7} {:>9} {:>12.1f}{}\n", entrant.name,
                             route.found() ? to_decimal(route.cost()) : to_string(route.verdict()), route.steps(),
                             route.expanded(), entrant.micros, remark);
  draw::Picture panel = kept.picture();
  panel.title = entrant.name;
  if (wary) {
    panel.threat = &kept.watch.field;
  } else {
    panel.visits = entrant.visits;
  }
  panel.watchers = kept.watch.watchers;
  panel.path = route.cells();
  panel.start = &kept.from;
  panel.goal = &kept.to;
  panel.facts = {{"cost", route.found() ? to_decimal(route.cost()) : to_string(route.verdict())},
                 {"steps", std::to_string(route.steps())},
                 {"cells checked", std::to_string(route.expanded())}};
  if (!kept.scenario.threats.empty()) {
    panel.facts.emplace_back("exposure", decimal_sum(entrant.measure.exposure));
    panel.facts.emplace_back("exposed steps", std::to_string(entrant.measure.exposed_steps));
  }
  answer.pictures.push_back(panel);
}

Answer compare(const Compare& options) {
  auto kept = std::make_shared<Kept>();
  kept->from = parse_cell(options.from, "--from");
  kept->to = parse_cell(options.to, "--to");
  std::vector<Entrant> entrants;
  (void)parse_wariness(options.wary);
  const std::string by = !options.by.empty() ? options.by : options.wary.any() ? "astar" : "astar,dijkstra,bfs";
  for (const std::string& name : split(by, ',')) entrants.push_back(parse_entrant(name));
  kept->make(options.common, options.walker);
  kept->watch = Watch(kept->scenario, options.walker.as_unit);
  kept->levels = kept->watch.levels_for(*kept->mover);
  for (Entrant& entrant : entrants) kept->entrants.push_back(run(*kept, std::move(entrant), options.repeat));
  // The measure of "optimal" is always asked for itself, whoever takes part.
  Searcher searcher;
  const Route best = searcher.route(kept->costs, kept->from, kept->to);

  Answer answer;
  answer.keep = kept;
  answer.json = {{"command", "compare"}, {"runs", Json::array()}};
  const Reason reason = best.verdict().reason;
  if (reason != Reason::found && reason < Reason::no_way) {
    refuse_cell(answer, kept->mover->name + " finds no way", best.verdict(), kept->picture());
    return answer;
  }
  answer.exit_code = best.found() ? exit_yes : exit_no;
  answer.text = fmt::format("{} from {} to {}\n{:<10} {:>10} {:>7} {:>9} {:>12}\n", kept->mover->name, show(kept->from),
                            show(kept->to), "search", "cost", "steps", "checked", "microseconds");
  for (const Entrant& entrant : kept->entrants) tell(entrant, *kept, best, options.wary.any(), answer);
  if (options.wary.any()) run_wary(*kept, options, answer);
  return answer;
}

}  // namespace

void add_compare(CLI::App& app, Chosen& chosen) {
  auto options = std::make_shared<Compare>();
  CLI::App& command = *app.add_subcommand("compare", "several searches on one question, side by side");
  command.footer("Example: saunter compare demo/strand.toml --from 3,4 --to 45,25 --draw compare.png");
  add_common(command, options->common);
  add_walker(command, options->walker);
  command.add_option("--from", options->from, "start cell as col,row")->required();
  command.add_option("--to", options->to, "goal cell as col,row")->required();
  command.add_option("--by", options->by,
                     "searches, separated by commas; astar:1.5 has a weight (default: astar,dijkstra,bfs, or astar "
                     "beside a wary way)");
  add_wary(command, options->wary);
  add_whole(command, "--repeat", options->repeat, 1, 1'000'000, "runs for the median time (default: 5)");
  command.callback([&chosen, options] { chosen = {[options] { return compare(*options); }, &options->common}; });
}

}  // namespace saunter::app
