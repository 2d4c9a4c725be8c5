// What surrounds a search: run by steps, tours, batches over threads, straightening and following a way.
#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>
#include <thread>

#include "saunter/grid/frame.hpp"
#include "saunter/search/batch.hpp"
#include "saunter/search/follow.hpp"
#include "saunter/search/stepped_search.hpp"
#include "saunter/search/tour.hpp"
#include "saunter/search/path.hpp"
#include "support/seeds.hpp"
#include "support/random_maps.hpp"
#include "support/walk.hpp"

#ifdef SAUNTER_HAS_TBB
#include "saunter/tbb_workers.hpp"
#endif

using namespace saunter;
using namespace saunter::test;

namespace {

/// Runs a job for each worker on a thread of its own.
const auto on_threads = [](std::size_t workers, auto&& job) {
  std::vector<std::thread> threads;
  for (std::size_t worker = 0; worker < workers; ++worker) threads.emplace_back([&job, worker] { job(worker); });
  for (std::thread& thread : threads) thread.join();
};

}  // namespace

TEST_CASE("a search run by steps ends where the same search run at once ends") {
  Searcher searcher;
  SteppedSearch stepped;
  std::size_t found = 0;
  for (const std::uint64_t seed : seeds(400)) {
    INFO("seed " << seed);
    Random random(seed);
    const CostGrid costs = random_ground(random, 20, seed % 3 == 0).costs;
    const Cell from = random.cell(costs.size());
    const Cell to = random.cell(costs.size());
    for (const Algorithm by : {Algorithm::astar, Algorithm::dijkstra, Algorithm::bfs, Algorithm::greedy}) {
      const Route& wanted = searcher.route(costs, from, to, {.by = by});
      stepped.begin(costs, from, to, {.by = by});
      std::uint64_t calls = 0;
      while (!stepped.run(static_cast<std::uint64_t>(random.whole(1, 5)))) {
        ++calls;
        REQUIRE(calls <= costs.size().cell_count());
        CHECK(stepped.state(from) == CellState::closed);
      }
      CHECK(stepped.route().verdict() == wanted.verdict());
      if (!wanted.found()) continue;
      ++found;
      CHECK(walk(costs, stepped.route().cells()) == stepped.route().cost());
      if (by == Algorithm::bfs) CHECK(stepped.route().steps() == wanted.steps());
      if (by == Algorithm::astar || by == Algorithm::dijkstra) CHECK(stepped.route().cost() == wanted.cost());
      // What it knows of the way's cells adds up.
      for (std::size_t i = 1; i < stepped.route().cells().size(); ++i) {
        const Cell cell = stepped.route().cells()[i];
        CHECK(stepped.state(cell) != CellState::unseen);
        CHECK(stepped.parent(cell) == stepped.route().cells()[i - 1]);
      }
    }
  }
  CHECK(found > share_of(300));
}

TEST_CASE("a stepped search tells what it knows, and when the grid has changed under it") {
  CostGrid costs({Tiling::square(), {5, 1}}, {}, [](Cell) -> EntryCost { return 100; });
  SteppedSearch search;
  search.begin(costs, {0, 0}, {4, 0});
  CHECK(search.state({0, 0}) == CellState::open);
  CHECK(search.state({1, 0}) == CellState::unseen);
  CHECK_FALSE(search.run(2));
  CHECK(search.expanded() == 2);
  CHECK(search.state({1, 0}) == CellState::closed);
  CHECK(search.state({2, 0}) == CellState::open);
  CHECK(search.cost({2, 0}) == 200);
  CHECK(search.estimate({2, 0}) == 200);
  CHECK(search.parent({2, 0}) == Cell{1, 0});
  CHECK_FALSE(search.stale());
  costs.set_entry({3, 0}, blocked);
  CHECK(search.stale());
  search.begin(costs, {0, 0}, {4, 0});
  CHECK(search.run(100));
  CHECK(search.route().verdict() == Verdict{Reason::no_way, {2, 0}});
}

