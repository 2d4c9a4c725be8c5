// Turns, gatherings and threats by time beside the plain questions they are made of: both in one run, by turns.
#include <fmt/format.h>

#include <algorithm>
#include <string>
#include <vector>

#include "boards.hpp"
#include "saunter/place/gather.hpp"
#include "saunter/threat/cover.hpp"
#include "saunter/threat/timed_route.hpp"
#include "saunter/turn.hpp"
#include "timing.hpp"

using namespace saunter;
using saunter::bench::now;
using saunter::test::Random;

namespace {

/// Medians of two pieces of work, done by turns.
template <typename A, typename B>
void compare(const char* what, int rounds, A&& ours, B&& plain) {
  std::vector<double> of_ours;
  std::vector<double> of_plain;
  ours();
  plain();
  for (int i = 0; i < rounds; ++i) {
    double begin = now();
    ours();
    of_ours.push_back(now() - begin);
    begin = now();
    plain();
    of_plain.push_back(now() - begin);
  }
  const auto median = [](std::vector<double>& times) {
    std::nth_element(times.begin(), times.begin() + static_cast<std::ptrdiff_t>(times.size() / 2), times.end());
    return times[times.size() / 2];
  };
  const double a = median(of_ours);
  const double b = median(of_plain);
  fmt::print("{:<58} {:>12.1f} {:>12.1f} {:>8.2f}\n", what, a, b, a / b);
}

Cell open_cell(Random& random, const CostGrid& costs) {
  for (;;) {
    const Cell cell = random.cell(costs.size());
    if (costs.open(cell)) return cell;
  }
}

void turn_reach(const char* name, const CostGrid& costs, Hundredths points, int rounds) {
  Random random(3);
  const Cell from = open_cell(random, costs);
  BitGrid stops(costs.size());
  BitGrid passed(costs.size());
  for (const Cell cell : costs.size().cells()) {
    if (random.chance(1)) stops.set(cell);
    if (random.chance(1)) passed.set(cell);
  }
  Searcher searcher;
  Field field;
  TurnReach turn;
  const Source start{from};
  const auto plain = [&] { searcher.reach(costs, {&start, 1}, field, {.budget = points}); };
  compare(fmt::format("turn without stops, {}", name).c_str(), rounds, [&] { turn.ask(costs, from, {.points = points}); },
          plain);
  const TurnTerms terms{.points = points, .stops = &stops, .passed = &passed};
  compare(fmt::format("turn, 1 % stops, 1 % passed over, {}", name).c_str(), rounds,
          [&] { turn.ask(costs, from, terms); }, plain);
  Acting acting;
  compare(fmt::format("what it can act on at 1 to 3, beside its reach, {}", name).c_str(), rounds,
          [&] { acting.ask(turn, {.least = 1, .most = 3}); }, plain);
}

void turn_routes() {
  const CostGrid costs = bench::noise(Tiling::square(), 512, 20, true);
  Random random(5);
  std::vector<std::pair<Cell, Cell>> asked;
  for (int i = 0; i < 20; ++i) asked.emplace_back(open_cell(random, costs), open_cell(random, costs));
  TurnSearcher by_turns;
  Searcher searcher;
  compare("20 ways by turns of 8, beside A*, weighted noise 512", 15,
          [&] {
            for (const auto& [from, to] : asked) (void)by_turns.route(costs, from, to, {.points = 8_steps});
          },
          [&] {
            for (const auto& [from, to] : asked) (void)searcher.route(costs, from, to, {.by = Algorithm::astar});
          });
}

void gather() {
  const CostGrid costs = bench::noise(Tiling::square(), 512, 20, false);
  Random random(9);
  std::vector<Cell> units;
  for (int i = 0; i < 500; ++i) units.push_back(open_cell(random, costs));
  const Cell rally = open_cell(random, costs);
  Gatherer gatherer;
  Searcher searcher;
  const auto single = [&] {
    for (const Cell unit : units) (void)searcher.route(costs, unit, rally, {.by = Algorithm::astar});
  };
  compare("500 units gather, least sum, beside 500 A*, noise 512", 5,
          [&] { (void)gatherer.gather(costs, units, rally); }, single);
  compare("500 units gather, soonest, beside 500 A*, noise 512", 5,
          [&] { (void)gatherer.gather(costs, units, rally, {.aim = GatherAim::soonest}); }, single);
}

void threats() {
  const Board board{Tiling::square(), {512, 512}};
  Random random(4);
  SightGrid sight(board);
  for (int i = 0; i < 20'000; ++i) sight.set_opaque(random.cell(board.size), true);
  ThreatField field(board);
  for (int i = 0; i < 200; ++i) (void)field.add(sight, {.at = random.cell(board.size), .range = 12_steps});
  Threat threat{.at = {250, 250}, .range = 20_steps, .needs_sight = true, .facing = Facing::from_degrees(0), .arc = 90};
  const auto id = field.add(sight, threat);
  int degrees = 0;
  compare("a threat of range 20 turns, beside adding and removing it", 2000,
          [&] { (void)field.turn(id, sight, Facing::from_degrees(degrees += 10)); },
          [&] {
            threat.facing = Facing::from_degrees(degrees);
            (void)field.remove(field.add(sight, threat));
          });
  const CostGrid costs = bench::noise(Tiling::square(), 512, 20, false);
  TimedDanger danger(board);
  for (int i = 0; i < 100; ++i) {
    const Threat guard{.at = random.cell(board.size), .range = 10_steps, .needs_sight = true, .arc = 120};
    (void)danger.add(sight, guard, sweep(guard.at, 0, 180, 45, 2));
  }
  Levels levels;
  danger.levels(0, levels);
  const Cell from = open_cell(random, costs);
  const Cell to = open_cell(random, costs);
  TimedSearcher by_ticks;
  WarySearcher wary;
  compare("a way past 100 turning threats, beside one as at tick 0", 9,
          [&] { (void)by_ticks.route(costs, danger, from, to, {.wary = 2_steps}); },
          [&] { (void)wary.route(costs, levels, from, to, {.care = {.wary = 2_steps}}); });
  CoverFinder finder;
  compare("the nearest cover, beside a wary way", 200, [&] { (void)finder.find(costs, levels, from); },
          [&] { (void)wary.route(costs, levels, from, to, {.care = {.wary = 2_steps}}); });
}

}  // namespace

int main() {
  fmt::print("{:<58} {:>12} {:>12} {:>8}\n", "work", "micros", "beside it", "ratio");
  turn_reach("hexes 64, 8 points", bench::noise(Tiling::hex(HexTop::pointy, Shift::odd), 64, 10, true), 8_steps, 2000);
  turn_reach("squares 512, 60 points", bench::noise(Tiling::square(), 512, 20, true), 60_steps, 200);
  turn_routes();
  gather();
  threats();
  return 0;
}
