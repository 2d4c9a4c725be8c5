// The searches' answers that random maps do not pin down: reasons, their order and places, ties, limits, overflow.
#include <catch2/catch.hpp>

#include "saunter/search/searcher.hpp"

using namespace saunter;

namespace {

CostGrid board(int cols, int rows, const std::string& drawing, StepRules rules = {}) {
  return CostGrid({Tiling::square(), {cols, rows}}, rules, [&](Cell cell) -> EntryCost {
    const char c = drawing[static_cast<std::size_t>(cell.row * cols + cell.col)];
    return c == '#' ? blocked : static_cast<EntryCost>(c == '.' ? 100 : (c - '0') * 100);
  });
}

constexpr Algorithm all[] = {Algorithm::astar, Algorithm::dijkstra, Algorithm::bfs};

/// Rooms of so many cells with a door in each wall.
CostGrid rooms(int side, int room, StepRules rules = {}) {
  return CostGrid({Tiling::square(), {side, side}}, rules, [&](Cell cell) -> EntryCost {
    const bool wall = cell.col % room == 0 || cell.row % room == 0;
    const bool door = (cell.col + cell.row) % room == room / 2;
    return wall && !door ? 0 : 100;
  });
}

}  // namespace

TEST_CASE("ends are checked in the written order") {
  const CostGrid costs = board(3, 2,
                               ".#."
                               "...");
  Searcher searcher;
  for (const Algorithm by : all) {
    const auto verdict = [&](Cell from, Cell to) {
      return to_string(searcher.route(costs, from, to, {.by = by}).verdict());
    };
    CHECK(verdict({-1, 0}, {1, 0}) == "start-off-map at -1,0");
    CHECK(verdict({1, 0}, {9, 9}) == "start-blocked at 1,0");
    CHECK(verdict({0, 0}, {9, 9}) == "goal-off-map at 9,9");
    CHECK(verdict({0, 0}, {1, 0}) == "goal-blocked at 1,0");
    CHECK(verdict({0, 0}, {2, 0}) == "found");
  }
}

TEST_CASE("from a cell to itself: found, cost 0, no steps") {
  const CostGrid costs = board(1, 1, "7");
  Searcher searcher;
  for (const Algorithm by : all) {
    const Route& route = searcher.route(costs, {0, 0}, {0, 0}, {.by = by, .limit = 1});
    CHECK(route.found());
    CHECK(route.cost() == 0);
    CHECK(route.steps() == 0);
    CHECK(route.cells().size() == 1);
    CHECK(route.expanded() == 1);
  }
}

TEST_CASE("no way: proven, at the reached cell nearest to the goal") {
  const CostGrid costs = board(6, 3,
                               "...#.."
                               "...#.."
                               "...#..");
  Searcher searcher;
  for (const Algorithm by : all) {
    const Route& route = searcher.route(costs, {0, 0}, {5, 2}, {.by = by});
    CHECK(to_string(route.verdict()) == "no-way at 2,2");
    CHECK(route.expanded() == 9);
    CHECK(route.cells().empty());
  }
}

TEST_CASE("budgets hold exactly") {
  const CostGrid costs = board(5, 1, ".2.3.");
  Searcher searcher;
  for (const Algorithm by : {Algorithm::astar, Algorithm::dijkstra}) {
    CHECK(searcher.route(costs, {0, 0}, {4, 0}, {.by = by, .budget = 7_steps}).cost() == 700);
    CHECK(searcher.route(costs, {0, 0}, {4, 0}, {.by = by, .budget = 6.99_steps}).verdict().reason ==
          Reason::over_budget);
    CHECK(searcher.route(costs, {0, 0}, {4, 0}, {.by = by, .budget = 0_steps}).verdict() ==
          Verdict{Reason::over_budget, {0, 0}});
    CHECK(searcher.route(costs, {0, 0}, {0, 0}, {.by = by, .budget = 0_steps}).found());
  }
  // Within a budget that cuts nothing off, "none" is proven.
  const CostGrid split = board(3, 1, ".#.");
  CHECK(searcher.route(split, {0, 0}, {2, 0}, {.budget = 1000_steps}).verdict().reason == Reason::no_way);
}

TEST_CASE("limits count the goal and stop in time") {
  const CostGrid costs = board(5, 1, ".....");
  Searcher searcher;
  for (const Algorithm by : all) {
    CHECK(searcher.route(costs, {0, 0}, {4, 0}, {.by = by, .limit = 5}).found());
    const Route& stopped = searcher.route(costs, {0, 0}, {4, 0}, {.by = by, .limit = 4});
    CHECK(stopped.verdict() == Verdict{Reason::stopped, {4, 0}});
    CHECK(stopped.expanded() == 4);
  }
}

