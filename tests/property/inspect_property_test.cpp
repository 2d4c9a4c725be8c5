// The check of a finished way: every legal one passes, and each fault is found where it is.
#include <algorithm>
#include <catch2/catch.hpp>

#include "saunter/check/inspect.hpp"
#include "saunter/search/searcher.hpp"
#include "support/seeds.hpp"
#include "support/random_maps.hpp"
#include "support/walk.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// What forbids a step, from whole maps: with barriers alone, then heights, then everything. The first two on a board
/// that goes on beyond the rim, which is an obstacle of the last kind. Nothing where it can't tell heights from what
/// comes after: the board beyond the rim has none.
std::optional<PathFault> fault_by_whole_maps(const Ground& c, Cell from, Direction d) {
  constexpr std::int32_t beyond = 12;  // even, so that cells keep their kind
  const auto legal = [&](const CostGrid& costs, Cell at) { return !costs.open(at) || holds(costs.moves(at), d); };
  const Size size = c.map.size();
  Map open({c.map.tiling(), {size.cols + 2 * beyond, size.rows + 2 * beyond}}, {Terrain{.name = "open"}});
  const Offset by{beyond, beyond};
  for (const Cell cell : size.cells()) {
    if (c.map.has_heights()) open.set_height(cell + by, c.map.height_at(cell));
    for (Direction e{0}; e < c.map.tiling().edge_count(); ++e) {
      if (c.map.closed(cell, e)) open.set_closed(cell + by, e);
    }
  }
  Mover any = c.mover;
  any.costs.clear();
  Mover light = any;
  light.climb.reset();
  light.drop.reset();
  if (!legal(bake(open, light), from + by)) return PathFault::barrier;
  const Rect about = Rect::of(from);
  const std::int32_t reach = c.mover.size + 3;
  const bool inside = about.left >= reach && about.top >= reach && about.right + reach <= size.cols &&
                      about.bottom + reach <= size.rows;
  if (!inside && c.map.has_heights()) return std::nullopt;
  if (!legal(bake(open, any), from + by)) return PathFault::height;
  return PathFault::corner;
}

/// The same fault, or one of the two that can't be told apart.
bool agrees(PathFault found, std::optional<PathFault> expected) {
  return expected ? found == *expected : found == PathFault::height || found == PathFault::corner;
}

}  // namespace

