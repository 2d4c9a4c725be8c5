// Regions, cut-off places, chokes and joins against slow versions written from the definitions.
#include <catch2/catch.hpp>
#include <functional>
#include <map>

#include "saunter/region/chokes.hpp"
#include "saunter/region/cut_off.hpp"
#include "saunter/region/farthest.hpp"
#include "saunter/region/joins.hpp"
#include "saunter/search/searcher.hpp"
#include "support/seeds.hpp"
#include "support/oracle.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

bool step(const CostGrid& costs, Cell from, Direction d) { return ((costs.moves(from) >> d) & 1U) == 1; }

bool both_ways(const CostGrid& costs, Cell from, Direction d) {
  const Cell to = costs.tiling().neighbour(from, d);
  return step(costs, from, d) && step(costs, to, costs.tiling().direction(to, from));
}

/// Which cells a start leads to, through steps that `may` allows.
std::vector<bool> reached(const CostGrid& costs, Cell start, const std::function<bool(Cell, Direction)>& may) {
  std::vector<bool> seen(costs.size().cell_count(), false);
  std::vector<Cell> line = {start};
  seen[costs.size().index(start).value()] = true;
  for (std::size_t i = 0; i < line.size(); ++i) {
    for (Direction d{0}; d < costs.tiling().direction_count(); ++d) {
      const Cell next = costs.tiling().neighbour(line[i], d);
      if (!costs.size().contains(next) || seen[costs.size().index(next).value()] || !may(line[i], d)) continue;
      seen[costs.size().index(next).value()] = true;
      line.push_back(next);
    }
  }
  return seen;
}

}  // namespace

TEST_CASE("labels by runs are those of a flood, on 1,500 random maps of all widths") {
  for (const std::uint64_t seed : seeds(1500)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Size size{random.whole(1, random.chance(20) ? 200 : 40), random.whole(1, 12)};
    const int shut = random.whole(10, 60);
    const CostGrid costs({tiling, size}, random_rules(random, tiling),
                         [&](Cell) -> EntryCost { return random.chance(shut) ? 0 : 100; });
    const Regions regions(costs);
    std::uint32_t id = 0;
    std::vector<bool> seen(size.cell_count(), false);
    for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
      const Cell first = size.cell(CellIndex{i});
      if (!costs.open(first)) REQUIRE(regions.at(first) == 0);
      if (!costs.open(first) || seen[i]) continue;
      ++id;
      const auto part = reached(costs, first, [&](Cell from, Direction d) { return both_ways(costs, from, d); });
      std::uint32_t cells = 0;
      for (std::uint32_t k = 0; k < part.size(); ++k) {
        if (!part[k]) continue;
        seen[k] = true;
        ++cells;
        REQUIRE(regions.at(size.cell(CellIndex{k})) == id);
        REQUIRE(regions.list()[id - 1].box.contains(size.cell(CellIndex{k})));
      }
      CHECK(regions.list()[id - 1].cells == cells);
      CHECK(regions.list()[id - 1].first == first);
    }
    CHECK(regions.list().size() == id);
    if (id > 0) CHECK(regions.largest()->cells >= regions.list()[0].cells);
  }
}

namespace {

void require_equal(const Regions& regions, const Regions& anew, Size size) {
  REQUIRE(regions.list() == anew.list());
  std::size_t differ = 0;
  for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
    differ += regions.at(CellIndex{i}) == anew.at(CellIndex{i}) ? 0U : 1U;
  }
  REQUIRE(differ == 0);
}

}  // namespace

TEST_CASE("regions brought up to date equal regions made anew, over 400 maps and 20,000 changes") {
  for (const std::uint64_t seed : seeds(400)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Size size{random.whole(1, 40), random.whole(1, 40)};
    const int shut = random.whole(5, 60);
    CostGrid costs({tiling, size}, random_rules(random, tiling),
                   [&](Cell) -> EntryCost { return random.chance(shut) ? 0 : 100; });
    Regions regions(costs);
    for (int i = 0; i < 50; ++i) {
      INFO("change " << i);
      const Cell cell = random.cell(size);
      costs.set_entry(cell, costs.open(cell) ? 0_steps : 1_steps);
      regions.update(costs, Rect::of(cell));
      require_equal(regions, Regions(costs), size);
      CHECK(regions.made_from(costs));
    }
  }
}

