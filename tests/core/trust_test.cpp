// One object asked again after other questions, stale knowledge, thrown callbacks: each case once gave a wrong answer.
#include <catch2/catch.hpp>

#include <algorithm>
#include <array>

#include "saunter/version.hpp"
#include "saunter/saunter.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

CostGrid even(Tiling tiling, Size size, int steps) {
  return CostGrid({tiling, size}, {.steps = steps}, [](Cell) -> EntryCost { return 100; });
}

}  // namespace

TEST_CASE("a searcher does not remember changes: changed query, broad query elsewhere, changed query") {
  Random random(3);
  for (int round = 0; round < 50; ++round) {
    const CostGrid small = random_ground(random, 12, false).costs;
    const CostGrid large = random_ground(random, 40, false).costs;
    std::vector<EntryChange> changes;
    for (int i = 0; i < 8; ++i) changes.push_back({random.cell(large.size()), 3_steps});
    const Cell from = random.cell(large.size());
    const Cell to = random.cell(large.size());
    const auto changed = [&](Searcher& searcher) {
      const Source start{from};
      const Query query{.starts = std::span(&start, 1), .goals = std::span(&to, 1)};
      return Cost{searcher.route(large, query, {.changes = changes}).cost()};
    };
    Searcher used;
    Searcher fresh;
    (void)changed(used);
    const Source starts[] = {{random.cell(small.size())}, {random.cell(small.size())}};
    const Cell goal = random.cell(small.size());
    (void)used.route(small, Query{.starts = starts, .goals = std::span(&goal, 1)});
    CHECK(changed(used) == changed(fresh));
  }
}

TEST_CASE("a tour over one-way steps: the only order that exists is found") {
  Map map({Tiling::square(), {3, 1}}, std::vector<Terrain>(1));
  const Direction west = map.tiling().direction({1, 0}, {0, 0});
  map.set_closed({1, 0}, west);
  map.set_closed({2, 0}, west);
  const CostGrid costs = bake(map, Mover{.rules = {.steps = 8}});
  Searcher searcher;
  const std::vector<Cell> goals = {{2, 0}, {1, 0}};
  const Tour best = tour(searcher, costs, {0, 0}, goals, VisitOrder::best);
  CHECK(best.found());
  CHECK(best.cost == 200);
  CHECK(best.order == std::vector<std::size_t>{1, 0});
  CHECK_FALSE(tour(searcher, costs, {0, 0}, goals, VisitOrder::given).found());
}

TEST_CASE("what was made from another grid is known to be stale, even after two fresh bakes") {
  const CostGrid open = even(Tiling::square(), {5, 5}, 8);
  const CostGrid walled({Tiling::square(), {5, 5}}, {.steps = 8},
                        [](Cell cell) -> EntryCost { return cell.col == 2 ? 0 : 100; });
  const Regions regions(walled);
  Searcher searcher;
  CHECK(searcher.route(open, {0, 0}, {4, 4}, {.labels = &regions.labels()}).found());
  CHECK(searcher.route(walled, {0, 0}, {4, 4}, {.labels = &regions.labels()}).verdict().reason == Reason::no_way);
  CHECK(regions.made_from(walled));
  CHECK_FALSE(regions.made_from(open));

  const Field field = searcher.reach(walled, {0, 0});
  CHECK(field.made_from(walled));
  CHECK_FALSE(field.made_from(open));

  CostGrid grid = walled;  // an equal grid, with changes of its own from here on
  SteppedSearch stepped;
  stepped.begin(grid, {0, 0}, {1, 4});
  CHECK_FALSE(stepped.stale());
  grid = open;
  CHECK(stepped.stale());
  CHECK_FALSE(Regions(walled).made_from(grid));

  CostGrid changed = open;
  const Regions before(changed);
  changed.set_entry({1, 1}, 2_steps);
  CHECK_FALSE(before.made_from(changed));
}

TEST_CASE("natural on triangles: closest to the line also where two kinds of cell come together") {
  const CostGrid costs({Tiling::triangle(FirstTriangle::down), {6, 6}}, {.steps = 12, .corners = Corners::free},
                       [](Cell) -> EntryCost { return 1; });
  Searcher searcher;
  const Route& route = searcher.route(costs, {5, 5}, {0, 4}, {.natural = true});
  CHECK(route.natural());
  CHECK(std::vector<Cell>(route.cells().begin(), route.cells().end()) ==
        std::vector<Cell>{{5, 5}, {3, 4}, {1, 4}, {0, 4}});
}

TEST_CASE("a way that a limit kept from being the natural one says so") {
  const CostGrid costs = even(Tiling::square(), {30, 30}, 8);
  Searcher searcher;
  CHECK(searcher.route(costs, {0, 0}, {20, 9}, {.natural = true}).natural());
  CHECK_FALSE(searcher.route(costs, {0, 0}, {20, 9}).natural());
  bool told = false;
  for (std::uint64_t limit = 1; limit < 400; ++limit) {
    const Route& route = searcher.route(costs, {0, 0}, {20, 9}, {.limit = limit, .natural = true});
    told = told || (route.found() && !route.natural());
  }
  CHECK(told);
}

