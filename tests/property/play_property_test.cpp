// Scripted runs: the law of each tick, seen from outside.
#include <catch2/catch.hpp>

#include <map>
#include <set>

#include "saunter/live/play.hpp"
#include "saunter/search/path.hpp"
#include "saunter/search/searcher.hpp"
#include "support/seeds.hpp"
#include "support/live_oracle.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

PlayScript random_script(Random& random, LiveGround& ground) {
  const Board board = ground.live.board();
  PlayScript script;
  script.ticks = static_cast<std::uint32_t>(random.whole(0, 40));
  const int kinds = static_cast<int>(ground.live.map().kinds().size());
  for (int i = random.whole(0, 12); i > 0 && script.ticks > 0; --i) {
    PlayEdit edit{static_cast<std::uint32_t>(random.whole(0, static_cast<int>(script.ticks) - 1)), {}};
    const Cell cell = random.cell(board.size);
    switch (random.whole(0, 3)) {
      case 0:
        edit.what = PaintEdit{static_cast<TerrainId>(random.whole(0, kinds - 1)), {cell, random.cell(board.size)}};
        break;
      case 1: {
        const Cell other = board.tiling.neighbour(cell, Direction(random.whole(0, board.tiling.edge_count() - 1)));
        edit.what = EdgeEdit{cell, other, random.chance(40), random.chance(40)};
        break;
      }
      case 2: {
        if (ground.units.empty()) continue;
        UnitEdit unit{random.one_of(ground.units), {}};
        if (random.chance(70)) unit.at = cell;
        edit.what = unit;
        break;
      }
      default:
        if (ground.threats.empty()) continue;
        edit.what =
            ThreatEdit{random.one_of(ground.threats), cell, Side(random.whole(0, side_count(board.tiling) - 1))};
    }
    script.edits.push_back(edit);
  }
  for (int i = random.whole(0, 6); i > 0; --i) {
    Go go{.name = "unit " + std::to_string(i)};
    go.mover = static_cast<MoverId>(random.whole(0, static_cast<int>(ground.live.movers().size()) - 1));
    go.from = random.cell(board.size);
    go.to = random.cell(board.size);
    go.tick = static_cast<std::uint32_t>(random.whole(0, 8));
    go.plan = static_cast<GoPlan>(random.whole(0, 3));
    go.walker = all_walkers[static_cast<std::size_t>(random.whole(0, 6))];
    go.care = {.wary = 1_steps, .linger = random.chance(50) ? 50_hundredths : 0_hundredths};
    go.seed = random.next();
    go.leaves = random.chance(40);
    script.units.push_back(std::move(go));
  }
  return script;
}

LiveGround ground_with_threats(Random& random) {
  LiveGround ground = random_live_ground(random, 16);
  for (int i = random.whole(0, 2); i > 0; --i) {
    if (const auto id = ground.live.add_threat(random_threat(random, ground.live.board())))
      ground.threats.push_back(*id);
  }
  ground.live.commit();
  return ground;
}

std::vector<Cell> body(const LiveGround& ground, const Go& go, Cell at) {
  std::vector<Cell> cells;
  Footprint::of_size(ground.live.board().tiling, ground.live.movers()[go.mover].size)
      .cells_at(ground.live.board().tiling, at, cells);
  return cells;
}

/// The cell of a unit after a tick; nothing while it is off the board.
std::optional<Cell> cell_after(const Gone& gone, const Go& go) {
  if (gone.path.empty() || (gone.arrived && go.leaves)) return std::nullopt;
  return gone.path.back();
}

}  // namespace

