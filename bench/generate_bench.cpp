// Ground made from a seed, beside the loop one would write first.
#include <benchmark/benchmark.h>

#include <random>
#include <stack>

#include "saunter/generate.hpp"
#include "saunter/ground/bake.hpp"

using namespace saunter;

namespace {

void per_cell(benchmark::State& state, std::size_t cells) {
  state.counters["ns_per_item"] = benchmark::Counter(
      static_cast<double>(cells) * 1e-9, benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
}

constexpr std::int32_t side = 4583;

void maze(benchmark::State& state, MazeMethod by) {
  for (auto _ : state) {
    const Made made = make_maze({Tiling::square(), {side, side}}, {.by = by, .seed = 5});
    benchmark::DoNotOptimize(made.dead_ends);
  }
  per_cell(state, std::size_t{side} * side);
}

/// Rows of vectors, a stack of cells, a list of free neighbours for each step.
void maze_depth_first_4583_naive(benchmark::State& state) {
  constexpr std::array<int, 4> across = {0, 1, 0, -1};
  constexpr std::array<int, 4> down = {-1, 0, 1, 0};
  for (auto _ : state) {
    std::mt19937 random(5);
    std::vector<std::vector<bool>> seen(side, std::vector<bool>(side));
    std::vector<std::vector<int>> open(side, std::vector<int>(side));
    std::stack<std::pair<int, int>> stack;
    stack.push({0, 0});
    seen[0][0] = true;
    while (!stack.empty()) {
      const auto [x, y] = stack.top();
      std::vector<int> free;
      for (int d = 0; d < 4; ++d) {
        const int nx = x + across[static_cast<unsigned>(d)];
        const int ny = y + down[static_cast<unsigned>(d)];
        if (nx < 0 || ny < 0 || nx >= side || ny >= side) continue;
        if (!seen[static_cast<unsigned>(ny)][static_cast<unsigned>(nx)]) free.push_back(d);
      }
      if (free.empty()) {
        stack.pop();
        continue;
      }
      const int d = free[std::uniform_int_distribution<std::size_t>(0, free.size() - 1)(random)];
      const int nx = x + across[static_cast<unsigned>(d)];
      const int ny = y + down[static_cast<unsigned>(d)];
      open[static_cast<unsigned>(y)][static_cast<unsigned>(x)] |= 1 << d;
      open[static_cast<unsigned>(ny)][static_cast<unsigned>(nx)] |= 1 << ((d + 2) % 4);
      seen[static_cast<unsigned>(ny)][static_cast<unsigned>(nx)] = true;
      stack.push({nx, ny});
    }
    benchmark::DoNotOptimize(open);
  }
  per_cell(state, std::size_t{side} * side);
}

/// A thin maze becomes what a search reads: its planes handed over, or by way of a map.
void ground_of_maze_4583(benchmark::State& state) {
  const Made maze = make_maze({Tiling::square(), {side, side}}, {.seed = 5});
  for (auto _ : state) {
    state.PauseTiming();
    Made made = maze;
    state.ResumeTiming();
    benchmark::DoNotOptimize(to_costs(std::move(made)).lowest_entry());
  }
  per_cell(state, std::size_t{side} * side);
}
void ground_of_maze_4583_naive(benchmark::State& state) {
  const std::vector<Terrain> kinds = {{.name = "reef", .cost = blocked}, {.name = "sand"}};
  const Made maze = make_maze({Tiling::square(), {side, side}}, {.seed = 5});
  for (auto _ : state) {
    const Map map = to_map(maze, kinds, {0, 0, 1, 1});
    benchmark::DoNotOptimize(bake(map, Mover{.name = "crab", .rules = {.steps = 4}}).lowest_entry());
  }
  per_cell(state, std::size_t{side} * side);
}

void rooms_100(benchmark::State& state) {
  std::uint64_t seed = 0;
  for (auto _ : state) {
    const Made made =
        make_rooms({Tiling::square(), {100, 100}},
                   {.seed = ++seed, .rooms = 50, .least_side = 4, .most_side = 9, .corridor = CorridorShape::cheapest});
    benchmark::DoNotOptimize(made.rooms.size());
  }
  per_cell(state, 100 * 100);
}

void cave(benchmark::State& state, CaveMethod by) {
  const CaveOptions options = by == CaveMethod::noise ? CaveOptions{.seed = 3}
                                                      : CaveOptions{.by = CaveMethod::agents,
                                                                    .seed = 3,
                                                                    .open = 40,
                                                                    .agents = 2000,
                                                                    .agent_steps = 2000,
                                                                    .start_on_dug = true};
  for (auto _ : state) {
    const Made made = make_cave({Tiling::square(), {1024, 1024}}, options);
    benchmark::DoNotOptimize(made.parts);
  }
  per_cell(state, std::size_t{1024} * 1024);
}

BENCHMARK_CAPTURE(maze, depth_first, MazeMethod::depth_first)
    ->Name("maze_depth_first_4583")
    ->Unit(benchmark::kMillisecond);
BENCHMARK(maze_depth_first_4583_naive)->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(maze, prim, MazeMethod::prim)->Name("maze_prim_4583")->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(maze, kruskal, MazeMethod::kruskal)->Name("maze_kruskal_4583")->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(maze, wilson, MazeMethod::wilson)->Name("maze_wilson_4583")->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(maze, eller, MazeMethod::eller)->Name("maze_eller_4583")->Unit(benchmark::kMillisecond);
BENCHMARK(ground_of_maze_4583)->Unit(benchmark::kMillisecond);
BENCHMARK(ground_of_maze_4583_naive)->Unit(benchmark::kMillisecond);
BENCHMARK(rooms_100)->Unit(benchmark::kMicrosecond);
BENCHMARK_CAPTURE(cave, noise, CaveMethod::noise)->Name("cave_noise_1024")->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(cave, agents, CaveMethod::agents)->Name("cave_agents_1024")->Unit(benchmark::kMillisecond);

}  // namespace