TEST_CASE("one dear cell for a moment leaves a grid as it was") {
  CostGrid costs = even(Tiling::square(), {40, 40}, 8);
  const CostGrid before = costs;
  costs.set_entry({3, 3}, Hundredths{std::uint32_t{65'535}});
  costs.set_entry({4, 4}, 1_hundredths);
  CHECK(costs.highest_entry() == 65'535);
  CHECK(costs.lowest_entry() == 1);
  costs.set_entry({3, 3}, 1_steps);
  costs.set_entry({4, 4}, 1_steps);
  CHECK(costs.highest_entry() == 100);
  CHECK(costs.lowest_entry() == 100);
  CHECK(costs == before);
}

TEST_CASE("what was moved from is empty and can be used again") {
  CostGrid costs = even(Tiling::square(), {4, 4}, 8);
  const CostGrid taken = std::move(costs);
  CHECK(costs.size().cell_count() == 0);
  CHECK_FALSE(costs.open({0, 0}));
  costs = taken;
  CHECK(costs.open({0, 0}));

  Grid<int> numbers({2, 2}, 5);
  const Grid<int> kept = std::move(numbers);
  CHECK(numbers.size() == Size{});
  CHECK(std::as_const(numbers)[Cell{0, 0}] == 0);
  CHECK(kept[Cell{1, 1}] == 5);

  BitGrid bits(Size{70, 2});
  bits.set({69, 1});
  const BitGrid held = std::move(bits);
  CHECK(bits.count() == 0);
  CHECK_FALSE(bits.test({69, 1}));
  CHECK(held.test({69, 1}));

  Occupancy units({Tiling::square(), {4, 4}});
  const UnitId id = units.add({});
  CHECK(units.place(id, {{1, 1}}));
  const Occupancy moved = std::move(units);
  CHECK(units.unit_count() == 0);
  CHECK(units.at({1, 1}) == 0);
  CHECK(moved.at({1, 1}) == id);
}

TEST_CASE("a callback that throws ends its question, and the object answers the next as a new one") {
  struct Interrupted {};
  Random random(11);
  int interrupted = 0;
  for (int round = 0; round < 40; ++round) {
    const Ground ground = random_ground(random, 15, true);
    const CostGrid& costs = ground.costs;
    const Cell from = random.cell(costs.size());
    const Cell to = random.cell(costs.size());
    Searcher searcher;
    SteppedSearch stepped;
    int left = random.whole(0, 30);
    const auto test = [&](Cell) -> bool {
      if (left-- <= 0) throw Interrupted();
      return false;
    };
    const Source start{from};
    const Query query{.starts = std::span(&start, 1), .until = test};
    bool thrown = false;
    try {
      (void)searcher.route(costs, query);
    } catch (const Interrupted&) {
      thrown = true;
    }
    left = 0;
    try {
      stepped.begin(costs, query);
      while (!stepped.run(3)) {
      }
    } catch (const Interrupted&) {
      CHECK(stepped.stale());
    }
    Searcher fresh;
    const Route& expected = fresh.route(costs, from, to, {.natural = true});
    const Route& route = searcher.route(costs, from, to, {.natural = true});
    CHECK(route.verdict() == expected.verdict());
    CHECK(std::ranges::equal(route.cells(), expected.cells()));
    CHECK(route.expanded() == expected.expanded());
    stepped.begin(costs, from, to);
    while (!stepped.run(7)) {
    }
    CHECK(stepped.route().verdict() == fresh.route(costs, from, to).verdict());
    interrupted += thrown ? 1 : 0;

    Fitter fitter;
    int asked = 0;
    const Rule rules[] = {{"stormy", [&](std::span<const Cell>) -> bool {
                             if (++asked > 3) throw Interrupted();
                             return true;
                           }}};
    const FitTerms stormy{.map = &ground.map, .rules = rules};
    try {
      (void)fitter.spots(stormy, {});
    } catch (const Interrupted&) {
      CHECK(asked == 4);
    }
    Fitter unused;
    CHECK(fitter.spots({.map = &ground.map}, {}).count() == unused.spots({.map = &ground.map}, {}).count());
  }
  CHECK(interrupted > 5);
}

TEST_CASE("cells near the ends of the number range: answers, no overflow") {
  constexpr auto low = std::numeric_limits<std::int32_t>::min();
  constexpr auto high = std::numeric_limits<std::int32_t>::max();
  const std::array<Cell, 5> ends = {{{low, low}, {high, high}, {low, high}, {high, low}, {0, 0}}};
  for (const Tiling tiling : all_tilings()) {
    const CostGrid costs = even(tiling, {6, 6}, default_steps(tiling));
    const SightGrid sight(costs.board());
    Map map(costs.board(), std::vector<Terrain>(1));
    Searcher searcher;
    Fitter fitter;
    Lookout lookout;
    std::vector<Cell> cells;
    for (const Cell a : ends) {
      CHECK((a == Cell{} || !searcher.route(costs, a, {1, 1}).found()));
      for (const Cell b : ends) CHECK(tiling.edge_distance(a, b) >= 0);
      for (Direction d{0}; d < tiling.direction_count(); ++d) (void)tiling.neighbour(a, d);
      disk_of_cells(tiling, a, high, {6, 6}, cells);
      CHECK(cells.size() <= 36);
      (void)Rect::of(a);
      lookout.visible(sight, a, 9_steps, cells);
      CHECK(cells.empty() == (a != Cell{}));
      const std::vector<Offset> far = {{0, 0}, {high, low}, {low, high}};
      CHECK_FALSE(fitter.fits({.map = &map}, Footprint(far), {a}));
      CHECK(paint_disk(map, a, 2, 0).cells.empty());
      CHECK((a == Cell{} || hidden_by(sight, a, {0, 0}).has_value()));
    }
  }
}

TEST_CASE("headers and library tell the same version") {
  const std::string numbers = std::to_string(SAUNTER_VERSION_MAJOR) + "." + std::to_string(SAUNTER_VERSION_MINOR) +
                              "." + std::to_string(SAUNTER_VERSION_PATCH);
  CHECK(version() == numbers);
  CHECK(SAUNTER_VERSION == SAUNTER_VERSION_MAJOR * 10'000 + SAUNTER_VERSION_MINOR * 100 + SAUNTER_VERSION_PATCH);
}