TEST_CASE("scripted runs keep the law at every tick, on 600 random maps and scripts") {
  Searcher searcher;
  std::size_t arrived = 0;
  std::size_t refused = 0;
  std::size_t events = 0;
  for (const std::uint64_t seed : seeds(600)) {
    INFO("seed " << seed);
    Random random(seed);
    LiveGround ground = ground_with_threats(random);
    const PlayScript script = random_script(random, ground);
    Play play(ground.live, script);
    std::vector<Gone> before = play.units();
    for (std::uint32_t tick = 0; !play.ended(); ++tick) {
      INFO("tick " << tick);
      REQUIRE(tick < script.ticks);
      const Map map_before = ground.live.map();
      const Levels levels_before = ground.live.danger().levels();
      const PlayTick happened = play.step();
      refused += happened.refused.size();
      std::size_t edits = 0;
      for (const PlayEdit& edit : script.edits) edits += edit.tick == tick ? 1U : 0U;
      REQUIRE(happened.refused.size() <= edits);
      if (edits == 0) REQUIRE((happened.changed.empty() && happened.events.empty()));
      for (const Cell cell : map_before.size().cells()) {
        const bool differs = map_before.terrain_at(cell) != ground.live.map().terrain_at(cell) ||
                             map_before.closed_sides(cell) != ground.live.map().closed_sides(cell) ||
                             levels_before[cell] != ground.live.danger().level(cell);
        const bool told = std::find(happened.changed.begin(), happened.changed.end(), cell) != happened.changed.end();
        if (differs) REQUIRE(told);
      }
      // Exactly one event for each unit that planned a route and stood before the moves.
      std::set<std::size_t> told;
      for (const PlayEvent& event : happened.events) {
        const Go& go = script.units[event.unit];
        REQUIRE(told.insert(event.unit).second);
        REQUIRE((go.plan == GoPlan::route || go.plan == GoPlan::wary));
        if (go.plan != GoPlan::route) continue;
        const Route& fresh = searcher.route(ground.live.costs(go.mover), before[event.unit].path.back(), go.to);
        REQUIRE(event.cost.has_value() == fresh.found());
        if (fresh.found()) REQUIRE(*event.cost == fresh.cost());
        REQUIRE((event.at.has_value() == (event.what == Standing::broken)));
      }
      events += happened.events.size();
      std::map<Cell, std::size_t> covered;
      for (std::size_t i = 0; i < script.units.size(); ++i) {
        const Go& go = script.units[i];
        const Gone& was = before[i];
        const Gone& now = play.units()[i];
        const bool planner = go.plan == GoPlan::route || go.plan == GoPlan::wary;
        if (edits > 0) REQUIRE(told.contains(i) == (planner && !was.path.empty() && !was.arrived));
        if (const auto cell = cell_after(now, go)) {
          for (const Cell part : body(ground, go, *cell)) REQUIRE(covered.emplace(part, i).second);
        }
        if (was.arrived) {
          REQUIRE(now.path == was.path);
          continue;
        }
        if (now.path.empty()) continue;
        REQUIRE(tick >= go.tick);
        REQUIRE(now.path.front() == go.from);
        const CostGrid& costs = ground.live.costs(go.mover);
        if (now.path.size() == 1) {
          REQUIRE((go.from == go.to && now.arrived == tick));
          continue;
        }
        REQUIRE(now.path.size() == std::max<std::size_t>(was.path.size(), 1) + 1);
        const Cell from = now.path[now.path.size() - 2];
        const Cell to = now.path.back();
        if (from == to) {
          REQUIRE(now.cost == was.cost);
        } else {
          const std::array<Cell, 2> step = {from, to};
          const auto cost = cost_of_path(costs, step);
          REQUIRE(cost);
          REQUIRE(now.cost == was.cost + *cost);
        }
        REQUIRE(now.arrived.has_value() == (to == go.to));
        if (now.arrived) REQUIRE(*now.arrived == tick);
      }
      before = play.units();
    }
    for (const Gone& gone : play.units()) arrived += gone.arrived ? 1U : 0U;
    REQUIRE(play.all_arrived() ==
            std::all_of(play.units().begin(), play.units().end(), [](const Gone& g) { return g.arrived.has_value(); }));
  }
  CHECK(arrived > share_of(300));
  CHECK(refused > share_of(100));
  CHECK(events > share_of(500));
}

TEST_CASE("the same script on the same map runs the same again") {
  for (const std::uint64_t seed : seeds(100)) {
    std::vector<std::vector<Cell>> paths[2];
    for (auto& run : paths) {
      Random random(seed);
      LiveGround ground = ground_with_threats(random);
      Play play(ground.live, random_script(random, ground));
      while (!play.ended()) play.step();
      for (const Gone& gone : play.units()) run.push_back(gone.path);
    }
    INFO("seed " << seed);
    REQUIRE(paths[0] == paths[1]);
  }
}

TEST_CASE("who is in the way is waited for and then gone round, and edits that would cover a unit are refused") {
  Map map({Tiling::square(), {7, 3}}, {{.name = "sand"}, {.name = "rock", .cost = blocked}});
  LiveMap live(map, {{.name = "crab", .rules = {.steps = 4}}});
  PlayScript script{.ticks = 20};
  // The first stands in the middle for good; the second comes straight at it, bumps once, and goes round.
  script.units.push_back({.name = "rock crab", .from = {3, 1}, .to = {3, 1}});
  script.units.push_back({.name = "walker", .from = {0, 1}, .to = {6, 1}});
  script.units.push_back({.name = "late", .from = {0, 0}, .to = {0, 0}, .tick = 3, .leaves = true});
  script.edits.push_back({2, PaintEdit{1, {{5, 0}, {3, 1}}}});  // would cover the first
  script.edits.push_back({4, PaintEdit{1, {{5, 1}}}});
  Play play(live, script);
  std::vector<RefusedEdit> refused;
  std::vector<PlayEvent> events;
  while (!play.ended()) {
    const PlayTick& tick = play.step();
    refused.insert(refused.end(), tick.refused.begin(), tick.refused.end());
    events.insert(events.end(), tick.events.begin(), tick.events.end());
  }
  REQUIRE(refused.size() == 1);
  CHECK(refused[0].edit == 0);
  CHECK(refused[0].covers == 0U);
  CHECK(live.map().terrain_at({5, 0}) == 0);
  CHECK(play.units()[0].arrived == 0U);
  CHECK(play.units()[0].path == std::vector<Cell>{{3, 1}});
  CHECK(play.units()[2].arrived == 3U);
  const Gone& walker = play.units()[1];
  REQUIRE(walker.arrived);
  CHECK(walker.path[2] == Cell{2, 1});
  CHECK(walker.path[3] == Cell{2, 1});  // it bumped and waited
  CHECK(walker.cost == (walker.path.size() - 2) * 100);
  REQUIRE(events.size() == 2);
  CHECK(events[0].what == Standing::holds);
}

