// An enemy that explores while the player's shots open walls: it knows only what it touches, so nobody tells it of a
// wall that falls, and it goes through the gap when it gets there.
#include <saunter/generate/maze.hpp>
#include <saunter/ground/bake.hpp>
#include <saunter/search/searcher.hpp>
#include <saunter/walk.hpp>

#include <cstdio>

using namespace saunter;

namespace {

/// How far the enemy walks to the player while shots open a wall every so many ticks; 0 = none.
std::uint64_t hunt(Map map, const Mover& crab, Cell from, Cell to, int shot_every) {
  CostGrid costs = bake(map, crab);
  Dice dice(11);
  Walk walk(costs, {.kind = WalkerKind::explore, .from = from, .to = to});
  for (int tick = 1; !walk.run(costs); ++tick) {
    if (shot_every == 0 || tick % shot_every != 0) continue;
    // The player shoots at a wall near the middle of the maze.
    const Cell near{static_cast<int>(8 + dice.pick(8)), static_cast<int>(6 + dice.pick(4))};
    const Direction side{static_cast<int>(dice.pick(4))};
    map.set_closed(near, side, false);
    map.set_closed(map.tiling().neighbour(near, side), Direction((side + 2) % 4), false);
    costs = bake(map, crab);  // only the game's own grid; the walker is told nothing
  }
  return walk.arrived() ? walk.steps() : 0;
}

}  // namespace

int main() {
  const Board board{Tiling::square(), {24, 16}};
  const Map map = to_map(make_maze(board, {.by = MazeMethod::wilson, .seed = 4}), {{.name = "salt"}}, {0, 0, 0, 0});
  const Mover crab{.name = "crab", .rules = {.steps = 4}};
  const Cell from{0, 0};
  const Cell to{23, 15};
  Searcher searcher;
  const CostGrid costs = bake(map, crab);
  const std::size_t planned = searcher.route(costs, from, to).steps();
  const std::uint64_t alone = hunt(map, crab, from, to, 0);
  const std::uint64_t shot_at = hunt(map, crab, from, to, 4);
  std::printf("with a plan: %zu steps\n", planned);
  std::printf("feeling its way: %llu steps\n", static_cast<unsigned long long>(alone));
  std::printf("while walls fall: %llu steps\n", static_cast<unsigned long long>(shot_at));
  return alone >= planned && shot_at > 0 ? 0 : 1;
}
