// What watchers see, beside a line to every cell.
#include <benchmark/benchmark.h>

#include "saunter/sight/sight.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

constexpr Size size{512, 512};
constexpr Length range = 3000;
constexpr int watchers = 100;

/// About 30 % opaque, in round clumps.
BitGrid clumps() {
  Random random(7);
  BitGrid opaque(size);
  const double wanted = 0.3 * static_cast<double>(size.cell_count());
  while (static_cast<double>(opaque.count()) < wanted) {
    const Cell middle = random.cell(size);
    const int radius = random.whole(1, 5);
    for (std::int32_t row = middle.row - radius; row <= middle.row + radius; ++row) {
      for (std::int32_t col = middle.col - radius; col <= middle.col + radius; ++col) {
        const Cell cell{col, row};
        if (size.contains(cell) && distance_squared(Tiling::square(), middle, cell) <= radius * radius)
          opaque.set(cell);
      }
    }
  }
  return opaque;
}

std::vector<Cell> stands(const SightGrid& grid) {
  Random random(8);
  std::vector<Cell> cells;
  while (cells.size() < watchers) {
    const Cell cell = random.cell(size);
    if (!grid.opaque(cell)) cells.push_back(cell);
  }
  return cells;
}

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