TEST_CASE("tours in the best order cost what the best of all orders costs") {
  Searcher searcher;
  std::size_t found = 0;
  for (const std::uint64_t seed : seeds(300)) {
    INFO("seed " << seed);
    Random random(seed);
    const CostGrid costs = random_ground(random, 14, seed % 3 == 0).costs;
    const Cell from = random.cell(costs.size());
    std::vector<Cell> goals(static_cast<std::size_t>(random.whole(1, 5)));
    for (Cell& goal : goals) goal = random.cell(costs.size());
    const Tour given = tour(searcher, costs, from, goals, VisitOrder::given);
    const Tour best = tour(searcher, costs, from, goals, VisitOrder::best);
    std::vector<std::size_t> order(goals.size());
    for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
    std::uint64_t least = ~std::uint64_t{0};
    std::vector<std::size_t> first;
    do {
      std::uint64_t sum = 0;
      Cell at = from;
      for (const std::size_t goal : order) {
        const Route& leg = searcher.route(costs, at, goals[goal]);
        sum = leg.found() && sum < least ? sum + leg.cost() : ~std::uint64_t{0};
        if (!leg.found()) break;
        at = goals[goal];
      }
      if (sum < least) {
        least = sum;
        first = order;
      }
    } while (std::next_permutation(order.begin(), order.end()));
    if (!best.found()) {
      CHECK(best.cells.empty());
      continue;
    }
    ++found;
    CHECK(best.cost == least);
    CHECK(best.order == first);
    CHECK(best.best_proven);
    CHECK(walk(costs, best.cells) == best.cost);
    REQUIRE(best.stops.size() == goals.size());
    for (std::size_t i = 0; i < goals.size(); ++i) CHECK(best.cells[best.stops[i]] == goals[best.order[i]]);
    if (given.found()) CHECK(given.cost >= best.cost);
    if (best.cost > 0) {
      const RouteOptions tight{.budget = Hundredths(best.cost - 1)};
      CHECK(tour(searcher, costs, from, goals, VisitOrder::best, tight).verdict.reason == Reason::over_budget);
    }
  }
  CHECK(found > share_of(50));
}

TEST_CASE("a tour of many goals is good, and says that it is not proven") {
  const CostGrid costs({Tiling::square(), {30, 1}}, {}, [](Cell) -> EntryCost { return 100; });
  std::vector<Cell> goals;
  for (int i = 0; i < 15; ++i) goals.push_back({(i * 7) % 29 + 1, 0});
  Searcher searcher;
  const Tour all = tour(searcher, costs, {0, 0}, goals, VisitOrder::best);
  CHECK_FALSE(all.best_proven);
  const int farthest = std::max_element(goals.begin(), goals.end())->col;
  CHECK(all.cost == static_cast<Cost>(farthest) * 100);  // once along the line is enough
}

TEST_CASE("batches give the same answers over 1, 2 and 4 threads", "[threads]") {
  Random random(17);
  const Tiling tiling = Tiling::square();
  const CostGrid costs = bake(random_map(random, tiling, {90, 70}), Mover{.name = "crab"});
  std::vector<RouteQuestion> questions(400);
  for (RouteQuestion& question : questions) {
    question.from = random.cell(costs.size());
    question.to = random.cell(costs.size());
  }
  std::vector<Route> alone(questions.size());
  Batch(1).routes(costs, questions, alone, {}, Batch::in_turn);
  CHECK(std::any_of(alone.begin(), alone.end(), [](const Route& route) { return route.found(); }));
  for (const std::size_t workers : {1U, 2U, 4U}) {
    Batch batch(workers);
    for (int round = 0; round < 3; ++round) {
      std::vector<Route> together(questions.size());
      batch.routes(costs, questions, together, {}, on_threads);
      CHECK(together == alone);
    }
  }
}

#ifdef SAUNTER_HAS_TBB
TEST_CASE("batches over oneTBB give the same answers") {
  Random random(18);
  const CostGrid costs = bake(random_map(random, Tiling::square(), {60, 40}), Mover{.name = "crab"});
  std::vector<RouteQuestion> questions(200);
  for (RouteQuestion& question : questions) {
    question.from = random.cell(costs.size());
    question.to = random.cell(costs.size());
  }
  std::vector<Route> alone(questions.size());
  std::vector<Route> together(questions.size());
  Batch(1).routes(costs, questions, alone, {}, Batch::in_turn);
  Batch(4).routes(costs, questions, together, {}, tbb_workers);
  CHECK(together == alone);
}
#endif

TEST_CASE("straightened ways: every leg is free and never dearer, checked point by point") {
  Searcher searcher;
  std::size_t legs = 0;
  std::size_t shorter = 0;
  for (const std::uint64_t seed : seeds(600)) {
    INFO("seed " << seed);
    Random random(seed);
    const CostGrid costs = random_ground(random, 24, seed % 3 == 0).costs;
    const Cell from = random.cell(costs.size());
    const Cell to = random.cell(costs.size());
    const Route& route = searcher.route(costs, from, to);
    std::vector<Cell> points;
    straighten(costs, route.cells(), points);
    if (!route.found()) {
      CHECK(points.empty());
      continue;
    }
    REQUIRE(points.front() == from);
    REQUIRE(points.back() == to);
    if (points.size() < route.cells().size() && route.steps() > 1) ++shorter;
    const Frame frame(costs.tiling());
    auto at = route.cells().begin();
    for (std::size_t i = 1; i < points.size(); ++i) {
      ++legs;
      const auto end = std::find(at, route.cells().end(), points[i]);  // way points are cells of the way, in its order
      REQUIRE(end != route.cells().end());
      at = end;
      // A single step may squeeze past what the mover's corner rule lets it.
      if (costs.tiling().direction(points[i - 1], points[i]) >= 0) continue;
      // No point of the straight line lies in a cell that is shut: sampled, and not too near to a rim to tell.
      const Point a = frame.centre(points[i - 1]);
      const Point along = frame.centre(points[i]) - a;
      const int samples = static_cast<int>(length(along) * 20) + 1;
      for (int s = 0; s <= samples; ++s) {
        const Point point = a + along * s / samples;
        bool inside = true;
        for (const Point aside : {Point{1e-6, 0}, Point{-1e-6, 0}, Point{0, 1e-6}, Point{0, -1e-6}}) {
          inside = inside && frame.cell_at(point + aside) == frame.cell_at(point);
        }
        if (inside) REQUIRE(costs.open(frame.cell_at(point)));
      }
    }
  }
  CHECK(legs > share_of(400));
  CHECK(shorter > share_of(100));
}

