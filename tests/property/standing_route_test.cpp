// Standing routes against fresh searches, while the map changes and the unit walks.
#include <catch2/catch.hpp>

#include "saunter/live/standing_route.hpp"
#include "saunter/search/path.hpp"
#include "saunter/search/searcher.hpp"
#include "support/seeds.hpp"
#include "support/random_changes.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// What must be true of a route after any change, by the law's own words.
void check_report(const StandingRoute& route, const CostGrid& costs, const std::vector<Cell>& rest_before,
                  Searcher& searcher) {
  const Route& fresh = searcher.route(costs, route.cell(), route.goal());
  const RouteReport& report = route.report();
  REQUIRE(route.reason() == fresh.verdict().reason);
  REQUIRE(report.cost.has_value() == fresh.found());
  if (fresh.found()) {
    REQUIRE(*report.cost == fresh.cost());
    REQUIRE(route.cells().front() == route.cell());
    REQUIRE(route.cells().back() == route.goal());
    REQUIRE(cost_of_path(costs, route.cells()) == fresh.cost());
  }
  if (rest_before.empty()) {
    REQUIRE(report.standing == (fresh.found() ? Standing::better : Standing::broken));
    if (!fresh.found()) REQUIRE(report.at == route.cell());
    return;
  }
  const auto cost_before = cost_of_path(costs, rest_before);
  if (!cost_before) {
    REQUIRE(report.standing == Standing::broken);
    if (report.step == 0) {
      REQUIRE_FALSE(costs.open(rest_before.front()));
      return;
    }
    REQUIRE(report.at == rest_before[report.step]);
    REQUIRE(cost_of_path(costs, std::span(rest_before).first(report.step)));
    REQUIRE_FALSE(cost_of_path(costs, std::span(rest_before).first(report.step + 1)));
  } else if (*cost_before > fresh.cost()) {
    REQUIRE(report.standing == Standing::better);
    REQUIRE(report.saved == *cost_before - fresh.cost());
  } else {
    REQUIRE(report.standing == Standing::holds);
    REQUIRE(std::vector<Cell>(route.cells().begin(), route.cells().end()) == rest_before);
  }
}

/// Much open ground of two costs, where what opens elsewhere makes better ways.
Ground open_ground(Random& random) {
  const Tiling tiling = random.one_of(all_tilings());
  Ground made;
  made.map = Map({tiling, {random.whole(8, 30), random.whole(8, 30)}},
                 {{.name = "rock", .cost = blocked}, {.name = "sand"}, {.name = "kelp", .cost = 180}});
  for (const Cell cell : made.map.size().cells()) {
    made.map.set_terrain(cell, static_cast<TerrainId>(random.chance(20) ? 0 : random.chance(70) ? 1 : 2));
  }
  made.mover = Mover{.name = "crab", .rules = random_rules(random, tiling)};
  made.costs = bake(made.map, made.mover);
  return made;
}

}  // namespace

TEST_CASE("a standing route costs what a fresh search finds: 1,000 random maps, 50 edits each, its unit walking on") {
  Searcher searcher;
  StandingRoute route;
  std::size_t proven = 0;
  std::size_t better = 0;
  std::size_t broken = 0;
  for (const std::uint64_t seed : seeds(1000)) {
    INFO("seed " << seed);
    Random random(seed);
    Ground ground = seed % 2 == 0 ? random_ground(random, 26, random.chance(60)) : open_ground(random);
    BitGrid occupied(ground.map.size());
    const Cell goal = random.chance(90) ? random.cell(ground.map.size()) : Cell{-1, 0};
    route.begin(ground.costs, random.cell(ground.map.size()), goal);
    check_report(route, ground.costs, {}, searcher);
    for (int edit = 0; edit < 50; ++edit) {
      INFO("edit " << edit);
      if (random.chance(60) && route.cells().size() > 1) {
        route.stand_at(route.cells()[random.chance(80) || route.cells().size() == 2 ? 1 : 2]);
      } else if (route.cell() == goal || random.chance(5)) {
        route.stand_at(random.cell(ground.map.size()));
      }
      const std::vector<Cell> rest(route.cells().begin(), route.cells().end());
      for (int i = random.chance(80) ? 1 : random.whole(0, 4); i > 0; --i) {
        if (seed % 2 == 0) {
          random_change(random, ground.map, occupied, ground.mover, ground.costs);
          continue;
        }
        Cell cell = random.cell(ground.map.size());
        if (!rest.empty() && random.chance(70)) {
          const auto on_route = static_cast<std::size_t>(random.whole(0, static_cast<int>(rest.size()) - 1));
          cell = rest[on_route] + Offset{random.whole(-3, 3), random.whole(-3, 3)};
          if (!ground.map.size().contains(cell)) continue;
        }
        ground.map.set_terrain(cell, static_cast<TerrainId>(random.chance(30) ? 0 : random.whole(1, 2)));
        rebake(ground.costs, ground.map, ground.mover, Rect::of(cell));
      }
      if (random.chance(50)) {
        route.follow(ground.costs);
      } else if (!route.notice(ground.costs)) {
        while (!route.run(static_cast<std::uint64_t>(random.whole(1, 20)))) {
        }
      }
      check_report(route, ground.costs, rest, searcher);
      proven += route.report().searched ? 0U : 1U;
      better += route.report().saved ? 1U : 0U;
      broken += route.report().standing == Standing::broken ? 1U : 0U;
    }
  }
  CHECK(proven > share_of(5000));
  CHECK(better > share_of(150));
  CHECK(broken > share_of(2000));
}

