// Regions against the definition: places joined by steps that can be taken both ways.
#include <catch2/catch.hpp>

#include "saunter/region/chokes.hpp"
#include "saunter/region/cut_off.hpp"
#include "saunter/region/farthest.hpp"
#include "saunter/region/joins.hpp"
#include "saunter/region/passages.hpp"
#include "support/seeds.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

bool step(const CostGrid& costs, Cell from, Cell to) {
  const Direction d = costs.tiling().direction(from, to);
  return d >= 0 && ((costs.moves(from) >> d) & 1U) == 1;
}

}  // namespace

TEST_CASE("regions are the components of two-way steps, on 600 random maps") {
  for (const std::uint64_t seed : seeds(600)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    Map map = random_map(random, tiling, random_size(random, 14));
    if (random.chance(60)) add_random_edges(random, map);
    const CostGrid costs = bake(map, random_mover(random, tiling));
    const Regions regions(costs);
    // Repeated merging: slow, and obviously the definition.
    const auto count = static_cast<std::uint32_t>(map.size().cell_count());
    std::vector<std::uint32_t> label(count);
    for (std::uint32_t i = 0; i < count; ++i) label[i] = i;
    for (bool changed = true; changed;) {
      changed = false;
      for (std::uint32_t i = 0; i < count; ++i) {
        const Cell cell = map.size().cell(CellIndex{i});
        for (Direction d{0}; d < tiling.direction_count(); ++d) {
          const Cell other = tiling.neighbour(cell, d);
          if (!map.size().contains(other) || !step(costs, cell, other) || !step(costs, other, cell)) continue;
          auto& mine = label[i];
          auto& theirs = label[map.size().index(other).value()];
          if (mine == theirs) continue;
          changed = true;
          mine = theirs = std::min(mine, theirs);
        }
      }
    }
    std::vector<std::uint32_t> cells(regions.list().size() + 1, 0);
    std::uint32_t seen = 0;
    for (std::uint32_t i = 0; i < count; ++i) {
      const Cell cell = map.size().cell(CellIndex{i});
      if (!costs.open(cell)) {
        REQUIRE(regions.at(cell) == 0);
        continue;
      }
      const std::uint32_t id = regions.at(cell);
      const Cell first = map.size().cell(CellIndex{label[i]});
      REQUIRE(id == regions.at(first));
      if (label[i] == i) REQUIRE(id == ++seen);  // numbered by first cell
      REQUIRE(regions.list()[id - 1].first == first);
      REQUIRE(regions.list()[id - 1].box.contains(cell));
      REQUIRE(regions.same(cell, first));
      ++cells[id];
    }
    REQUIRE(seen == regions.list().size());
    for (const Region& region : regions.list()) CHECK(region.cells == cells[region.id]);
  }
}

namespace {

/// A map drawn with . for sand, # for rock (breach 3), + for weed (breach 1) and X for what is never opened.
Map drawn(int cols, int rows, const std::string& drawing) {
  Map map({Tiling::square(), {cols, rows}}, {{.name = "sand"},
                                             {.name = "rock", .cost = blocked, .breach = 300},
                                             {.name = "weed", .cost = blocked, .breach = 100},
                                             {.name = "cliff", .cost = blocked, .breach = std::nullopt}});
  for (std::uint32_t i = 0; i < map.size().cell_count(); ++i) {
    map.set_terrain(map.size().cell(CellIndex{i}), static_cast<TerrainId>(std::string(".#+X").find(drawing[i])));
  }
  return map;
}

const Mover walker{.name = "crab", .rules = {.steps = 4}};

JoinPlan joins_of(const Map& map, const JoinOptions& options = {}) {
  const CostGrid costs = bake(map, walker);
  return plan_joins(map, walker, costs, Regions(costs), BreachCosts(map, costs), options);
}

}  // namespace

TEST_CASE("joins: the cheapest breach, more of them for loops, and what can't be joined") {
  const Map map = drawn(7, 3,
                        "..#..X."
                        "..+..X."
                        "..#..X.");
  const JoinPlan plan = joins_of(map);
  REQUIRE(plan.joins.size() == 1);
  CHECK(plan.joins[0].opens == std::vector<Cell>{{2, 1}});
  CHECK(plan.cost == 100);
  CHECK(plan.apart == std::vector<std::uint32_t>{3});
  // A nook of one cell: not joined for its own sake, but a way may lead through it.
  const Map nook = drawn(5, 1, ".+.+.");
  CHECK(joins_of(nook).joins.size() == 2);
  CHECK(joins_of(nook, {.least_cells = 2}).joins.empty());
  // Three rooms in a ring: two joins are needed, the third makes a loop.
  const Map ring = drawn(5, 3,
                         "..#.."
                         "##+##"
                         ".....");
  CHECK(joins_of(ring).joins.size() == 2);
  CHECK(joins_of(ring, {.extra = 2}).extra.size() == 1);
}

