// Crowds: nobody in one cell with another, no two change places, and all arrive where there is room.
#include <catch2/catch.hpp>

#include <map>

#include "saunter/live/crowd.hpp"
#include "saunter/region/regions.hpp"
#include "saunter/search/searcher.hpp"
#include "support/seeds.hpp"
#include "support/random_changes.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

std::vector<Cell> body(const Board& board, Cell cell, int size) {
  std::vector<Cell> cells;
  Footprint::of_size(board.tiling, size).cells_at(board.tiling, cell, cells);
  return cells;
}

/// Where everybody stands, from outside.
struct Places {
  Places(const Crowd& crowd, const std::vector<int>& all_sizes) : sizes(all_sizes) {
    for (const Crowd::UnitNumber unit : crowd.units()) cells.push_back(crowd.cell(unit));
  }
  const std::vector<int>& sizes;
  std::vector<Cell> cells;
};

/// The law of a tick: at most a legal step each, no cell twice, no exchange.
void check_tick(const Board& board, const std::vector<const CostGrid*>& grids, const Places& before,
                const Places& after) {
  std::map<Cell, std::size_t> covered;
  std::map<Cell, std::size_t> covered_before;
  for (std::size_t i = 0; i < after.cells.size(); ++i) {
    for (const Cell part : body(board, before.cells[i], before.sizes[i])) covered_before[part] = i;
    for (const Cell part : body(board, after.cells[i], after.sizes[i])) REQUIRE(covered.emplace(part, i).second);
    if (before.cells[i] == after.cells[i]) continue;
    const Direction d = board.tiling.direction(before.cells[i], after.cells[i]);
    REQUIRE(d >= 0);
    REQUIRE(holds(grids[i]->moves(before.cells[i]), d));
  }
  for (std::size_t i = 0; i < after.cells.size(); ++i) {
    if (before.cells[i] == after.cells[i]) continue;
    for (const Cell part : body(board, after.cells[i], after.sizes[i])) {
      const auto other = covered_before.find(part);
      if (other == covered_before.end() || other->second == i ||
          after.cells[other->second] == before.cells[other->second])
        continue;
      for (const Cell mine : body(board, before.cells[i], before.sizes[i])) {
        const auto now = covered.find(mine);
        REQUIRE((now == covered.end() || now->second != other->second));
      }
    }
  }
}

}  // namespace

TEST_CASE(
    "crowds of several kinds on maps that change: the law holds at every tick, and the same again gives the same") {
  Searcher searcher;
  for (const std::uint64_t seed : seeds(300)) {
    INFO("seed " << seed);
    std::vector<std::vector<Cell>> courses;
    for (int round = 0; round < 2; ++round) {
      Random random(seed);
      Ground ground = random_ground(random, 20, random.chance(40));
      const Board board = ground.map.board();
      BitGrid occupied(board.size);
      Mover large = ground.mover;
      large.size = board.tiling.shape() == Shape::triangle ? 1 : random.whole(1, 3);
      CostGrid large_costs = bake(ground.map, large);
      std::vector<Source> goals;
      for (int i = random.whole(1, 9); i > 0; --i) goals.push_back({random.cell(board.size)});
      Field field = searcher.field_to(ground.costs, goals);
      Field large_field = searcher.field_to(large_costs, goals);
      Crowd crowd(board);
      std::vector<int> sizes;
      std::vector<const CostGrid*> grids;
      for (int i = random.whole(1, 30); i > 0; --i) {
        const Cell cell = random.cell(board.size);
        const bool is_large = random.chance(30);
        const CostGrid& costs = is_large ? large_costs : ground.costs;
        if (!costs.open(cell) || !crowd.add(costs, cell, is_large ? 1 : 0)) continue;
        sizes.push_back(is_large ? large.size : ground.mover.size);
        grids.push_back(&costs);
      }
      for (int tick = 0; tick < 30; ++tick) {
        INFO("tick " << tick);
        if (random.chance(20)) {
          random_change(random, ground.map, occupied, ground.mover, ground.costs);
          large_costs = bake(ground.map, large, &occupied);
          searcher.repair(ground.costs, field);
          searcher.repair(large_costs, large_field);
        }
        const Places before(crowd, sizes);
        const std::array<CrowdGround, 2> kinds = {{{&ground.costs, &field}, {&large_costs, &large_field}}};
        crowd.step(kinds);
        const Places after(crowd, sizes);
        check_tick(board, grids, before, after);
        if (round == 0) courses.push_back(after.cells);
        if (round == 1) REQUIRE(courses[static_cast<std::size_t>(tick)] == after.cells);
      }
    }
  }
}