TEST_CASE("every way that any search finds passes, at its cost, on 1,000 random maps") {
  Searcher searcher;
  WarySearcher wary;
  std::size_t checked = 0;
  for (const std::uint64_t seed : seeds(1000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground c = random_ground(random, 20, seed % 2 == 0);
    const Cell from = random.cell(c.map.size());
    const Cell to = random.cell(c.map.size());
    const Levels levels = levels_for_size(c.map.tiling(), Levels(c.map.size(), 1), c.mover.size);
    const auto check = [&](std::span<const Cell> cells, std::uint64_t cost) {
      if (cells.empty()) return;
      const Inspection found = inspect_path(c.map, c.mover, c.costs, cells, {.levels = &levels});
      REQUIRE(found.ok());
      CHECK(found.measure.cost == cost);
      CHECK(found.measure.longest == cells.size() - 1);
      CHECK(found.turns.has_value() == (c.costs.rules().steps != 3));
      ++checked;
    };
    for (const Algorithm by : {Algorithm::astar, Algorithm::dijkstra, Algorithm::bfs, Algorithm::jump,
                               Algorithm::dead_ends, Algorithm::greedy}) {
      const Route& route = searcher.route(c.costs, from, to, {.by = by});
      check(route.cells(), route.cost());
    }
    const Route& natural = searcher.route(c.costs, from, to, {.natural = true});
    check(natural.cells(), natural.cost());
    const WaryRoute& careful = wary.route(c.costs, levels, from, to);
    check(careful.cells(), careful.measure().cost);
  }
  CHECK(checked > share_of(1500));
}

TEST_CASE("a step is a problem exactly when it is not legal, for the reason whole maps give, on 1,500 random maps") {
  std::array<std::size_t, 7> seen = {};
  for (const std::uint64_t seed : seeds(1500)) {
    INFO("seed " << seed);
    Random random(seed);
    Ground c = random_ground(random, 14, seed % 4 != 0);
    const Size size = c.map.size();
    BitGrid occupied(size);
    Grid<std::uint32_t> units(size);
    for (int i = random.whole(0, 6); i > 0; --i) {
      const Cell cell = random.cell(size);
      occupied.set(cell);
      units[cell] = static_cast<std::uint32_t>(i);
    }
    c.costs = bake(c.map, c.mover, &occupied);
    Levels levels(size);
    for (std::uint32_t i = 0; i < size.cell_count(); ++i) levels[CellIndex{i}] = random.chance(20) ? 5 : 1;
    // A walk that keeps to its neighbours most of the time, whatever is there.
    std::vector<Cell> way = {random.cell(size)};
    for (int i = 0; i < 12; ++i) {
      const int directions = c.map.tiling().direction_count();
      way.push_back(random.chance(8)
                        ? random.cell(size)
                        : c.map.tiling().neighbour(way.back(), Direction(random.whole(0, directions - 1))));
    }
    const InspectOptions options{
        .occupied = &occupied, .units = &units, .levels = &levels, .highest = std::uint16_t{3}};
    const Inspection found = inspect_path(c.map, c.mover, c.costs, way, options);
    std::vector<PathProblem> expected;
    for (std::size_t i = 0; i < way.size(); ++i) {
      const Cell cell = way[i];
      const Cell before = i > 0 ? way[i - 1] : cell;
      const Direction d = i > 0 ? c.map.tiling().direction(before, cell) : Direction(0);
      PathProblem problem{i, cell, PathFault::off_map, {}};
      bool any = true;
      if (!size.contains(cell)) {
        problem.why = PathFault::off_map;
      } else if (!c.costs.open(cell)) {
        problem.why = PathFault::cannot_stand;
      } else if (i > 0 && (d < 0 || d >= c.costs.rules().steps)) {
        problem.why = PathFault::not_a_step;
      } else if (i > 0 && c.costs.open(before) && ((c.costs.moves(before) >> d) & 1U) == 0) {
        const auto fault = fault_by_whole_maps(c, before, d);
        const auto told = std::find_if(found.problems.begin(), found.problems.end(),
                                       [&](const PathProblem& p) { return p.step == i; });
        problem.why = fault                                                      ? *fault
                      : told != found.problems.end() && agrees(told->why, fault) ? told->why
                                                                                 : PathFault::corner;
      } else if (levels[cell] > 3) {
        problem.why = PathFault::threat;
      } else {
        any = false;
      }
      if (any) expected.push_back(problem);
    }
    // From a blocked cell a step may be forbidden too; those are looked at below.
    std::vector<PathProblem> from_open;
    for (PathProblem problem : found.problems) {
      const bool from_blocked = problem.step > 0 && size.contains(way[problem.step - 1]) &&
                                !c.costs.open(way[problem.step - 1]) && problem.why >= PathFault::barrier &&
                                problem.why <= PathFault::corner;
      if (problem.why == PathFault::cannot_stand && c.mover.size == 1) {
        CHECK((problem.by.kind == InTheWay::Kind::unit) == occupied.test(problem.at));
        if (occupied.test(problem.at)) CHECK(problem.by.number + 1 == units[problem.at]);
      }
      problem.by = {};
      ++seen[static_cast<unsigned>(problem.why)];
      if (!from_blocked) from_open.push_back(problem);
      if (from_blocked && levels[problem.at] > 3)
        from_open.push_back({problem.step, problem.at, PathFault::threat, {}});
    }
    REQUIRE(from_open == expected);
  }
  for (const std::size_t count : seen) CHECK(count > share_of(40));
}

TEST_CASE("a step alone tells what the whole map tells, for every forbidden step of 150 random maps") {
  std::size_t forbidden = 0;
  for (const std::uint64_t seed : seeds(150)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground c = random_ground(random, 9, true);
    for (const Cell from : c.map.size().cells()) {
      if (!c.costs.open(from)) continue;
      for (Direction d{0}; d < c.costs.rules().steps; ++d) {
        const Cell to = c.map.tiling().neighbour(from, d);
        if (!c.costs.open(to) || ((c.costs.moves(from) >> d) & 1U) != 0) continue;
        const Cell way[] = {from, to};
        const Inspection found = inspect_path(c.map, c.mover, c.costs, way);
        REQUIRE(found.problems.size() == 1);
        CHECK(found.problems[0].step == 1);
        CHECK(agrees(found.problems[0].why, fault_by_whole_maps(c, from, d)));
        ++forbidden;
      }
    }
  }
  CHECK(forbidden > share_of(500));
}

TEST_CASE(
    "two ways are in each other's way from both sides or from neither, on 2,000 pairs, and waits expose as steps do") {
  int meet = 0;
  for (const std::uint64_t seed : seeds(2000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Size size{random.whole(2, 5), random.whole(2, 4)};
    const Map map({random.one_of(all_tilings()), size}, {{.name = "sand"}});
    const Mover crab{.name = "crab"};
    const CostGrid costs = bake(map, crab);
    const auto stroll = [&] {
      std::vector<Cell> cells = {random.cell(size)};
      for (int i = random.whole(0, 8); i > 0; --i) {
        const Direction d(random.whole(0, costs.rules().steps - 1));
        const bool goes = random.chance(70) && holds(costs.moves(cells.back()), d);
        cells.push_back(goes ? map.tiling().neighbour(cells.back(), d) : cells.back());
      }
      return cells;
    };
    const std::array<std::vector<Cell>, 2> ways = {stroll(), stroll()};
    std::array<bool, 2> clear = {};
    for (std::size_t k = 0; k < 2; ++k) {
      const std::array<std::span<const Cell>, 1> other = {ways[1 - k]};
      clear[k] = inspect_path(map, crab, costs, ways[k], {.others = other, .waiting = true}).ok();
    }
    CHECK(clear[0] == clear[1]);
    meet += clear[0] ? 0 : 1;
    // What a wait exposes to is the same with and without a clock.
    Levels levels(size);
    for (std::uint16_t& level : levels.values()) level = static_cast<std::uint16_t>(random.whole(0, 2));
    const Inspection found = inspect_path(map, crab, costs, ways[0], {.levels = &levels, .waiting = true});
    std::uint64_t exposure = 0;
    for (std::size_t i = 1; i < ways[0].size(); ++i) {
      const Direction d = map.tiling().direction(ways[0][i - 1], ways[0][i]);
      const Length length = d < 0 ? 100 : costs.step_length(map.tiling().kind(ways[0][i - 1]), d);
      exposure += std::uint64_t{length} * std::as_const(levels)[ways[0][i]];
    }
    CHECK(found.measure.exposure == exposure);
  }
  CHECK(meet > share_of(500));
}

TEST_CASE("each fault by hand, at its step") {
  Map map({Tiling::square(), {6, 4}}, {{.name = "sand"}, {.name = "rock", .cost = blocked}});
  map.set_terrain({2, 1}, 1);
  map.add_barrier({0, 2}, Direction(1));
  map.set_height({5, 3}, 9);
  const Mover crab{.name = "crab", .climb = 2};
  BitGrid occupied(map.size());
  occupied.set({4, 0});
  Grid<std::uint32_t> units(map.size());
  units[Cell{4, 0}] = 3;
  const CostGrid costs = bake(map, crab, &occupied);
  Levels levels(map.size());
  levels[Cell{0, 0}] = 7;
  const std::vector<Cell> others = {{1, 3}, {0, 3}, {1, 3}};
  const std::vector<std::span<const Cell>> ways = {others};
  const auto why = [&](const std::vector<Cell>& cells) {
    const InspectOptions options{
        .occupied = &occupied, .units = &units, .levels = &levels, .highest = std::uint16_t{5}, .others = ways};
    std::string text;
    for (const PathProblem& problem : inspect_path(map, crab, costs, cells, options).problems) {
      text += std::to_string(problem.step) + " " + std::string(fault_name(problem.why));
      if (problem.by.kind == InTheWay::Kind::unit) text += " unit " + std::to_string(problem.by.number);
      if (problem.by.kind == InTheWay::Kind::path) text += " way " + std::to_string(problem.by.number);
      text += ";";
    }
    return text;
  };
  CHECK(why({{1, 0}}).empty());
  CHECK(why({{1, 0}, {1, 1}, {1, 2}}).empty());
  CHECK(why({{1, 0}, {1, -1}, {1, 0}}) == "1 off-map;");
  CHECK(why({{1, 1}, {2, 1}, {3, 1}}) == "1 blocked;");
  CHECK(why({{3, 0}, {4, 0}}) == "1 blocked unit 2;");
  CHECK(why({{1, 0}, {3, 0}}) == "1 not-a-step;");
  CHECK(why({{1, 0}, {1, 0}}) == "1 not-a-step;");
  CHECK(why({{0, 2}, {1, 2}}) == "1 barrier;");
  CHECK(why({{4, 3}, {5, 3}, {4, 2}}) == "1 height;");
  CHECK(why({{1, 1}, {2, 2}}) == "1 corner;");
  CHECK(why({{1, 1}, {0, 0}, {1, 0}}) == "1 threat;");
  // Two in one cell, and two that change places.
  CHECK(why({{0, 2}, {0, 3}}) == "1 blocked way 0;");
  CHECK(why({{0, 3}, {1, 3}}) == "1 blocked way 0;");
  CHECK(why({{1, 2}, {2, 2}, {2, 3}, {1, 3}}) == "3 blocked way 0;");
  // Everything at once, none hides another.
  CHECK(why({{9, 9}, {2, 1}, {3, 1}, {5, 1}, {5, 3}}) == "0 off-map;1 blocked;3 not-a-step;4 not-a-step;");
  const Cell round[] = {{3, 2}, {4, 2}, {5, 1}, {5, 0}};
  const Inspection walked = inspect_path(map, crab, costs, round);
  CHECK(walked.turns == 2);
  CHECK(walked.measure.cost == 341);
}
