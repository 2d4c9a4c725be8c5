// Digs tide pools at random, finds the connected parts, opens as little rock as possible so that all meet, and
// proves that they do.
#include <saunter/saunter.hpp>

#include <cstdio>

int main() {
  constexpr saunter::Size size{48, 20};
  const std::vector<saunter::Terrain> kinds = {{.name = "sand"},
                                               {.name = "rock", .cost = saunter::blocked, .breach = 300},
                                               {.name = "weed", .cost = saunter::blocked}};
  saunter::Map map({saunter::Tiling::square(), size}, kinds);
  std::uint32_t state = 2026;
  const auto random = [&](std::uint32_t below) {  // a small generator: the same everywhere
    state = state * 1664525U + 1013904223U;
    return (state >> 16U) % below;
  };
  for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
    map.set_terrain(size.cell(saunter::CellIndex{i}),
                    static_cast<saunter::TerrainId>(random(100) < 55 ? 0 : 1 + random(2)));
  }
  const saunter::Mover crab{.name = "crab"};

  saunter::CostGrid costs = saunter::bake(map, crab);
  const saunter::Regions before(costs);
  const saunter::JoinPlan plan =
      saunter::plan_joins(map, crab, costs, before, saunter::BreachCosts(map, costs), {.least_cells = 4});
  std::size_t opened = 0;
  for (const saunter::Join& join : plan.joins) {
    for (const saunter::Cell cell : join.opens) {
      map.set_terrain(cell, 0);
      saunter::rebake(costs, map, crab, saunter::Rect::of(cell));
      ++opened;
    }
  }
  std::printf("%zu regions; %zu joins for %s open %zu cells\n", before.list().size(), plan.joins.size(),
              saunter::to_decimal(static_cast<std::int64_t>(plan.cost)).c_str(), opened);

  // Proof: every region that was to be joined is now in one with the first of them.
  const saunter::Regions after(costs);
  std::size_t joined = 0;
  std::size_t apart = 0;
  saunter::Cell first{-1, -1};
  for (const saunter::Region& region : before.list()) {
    if (region.cells < 4) continue;
    if (first.col < 0) first = region.first;
    after.same(first, region.first) ? ++joined : ++apart;
  }
  std::printf("%zu regions of 4 cells or more are one now, %zu are apart\n", joined, apart);
  return apart == 0 ? 0 : 1;
}
