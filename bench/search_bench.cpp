// Our searches beside the textbook's: flat arrays, std::priority_queue, touched cells cleared after each query. Both
// answer the same questions on the same maps; costs are compared once before anything is timed.
#include <benchmark/benchmark.h>

#include <cstdio>
#include <cstdlib>
#include <queue>

#include "saunter/search/searcher.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

struct Question {
  Cell from;
  Cell to;
};

CostGrid noise(Tiling tiling, int side, int blocked_percent, bool weighted) {
  Random random(11);
  const Board board{tiling, {side, side}};
  return CostGrid(board, {}, [&](Cell) {
    if (random.chance(blocked_percent)) return 0;
    return weighted ? 100 + 50 * random.whole(0, 6) : 100;
  });
}

/// Rooms of 32 cells with a door of one cell in each wall.
CostGrid rooms(int side) {
  Random random(23);
  Grid<std::uint8_t> wall({side, side}, 0);
  constexpr int room = 33;
  for (int row = 0; row < side; ++row) {
    for (int col = 0; col < side; ++col) wall[Cell{col, row}] = col % room == room - 1 || row % room == room - 1;
  }
  for (int top = 0; top < side; top += room) {
    for (int left = 0; left < side; left += room) {
      const Cell east{left + room - 1, std::min(side - 1, top + random.whole(0, room - 2))};
      const Cell south{std::min(side - 1, left + random.whole(0, room - 2)), top + room - 1};
      if (east.col < side) wall[east] = 0;
      if (south.row < side) wall[south] = 0;
    }
  }
  return CostGrid({Tiling::square(), {side, side}}, {}, [&](Cell cell) { return wall[cell] != 0 ? 0 : 100; });
}

/// A perfect maze with thin walls, depth first: exactly one way between any two cells.
CostGrid maze(int side) {
  Random random(7);
  const Size size{side, side};
  std::vector<Terrain> kinds(1);
  kinds[0].name = "salt";
  Map map({Tiling::square(), size}, kinds);
  Grid<std::uint8_t> open(size, 0);  // carved sides, 16 = visited
  std::vector<std::uint8_t> back;
  Cell cell{0, 0};
  open[cell] = 16;
  for (;;) {
    std::array<Direction, 4> ways = {};
    int count = 0;
    for (Direction d = 0; d < 4; ++d) {
      const Cell next = map.tiling().neighbour(cell, d);
      if (size.contains(next) && open[next] == 0) ways[static_cast<unsigned>(count++)] = d;
    }
    if (count == 0) {
      if (back.empty()) break;
      cell = map.tiling().neighbour(cell, back.back());
      back.pop_back();
      continue;
    }
    const Direction d = ways[static_cast<unsigned>(random.whole(0, count - 1))];
    open[cell] = static_cast<std::uint8_t>(open[cell] | 1U << d);
    cell = map.tiling().neighbour(cell, d);
    const auto opposite = static_cast<std::uint8_t>((d + 2) % 4);
    open[cell] = static_cast<std::uint8_t>(16U | 1U << opposite);
    back.push_back(opposite);
  }
  for (int row = 0; row < side; ++row) {
    for (int col = 0; col < side; ++col) {
      for (Direction d = 0; d < 4; ++d) {
        const Cell next = map.tiling().neighbour({col, row}, d);
        if (size.contains(next) && (open[Cell{col, row}] >> d & 1) == 0) map.set_closed({col, row}, d);
      }
    }
  }
  Mover mover{.name = "x"};
  mover.rules.steps = 4;
  return bake(map, mover);
}

std::vector<Question> questions(const CostGrid& costs, int count) {
  Random random(5);
  std::vector<Question> list;
  while (static_cast<int>(list.size()) < count) {
    const Cell from = random.cell(costs.size());
    const Cell to = random.cell(costs.size());
    if (costs.open(from) && costs.open(to)) list.push_back({from, to});
  }
  return list;
}

/// The first version a good programmer writes.
class Textbook {
 public:
  explicit Textbook(const CostGrid& costs)
      : costs_(costs), cost_(costs.size().cell_count(), unreached), parent_(cost_.size()), closed_(cost_.size(), 0) {}

