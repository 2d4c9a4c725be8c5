// A level from a seed: rooms of a wreck joined by doors, crates along their walls, and proof that all of it can be
// reached.
#include <saunter/saunter.hpp>

#include <cstdio>

int main() {
  const saunter::Board board{saunter::Tiling::square(), {56, 36}};
  const saunter::Made wreck =
      saunter::make_rooms(board, {.by = saunter::RoomsMethod::split, .seed = 11, .extra = 2, .doors = true});
  const std::vector<saunter::Terrain> kinds = {{.name = "deep", .is_void = true},
                                               {.name = "hull", .cost = saunter::blocked},
                                               {.name = "deck"},
                                               {.name = "hatch"}};
  const saunter::Map map = saunter::to_map(wreck, kinds, {.beyond = 0, .wall = 1, .floor = 2, .door = 3});

  // Crates stand against the hull, never in a doorway, and seal nothing: the middle of every room stays reachable.
  const saunter::Mover crab{.name = "crab", .rules = {.steps = 4}};
  saunter::CostGrid costs = saunter::bake(map, crab);
  const saunter::Regions regions(costs);
  saunter::BitGrid hull(map.size());
  saunter::BitGrid doors(map.size());
  for (const saunter::Cell cell : map.size().cells()) hull.set(cell, wreck.parts[cell] == saunter::Part::wall);
  for (const saunter::Cell cell : wreck.doors) doors.set(cell);
  std::vector<saunter::Cell> middles;
  for (const saunter::Rect& box : wreck.rooms) {
    middles.push_back({(box.left + box.right - 1) / 2, (box.top + box.bottom - 1) / 2});
  }
  const std::vector<saunter::Rule> rules = {saunter::against(map.tiling(), hull),
                                            saunter::away_from(map.tiling(), doors, 2)};
  const saunter::FitTerms terms{
      .map = &map, .mover = &crab, .rules = rules, .keep_open = middles, .costs = &costs, .regions = &regions};
  saunter::Fitter fitter;
  const std::vector<saunter::ScatterUnit> crate(1);
  const saunter::ScatterResult crates = saunter::scatter(fitter, terms, crate, {.most = 60, .spacing = 1, .seed = 11});

  saunter::BitGrid occupied(map.size());
  for (const saunter::Scattered& one : crates.placed) occupied.set(one.pose.at);
  saunter::rebake(costs, map, crab, saunter::Rect::whole(map.size()), &occupied);
  const saunter::Field reach = saunter::Searcher().reach(costs, middles.front());
  std::size_t reached = 0;
  for (const saunter::Cell middle : middles) reached += reach.reached(middle) ? 1U : 0U;
  std::printf("%zu rooms, %zu doors, %zu crates\n", wreck.rooms.size(), wreck.doors.size(), crates.placed.size());
  std::printf("%zu of %zu rooms can be reached from the first\n", reached, middles.size());
  return reached == middles.size() ? 0 : 1;
}