TEST_CASE("costs that do not fit are reported, never wrapped") {
  // A row and a column of the dearest cells: 65,536 steps still fit, one more does not.
  const int last = 65'534;
  const CostGrid costs({Tiling::square(), {last + 1, 4}}, {.steps = 4},
                       [](Cell cell) -> EntryCost { return cell.row == 0 || cell.col == last ? 65'535 : 0; });
  Searcher searcher;
  for (const Algorithm by : all) {
    CHECK(searcher.route(costs, {0, 0}, {last, 2}, {.by = by}).cost() == 65'536ULL * 65'535);
    CHECK(searcher.route(costs, {0, 0}, {last, 3}, {.by = by}).verdict().reason == Reason::cost_overflow);
  }
  // Unreachable stays unreachable, however dear the rest is.
  const CostGrid walled({Tiling::square(), {last + 1, 4}}, {.steps = 4}, [](Cell cell) -> EntryCost {
    return cell.row == 0 || cell.col == last || (cell.row == 2 && cell.col == 0) ? 65'535 : 0;
  });
  CHECK(searcher.route(walled, {0, 0}, {0, 2}).verdict().reason == Reason::no_way);
}

TEST_CASE("ties are settled the same way every time") {
  const CostGrid costs = board(5, 5, std::string(25, '.'), {.steps = 4});
  Searcher fresh;
  Searcher used;
  (void)used.route(costs, {4, 4}, {0, 0});
  for (const Algorithm by : all) {
    const Route first = fresh.route(costs, {0, 0}, {4, 4}, {.by = by});
    CHECK(first == used.route(costs, {0, 0}, {4, 4}, {.by = by}));
    CHECK(first.cost() == 800);
  }
}

TEST_CASE("a trace tells the order, the costs and where each cell was reached from") {
  const CostGrid costs = board(3, 3,
                               "..."
                               ".#."
                               "...");
  Searcher searcher;
  for (const Algorithm by : all) {
    std::vector<Visit> trace;
    const Route& route = searcher.route(costs, {0, 0}, {2, 2}, {.by = by, .trace = &trace});
    REQUIRE(trace.size() == route.expanded());
    CHECK(trace.front().cell == trace.front().parent);
    CHECK(costs.size().cell(trace.back().cell) == Cell{2, 2});
    for (std::size_t i = 1; i < trace.size(); ++i) {
      CHECK(costs.tiling().direction(costs.size().cell(trace[i].parent), costs.size().cell(trace[i].cell)) >= 0);
      if (by != Algorithm::bfs) CHECK(trace[i].cost + trace[i].estimate >= trace[i - 1].cost + trace[i - 1].estimate);
    }
  }
}

TEST_CASE("corner rules decide about squeezing by") {
  const std::string one_beside =
      ".#"
      "..";
  const std::string both_beside =
      ".#"
      "#.";
  const auto cost = [](const std::string& drawing, Corners corners) {
    Searcher searcher;
    const CostGrid costs = board(2, 2, drawing, {.steps = 8, .corners = corners});
    const Route& route = searcher.route(costs, {0, 0}, {1, 1});
    return route.found() ? static_cast<int>(route.cost()) : -1;
  };
  CHECK(cost(one_beside, Corners::strict) == 200);
  CHECK(cost(one_beside, Corners::lenient) == 141);
  CHECK(cost(both_beside, Corners::strict) == -1);
  CHECK(cost(both_beside, Corners::lenient) == -1);
  CHECK(cost(both_beside, Corners::free) == 141);
}

TEST_CASE("costs are rounded step by step, half up") {
  CHECK(step_cost(141, 125) == 176);  // 176.25
  CHECK(step_cost(141, 50) == 71);    // 70.5
  CHECK(step_cost(100, 1) == 1);
  CHECK(to_decimal(0) == "0");
  CHECK(to_decimal(1250) == "12.5");
  CHECK(to_decimal(1205) == "12.05");
  CHECK(to_decimal(-5) == "-0.05");
}

TEST_CASE("automatic takes the search that suits the board, and says which") {
  Searcher searcher;
  const auto used = [&](const CostGrid& costs, Algorithm by) {
    return searcher.route(costs, {1, 1}, {1, 2}, {.by = by}).algorithm();
  };
  CHECK(used(rooms(200, 40), Algorithm::automatic) == Algorithm::jump);
  CHECK(used(rooms(200, 40), Algorithm::astar) == Algorithm::astar);
  CHECK(used(rooms(200, 3), Algorithm::automatic) == Algorithm::astar);  // walls end everywhere
  // Boards that jumping does not suit: two costs, other corner rules, four steps, a dear diagonal.
  CostGrid two_costs = rooms(200, 40);
  two_costs.set_entry({5, 5}, 3_steps);
  for (const Algorithm by : {Algorithm::automatic, Algorithm::jump}) {
    CHECK(used(two_costs, by) == Algorithm::astar);
    CHECK(used(rooms(200, 40, {.corners = Corners::free}), by) == Algorithm::astar);
    CHECK(used(rooms(200, 40, {.steps = 4}), by) == Algorithm::astar);
    CHECK(used(rooms(200, 40, {.diagonal = 250}), by) == Algorithm::astar);
  }
}

TEST_CASE("of equally good goals the one given first") {
  const CostGrid costs = board(5, 1, ".....");
  Searcher searcher;
  const Source start{{2, 0}};
  const Cell goals[] = {{4, 0}, {0, 0}};
  const Cell turned[] = {{0, 0}, {4, 0}};
  for (const Algorithm by : all) {
    CHECK(searcher.route(costs, {.starts = std::span(&start, 1), .goals = goals}, {.by = by}).cells().back() ==
          goals[0]);
    CHECK(searcher.route(costs, {.starts = std::span(&start, 1), .goals = turned}, {.by = by}).cells().back() ==
          turned[0]);
  }
}

TEST_CASE("changes for one query: the later counts, off the map nothing happens, the grid stays as it was") {
  const CostGrid costs = board(3, 3,
                               "..."
                               ".#."
                               "...",
                               {.steps = 4});
  Searcher searcher;
  const auto cost = [&](std::vector<EntryChange> changes) {
    return searcher.route(costs, {0, 1}, {2, 1}, {.changes = changes}).cost();
  };
  CHECK(cost({}) == 400);
  CHECK(cost({{{1, 1}, 1.5_steps}}) == 250);
  CHECK(cost({{{1, 1}, 1.5_steps}, {{1, 1}, blocked}}) == 400);
  CHECK(cost({{{1, 1}, blocked}, {{1, 1}, 0.5_steps}}) == 150);
  CHECK(cost({{{-4, 99}, 0.01_steps}}) == 400);
  CHECK(cost({{{1, 0}, blocked}, {{1, 2}, 7_steps}}) == 1000);
  CHECK(searcher.route(costs, {0, 1}, {2, 1}).cost() == 400);
  const std::vector<EntryChange> shut = {{{0, 1}, blocked}};
  CHECK(searcher.route(costs, {0, 1}, {2, 1}, {.changes = shut}).verdict() == Verdict{Reason::start_blocked, {0, 1}});
}

TEST_CASE("with a heading the first turn counts, and shortest is not always cheapest") {
  const CostGrid costs = board(7, 3,
                               "......."
                               ".#.#.#."
                               ".......",
                               {.steps = 4});
  Searcher searcher;
  const auto route = [&](Hundredths turn_cost, std::optional<Direction> heading) {
    return searcher.route(costs, {0, 0}, {6, 2}, {.turn_cost = turn_cost, .heading = heading});
  };
  CHECK(route(0.5_steps, std::nullopt).cost() == 800 + 100);  // one right angle, two eighths
  CHECK(route(0.5_steps, Direction(1)).cost() == 800 + 100);  // faces east: along the top, then down
  CHECK(route(0.5_steps, Direction(1)).cells()[1] == Cell{1, 0});
  CHECK(route(0.5_steps, Direction(2)).cells()[1] == Cell{0, 1});  // faces south: down first
  CHECK(route(0.5_steps, Direction(0)).cost() == 800 + 200);       // faces north: turns at once, and once more
  CHECK(searcher.route(costs, {0, 0}, {6, 2}, {.natural = true}).cost() == 800);
}

TEST_CASE("a test of cells is a goal: the nearest cell that passes") {
  const CostGrid costs = board(6, 2,
                               ".3.9.."
                               "......");
  Searcher searcher;
  const Source start{{0, 0}};
  const auto dear = [&](Cell cell) { return costs.entry(cell) > 200; };
  const Route& route = searcher.route(costs, {.starts = std::span(&start, 1), .until = dear});
  REQUIRE(route.found());
  CHECK(route.cells().back() == Cell{1, 0});
  CHECK(route.cost() == 300);
  const auto never_true = [](Cell) { return false; };
  CHECK(searcher.route(costs, {.starts = std::span(&start, 1), .until = never_true}).verdict().reason ==
        Reason::no_way);
}
