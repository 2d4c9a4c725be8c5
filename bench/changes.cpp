// What follows a changed map, beside doing it all anew: both in one run, by turns.
#include <fmt/format.h>

#include <algorithm>
#include <string>
#include <vector>

#include "saunter/live.hpp"
#include "saunter/search/searcher.hpp"
#include "textbook.hpp"
#include "support/random_maps.hpp"
#include "timing.hpp"

using namespace saunter;
using namespace saunter::test;
using saunter::bench::micros;
using saunter::bench::Times;

namespace {

enum class Kind { noise, weighted, rooms };
const char* name_of(Kind kind) { return kind == Kind::noise ? "noise" : kind == Kind::weighted ? "weighted" : "rooms"; }

CostGrid make_grid(Kind kind, int side) {
  Random random(7);
  return CostGrid({Tiling::square(), {side, side}}, {}, [&](Cell cell) -> EntryCost {
    if (kind == Kind::rooms) {
      const bool wall = cell.col % 33 == 32 || cell.row % 33 == 32;
      return wall && !random.chance(3) ? blocked : EntryCost{100};
    }
    if (kind == Kind::noise) return random.chance(20) ? blocked : EntryCost{100};
    return random.chance(10) ? blocked : static_cast<EntryCost>(100 * random.whole(1, 6));
  });
}

/// One cell that is closed or opened: what is open now and what it costs then.
struct Toggle {
  Cell cell;
  EntryCost before = blocked;
  EntryCost after = blocked;
};
Toggle random_toggle(const CostGrid& costs, Random& random, Kind kind) {
  const Cell cell = random.cell(costs.size());
  const auto open = kind == Kind::weighted ? static_cast<EntryCost>(100 * random.whole(1, 6)) : EntryCost{100};
  return {cell, costs.entry(cell), costs.open(cell) ? blocked : open};
}

void field_repair(Kind kind, int side, int toggles, int rebuild_every) {
  CostGrid costs = make_grid(kind, side);
  Searcher searcher;
  Random random(11);
  Cell goal = random.cell(costs.size());
  while (!costs.open(goal)) goal = random.cell(costs.size());
  const Source source{goal};
  Field field = searcher.field_to(costs, std::span(&source, 1));
  Field fresh = field;
  const auto repair = [&](Cell cell, EntryCost cost) {
    costs.set_entry(cell, Hundredths(cost));
    return micros([&] { searcher.repair(costs, field); });
  };
  const auto rebuild_once = [&] { return micros([&] { searcher.field_to(costs, std::span(&source, 1), fresh); }); };
  Times repairs;
  Times rebuilds;
  double worst_ratio = 0;
  std::size_t differing = 0;
  double slowest = 0;
  for (int i = 0; i < toggles; ++i) {
    const Toggle toggle = random_toggle(costs, random, kind);
    double took = repair(toggle.cell, toggle.after);
    repairs.add(took);
    const bool slow = took > slowest / 2;
    slowest = std::max(slowest, took);
    if (i % rebuild_every != 0 && !slow) continue;
    double anew = rebuild_once();
    rebuilds.add(anew);
    differing += fresh.costs() == field.costs() ? 0U : 1U;
    for (int again = 0; slow && again < 2; ++again) {  // the same once more: the machine has its moods
      repair(toggle.cell, toggle.before);
      took = std::min(took, repair(toggle.cell, toggle.after));
      anew = std::min(anew, rebuild_once());
    }
    worst_ratio = std::max(worst_ratio, took / anew);
  }
  const double rebuild = rebuilds.part(0.5);
  fmt::print(
      "{:<28} rebuild {:9.0f} us; repair mean {:8.1f} us ({:7.0f} x) median {:7.2f} us ({:7.0f} x) p99 {:7.0f} us, "
      "worst {:.2f} of a rebuild{}\n",
      fmt::format("field {} {}", name_of(kind), side), rebuild, repairs.mean(), rebuild / repairs.mean(),
      repairs.part(0.5), rebuild / repairs.part(0.5), repairs.part(0.99), worst_ratio,
      differing == 0 ? "" : "  DIFFERS");
}

/// A unit walks on, one cell is toggled a tick: the route that stands beside a fresh A* each tick.
void standing_route(Kind kind, int side) {
  CostGrid costs = make_grid(kind, side);
  Searcher searcher;
  Random random(13);
  Times standing;
  Times fresh;
  std::size_t searched = 0;
  std::size_t differing = 0;
  for (int walk = 0; walk < 12; ++walk) {
    Cell from = random.cell(costs.size());
    const Cell to = random.cell(costs.size());
    if (!searcher.route(costs, from, to).found()) continue;
    StandingRoute route;
    standing.add(micros([&] { route.begin(costs, from, to); }));
    fresh.add(micros([&] { (void)searcher.route(costs, from, to, {.by = Algorithm::astar}); }));
    while (route.cells().size() > 1) {
      const Cell next = route.cells()[1];
      const Toggle toggle = random_toggle(costs, random, kind);
      if (toggle.cell == next || toggle.cell == to || toggle.cell == from) continue;
      costs.set_entry(toggle.cell, Hundredths(toggle.after));
      if (!holds(costs.moves(from), costs.tiling().direction(from, next))) {  // a corner was closed
        route.follow(costs);
        continue;
      }
      from = next;
      standing.add(micros([&] {
        route.stand_at(from);
        route.follow(costs);
      }));
      searched += route.report().searched ? 1U : 0U;
      fresh.add(micros([&] { (void)searcher.route(costs, from, to, {.by = Algorithm::astar}); }));
      differing += route.report().cost == searcher.route(costs, from, to).cost() ? 0U : 1U;
    }
  }
  fmt::print(
      "{:<28} fresh A* mean {:8.1f} us; standing mean {:7.2f} us ({:6.0f} x) median {:5.2f} us, {:.1f} % of {} ticks "
      "searched{}\n",
      fmt::format("standing route {} {}", name_of(kind), side), fresh.mean(), standing.mean(),
      fresh.mean() / standing.mean(), standing.part(0.5), 100.0 * double(searched) / double(standing.all.size()),
      standing.all.size(), differing == 0 ? "" : "  DIFFERS");
}

/// Three movers, regions, 20 threats, a field and 100 routes on 512 x 512, a cell changed each commit: what each part
/// adds, and all of it made anew.
void commits() {
  const Size size{512, 512};
  Random random(17);
  Map map({Tiling::square(), size},
          {{.name = "rock", .cost = blocked, .opaque = true}, {.name = "sand"}, {.name = "kelp", .cost = 250}});
  for (const Cell cell : size.cells())
    map.set_terrain(cell, static_cast<TerrainId>(random.chance(20) ? 0 : random.whole(1, 2)));
  const std::vector<Mover> movers = {
      {.name = "crab"}, {.name = "roller", .rules = {.steps = 4}}, {.name = "sled", .size = 2}};
  const auto open_cell = [&](LiveMap& live, MoverId mover) {
    Cell cell = random.cell(size);
    while (!live.costs(mover).open(cell)) cell = random.cell(size);
    return cell;
  };
  const auto measure = [&](const char* what, auto&& ask) {
    LiveMap live(map, movers);
    ask(live);
    Times times;
    Random edits(19);
    for (int i = 0; i < 600; ++i) {
      const Cell cell = edits.cell(size);
      (void)live.set_terrain(cell, live.map().terrain_at(cell) == 0 ? 1 : 0);
      const double took = micros([&] { live.commit(); });
      if (i >= 100) times.add(took);
    }
    fmt::print("  {:<44} mean {:8.1f} us, median {:7.2f} us\n", what, times.mean(), times.part(0.5));
  };
  const auto grids = [&](LiveMap& live) {
    for (MoverId mover = 0; mover < 3; ++mover) (void)live.costs(mover);
  };
  const auto threats = [&](LiveMap& live) {
    for (int i = 0; i < 20; ++i)
      (void)live.add_threat({.at = random.cell(size), .range = 30_steps, .needs_sight = true});
    (void)live.danger();
  };
  const auto routes = [&](LiveMap& live) {
    for (int i = 0; i < 100; ++i) live.keep_route(0, open_cell(live, 0), open_cell(live, 0));
  };
  const auto field = [&](LiveMap& live) {
    for (;;) {  // not in a pocket
      const Source goal{open_cell(live, 0)};
      const FieldId id = live.keep_field(0, {&goal, 1});
      if (live.field(id).reached_count() > size.cell_count() / 2) return;
      live.drop_field(id);
    }
  };
  fmt::print("commits, one cell each, 512 x 512\n");
  measure("nothing asked for", [](LiveMap&) {});
  measure("cost grids of three movers", grids);
  measure("and their regions", [&](LiveMap& live) {
    for (MoverId mover = 0; mover < 3; ++mover) (void)live.regions(mover);
  });
  measure("20 threats that need sight, range 30", threats);
  measure("a field", field);
  measure("100 standing routes", routes);
  measure("all of it", [&](LiveMap& live) {
    for (MoverId mover = 0; mover < 3; ++mover) (void)live.regions(mover);
    threats(live);
    field(live);
    routes(live);
  });
}

/// A thousand units' step by a crowd, beside a textbook A* for each unit once.
void crowd_step() {
  const Size size{512, 512};
  Random random(23);
  const CostGrid costs({Tiling::square(), size}, {},
                       [&](Cell) -> EntryCost { return random.chance(20) ? blocked : EntryCost{100}; });
  Searcher searcher;
  Cell goal = random.cell(size);
  while (!costs.open(goal)) goal = random.cell(size);
  const Source source{goal};
  const Field field = searcher.field_to(costs, {&source, 1});
  Crowd crowd(costs.board());
  while (crowd.count() < 1000) {
    const Cell cell = random.cell(size);
    if (field.reached(cell)) (void)crowd.add(costs, cell);
  }
  const CrowdGround ground{&costs, &field};
  bench::Textbook textbook(costs);
  Times steps;
  Times routes;
  for (int tick = 0; tick < 300; ++tick) {
    steps.add(micros([&] { crowd.step({&ground, 1}, {.arrive_within = 30_steps}); }));
    if (tick % 15 != 0) continue;
    const Cell from = crowd.cell(crowd.units()[static_cast<std::size_t>(random.whole(0, 999))]);
    routes.add(micros([&] { (void)textbook.route(from, goal, true); }));
  }
  fmt::print("{:<28} mean {:.1f} us, worst {:.1f} us; a textbook A* for each of them {:.0f} us: {:.0f} x\n",
             "a step of 1,000 units", steps.mean(), steps.part(1), 1000 * routes.mean(),
             1000 * routes.mean() / steps.mean());
}

}  // namespace

int main() {
  for (const Kind kind : {Kind::noise, Kind::weighted, Kind::rooms}) {
    field_repair(kind, 512, 4000, 50);
    field_repair(kind, 2048, 1500, 50);
  }
  for (const Kind kind : {Kind::noise, Kind::weighted, Kind::rooms}) standing_route(kind, 512);
  standing_route(Kind::noise, 2048);
  commits();
  crowd_step();
}
