#include "turning.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "saunter/draw/overlay/marks.hpp"
#include "saunter/draw/overlay/path.hpp"
#include "saunter/draw/overlay/turns.hpp"
#include "saunter/grid/area.hpp"
#include "saunter/ground/clearance.hpp"
#include "saunter/io/text.hpp"
#include "saunter/search/path.hpp"

namespace saunter::app {
namespace {

constexpr const char* around_expected = "a cell and a number of edge steps: c,r:R";

/// "12,9:2"
std::pair<Cell, int> parse_around(const std::string& text) {
  constexpr const char* option = "--stop-around";
  const std::size_t colon = text.find(':');
  if (colon == std::string::npos) Words::refuse_word(option, text, around_expected);
  const Cell middle = Words::parse_cell(text.substr(0, colon), option);
  return {middle, static_cast<int>(Words::parse_whole(text.substr(colon + 1), option, 0, most_edge_steps))};
}

/// The legs of a way that each turn takes, for the text.
std::string turns_text(const TurnRoute& route, const CostGrid& costs, std::span<const EntryChange> changes) {
  std::string text;
  std::size_t first = 0;
  for (std::size_t turn = 0; turn < route.turns(); ++turn) {
    const std::size_t end = route.ends()[turn];
    const auto leg = route.cells().subspan(first, end - first + 1);
    text += fmt::format("  turn {}: to {}, {} points\n", turn + 1, show(leg.back()),
                        decimal_sum(cost_of_path(costs, leg, changes).value_or(0)));
    first = end;
  }
  return text;
}

Json turns_json(const TurnRoute& route) {
  const bool found = route.found();
  Json json = {{"command", "route"},
               {"found", found},
               {"algorithm", "astar"},
               {"cost", found ? json_cost(route.cost()) : Json()},
               {"steps", found ? Json(route.cells().size() - 1) : Json()},
               {"expanded", route.expanded()},
               {"path", found ? json_cells(route.cells()) : Json()},
               {"reason", found ? Json() : Json(reason_name(route.verdict().reason))},
               {"at", found ? Json() : json_cell(route.verdict().at)},
               {"exposure", nullptr},
               {"weighed", nullptr},
               {"waypoints", nullptr},
               {"turns_end", nullptr},
               {"last_turn", found ? json_cost(route.last_turn()) : Json()}};
  if (!found) return json;
  json["turns_end"] = Json::array();
  for (const std::uint32_t end : route.ends()) json["turns_end"].push_back(json_cell(route.cells()[end]));
  return json;
}

}  // namespace

void TurnWords::add_words(Words& words) {
  words.heading("Turns");
  words.cells("--stop", stops, "a cell that may be entered, but ends the move");
  words.texts("--stop-around", stops_around, "all cells within R edge steps of c,r end the move: c,r:R");
  words.texts("--pass", passed, "a unit that may be passed over, but not ended on");
}

void Turning::make(const TurnWords& words, Ready& ready, const std::string& as_unit) {
  const Map& map = ready.scenario.map;
  BitGrid stopping(map.size());
  for (const Cell cell : words.stops) {
    check_on_map(map, cell, "--stop");
    stopping.set(cell);
  }
  std::vector<Cell> about;
  for (const std::string& around : words.stops_around) {
    const auto [middle, steps] = parse_around(around);
    disk_of_cells(map.tiling(), middle, steps, map.size(), about);
    for (const Cell cell : about) stopping.set(cell);
  }
  BitGrid under(map.size());
  BitGrid occupied = ready.scenario.occupied(as_unit);
  for (const std::string& name : words.passed) {
    const io::Unit* const unit = ready.scenario.find_unit(name);
    if (unit == nullptr || name.empty()) Words::refuse_word("--pass", name, "the name of a [[unit]]");
    for (const Cell cell : unit->cells) {
      under.set(cell);
      occupied.set(cell, false);
    }
  }
  if (!words.passed.empty()) ready.costs = bake(map, *ready.mover, &occupied);
  // Shown where the mover gets at all; a large one covers cells beside those too.
  stopping.for_each_set([&](Cell cell) {
    if (ready.mover->size > 1 || ready.costs.open(cell)) stop_cells.push_back(cell);
  });
  under.for_each_set([&](Cell cell) { passed_cells.push_back(cell); });
  stops = std::move(stopping);
  passed = std::move(under);
}

AnswerByTurns::AnswerByTurns(const Common& common, const MoverWords& mover_words, TurnQuestion question)
    : question_(std::move(question)) {
  ready_.make(common, mover_words);
  turning_.make(question_.words, ready_, mover_words.as_unit);
  for (const EntryChange& change : question_.changes) {
    check_on_map(ready_.scenario.map, change.cell, change.cost == blocked ? "--avoid" : "--allow");
  }
}

std::string AnswerByTurns::text(const TurnRoute& route) const {
  const std::string ends = fmt::format("from {} to {}", show(question_.from), show(question_.to));
  if (!route.found()) {
    return fmt::format("{} finds no way {} by turns of {}: {}\n", ready_.mover->name, ends,
                       to_decimal(question_.points), to_string(route.verdict()));
  }
  return fmt::format("{} goes {} in {} of {} points: cost {}, {}\n", ready_.mover->name, ends,
                     counted(route.turns(), "turn", "turns"), to_decimal(question_.points), to_decimal(route.cost()),
                     counted(route.cells().size() - 1, "step", "steps")) +
         turns_text(route, ready_.costs, question_.changes);
}

draw::Picture AnswerByTurns::picture(const TurnRoute& route) const {
  draw::Picture picture = ready_.picture();
  picture.facts = {{"mover", ready_.mover->name}, {"points a turn", to_decimal(question_.points)}};
  picture.add(draw::Stops(turning_.stop_cells)).add(draw::PassedOver(turning_.passed_cells));
  if (route.found()) {
    picture.facts.emplace_back("turns", std::to_string(route.turns()));
    picture.facts.emplace_back("cost", to_decimal(route.cost()));
    std::vector<Cell> ends;
    for (const std::uint32_t end : route.ends()) ends.push_back(route.cells()[end]);
    if (!ends.empty()) ends.pop_back();  // the goal has a mark of its own
    picture.add(draw::Path({route.cells().begin(), route.cells().end()})).add(draw::TurnEnds(std::move(ends)));
  } else {
    picture.add(draw::Ring(route.verdict().at, to_string(route.verdict())));
  }
  using Kind = draw::Ends::Kind;
  picture.add(draw::Ends(Kind::start, {question_.from})).add(draw::Ends(Kind::goal, {question_.to}));
  return picture;
}

Answer AnswerByTurns::answer() {
  TurnTerms terms = turning_.terms(question_.points);
  terms.changes = question_.changes;
  const std::uint64_t limit = question_.limit.value_or(~std::uint64_t{0});
  const TurnRoute& route = searcher_.route(ready_.costs, question_.from, question_.to, terms, limit);
  Answer answer;
  answer.exit_code = route.found() ? exit_yes : exit_no;
  answer.json = turns_json(route);
  answer.text = text(route);
  answer.picture = picture(route);
  ready_.add_scene(answer, std::span(&question_.from, 1), std::span(&question_.to, 1));
  return answer;
}

}  // namespace saunter::app
