// Searches take no memory after warm-up: counted at the global allocator.
#include <catch2/catch.hpp>

#include "saunter/live/crowd.hpp"
#include "saunter/live/live_map.hpp"
#include "saunter/search/searcher.hpp"
#include "saunter/threat/front.hpp"
#include "saunter/threat/threat_field.hpp"
#include "saunter/threat/wary.hpp"
#include "support/failing_memory.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

TEST_CASE("no allocation after the first query") {
  Random random(5);
  for (const Tiling tiling : all_tilings()) {
    const Map map = random_map(random, tiling, {40, 30});
    const CostGrid costs = bake(map, Mover{.name = "crab"});
    Searcher searcher;
    std::vector<std::pair<Cell, Cell>> queries;
    for (int i = 0; i < 50; ++i) queries.emplace_back(random.cell({40, 30}), random.cell({40, 30}));
    std::size_t found = 0;
    const std::vector<EntryChange> changes = {{{3, 3}, blocked}, {{7, 9}, 2.5_steps}};
    std::vector<RouteOptions> all;
    for (const Algorithm by : {Algorithm::astar, Algorithm::dijkstra, Algorithm::bfs, Algorithm::jump,
                               Algorithm::dead_ends, Algorithm::greedy}) {
      all.push_back({.by = by});
    }
    all.push_back({.by = Algorithm::astar, .weight = 1.5_steps});
    all.push_back({.changes = changes});
    all.push_back({.natural = true});
    all.push_back({.or_nearest = true});
    if (tiling.shape() != Shape::triangle) all.push_back({.turn_cost = 0.4_steps});
    Field field;
    SightGrid sight(map.board());
    for (int i = 0; i < 80; ++i) sight.set_opaque(random.cell({40, 30}), true);
    ThreatField threat(map.board());
    threat.add(sight, {.at = {20, 15}, .range = 9_steps, .needs_sight = true});
    WarySearcher wary;
    Lookout lookout;
    std::vector<Cell> seen;
    const auto ask_all = [&] {
      for (const RouteOptions& options : all) {
        for (const auto& [from, to] : queries) found += searcher.route(costs, from, to, options).found() ? 1U : 0U;
      }
      for (const auto& [from, to] : queries) {
        found += wary.route(costs, threat.levels(), from, to, {.care = {.linger = 0.5_steps}}).found() ? 1U : 0U;
        lookout.visible(sight, from, 10_steps, seen);
        const Source starts[] = {{from}, {to, 3_steps}};
        const Cell goals[] = {to, {5, 5}};
        const Query query{.starts = starts, .goals = goals, .within = 2};
        found += searcher.route(costs, query).found() ? 1U : 0U;
        searcher.reach(costs, std::span(starts, 1), field, {.budget = 9_steps});
        searcher.reach(costs, starts, field);
        searcher.field_to(costs, std::span(starts, 1), field, {.count_steps = true});
      }
    };
    ask_all();
    const std::size_t before = failing_memory::taken();
    for (int round = 1; round < 4; ++round) ask_all();  // lists that are swapped have changed hands by then
    CHECK(failing_memory::taken() == before);
    CHECK(before > 0);
    CHECK(found % 4 == 0);
  }
}