TEST_CASE("boards of many words, one after the other in one memory, have the regions that a flood finds") {
  Regions regions;
  RegionsUpdater updater;
  for (const std::uint64_t seed : seeds(700)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = all_tilings()[seed % all_tilings().size()];
    const Size size{random.whole(1, seed % 5 == 0 ? 4 : 260), random.whole(1, 40)};
    const int shut = random.whole(5, 70);
    const int together = random.whole(1, 30);  // cells of one kind side by side
    bool open = true;
    const CostGrid costs({tiling, size}, random_rules(random, tiling), [&](Cell) -> EntryCost {
      if (random.whole(1, together) == 1) open = !random.chance(shut);
      return open ? 100 : 0;
    });
    updater.remake(regions, costs);
    REQUIRE(regions.made_from(costs));
    Grid<std::uint32_t> ids(size, 0);
    std::vector<Region> list;
    for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
      const Cell first = size.cell(CellIndex{i});
      if (!costs.open(first) || ids[first] != 0) continue;
      Region region{static_cast<std::uint32_t>(list.size()) + 1, 0, Rect::of(first), first};
      std::vector<Cell> line{first};
      ids[first] = region.id;
      while (!line.empty()) {
        const Cell at = line.back();
        line.pop_back();
        ++region.cells;
        region.box = region.box.joined(Rect::of(at));
        for (Direction d{0}; d < tiling.direction_count(); ++d) {
          const Cell next = tiling.neighbour(at, d);
          if ((costs.moves(at) >> d & 1U) == 0 || ids[next] != 0) continue;
          ids[next] = region.id;
          line.push_back(next);
        }
      }
      list.push_back(region);
    }
    REQUIRE(regions.list() == list);
    REQUIRE(regions.labels().names() == ids);
  }
}

TEST_CASE("regions follow changes of terrain, barriers, heights and units in blocks, for every mover, on 400 maps") {
  for (const std::uint64_t seed : seeds(400)) {
    INFO("seed " << seed);
    Random random(seed);
    Ground c = random_ground(random, 30, seed % 2 == 0);
    const Size size = c.map.size();
    BitGrid occupied(size);
    Regions regions(c.costs);
    for (int i = 0; i < 12; ++i) {
      INFO("change " << i);
      const Cell corner = random.cell(size);
      const int wide = random.whole(1, 6);
      const int high = random.whole(1, 6);
      const Rect block = Rect{corner.col, corner.row, corner.col + wide, corner.row + high}.grown(0, size);
      for (std::int32_t row = block.top; row < block.bottom; ++row) {
        for (std::int32_t col = block.left; col < block.right; ++col) {
          const Cell cell{col, row};
          const int what = random.whole(0, 5);
          const auto kind = static_cast<TerrainId>(random.whole(0, static_cast<int>(c.map.kinds().size()) - 1));
          const Direction edge(random.whole(0, c.map.tiling().edge_count() - 1));
          if (what == 0) c.map.set_terrain(cell, kind);
          if (what == 1) occupied.set(cell, !occupied.test(cell));
          if (what == 2 && c.map.has_heights()) c.map.set_height(cell, static_cast<std::int16_t>(random.whole(0, 6)));
          if (what == 3 && c.map.has_barriers() && block.contains(c.map.tiling().neighbour(cell, edge))) {
            c.map.set_closed(cell, edge, random.chance(60));
          }
        }
      }
      regions.update(c.costs, rebake(c.costs, c.map, c.mover, block, &occupied));
      require_equal(regions, Regions(c.costs), size);
    }
  }
}