TEST_CASE("whoever meets units that stand for good gets round them wherever a way does, on 600 random maps") {
  Searcher searcher;
  std::size_t arrived = 0;
  std::size_t went_round = 0;
  for (const std::uint64_t seed : seeds(600)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Size size{random.whole(5, 14), random.whole(5, 12)};
    Map map({tiling, size}, {{.name = "sand"}, {.name = "kelp", .cost = 250}, {.name = "rock", .cost = blocked}});
    const bool ring = random.chance(30);  // a corridor round an island of rock
    for (const Cell cell : size.cells()) {
      const bool inside = Rect::whole(size).contains(cell + Offset{2, 2}) && cell.col > 1 && cell.row > 1;
      const bool rock = ring ? inside : random.chance(12);
      map.set_terrain(cell, static_cast<TerrainId>(rock ? 2 : random.chance(20) ? 1 : 0));
    }
    Mover sled = random_mover(random, tiling);
    sled.size = tiling.shape() == Shape::triangle ? 1 : 2;
    sled.costs.clear();
    LiveMap live(map, {{.name = "crab", .rules = random_rules(random, tiling)}, sled});
    const Board board = live.board();
    for (int i = random.whole(0, 3); i > 0; --i) {
      const Cell cell = random.cell(board.size);
      (void)(random.chance(50) ? live.close_for(cell) : live.add_cost(cell, 4_steps));
    }
    live.commit();
    Go goes{.name = "goes"};
    goes.mover = static_cast<MoverId>(random.whole(0, static_cast<int>(live.movers().size()) - 1));
    goes.from = random.cell(board.size);
    goes.to = random.cell(board.size);
    goes.plan = static_cast<GoPlan>(random.whole(0, 2));
    const CostGrid costs = live.costs(goes.mover);
    const Route plan = searcher.route(costs, goes.from, goes.to);
    PlayScript script{.ticks = 6 * static_cast<std::uint32_t>(board.size.cell_count()) + 20};
    std::vector<EntryChange> standing;
    std::vector<Cell> body;
    for (int i = random.whole(1, 5); i > 0; --i) {
      const auto mover = static_cast<MoverId>(random.whole(0, static_cast<int>(live.movers().size()) - 1));
      const bool on_way = plan.steps() > 1 && random.chance(70);
      const Cell cell = on_way ? plan.cells()[static_cast<std::size_t>(random.whole(1, static_cast<int>(plan.steps())))]
                               : random.cell(board.size);
      body_cells(board.tiling, cell, live.movers()[mover].size, body);
      const auto meets = [&](Cell part) {
        return std::any_of(standing.begin(), standing.end(), [&](const EntryChange& c) { return c.cell == part; });
      };
      if (!live.costs(mover).open(cell) || std::any_of(body.begin(), body.end(), meets)) continue;
      for (const Cell part : body) standing.push_back({part, blocked});
      script.units.push_back({.name = "post", .mover = mover, .from = cell, .to = cell});
    }
    script.units.push_back(goes);
    const bool can = searcher.route(costs, goes.from, goes.to, {.changes = standing}).found();
    Play play(live, script);
    while (!play.ended()) play.step();
    const Gone& gone = play.units().back();
    // A body stands in the way of a detour's corners, but not of the plan's: some arrive that could not go round.
    if (can) REQUIRE(gone.arrived.has_value());
    if (!plan.found()) REQUIRE_FALSE(gone.arrived.has_value());
    arrived += can && goes.from != goes.to ? 1U : 0U;
    for (std::size_t i = 1; i < gone.path.size(); ++i) {
      const bool waits = gone.path[i] == gone.path[i - 1];
      went_round += waits && can && i + 1 < gone.path.size() ? 1U : 0U;
    }
  }
  CHECK(arrived > share_of(100));
  CHECK(went_round > share_of(50));
}
