// Our searches beside the textbook's: flat arrays, std::priority_queue, touched cells cleared after each query. Both
// answer the same questions on the same maps; costs are compared once before anything is timed.
#include <benchmark/benchmark.h>
#include <malloc.h>

#include <cstdio>
#include <cstdlib>
#include <functional>
#include <queue>
#include <thread>

#include "saunter/search/batch.hpp"
#include "saunter/search/searcher.hpp"
#include "support/random_maps.hpp"
#include "boards.hpp"
#include "textbook.hpp"

using namespace saunter;
using namespace saunter::test;
using saunter::bench::noise;
using saunter::bench::PlainRing;
using saunter::bench::rooms;
using saunter::bench::Textbook;

namespace {

struct Question {
  Cell from;
  Cell to;
};

/// A perfect maze with thin walls, depth first: exactly one way between any two cells.
CostGrid maze(int side) {
  Random random(7);
  const Size size{side, side};
  std::vector<Terrain> kinds(1);
  kinds[0].name = "salt";
  Map map({Tiling::square(), size}, kinds);
  Grid<std::uint8_t> open(size, 0);  // carved sides, 16 = visited
  std::vector<Direction> back;
  Cell cell{0, 0};
  open[cell] = 16;
  for (;;) {
    std::array<Direction, 4> ways = {};
    int count = 0;
    for (Direction d{0}; d < 4; ++d) {
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
    const Direction opposite{(d + 2) % 4};
    open[cell] = static_cast<std::uint8_t>(16U | 1U << opposite);
    back.push_back(opposite);
  }
  for (int row = 0; row < side; ++row) {
    for (int col = 0; col < side; ++col) {
      for (Direction d{0}; d < 4; ++d) {
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

void must_agree(const CostGrid& costs, const std::vector<Question>& list, Algorithm by) {
  Textbook textbook(costs);
  Searcher searcher;
  for (std::size_t i = 0; i < list.size() && i < 10; ++i) {
    const Route& route = searcher.route(costs, list[i].from, list[i].to, {.by = by});
    if (textbook.route(list[i].from, list[i].to, true) == (route.found() ? route.cost() : unreached)) continue;
    std::fprintf(stderr, "the two searches disagree\n");
    std::abort();
  }
}

/// Tells the time of one of `items` pieces of work done in each round.
void per_item(benchmark::State& state, double items) {
  for (const char* counter : {"expanded", "extra_mb", "steps"})
    state.counters[counter];  // every line of a table has all
  state.counters["ns_per_item"] =
      benchmark::Counter(items * 1e-9, benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
}

constexpr int query_count = 40;

CostGrid noise_of(int side) { return noise(Tiling::square(), side, 20, false); }

/// Routes over a board, ours and the textbook's.
void routes(benchmark::State& state, const CostGrid& costs, Algorithm by) {
  const auto list = questions(costs, query_count);
  must_agree(costs, list, by);
  Searcher searcher;
  std::uint64_t expanded = 0;
  for (const auto& q : list) expanded += searcher.route(costs, q.from, q.to, {.by = by}).expanded();
  for (auto _ : state) {
    for (const auto& q : list) benchmark::DoNotOptimize(searcher.route(costs, q.from, q.to, {.by = by}).cost());
  }
  state.counters["expanded"] = static_cast<double>(expanded) / query_count;
  per_item(state, query_count);
}
void routes_naive(benchmark::State& state, const CostGrid& costs) {
  const auto list = questions(costs, query_count);
  Textbook textbook(costs);
  for (auto _ : state) {
    for (const auto& q : list) benchmark::DoNotOptimize(textbook.route(q.from, q.to, true));
  }
  per_item(state, query_count);
}
/// One route with everything it needs made first: the grid from an array, the searcher's memory.
void first_route(benchmark::State& state) {
  const CostGrid made = noise_of(2048);
  const std::vector<EntryCost> costs(made.entries().begin(), made.entries().end());
  const auto list = questions(made, 1);
  for (auto _ : state) {
    const CostGrid fresh = CostGrid::from_hundredths(made.board(), {}, costs);
    Searcher searcher;
    benchmark::DoNotOptimize(searcher.route(fresh, list[0].from, list[0].to).cost());
  }
  per_item(state, 1);
}
void first_route_naive(benchmark::State& state) {
  const CostGrid costs = noise_of(2048);
  const auto list = questions(costs, 1);
  for (auto _ : state) {
    Textbook textbook(costs);
    benchmark::DoNotOptimize(textbook.route(list[0].from, list[0].to, true));
  }
  per_item(state, 1);
}

constexpr int maze_side = 4583;
const CostGrid& the_maze() {
  static const CostGrid costs = maze(maze_side);
  return costs;
}
constexpr Question across{{maze_side - 1, 0}, {0, maze_side - 1}};
void solve_maze(benchmark::State& state, Algorithm by) {
  const CostGrid& costs = the_maze();
  const auto in_use = [] { return mallinfo2().uordblks + mallinfo2().hblkhd; };
  const std::size_t before = in_use();
  Searcher searcher;
  const Route& route = searcher.route(costs, across.from, across.to, {.by = by});
  state.counters["expanded"] = static_cast<double>(route.expanded());
  state.counters["steps"] = static_cast<double>(route.steps());
  state.counters["extra_mb"] = static_cast<double>(in_use() - before) / 1e6;
  for (auto _ : state) benchmark::DoNotOptimize(searcher.route(costs, across.from, across.to, {.by = by}).cost());
  per_item(state, 1);
}
void solve_maze_naive(benchmark::State& state) {
  Textbook textbook(the_maze());
  for (auto _ : state) benchmark::DoNotOptimize(textbook.route(across.from, across.to, true));
  per_item(state, 1);
}

constexpr int field_side = 1024;
constexpr double field_cells = double{field_side} * field_side;
void field(benchmark::State& state, Tiling tiling, bool weighted, bool count_steps) {
  const CostGrid costs = noise(tiling, field_side, 20, weighted);
  Searcher searcher;
  Field out;
  const Source start{questions(costs, 1)[0].from};
  for (auto _ : state) searcher.reach(costs, std::span(&start, 1), out, {.count_steps = count_steps});
  per_item(state, field_cells);
}
void field_naive(benchmark::State& state, Tiling tiling) {
  const CostGrid costs = noise(tiling, field_side, 20, true);
  Textbook textbook(costs);
  const Cell start = questions(costs, 1)[0].from;
  // No cell is the goal: the search covers everything it can reach.
  for (auto _ : state) benchmark::DoNotOptimize(textbook.route(start, {-9, -9}, false));
  per_item(state, field_cells);
}
void field_ring(benchmark::State& state, Tiling tiling) {
  const CostGrid costs = noise(tiling, field_side, 20, true);
  PlainRing ring(costs);
  const Cell start = questions(costs, 1)[0].from;
  for (auto _ : state) benchmark::DoNotOptimize(ring.route(start, {-9, -9}, false));
  per_item(state, field_cells);
}
void routes_ring(benchmark::State& state, const CostGrid& costs) {
  const auto list = questions(costs, query_count);
  PlainRing ring(costs);
  for (auto _ : state) {
    for (const auto& q : list) benchmark::DoNotOptimize(ring.route(q.from, q.to, true));
  }
  per_item(state, query_count);
}
void field_steps_naive(benchmark::State& state) {
  const CostGrid costs = noise(Tiling::square(), field_side, 20, false);
  const Size size = costs.size();
  const Cell start = questions(costs, 1)[0].from;
  std::vector<std::uint32_t> steps(size.cell_count());
  std::vector<std::uint32_t> parent(size.cell_count());
  for (auto _ : state) {
    std::fill(steps.begin(), steps.end(), unreached);
    std::queue<Cell> line;
    line.push(start);
    steps[size.index(start).value()] = 0;
    while (!line.empty()) {
      const Cell cell = line.front();
      line.pop();
      for (Direction d{0}; d < 8; ++d) {
        const Cell next = costs.tiling().neighbour(cell, d);
        if (!size.contains(next) || costs.entry(next) == blocked) continue;
        const bool diagonal = d >= 4;
        if (diagonal &&
            (costs.entry(Cell{next.col, cell.row}) == blocked || costs.entry(Cell{cell.col, next.row}) == blocked)) {
          continue;
        }
        const std::uint32_t index = size.index(next).value();
        if (steps[index] != unreached) continue;
        steps[index] = steps[size.index(cell).value()] + 1;
        parent[index] = size.index(cell).value();
        line.push(next);
      }
    }
    benchmark::DoNotOptimize(steps.data());
    benchmark::DoNotOptimize(parent.data());
  }
  per_item(state, field_cells);
}

/// Many small queries over this many threads.
void batch(benchmark::State& state, std::size_t workers) {
  const CostGrid costs = noise_of(512);
  std::vector<RouteQuestion> list;
  for (const Question& q : questions(costs, 400)) list.push_back({q.from, q.to});
  std::vector<Route> answers(list.size());
  Batch batch(workers);
  const auto run = [](std::size_t count, auto&& job) {
    std::vector<std::thread> threads;
    for (std::size_t worker = 1; worker < count; ++worker) threads.emplace_back([&job, worker] { job(worker); });
    job(0);
    for (std::thread& thread : threads) thread.join();
  };
  for (auto _ : state) batch.routes(costs, list, answers, {}, run);
  per_item(state, 400);
}

/// What an option costs a query that needs it little: a cell kept out of beside the start, a nearest cell that is not
/// wanted in the end, arriving beside the goal, a second goal far away. By the place expanded, since options expand
/// others; where `automatic` jumps, by the route.
enum class Asked : std::uint8_t { nothing, changes, or_nearest, beside, two_goals };
void option(benchmark::State& state, const CostGrid& costs, Asked asked, Algorithm by = Algorithm::astar) {
  const auto list = questions(costs, query_count);
  Searcher searcher;
  const auto ask = [&](std::size_t i) -> const Route& {
    const Question& q = list[i];
    const EntryChange avoided[] = {{q.from + Offset{3, 0}, blocked}};
    const Source start{q.from};
    const Cell goals[] = {q.to, list[(i + 1) % list.size()].to};
    Query query{.starts = std::span(&start, 1),
                .goals = std::span(goals, asked == Asked::two_goals ? std::size_t{2} : std::size_t{1})};
    query.beside = asked == Asked::beside;
    RouteOptions options{.by = by, .or_nearest = asked == Asked::or_nearest};
    if (asked == Asked::changes) options.changes = avoided;
    if (asked == Asked::nothing) return searcher.route(costs, q.from, q.to, options);
    return searcher.route(costs, query, options);
  };
  std::uint64_t expanded = 0;
  for (std::size_t i = 0; i < list.size(); ++i) expanded += by == Algorithm::astar ? ask(i).expanded() : 1U;
  for (auto _ : state) {
    for (std::size_t i = 0; i < list.size(); ++i) benchmark::DoNotOptimize(ask(i).cost());
  }
  state.counters["expanded"] = static_cast<double>(expanded) / query_count;
  per_item(state, static_cast<double>(expanded));
}

using benchmark::kMillisecond;
using benchmark::RegisterBenchmark;

/// Registered in the order of the table; each piece of work is followed by its plain version.
void register_all() {
  const auto add = [](const std::string& name, auto&& work) {
    RegisterBenchmark(name.c_str(), work)->Unit(kMillisecond)->UseRealTime();
  };
  add("astar_noise_2048", [](benchmark::State& s) { routes(s, noise_of(2048), Algorithm::astar); });
  add("astar_noise_2048_naive", [](benchmark::State& s) { routes_naive(s, noise_of(2048)); });
  add("astar_noise_2048_ring", [](benchmark::State& s) { routes_ring(s, noise_of(2048)); });
  add("first_route_2048", first_route);
  add("first_route_2048_naive", first_route_naive);
  add("astar_rooms_2048", [](benchmark::State& s) { routes(s, rooms(2048), Algorithm::astar); });
  add("astar_rooms_2048_naive", [](benchmark::State& s) { routes_naive(s, rooms(2048)); });
  add("astar_rooms_2048_ring", [](benchmark::State& s) { routes_ring(s, rooms(2048)); });
  add("jump_rooms_2048", [](benchmark::State& s) { routes(s, rooms(2048), Algorithm::jump); });
  add("automatic_rooms_2048", [](benchmark::State& s) { routes(s, rooms(2048), Algorithm::automatic); });
  for (const int percent : {1, 3, 6}) {  // where jumping stops to pay
    const auto scattered = [percent] { return noise(Tiling::square(), 1024, percent, false); };
    const std::string name = "noise_" + std::to_string(percent) + "_percent_1024";
    add("astar_" + name, [=](benchmark::State& s) { routes(s, scattered(), Algorithm::astar); });
    add("jump_" + name, [=](benchmark::State& s) { routes(s, scattered(), Algorithm::jump); });
  }
  add("astar_maze_4583", [](benchmark::State& s) { solve_maze(s, Algorithm::astar); });
  add("bfs_maze_4583", [](benchmark::State& s) { solve_maze(s, Algorithm::bfs); });
  add("astar_maze_4583_naive", solve_maze_naive);
  add("field_square_1024", [](benchmark::State& s) { field(s, Tiling::square(), true, false); });
  add("field_square_1024_naive", [](benchmark::State& s) { field_naive(s, Tiling::square()); });
  add("field_square_1024_ring", [](benchmark::State& s) { field_ring(s, Tiling::square()); });
  add("field_hex_1024", [](benchmark::State& s) { field(s, all_tilings()[1], true, false); });
  add("field_hex_1024_naive", [](benchmark::State& s) { field_naive(s, all_tilings()[1]); });
  add("field_hex_1024_ring", [](benchmark::State& s) { field_ring(s, all_tilings()[1]); });
  add("field_steps_1024", [](benchmark::State& s) { field(s, Tiling::square(), false, true); });
  add("field_steps_1024_naive", field_steps_naive);
  add("batch_two_threads", [](benchmark::State& s) { batch(s, 2); });
  add("batch_two_threads_naive", [](benchmark::State& s) { batch(s, 1); });
  const std::vector<std::pair<std::string, Asked>> options = {{"nothing", Asked::nothing},
                                                              {"changes", Asked::changes},
                                                              {"or_nearest", Asked::or_nearest},
                                                              {"beside", Asked::beside},
                                                              {"two_goals", Asked::two_goals}};
  const std::vector<std::pair<std::string, std::function<CostGrid()>>> boards = {
      {"noise", [] { return noise_of(1024); }},
      {"hexes", [] { return noise(all_tilings()[1], 1024, 20, false); }},
      {"weighted_hexes", [] { return noise(all_tilings()[1], 1024, 20, true); }},
      {"corridors", [] { return maze(1024); }}};
  for (const auto& [board, make] : boards) {
    for (const auto& [name, asked] : options)
      add("option_" + name + "_" + board, [make, asked](benchmark::State& s) { option(s, make(), asked); });
  }
  for (const auto& [name, asked] : options) {
    add("option_" + name + "_rooms", [asked](benchmark::State& s) { option(s, rooms(2048), asked, Algorithm::automatic); });
  }
  for (const int side : {256, 512, 1024, 4096}) {  // how it grows
    const std::string name = "astar_noise_" + std::to_string(side);
    add(name, [=](benchmark::State& s) { routes(s, noise_of(side), Algorithm::astar); });
    add(name + "_naive", [=](benchmark::State& s) { routes_naive(s, noise_of(side)); });
  }
}

}  // namespace

int main(int count, char** words) {
  register_all();
  benchmark::Initialize(&count, words);
  if (benchmark::ReportUnrecognizedArguments(count, words)) return 1;
  benchmark::RunSpecifiedBenchmarks();
  return 0;
}