TEST_CASE("ten thousand cells opened and closed one after the other on a map of rooms and on noise") {
  for (const bool noise : {false, true}) {
    const std::uint64_t seed = noise ? 1 : 2;
    INFO("seed " << seed);
    Random random(seed);
    const Size size{100, 90};
    CostGrid costs({Tiling::square(), size}, {}, [&](Cell cell) -> EntryCost {
      if (noise) return random.chance(40) ? 0 : 100;
      return (cell.col % 13 == 12 || cell.row % 11 == 10) && !random.chance(4) ? 0 : 100;
    });
    Regions regions(costs);
    for (int i = 0; i < 10'000; ++i) {
      const Cell cell = random.cell(size);
      costs.set_entry(cell, costs.open(cell) == random.chance(60) ? 0_steps : 1_steps);
      regions.update(costs, Rect::of(cell));
      if (i % 10 != 0) continue;
      INFO("change " << i);
      require_equal(regions, Regions(costs), size);
    }
  }
}

TEST_CASE("cut off, and no return, on 2,000 random maps") {
  std::size_t one_way = 0;
  for (const std::uint64_t seed : seeds(2000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground c = random_ground(random, 14, seed % 2 == 0);
    const Size size = c.costs.size();
    const Cell start = random.cell(size);
    if (!c.costs.open(start)) continue;
    const CutOff found = cut_off_from(c.costs, start);
    const auto there = reached(c.costs, start, [&](Cell from, Direction d) { return step(c.costs, from, d); });
    std::vector<Cell> cut;
    std::vector<Cell> stuck;
    for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
      const Cell cell = size.cell(CellIndex{i});
      if (!c.costs.open(cell)) continue;
      if (!there[i]) {
        cut.push_back(cell);
        continue;
      }
      const auto back = reached(c.costs, cell, [&](Cell from, Direction d) { return step(c.costs, from, d); });
      if (!back[size.index(start).value()]) stuck.push_back(cell);
    }
    CHECK(found.cut_off == cut);
    CHECK(found.no_return == stuck);
    one_way += stuck.empty() ? 0U : 1U;
  }
  CHECK(one_way > share_of(30));
}

TEST_CASE("chokes are the places whose loss splits their region, on 2,000 random maps") {
  std::size_t seen = 0;
  for (const std::uint64_t seed : seeds(2000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground c = random_ground(random, 9, seed % 2 == 0);
    const Size size = c.costs.size();
    const Regions regions(c.costs);
    const auto chokes = find_chokes(c.costs, regions);
    std::map<std::pair<int, int>, std::vector<std::uint32_t>> found;
    for (const Choke& choke : chokes) {
      found[{choke.cell.row, choke.cell.col}] = choke.sides;
      CHECK(choke.region == regions.at(choke.cell));
    }
    for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
      const Cell gone = size.cell(CellIndex{i});
      if (!c.costs.open(gone)) continue;
      // The place can't be stood on: steps are derived anew, by the rules.
      const auto may = [&](Cell from, Direction d) {
        const auto legal = [&](Cell a, Direction way) {
          if (!step(c.costs, a, way)) return false;
          const Neighbourhood& hood = c.costs.tiling().neighbourhood();
          if (way < hood.edges || c.costs.rules().corners == Corners::free) return true;
          int open = 0;
          for (const CornerWay& round :
               hood.ways[static_cast<unsigned>(c.costs.tiling().kind(a))][static_cast<unsigned>(way)]) {
            Cell at = a;
            bool passes = true;
            for (unsigned k = 0; k < round.count && passes; ++k) {
              passes = step(c.costs, at, Direction(round.steps[k]));
              if (!passes) break;
              at = c.costs.tiling().neighbour(at, Direction(round.steps[k]));
              passes = at != gone;
            }
            open += passes ? 1 : 0;
          }
          return open >= (c.costs.rules().corners == Corners::strict ? 2 : 1);
        };
        const Cell to = c.costs.tiling().neighbour(from, d);
        return from != gone && to != gone && legal(from, d) && legal(to, c.costs.tiling().direction(to, from));
      };
      std::vector<std::uint32_t> parts;
      std::vector<bool> taken(size.cell_count(), false);
      for (std::uint32_t k = 0; k < size.cell_count(); ++k) {
        const Cell first = size.cell(CellIndex{k});
        if (k == i || taken[k] || regions.at(first) != regions.at(gone)) continue;
        const auto part = reached(c.costs, first, may);
        std::uint32_t cells = 0;
        for (std::uint32_t n = 0; n < part.size(); ++n) {
          if (!part[n]) continue;
          taken[n] = true;
          ++cells;
        }
        parts.push_back(cells);
      }
      std::sort(parts.begin(), parts.end(), std::greater<>());
      const auto at = found.find({gone.row, gone.col});
      INFO("cell " << gone.col << "," << gone.row);
      REQUIRE((at != found.end()) == (parts.size() > 1));
      if (at == found.end()) continue;
      ++seen;
      CHECK(at->second == parts);
    }
    std::size_t listed = 0;
    for (const Corridor& corridor : corridors(c.costs, chokes)) listed += corridor.cells.size();
    CHECK(listed == chokes.size());
  }
  CHECK(seen > share_of(2000));
}

