// A player drags a hut about. While it hangs in the air every place says at once whether it fits and why not; dropped
// where it does not, it goes back to where it was, and nothing has changed.
#include <saunter/saunter.hpp>

#include <cstdio>
#include <string_view>

namespace {

constexpr std::string_view shore =
    "............"
    "............"
    "#####..#####"
    "............"
    "............"
    "............";
constexpr saunter::Size size{12, 6};

saunter::Map shore_map() {
  saunter::Map map({saunter::Tiling::square(), size}, {{.name = "sand"}, {.name = "rock", .cost = saunter::blocked}});
  for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
    if (shore[i] == '#') map.set_terrain(size.cell(saunter::CellIndex{i}), 1);
  }
  return map;
}

}  // namespace

int main() {
  const saunter::Map map = shore_map();
  const saunter::Mover crab{.name = "crab"};
  saunter::Occupancy units(map.board());
  const saunter::UnitId hut = units.add(saunter::Footprint({{0, 0}, {1, 0}}));
  const saunter::UnitId crate = units.add(saunter::Footprint());
  (void)units.place(hut, {.at = {1, 4}});
  (void)units.place(crate, {.at = {9, 4}});
  saunter::CostGrid costs = saunter::bake(map, crab, &units.blocking());
  saunter::Regions regions(costs);

  // Picked up: what follows the map is brought up to date with the cells that changed.
  const auto follow = [&] {
    regions.update(costs, saunter::rebake(costs, map, crab, units.changed_block(), &units.blocking()));
  };
  const saunter::Pose home = units.unit(hut).pose;
  units.lift(hut);
  follow();

  const saunter::Cell keep_open[] = {{0, 0}, {0, 5}};
  const saunter::FitTerms terms{
      .map = &map, .mover = &crab, .units = &units, .keep_open = keep_open, .costs = &costs, .regions = &regions};
  saunter::Fitter fitter;
  saunter::Pose dropped = home;
  for (const saunter::Cell at : {saunter::Cell{8, 4}, {4, 2}, {11, 0}, {5, 2}}) {
    dropped.at = at;
    std::printf("%d,%d:", at.col, at.row);
    for (const saunter::FitProblem& problem : fitter.problems(terms, units.unit(hut).footprint, dropped)) {
      const std::string_view why = saunter::fault_name(problem.why);
      std::printf(" %.*s at %d,%d", static_cast<int>(why.size()), why.data(), problem.at.col, problem.at.row);
    }
    std::printf("\n");
  }

  // Dropped in the gap, which would seal it: back it goes.
  const auto spots = fitter.spots(terms, units.unit(hut).footprint);
  if (!fitter.fits(terms, units.unit(hut).footprint, dropped)) (void)units.place(hut, home);
  follow();
  const bool as_before = costs == saunter::bake(map, crab, &units.blocking()) && units.unit(hut).pose == home;
  const auto nearest = saunter::nearest_spot(map.tiling(), spots, dropped.at);
  std::printf("refused; %s; %zu spots, the nearest %d,%d\n", as_before ? "nothing has changed" : "something is wrong",
              spots.count(), nearest->col, nearest->row);
  return 0;
}
