#include "pieces.hpp"

#include "saunter/ground/bake.hpp"
#include "saunter/region/joins.hpp"

namespace saunter::inline v0_2::detail {

CostGrid ground_of(Tiling tiling, const BitGrid& open) {
  return CostGrid({tiling, open.size()}, {.steps = tiling.edge_count()},
                  [&](Cell cell) { return open.test(cell) ? EntryCost{100} : blocked; });
}

void keep_largest(Tiling tiling, BitGrid& open) {
  const Regions regions(ground_of(tiling, open));
  const Region* const largest = regions.largest();
  if (largest == nullptr) return;
  for (const Cell cell : open.size().cells()) {
    if (regions.at(cell) != 0 && regions.at(cell) != largest->id) open.set(cell, false);
  }
}

std::vector<Cell> join_all(Tiling tiling, BitGrid& open, std::uint32_t least_cells) {
  const Size size = open.size();
  {
    const Regions regions(ground_of(tiling, open));
    for (const Cell cell : size.cells()) {
      const std::uint32_t id = regions.at(cell);
      if (id != 0 && regions.list()[id - 1].cells < least_cells) open.set(cell, false);
    }
  }
  Map map({tiling, size},
          {{.name = "floor"}, {.name = "rock", .cost = blocked}, {.name = "rim", .cost = blocked, .breach = {}}});
  Grid<TerrainId> terrain(size, TerrainId{1});
  for (const Cell cell : size.cells()) {
    const bool rim = cell.col == 0 || cell.row == 0 || cell.col + 1 == size.cols || cell.row + 1 == size.rows;
    terrain[cell] = open.test(cell) ? TerrainId{0} : rim ? TerrainId{2} : TerrainId{1};
  }
  (void)map.set_all_terrain(std::move(terrain));
  const Mover mover{.name = "digger", .rules = {.steps = tiling.edge_count()}};
  const CostGrid costs = bake(map, mover);
  const Regions regions(costs);
  std::vector<Cell> dug;
  for (const Join& join : plan_joins(map, mover, costs, regions, BreachCosts(map, costs)).joins) {
    for (const Cell cell : join.opens) {
      if (open.test(cell)) continue;
      open.set(cell);
      dug.push_back(cell);
    }
  }
  return dug;
}

}  // namespace saunter::inline v0_2::detail
