// All places at which a unit fits, and what would be cut off.
#include <benchmark/benchmark.h>

#include "saunter/place/fit.hpp"
#include "saunter/place/occupancy.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

constexpr Size size{1024, 1024};
constexpr double cells = 1024.0 * 1024.0;

BitGrid free_ground(int blocked_percent) {
  Random random(6);
  BitGrid free(size);
  for (std::uint32_t i = 0; i < size.cell_count(); ++i)
    free.set(size.cell(CellIndex{i}), !random.chance(blocked_percent));
  return free;
}

Footprint block(int side) {
  std::vector<Offset> parts;
  for (int row = 0; row < side; ++row) {
    for (int col = 0; col < side; ++col) parts.push_back({col, row});
  }
  return Footprint(parts);
}

void per(benchmark::State& state, double items) {
  state.counters["ns_per_item"] =
      benchmark::Counter(items * 1e-9, benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
}

void spots(benchmark::State& state, Tiling tiling, int side) {
  const BitGrid free = free_ground(10);
  const Footprint footprint = block(side);
  for (auto _ : state) benchmark::DoNotOptimize(spots_among(tiling, free, footprint).count());
  per(state, cells);
}
void spots_naive(benchmark::State& state, Tiling tiling, int side) {
  const BitGrid free = free_ground(10);
  const Footprint footprint = block(side);
  std::vector<Cell> body;
  for (auto _ : state) {
    std::size_t count = 0;
    for (std::int32_t row = 0; row < size.rows; ++row) {
      for (std::int32_t col = 0; col < size.cols; ++col) {
        footprint.cells_at(tiling, {col, row}, body);
        bool fits = true;
        for (const Cell cell : body) fits = fits && free.test(cell);
        count += fits ? 1U : 0U;
      }
    }
    benchmark::DoNotOptimize(count);
  }
  per(state, cells);
}

/// A map with 10 % rock, a unit on every hundredth cell, and a fence on every twentieth edge where wanted.
struct Camp {
  Map map;
  Occupancy units;
};
Camp camp(bool fences) {
  Random random(8);
  Camp made{Map({Tiling::square(), size}, {{.name = "sand"}, {.name = "rock", .cost = blocked}}),
            Occupancy({Tiling::square(), size})};
  for (const Cell cell : size.cells()) {
    if (random.chance(10)) made.map.set_terrain(cell, 1);
    if (random.chance(1)) (void)made.units.place(made.units.add(block(1)), {cell});
    if (fences && random.chance(5)) made.map.add_barrier(cell, Direction(random.whole(1, 2)));
  }
  return made;
}
void spots_on_map(benchmark::State& state, bool fences) {
  const Camp made = camp(fences);
  const Footprint footprint = block(2);
  Fitter fitter;
  const FitTerms terms{.map = &made.map, .units = &made.units};
  for (auto _ : state) benchmark::DoNotOptimize(fitter.spots(terms, footprint).count());
  per(state, cells);
}
void spots_on_map_naive(benchmark::State& state, bool fences) {
  const Camp made = camp(fences);
  const Footprint footprint = block(2);
  std::vector<Cell> body;
  for (auto _ : state) {
    std::size_t count = 0;
    for (const Cell at : size.cells()) {
      footprint.cells_at(made.map.tiling(), at, body);
      bool fits = true;
      for (const Cell cell : body) {
        fits = fits && size.contains(cell) && made.map.terrain_at(cell) == 0 && made.units.at(cell) == 0;
      }
      // Between the cells of each row and of each column.
      const auto open = [&](Cell a, Direction d) {
        const Cell b = made.map.tiling().neighbour(a, d);
        return !made.map.closed(a, d) && !made.map.closed(b, made.map.tiling().direction(b, a));
      };
      if (fits && fences)
        fits = open(body[0], Direction(1)) && open(body[2], Direction(1)) && open(body[0], Direction(2)) &&
               open(body[1], Direction(2));
      count += fits ? 1U : 0U;
    }
    benchmark::DoNotOptimize(count);
  }
  per(state, cells);
}

/// A hut of 2 x 2 dragged over rooms, two far cells kept open.
struct Rooms {
  CostGrid costs{{Tiling::square(), {512, 512}}, {}, [](Cell cell) -> EntryCost {
                   const bool door = (cell.col * 7 + cell.row * 13) % 29 == 0;
                   return (cell.col % 17 == 16 || cell.row % 17 == 16) && !door ? 0 : 100;
                 }};
  Regions regions{costs};
  std::vector<std::vector<Cell>> huts;
  std::vector<Cell> keep;
  Rooms() {
    Random random(4);
    const Region* const largest = regions.largest();
    while (keep.size() < 2) {
      const Cell cell = random.cell({512, 512});
      if (regions.at(cell) == largest->id) keep.push_back(cell);
    }
    for (int i = 0; i < 1000; ++i) {
      const Cell at = random.cell({511, 511});
      huts.push_back({at, {at.col + 1, at.row}, {at.col, at.row + 1}, {at.col + 1, at.row + 1}});
    }
  }
};
const Rooms& rooms() {
  static const Rooms made;
  return made;
}

void cuts_off(benchmark::State& state) {
  Fitter fitter;
  std::vector<Terrain> sand(1);
  const Map map({Tiling::square(), {512, 512}}, sand);
  const Mover mover{.rules = {.steps = 8}};
  const Footprint hut = block(2);
  const FitTerms terms{
      .map = &map, .mover = &mover, .keep_open = rooms().keep, .costs = &rooms().costs, .regions = &rooms().regions};
  for (auto _ : state) {
    std::size_t cut = 0;
    for (const auto& body : rooms().huts) cut += fitter.problems(terms, hut, {body[0]}).size();
    benchmark::DoNotOptimize(cut);
  }
  per(state, 1000);
}
/// A flood from the first kept cell.
void cuts_off_naive(benchmark::State& state) {
  std::size_t next = 0;
  std::vector<Cell> line;
  for (auto _ : state) {
    const auto& hut = rooms().huts[next++ % rooms().huts.size()];
    BitGrid seen({512, 512});
    for (const Cell cell : hut) seen.set(cell);
    const CostGrid& costs = rooms().costs;
    line.assign(1, rooms().keep[0]);
    seen.set(rooms().keep[0]);
    while (!line.empty() && !seen.test(rooms().keep[1])) {
      const Cell cell = line.back();
      line.pop_back();
      for (Direction d{0}; d < 4; ++d) {
        const Cell beside = costs.tiling().neighbour(cell, d);
        if (!costs.open(beside) || seen.test(beside)) continue;
        seen.set(beside);
        line.push_back(beside);
      }
    }
    benchmark::DoNotOptimize(seen.test(rooms().keep[1]));
  }
  per(state, 1);
}

const Tiling flat = Tiling::hex(HexTop::flat, Shift::odd);

}  // namespace

