// Every option of a route query against brute force on random maps.
#include <catch2/catch.hpp>

#include "saunter/search/searcher.hpp"
#include "saunter/search/stepped_search.hpp"
#include "saunter/threat/wary.hpp"
#include "support/seeds.hpp"
#include "support/oracle.hpp"
#include "support/random_changes.hpp"
#include "support/random_maps.hpp"
#include "support/walk.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// A board where all open cells cost the same: scattered blocks, or rooms with doors.
CostGrid one_cost_board(Random& random, Tiling tiling, Size size) {
  StepRules rules = random_rules(random, tiling);
  if (random.chance(60)) rules.corners = Corners::strict;
  if (random.chance(70)) rules.diagonal = 141;
  const bool rooms = random.chance(50);
  const int room = random.whole(3, 12);
  const int share = random.whole(0, 45);
  const auto entry = static_cast<EntryCost>(random.chance(50) ? 100 : random.whole(1, 900));
  return CostGrid({tiling, size}, rules, [&](Cell cell) -> EntryCost {
    const bool wall = cell.col % room == 0 || cell.row % room == 0;
    const bool shut = rooms ? wall && !random.chance(20) : random.chance(share);
    return shut ? blocked : entry;
  });
}

}  // namespace

TEST_CASE("boards of one cost: all searches, on 3,000 random boards") {
  Searcher searcher;
  std::size_t jumps = 0;
  std::size_t found = 0;
  for (const std::uint64_t seed : seeds(3000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.chance(60) ? Tiling::square() : random.one_of(all_tilings());
    const Size size = random.chance(15) ? Size{random.whole(60, 140), random.whole(3, 8)} : random_size(random, 40);
    const CostGrid costs = one_cost_board(random, tiling, random.chance(10) ? Size{size.rows, size.cols} : size);
    const Cell from = random.cell(costs.size());
    const Cell to = random.cell(costs.size());
    if (!costs.open(from) || !costs.open(to)) continue;
    const auto index = costs.size().index(to).value();
    const std::uint64_t least = least_costs(costs, from)[index];
    const std::uint64_t fewest = least_costs(costs, from, true)[index];
    Verdict verdict;
    for (const Algorithm by : {Algorithm::astar, Algorithm::dijkstra, Algorithm::bfs, Algorithm::jump,
                               Algorithm::dead_ends, Algorithm::automatic}) {
      INFO(algorithm_name(by));
      std::vector<Visit> trace;
      const Route route = searcher.route(costs, from, to, {.by = by, .trace = &trace});
      REQUIRE(route.found() == (least != never));
      CHECK(trace.size() == route.expanded());
      CHECK(route == searcher.route(costs, from, to, {.by = by}));
      if (by == Algorithm::jump && route.algorithm() == Algorithm::jump) ++jumps;
      if (by == Algorithm::astar) verdict = route.verdict();
      CHECK(route.verdict() == verdict);  // for a "no" too: the same reason at the same cell
      if (!route.found()) continue;
      ++found;
      CHECK(route.cells().front() == from);
      CHECK(route.cells().back() == to);
      CHECK(walk(costs, route.cells()) == route.cost());
      if (by == Algorithm::bfs) CHECK(route.steps() == fewest);
      if (by == Algorithm::bfs) continue;
      REQUIRE(route.cost() == least);
      CHECK(searcher.route(costs, from, to, {.by = by, .budget = Hundredths(route.cost())}).found());
      if (route.cost() == 0) continue;
      const Reason over =
          searcher.route(costs, from, to, {.by = by, .budget = Hundredths(route.cost() - 1)}).verdict().reason;
      CHECK(over == Reason::over_budget);
    }
  }
  CHECK(jumps > share_of(500));
  CHECK(found > share_of(4000));
}

TEST_CASE(
    "jumps, and dead ends struck off, with every option at once answer as A* does, on boards that change between "
    "questions") {
  Searcher jumping;
  Searcher plain;
  std::size_t jumps = 0;
  std::size_t found = 0;
  std::size_t refused = 0;
  for (const std::uint64_t seed : seeds(600)) {
    Random random(seed);
    const Size size{random.whole(1, 90), random.whole(1, 40)};
    CostGrid costs = one_cost_board(random, Tiling::square(), size);
    const Hundredths entry = costs.lowest_entry() == blocked ? 1_steps : Hundredths(costs.lowest_entry());
    for (int i = 0; i < 12; ++i) {
      INFO("seed " << seed << ", question " << i);
      if (random.chance(50)) {
        const Cell cell = random.cell(size);
        costs.set_entry(cell, costs.open(cell) ? 0_steps : entry);
      }
      if (random.chance(5)) costs = CostGrid(costs);
      std::vector<EntryChange> changes(random.chance(60) ? static_cast<std::size_t>(random.whole(1, 6)) : 0U);
      CostGrid changed = costs;
      for (EntryChange& change : changes) {
        change = {random.cell(size), random.chance(60) ? 0_steps : entry};
        changed.set_entry(change.cell, change.cost);
      }
      const Source start{random.cell(size)};
      std::vector<Cell> goals(static_cast<std::size_t>(random.chance(60) ? 1 : random.whole(2, 6)));
      for (Cell& goal : goals) goal = random.cell(size);
      Query query{.starts = std::span(&start, 1), .goals = goals};
      query.beside = random.chance(30);
      query.within = random.chance(30) ? 1 : 0;
      const Algorithm by = i % 4 == 3 ? Algorithm::dead_ends : Algorithm::jump;
      RouteOptions options{.by = by, .changes = changes, .or_nearest = random.chance(40)};
      if (random.chance(20)) options.budget = Hundredths(static_cast<std::uint32_t>(random.whole(0, 5000)));
      const Route& route = jumping.route(costs, query, options);
      options.by = Algorithm::astar;
      const Route& other = plain.route(costs, query, options);
      const Verdict verdict = other.verdict();
      REQUIRE(route.verdict().reason == verdict.reason);
      REQUIRE(route.cost() == other.cost());
      if (route.algorithm() == Algorithm::jump) ++jumps;
      if (!route.cells().empty()) {
        CHECK(walk(changed, route.cells()) == route.cost());
        CHECK(route.cells().front() == start.cell);
      }
      if (!route.found()) {
        CHECK(route.verdict() == verdict);
        CHECK(route.remaining() == other.remaining());
        ++refused;
        continue;
      }
      ++found;
      CHECK(route.goal_number() == other.goal_number());
      CHECK(route.cells().back() == route.verdict().at);
    }
  }
  CHECK(jumps > share_of(1500));
  CHECK(found > share_of(2000));
  CHECK(refused > share_of(1000));
}

TEST_CASE("several starts and goals, near and beside them: 2,000 random maps") {
  Searcher searcher;
  std::size_t found = 0;
  for (const std::uint64_t seed : seeds(2000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground c = random_ground(random, 16, seed % 3 == 0);
    const Tiling tiling = c.costs.tiling();
    std::vector<Source> starts(static_cast<std::size_t>(random.whole(1, 4)));
    for (Source& start : starts) {
      start = {random.cell(c.costs.size()), random.chance(50) ? 0_steps : random.hundredths(0, 900)};
    }
    std::vector<Cell> goals(static_cast<std::size_t>(random.whole(1, 7)));
    for (Cell& goal : goals) goal = {random.whole(-1, c.costs.size().cols), random.whole(-1, c.costs.size().rows)};
    Query query{.starts = starts, .goals = goals};
    if (random.chance(40)) query.within = random.whole(1, 3);
    query.beside = random.chance(30);
    const auto accepts = [&](Cell goal, Cell cell) {
      if (!c.costs.size().contains(goal)) return false;
      if (query.beside && cell == goal) return false;
      if (query.within > 0) return tiling.edge_distance(goal, cell) <= query.within;
      if (!query.beside) return cell == goal;
      return stands_beside(c.costs, c.map, c.mover, cell, goal);
    };
    std::uint64_t least = never;
    std::uint64_t fewest = never;
    std::size_t number = 0;
    bool start_usable = false;
    bool goal_usable = false;
    for (const Source& start : starts) start_usable = start_usable || c.costs.open(start.cell);
    for (const Cell cell : c.costs.size().cells()) {
      for (const Cell goal : goals) goal_usable = goal_usable || (c.costs.open(cell) && accepts(goal, cell));
    }
    std::vector<std::uint64_t> best(c.costs.size().cell_count(), never);
    std::vector<std::uint64_t> nearest(best);
    for (const Source& start : starts) {
      if (!c.costs.open(start.cell)) continue;
      const auto from_here = least_costs(c.costs, start.cell);
      const auto steps = least_costs(c.costs, start.cell, true);
      for (std::size_t i = 0; i < best.size(); ++i) {
        if (from_here[i] == never) continue;
        best[i] = std::min(best[i], from_here[i] + start.head_start);
        nearest[i] = std::min(nearest[i], steps[i]);
      }
    }
    for (std::size_t g = 0; g < goals.size(); ++g) {
      for (std::uint32_t i = 0; i < best.size(); ++i) {
        if (best[i] == never || !accepts(goals[g], c.costs.size().cell(CellIndex{i}))) continue;
        if (best[i] < least) number = g;
        least = std::min(least, best[i]);
        fewest = std::min(fewest, nearest[i]);
      }
    }
    for (const Algorithm by :
         {Algorithm::astar, Algorithm::dijkstra, Algorithm::bfs, Algorithm::greedy, Algorithm::automatic}) {
      INFO(algorithm_name(by));
      const Route& route = searcher.route(c.costs, query, {.by = by});
      REQUIRE(route.found() == (least != never));
      if (!route.found()) {
        const Reason reason = route.verdict().reason;
        CHECK((reason == Reason::start_blocked) == !start_usable);
        CHECK((reason == Reason::goal_blocked || reason == Reason::goal_off_map) == (start_usable && !goal_usable));
        continue;
      }
      ++found;
      CHECK(accepts(goals[route.goal_number()], route.cells().back()));
      CHECK(route.cells().front() == starts[route.start_number()].cell);
      CHECK(walk(c.costs, route.cells()) + starts[route.start_number()].head_start == route.cost());
      if (by == Algorithm::greedy) continue;
      if (by == Algorithm::bfs) {
        CHECK(route.steps() == fewest);
        continue;
      }
      CHECK(route.cost() == least);
      CHECK(route.goal_number() == number);
    }
    // The same goals as a test of cells.
    const auto test = [&](Cell cell) {
      return std::any_of(goals.begin(), goals.end(), [&](Cell goal) { return accepts(goal, cell); });
    };
    const Route& route = searcher.route(c.costs, {.starts = starts, .until = test});
    CHECK(route.found() == (least != never));
    if (route.found()) CHECK(route.cost() == least);
  }
  CHECK(found > share_of(3000));
}

TEST_CASE("weighted: never dearer than the weight allows, and greedy finds a way when there is one") {
  Searcher searcher;
  std::size_t dearer = 0;
  for (const std::uint64_t seed : seeds(1500)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground c = random_ground(random, 40, seed % 3 == 0);
    const Cell from = random.cell(c.costs.size());
    const Cell to = random.cell(c.costs.size());
    if (!c.costs.open(from) || !c.costs.open(to)) continue;
    const Route best = searcher.route(c.costs, from, to);
    const Hundredths weight = random.chance(50) ? random.hundredths(101, 300) : random.hundredths(101, 10'000);
    const Route& weighted = searcher.route(c.costs, from, to, {.by = Algorithm::astar, .weight = weight});
    REQUIRE(weighted.found() == best.found());
    CHECK(std::uint64_t{weighted.cost()} * 100 <= std::uint64_t{best.cost()} * weight);
    CHECK(walk(c.costs, weighted.cells()) == weighted.cost());
    if (weighted.cost() > best.cost()) ++dearer;
    const Route& greedy = searcher.route(c.costs, from, to, {.by = Algorithm::greedy});
    REQUIRE(greedy.found() == best.found());
    CHECK(walk(c.costs, greedy.cells()) == greedy.cost());
    CHECK(greedy.expanded() <= c.costs.size().cell_count());
  }
  CHECK(dearer > share_of(20));
}

TEST_CASE("cells avoided or opened for one query: as if the grid had been made so, large movers and barriers too") {
  Searcher searcher;
  std::size_t found = 0;
  std::size_t sided = 0;  // cells opened on boards with barriers or heights
  for (const std::uint64_t seed : seeds(2000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground c = random_ground(random, 16, seed % 2 == 0);
    std::vector<EntryChange> changes;
    for (int i = random.whole(1, 12); i > 0; --i) {
      const Cell cell = random.cell(c.costs.size());
      std::erase_if(changes, [&](const EntryChange& change) { return change.cell == cell; });
      changes.push_back({cell, static_cast<EntryCost>(random.chance(50) ? 0 : random.whole(1, 400))});
      sided += c.costs.has_sides() && changes.back().cost != 0 && c.costs.ground_entry(cell) == 0 ? 1U : 0U;
    }
    const CostGrid as_if = bake_changed(c.map, c.mover, changes);
    if (seed % 3 == 0) {  // the grid itself changed cell by cell is that grid too
      CostGrid by_cells = c.costs;
      for (const EntryChange& change : changes) REQUIRE(by_cells.set_entry(change.cell, change.cost));
      REQUIRE(by_cells == as_if);
    }
    const Cell from = random.cell(c.costs.size());
    const Cell to = random.cell(c.costs.size());
    for (const Algorithm by : {Algorithm::astar, Algorithm::dijkstra, Algorithm::bfs}) {
      const Route wanted = searcher.route(as_if, from, to, {.by = by});
      const Route& route = searcher.route(c.costs, from, to, {.by = by, .changes = changes});
      REQUIRE(route.verdict().reason == wanted.verdict().reason);
      if (!route.found()) continue;
      ++found;
      CHECK(walk(as_if, route.cells()) == route.cost());
      if (by == Algorithm::bfs) CHECK(route.steps() == wanted.steps());
      if (by != Algorithm::bfs) CHECK(route.cost() == wanted.cost());
    }
  }
  CHECK(sided > share_of(300));
  CHECK(found > share_of(1500));
}

TEST_CASE("turn costs and natural ways, against all ways") {
  Searcher searcher;
  std::size_t found = 0;
  for (const std::uint64_t seed : seeds(700)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground c =
        random.chance(50)
            ? random_ground(random, 12, seed % 3 == 0)
            : Ground{{}, {}, one_cost_board(random, random.one_of(all_tilings()), random_size(random, 14))};
    const Tiling tiling = c.costs.tiling();
    const Cell from = random.cell(c.costs.size());
    const Cell to = random.cell(c.costs.size());
    if (!c.costs.open(from) || !c.costs.open(to)) continue;
    const auto index = c.costs.size().index(to).value();
    const Route best = searcher.route(c.costs, from, to);
    const Route& natural = searcher.route(c.costs, from, to, {.natural = true});
    REQUIRE(natural.found() == best.found());
    if (!best.found()) continue;
    ++found;
    CHECK(natural.cost() == best.cost());
    CHECK(walk(c.costs, natural.cells()) == best.cost());
    if (tiling.shape() == Shape::triangle) continue;
    std::uint64_t turns = 0;
    Direction before{-1};
    for (std::size_t i = 1; i < natural.cells().size(); ++i) {
      const Direction d = tiling.direction(natural.cells()[i - 1], natural.cells()[i]);
      turns += before >= 0 && d != before ? 1U : 0U;
      before = d;
    }
    const auto fewest = least_costs_with_turns(c.costs, from, std::nullopt, 1 << 20U, [](Direction a, Direction b) {
      return std::uint64_t{a != b ? 1U : 0U};
    });
    CHECK(fewest[index] % (1U << 20U) == turns);

    const Hundredths turn_cost = random.hundredths(1, 200);
    std::optional<Direction> heading;
    if (random.chance(50)) heading = Direction(random.whole(0, tiling.direction_count() - 1));
    const auto least = least_costs_with_turns(c.costs, from, heading, 1, [&](Direction a, Direction b) {
      return std::uint64_t{turn_cost} * static_cast<unsigned>(turned_by(tiling, a, b));
    });
    for (const Algorithm by : {Algorithm::astar, Algorithm::dijkstra}) {
      const Route& route = searcher.route(c.costs, from, to, {.by = by, .turn_cost = turn_cost, .heading = heading});
      REQUIRE(route.found());
      CHECK(route.cost() == least[index]);
      std::uint64_t sum = walk(c.costs, route.cells());
      Direction facing = heading.value_or(Direction(-1));
      for (std::size_t i = 1; i < route.cells().size(); ++i) {
        const Direction d = tiling.direction(route.cells()[i - 1], route.cells()[i]);
        if (facing >= 0) sum += std::uint64_t{turn_cost} * static_cast<unsigned>(turned_by(tiling, facing, d));
        facing = d;
      }
      CHECK(sum == route.cost());
    }
  }
  CHECK(found > share_of(200));
}

TEST_CASE("a no, and the nearest cell instead: by definition, for every algorithm, on 1,500 random maps") {
  Searcher searcher;
  std::array<std::size_t, 10> seen = {};
  for (const std::uint64_t seed : seeds(1500)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground c = random_ground(random, 16, seed % 3 == 0);
    const Size size = c.costs.size();
    const Cell from = random.cell(size);
    const Cell to{random.whole(-2, size.cols + 1), random.whole(-2, size.rows + 1)};
    if (!c.costs.open(from)) continue;
    std::optional<Hundredths> budget;
    if (random.chance(50)) budget = random.hundredths(0, 2500);
    const Estimate heuristic(c.costs, to);
    const auto least = least_costs(c.costs, from);
    const auto fewest = least_costs(c.costs, from, true);
    const auto nearest_within = [&](std::uint64_t bound) {
      Cell nearest = from;
      for (std::uint32_t i = 0; i < least.size(); ++i) {
        const Cell cell = size.cell(CellIndex{i});
        if (least[i] == never || least[i] > bound) continue;
        const auto here = heuristic(cell);
        if (here < heuristic(nearest) || (here == heuristic(nearest) && cell < nearest)) nearest = cell;
      }
      return nearest;
    };
    for (const Algorithm by : {Algorithm::automatic, Algorithm::astar, Algorithm::dijkstra, Algorithm::bfs,
                               Algorithm::greedy, Algorithm::jump, Algorithm::dead_ends}) {
      if (by == Algorithm::bfs && budget) continue;
      INFO(algorithm_name(by) << " budget " << (budget ? std::int64_t{Cost{*budget}} : -1));
      const std::uint64_t bound = budget ? Cost{*budget} : max_cost;
      const std::uint64_t to_goal = size.contains(to) ? least[size.index(to).value()] : never;
      for (const bool or_nearest : {false, true}) {
        const Route& route = searcher.route(c.costs, from, to, {.by = by, .budget = budget, .or_nearest = or_nearest});
        const Reason reason = route.verdict().reason;
        ++seen[static_cast<unsigned>(reason)];
        REQUIRE(route.found() == (to_goal <= bound));
        if (route.found()) continue;
        if (reason == Reason::no_way) CHECK(route.verdict().at == nearest_within(never - 1));
        if (reason == Reason::over_budget) CHECK(route.verdict().at == nearest_within(bound));
        if (reason == Reason::goal_off_map || reason == Reason::goal_blocked) CHECK(route.verdict().at == to);
        REQUIRE(route.cells().empty() == (!or_nearest || reason == Reason::goal_off_map));
        if (route.cells().empty()) continue;
        const Cell nearest = nearest_within(bound);
        CHECK(route.cells().front() == from);
        CHECK(route.cells().back() == nearest);
        CHECK(route.remaining() == heuristic(nearest));
        CHECK(walk(c.costs, route.cells()) == route.cost());
        if (by == Algorithm::bfs) {
          CHECK(route.steps() == fewest[size.index(nearest).value()]);
        } else {
          CHECK(route.cost() == least[size.index(nearest).value()]);
        }
      }
    }
  }
  for (const Reason reason : {Reason::goal_off_map, Reason::goal_blocked, Reason::no_way, Reason::over_budget}) {
    CHECK(seen[static_cast<unsigned>(reason)] > share_of(200));
  }
}

TEST_CASE(
    "starts and goals as far off the map as numbers go are left out, by every search and field, on 1,500 boards") {
  Searcher searcher;
  Searcher other;
  std::size_t found = 0;
  for (const std::uint64_t seed : seeds(1500)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground ground = random_ground(random, 16, seed % 3 == 0);
    constexpr auto high = std::numeric_limits<std::int32_t>::max();
    const std::array<std::int32_t, 7> ends = {-high - 1, -high, -1, 0, 70'000, high - 1, high};
    const auto anywhere = [&](bool& on_map) -> Cell {
      on_map = random.chance(50);
      if (on_map) return random.cell(ground.map.size());
      const auto end = [&] { return ends[static_cast<std::size_t>(random.whole(0, 6))]; };
      const Cell cell{end(), end()};
      on_map = ground.map.size().contains(cell);
      return cell;
    };
    std::vector<Source> starts;
    std::vector<Source> starts_on_map;
    std::vector<Cell> goals;
    std::vector<Cell> goals_on_map;
    bool on_map = false;
    for (int i = random.whole(1, 3); i > 0; --i) {
      starts.push_back({anywhere(on_map)});
      if (on_map) starts_on_map.push_back(starts.back());
    }
    for (int i = random.whole(1, 6); i > 0; --i) {
      goals.push_back(anywhere(on_map));
      if (on_map) goals_on_map.push_back(goals.back());
    }
    Query query{.starts = starts, .goals = goals, .within = random.chance(20) ? random.whole(1, 3) : 0};
    query.beside = random.chance(20);
    RouteOptions options{
        .by =
            all_algorithms[static_cast<std::size_t>(random.whole(0, static_cast<int>(std::size(all_algorithms)) - 1))]};
    if (options.by == Algorithm::greedy || options.by == Algorithm::prepared) options.by = Algorithm::astar;
    const Route& route = searcher.route(ground.costs, query, options);
    const Reason reason = route.verdict().reason;
    if (starts_on_map.empty() || goals_on_map.empty()) {
      REQUIRE(reason == (starts_on_map.empty() ? Reason::start_off_map : reason));
      REQUIRE_FALSE(route.found());
      continue;
    }
    query.starts = starts_on_map;
    query.goals = goals_on_map;
    const Route& same = other.route(ground.costs, query, options);
    REQUIRE(route.found() == same.found());
    REQUIRE(route.cost() == same.cost());
    found += route.found() ? 1U : 0U;
    std::vector<Source> sources;
    for (const Cell goal : goals) sources.push_back({goal});
    const Field field = searcher.field_to(ground.costs, sources);
    sources.clear();
    for (const Cell goal : goals_on_map) sources.push_back({goal});
    REQUIRE(field.costs() == other.field_to(ground.costs, sources).costs());
  }
  CHECK(found > share_of(300));
}

TEST_CASE("over-budget where there is more than the budget lasts for, else no-way: every search, 1,500 random maps") {
  Searcher searcher;
  WarySearcher wary_searcher;
  SteppedSearch stepped;
  std::size_t met[2] = {};
  for (const std::uint64_t seed : seeds(1500)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground ground = random_ground(random, 9, random.chance(40));
    const CostGrid& costs = ground.costs;
    const Cell from = random.cell(costs.size());
    const Cell to = random.cell(costs.size());
    if (!costs.open(from) || !costs.open(to)) continue;
    const Field all = searcher.reach(costs, from);
    // Mostly about as much as the last cell costs: the difference is one cell then.
    Cost farthest = 0;
    for (const Cost cost : all.costs().values()) farthest = cost == unreached ? farthest : std::max(farthest, cost);
    const Hundredths budget = random.chance(70) ? Hundredths(farthest + static_cast<Cost>(random.whole(0, 1)) -
                                                             std::min(farthest, static_cast<Cost>(random.whole(0, 1))))
                                                : random.hundredths(0, 3000);
    const Field within = searcher.reach(costs, from, {.budget = budget});
    const bool more = within.reached_count() < all.reached_count();
    if (within.reached(to)) continue;
    const Reason reason = more ? Reason::over_budget : Reason::no_way;
    ++met[more ? 0 : 1];
    for (const auto by : {Algorithm::automatic, Algorithm::astar, Algorithm::dijkstra, Algorithm::jump,
                          Algorithm::dead_ends, Algorithm::greedy}) {
      INFO("by " << algorithm_name(by));
      CHECK(searcher.route(costs, from, to, {.by = by, .budget = budget}).verdict().reason == reason);
    }
    CHECK(searcher.route(costs, from, to, {.weight = 3_steps, .budget = budget}).verdict().reason == reason);
    stepped.begin(costs, from, to, {.budget = budget});
    while (!stepped.run(3)) {
    }
    CHECK(stepped.route().verdict().reason == reason);
    const Levels none(costs.size());
    for (const Hundredths linger : {0_steps, 1_steps}) {
      WaryOptions options{.care = {.wary = 1_steps, .linger = linger}, .budget = budget};
      CHECK(wary_searcher.route(costs, none, from, to, options).verdict().reason == reason);
      options.strike_dead_ends = linger == 0;
      CHECK(wary_searcher.route(costs, none, from, to, options).verdict().reason == reason);
    }
  }
  CHECK(met[0] > share_of(100));
  CHECK(met[1] > share_of(60));
}
