// A rally point that is not one cell: 60 robots gather about it, each in a place of its own, sharing one wary ground.
#include <cstdio>
#include <vector>

#include "saunter/saunter.hpp"

using namespace saunter;

int main() {
  const CostGrid costs = to_costs(make_cave({Tiling::square(), {96, 64}}, {.seed = 5}));
  const Regions regions(costs);

  // The squad: wherever the dice drop them. The rally point: as far east as the cave goes.
  Dice dice(11);
  std::vector<Cell> squad;
  Cell rally{0, 32};
  for (const Cell cell : costs.size().cells()) {
    if (regions.at(cell) == regions.largest()->id && cell.col > rally.col) rally = cell;
  }
  while (squad.size() < 60) {
    const Cell cell{static_cast<std::int32_t>(dice.below(48)), static_cast<std::int32_t>(dice.below(64))};
    if (regions.same(cell, rally)) squad.push_back(cell);
  }

  // Two in front, the rest wherever there is room; the last one as soon as can be.
  const std::vector<Offset> formation = {{-1, 0}, {-1, 1}};
  Gatherer gatherer;
  const Gathering least = gatherer.gather(costs, squad, rally, {.formation = formation});
  const Gathering& soonest = gatherer.gather(costs, squad, rally, {.aim = GatherAim::soonest, .formation = formation});
  std::printf("%zu of %zu have a place\n", least.placed, squad.size());
  std::printf("the soonest is no later: %s, the least sum no more: %s\n", soonest.last <= least.last ? "yes" : "no",
              least.sum <= soonest.sum ? "yes" : "no");

  // A wall lands on the place of one of them: the way out for whoever stood there.
  CostGrid walled = costs;
  const Cell place = *least.units.front().to;
  walled.set_entry(place, 0_steps);
  const auto out = unstick(walled, place);
  std::printf("out through %zu blocked cell\n", out->blocked);
  return 0;
}
