// Walkers: every step as the law words it, arrival where it is promised, loops where they are proven, never through
// what is closed at that moment.
#include <catch2/catch.hpp>

#include <algorithm>
#include <array>
#include <bit>

#include "saunter/saunter.hpp"
#include "support/seeds.hpp"
#include "support/random_maps.hpp"
#include "support/slow_walker.hpp"
#include "support/walk.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// Opens or closes a few cells; the kinds of a random map are many, the first one blocked.
void change_ground(Random& random, Map& map, bool only_open) {
  for (int i = random.whole(1, 3); i > 0; --i) {
    const int kinds = static_cast<int>(map.kinds().size());
    map.set_terrain(random.cell(map.size()), static_cast<TerrainId>(random.whole(only_open ? 1 : 0, kinds - 1)));
  }
}

/// The ground of a perfect maze, all of it floor.
CostGrid maze(Tiling tiling, Size size, const MazeOptions& options) {
  const Map map = to_map(make_maze({tiling, size}, options), {{.name = "salt"}}, {0, 0, 0, 0});
  return bake(map, Mover{.name = "crab", .rules = {.steps = tiling.edge_count()}});
}

/// Whether steps lead from a cell to another, and from every cell on the way back.
bool way_and_way_back(const CostGrid& costs, Cell from, Cell to) {
  const CutOff cut = cut_off_from(costs, from);
  return cut.no_return.empty() && std::find(cut.cut_off.begin(), cut.cut_off.end(), to) == cut.cut_off.end();
}

}  // namespace

TEST_CASE("walkers do step for step what a slow one does that goes by angles") {
  std::array<int, 5> ends{};
  for (const std::uint64_t seed : seeds(2000)) {
    INFO("seed " << seed);
    Random random(seed);
    Ground ground = random_ground(random, 12, seed % 2 == 0);
    const Cell from = random.cell(ground.map.size());
    const Cell to = random.cell(ground.map.size());
    if (!ground.costs.open(from) || !ground.costs.open(to)) continue;
    const bool changes = random.chance(40);
    for (const WalkerKind kind : all_walkers) {
      if (kind == WalkerKind::wander) continue;
      INFO(walker_name(kind) << " from " << from.col << ',' << from.row << " to " << to.col << ',' << to.row);
      Ground now = ground;
      const std::uint64_t most = random.chance(30) ? static_cast<std::uint64_t>(random.whole(0, 30)) : 600;
      Walk walk(now.costs, {.kind = kind, .from = from, .to = to, .most_steps = most});
      SlowWalker slow(kind, from, to, most);
      bool changed = false;
      while (slow.tick(now.costs, changed)) {
        (void)walk.run(now.costs);
        REQUIRE(walk.cell() == slow.cell());
        REQUIRE(walk.steps() == slow.steps);
        changed = changes && random.chance(10);
        if (!changed) continue;
        change_ground(random, now.map, false);
        now.costs = bake(now.map, now.mover);
      }
      REQUIRE(walk.run(now.costs));
      REQUIRE(walk.end() == slow.end);
      CHECK(walk.cell() == slow.cell());
      CHECK(walk.visited() == slow.visited());
      CHECK(walk.revisits() == slow.steps + 1 - slow.visited());
      CHECK(walk.restarts() == slow.restarts);
      ++ends[static_cast<unsigned>(walk.end())];
    }
  }
  for (unsigned end = 1; end < ends.size(); ++end) CHECK(ends[end] > share_of(50));
}

