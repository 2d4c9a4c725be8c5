// Labelling regions beside a plain flood and beside copying the same memory.
#include <benchmark/benchmark.h>

#include <algorithm>
#include <chrono>
#include <cstring>

#include "saunter/region/regions.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

constexpr int side = 4096;
constexpr double cells = double{side} * side;

CostGrid noise(Corners corners, int size = side) {
  Random random(3);
  return CostGrid({Tiling::square(), {size, size}}, {.corners = corners},
                  [&](Cell) -> EntryCost { return random.chance(40) ? 0 : 100; });
}
CostGrid rooms(int size = side) {
  Random random(4);
  return CostGrid({Tiling::square(), {size, size}}, {}, [&](Cell cell) -> EntryCost {
    const bool wall = cell.col % 33 == 32 || cell.row % 33 == 32;
    return wall && !random.chance(3) ? 0 : 100;
  });
}

void per_cell(benchmark::State& state) {
  state.counters["ns_per_item"] =
      benchmark::Counter(cells * 1e-9, benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
}

void label(benchmark::State& state, const CostGrid& costs) {
  for (auto _ : state) benchmark::DoNotOptimize(Regions(costs).list().size());
  per_cell(state);
}

/// In memory that is kept.
void relabel(benchmark::State& state, const CostGrid& costs) {
  Regions regions;
  RegionsUpdater updater;
  for (auto _ : state) {
    updater.remake(regions, costs);
    benchmark::DoNotOptimize(regions.list().size());
  }
  per_cell(state);
}

/// A stack of cells, a label for each, in memory that may be kept.
struct StackFlood {
  std::vector<std::uint32_t> labels;
  std::vector<Cell> stack;

  std::uint32_t run(const CostGrid& costs) {
    const Size size = costs.size();
    const int directions = costs.rules().corners == Corners::free ? 8 : 4;
    labels.assign(size.cell_count(), 0);
    std::uint32_t id = 0;
    for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
      if (labels[i] != 0 || costs.entry(CellIndex{i}) == blocked) continue;
      labels[i] = ++id;
      stack.push_back(size.cell(CellIndex{i}));
      while (!stack.empty()) {
        const Cell cell = stack.back();
        stack.pop_back();
        for (Direction d{0}; d < directions; ++d) {
          const Cell next = costs.tiling().neighbour(cell, d);
          if (!size.contains(next) || costs.entry(next) == blocked) continue;
          std::uint32_t& there = labels[size.index(next).value()];
          if (there != 0) continue;
          there = id;
          stack.push_back(next);
        }
      }
    }
    return id;
  }
};
void label_naive(benchmark::State& state, const CostGrid& costs) {
  for (auto _ : state) benchmark::DoNotOptimize(StackFlood().run(costs));
  per_cell(state);
}
void relabel_naive(benchmark::State& state, const CostGrid& costs) {
  StackFlood flood;
  for (auto _ : state) benchmark::DoNotOptimize(flood.run(costs));
  per_cell(state);
}

/// One cell opened or closed after the other on 1024 x 1024, the labels kept up to date.
constexpr int small = 1024;
CostGrid small_map(bool noisy) { return noisy ? noise(Corners::strict, small) : rooms(small); }
enum class Figure { mean, median };
void update(benchmark::State& state, bool noisy, Figure figure) {
  Random random(5);
  CostGrid costs = small_map(noisy);
  Regions regions(costs);
  std::vector<double> seconds;
  for (auto _ : state) {
    const Cell cell = random.cell({small, small});
    costs.set_entry(cell, costs.open(cell) ? blocked : EntryCost{100});
    const auto start = std::chrono::steady_clock::now();
    regions.update(costs, Rect::of(cell));
    seconds.push_back(std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count());
    state.SetIterationTime(seconds.back());
    costs.set_entry(cell, costs.open(cell) ? blocked : EntryCost{100});  // back again: the map stays of its kind
    regions.update(costs, Rect::of(cell));
  }
  if (figure == Figure::mean) {
    state.counters["ns_per_item"] =
        benchmark::Counter(1e-9, benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
    return;
  }
  const auto middle = seconds.begin() + static_cast<std::ptrdiff_t>(seconds.size() / 2);
  std::nth_element(seconds.begin(), middle, seconds.end());
  state.counters["ns_per_item"] = *middle * 1e9;
}
void rebuild(benchmark::State& state, bool noisy) {
  const CostGrid costs = small_map(noisy);
  for (auto _ : state) benchmark::DoNotOptimize(Regions(costs).list().size());
  state.counters["ns_per_item"] =
      benchmark::Counter(1e-9, benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
}

void copy(benchmark::State& state) {
  std::vector<std::uint32_t> from(static_cast<std::size_t>(cells), 1);
  for (auto _ : state) {
    std::vector<std::uint32_t> to(from);
    benchmark::DoNotOptimize(to.data());
  }
  per_cell(state);
}

}  // namespace

#define LABEL_BENCHMARKS(kind, board)                                                                        \
  BENCHMARK_CAPTURE(label, kind, board)->Name("label_" #kind)->Unit(benchmark::kMillisecond);                \
  BENCHMARK_CAPTURE(label_naive, kind, board)->Name("label_" #kind "_naive")->Unit(benchmark::kMillisecond); \
  BENCHMARK_CAPTURE(relabel, kind, board)->Name("relabel_" #kind)->Unit(benchmark::kMillisecond);            \
  BENCHMARK_CAPTURE(relabel_naive, kind, board)->Name("relabel_" #kind "_naive")->Unit(benchmark::kMillisecond);
LABEL_BENCHMARKS(noise_edges, noise(Corners::strict))
LABEL_BENCHMARKS(noise_corners, noise(Corners::free))
LABEL_BENCHMARKS(rooms, rooms())
BENCHMARK(copy)->Name("copy_a_label_per_cell")->Unit(benchmark::kMillisecond);
#define UPDATE_BENCHMARKS(kind, noise)                                                                                \
  BENCHMARK_CAPTURE(update, kind##_mean, noise, Figure::mean)->Name("update_" #kind "_average")->UseManualTime();     \
  BENCHMARK_CAPTURE(rebuild, kind##_mean, noise)->Name("update_" #kind "_average_naive");                             \
  BENCHMARK_CAPTURE(update, kind##_middle, noise, Figure::median)->Name("update_" #kind "_typical")->UseManualTime(); \
  BENCHMARK_CAPTURE(rebuild, kind##_middle, noise)->Name("update_" #kind "_typical_naive");
UPDATE_BENCHMARKS(noise, true)
UPDATE_BENCHMARKS(rooms, false)