  Cost route(Cell from, Cell to, bool guided) {
    for (const std::uint32_t at : touched_) {
      cost_[at] = unreached;
      closed_[at] = 0;
    }
    touched_.clear();
    const auto estimate = [&](Cell c) -> std::uint64_t {
      if (!guided) return 0;
      const auto cols = static_cast<std::uint64_t>(std::abs(c.col - to.col));
      const auto rows = static_cast<std::uint64_t>(std::abs(c.row - to.row));
      return 141 * std::min(cols, rows) + 100 * (std::max(cols, rows) - std::min(cols, rows));
    };
    using Entry = std::pair<std::uint64_t, std::uint32_t>;
    std::priority_queue<Entry, std::vector<Entry>, std::greater<>> open;
    const Size size = costs_.size();
    const std::uint32_t start = size.index(from).value();
    cost_[start] = 0;
    touched_.push_back(start);
    open.push({estimate(from), start});
    while (!open.empty()) {
      const std::uint32_t at = open.top().second;
      open.pop();
      if (closed_[at] != 0) continue;
      closed_[at] = 1;
      const Cell cell = size.cell(CellIndex{at});
      if (cell == to) return cost_[at];
      for (Direction d = 0; d < costs_.rules().steps; ++d) {
        if (costs_.has_sides() && (costs_.moves(cell) >> d & 1) == 0) continue;  // a wall between cells
        const Cell next = costs_.tiling().neighbour(cell, d);
        if (!size.contains(next) || costs_.entry(next) == blocked) continue;
        if (costs_.tiling().shape() == Shape::square && d >= 4) {  // no cutting corners
          if (costs_.entry(Cell{next.col, cell.row}) == blocked || costs_.entry(Cell{cell.col, next.row}) == blocked)
            continue;
        }
        const std::uint32_t index = size.index(next).value();
        const Cost cost =
            cost_[at] + step_cost(d >= 4 && costs_.tiling().shape() == Shape::square ? 141 : 100, costs_.entry(next));
        if (closed_[index] != 0 || cost >= cost_[index]) continue;
        if (cost_[index] == unreached) touched_.push_back(index);
        cost_[index] = cost;
        parent_[index] = at;
        open.push({cost + estimate(next), index});
      }
    }
    return unreached;
  }

 private:
  const CostGrid& costs_;
  std::vector<Cost> cost_;
  std::vector<std::uint32_t> parent_;
  std::vector<std::uint8_t> closed_;
  std::vector<std::uint32_t> touched_;
};

void must_agree(const CostGrid& costs, const std::vector<Question>& list, Algorithm by = Algorithm::astar) {
  Textbook textbook(costs);
  Searcher searcher;
  for (std::size_t i = 0; i < list.size() && i < 10; ++i) {
    const Route& route = searcher.route(costs, list[i].from, list[i].to, {.by = by});
    if (textbook.route(list[i].from, list[i].to, true) == (route.found() ? route.cost() : unreached)) continue;
    std::fprintf(stderr, "the two searches disagree\n");
    std::abort();
  }
}

