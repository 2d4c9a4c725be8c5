// Prepared maps: what their calls promise, one by one.
#include <catch2/catch.hpp>
#include <cstring>
#include <thread>

#include "saunter/search/batch.hpp"
#include "saunter/search/prepared.hpp"
#include "saunter/search/searcher.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// Rooms of eight cells with a door in each wall.
CostGrid rooms(Size size, StepRules rules = {}) {
  return CostGrid({Tiling::square(), size}, rules, [](Cell cell) -> EntryCost {
    const bool door = (cell.col % 9 == 8 && cell.row % 9 == 3) || (cell.row % 9 == 8 && cell.col % 9 == 5);
    return (cell.col % 9 == 8 || cell.row % 9 == 8) && !door ? 0 : 100;
  });
}

CostGrid noise(Tiling tiling, Size size, bool weighted) {
  Random random(3);
  return CostGrid({tiling, size}, {}, [&](Cell) -> EntryCost {
    if (random.chance(20)) return blocked;
    return weighted ? static_cast<EntryCost>(100 * random.whole(1, 5)) : EntryCost{100};
  });
}

}  // namespace

TEST_CASE("a route is looked up where an index follows the grid, and says so") {
  const CostGrid costs = rooms({40, 40});
  const Prepared index = prepare(costs);
  Searcher searcher;
  const Route plain = searcher.route(costs, {1, 1}, {38, 37});
  CHECK(plain.algorithm() != Algorithm::prepared);
  const Route& route = searcher.route(costs, {1, 1}, {38, 37}, {.prepared = &index});
  CHECK(route.algorithm() == Algorithm::prepared);
  CHECK(route.cost() == plain.cost());
  CHECK(route.expanded() < 200);
  CHECK(algorithm_name(route.algorithm()) == "prepared");

  SECTION("asked for by name without an index, the fastest search answers") {
    CHECK(searcher.route(costs, {1, 1}, {38, 37}, {.by = Algorithm::prepared}).algorithm() == plain.algorithm());
  }
  SECTION("another search is asked when it is named") {
    CHECK(searcher.route(costs, {1, 1}, {38, 37}, {.by = Algorithm::dijkstra, .prepared = &index}).algorithm() ==
          Algorithm::dijkstra);
  }
  SECTION("an empty index, and one of another grid, answer nothing") {
    const Prepared nothing;
    CHECK(nothing.empty());
    CHECK(searcher.route(costs, {1, 1}, {38, 37}, {.prepared = &nothing}).algorithm() == plain.algorithm());
    const CostGrid copy = costs;
    CHECK_FALSE(index.follows(copy));
    CHECK(searcher.route(copy, {1, 1}, {38, 37}, {.prepared = &index}).algorithm() == plain.algorithm());
  }
  SECTION("what changes the question is searched for, with the same answers as without an index") {
    std::vector<Visit> trace;
    const EntryChange avoided[] = {{{5, 8}, blocked}};
    const std::vector<RouteOptions> all = {
        {.limit = 50}, {.trace = &trace}, {.changes = avoided}, {.turn_cost = 10_hundredths}, {.natural = true}};
    for (RouteOptions options : all) {
      const Route wanted = searcher.route(costs, {1, 1}, {38, 37}, options);
      options.prepared = &index;
      CHECK(searcher.route(costs, {1, 1}, {38, 37}, options) == wanted);
    }
  }
  SECTION("a budget is a bound on what was looked up") {
    const Cost least = plain.cost();
    CHECK(searcher.route(costs, {1, 1}, {38, 37}, {.budget = Hundredths(least), .prepared = &index}).found());
    const Route wanted = searcher.route(costs, {1, 1}, {38, 37}, {.budget = Hundredths(least - 1)});
    const Route& no = searcher.route(costs, {1, 1}, {38, 37}, {.budget = Hundredths(least - 1), .prepared = &index});
    CHECK(no.verdict() == wanted.verdict());
    CHECK(no.verdict().reason == Reason::over_budget);
    CHECK(no.cells().empty());
  }
}