TEST_CASE("straight lines see barriers, corners and the rim of cells") {
  Map map({Tiling::square(), {4, 3}}, {Terrain{.name = "sand"}, Terrain{.name = "rock", .cost = blocked}});
  const Mover mover{.name = "crab"};
  CostGrid costs = bake(map, mover);
  CHECK(straight_line_free(costs, {0, 0}, {3, 2}));
  CHECK(straight_line_free(costs, {0, 0}, {2, 2}));
  map.set_terrain({1, 0}, 1);
  costs = bake(map, mover);
  CHECK_FALSE(straight_line_free(costs, {0, 0}, {2, 2}));  // strict corners
  CHECK_FALSE(straight_line_free(costs, {0, 0}, {3, 0}));
  map.set_terrain({1, 0}, 0);
  map.add_barrier({1, 0}, Direction(1));
  costs = bake(map, mover);
  CHECK_FALSE(straight_line_free(costs, {0, 0}, {3, 0}));
  CHECK(straight_line_free(costs, {0, 1}, {3, 1}));
  CHECK(cost_of_path(costs, std::vector<Cell>{{0, 0}, {1, 0}, {2, 0}}) == std::nullopt);
  CHECK(cost_of_path(costs, std::vector<Cell>{{0, 0}, {0, 1}, {1, 2}}) == 241U);
}

TEST_CASE("a follower heads for each point in turn and passes those it overshoots") {
  const std::vector<Point> points = {{0, 0}, {10, 0}, {10, 10}};
  CHECK(length_of(points) == 20);
  Follower follower(points, 0.5);
  CHECK(follower.head_for({0.2, 0}) == Point(10, 0));
  CHECK(follower.remaining({5, 0}) == 15);
  CHECK(follower.head_for({9, 2}) == Point(10, 0));
  CHECK(follower.head_for({10.7, 1}) == Point(10, 10));  // past the corner, though never within 0.5 of it
  CHECK(follower.head_for({10, 11}) == Point(10, 10));   // the last point must be reached
  CHECK_FALSE(follower.arrived());
  CHECK(follower.head_for({10, 9.6}) == std::nullopt);
  CHECK(follower.arrived());
  CHECK(follower.remaining({0, 0}) == 0);
}

TEST_CASE("move, then act: the cells within range of those in reach") {
  for (const std::uint64_t seed : seeds(60)) {
    INFO("seed " << seed);
    Random random(seed);
    const CostGrid costs = random_ground(random, 14, false).costs;
    const Cell from = random.cell(costs.size());
    const Field field = Searcher().reach(costs, from, {.budget = 4_steps});
    const int range = random.whole(0, 3);
    BitGrid in_range;
    cells_in_range(field, range, in_range);
    for (const Cell cell : costs.size().cells()) {
      bool wanted = false;
      for (const Cell other : costs.size().cells()) {
        wanted = wanted || (field.reached(other) && costs.tiling().edge_distance(cell, other) <= range);
      }
      REQUIRE(in_range.test(cell) == wanted);
    }
  }
}

TEST_CASE("way points are joined by cheapest paths, steps are taken as they are") {
  const CostGrid costs({Tiling::square(), {9, 5}}, {.steps = 4},
                       [](Cell cell) { return cell.col == 4 && cell.row != 4 ? blocked : EntryCost{100}; });
  Searcher searcher;
  std::vector<Cell> path;
  const std::vector<Cell> steps = {{0, 0}, {1, 0}, {1, 1}};
  CHECK(path_by_way_points(searcher, costs, steps, path).reason == Reason::found);
  CHECK(path == steps);
  const std::vector<Cell> points = {{0, 0}, {8, 0}, {8, 4}};
  CHECK(path_by_way_points(searcher, costs, points, path).reason == Reason::found);
  CHECK(path.front() == points.front());
  CHECK(path.back() == points.back());
  CHECK(std::find(path.begin(), path.end(), Cell{8, 0}) != path.end());
  CHECK(cost_of_path(costs, path) == 2000);  // round by the gap, then down
  const std::vector<Cell> shut = {{0, 0}, {3, 3}, {4, 1}, {8, 0}};
  const Verdict no = path_by_way_points(searcher, costs, shut, path);
  CHECK(no.reason == Reason::goal_blocked);
  CHECK(no.at == Cell{4, 1});
  CHECK(path.back() == Cell{3, 3});
}