TEST_CASE("two cells of the least and the greatest cost: no search takes more memory than a small map needs") {
  const std::vector<EntryCost> entries = {1, 65'535};
  const CostGrid costs =
      CostGrid::from_hundredths({Tiling::square(), {2, 1}}, {.steps = 8, .diagonal = 65'535}, entries);
  const Levels levels(costs.size());
  failing_memory::forget_largest();
  Searcher searcher;
  Field field;
  const Source start{{0, 0}};
  searcher.reach(costs, std::span(&start, 1), field);
  CHECK(field.cost({1, 0}) == 65'535);
  searcher.field_to(costs, std::span(&start, 1), field);
  CHECK(field.cost({1, 0}) == 1);
  for (const Algorithm by : {Algorithm::astar, Algorithm::dijkstra, Algorithm::greedy, Algorithm::bfs})
    CHECK(searcher.route(costs, {0, 0}, {1, 0}, {.by = by}).cost() == 65'535);
  CHECK(searcher.route(costs, {0, 0}, {1, 0}, {.turn_cost = 60'000_hundredths}).cost() == 65'535);
  WarySearcher wary;
  CHECK(wary.route(costs, levels, {0, 0}, {1, 0}).found());
  CHECK(find_front(costs, levels, {0, 0}, {1, 0}).verdict.reason == Reason::found);
  CHECK(failing_memory::largest() < 3'000'000);
}

TEST_CASE("commits, repairs, standing routes and crowds take no memory after warm-up") {
  for (const Tiling tiling : all_tilings()) {
    Random random(9);
    const Size size{48, 40};
    Map map({tiling, size},
            {{.name = "rock", .cost = blocked, .opaque = true}, {.name = "sand"}, {.name = "kelp", .cost = 250}});
    for (const Cell cell : size.cells())
      map.set_terrain(cell, static_cast<TerrainId>(random.chance(20) ? 0 : random.whole(1, 2)));
    LiveMap live(map, {{.name = "crab"}, {.name = "gull", .costs = {EntryCost{100}}}});
    std::vector<RouteId> routes;
    for (MoverId mover = 0; mover < 2; ++mover) {
      (void)live.regions(mover);
      const Source goals[] = {{random.cell(size)}, {random.cell(size)}};
      live.keep_field(mover, std::span(goals, 1));
      live.keep_reach(mover, goals);
      for (int i = 0; i < 4; ++i) routes.push_back(live.keep_route(mover, random.cell(size), random.cell(size)));
    }
    std::vector<ThreatNumber> threats;
    for (int i = 0; i < 3; ++i)
      threats.push_back(*live.add_threat({.at = random.cell(size), .range = 6_steps, .needs_sight = true}));
    (void)live.danger();
    Crowd crowd(map.board());
    for (int i = 0; i < 60; ++i) (void)crowd.add(live.costs(0), random.cell(size));
    Threat gull{.at = {}, .range = 6_steps, .needs_sight = true};
    std::vector<Cell> toggled;
    for (int i = 0; i < 40; ++i) toggled.push_back(random.cell(size));
    const auto round = [&] {
      for (std::size_t i = 0; i < toggled.size(); ++i) {
        const Cell cell = toggled[i];
        (void)live.set_terrain(cell, live.map().terrain_at(cell) == 0 ? 1 : 0);
        if (i % 5 == 0) (void)live.add_cost(cell, i % 2 == 0 ? 1_steps : 0_steps);
        if (i % 7 == 0) {
          gull.at = cell;
          (void)live.change_threat(threats[i % 3], gull);
        }
        for (const RouteId route : routes) {
          const auto cells = live.route(route).cells();
          live.stand_at(route, cells.size() > 1 && i % 8 != 0 ? cells[1] : toggled[(i * 7) % toggled.size()]);
        }
        live.commit(i % 3 != 0);
        if (i % 3 == 0) {
          while (!live.work(200)) {
          }
        }
        const CrowdGround ground{&live.costs(0), &live.field(FieldId(1))};
        crowd.step({&ground, 1});
      }
    };
    // Lists grow to the most they ever need, which comes sooner or later; from then on nothing is taken.
    bool quiet = false;
    for (int window = 0; window < 40 && !quiet; ++window) {
      const std::size_t before = failing_memory::taken();
      for (int i = 0; i < 4; ++i) round();
      quiet = failing_memory::taken() == before;
    }
    CHECK(quiet);
  }
}

TEST_CASE("a tick of a crowd takes no memory, whatever the sizes and kinds of its units") {
  for (const Tiling tiling : all_tilings()) {
    Random random(10);
    const Size size{40, 40};
    const Map map({tiling, size}, {{.name = "sand"}});
    const int large = tiling.shape() == Shape::triangle ? 1 : 2;
    const std::array<CostGrid, 3> costs = {bake(map, {.name = "crab"}), bake(map, {.name = "sled", .size = large}),
                                           bake(map, {.name = "cart", .size = large})};
    Searcher searcher;
    const Source goal{{20, 20}};
    std::array<Field, 3> fields;
    std::array<CrowdGround, 3> grounds;
    for (std::size_t kind = 0; kind < 3; ++kind) {
      searcher.field_to(costs[kind], {&goal, 1}, fields[kind]);
      grounds[kind] = {&costs[kind], &fields[kind]};
    }
    Crowd crowd(map.board());
    for (std::size_t i = 0; i < 120; ++i) (void)crowd.add(costs[i % 3], random.cell(size), i % 3);
    for (int tick = 0; tick < 3; ++tick) crowd.step(grounds);
    const std::size_t before = failing_memory::taken();
    for (int tick = 0; tick < 20; ++tick) crowd.step(grounds);
    CHECK(failing_memory::taken() == before);
  }
}

TEST_CASE("what is looked up in a prepared map takes no memory after warm-up, whatever it is asked") {
  for (const Tiling tiling : all_tilings()) {
    Random random(12);
    const Size size{48, 40};
    CostGrid costs({tiling, size}, {}, [&](Cell) -> EntryCost {
      return random.chance(20) ? 0 : static_cast<EntryCost>(100 * random.whole(1, 2));
    });
    Prepared index = prepare(costs);
    std::vector<Cell> ends(30);
    for (Cell& cell : ends) cell = random.cell(size);
    std::vector<Cost> table(ends.size() * ends.size());
    std::vector<NearGoal> near;
    Searcher searcher;
    const auto ask_all = [&] {
      for (std::size_t i = 0; i + 1 < ends.size(); ++i) {
        (void)searcher.route(costs, ends[i], ends[i + 1], {.prepared = &index});
        (void)searcher.cost(costs, ends[i], ends[i + 1], index);
        (void)searcher.begin_legs(costs, ends[i], ends[i + 1], index);
        while (searcher.next_leg()) {
        }
        searcher.nearest_goals(costs, ends[i], ends, 5, near, index);
      }
      searcher.cost_table(costs, ends, ends, table, index);
    };
    const auto change_all = [&] {
      for (const Cell cell : {Cell{7, 7}, Cell{20, 31}}) {
        REQUIRE(costs.set_entry(cell, costs.open(cell) ? 0_hundredths : 100_hundredths));
        REQUIRE(index.follow(costs));
        ask_all();
      }
    };
    ask_all();
    for (int round = 0; round < 2; ++round) change_all();  // there and back
    const std::size_t before = failing_memory::taken();
    ask_all();
    for (int round = 0; round < 2; ++round) change_all();
    CHECK(failing_memory::taken() == before);
  }
}
