// All searches against brute force on thousands of random maps.
#include <catch2/catch.hpp>

#include "saunter/search/path.hpp"
#include "saunter/search/searcher.hpp"
#include "saunter/search/stepped_search.hpp"
#include "support/oracle.hpp"
#include "support/random_maps.hpp"
#include "support/walk.hpp"

using namespace saunter;
using namespace saunter::test;

TEST_CASE("routes cost the least, bfs takes the fewest steps, on 2,000 random maps") {
  Searcher searcher;
  std::size_t found = 0;
  std::size_t refused = 0;
  for (std::uint64_t seed = 1; seed <= 2000; ++seed) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    Map map = random_map(random, tiling, random_size(random, 40));
    if (seed % 3 == 0) add_random_edges(random, map);
    const CostGrid costs = bake(map, random_mover(random, tiling));
    const Cell from = random.cell(map.size());
    const Cell to = random.chance(5) ? from : random.cell(map.size());
    if (!costs.open(from) || !costs.open(to)) {
      const Reason expected = !costs.open(from) ? Reason::start_blocked : Reason::goal_blocked;
      CHECK(searcher.route(costs, from, to).verdict().reason == expected);
      ++refused;
      continue;
    }
    const auto index = map.size().index(to).value();
    const std::uint64_t least = least_costs(costs, from)[index];
    const std::uint64_t fewest = least_costs(costs, from, true)[index];
    for (const Algorithm by : {Algorithm::automatic, Algorithm::astar, Algorithm::dijkstra, Algorithm::jump,
                               Algorithm::dead_ends, Algorithm::bfs}) {
      const Route& route = searcher.route(costs, from, to, {.by = by});
      REQUIRE(route.found() == (least != never));
      if (!route.found()) {
        CHECK(route.verdict().reason == Reason::no_way);
        continue;
      }
      ++found;
      CHECK(route.cells().front() == from);
      CHECK(route.cells().back() == to);
      CHECK(walk(costs, route.cells()) == route.cost());
      if (by == Algorithm::bfs) CHECK(route.steps() == fewest);
      if (by != Algorithm::bfs) CHECK(route.cost() == least);
    }
  }
  CHECK(found > 2000);
  CHECK(refused > 300);
}

TEST_CASE("estimates never exceed the true cost and drop by no more than a step costs") {
  for (std::uint64_t seed = 1; seed <= 300; ++seed) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Map map = random_map(random, tiling, random_size(random, 14));
    const CostGrid costs = bake(map, Mover{.name = "x", .rules = random_rules(random, tiling)});
    const Cell goal = random.cell(map.size());
    const Estimate estimate(costs, goal);
    CHECK(estimate(goal) == 0);
    for (int row = 0; row < map.size().rows; ++row) {
      for (int col = 0; col < map.size().cols; ++col) {
        const Cell cell{col, row};
        for (Direction d{0}; d < tiling.direction_count(); ++d) {
          if (((costs.moves(cell) >> d) & 1U) == 0) continue;
          REQUIRE(estimate(cell) <= costs.cost_of_step(cell, d) + estimate(tiling.neighbour(cell, d)));
        }
      }
    }
  }
}

TEST_CASE("on an open board of one cost the estimate is the cost itself") {
  Random random(99);
  for (const Tiling tiling : all_tilings()) {
    for (int i = 0; i < 12; ++i) {
      StepRules rules = random_rules(random, tiling);
      const auto entry = static_cast<EntryCost>(random.chance(50) ? random.whole(1, 9) : random.whole(1, 65535));
      const CostGrid costs({tiling, {15, 13}}, rules, [&](Cell) -> EntryCost { return entry; });
      // The middle of the board: ways that would bulge over its edge do not matter there.
      const Cell from{7, 6};
      const auto least = least_costs(costs, from);
      for (int row = 3; row < 10; ++row) {
        for (int col = 4; col < 11; ++col) {
          const Cell to{col, row};
          CHECK(Estimate(costs, to)(from) == least[costs.size().index(to).value()]);
        }
      }
    }
  }
}

TEST_CASE("the best way so far of a search under way is legal and leads to the nearest cell expanded") {
  SteppedSearch search;
  std::vector<Cell> way;
  search.best_so_far(way);
  CHECK(way.empty());
  for (std::uint64_t seed = 1; seed <= 200; ++seed) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground ground = random_ground(random, 20, random.chance(50));
    const Cell from = random.cell(ground.map.size());
    const Cell to = random.cell(ground.map.size());
    search.begin(ground.costs, from, to,
                 {.by = random.one_of<Algorithm>({Algorithm::astar, Algorithm::dijkstra, Algorithm::bfs})});
    const Estimate estimate(ground.costs, to);
    const bool possible = ground.costs.open(from) && ground.costs.open(to);
    do {
      search.best_so_far(way);
      if (!possible) {
        REQUIRE(way.empty());
        continue;
      }
      REQUIRE(way.front() == from);
      REQUIRE(cost_of_path(ground.costs, way));
      for (const Cell cell : ground.map.size().cells()) {
        if (search.state(cell) == CellState::closed) REQUIRE(estimate(cell) >= estimate(way.back()));
      }
    } while (!search.run(5));
  }
}