void astar_noise_2048(benchmark::State& state) {
  const CostGrid costs = noise(Tiling::square(), 2048, 20, false);
  const auto list = questions(costs, 40);
  must_agree(costs, list);
  Searcher searcher;
  for (auto _ : state) {
    for (const auto& q : list) benchmark::DoNotOptimize(searcher.route(costs, q.from, q.to).cost());
  }
  std::uint64_t ex=0; for (const auto& q : list) ex+=searcher.route(costs, q.from, q.to).expanded();
  state.counters["ex"]=ex/40.0;
  state.counters["ns_per_item"] =
      benchmark::Counter(40e-9, benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
}
void astar_noise_2048_naive(benchmark::State& state) {
  const CostGrid costs = noise(Tiling::square(), 2048, 20, false);
  const auto list = questions(costs, 40);
  Textbook textbook(costs);
  for (auto _ : state) {
    for (const auto& q : list) benchmark::DoNotOptimize(textbook.route(q.from, q.to, true));
  }
  state.counters["ns_per_item"] =
      benchmark::Counter(40e-9, benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
}

constexpr int maze_side = 4583;
const CostGrid& the_maze() {
  static const CostGrid costs = maze(maze_side);
  return costs;
}
template <Algorithm by>
void maze_4583(benchmark::State& state) {
  const CostGrid& costs = the_maze();
  Searcher searcher;
  for (auto _ : state) benchmark::DoNotOptimize(searcher.route(costs, {maze_side - 1, 0}, {0, maze_side - 1}, {.by = by}).cost());
  state.counters["expanded"] = static_cast<double>(searcher.route(costs, {maze_side - 1, 0}, {0, maze_side - 1}, {.by = by}).expanded());
}
void maze_4583_naive(benchmark::State& state) {
  Textbook textbook(the_maze());
  for (auto _ : state) benchmark::DoNotOptimize(textbook.route({maze_side - 1, 0}, {0, maze_side - 1}, true));
}

template <Algorithm by, bool in_rooms>
void plain_2048(benchmark::State& state) {
  const CostGrid costs = in_rooms ? rooms(2048) : noise(Tiling::square(), 2048, 20, false);
  const auto list = questions(costs, 40);
  must_agree(costs, list, by);
  Searcher searcher;
  for (auto _ : state) {
    for (const auto& q : list) benchmark::DoNotOptimize(searcher.route(costs, q.from, q.to, {.by = by}).cost());
  }
}
void astar_rooms_2048_naive(benchmark::State& state) {
  const CostGrid costs = rooms(2048);
  const auto list = questions(costs, 40);
  Textbook textbook(costs);
  for (auto _ : state) {
    for (const auto& q : list) benchmark::DoNotOptimize(textbook.route(q.from, q.to, true));
  }
}

constexpr double field_cells = 1024.0 * 1024.0;
template <int which>
void field_1024(benchmark::State& state) {
  const CostGrid costs = noise(all_tilings()[which], 1024, 20, true);
  Searcher searcher;
  Field field;
  const Source start{questions(costs, 1)[0].from};
  for (auto _ : state) searcher.reach(costs, std::span(&start, 1), field);
  state.counters["ns_per_item"] = benchmark::Counter(
      field_cells * 1e-9, benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
}
template <int which>
void field_1024_naive(benchmark::State& state) {
  const CostGrid costs = noise(all_tilings()[which], 1024, 20, true);
  Textbook textbook(costs);
  const Cell start = questions(costs, 1)[0].from;
  // No cell is the goal: the search covers everything it can reach.
  for (auto _ : state) benchmark::DoNotOptimize(textbook.route(start, {-9, -9}, false));
  state.counters["ns_per_item"] = benchmark::Counter(
      field_cells * 1e-9, benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
}

}  // namespace

BENCHMARK(astar_noise_2048)->Unit(benchmark::kMillisecond);
BENCHMARK(astar_noise_2048_naive)->Unit(benchmark::kMillisecond);
BENCHMARK(maze_4583<Algorithm::astar>)->Unit(benchmark::kMillisecond);
BENCHMARK(maze_4583<Algorithm::bfs>)->Unit(benchmark::kMillisecond);
BENCHMARK(maze_4583<Algorithm::dijkstra>)->Unit(benchmark::kMillisecond);
BENCHMARK(maze_4583_naive)->Unit(benchmark::kMillisecond);
BENCHMARK(plain_2048<Algorithm::astar,true>)->Unit(benchmark::kMillisecond);
BENCHMARK(plain_2048<Algorithm::jump,true>)->Unit(benchmark::kMillisecond);
BENCHMARK(plain_2048<Algorithm::jump,false>)->Unit(benchmark::kMillisecond);
BENCHMARK(plain_2048<Algorithm::astar,false>)->Unit(benchmark::kMillisecond);
BENCHMARK(astar_rooms_2048_naive)->Unit(benchmark::kMillisecond);
BENCHMARK(field_1024<0>)->Name("field_square_1024")->Unit(benchmark::kMillisecond);
BENCHMARK(field_1024_naive<0>)->Name("field_square_1024_naive")->Unit(benchmark::kMillisecond);
BENCHMARK(field_1024<1>)->Name("field_hex_1024")->Unit(benchmark::kMillisecond);
BENCHMARK(field_1024_naive<1>)->Name("field_hex_1024_naive")->Unit(benchmark::kMillisecond);