TEST_CASE("a grid that changes while a standing route searches in slices is noticed") {
  Searcher searcher;
  StandingRoute route;
  for (const std::uint64_t seed : seeds(200)) {
    INFO("seed " << seed);
    Random random(seed);
    Ground ground = random_ground(random, 26, true);
    BitGrid occupied(ground.map.size());
    route.begin_stepped(ground.costs, random.cell(ground.map.size()), random.cell(ground.map.size()));
    for (int i = 0; i < 10 && !route.run(3); ++i) {
      random_change(random, ground.map, occupied, ground.mover, ground.costs);
    }
    while (!route.run(50)) {
    }
    check_report(route, ground.costs, {}, searcher);
  }
}

TEST_CASE("a standing route called in any order: edits, slices, steps on and off it, new goals, on 600 random maps") {
  Searcher searcher;
  StandingRoute route;
  std::size_t whole = 0;
  drive_on(600, [&](std::uint64_t seed) {
    INFO("seed " << seed);
    Random random(seed);
    Ground ground = random.chance(50) ? open_ground(random) : random_ground(random, 20, random.chance(40));
    BitGrid occupied(ground.map.size());
    const auto anywhere = [&]() -> Cell {
      if (random.chance(90)) return random.cell(ground.map.size());
      constexpr auto far = std::numeric_limits<std::int32_t>::max();
      return random.chance(50) ? Cell{random.whole(-2, 30), -1} : Cell{random.chance(50) ? far : -far - 1, far};
    };
    route.begin_stepped(ground.costs, anywhere(), anywhere());
    bool current = false;  // nothing has changed since it was whole but where the unit stands
    for (int call = 0; call < 60; ++call) {
      const int what = random.whole(0, 9);
      INFO("call " << call << " of kind " << what);
      const std::vector<Cell> rest(route.cells().begin(), route.cells().end());
      if (what <= 2) {
        random_change(random, ground.map, occupied, ground.mover, ground.costs);
      } else if (what == 3) {
        route.stand_at(anywhere());
      } else if (what == 4 && rest.size() > 1) {
        route.stand_at(rest[static_cast<std::size_t>(random.whole(1, static_cast<int>(rest.size()) - 1))]);
        REQUIRE(route.cells().front() == route.cell());
      } else if (what == 5 && random.chance(20)) {
        route.begin_stepped(ground.costs, random.chance(50) ? route.cell() : anywhere(), anywhere());
      } else if (what == 6) {
        route.notice(ground.costs);
      } else if (what == 7) {
        route.run(static_cast<std::uint64_t>(random.whole(0, 12)));
      } else if (what >= 8) {
        // Ended here: a look is enough, or a search at once or by slices. Then all is as a fresh search tells.
        if (random.chance(50)) {
          route.follow(ground.costs);
        } else if (!route.notice(ground.costs)) {
          while (!route.run(static_cast<std::uint64_t>(random.whole(1, 40)))) {
          }
        }
        REQUIRE(route.ended());
        check_report(route, ground.costs, rest, searcher);
        ++whole;
      }
      if (!route.cells().empty()) REQUIRE(route.cells().front() == route.cell());
      if (!route.cells().empty()) REQUIRE(route.cells().back() == route.goal());
      current = what >= 8 || (current && what >= 3 && what != 5);
      if (!current) continue;
      REQUIRE(route.report().cost.has_value() == !route.cells().empty());
      if (route.report().cost) REQUIRE(cost_of_path(ground.costs, route.cells()) == *route.report().cost);
    }
  });
  CHECK(whole > share_of(4000));
}
