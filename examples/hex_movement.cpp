// A movement question on a hex map: may this unit get there with the movement points it has left?
#include <cstdio>
#include <vector>

#include "saunter/saunter.hpp"

int main() {
  using namespace saunter::literals;
  using saunter::Cell;
  const saunter::Tiling tiling = saunter::Tiling::hex(saunter::HexTop::pointy, saunter::Shift::odd);

  // Terrain kinds, painted cell by cell: a spit of sand with kelp on its far side and a boulder in the middle.
  saunter::Map map({tiling, {9, 6}},
                   {{.name = "sand"}, {.name = "kelp", .cost = 250}, {.name = "boulder", .cost = saunter::blocked}});
  for (int row = 0; row < 6; ++row) map.set_terrain({5, row}, 1);
  map.set_terrain({3, 2}, 2);

  // Two movers, two cost grids: each is baked once and read by any number of queries.
  const saunter::Mover crab{.name = "crab"};
  saunter::Mover roller{.name = "roller"};
  roller.costs = {100, saunter::blocked, saunter::blocked};  // by terrain: no kelp for wheels
  const saunter::CostGrid crab_costs = bake(map, crab);
  const saunter::CostGrid roller_costs = bake(map, roller);

  saunter::Searcher searcher;
  const Cell from{1, 2};
  const Cell to{7, 3};
  const saunter::Hundredths points = 9_steps;  // movement points
  struct {
    const char* name;
    const saunter::CostGrid& costs;
  } const units[] = {{"crab", crab_costs}, {"roller", roller_costs}};
  for (const auto& unit : units) {
    const saunter::Route& route = searcher.route(unit.costs, from, to, {.budget = points});
    if (route.found()) {
      std::printf("%s: yes, for %s of %s points\n", unit.name, saunter::to_decimal(route.cost()).c_str(),
                  saunter::to_decimal(points).c_str());
    } else {
      std::printf("%s: no, %s\n", unit.name, to_string(route.verdict()).c_str());
    }
  }

  // Where a click on the screen falls: cells 40 pixels apart, the centre of cell 0,0 at 50,50.
  const saunter::Frame screen(tiling, 40.0, {50.0, 50.0});
  const Cell clicked = screen.cell_at({212.0, 118.0});
  std::printf("the click is in cell %d,%d\n", clicked.col, clicked.row);
  return 0;
}
