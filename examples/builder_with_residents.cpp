// Placing huts where residents live: nobody may be walled in, and whatever changes is followed at once, block by block.
#include <cstdio>
#include <vector>

#include "saunter/saunter.hpp"

using namespace saunter;

int main() {
  Map map({Tiling::square(), {20, 12}}, {{.name = "sand"}, {.name = "channel", .cost = blocked}});
  for (int row = 0; row < 12; ++row) map.set_terrain({10, row}, 1);
  map.set_terrain({10, 5}, 0);  // the only ford
  const Mover crab{.name = "crab"};
  Occupancy units(map.board());
  CostGrid costs = bake(map, crab, &units.blocking());
  Regions regions(costs);
  Searcher searcher;
  Field to_ford;
  const Source ford{{10, 5}};
  searcher.field_to(costs, {&ford, 1}, to_ford);

  // Two residents, one on each bank. They are kept: wherever something is built, they must still reach each other.
  const UnitId keeper = units.add({}, 0, false);
  const UnitId diver = units.add({}, 0, false);
  units.place(keeper, {.at = {2, 2}});
  units.place(diver, {.at = {17, 9}});
  units.keep(keeper);
  units.keep(diver);
  std::vector<Cell> residents;
  units.residents(residents);

  const Footprint hut({{0, 0}, {1, 0}, {0, 1}, {1, 1}});
  const UnitId a = units.add(hut);
  const UnitId b = units.add(hut);
  Fitter fitter;
  const FitTerms terms{
      .map = &map, .mover = &crab, .units = &units, .keep_open = residents, .costs = &costs, .regions = &regions};
  const auto build = [&](UnitId id, Cell at) {
    const auto problems = fitter.problems(terms, hut, {.at = at});
    if (!problems.empty()) {
      std::printf("not at %d,%d: %s\n", at.col, at.row, fault_name(problems.front().why).data());
      return;
    }
    units.place(id, {.at = at});
    rebake(costs, map, crab, units.changed_blocks(), &units.blocking());
    regions.update(costs);
    searcher.repair(costs, to_ford);
    std::printf("built at %d,%d\n", at.col, at.row);
  };
  build(a, {8, 4});  // on the way to the ford: the banks would come apart
  build(a, {4, 4});
  build(b, {13, 8});

  // Both move at once, each into the other's place; then one is gone for good.
  const UnitMove moves[] = {{a, {.at = {13, 8}}}, {b, {.at = {4, 4}}}};
  std::printf("exchanged: %s\n", units.move_all(moves) ? "yes" : "no");
  ChangeSet changed = units.changed_blocks();
  units.remove(b);
  changed.add(units.changed_blocks());
  rebake(costs, map, crab, changed, &units.blocking());
  regions.update(costs);
  searcher.repair(costs, to_ford);
  std::printf("%zu blocks changed, the field is right again: %s\n", changed.blocks().size(),
              to_ford.made_from(costs) ? "yes" : "no");
  return 0;
}
