#include "wary.hpp"

#include <fmt/format.h>

namespace saunter::app {
namespace {

struct Kept : Ready {
  Watch watch;
  Levels levels;
  WarySearcher searcher;
  Front front;
  std::vector<draw::PlotPoint> plot;
  Cell from;
  Cell to;
  // The way shown: of the search, or chosen from the front.
  Verdict verdict;
  std::vector<Cell> cells;
  Exposure measure;
  std::uint64_t expanded = 0;
};

constexpr std::size_t most_told = 12;

double percent_more(std::uint64_t value, std::uint64_t base) {
  return base == 0 ? 0 : 100.0 * static_cast<double>(value) / static_cast<double>(base) - 100;
}

double percent_less(std::uint64_t value, std::uint64_t base) {
  return base == 0 ? 0 : 100.0 - 100.0 * static_cast<double>(value) / static_cast<double>(base);
}

void tell_front(const Kept& kept, std::size_t chosen, Answer& answer) {
  answer.json["front"] = Json::array();
  for (const TradeOff& way : kept.front.ways) {
    answer.json["front"].push_back(
        {{"cost", json_cost(way.cost)}, {"exposure", json_sum(way.exposure)}, {"path", json_cells(way.cells)}});
  }
  answer.json["complete"] = kept.front.complete;
  const std::vector<TradeOff>& ways = kept.front.ways;
  if (ways.empty()) return;
  answer.text +=
      fmt::format("{} worth choosing from, from the cheapest to the least exposed:\n  {:>9} {:>9} {:>10} {:>9}\n",
                  counted(ways.size(), "way", "ways"), "cost", "longer", "exposure", "less");
  const std::size_t every = (ways.size() + most_told - 1) / most_told;
  for (std::size_t i = 0; i < ways.size(); ++i) {
    if (i % every != 0 && i + 1 != ways.size() && i != chosen) continue;
    answer.text += fmt::format("{} {:>9} {:>7.1f} % {:>10} {:>7.1f} %\n", i == chosen ? "*" : " ",
                               to_decimal(ways[i].cost), percent_more(ways[i].cost, ways.front().cost),
                               decimal_sum(ways[i].exposure), percent_less(ways[i].exposure, ways.front().exposure));
  }
  if (every > 1) answer.text += fmt::format("  (every {}. of them; --json has all)\n", every);
  for (const TradeOff& way : ways) {
    if (way.exposure * 2 > ways.front().exposure || &way == &ways.front()) continue;
    answer.text += fmt::format("{:.1f} % longer halves the exposure\n", percent_more(way.cost, ways.front().cost));
    break;
  }
  if (!kept.front.complete) answer.text += "the search was cut short: dearer ways may be missing\n";
}

void ask(Kept& kept, const WaryQuestion& question, const Wariness& care, Answer& answer) {
  if (!question.front) {
    WaryOptions options{.care = care, .budget = question.budget};
    if (question.limit) options.limit = *question.limit;
    const WaryRoute& route = kept.searcher.route(kept.costs, kept.levels, kept.from, kept.to, options);
    kept.verdict = route.verdict();
    kept.cells.assign(route.cells().begin(), route.cells().end());
    kept.measure = route.measure();
    kept.expanded = route.expanded();
    return;
  }
  FrontOptions options{.highest = care.highest, .budget = question.budget};
  if (question.limit) options.most_labels = static_cast<std::size_t>(*question.limit);
  kept.front = find_front(kept.costs, kept.levels, kept.from, kept.to, options);
  kept.verdict = kept.front.verdict;
  kept.expanded = kept.front.labels;
  // The way that weighs least, or the cheapest.
  const bool weigh = !question.words.wary.empty();
  const std::size_t chosen = weigh ? least_weighed(kept.front, kept.costs, kept.levels, care) : 0;
  if (!kept.front.ways.empty()) {
    kept.cells = kept.front.ways[chosen].cells;
    kept.measure = exposure_of(kept.costs, kept.levels, kept.cells, care);
  }
  for (std::size_t i = 0; i < kept.front.ways.size(); ++i) {
    kept.plot.push_back({kept.front.ways[i].cost, kept.front.ways[i].exposure, i == chosen});
  }
  tell_front(kept, chosen, answer);
}

draw::Picture picture_of(const Kept& kept, const WaryQuestion& question) {
  draw::Picture picture = kept.picture();
  picture.threat = &kept.watch.field;
  picture.watchers = kept.watch.watchers;
  picture.path = kept.cells;
  picture.plot = kept.plot;
  picture.start = &kept.from;
  picture.goal = &kept.to;
  picture.facts = {{"mover", kept.mover->name}};
  if (!question.words.wary.empty()) picture.facts.emplace_back("wary", question.words.wary);
  if (!question.words.linger.empty()) picture.facts.emplace_back("linger", question.words.linger);
  if (question.words.max_threat)
    picture.facts.emplace_back("no level above", std::to_string(*question.words.max_threat));
  if (kept.verdict.reason != Reason::found) {
    picture.facts.emplace_back("answer", to_string(kept.verdict));
    picture.mark = &kept.verdict.at;
    return picture;
  }
  picture.facts.emplace_back("cost", decimal_sum(kept.measure.cost));
  picture.facts.emplace_back("exposure", decimal_sum(kept.measure.exposure));
  picture.facts.emplace_back("exposed steps", std::to_string(kept.measure.exposed_steps));
  picture.facts.emplace_back("most in a row", std::to_string(kept.measure.longest));
  return picture;
}

}  // namespace

void add_wary(CLI::App& command, WaryWords& words) {
  command.add_option("--wary", words.wary,
                     "what one level of danger weighs, in steps: a cell of entry cost e and level v counts e + W x v");
  command.add_option("--linger", words.linger, "how much more each exposed step in a row weighs than the one before");
  add_whole(command, "--max-threat", words.max_threat, 0, 65'535, "enter no cell above this level");
}

Wariness parse_wariness(const WaryWords& words) {
  Wariness care{.wary = 0_steps};
  if (!words.wary.empty()) care.wary = static_cast<Length>(parse_hundredths(words.wary, "--wary", 0, 6'553'500));
  if (!words.linger.empty()) {
    if (words.wary.empty()) throw Refused{"--linger: found without --wary, which it belongs to"};
    care.linger = static_cast<Length>(parse_hundredths(words.linger, "--linger", 0, 65'535));
  }
  care.highest = parse_level(words.max_threat);
  return care;
}

Answer wary_route(const WaryQuestion& question) {
  const Wariness care = parse_wariness(question.words);
  auto kept = std::make_shared<Kept>();
  kept->from = question.from;
  kept->to = question.to;
  kept->make(question.common, question.walker);
  kept->watch = Watch(kept->scenario, question.walker.as_unit);
  kept->levels = kept->watch.levels_for(*kept->mover);

  Answer answer;
  answer.keep = kept;
  answer.json = {{"command", "route"}};
  Answer front;
  ask(*kept, question, care, front);
  const bool found = kept->verdict.reason == Reason::found;
  const Exposure& measure = kept->measure;
  answer.exit_code = found ? exit_yes : exit_no;
  answer.json.update({{"found", found},
                      {"algorithm", question.front ? "front" : "astar"},
                      {"cost", found ? json_sum(measure.cost) : Json()},
                      {"steps", found ? Json(kept->cells.size() - 1) : Json()},
                      {"expanded", kept->expanded},
                      {"path", found ? json_cells(kept->cells) : Json()},
                      {"reason", found ? Json() : Json(reason_name(kept->verdict.reason))},
                      {"at", found ? Json() : json_cell(kept->verdict.at)},
                      {"exposure", found ? json_sum(measure.exposure) : Json()},
                      {"weighed", found ? json_sum(measure.weighed) : Json()},
                      {"waypoints", nullptr},
                      {"exposed_steps", found ? Json(measure.exposed_steps) : Json()},
                      {"covered_steps", found ? Json(measure.covered_steps) : Json()},
                      {"longest_exposed", found ? Json(measure.longest) : Json()},
                      {"longest_exposed_cost", found ? json_sum(measure.longest_cost) : Json()}});
  answer.json.update(front.json.is_object() ? front.json : Json::object());
  const std::string ends = fmt::format("from {} to {}", show(kept->from), show(kept->to));
  if (found) {
    answer.text =
        fmt::format("{} goes {}: cost {}, {}\n{}, the dearest stretch {}; {} in cover\n", kept->mover->name, ends,
                    decimal_sum(measure.cost), counted(kept->cells.size() - 1, "step", "steps"), exposure_text(measure),
                    decimal_sum(measure.longest_cost), counted(measure.covered_steps, "step", "steps"));
    if (!question.front) {
      answer.text += fmt::format("weighed {} ({} checked)\n", decimal_sum(measure.weighed),
                                 counted(kept->expanded, "cell", "cells"));
    }
  } else {
    answer.text = fmt::format("{} finds no way {}: {}\n", kept->mover->name, ends, to_string(kept->verdict));
  }
  answer.text += front.text;
  answer.pictures = {picture_of(*kept, question)};
  if (!question.common.json) answer.terminal_picture = terminal_picture(answer.pictures.front());
  return answer;
}

}  // namespace saunter::app
