// What only shows on larger boards and after many queries: marks that are used up, costs that outgrow them, searches
// that must agree with one another where brute force would take too long.
#include <catch2/catch.hpp>

#include "saunter/search/searcher.hpp"
#include "support/random_maps.hpp"
#include "support/walk.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

constexpr Algorithm of_least_cost[] = {Algorithm::automatic, Algorithm::astar, Algorithm::dijkstra, Algorithm::jump,
                                       Algorithm::dead_ends};

CostGrid noise(Random& random, Tiling tiling, Size size, bool one_cost) {
  const int share = random.whole(0, 35);
  return CostGrid({tiling, size}, {}, [&](Cell) -> EntryCost {
    const int entry = one_cost ? 100 : random.whole(1, 9) * 50;
    return random.chance(share) ? blocked : static_cast<EntryCost>(entry);
  });
}

}  // namespace

TEST_CASE("one searcher asked a thousand times answers like a fresh one") {
  // More queries than the marks of any search have numbers for, on boards of changing size.
  Random random(21);
  std::vector<CostGrid> boards;
  for (int i = 0; i < 6; ++i) {
    boards.push_back(noise(random, random.one_of(all_tilings()), random_size(random, 40), i % 2 == 0));
  }
  Searcher used;
  std::size_t found = 0;
  for (int i = 0; i < 1000; ++i) {
    INFO("query " << i);
    const CostGrid& costs = random.one_of(boards);
    const Cell from = random.cell(costs.size());
    const Cell to = random.cell(costs.size());
    for (const Algorithm by : {Algorithm::astar, Algorithm::bfs, Algorithm::jump, Algorithm::dead_ends}) {
      const Route route = used.route(costs, from, to, {.by = by});
      Searcher fresh;
      REQUIRE(route == fresh.route(costs, from, to, {.by = by}));
      found += route.found() ? 1U : 0U;
    }
  }
  CHECK(found > 1000);
}

TEST_CASE("costs beyond 24 bits: the same way as in a smaller unit") {
  // Once in hundredths of a step, once 300 times as dear: the first fits the short marks, the second does not.
  for (const Tiling tiling : all_tilings()) {
    Random random(31);
    const Size size{900, 40};
    Grid<std::uint8_t> shut(size, 0);
    for (std::uint8_t& cell : shut.values()) cell = random.chance(15) ? 1 : 0;
    Grid<std::uint8_t> weight(size, 0);
    for (std::uint8_t& cell : weight.values()) cell = static_cast<std::uint8_t>(random.whole(1, 4));
    const StepRules rules{.steps = tiling.edge_count()};  // no rounding between the two units
    const auto board = [&](int unit) {
      return CostGrid({tiling, size}, rules, [&](Cell cell) -> EntryCost {
        return shut[cell] != 0 ? blocked : static_cast<EntryCost>(weight[cell] * unit);
      });
    };
    const CostGrid cheap = board(50);
    const CostGrid dear = board(15'000);
    Searcher searcher;
    std::size_t found = 0;
    for (int i = 0; i < 5; ++i) {
      const Cell from{random.whole(0, 20), random.whole(0, size.rows - 1)};
      const Cell to{random.whole(size.cols - 20, size.cols - 1), random.whole(0, size.rows - 1)};
      for (const Algorithm by : {Algorithm::astar, Algorithm::dijkstra}) {
        const Route small = searcher.route(cheap, from, to, {.by = by});
        const Route& large = searcher.route(dear, from, to, {.by = by});
        REQUIRE(small.found() == large.found());
        if (!small.found()) continue;
        ++found;
        CHECK(std::uint64_t{small.cost()} * 300 == large.cost());
        CHECK(large.cost() > (1U << 24U));
        CHECK(walk(dear, large.cells()) == large.cost());
      }
    }
    CHECK(found > 2);
  }
}

TEST_CASE("all searches of least cost and the fields agree on boards of 150 x 120") {
  Searcher searcher;
  Field reach;
  std::size_t found = 0;
  for (std::uint64_t seed = 1; seed <= 25; ++seed) {
    INFO("seed " << seed);
    Random random(seed);
    const CostGrid costs = noise(random, random.one_of(all_tilings()), {150, 120}, random.chance(50));
    const Cell from = random.cell(costs.size());
    const Source start{from};
    searcher.reach(costs, std::span(&start, 1), reach);
    Field steps;
    searcher.reach(costs, std::span(&start, 1), steps, {.count_steps = true});
    for (int i = 0; i < 12; ++i) {
      const Cell to = random.cell(costs.size());
      if (!costs.open(from) || !costs.open(to)) continue;
      for (const Algorithm by : of_least_cost) {
        const Route& route = searcher.route(costs, from, to, {.by = by});
        REQUIRE(route.found() == reach.reached(to));
        if (!route.found()) continue;
        ++found;
        REQUIRE(route.cost() == reach.cost(to));
        REQUIRE(walk(costs, route.cells()) == route.cost());
      }
      if (!reach.reached(to)) continue;
      CHECK(searcher.route(costs, from, to, {.by = Algorithm::bfs}).steps() * 100 == steps.cost(to));
      CHECK(searcher.route(costs, from, to, {.by = Algorithm::astar, .weight = 2_steps}).cost() <= 2 * reach.cost(to));
    }
  }
  CHECK(found > 500);
}

TEST_CASE("a guided search checks no more cells than an unguided one, and jumping far fewer in rooms") {
  const CostGrid costs({Tiling::square(), {300, 300}}, {}, [](Cell cell) -> EntryCost {
    const bool wall = cell.col % 30 == 0 || cell.row % 30 == 0;
    const bool door = cell.col % 30 == 7 || cell.row % 30 == 19;
    return wall && !door ? 0 : 100;
  });
  Searcher searcher;
  const auto checked = [&](Algorithm by) { return searcher.route(costs, {5, 5}, {280, 250}, {.by = by}).expanded(); };
  CHECK(checked(Algorithm::astar) <= checked(Algorithm::dijkstra));
  CHECK(checked(Algorithm::jump) * 10 < checked(Algorithm::astar));
  CHECK(checked(Algorithm::greedy) <= checked(Algorithm::astar));
}