TEST_CASE("chokes: a door, a corridor told as one, nothing in the open") {
  const CostGrid costs = bake(drawn(9, 3,
                                    "...###..."
                                    "........."
                                    "...###..."),
                              walker);
  const Regions regions(costs);
  const auto chokes = find_chokes(costs, regions);
  REQUIRE(chokes.size() == 5);  // the corridor and the cells it opens into
  CHECK(chokes[0].cell == Cell{2, 1});
  CHECK(chokes[2].sides == std::vector<std::uint32_t>{10, 10});
  const auto places = corridors(costs, chokes);
  REQUIRE(places.size() == 1);
  CHECK(places[0].cells.size() == 5);
  CHECK(places[0].smaller_side == 10);
  const CostGrid open = bake(drawn(3, 3, "........."), walker);
  CHECK(find_chokes(open, Regions(open)).empty());
}

TEST_CASE("a ledge: one can get down, but not back") {
  Map map = drawn(2, 2, "....");
  map.set_closed({0, 1}, Direction(0));
  map.set_closed({1, 1}, Direction(0));
  const CostGrid costs = bake(map, walker);
  const CutOff from_above = cut_off_from(costs, {0, 0});
  CHECK(from_above.cut_off.empty());
  CHECK(from_above.no_return == std::vector<Cell>{{0, 1}, {1, 1}});
  const CutOff from_below = cut_off_from(costs, {0, 1});
  CHECK(from_below.cut_off == std::vector<Cell>{{0, 0}, {1, 0}});
  CHECK(Regions(costs).list().size() == 2);
}

TEST_CASE("boards of one row, one column, and with nowhere to stand") {
  const CostGrid row = bake(drawn(5, 1, "..#.."), walker);
  CHECK(Regions(row).list().size() == 2);
  const CostGrid column = bake(drawn(1, 5, "..#.."), walker);
  CHECK(Regions(column).list().size() == 2);
  const CostGrid shut = bake(drawn(2, 2, "####"), walker);
  const Regions none(shut);
  CHECK(none.list().empty());
  CHECK(none.largest() == nullptr);
  CHECK(find_chokes(shut, none).empty());
  Searcher searcher;
  CHECK_FALSE(farthest_from(searcher, shut, {0, 0}).has_value());
  const FarPair ends = *farthest_apart(searcher, row, Regions(row), 2);
  CHECK(ends.exact);
  CHECK(ends.cost == 100);
}

TEST_CASE("passages tell for each size what a mover of it could stand on") {
  Random random(5);
  for (int i = 0; i < 60; ++i) {
    const Tiling tiling = random.one_of(all_tilings());
    const Map map = random_map(random, tiling, random_size(random, 24));
    Mover mover = random_mover(random, tiling);
    BitGrid occupied(map.size());
    for (int k = 0; k < 6; ++k) occupied.set(random.cell(map.size()));
    const std::vector<Passage> list = passages(map, mover, 5, &occupied);
    CHECK(list.size() <= (tiling.shape() == Shape::triangle ? 1 : 5));
    for (std::size_t size = 1; size <= list.size() + 1; ++size) {
      if (size > 5 || (tiling.shape() == Shape::triangle && size > 1)) break;
      mover.size = static_cast<int>(size);
      const CostGrid costs = bake(map, mover, &occupied);
      const Regions regions(costs);
      if (size > list.size()) {
        CHECK(regions.list().empty());  // the list ends where nobody can stand
        break;
      }
      std::uint32_t largest = 0;
      for (const Region& region : regions.list()) largest = std::max(largest, region.cells);
      CHECK(list[size - 1] ==
            Passage{mover.size, costs.open_cells().count(), regions.list().size(), std::size_t{largest}});
    }
  }
}

TEST_CASE("the kinds of terrain are counted") {
  Random random(8);
  const Map map = random_map(random, Tiling::square(), {31, 17});
  const std::vector<std::size_t> count = cells_of_each_kind(map);
  REQUIRE(count.size() == map.kinds().size());
  std::size_t all = 0;
  for (std::size_t id = 0; id < count.size(); ++id) {
    const auto values = map.terrain().values();
    CHECK(count[id] == static_cast<std::size_t>(std::count(values.begin(), values.end(), static_cast<TerrainId>(id))));
    all += count[id];
  }
  CHECK(all == map.size().cell_count());
}
