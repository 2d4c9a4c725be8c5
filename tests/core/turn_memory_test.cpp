// Turns, ways by ticks, cover and gatherings: no memory after warm-up, and none lost where it runs out.
#include <catch2/catch.hpp>

#include "saunter/place/gather.hpp"
#include "saunter/threat/cover.hpp"
#include "saunter/threat/timed_route.hpp"
#include "saunter/turn.hpp"
#include "support/desk.hpp"
#include "support/random_maps.hpp"
#include "support/run_out.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// One of each that answers.
struct Table {
  TurnReach turn;
  Acting acting;
  TurnSearcher by_turns;
  TimedSearcher by_ticks;
  CoverFinder cover;
  Gatherer gatherer;
  std::vector<Cell> cells;
};

/// A board with stops, cells passed over and guards.
struct Scene {
  Scene(std::uint64_t seed, Tiling tiling, Size size)
      : random(seed),
        map(random_map(random, tiling, size)),
        costs(bake(map, {.name = "crab"})),
        sight(map.board()),
        danger(map.board()),
        levels(size),
        stops(size),
        passed(size) {
    for (int i = 0; i < 8; ++i) {
      sight.set_opaque(random.cell(size), true);
      stops.set(random.cell(size));
      passed.set(random.cell(size));
      squad.push_back(random.cell(size));
      levels[random.cell(size)] = 3;
    }
    const Threat threat{.at = random.cell(size), .range = 4_steps, .needs_sight = true, .arc = 100};
    (void)danger.add(sight, threat, sweep(threat.at, 0, 180, 60, 2));
    closures = {{random.cell(size), 3, 6, 9}};
  }
  Random random;
  Map map;
  CostGrid costs;
  SightGrid sight;
  TimedDanger danger;
  Levels levels;
  BitGrid stops;
  BitGrid passed;
  std::vector<Cell> squad;
  std::vector<Closure> closures;
};

/// All questions in turn. @return a print of the answers
std::uint64_t ask_all(Table& table, const Scene& scene, Cell from, Cell to) {
  Print print;
  const TurnTerms terms{.points = 9_steps, .stops = &scene.stops, .passed = &scene.passed};
  table.turn.ask(scene.costs, from, terms);
  print.add(table.turn.field());
  print.add(std::uint64_t{table.turn.why(scene.costs, to).cost});
  const ActRange range{.least = 1, .most = 3, .sight = &scene.sight};
  table.acting.ask(table.turn, range);
  table.acting.for_each([&](Cell target, Cell at) {
    print.add(target);
    print.add(at);
  });
  print.add(table.acting.strike(table.turn, range, {&to, 1}).from);
  const TurnRoute& by_turns = table.by_turns.route(scene.costs, from, to, terms);
  print.add(by_turns.verdict());
  print.add(by_turns.cells());
  const TimedRoute& by_ticks =
      table.by_ticks.route(scene.costs, scene.danger, from, to, {.wary = 2_steps, .closures = scene.closures});
  print.add(by_ticks.verdict());
  print.add(by_ticks.cells());
  for (const Cover& cover : table.cover.find(scene.costs, scene.levels, from, {.most = 4})) {
    print.add(cover.cell);
    table.cover.path(cover.cell, table.cells);
    print.add(table.cells);
  }
  for (const GatherAim aim : {GatherAim::least_sum, GatherAim::soonest}) {
    const Gathering& gathering = table.gatherer.gather(scene.costs, scene.squad, to, {.aim = aim});
    print.add(gathering.places);
    print.add(gathering.sum);
    for (const Gathered& unit : gathering.units) print.add(unit.to.value_or(Cell{-1, -1}));
  }
  return print.value();
}

/// A cell that can be stood on: to gather about a blocked one looks for another, which takes memory.
Cell open_cell(Random& random, const CostGrid& costs) {
  for (;;) {
    const Cell cell = random.cell(costs.size());
    if (costs.open(cell)) return cell;
  }
}

}  // namespace

TEST_CASE("turns, ways by ticks, cover and gatherings take no memory after warm-up") {
  for (const Tiling tiling : all_tilings()) {
    Scene scene(4, tiling, {24, 18});
    Table table;
    std::vector<Cell> ends;
    for (int i = 0; i < 12; ++i) ends.push_back(open_cell(scene.random, scene.costs));
    const auto all = [&] {
      for (std::size_t i = 0; i + 1 < ends.size(); ++i) (void)ask_all(table, scene, ends[i], ends[i + 1]);
    };
    for (int round = 0; round < 3; ++round) all();
    const std::size_t before = failing_memory::taken();
    all();
    CHECK(failing_memory::taken() == before);
  }
}

TEST_CASE("turns, ways by ticks, cover and gatherings that ran out of memory answer as new ones") {
  for (std::uint64_t seed = 1; seed <= 7; ++seed) {
    CAPTURE(seed);
    Scene scene(seed, all_tilings()[seed - 1], {9, 7});
    Scene other(seed + 50, all_tilings()[seed % 7], {12, 5});
    const Cell from = scene.random.cell({9, 7});
    const Cell to = scene.random.cell({9, 7});
    Table fresh;
    const std::uint64_t wanted = ask_all(fresh, scene, from, to);
    for (const bool used : {false, true}) {
      Table table;
      if (used) (void)ask_all(table, other, {0, 0}, {11, 4});
      const std::size_t failures = run_out_everywhere([&] { (void)ask_all(table, scene, from, to); }, [] {});
      CHECK(failures > 0);
      CHECK(ask_all(table, scene, from, to) == wanted);
    }
    // After every failure alone, not only after the last.
    Table table;
    (void)run_out_everywhere([&] { (void)ask_all(table, scene, from, to); },
                             [&] {
                               if (ask_all(table, scene, from, to) != wanted) FAIL("answers otherwise");
                               table = Table();
                             });
  }
}