TEST_CASE("straight parts of a route are read one by one") {
  const CostGrid costs = rooms({40, 40});
  const Prepared index = prepare(costs);
  Searcher searcher;
  SECTION("along an open room: a diagonal part, then a straight one") {
    CHECK(searcher.begin_legs(costs, {1, 1}, {6, 3}, index) == 2 * 141 + 3 * 100);
    CHECK(searcher.next_leg() == Leg{{1, 1}, Direction(5), 2});
    CHECK(searcher.next_leg() == Leg{{3, 3}, Direction(1), 3});
    CHECK(searcher.next_leg() == std::nullopt);
  }
  SECTION("while nothing else is asked, also when the index is gone") {
    CHECK(searcher.begin_legs(costs, {1, 1}, {38, 37}, prepare(costs)) < unreached);
    CHECK(searcher.next_leg());
    CHECK(searcher.next_leg());
    (void)searcher.cost(costs, {1, 1}, {2, 2}, index);
    CHECK_FALSE(searcher.next_leg());
    (void)searcher.begin_legs(costs, {1, 1}, {38, 37}, index);
    (void)searcher.route(costs, {1, 1}, {2, 2});
    CHECK_FALSE(searcher.next_leg());
  }
  SECTION("from a cell to itself: none") {
    CHECK(searcher.begin_legs(costs, {1, 1}, {1, 1}, index) == 0);
    CHECK(searcher.next_leg() == std::nullopt);
  }
  SECTION("without a way, or with an end that can't be used: none") {
    CHECK(searcher.begin_legs(costs, {1, 1}, {8, 0}, index) == unreached);
    CHECK(searcher.next_leg() == std::nullopt);
    CHECK(searcher.begin_legs(costs, {-1, 1}, {1, 1}, index) == unreached);
    CHECK(searcher.next_leg() == std::nullopt);
  }
  SECTION("of a route that was searched for") {
    const Prepared nothing;
    CHECK(searcher.begin_legs(costs, {1, 1}, {1, 5}, nothing) == 400);
    CHECK(searcher.next_leg() == Leg{{1, 1}, Direction(2), 4});
    CHECK(searcher.next_leg() == std::nullopt);
  }
}

TEST_CASE("an index tells what it consists of, and follows what changes") {
  CostGrid costs = rooms({40, 40});
  Prepared index = prepare(costs);
  const PreparedFigures figures = index.figures();
  CHECK(figures.places > 20);
  CHECK(figures.places < 200);  // the cells beside doors, not all cells
  CHECK(figures.ways >= figures.places);
  CHECK(figures.hubs >= figures.core);
  CHECK(figures.core <= figures.places);
  CHECK(figures.bytes > index.bytes().size());
  CHECK(Prepared().figures().bytes == 0);

  CHECK(costs.set_entry({8, 3}, blocked));  // a door
  CHECK_FALSE(index.follows(costs));
  CHECK(index.follow(costs));
  CHECK(index.follows(costs));
  CHECK(index.dearer_count() == 1);
  CHECK(index.cheaper_count() == 0);
  Searcher searcher;
  const Route closed = searcher.route(costs, {1, 1}, {12, 2});
  const Route& round = searcher.route(costs, {1, 1}, {12, 2}, {.prepared = &index});
  CHECK(round.algorithm() != Algorithm::prepared);  // its old way led through the door
  CHECK(round.cost() == closed.cost());
  CHECK(searcher.route(costs, {1, 1}, {1, 30}, {.prepared = &index}).algorithm() == Algorithm::prepared);

  CHECK(costs.set_entry({8, 3}, 100_hundredths));
  CHECK(costs.set_entry({8, 6}, 100_hundredths));  // another door in the wall
  CHECK(index.follow(costs));
  CHECK(index.dearer_count() == 0);
  CHECK(index.cheaper_count() == 1);
  const Route opened = searcher.route(costs, {1, 6}, {12, 6});
  const Route& through = searcher.route(costs, {1, 6}, {12, 6}, {.prepared = &index});
  CHECK(through.algorithm() == Algorithm::prepared);  // by what the index knows of the surroundings
  CHECK(through.cost() == opened.cost());
  CHECK(through.cost() == 1100);
  CHECK(costs.set_entry({8, 6}, blocked));
  CHECK(index.follow(costs));
  CHECK(index.dearer_count() + index.cheaper_count() == 0);

  SECTION("copies share the index, and follow grids of their own") {
    Prepared other = index;
    CostGrid copy = costs;
    CHECK(copy.set_entry({1, 1}, blocked));
    CHECK(other.follow(copy));
    CHECK(other.follows(copy));
    CHECK(index.follows(costs));
    CHECK(other.bytes().data() == index.bytes().data());
  }
  SECTION("grids of another size or other rules are not followed") {
    CHECK_FALSE(index.follow(rooms({39, 40})));
    CHECK_FALSE(index.follow(rooms({40, 40}, {.steps = 4})));
    CHECK(index.follows(costs));
    CHECK_FALSE(Prepared().follow(costs));
  }
}