TEST_CASE("many steps at a call lead where single ones do") {
  std::array<int, 5> ends{};
  for (const std::uint64_t seed : seeds(600)) {
    INFO("seed " << seed);
    Random random(seed);
    Ground ground = random_ground(random, seed % 10 == 0 ? 150 : 40, seed % 2 == 0);
    WalkOptions options{.from = random.cell(ground.map.size()), .seed = seed};
    const Cell to = random.cell(ground.map.size());
    for (const WalkerKind kind : all_walkers) {
      INFO(walker_name(kind));
      options.kind = kind;
      options.to = random.chance(70) || needs_goal(kind) ? std::optional(to) : std::nullopt;
      options.most_steps = random.chance(40) ? static_cast<std::uint64_t>(random.whole(0, 400)) : 20'000;
      Ground now = ground;
      Walk singly(now.costs, options);
      Walk at_once(now.costs, options);
      for (int part = 0; part < 3; ++part) {
        const std::uint64_t steps = random.chance(60) ? 30'000 : static_cast<std::uint64_t>(random.whole(0, 5000));
        for (std::uint64_t i = 0; i < steps && !singly.run(now.costs); ++i) continue;
        (void)at_once.run(now.costs, steps);
        REQUIRE(at_once.end() == singly.end());
        REQUIRE(at_once.cell() == singly.cell());
        REQUIRE(at_once.walker().heading() == singly.walker().heading());
        REQUIRE(at_once.visited() == singly.visited());
        REQUIRE(at_once.trail().cells() == singly.trail().cells());
        change_ground(random, now.map, false);
        now.costs = bake(now.map, now.mover);
      }
      ++ends[static_cast<unsigned>(singly.end())];
    }
  }
  for (unsigned end = 1; end < ends.size(); ++end) CHECK(ends[end] > share_of(50));
}

