// How fast maps become cost grids, and positions become cells; each beside the loop one would write first.
#include <benchmark/benchmark.h>

#include "saunter/grid/frame.hpp"
#include "saunter/ground/bake.hpp"
#include "saunter/ground/clearance.hpp"
#include "saunter/io/files.hpp"
#include "saunter/io/scenario.hpp"
#include "saunter/io/write_scenario.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

constexpr Size large{2048, 2048};

Map noisy_map(Tiling tiling, Size size, int blocked_percent) {
  Random random(42);
  std::vector<Terrain> kinds = {{.name = "rock", .cost = blocked, .color = {1, 2, 3}}};
  for (int i = 1; i < 6; ++i) {
    kinds.push_back({.name = "kind" + std::to_string(i),
                     .cost = static_cast<EntryCost>(100 + 25 * i),
                     .glyph = static_cast<char32_t>('a' + i),
                     .color = {static_cast<std::uint8_t>(40 * i), 90, 7}});
  }
  Map map({tiling, size}, kinds);
  Grid<TerrainId> terrain(size);
  for (TerrainId& id : terrain.values()) {
    id = static_cast<TerrainId>(random.chance(blocked_percent) ? 0 : random.whole(1, 5));
  }
  map.set_all_terrain(std::move(terrain));
  return map;
}

