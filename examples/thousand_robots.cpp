// A thousand tide-robots go to one rally point while planks over a creek are laid and lifted: one map in play, one
// field that repairs itself, one step for everybody each tick.
#include <saunter/live.hpp>

#include <cstdio>

using namespace saunter;

int main() {
  const Size size{160, 100};
  Map map({Tiling::square(), size}, {{.name = "sand"},
                                     {.name = "boulder", .cost = blocked},
                                     {.name = "channel", .cost = blocked},
                                     {.name = "plank"}});
  Dice dice(7);
  for (const Cell cell : size.cells()) {
    if (dice.below(100) < 8) map.set_terrain(cell, 1);
    if (cell.col >= 78 && cell.col < 82) map.set_terrain(cell, cell.row % 12 < 3 ? 3 : 2);  // a creek with nine fords
  }
  LiveMap live(std::move(map), {{.name = "robot"}});
  const Source rally{{140, 50}};
  for (const Cell around : Rect::of(rally.cell).grown(1, size).cells()) (void)live.set_terrain(around, 0);
  live.commit();
  const FieldId field = live.keep_field(0, {&rally, 1});

  Crowd crowd(live.board());
  while (crowd.count() < 1000) {
    const Cell cell{static_cast<int>(dice.below(70)), static_cast<int>(dice.below(100))};
    if (live.field(field).reached(cell)) (void)crowd.add(live.costs(0), cell);
  }
  const CrowdGround ground{&live.costs(0), &live.field(field)};
  int lifted = 0;
  std::uint64_t looked_at = live.looked_at();
  for (int tick = 0; crowd.arrived_count() < crowd.count() && tick < 2000; ++tick) {
    if (tick % 10 == 5) {  // the tide takes a ford, and somebody lays another
      const int ford = static_cast<int>(dice.below(9)) * 12;
      for (const Cell cell : Rect{78, ford, 82, std::min(ford + 3, size.rows)}.cells()) {
        const bool plank = live.map().terrain_at(cell) == 3;
        if (plank && (crowd.at(cell) || ford == 48)) continue;  // not from under anybody; the middle one is nailed down
        (void)live.set_terrain(cell, plank ? 2 : 3);
        lifted += plank ? 1 : 0;
      }
      live.commit();
    }
    crowd.step({&ground, 1}, {.arrive_within = 25_steps});
  }
  std::printf("%zu of %zu have arrived after %llu ticks, %d planks lifted\n", crowd.arrived_count(), crowd.count(),
              static_cast<unsigned long long>(crowd.ticks()), lifted);
  std::printf("repairs looked at %llu cells in all; the field has %zu\n",
              static_cast<unsigned long long>(live.looked_at() - looked_at), live.field(field).reached_count());
  return crowd.arrived_count() == crowd.count() ? 0 : 1;
}