TEST_CASE("an explorer arrives wherever there is a way, also while walls fall") {
  int arrived = 0;
  int opened = 0;
  for (const std::uint64_t seed : seeds(2000)) {
    INFO("seed " << seed);
    Random random(seed);
    Map map = random_map(random, random.one_of(all_tilings()), random_size(random, 24));
    const Mover mover{.name = "crab", .rules = {.steps = map.tiling().edge_count()}};
    CostGrid costs = bake(map, mover);
    const Cell from = random.cell(map.size());
    const Cell to = random.cell(map.size());
    const bool walls_fall = seed % 2 == 0;
    Walk walk(costs, {.kind = WalkerKind::explore, .from = from, .to = to, .most_steps = 100'000});
    if (walk.verdict().reason != Reason::found) continue;
    for (Cell before = walk.cell(); !walk.run(costs); before = walk.cell()) {
      const Cell step[] = {before, walk.cell()};
      REQUIRE(cost_of_path(costs, step).has_value());  // legal as the ground is now
      if (!walls_fall || !random.chance(20)) continue;
      change_ground(random, map, true);
      costs = bake(map, mover);
      ++opened;
    }
    const bool leads = way_and_way_back(costs, walk.cell(), to);
    CHECK(walk.arrived() == leads);
    const bool shut_in = surroundings(costs, walk.cell()).legal == 0;
    if (!leads) CHECK(walk.end() == (shut_in ? WalkEnd::stuck : WalkEnd::loop));
    arrived += walk.arrived() ? 1 : 0;
  }
  CHECK(arrived > share_of(500));
  CHECK(opened > share_of(1000));
}

TEST_CASE("hands on the wall arrive in every perfect maze") {
  for (const std::uint64_t seed : seeds(500)) {
    INFO("seed " << seed);
    Random random(seed);
    for (const Tiling tiling : all_tilings()) {
      const Size size{random.whole(2, 14), random.whole(2, 14)};
      const auto by = static_cast<MazeMethod>(random.whole(0, 4));
      const CostGrid costs = maze(tiling, size, {.by = by, .seed = seed});
      const Cell from = random.cell(size);
      const Cell to = random.cell(size);
      for (const WalkerKind hand : {WalkerKind::right_hand, WalkerKind::left_hand}) {
        Walk walk(costs, {.kind = hand, .from = from, .to = to});
        (void)walk.run(costs, ~std::uint64_t{0});
        REQUIRE(walk.arrived());
        const std::vector<Cell> cells = walk.trail().cells();
        REQUIRE(cells.size() == walk.steps() + 1);
        test::walk(costs, cells);
        // In a perfect maze there is one way, and what is left without loops is it.
        Searcher searcher;
        const Route& route = searcher.route(costs, from, to);
        const std::vector<Cell> way = walk.trail().without_loops();
        REQUIRE(std::equal(way.begin(), way.end(), route.cells().begin(), route.cells().end()));
        // Without a goal they go round: a loop, proven after both sides of every wall at the most.
        Walk round(costs, {.kind = hand, .from = from});
        (void)round.run(costs, ~std::uint64_t{0});
        CHECK(round.end() == WalkEnd::loop);
        CHECK(round.visited() == size.cell_count());
        CHECK(round.steps() <= 2 * size.cell_count());
      }
    }
  }
}

TEST_CASE("a hand goes round a pillar for ever, and says so") {
  Map map({Tiling::square(), {9, 9}}, {{.name = "sand"}, {.name = "boulder", .cost = blocked}});
  map.set_terrain({4, 4}, 1);
  const CostGrid costs = bake(map, Mover{.name = "crab"});
  Walk walk(costs, {.kind = WalkerKind::right_hand, .from = {5, 4}, .to = Cell{8, 8}});
  (void)walk.run(costs, ~std::uint64_t{0});
  CHECK(walk.end() == WalkEnd::loop);
  CHECK(walk.visited() < 40);
}

TEST_CASE("one that wanders goes back only when it must, the same way for a seed") {
  std::size_t forks = 0;
  for (const std::uint64_t seed : seeds(200)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground ground = random_ground(random, 16, seed % 2 == 0);
    const Cell from = random.cell(ground.map.size());
    if (!ground.costs.open(from)) continue;
    Walk walk(ground.costs, {.kind = WalkerKind::wander, .from = from, .seed = seed, .most_steps = 200});
    Walk again(ground.costs, {.kind = WalkerKind::wander, .from = from, .seed = seed, .most_steps = 200});
    (void)walk.run(ground.costs, 1000);
    for (int i = 0; i < 201; ++i) (void)again.run(ground.costs);
    const std::vector<Cell> cells = walk.trail().cells();
    CHECK(again.trail().cells() == cells);
    CHECK((walk.end() == WalkEnd::steps || walk.end() == WalkEnd::stuck));
    test::walk(ground.costs, cells);
    for (std::size_t i = 2; i < cells.size(); ++i) {
      const int exits = std::popcount(static_cast<unsigned>(surroundings(ground.costs, cells[i - 1]).legal));
      const Direction back = ground.costs.tiling().direction(cells[i - 1], cells[i - 2]);
      if (exits > 1 && holds(surroundings(ground.costs, cells[i - 1]).legal, back)) {
        CHECK(cells[i] != cells[i - 2]);
        ++forks;
      }
    }
    const Grid<std::uint32_t> counts = walk.trail().counts();
    std::uint64_t entered = 0;
    for (const Cell cell : counts.size().cells()) entered += counts[cell];
    CHECK(entered == cells.size());
  }
  CHECK(forks > share_of(5000));
}

TEST_CASE("what a walker is refused leaves its memory as it was") {
  for (const WalkerKind kind : all_walkers) {
    INFO(walker_name(kind));
    Random random(7);
    const CostGrid costs = maze(Tiling::square(), {20, 20}, {.by = MazeMethod::prim, .seed = 3, .loops = 40});
    const WalkerOptions options{.kind = kind, .goal = Cell{19, 19}, .seed = 5};
    Walker patient(costs.board(), {0, 0}, options);
    Walker free(costs.board(), {0, 0}, options);
    for (int step = 0; step < 400; ++step) {
      for (int wait = random.whole(0, 3); wait > 0; --wait) (void)patient.intend(costs);
      const std::optional<Walker::Intent> intent = patient.intend(costs);
      REQUIRE(intent.has_value());
      patient.follow(*intent);
      REQUIRE(free.step(costs) == patient.cell());
    }
  }
}

TEST_CASE("walks begin only where both ends can be used, and end at once where they are one") {
  Map map({Tiling::square(), {6, 6}}, {{.name = "sand"}, {.name = "boulder", .cost = blocked}});
  map.set_terrain({2, 2}, 1);
  const CostGrid costs = bake(map, Mover{.name = "crab"});
  const auto verdict = [&](Cell from, Cell to) {
    Walk walk(costs, {.kind = WalkerKind::left_hand, .from = from, .to = to});
    CHECK(walk.run(costs, 10));
    CHECK(walk.steps() == 0);
    return walk.verdict();
  };
  CHECK(verdict({-1, 0}, {1, 1}) == Verdict{Reason::start_off_map, {-1, 0}});
  CHECK(verdict({2, 2}, {1, 1}) == Verdict{Reason::start_blocked, {2, 2}});
  CHECK(verdict({0, 0}, {6, 1}) == Verdict{Reason::goal_off_map, {6, 1}});
  CHECK(verdict({0, 0}, {2, 2}) == Verdict{Reason::goal_blocked, {2, 2}});
  Walk there(costs, {.from = {1, 1}, .to = Cell{1, 1}});
  CHECK(there.arrived());
  CHECK(there.visited() == 1);
  CHECK(there.revisits() == 0);
  // Shut in, no walker can take a step.
  const CostGrid two({Tiling::square(), {3, 3}}, {}, [](Cell cell) -> EntryCost {
    return cell == Cell{0, 0} || cell == Cell{2, 2} ? 100 : blocked;
  });
  for (const WalkerKind kind : all_walkers) {
    Walk walk(two, {.kind = kind, .from = {0, 0}, .to = Cell{2, 2}});
    (void)walk.run(two, 10);
    CHECK(walk.end() == WalkEnd::stuck);
  }
}

TEST_CASE("a walker of one's own is driven like the others") {
  const CostGrid costs = maze(Tiling::hex(HexTop::flat, Shift::odd), {15, 12}, {.seed = 9});
  Walk walk(costs, {.kind = WalkerKind::own, .from = {0, 0}, .to = Cell{14, 11}, .most_steps = 2000});
  Walk hand(costs, {.kind = WalkerKind::right_hand, .from = {0, 0}, .to = Cell{14, 11}});
  std::optional<Direction> before;
  int asked = 0;
  const auto by_right_hand = [&](const Surroundings& here) -> Direction {
    if (++asked % 5 == 0) return Direction{-1};  // dawdles
    const int edges = here.tiling.edge_count();
    if (!before) before = *directions(here.legal).begin();
    for (int turn = 1; turn <= edges; ++turn) {
      const Direction d((*before + edges / 2 + edges - turn) % edges);
      if (!holds(here.legal, d)) continue;
      before = d;
      return d;
    }
    return Direction{-1};
  };
  while (!walk.run(costs, 7, by_right_hand)) {
  }
  (void)hand.run(costs, 10'000);
  CHECK(walk.arrived());
  CHECK(walk.trail().cells() == hand.trail().cells());
  CHECK(asked == static_cast<int>(walk.steps() + walk.steps() / 4));

  Walk idle(costs, {.kind = WalkerKind::own, .from = {0, 0}, .to = Cell{14, 11}, .most_steps = 50});
  CHECK(idle.run(costs, 100, [](const Surroundings&) { return Direction{-1}; }));
  CHECK(idle.end() == WalkEnd::steps);
  CHECK(idle.steps() == 0);
}

TEST_CASE("memory is kept for the ground touched, not for the map") {
  const CostGrid costs({Tiling::square(), {4000, 4000}}, {.steps = 4}, [](Cell) -> EntryCost { return 100; });
  Walk walk(costs, {.kind = WalkerKind::explore, .from = {5, 5}, .to = Cell{60, 40}});
  (void)walk.run(costs, 1000);
  CHECK(walk.arrived());
  CHECK(walk.steps() == 90);
  CHECK(walk.memory() < 100'000);
}

TEST_CASE("dead ends struck off leave least costs as they are") {
  for (const std::uint64_t seed : seeds(500)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Size size{random.whole(2, 24), random.whole(2, 24)};
    const CostGrid costs = maze(tiling, size, {.by = MazeMethod::wilson, .seed = seed, .loops = random.whole(0, 100)});
    Searcher searcher;
    for (int i = 0; i < 3; ++i) {
      const Cell from = random.cell(size);
      const Cell to = random.cell(size);
      const Route astar = searcher.route(costs, from, to, {.by = Algorithm::astar});
      const Route& route = searcher.route(costs, from, to, {.by = Algorithm::dead_ends});
      REQUIRE(route.found());
      CHECK(route.cost() == astar.cost());
      CHECK(route.algorithm() == Algorithm::dead_ends);
      CHECK(route.expanded() <= searcher.route(costs, from, to, {.by = Algorithm::dijkstra}).expanded());
      SteppedSearch stepped;
      stepped.begin(costs, from, to, {.by = Algorithm::dead_ends});
      while (!stepped.run(5)) {
      }
      CHECK(stepped.route().cost() == astar.cost());
    }
  }
}