Map with_edges(Map map) {
  Random random(7);
  for (int i = 0; i < 200'000; ++i)
    map.add_barrier(random.cell(map.size()), Direction{random.whole(0, map.tiling().edge_count() - 1)});
  Grid<std::int16_t> heights(map.size());
  for (std::int16_t& height : heights.values()) height = static_cast<std::int16_t>(random.whole(0, 3));
  map.set_all_heights(std::move(heights));
  return map;
}

void per_cell(benchmark::State& state, std::size_t cells) {
  state.counters["ns_per_item"] = benchmark::Counter(
      static_cast<double>(cells) * 1e-9, benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
}

/// A cell at a time, asking the map and the mover for everything.
Grid<EntryCost> naive_costs(const Map& map, const Mover& mover) {
  Grid<EntryCost> costs(map.size());
  for (int row = 0; row < map.size().rows; ++row) {
    for (int col = 0; col < map.size().cols; ++col) {
      const Cell cell{col, row};
      const TerrainId id = map.terrain_at(cell);
      costs[cell] = mover.cost_on(id, map.kind(id));
    }
  }
  return costs;
}

/// What a search needs besides: which cells are open, and the least cost of any.
struct NaiveGrid {
  Grid<EntryCost> costs;
  BitGrid open;
  EntryCost cheapest = max_entry_cost;
};
NaiveGrid naive_grid(const Map& map, const Mover& mover) {
  NaiveGrid grid{naive_costs(map, mover), BitGrid(map.size())};
  for (int row = 0; row < map.size().rows; ++row) {
    for (int col = 0; col < map.size().cols; ++col) {
      const EntryCost cost = grid.costs[Cell{col, row}];
      if (cost == blocked) continue;
      grid.open.set({col, row});
      grid.cheapest = std::min(grid.cheapest, cost);
    }
  }
  return grid;
}

/// The loop over the footprint for each cell.
Grid<EntryCost> naive_large(const Map& map, const Mover& mover) {
  const Grid<EntryCost> single = naive_costs(map, mover);
  Grid<EntryCost> costs(map.size());
  for (int row = 0; row < map.size().rows; ++row) {
    for (int col = 0; col < map.size().cols; ++col) {
      EntryCost worst = 1;
      for (int down = 0; down < mover.size && worst != blocked; ++down) {
        for (int right = 0; right < mover.size; ++right) {
          const Cell part{col + right, row + down};
          if (!map.size().contains(part) || single[part] == blocked) {
            worst = blocked;
            break;
          }
          worst = std::max(worst, single[part]);
        }
      }
      costs[Cell{col, row}] = worst;
    }
  }
  return costs;
}

/// The legal steps of each cell, direction by direction, from the definitions.
Grid<std::uint8_t> naive_steps(const Map& map, const Mover& mover) {
  const Grid<EntryCost> costs = naive_costs(map, mover);
  const Tiling tiling = map.tiling();
  const auto passes = [&](Cell from, Direction d) {
    const Cell to = tiling.neighbour(from, d);
    if (!map.size().contains(to) || costs[to] == blocked) return false;
    if (d < tiling.edge_count() && map.closed(from, d)) return false;
    const int rise = map.height_at(to) - map.height_at(from);
    return rise <= *mover.climb && -rise <= *mover.drop;
  };
  Grid<std::uint8_t> steps(map.size());
  for (int row = 0; row < map.size().rows; ++row) {
    for (int col = 0; col < map.size().cols; ++col) {
      const Cell cell{col, row};
      if (costs[cell] == blocked) continue;
      unsigned legal = 0;
      for (Direction d{0}; d < 8; ++d) {
        if (!passes(cell, d)) continue;
        bool open = true;
        if (d >= 4) {
          const Direction first{d - 4};
          const Direction second{(d - 3) % 4};
          open = passes(cell, first) && passes(tiling.neighbour(cell, first), second) && passes(cell, second) &&
                 passes(tiling.neighbour(cell, second), first);
        }
        if (open) legal |= 1U << static_cast<unsigned>(d);
      }
      steps[cell] = static_cast<std::uint8_t>(legal);
    }
  }
  return steps;
}

void bake_one_cell(benchmark::State& state) {
  const Map map = noisy_map(Tiling::square(), large, 20);
  for (auto _ : state) benchmark::DoNotOptimize(bake(map, Mover{}));
  per_cell(state, large.cell_count());
}
void bake_one_cell_naive(benchmark::State& state) {
  const Map map = noisy_map(Tiling::square(), large, 20);
  for (auto _ : state) benchmark::DoNotOptimize(naive_grid(map, Mover{}));
  per_cell(state, large.cell_count());
}

const Mover large_mover{.size = 4};
void bake_size_4(benchmark::State& state) {
  const Map map = noisy_map(Tiling::square(), large, 2);
  for (auto _ : state) benchmark::DoNotOptimize(bake(map, large_mover));
  per_cell(state, large.cell_count());
}
void bake_size_4_naive(benchmark::State& state) {
  const Map map = noisy_map(Tiling::square(), large, 2);
  for (auto _ : state) benchmark::DoNotOptimize(naive_large(map, large_mover));
  per_cell(state, large.cell_count());
}
void clearance_all_sizes(benchmark::State& state) {
  const CostGrid costs = bake(noisy_map(Tiling::square(), large, 2), Mover{});
  for (auto _ : state) benchmark::DoNotOptimize(clearance(costs));
  per_cell(state, large.cell_count());
}

const Mover climber{.climb = 1, .drop = 2};
void bake_edges(benchmark::State& state) {
  const Map map = with_edges(noisy_map(Tiling::square(), large, 20));
  for (auto _ : state) benchmark::DoNotOptimize(bake(map, climber));
  per_cell(state, large.cell_count());
}
void bake_edges_naive(benchmark::State& state) {
  const Map map = with_edges(noisy_map(Tiling::square(), large, 20));
  for (auto _ : state) benchmark::DoNotOptimize(naive_steps(map, climber));
  per_cell(state, large.cell_count());
}
void rebake_one_cell(benchmark::State& state) {
  Map map = with_edges(noisy_map(Tiling::square(), large, 20));
  CostGrid costs = bake(map, climber);
  Random random(3);
  for (auto _ : state) {
    const Cell cell = random.cell(large);
    map.set_terrain(cell, static_cast<TerrainId>(random.whole(0, 5)));
    rebake(costs, map, climber, Rect::of(cell));
  }
  per_cell(state, 1);
}

std::vector<Point> points(const Frame& frame, Size size) {
  Random random(9);
  std::vector<Point> list;
  for (int i = 0; i < 1'000'000; ++i)
    list.push_back(frame.centre(random.cell(size)) + Point(random.share(), random.share()));
  return list;
}

template <int which>
void cell_at_points(benchmark::State& state) {
  const Tiling tiling = all_tilings()[which];
  const Frame frame(tiling, 32.0, {10.0, 10.0});
  const auto list = points(frame, large);
  for (auto _ : state) {
    std::int64_t sum = 0;
    for (const auto& point : list) sum += frame.cell_at(point).col;
    benchmark::DoNotOptimize(sum);
  }
  per_cell(state, list.size());
}
/// The nearest centre of all, on a map of only 64 x 64.
void cell_at_nearest_of_all(benchmark::State& state) {
  const Frame frame(Tiling::hex(HexTop::pointy, Shift::odd), 32.0);
  const Size size{64, 64};
  Random random(9);
  for (auto _ : state) {
    const Point point = frame.centre(random.cell(size)) + Point(random.share(), random.share());
    Cell best;
    double least = 1e300;
    for (int row = 0; row < size.rows; ++row) {
      for (int col = 0; col < size.cols; ++col) {
        const Point away = frame.centre({col, row}) - point;
        const double distance = dot(away, away);
        if (distance < least) {
          least = distance;
          best = {col, row};
        }
      }
    }
    benchmark::DoNotOptimize(best);
  }
  per_cell(state, 1);
}

io::Scenario big_scenario() {
  io::Scenario scenario;
  scenario.map = noisy_map(Tiling::square(), {4583, 4583}, 20);
  return scenario;
}
void read_terrain_png_4583(benchmark::State& state) {
  const auto files = io::write_scenario(big_scenario(), "big", {.terrain = io::TerrainForm::png}).value();
  const std::string folder = "/tmp";
  for (const auto& file : files) (void)io::write_file(folder + "/saunter_bench_" + file.name, file.bytes);
  std::string text = files[0].bytes;
  text.replace(text.find("big.terrain"), 11, "saunter_bench_big.terrain");
  for (auto _ : state) benchmark::DoNotOptimize(io::parse_scenario(text, "big", folder).ok());
  per_cell(state, 4583ULL * 4583);
}

}  // namespace

BENCHMARK(bake_one_cell)->Unit(benchmark::kMillisecond);
BENCHMARK(bake_one_cell_naive)->Unit(benchmark::kMillisecond);
BENCHMARK(bake_size_4)->Unit(benchmark::kMillisecond);
BENCHMARK(bake_size_4_naive)->Unit(benchmark::kMillisecond);
BENCHMARK(clearance_all_sizes)->Unit(benchmark::kMillisecond);
BENCHMARK(bake_edges)->Unit(benchmark::kMillisecond);
BENCHMARK(bake_edges_naive)->Unit(benchmark::kMillisecond);
BENCHMARK(rebake_one_cell);
BENCHMARK(cell_at_points<0>)->Name("cell_at_squares")->Unit(benchmark::kMillisecond);
BENCHMARK(cell_at_points<1>)->Name("cell_at_hexes")->Unit(benchmark::kMillisecond);
BENCHMARK(cell_at_points<5>)->Name("cell_at_triangles")->Unit(benchmark::kMillisecond);
BENCHMARK(cell_at_nearest_of_all);
BENCHMARK(read_terrain_png_4583)->Unit(benchmark::kMillisecond);
