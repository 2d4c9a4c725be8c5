// Sneaking past a guard that walks and turns: plan over cells and ticks, watch it tick by tick, and find cover on the
// way.
#include <cstdio>

#include "saunter/saunter.hpp"

using namespace saunter;

int main() {
  Map map({Tiling::square(), {15, 7}}, {{.name = "sand"}, {.name = "boulder", .cost = blocked, .opaque = true}});
  for (const Cell cell : {Cell{4, 1}, Cell{4, 2}, Cell{4, 4}, Cell{4, 5}, Cell{10, 2}, Cell{10, 3}, Cell{10, 4}}) {
    map.set_terrain(cell, 1);
  }
  const CostGrid costs = bake(map, {.name = "crab"});
  const SightGrid sight(map.board(), opaque_terrain(map));

  // A gull paces between two posts and looks the way it goes; a second one turns on its perch.
  const Threat gull{.range = 5_steps, .levels = {{100_hundredths, 3}}, .needs_sight = true, .arc = 120};
  const Schedule pacing{{{0, {7, 1}, Facing::from_degrees(180)}, {4, {7, 3}, Side(4)}, {8, {7, 5}, Side(0)}}, 12};
  TimedDanger danger(map.board());
  danger.add(sight, gull, pacing);
  danger.add(sight, gull, sweep({12, 0}, 90, 270, 45, 2));

  const Cell from{1, 3};
  const Cell to{13, 6};
  TimedSearcher searcher;
  const TimedRoute& bold = searcher.route(costs, danger, from, to, {.wary = 0_steps});
  std::printf("heedless: %zu ticks, exposure %s\n", bold.ticks(),
              to_decimal(static_cast<std::int64_t>(bold.exposure())).c_str());
  const TimedRoute& way = searcher.route(costs, danger, from, to, {.wary = 4_steps, .waiting = 50_hundredths});
  std::printf("on time: %zu ticks, %zu of them waiting, exposure %s\n", way.ticks(), way.waits(),
              to_decimal(static_cast<std::int64_t>(way.exposure())).c_str());
  for (std::size_t tick = 0; tick < way.cells().size(); ++tick) {
    const int level = danger.level(way.cells()[tick], tick);
    if (level > 0) std::printf("tick %zu: seen at %d,%d\n", tick, way.cells()[tick].col, way.cells()[tick].row);
  }

  // Checked again before it sets out: every step, every wait, at its tick.
  const InspectOptions by_ticks{.timed = &danger, .waiting = true};
  std::printf("it holds: %s\n", inspect_path(map, {.name = "crab"}, costs, way.cells(), by_ticks).ok() ? "yes" : "no");

  // The gull looks round: where to hide now, by what the way there weighs.
  Levels now;
  danger.levels(6, now);
  CoverFinder finder;
  for (const Cover& cover : finder.find(costs, now, {7, 4}, {.care = {.wary = 2_steps}})) {
    std::printf("cover at %d,%d\n", cover.cell.col, cover.cell.row);
  }
  return 0;
}
