// Prepared maps beside the fastest search without one: the same questions to both, by turns, in one run.
#include <fmt/format.h>

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <functional>
#include <string>
#include <thread>
#include <vector>

#include "boards.hpp"
#include "saunter/generate/cave.hpp"
#include "saunter/generate/maze.hpp"
#include "saunter/search/prepared.hpp"
#include "saunter/search/searcher.hpp"
#include "support/random_maps.hpp"
#include "timing.hpp"

using namespace saunter;
using namespace saunter::test;
using saunter::bench::now;

namespace {

double part(std::vector<double> times, double share) {
  std::sort(times.begin(), times.end());
  return times[static_cast<std::size_t>(share * static_cast<double>(times.size() - 1))];
}

CostGrid cave_of(int side) {
  const Board board{Tiling::square(), {side, side}};
  const Made made = make_cave(board, {});
  return CostGrid(board, {}, [&](Cell cell) -> EntryCost { return made.open(cell) ? 100 : 0; });
}

CostGrid maze_of(int side) {
  const Made made = make_maze({Tiling::square(), {side, side}}, {});
  const Map map = to_map(made, std::vector<Terrain>(3, Terrain{.name = "salt"}), {});
  Mover mover{.name = "x"};
  mover.rules.steps = 4;
  return bake(map, mover);
}

struct Work {
  const char* name;
  std::function<CostGrid()> make;
};

void measure(const Work& work, std::size_t workers) {
  const CostGrid costs = work.make();
  const auto cells = static_cast<double>(costs.size().cell_count());
  Random random(5);
  const auto open_cell = [&] {
    for (;;) {
      const Cell cell = random.cell(costs.size());
      if (costs.open(cell)) return cell;
    }
  };
  Searcher searcher;
  Field field;
  const Source source{open_cell()};
  searcher.field_to(costs, std::span(&source, 1), field);
  const double field_began = now();
  searcher.field_to(costs, std::span(&source, 1), field);
  const double one_field = now() - field_began;

  const auto on_threads = [](std::size_t count, auto&& job) {
    std::vector<std::thread> threads;
    for (std::size_t worker = 1; worker < count; ++worker) threads.emplace_back([&job, worker] { job(worker); });
    job(0);
    for (std::thread& thread : threads) thread.join();
  };
  const auto began = std::chrono::steady_clock::now();
  const Prepared index = prepare(costs, {}, workers, on_threads);
  const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();

  std::vector<double> searched;
  std::vector<double> looked_up;
  std::vector<double> cost_alone;
  std::vector<double> legs_alone;
  double steps = 0;
  for (int i = -20; i < 300; ++i) {
    const Cell from = open_cell();
    const Cell to = open_cell();
    double began_at = now();
    const Cost wanted = searcher.route(costs, from, to).cost();
    const double search = now() - began_at;
    began_at = now();
    const Route& route = searcher.route(costs, from, to, {.prepared = &index});
    const double look_up = now() - began_at;
    if (route.cost() != wanted || (route.found() && route.algorithm() != Algorithm::prepared)) {
      std::fprintf(stderr, "%s: the index and the search disagree\n", work.name);
      std::abort();
    }
    if (i < 0 || !route.found()) continue;
    steps += static_cast<double>(route.steps());
    began_at = now();
    (void)searcher.cost(costs, from, to, index);
    cost_alone.push_back(now() - began_at);
    began_at = now();
    (void)searcher.begin_legs(costs, from, to, index);
    for (int leg = 0; leg < 4; ++leg) (void)searcher.next_leg();
    legs_alone.push_back(now() - began_at);
    searched.push_back(search);
    looked_up.push_back(look_up);
  }
  const PreparedFigures figures = index.figures();
  fmt::print(
      "{:<22} {:>7.1f} {:>7.0f} {:>8.1f} {:>8.0f} {:>8.1f} {:>8.1f} {:>8.1f} {:>8.1f} {:>7.1f} {:>8.0f} {:>7.1f}\n",
      work.name, seconds, seconds * 1e6 / one_field, static_cast<double>(figures.bytes) / cells, part(searched, 0.5),
      part(cost_alone, 0.5), part(legs_alone, 0.5), part(looked_up, 0.5), part(looked_up, 0.99),
      part(searched, 0.5) / part(looked_up, 0.5), steps / static_cast<double>(searched.size()),
      1000 * part(looked_up, 0.5) * static_cast<double>(searched.size()) / steps);
  std::fflush(stdout);
}

}  // namespace

/// Words: the boards to measure (all when there are none), `workers=N`.
int main(int count, char** words) {
  using saunter::bench::noise;
  const Tiling square = Tiling::square();
  const Tiling hex = all_tilings()[1];
  const std::vector<Work> all = {
      {"rooms-2048", [] { return saunter::bench::rooms(2048); }},
      {"caves-2048", [] { return cave_of(2048); }},
      {"maze-2048", [] { return maze_of(2048); }},
      {"weighted-squares-1024", [=] { return noise(square, 1024, 10, true); }},
      {"weighted-hexes-1024", [=] { return noise(hex, 1024, 10, true); }},
      {"noise-512", [=] { return noise(square, 512, 20, false); }},
      {"noise-1024", [=] { return noise(square, 1024, 20, false); }},
      {"noise-2048", [=] { return noise(square, 2048, 20, false); }},
  };
  std::size_t workers = 2;
  std::vector<std::string> wanted;
  for (int i = 1; i < count; ++i) {
    const std::string word = words[i];
    if (word.rfind("workers=", 0) == 0)
      workers = static_cast<std::size_t>(std::atoi(word.c_str() + 8));
    else
      wanted.push_back(word);
  }
  fmt::print("times of a question in us; prepared by {} workers; fields: its time in fields of the same board\n",
             workers);
  fmt::print("{:<22} {:>7} {:>7} {:>8} {:>8} {:>8} {:>8} {:>8} {:>8} {:>7} {:>8} {:>7}\n", "board", "s", "fields",
             "B a cell", "search", "cost", "4 legs", "route", "p99", "ratio", "steps", "ns/step");
  for (const Work& work : all) {
    if (wanted.empty() || std::find(wanted.begin(), wanted.end(), work.name) != wanted.end()) measure(work, workers);
  }
  return 0;
}