TEST_CASE("joins cost what a minimum spanning forest over the cheapest breaches costs, on 2,000 random maps") {
  std::size_t joined = 0;
  for (const std::uint64_t seed : seeds(2000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Size size = random_size(random, 12);
    std::vector<Terrain> kinds(4);
    for (std::size_t i = 0; i < kinds.size(); ++i) kinds[i].name = "kind" + std::to_string(i);
    for (std::size_t i = 1; i < kinds.size(); ++i) kinds[i].cost = blocked;
    kinds[1].breach = 100;
    kinds[2].breach = static_cast<Cost>(random.whole(1, 900));
    kinds[3].breach = std::nullopt;
    Map map({tiling, size}, kinds);
    for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
      map.set_terrain(size.cell(CellIndex{i}), static_cast<TerrainId>(random.chance(50) ? 0 : random.whole(1, 3)));
    }
    if (random.chance(40)) add_random_edges(random, map);
    Mover mover = random_mover(random, tiling);
    mover.size = 1;
    mover.costs.clear();
    BitGrid occupied(size);
    for (int i = random.whole(0, 4); i > 0; --i) occupied.set(random.cell(size));
    const CostGrid costs = bake(map, mover, &occupied);
    const Regions regions(costs);
    const BreachCosts breach(map, costs, &occupied);
    const JoinOptions options{.least_cells = static_cast<std::uint32_t>(random.whole(1, 4)),
                              .extra = static_cast<std::size_t>(random.whole(0, 2))};
    const JoinPlan plan = plan_joins(map, mover, costs, regions, breach, options);

    // Cheapest breach from each region to all cells, by relaxing until nothing changes.
    Mover flying = mover;  // tells barriers and heights only: every cell can be entered
    Map bare = map;
    for (std::uint32_t i = 0; i < size.cell_count(); ++i) bare.set_terrain(size.cell(CellIndex{i}), 0);
    flying.rules.steps = tiling.edge_count();
    const CostGrid edges = bake(bare, flying);
    const auto may = [&](Cell from, Direction d) {
      const Cell to = tiling.neighbour(from, d);
      if (!size.contains(to) || breach.at(to) == BreachCosts::never_opened ||
          breach.at(from) == BreachCosts::never_opened)
        return false;
      if (costs.open(from) && costs.open(to) && both_ways(costs, from, d)) return true;
      return d < tiling.edge_count() && both_ways(edges, from, d);
    };
    std::vector<std::uint32_t> wanted;
    for (const Region& region : regions.list()) {
      if (region.cells >= options.least_cells) wanted.push_back(region.id);
    }
    struct Link {
      std::uint64_t cost;
      std::uint32_t a;
      std::uint32_t b;
    };
    std::vector<Link> links;
    for (const std::uint32_t a : wanted) {
      std::vector<std::uint64_t> cost(size.cell_count(), never);
      for (std::uint32_t i = 0; i < cost.size(); ++i) {
        if (regions.at(size.cell(CellIndex{i})) == a) cost[i] = 0;
      }
      for (bool changed = true; changed;) {
        changed = false;
        for (std::uint32_t i = 0; i < cost.size(); ++i) {
          if (cost[i] == never) continue;
          const Cell cell = size.cell(CellIndex{i});
          for (Direction d{0}; d < costs.rules().steps; ++d) {
            if (!may(cell, d)) continue;
            const Cell next = tiling.neighbour(cell, d);
            std::uint64_t& there = cost[size.index(next).value()];
            if (cost[i] + breach.at(next) >= there) continue;
            there = cost[i] + breach.at(next);
            changed = true;
          }
        }
      }
      for (const std::uint32_t b : wanted) {
        const std::uint64_t between = cost[size.index(regions.list()[b - 1].first).value()];
        if (a < b && between != never) links.push_back({between, a, b});
      }
    }
    std::sort(links.begin(), links.end(), [](const Link& x, const Link& y) { return x.cost < y.cost; });
    std::map<std::uint32_t, std::uint32_t> group;
    for (const std::uint32_t id : wanted) group[id] = id;
    std::uint64_t total = 0;
    std::size_t needed = 0;
    for (const Link& link : links) {
      const std::uint32_t from = group[link.b];
      const std::uint32_t to = group[link.a];
      if (from == to) continue;
      for (auto& entry : group) entry.second = entry.second == from ? to : entry.second;
      total += link.cost;
      ++needed;
    }
    CHECK(plan.cost == total);
    CHECK(plan.joins.size() == needed);
    std::vector<std::uint32_t> apart;
    for (const std::uint32_t id : wanted) {
      if (group[id] != group[wanted.front()]) apart.push_back(id);
    }
    CHECK(plan.apart == apart);
    CHECK(plan.extra.size() <= options.extra);

    // What is opened joins what it says: bake again with those cells open.
    for (const Join& join : plan.joins) {
      ++joined;
      std::uint64_t sum = 0;
      for (const Cell cell : join.opens) {
        REQUIRE_FALSE(costs.open(cell));
        sum += breach.at(cell);
      }
      CHECK(sum == join.cost);
      Map with = map;
      for (const Cell cell : join.opens) with.set_terrain(cell, 0);
      const Regions after(bake(with, mover, &occupied));
      CHECK(after.same(regions.list()[join.from - 1].first, regions.list()[join.to - 1].first));
    }
  }
  CHECK(joined > share_of(300));
}

