// What watchers see, beside a line to every cell.
#include <benchmark/benchmark.h>

#include "watched_map.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

void per_watcher(benchmark::State& state) {
  state.counters["ns_per_item"] =
      benchmark::Counter(watchers * 1e-9, benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
}

void visible(benchmark::State& state, Tiling tiling, bool open) {
  const SightGrid grid({tiling, size}, open ? BitGrid(size) : clumps());
  const std::vector<Cell> from = stands(grid);
  Lookout lookout;
  std::vector<Cell> seen;
  for (auto _ : state) {
    std::size_t sum = 0;
    for (const Cell cell : from) {
      lookout.visible(grid, cell, range, seen);
      sum += seen.size();
    }
    benchmark::DoNotOptimize(sum);
  }
  per_watcher(state);
}

/// An exact line to every cell in range.
void visible_naive(benchmark::State& state, Tiling tiling, bool open) {
  const SightGrid grid({tiling, size}, open ? BitGrid(size) : clumps());
  const std::vector<Cell> from = stands(grid);
  const std::int64_t most = farthest_squared(range);
  constexpr std::int32_t radius = 36;  // rows of hexes and triangles lie closer
  std::vector<Cell> seen;
  for (auto _ : state) {
    std::size_t sum = 0;
    for (const Cell at : from) {
      seen.clear();
      for (std::int32_t row = at.row - radius; row <= at.row + radius; ++row) {
        for (std::int32_t col = at.col - radius; col <= at.col + radius; ++col) {
          const Cell cell{col, row};
          if (!size.contains(cell) || distance_squared(tiling, at, cell) > most) continue;
          if (sees(grid, at, cell)) seen.push_back(cell);
        }
      }
      sum += seen.size();
    }
    benchmark::DoNotOptimize(sum);
  }
  per_watcher(state);
}

const Tiling hexes = Tiling::hex(HexTop::pointy, Shift::odd);
const Tiling triangles = Tiling::triangle(FirstTriangle::up);

}  // namespace

#define SIGHT_BENCHMARKS(name, tiling, open)                                                             \
  BENCHMARK_CAPTURE(visible, name, tiling, open)->Name("visible_" #name)->Unit(benchmark::kMicrosecond); \
  BENCHMARK_CAPTURE(visible_naive, name, tiling, open)->Name("visible_" #name "_naive")->Unit(benchmark::kMicrosecond);
SIGHT_BENCHMARKS(squares, Tiling::square(), false)
SIGHT_BENCHMARKS(squares_open, Tiling::square(), true)
SIGHT_BENCHMARKS(hexes, hexes, false)
SIGHT_BENCHMARKS(triangles, triangles, false)
