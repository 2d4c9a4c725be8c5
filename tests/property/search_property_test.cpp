// All searches against brute force on thousands of random maps.
#include <catch2/catch.hpp>

#include "saunter/search/path.hpp"
#include "saunter/search/searcher.hpp"
#include "saunter/search/unstick.hpp"
#include "saunter/search/stepped_search.hpp"
#include "support/seeds.hpp"
#include "support/oracle.hpp"
#include "support/random_maps.hpp"
#include "support/walk.hpp"

using namespace saunter;
using namespace saunter::test;

TEST_CASE("routes cost the least, bfs takes the fewest steps, on 2,000 random maps") {
  Searcher searcher;
  std::size_t found = 0;
  std::size_t refused = 0;
  for (const std::uint64_t seed : seeds(2000)) {
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
  CHECK(found > share_of(2000));
  CHECK(refused > share_of(300));
}

TEST_CASE("estimates never exceed the true cost and drop by no more than a step costs") {
  for (const std::uint64_t seed : seeds(300)) {
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
  for (const std::uint64_t seed : seeds(200)) {
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

namespace {

/// The way from a blocked cell to each cell that passes the fewest blocked ones, then costs least: relaxed until
/// nothing changes.
std::vector<std::pair<std::uint64_t, std::uint64_t>> ways_out(const CostGrid& costs, Cell from) {
  const Size size = costs.size();
  const Tiling tiling = costs.tiling();
  std::vector<std::pair<std::uint64_t, std::uint64_t>> best(size.cell_count(), {never, never});
  best[size.index(from).value()] = {costs.open(from) ? 0 : 1, 0};
  for (bool changed = true; changed;) {
    changed = false;
    for (const Cell cell : size.cells()) {
      const auto here = best[size.index(cell).value()];
      if (here.first == never) continue;
      for (Direction d{0}; d < costs.rules().steps; ++d) {
        const Cell next = tiling.neighbour(cell, d);
        if (!size.contains(next)) continue;
        const Length length = costs.step_length(tiling.kind(cell), d);
        const bool open = costs.open(next);
        const std::pair there{here.first + (open ? 0 : 1),
                              here.second + (open ? step_cost(length, costs.entry(next)) : length)};
        auto& known = best[size.index(next).value()];
        if (known <= there) continue;
        known = there;
        changed = true;
      }
    }
  }
  return best;
}

}  // namespace

TEST_CASE("a unit in a wall gets out through the fewest blocked cells, then for the least cost, on 1,000 random maps") {
  std::size_t stuck = 0;
  std::size_t deep = 0;
  for (const std::uint64_t seed : seeds(1000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = all_tilings()[seed % all_tilings().size()];
    const Size size = random_size(random, 20);
    const int open = random.chance(50) ? random.whole(0, 10) : random.whole(10, 70);
    const CostGrid costs({tiling, size}, random_rules(random, tiling), [&](Cell) -> EntryCost {
      return random.chance(open) ? static_cast<EntryCost>(random.whole(1, 900)) : blocked;
    });
    const Cell from = random.cell(size);
    const std::optional<WayOut> way = unstick(costs, from);
    const auto best = ways_out(costs, from);
    std::optional<Cell> end;
    for (const Cell cell : size.cells()) {
      if (!costs.open(cell) || best[size.index(cell).value()].first == never) continue;
      if (!end || best[size.index(cell).value()] < best[size.index(*end).value()]) end = cell;
    }
    REQUIRE(way.has_value() == end.has_value());
    if (!way) continue;
    REQUIRE(way->end() == *end);
    CHECK(way->cells.front() == from);
    CHECK(way->blocked == best[size.index(*end).value()].first);
    CHECK(way->cost == best[size.index(*end).value()].second);
    CHECK(way->cells.size() == way->blocked + 1);
    for (std::size_t i = 1; i < way->cells.size(); ++i) {
      CHECK(tiling.direction(way->cells[i - 1], way->cells[i]) >= 0);
      CHECK(costs.open(way->cells[i]) == (i + 1 == way->cells.size()));
    }
    stuck += way->blocked > 0;
    deep += way->blocked > 2;
  }
  CHECK(stuck > share_of(400));
  CHECK(deep > share_of(40));
}