TEST_CASE(
    "crowds of several sizes in a crush: nobody lost, no cell covered twice, on 600 open boards and one of 1,000") {
  Searcher searcher;
  for (const std::uint64_t seed : seeds(600)) {
    INFO("seed " << seed);
    Random random(seed);
    const bool many = seed % 600 == 1;
    const Tiling tiling = random.chance(50) ? Tiling::square() : Tiling::hex(HexTop::pointy, Shift::odd);
    const Size size = many ? Size{80, 60} : Size{random.whole(8, 24), random.whole(8, 18)};
    const Map map({tiling, size}, {{.name = "sand"}});
    std::array<CostGrid, 3> costs;
    std::array<Field, 3> fields;
    std::array<CrowdGround, 3> grounds;
    const Source goal{random.cell({size.cols - 3, size.rows - 3})};
    for (std::size_t i = 0; i < 3; ++i) {
      costs[i] = bake(map, Mover{.name = "crab", .size = static_cast<int>(i) + 1});
      searcher.field_to(costs[i], {&goal, 1}, fields[i]);
      grounds[i] = {&costs[i], &fields[i]};
    }
    Crowd crowd(map.board());
    std::vector<int> sizes;
    std::vector<const CostGrid*> grids;
    for (int i = many ? 1000 : random.whole(4, 40); i > 0; --i) {
      const int large = random.chance(50) ? 1 : random.whole(1, 3);
      if (!crowd.add(costs[static_cast<std::size_t>(large) - 1], random.cell(size),
                     static_cast<std::size_t>(large) - 1))
        continue;
      sizes.push_back(large);
      grids.push_back(&costs[static_cast<std::size_t>(large) - 1]);
    }
    for (int tick = 0; tick < (many ? 150 : 40); ++tick) {
      INFO("tick " << tick);
      const Places before(crowd, sizes);
      crowd.step(grounds);
      const Places after(crowd, sizes);
      check_tick(map.board(), grids, before, after);
      for (std::size_t i = 0; i < sizes.size(); ++i) {
        for (const Cell part : body(map.board(), after.cells[i], sizes[i])) REQUIRE(crowd.at(part) == crowd.units()[i]);
      }
    }
  }
}

TEST_CASE("all arrive, on 200 random maps where the goal has room, and nobody but those at home stands in the way") {
  Searcher searcher;
  int crowds = 0;
  std::uint64_t ticks = 0;
  for (std::uint64_t seed = 1; crowds < 200; ++seed) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Size size{random.whole(12, 40), random.whole(12, 40)};
    const int large = tiling.shape() == Shape::triangle || random.chance(70) ? 1 : 2;
    const int rocks = random.whole(0, large > 1 ? 8 : 30);  // large ones need passages to step aside in
    Map map({tiling, size}, {{.name = "rock", .cost = blocked}, {.name = "sand"}, {.name = "kelp", .cost = 250}});
    for (const Cell cell : size.cells()) {
      map.set_terrain(cell, static_cast<TerrainId>(random.chance(rocks) ? 0 : random.chance(80) ? 1 : 2));
    }
    const CostGrid costs = bake(map, Mover{.name = "crab", .size = large});
    const Regions regions(costs);
    const Region* const region = regions.largest();
    if (region == nullptr || region->cells < 60) continue;
    // The places nearest to a rally point, half as many again as there are units and some.
    const auto wanted = static_cast<std::size_t>(random.whole(1, 40));
    std::vector<Cell> places;
    for (const Cell cell : size.cells()) {
      if (regions.at(cell) == region->id) places.push_back(cell);
    }
    const Field rally = searcher.reach(costs, random.one_of(places));
    std::stable_sort(places.begin(), places.end(), [&](Cell a, Cell b) { return rally.cost(a) < rally.cost(b); });
    const std::size_t room = std::min(places.size(), 4 + wanted * (large == 1 ? 3U : 30U));
    // Large ones go to the rally point among those places and move up; of the others half go to any of them.
    const bool to_point = large > 1 || random.chance(50);
    std::vector<Source> goals;
    for (std::size_t i = 0; i < (to_point ? 1 : room); ++i) goals.push_back({places[i]});
    const Field field = searcher.field_to(costs, goals);
    const CrowdOptions options{.arrive_within = to_point ? Hundredths(rally.cost(places[room - 1])) : Hundredths()};
    Crowd crowd(map.board());
    for (std::size_t i = 0; i < wanted * 3 && crowd.count() < wanted; ++i) {
      (void)crowd.add(costs, places[static_cast<std::size_t>(random.whole(0, static_cast<int>(places.size()) - 1))]);
    }
    if (crowd.count() == 0) continue;
    ++crowds;
    const CrowdGround ground{&costs, &field};
    std::uint64_t tick = 0;
    for (; tick < 3000 && crowd.arrived_count() < crowd.count(); ++tick) crowd.step({&ground, 1}, options);
    ticks += tick;
    INFO((to_point ? "to a point, " : "to places, ")
         << crowd.count() << " units of size " << large << ", " << crowd.arrived_count() << " arrived");
    CHECK(crowd.arrived_count() == crowd.count());
  }
  CHECK(ticks < 200 * 150);
}

TEST_CASE("a crowd refuses what cannot be and forgets who is removed") {
  const Map sand({Tiling::square(), {4, 4}}, {{.name = "sand"}});
  const CostGrid small = bake(sand, {.name = "crab"});
  const CostGrid large = bake(sand, {.name = "sled", .size = 2});
  Crowd crowd(sand.board());
  CHECK_FALSE(crowd.add(small, {4, 0}));
  CHECK_FALSE(crowd.add(large, {3, 3}));
  const auto unit = crowd.add(large, {1, 1});
  REQUIRE(unit.has_value());
  CHECK(unit->value() == 1);
  CHECK_FALSE(crowd.add(small, {2, 2}));
  CHECK(crowd.at({2, 2}) == unit);
  crowd.step({});  // no ground: all wait
  CHECK(crowd.cell(*unit) == Cell{1, 1});
  CHECK(crowd.remove(*unit));
  CHECK_FALSE(crowd.remove(*unit));
  CHECK(crowd.cell(*unit) == Cell{-1, -1});
  CHECK_FALSE(crowd.at({2, 2}).has_value());
  const auto next = crowd.add(small, {2, 2});
  REQUIRE(next.has_value());
  CHECK(next->value() == 2);  // no number comes back
  CHECK_FALSE(crowd.known(*unit));
}