TEST_CASE("less memory for the same answers") {
  const CostGrid costs = noise(Tiling::hex(HexTop::pointy, Shift::odd), {60, 60}, true);
  const Prepared all = prepare(costs);
  const Prepared few = prepare(costs, {.most_bytes = 100'000});
  CHECK(few.figures().core < all.figures().core);
  CHECK(few.figures().hubs < all.figures().hubs);
  Searcher searcher;
  Random random(4);
  for (int i = 0; i < 200; ++i) {
    const Cell from = random.cell(costs.size());
    const Cell to = random.cell(costs.size());
    CHECK(searcher.cost(costs, from, to, few) == searcher.cost(costs, from, to, all));
  }
}

TEST_CASE("preparing is told of, ended, and taken over") {
  const CostGrid costs = noise(Tiling::square(), {80, 80}, false);
  double last = -1;
  int told = 0;
  const Prepared whole = prepare(costs, {}, [&](double share) {
    CHECK(share >= last);
    CHECK(share <= 1);
    last = share;
    ++told;
    return true;
  });
  CHECK_FALSE(whole.empty());
  CHECK(told > 0);
  CHECK(prepare(costs, {}, [](double) { return false; }).empty());
  CHECK(prepare(costs, {.most_time = std::chrono::nanoseconds(0)}).empty());
  CHECK_FALSE(prepare(costs, {.most_time = std::chrono::hours(1)}).empty());

  Preparation work(costs);
  CHECK(work.memory() > 0);
  Preparation moved = std::move(work);
  while (!moved.work(500)) {
  }
  Prepared index = moved.take();
  CHECK_FALSE(index.empty());
  CHECK(moved.memory() == 0);
  CHECK(moved.work(1));
  CHECK(moved.share_done() == 1);
  CHECK_FALSE(index.follows(costs));  // it was made from a copy
  CHECK(index.follow(costs));
  CHECK(index.dearer_count() + index.cheaper_count() == 0);
}

TEST_CASE("boards without a place to stand, of one cell, and of one open room") {
  Searcher searcher;
  for (const Tiling tiling : all_tilings()) {
    for (const Size size : {Size{0, 0}, Size{1, 1}, Size{1, 30}, Size{30, 1}, Size{20, 20}}) {
      for (const EntryCost cost : {EntryCost{0}, EntryCost{100}}) {
        const CostGrid costs({tiling, size}, {}, [&](Cell) { return cost; });
        const Prepared index = prepare(costs);
        const Cell last{size.cols - 1, size.rows - 1};
        const Route plain = searcher.route(costs, {0, 0}, last);
        const Route& route = searcher.route(costs, {0, 0}, last, {.prepared = &index});
        CHECK(route.verdict() == plain.verdict());
        CHECK(route.cost() == plain.cost());
        CHECK(searcher.cost(costs, {0, 0}, last, index) == (plain.found() ? plain.cost() : unreached));
      }
    }
  }
}

TEST_CASE("one index for many threads: answers as asked in turn") {
  const CostGrid costs = noise(Tiling::square(), {96, 96}, true);
  const Prepared index = prepare(costs, {}, 2, [](std::size_t workers, auto&& job) {
    std::vector<std::thread> threads;
    for (std::size_t worker = 0; worker < workers; ++worker) threads.emplace_back([&job, worker] { job(worker); });
    for (std::thread& thread : threads) thread.join();
  });
  Random random(8);
  std::vector<RouteQuestion> questions(400);
  for (RouteQuestion& question : questions) question = {random.cell(costs.size()), random.cell(costs.size())};
  std::vector<Route> answers(questions.size());
  Batch batch(4);
  batch.routes(costs, questions, answers, {.prepared = &index}, [](std::size_t workers, auto&& job) {
    std::vector<std::thread> threads;
    for (std::size_t worker = 0; worker < workers; ++worker) threads.emplace_back([&job, worker] { job(worker); });
    for (std::thread& thread : threads) thread.join();
  });
  Searcher searcher;
  for (std::size_t i = 0; i < questions.size(); ++i) {
    CHECK(answers[i] == searcher.route(costs, questions[i].from, questions[i].to, {.prepared = &index}));
  }
}

TEST_CASE("an index follows a grid through more changes than the grid tells apart, and through whole blocks") {
  CostGrid costs = noise(Tiling::square(), {50, 50}, true);
  const CostGrid before = costs;
  Prepared index = prepare(costs);
  Searcher searcher;
  Random random(21);
  const auto check_all = [&] {
    REQUIRE(index.follow(costs));
    std::size_t dearer = 0;
    std::size_t cheaper = 0;
    for (const Cell cell : costs.size().cells()) {
      const auto as_cost = [](EntryCost entry) { return entry == blocked ? 1'000'000U : Cost{entry}; };
      dearer += as_cost(costs.entry(cell)) > as_cost(before.entry(cell));
      cheaper += as_cost(costs.entry(cell)) < as_cost(before.entry(cell));
    }
    CHECK(index.dearer_count() == dearer);
    CHECK(index.cheaper_count() == cheaper);
    for (int i = 0; i < 50; ++i) {
      const Cell from = random.cell(costs.size());
      const Cell to = random.cell(costs.size());
      const Route plain = searcher.route(costs, from, to);
      CHECK(searcher.cost(costs, from, to, index) == (plain.found() ? plain.cost() : unreached));
    }
  };
  for (int i = 0; i < 200; ++i) REQUIRE(costs.set_entry(random.cell(costs.size()), i % 2 == 0 ? 0_steps : 3_steps));
  check_all();
  const CostGrid other = noise(Tiling::square(), {50, 50}, false);
  REQUIRE(costs.take_block(other, {10, 10, 30, 20}));
  check_all();
  REQUIRE(costs.take_block(before, Rect::whole(costs.size())));
  check_all();
  CHECK(index.dearer_count() + index.cheaper_count() == 0);
}

TEST_CASE("what a searcher keeps for questions to an index is counted, and only grows") {
  const CostGrid costs = noise(Tiling::hex(HexTop::flat, Shift::odd), {60, 60}, true);
  const Prepared index = prepare(costs);
  Searcher searcher;
  const std::size_t nothing = searcher.memory();
  (void)searcher.cost(costs, {3, 3}, {50, 50}, index);
  const std::size_t once = searcher.memory();
  CHECK(once > nothing);
  std::vector<Cost> table(25);
  const Cell cells[] = {{3, 3}, {50, 50}, {3, 50}, {50, 3}, {30, 30}};
  searcher.cost_table(costs, cells, cells, table, index);
  CHECK(searcher.memory() > once);
  CHECK(searcher.memory() < 1'000'000);
}

TEST_CASE("a budget of fields and reaches, and a second source, leave what a single source tells as it is") {
  const CostGrid costs = noise(Tiling::square(), {70, 50}, true);
  Searcher searcher;
  const Source one[] = {{{5, 5}}};
  const Source twice[] = {{{5, 5}}, {{5, 5}, 1'000'000'000_hundredths}};
  Field single;
  Field both;
  searcher.reach(costs, one, single);
  searcher.reach(costs, twice, both);
  CHECK(single.costs() == both.costs());
  const Field bounded = searcher.reach(costs, {5, 5}, {.budget = 9_steps});
  for (const Cell cell : costs.size().cells()) {
    CHECK(single.next(cell) == both.next(cell));
    CHECK(bounded.reached(cell) == (single.cost(cell) <= 900));
  }
}

TEST_CASE("an index tells how much it still answers by itself") {
  CostGrid costs = noise(Tiling::square(), {60, 60}, false);
  Prepared index = prepare(costs);
  CHECK(index.share_exact(costs) == 1);
  CHECK(Prepared().share_exact(costs) == 0);
  Random random(3);
  double last = 1;
  std::vector<double> shares;
  for (const int closings : {5, 100, 400}) {
    for (int i = 0; i < closings; ++i) costs.set_entry(random.cell(costs.size()), 0_steps);
    CHECK(index.share_exact(costs) == 0);  // not told yet
    REQUIRE(index.follow(costs));
    const double share = index.share_exact(costs);
    CHECK(share <= last);
    CHECK(share == index.share_exact(costs));
    last = share;
    shares.push_back(share);
  }
  CHECK(shares[0] > 0.5);
  CHECK(shares[2] < 0.3);
  // It is the share of routes that are looked up.
  Searcher searcher;
  std::size_t looked_up = 0;
  std::size_t found = 0;
  for (int i = 0; i < 400; ++i) {
    const Route& route =
        searcher.route(costs, random.cell(costs.size()), random.cell(costs.size()), {.prepared = &index});
    found += route.found();
    looked_up += route.algorithm() == Algorithm::prepared;
  }
  CHECK(looked_up <= found);
}