#define SPOTS_BENCHMARKS(name, tiling, side)                                                         \
  BENCHMARK_CAPTURE(spots, name, tiling, side)->Name("spots_" #name)->Unit(benchmark::kMicrosecond); \
  BENCHMARK_CAPTURE(spots_naive, name, tiling, side)->Name("spots_" #name "_naive")->Unit(benchmark::kMicrosecond);
SPOTS_BENCHMARKS(2x2, Tiling::square(), 2)
SPOTS_BENCHMARKS(4x4, Tiling::square(), 4)
SPOTS_BENCHMARKS(4x4_hexes, flat, 4)
#define MAP_BENCHMARKS(name, fences)                                                                  \
  BENCHMARK_CAPTURE(spots_on_map, name, fences)->Name("spots_" #name)->Unit(benchmark::kMicrosecond); \
  BENCHMARK_CAPTURE(spots_on_map_naive, name, fences)->Name("spots_" #name "_naive")->Unit(benchmark::kMicrosecond);
MAP_BENCHMARKS(on_map, false)
MAP_BENCHMARKS(among_fences, true)
BENCHMARK(cuts_off)->Name("cuts_off")->Unit(benchmark::kMicrosecond);
BENCHMARK(cuts_off_naive)->Name("cuts_off_naive")->Unit(benchmark::kMicrosecond);
