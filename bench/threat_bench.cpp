// Threat fields and the ways that respect them.
#include <benchmark/benchmark.h>

#include "saunter/search/searcher.hpp"
#include "saunter/threat/front.hpp"
#include "saunter/threat/threat_field.hpp"
#include "watched_map.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

const Board board{Tiling::square(), size};

Threat gull(Cell at) {
  return {.at = at,
          .range = range,
          .levels = {{30_hundredths, 4}, {60_hundredths, 2}, {100_hundredths, 1}},
          .needs_sight = true};
}

/// Everything for a watched map.
struct Watched {
  SightGrid sight{board, clumps()};
  ThreatField field{board};
  CostGrid costs{board, {}, [this](Cell cell) -> EntryCost { return sight.opaque(cell) ? 0 : 100; }};
  std::vector<ThreatField::ThreatId> gulls;
  Watched() {
    for (const Cell cell : stands(sight)) gulls.push_back(field.add(sight, gull(cell)));
  }
};
Watched& watched() {
  static Watched made;
  return made;
}

void per(benchmark::State& state, double items) {
  state.counters["ns_per_item"] =
      benchmark::Counter(items * 1e-9, benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
}

void build(benchmark::State& state) {
  const SightGrid& sight = watched().sight;
  const std::vector<Cell> from = stands(sight);
  for (auto _ : state) {
    ThreatField field(board);
    for (const Cell cell : from) field.add(sight, gull(cell));
    benchmark::DoNotOptimize(field.levels().values().data());
  }
  per(state, watchers);
}

/// For each source a line to every cell in range.
void build_naive(benchmark::State& state) {
  const SightGrid& sight = watched().sight;
  const std::vector<Cell> from = stands(sight);
  const std::int64_t most = farthest_squared(range);
  for (auto _ : state) {
    Grid<std::uint16_t> levels(size);
    Grid<std::array<std::uint8_t, 8>> sides(size);
    for (const Cell at : from) {
      for (std::int32_t row = at.row - 30; row <= at.row + 30; ++row) {
        for (std::int32_t col = at.col - 30; col <= at.col + 30; ++col) {
          const Cell cell{col, row};
          if (!size.contains(cell) || sight.opaque(cell)) continue;
          const std::int64_t distance = distance_squared(board.tiling, at, cell);
          if (distance > most || !sees(sight, at, cell)) continue;
          const int level = distance * 10'000 <= most * 900 ? 4 : distance * 10'000 <= most * 3600 ? 2 : 1;
          levels[cell] = static_cast<std::uint16_t>(levels[cell] + level);
          if (cell == at) continue;
          std::uint8_t& side = sides[cell][static_cast<unsigned>(side_towards(board.tiling, cell, at))];
          side = static_cast<std::uint8_t>(side + level);
        }
      }
    }
    benchmark::DoNotOptimize(levels.values().data());
  }
  per(state, watchers);
}

/// One source goes a cell aside and back.
void move(benchmark::State& state) {
  Watched& w = watched();
  std::size_t next = 0;
  for (auto _ : state) {
    const ThreatField::ThreatId id = w.gulls[next++ % w.gulls.size()];
    const Cell at = w.field.threat(id).at;
    w.field.move(id, w.sight, {at.col + (at.col > 0 ? -1 : 1), at.row});
    w.field.move(id, w.sight, at);
  }
  per(state, 2);
}
void move_naive(benchmark::State& state) {
  Watched& w = watched();
  for (auto _ : state) {
    ThreatField field(board);
    for (const Cell cell : stands(w.sight)) field.add(w.sight, gull(cell));
    benchmark::DoNotOptimize(field.levels().values().data());
  }
  per(state, 1);
}

constexpr int routes = 40;
std::vector<std::pair<Cell, Cell>> questions(const CostGrid& costs) {
  Random random(9);
  std::vector<std::pair<Cell, Cell>> asked;
  while (asked.size() < routes) {
    const Cell from = random.cell(size);
    const Cell to = random.cell(size);
    if (costs.open(from) && costs.open(to)) asked.emplace_back(from, to);
  }
  return asked;
}

void wary(benchmark::State& state, Length care, Length linger) {
  const Watched& w = watched();
  const auto asked = questions(w.costs);
  WarySearcher searcher;
  for (auto _ : state) {
    std::uint64_t sum = 0;
    for (const auto& [from, to] : asked) {
      sum += searcher.route(w.costs, w.field.levels(), from, to, {.care = {.wary = care, .linger = linger}}).expanded();
    }
    benchmark::DoNotOptimize(sum);
  }
  per(state, routes);
}
void plain(benchmark::State& state) {
  const Watched& w = watched();
  const auto asked = questions(w.costs);
  Searcher searcher;
  for (auto _ : state) {
    std::uint64_t sum = 0;
    for (const auto& [from, to] : asked) {
      sum += searcher.route(w.costs, from, to, {.by = Algorithm::astar}).expanded();
    }
    benchmark::DoNotOptimize(sum);
  }
  per(state, routes);
}

void front(benchmark::State& state) {
  const Watched& w = watched();
  const auto asked = questions(w.costs);
  std::size_t next = 0;
  for (auto _ : state) {
    const auto& [from, to] = asked[next++ % asked.size()];
    const Front found = find_front(w.costs, w.field.levels(), from, to);
  }
  per(state, 1);
}

}  // namespace

BENCHMARK(build)->Name("threat_100_sources")->Unit(benchmark::kMicrosecond);
BENCHMARK(build_naive)->Name("threat_100_sources_naive")->Unit(benchmark::kMicrosecond);
BENCHMARK(move)->Name("threat_move_one")->Unit(benchmark::kMicrosecond);
BENCHMARK(move_naive)->Name("threat_move_one_naive")->Unit(benchmark::kMicrosecond);
BENCHMARK(plain)->Name("plain_beside_wary")->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(wary, none, 0, 0)->Name("wary_0")->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(wary, some, 100, 0)->Name("wary_1")->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(wary, linger, 100, 50)->Name("wary_1_linger")->Unit(benchmark::kMillisecond);
BENCHMARK(front)->Name("front")->Unit(benchmark::kMillisecond)->Iterations(10);
