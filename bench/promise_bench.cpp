// The worst cases of costs that headers promise, each at two sizes where growth is promised: an item must cost the
// same.
#include <benchmark/benchmark.h>

#include "saunter/saunter.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

void per(benchmark::State& state, double items) {
  state.counters["ns_per_item"] =
      benchmark::Counter(items * 1e-9, benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
}

constexpr Tiling squares = Tiling::square();

std::vector<Terrain> sand() {
  std::vector<Terrain> kinds(2);
  kinds[0] = {.name = "sand", .cost = 100};
  kinds[1] = {.name = "rock", .cost = blocked};
  return kinds;
}
CostGrid even(Size size) {
  return CostGrid({squares, size}, {.steps = 8}, [](Cell) -> EntryCost { return 100; });
}
Footprint block(std::int32_t side) { return Footprint::of_size(squares, side); }

/// The only cheapest cell becomes dear and cheap again.
void only_cheapest(benchmark::State& state) {
  const auto side = static_cast<std::int32_t>(state.range(0));
  CostGrid costs = even({side, side});
  for (auto _ : state) {
    costs.set_entry({1, 1}, 1_hundredths);
    benchmark::DoNotOptimize(costs.lowest_entry());
    costs.set_entry({1, 1}, 1_steps);
    benchmark::DoNotOptimize(costs.lowest_entry());
  }
  per(state, 2);
}

/// A way across a grid on which one cell was very dear for a moment.
void after_a_dear_moment(benchmark::State& state) {
  CostGrid costs = even({512, 512});
  if (state.range(0) != 0) {
    costs.set_entry({1, 1}, Hundredths{std::uint32_t{65'535}});
    costs.set_entry({1, 1}, 1_steps);
  }
  Searcher searcher;
  for (auto _ : state) benchmark::DoNotOptimize(searcher.route(costs, {0, 0}, {511, 300}).cost());
  per(state, 1);
}

void straight_with_a_change(benchmark::State& state) {
  const auto length = static_cast<std::int32_t>(state.range(0));
  const CostGrid costs = even({length, 3});
  const EntryChange change{{2, 2}, 5_steps};
  for (auto _ : state)
    benchmark::DoNotOptimize(straight_line_free(costs, {0, 0}, {length - 1, 1}, std::span(&change, 1)));
  per(state, static_cast<double>(length));
}

void straighten_corridor(benchmark::State& state) {
  const auto length = static_cast<std::int32_t>(state.range(0));
  const CostGrid costs = even({length, 1});
  std::vector<Cell> way;
  for (std::int32_t col = 0; col < length; ++col) way.push_back({col, 0});
  std::vector<Cell> out;
  for (auto _ : state) {
    straighten(costs, way, out);
    benchmark::DoNotOptimize(out.size());
  }
  per(state, static_cast<double>(length));
}

/// A unit of side x side moved to and fro, per cell of it.
void move_a_thing(benchmark::State& state) {
  const auto side = static_cast<std::int32_t>(state.range(0));
  std::vector<Offset> parts;
  for (std::int32_t row = 0; row < side; ++row) {
    for (std::int32_t col = 0; col < side; ++col) parts.push_back({col, row});
  }
  Occupancy units({squares, {512, 512}});
  const UnitId id = units.add(Footprint(parts));
  units.place(id, {{0, 0}});
  std::int32_t at = 0;
  for (auto _ : state) benchmark::DoNotOptimize(units.move(id, {{at = 1 - at, 0}}));
  per(state, static_cast<double>(side) * side);
}

void spots_with_a_barrier(benchmark::State& state) {
  Map map({squares, {1024, 1024}}, sand());
  if (state.range(0) != 0) map.add_barrier({500, 500}, Direction{0});
  const Mover mover{.rules = {.steps = 8}};
  Fitter fitter;
  for (auto _ : state) benchmark::DoNotOptimize(fitter.spots({.map = &map, .mover = &mover}, block(4)).count());
  per(state, 1024.0 * 1024.0);
}

/// 96 x 96, two or six cells kept open, single rocks on open ground or rooms of 16 x 16 with one-cell doors; per call.
void spots_with_kept_cells(benchmark::State& state, bool rooms, std::size_t kept) {
  Random random(5);
  Map map({squares, {96, 96}}, sand());
  for (std::int32_t row = 0; row < 96; ++row) {
    for (std::int32_t col = 0; col < 96; ++col) {
      const bool door = (col * 7 + row * 13) % 29 == 0;
      const bool wall = (col % 17 == 16 || row % 17 == 16) && !door;
      const bool rock = random.chance(5) && col % 5 != 0 && row % 5 != 0;
      if (rooms ? wall : rock) map.set_terrain({col, row}, 1);
    }
  }
  const Mover mover{.rules = {.steps = 8}};
  const CostGrid costs = bake(map, mover);
  const Regions regions(costs);
  std::vector<Cell> keep = {{1, 1}, {90, 90}, {40, 5}, {5, 70}, {60, 60}, {92, 2}};
  keep.resize(kept);
  const FitTerms terms{.map = &map, .mover = &mover, .keep_open = keep, .costs = &costs, .regions = &regions};
  Fitter fitter;
  std::uint64_t calls = 0;
  for (auto _ : state) {
    benchmark::DoNotOptimize(fitter.spots(terms, block(2)).count());
    ++calls;
  }
  state.counters["questions"] = static_cast<double>(fitter.cut_off_asked()) / static_cast<double>(calls);
  per(state, 1);
}

void levels_of_a_large_mover(benchmark::State& state) {
  Levels levels(Size{512, 512});
  Random random(3);
  for (auto& level : levels.values()) level = static_cast<std::uint16_t>(random.whole(0, 99));
  const auto size = static_cast<int>(state.range(0));
  for (auto _ : state) benchmark::DoNotOptimize(levels_for_size(squares, levels, size)[Cell{5, 5}]);
  per(state, 512.0 * 512.0);
}

void within_far(benchmark::State& state) {
  const auto radius = static_cast<int>(state.range(0));
  std::vector<Cell> cells;
  for (auto _ : state) {
    disk_of_cells(squares, {5, 5}, radius, {10, 10}, cells);
    benchmark::DoNotOptimize(cells.size());
  }
  per(state, 1);
}

void in_range(benchmark::State& state) {
  const CostGrid costs = even({512, 512});
  Searcher searcher;
  const Source start{{256, 256}};
  Field field;
  searcher.reach(costs, std::span(&start, 1), field, {.budget = 60_steps});
  BitGrid out;
  const auto range = static_cast<int>(state.range(0));
  for (auto _ : state) {
    cells_in_range(field, range, out);
    benchmark::DoNotOptimize(out.count());
  }
  per(state, 512.0 * 512.0);
}

/// Costs 0.01 and 655.35 and a diagonal of 655.35: the ring of buckets is capped. Per call, a new searcher each.
void two_cells_far_apart(benchmark::State& state) {
  const std::vector<EntryCost> entries = {1, 65'535};
  const CostGrid costs = CostGrid::from_hundredths({squares, {2, 1}}, {.steps = 8, .diagonal = 65'535}, entries);
  const Source start{{0, 0}};
  for (auto _ : state) {
    Searcher searcher;
    Field field;
    searcher.reach(costs, std::span(&start, 1), field);
    benchmark::DoNotOptimize(field.cost({1, 0}));
  }
  per(state, 1);
}

void chokes_of_noise(benchmark::State& state) {
  const auto side = static_cast<std::int32_t>(state.range(0));
  Random random(5);
  const CostGrid costs({squares, {side, side}}, {.steps = 8},
                       [&](Cell) -> EntryCost { return random.chance(35) ? 0 : 100; });
  const Regions regions(costs);
  for (auto _ : state) benchmark::DoNotOptimize(find_chokes(costs, regions).size());
  per(state, static_cast<double>(side) * side);
}

/// Reading any cell, on the map or off it.
void read_checked(benchmark::State& state) {
  const CostGrid costs = even({1024, 1024});
  Random random(8);
  std::vector<Cell> cells;
  for (int i = 0; i < 4096; ++i) cells.push_back(random.cell({1024, 1024}));
  for (auto _ : state) {
    std::uint64_t sum = 0;
    for (const Cell cell : cells) sum += costs.entry(cell);
    benchmark::DoNotOptimize(sum);
  }
  per(state, 4096);
}
void read_unchecked(benchmark::State& state) {
  const CostGrid costs = even({1024, 1024});
  const EntryCost* const entries = costs.entries().data();
  Random random(8);
  std::vector<Cell> cells;
  for (int i = 0; i < 4096; ++i) cells.push_back(random.cell({1024, 1024}));
  for (auto _ : state) {
    std::uint64_t sum = 0;
    for (const Cell cell : cells)
      sum += entries[static_cast<std::uint32_t>(cell.row) * 1024U + static_cast<std::uint32_t>(cell.col)];
    benchmark::DoNotOptimize(sum);
  }
  per(state, 4096);
}

}  // namespace

#define TWICE(work, small, large)                                                     \
  BENCHMARK(work)->Name(#work "_" #small)->Arg(small)->Unit(benchmark::kMicrosecond); \
  BENCHMARK(work)->Name(#work "_" #large)->Arg(large)->Unit(benchmark::kMicrosecond)
TWICE(only_cheapest, 64, 1024);
TWICE(after_a_dear_moment, 0, 1);
TWICE(straight_with_a_change, 1000, 30000);
TWICE(straighten_corridor, 1000, 65535);
TWICE(move_a_thing, 4, 100);
TWICE(spots_with_a_barrier, 0, 1);
#define KEPT(kind, rooms, kept)                                        \
  BENCHMARK_CAPTURE(spots_with_kept_cells, kind##_##kept, rooms, kept) \
      ->Name("spots_keeping_" #kept "_cells_" #kind)                   \
      ->Unit(benchmark::kMicrosecond)
KEPT(rocks, false, 2);
KEPT(rocks, false, 6);
KEPT(rooms, true, 2);
KEPT(rooms, true, 6);
TWICE(levels_of_a_large_mover, 2, 32);
TWICE(within_far, 9, 4000);
TWICE(in_range, 1, 16);
BENCHMARK(two_cells_far_apart)->Unit(benchmark::kMicrosecond);
TWICE(chokes_of_noise, 512, 2048);
BENCHMARK(read_checked)->Unit(benchmark::kMicrosecond);
BENCHMARK(read_unchecked)->Name("read_checked_naive")->Unit(benchmark::kMicrosecond);
