// One turn on a hex map: what a hovered cell answers, who can be struck from where, and how long a far way takes.
#include <cstdio>
#include <vector>

#include "saunter/saunter.hpp"

using namespace saunter;

int main() {
  const Tiling tiling = Tiling::hex(HexTop::pointy, Shift::odd);
  Map map({tiling, {14, 9}}, {{.name = "sand"}, {.name = "kelp", .cost = 250}, {.name = "boulder", .cost = blocked}});
  for (int row = 0; row < 6; ++row) map.set_terrain({7, row}, 2);  // a reef with a gap below
  for (int col = 2; col < 6; ++col) map.set_terrain({col, 6}, 1);

  // Who stands where: a friend, who may be passed, and two rovers, whose neighbours stop whoever comes near.
  Occupancy units(map.board());
  const UnitId tender = units.add({});
  const UnitId scout = units.add({});
  const UnitId digger = units.add({});
  units.place(tender, {.at = {3, 4}});
  units.place(scout, {.at = {6, 5}});
  units.place(digger, {.at = {10, 7}});
  const CostGrid crab = [&] {
    BitGrid in_the_way = units.blocking();
    in_the_way.set({3, 4}, false);  // the tender lets us through
    return bake(map, {.name = "crab"}, &in_the_way);
  }();
  BitGrid stops(map.size());
  std::vector<Cell> zone;
  for (const UnitId rover : {scout, digger}) {
    disk_of_cells(tiling, units.unit(rover).pose.at, 1, map.size(), zone);
    for (const Cell cell : zone) stops.set(cell);
  }
  BitGrid passed(map.size());
  passed.set({3, 4});

  // The turn: six points from 2,4.
  const TurnTerms terms{.points = 6_steps, .stops = &stops, .passed = &passed};
  TurnReach turn;
  turn.ask(crab, {2, 4}, terms);
  for (const Cell hovered : {Cell{5, 5}, Cell{3, 4}, Cell{6, 5}, Cell{7, 2}, Cell{6, 7}, Cell{9, 2}}) {
    const TurnReason why = turn.why(crab, hovered, units.layer(0));
    std::printf("%d,%d: %s", hovered.col, hovered.row, answer_name(why.answer).data());
    if (why.answer == TurnAnswer::reached) std::printf(", %s left", to_decimal(why.left).c_str());
    if (why.answer == TurnAnswer::too_dear) std::printf(" by %s", to_decimal(why.missing).c_str());
    if (why.answer == TurnAnswer::stop_between) std::printf(" at %d,%d", why.at.col, why.at.row);
    std::printf("\n");
  }

  // Whom it can strike this turn at one or two steps, if it sees them.
  const SightGrid sight(map.board(), opaque_terrain(map));
  const ActRange range{.least = 1, .most = 2, .sight = &sight};
  Acting acting;
  for (const UnitId rover : {scout, digger}) {
    const Strike strike = acting.strike(turn, range, units.unit(rover).cells);
    const bool can = strike.answer == ActAnswer::can_act;
    std::printf("rover %u: %s", rover, answer_name(strike.answer).data());
    if (can) std::printf(" from %d,%d for %s", strike.from.col, strike.from.row, to_decimal(strike.cost).c_str());
    std::printf("\n");
  }

  // The far side of the reef, over as many turns as it takes.
  TurnSearcher searcher;
  const TurnRoute& way = searcher.route(crab, {2, 4}, {12, 1}, terms);
  std::printf("%zu turns, ending on", way.turns());
  for (const std::uint32_t end : way.ends()) std::printf(" %d,%d", way.cells()[end].col, way.cells()[end].row);
  std::printf("\n");
  return 0;
}