TEST_CASE("the cells farthest apart: exact in trees, at least half elsewhere, on 1,000 random boards") {
  Searcher searcher;
  std::size_t trees = 0;
  for (const std::uint64_t seed : seeds(1000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Size size = random_size(random, 12);
    const int shut = random.whole(10, 60);
    const bool one_cost = random.chance(50);
    const StepRules rules{.steps = random.chance(60) ? tiling.edge_count() : 0};
    const CostGrid costs({tiling, size}, rules, [&](Cell) -> EntryCost {
      const int entry = one_cost ? 100 : random.whole(1, 500);
      return random.chance(shut) ? blocked : static_cast<EntryCost>(entry);
    });
    const Regions regions(costs);
    for (const Region& region : regions.list()) {
      const FarPair found = *farthest_apart(searcher, costs, regions, region.id);
      CHECK(regions.at(found.from) == region.id);
      CHECK(regions.at(found.to) == region.id);
      CHECK(searcher.route(costs, found.from, found.to).cost() == found.cost);
      std::uint64_t most = 0;
      for (const Cell from : size.cells()) {
        if (regions.at(from) != region.id) continue;
        const auto far = farthest_from(searcher, costs, from);
        most = std::max<std::uint64_t>(most, far->cost);
        const auto least = least_costs(costs, from);
        const std::uint64_t there = least[size.index(far->cell).value()];
        CHECK(there == far->cost);
        for (std::uint32_t k = 0; k < least.size(); ++k) {
          if (least[k] != never)
            REQUIRE((least[k] < there || (least[k] == there && size.cell(CellIndex{k}) >= far->cell)));
        }
      }
      CHECK(found.cost <= most);
      if (found.exact) CHECK(found.cost == most);
      if (one_cost && rules.steps == tiling.edge_count()) CHECK(2 * std::uint64_t{found.cost} >= most);
      if (found.exact && region.cells > 4) ++trees;
    }
  }
  CHECK(trees > share_of(120));
}

TEST_CASE("two regions are joined by the cheapest of all sets of cells, on tiny maps of all tilings") {
  std::size_t joined = 0;
  std::size_t apart = 0;
  for (const std::uint64_t seed : seeds(3000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Size size{random.whole(2, 4), random.whole(2, 4)};
    std::vector<Terrain> kinds = {{.name = "sand"}};
    for (int i = 0; i < 3; ++i) {
      kinds.push_back(
          {.name = "wall" + std::to_string(i), .cost = blocked, .breach = static_cast<Cost>(random.whole(1, 900))});
    }
    kinds[3].breach = std::nullopt;
    Map map({tiling, size}, kinds);
    std::vector<Cell> walls;
    for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
      const auto id = static_cast<TerrainId>(random.chance(50) ? 0 : random.whole(1, 3));
      map.set_terrain(size.cell(CellIndex{i}), id);
      if (id == 1 || id == 2) walls.push_back(size.cell(CellIndex{i}));
    }
    const Mover mover{.name = "crab", .rules = {.steps = tiling.edge_count()}};
    const CostGrid costs = bake(map, mover);
    const Regions regions(costs);
    if (regions.list().size() != 2 || walls.size() > 10) continue;
    std::uint64_t least = never;
    for (unsigned set = 0; set < 1U << walls.size(); ++set) {
      CostGrid opened = costs;
      std::uint64_t cost = 0;
      for (std::size_t i = 0; i < walls.size(); ++i) {
        if ((set >> i & 1U) == 0) continue;
        opened.set_entry(walls[i], 1_steps);
        cost += *map.kind(map.terrain_at(walls[i])).breach;
      }
      if (cost < least && Regions(opened).same(regions.list()[0].first, regions.list()[1].first)) least = cost;
    }
    const JoinPlan plan = plan_joins(map, mover, costs, regions, BreachCosts(map, costs), {});
    CHECK(plan.joins.size() == (least == never ? 0U : 1U));
    CHECK(plan.cost == (least == never ? 0 : least));
    (least == never ? apart : joined) += 1;
  }
  CHECK(joined > share_of(200));
  CHECK(apart > share_of(20));
}

TEST_CASE(
    "a search that is handed labels gives the same answer, on 1,500 random maps, and no search where they say no") {
  Searcher plain;
  Searcher helped;
  std::size_t at_once = 0;
  for (const std::uint64_t seed : seeds(1500)) {
    INFO("seed " << seed);
    Random random(seed);
    Ground c = random_ground(random, 30, seed % 3 == 0);
    const Size size = c.costs.size();
    const Regions regions(c.costs);
    const std::vector<Source> starts = {{random.cell(size)}, {random.cell(size), 3_steps}};
    const std::vector<Cell> goals = {random.cell(size), random.cell(size), random.cell(size)};
    const bool old_labels = !c.costs.has_sides() && random.chance(20);
    if (old_labels) c.costs.set_entry(random.cell(size), 1_steps);
    const std::vector<Algorithm> all = {Algorithm::automatic, Algorithm::astar,  Algorithm::dijkstra, Algorithm::bfs,
                                        Algorithm::jump,      Algorithm::greedy, Algorithm::dead_ends};
    const Algorithm by = random.one_of(all);
    const RouteOptions without{.by = by};
    RouteOptions with = without;
    with.labels = &regions.labels();
    const auto compare = [&](const Route& expected, const Route& route) {
      REQUIRE(route.verdict() == expected.verdict());
      REQUIRE(std::ranges::equal(route.cells(), expected.cells()));
      if (expected.verdict().reason != Reason::no_way || !regions.labels().proves_apart() || old_labels) return;
      CHECK(route.expanded() == 0);
      ++at_once;
    };
    compare(plain.route(c.costs, starts[0].cell, goals[0], without),
            helped.route(c.costs, starts[0].cell, goals[0], with));
    const Query query{.starts = starts, .goals = goals, .within = random.whole(0, 1), .beside = random.chance(20)};
    compare(plain.route(c.costs, query, without), helped.route(c.costs, query, with));
  }
  CHECK(at_once > share_of(100));
}
