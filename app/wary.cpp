#include "wary.hpp"

#include <fmt/format.h>

#include "saunter/draw/overlay/marks.hpp"
#include "saunter/draw/overlay/path.hpp"
#include "saunter/draw/overlay/plot.hpp"
#include "saunter/check/inspect.hpp"
#include "saunter/threat/timed_route.hpp"

namespace saunter::app {
namespace {

double percent_more(std::uint64_t value, std::uint64_t base) {
  return base == 0 ? 0 : 100.0 * static_cast<double>(value) / static_cast<double>(base) - 100;
}

double percent_less(std::uint64_t value, std::uint64_t base) {
  return base == 0 ? 0 : 100.0 - 100.0 * static_cast<double>(value) / static_cast<double>(base);
}

}  // namespace

void WaryWords::add_words(Words& words) {
  words.heading("Danger");
  words.hundredths("--wary", wary, 0, 6'553'500,
                   "what one level of danger weighs, in steps: a cell of entry cost e and level v counts e + W x v");
  words.hundredths("--linger", linger, 0, 65'535,
                   "how much more each exposed step in a row weighs than the one before");
  words.level("--max-threat", max_threat, "enter no cell above this level");
  words.need({"--linger"}, {"--wary"});
}

WaryAnswer::WaryAnswer(const Common& common, const MoverWords& words, WaryQuestion question)
    : question_(std::move(question)) {
  ready_.make(common, words);
  watch_ = Watch(ready_.scenario, words.as_unit, question_.tick.value_or(0));
  levels_ = watch_.levels_for(*ready_.mover);
}

void WaryAnswer::ask() {
  WaryOptions options{.care = question_.words.care(), .budget = question_.budget};
  options.strike_dead_ends = question_.strike_dead_ends;
  if (question_.limit) options.limit = *question_.limit;
  WarySearcher searcher;
  const WaryRoute& route = searcher.route(ready_.costs, levels_, question_.from, question_.to, options);
  verdict_ = route.verdict();
  cells_.assign(route.cells().begin(), route.cells().end());
  measure_ = route.measure();
  expanded_ = route.expanded();
}

void WaryAnswer::ask_by_ticks() {
  const WaryWords& words = question_.words;
  TimedOptions options{.wary = words.wary.value_or(0_steps), .highest = words.max_threat, .begin = *question_.tick};
  options.budget = question_.budget;
  if (question_.limit) options.limit = *question_.limit;
  const TimedDanger danger = ready_.scenario.timed_danger(watch_.sight);
  TimedSearcher searcher;
  const TimedRoute& route = searcher.route(ready_.costs, danger, question_.from, question_.to, options);
  verdict_ = route.verdict();
  cells_.assign(route.cells().begin(), route.cells().end());
  expanded_ = route.expanded();
  waits_ = route.waits();
  if (!found()) return;
  const InspectOptions by_ticks{.timed = &danger, .tick = *question_.tick, .waiting = true};
  measure_ = inspect_path(ready_.scenario.map, *ready_.mover, ready_.costs, cells_, by_ticks).measure;
  measure_.weighed = route.weighed();
}

void WaryAnswer::ask_front() {
  const Wariness care = question_.words.care();
  FrontOptions options{.highest = care.highest, .budget = question_.budget};
  if (question_.limit) options.most_labels = static_cast<std::size_t>(*question_.limit);
  front_ = find_front(ready_.costs, levels_, question_.from, question_.to, options);
  verdict_ = front_.verdict;
  expanded_ = front_.labels;
  // The route that weighs least, or the cheapest.
  chosen_ = question_.words.wary ? least_weighed(front_, ready_.costs, levels_, care) : 0;
  if (front_.routes.empty()) return;
  cells_ = front_.routes[chosen_].cells;
  measure_ = exposure_of(ready_.costs, levels_, cells_, care);
}

void WaryAnswer::tell_front(Answer& answer) const {
  answer.json["front"] = Json::array();
  for (const TradeOff& route : front_.routes) {
    answer.json["front"].push_back(
        {{"cost", json_cost(route.cost)}, {"exposure", json_sum(route.exposure)}, {"path", json_cells(route.cells)}});
  }
  answer.json["complete"] = front_.complete;
  const std::vector<TradeOff>& routes = front_.routes;
  if (routes.empty()) return;
  answer.text +=
      fmt::format("{} worth choosing from, from the cheapest to the least exposed:\n  {:>9} {:>9} {:>10} {:>9}\n",
                  counted(routes.size(), "route", "routes"), "cost", "longer", "exposure", "less");
  const std::size_t every = (routes.size() + most_listed - 1) / most_listed;
  for (std::size_t i = 0; i < routes.size(); ++i) {
    if (i % every != 0 && i + 1 != routes.size() && i != chosen_) continue;
    answer.text +=
        fmt::format("{} {:>9} {:>7.1f} % {:>10} {:>7.1f} %\n", i == chosen_ ? "*" : " ", to_decimal(routes[i].cost),
                    percent_more(routes[i].cost, routes.front().cost), decimal_sum(routes[i].exposure),
                    percent_less(routes[i].exposure, routes.front().exposure));
  }
  if (every > 1) answer.text += fmt::format("  (every {}. of them; --json has all)\n", every);
  for (const TradeOff& route : routes) {
    if (route.exposure * 2 > routes.front().exposure || &route == &routes.front()) continue;
    answer.text += fmt::format("{:.1f} % longer halves the exposure\n", percent_more(route.cost, routes.front().cost));
    break;
  }
  if (!front_.complete) answer.text += "the search was cut short: routes of higher cost may be missing\n";
}

void WaryAnswer::tell_route(Answer& answer) const {
  answer.json.update({{"found", found()},
                      {"algorithm", question_.front              ? "front"
                                    : question_.strike_dead_ends ? "dead-ends"
                                                                 : "astar"},
                      {"cost", found() ? json_sum(measure_.cost) : Json()},
                      {"steps", found() ? Json(cells_.size() - 1) : Json()},
                      {"expanded", expanded_},
                      {"path", found() ? json_cells(cells_) : Json()},
                      {"reason", found() ? Json() : Json(reason_name(verdict_.reason))},
                      {"at", found() ? Json() : json_cell(verdict_.at)},
                      {"exposure", found() ? json_sum(measure_.exposure) : Json()},
                      {"weighed", found() ? json_sum(measure_.weighed) : Json()},
                      {"waypoints", nullptr},
                      {"exposed_steps", found() ? Json(measure_.exposed_steps) : Json()},
                      {"covered_steps", found() ? Json(measure_.covered_steps) : Json()},
                      {"longest_exposed", found() ? Json(measure_.longest) : Json()},
                      {"longest_exposed_cost", found() ? json_sum(measure_.longest_cost) : Json()}});
  if (question_.tick) answer.json["waits"] = found() ? Json(waits_) : Json();
  const std::string ends = fmt::format("from {} to {}", show(question_.from), show(question_.to));
  if (!found()) {
    answer.text = fmt::format("{} finds no way {}: {}\n", ready_.mover->name, ends, to_string(verdict_));
    return;
  }
  answer.text =
      fmt::format("{} goes {}: cost {}, {}\n{}, the costliest stretch {}; {} in cover\n", ready_.mover->name, ends,
                  decimal_sum(measure_.cost), counted(cells_.size() - 1, "step", "steps"), exposure_text(measure_),
                  decimal_sum(measure_.longest_cost), counted(measure_.covered_steps, "step", "steps"));
  if (question_.front) return;
  if (question_.tick) answer.text += fmt::format("it waits {}\n", counted(waits_, "tick", "ticks"));
  answer.text +=
      fmt::format("weighed {} ({} checked)\n", decimal_sum(measure_.weighed), counted(expanded_, "cell", "cells"));
}

draw::Picture WaryAnswer::picture() const {
  draw::Picture picture = ready_.picture();
  picture.facts = {{"mover", ready_.mover->name}};
  const WaryWords& words = question_.words;
  if (words.wary) picture.facts.emplace_back("wary", to_decimal(*words.wary));
  if (words.linger) picture.facts.emplace_back("linger", to_decimal(*words.linger));
  if (words.max_threat) picture.facts.emplace_back("no level above", std::to_string(*words.max_threat));
  picture.add(draw::Danger(watch_.field)).add(draw::Threats(watch_.threats));
  std::vector<draw::PlotPoint> plot;
  for (std::size_t i = 0; i < front_.routes.size(); ++i) {
    plot.push_back({front_.routes[i].cost, front_.routes[i].exposure, i == chosen_});
  }
  picture.add(draw::Plot(std::move(plot)));
  if (found()) {
    picture.facts.emplace_back("cost", decimal_sum(measure_.cost));
    picture.facts.emplace_back("exposure", decimal_sum(measure_.exposure));
    picture.facts.emplace_back("exposed steps", std::to_string(measure_.exposed_steps));
    picture.facts.emplace_back("most in a row", std::to_string(measure_.longest));
    if (question_.tick) show_by_ticks(picture);
    // By ticks the danger shown is that of the first: what is exposed can't be told from it.
    picture.add(draw::Path(cells_, question_.tick ? nullptr : &watch_.field));
  } else {
    picture.add(draw::Ring(verdict_.at, to_string(verdict_)));
  }
  using Kind = draw::Ends::Kind;
  picture.add(draw::Ends(Kind::start, {question_.from})).add(draw::Ends(Kind::goal, {question_.to}));
  return picture;
}

/// Danger can be shown as it is at one tick only.
void WaryAnswer::show_by_ticks(draw::Picture& picture) const {
  picture.facts.emplace_back("ticks of waiting", std::to_string(waits_));
  picture.facts.emplace_back("danger shown", "at tick " + std::to_string(*question_.tick));
  std::size_t first = 0;
  for (std::size_t i = 1; i <= cells_.size(); ++i) {
    if (i < cells_.size() && cells_[i] == cells_[first]) continue;
    if (i - first > 1)
      picture.add(draw::Ring(cells_[first], "waits here for " + counted(i - first - 1, "tick", "ticks")));
    first = i;
  }
}

Answer WaryAnswer::answer() {
  if (question_.front) {
    ask_front();
  } else if (question_.tick) {
    ask_by_ticks();
  } else {
    ask();
  }
  Answer answer;
  answer.exit_code = found() ? exit_yes : exit_no;
  answer.json = {{"command", "route"}};
  tell_route(answer);
  if (question_.front) tell_front(answer);
  answer.picture = picture();
  ready_.add_scene(answer, std::span(&question_.from, 1), std::span(&question_.to, 1));
  return answer;
}

}  // namespace saunter::app
