// Asks a number of random queries with every option over several threads that share cost grids. Each way found is
// walked. Made for the sanitizers: stress QUERIES THREADS [SEED].
#include <atomic>
#include <cstdio>
#include <cstdlib>
#include <thread>

#include "saunter/search/searcher.hpp"
#include "saunter/search/path.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

RouteOptions random_options(Random& random, const CostGrid& costs, std::vector<EntryChange>& changes) {
  static const std::vector<Algorithm> all = {Algorithm::automatic, Algorithm::astar,  Algorithm::dijkstra,
                                             Algorithm::bfs,       Algorithm::greedy, Algorithm::jump,
                                             Algorithm::dead_ends};
  RouteOptions options{.by = random.one_of(all)};
  const bool bfs = options.by == Algorithm::bfs;
  const bool greedy = options.by == Algorithm::greedy;
  if (!bfs && random.chance(20)) options.budget = random.hundredths(0, 5000);
  if (random.chance(20)) options.limit = static_cast<std::uint64_t>(random.whole(1, 80));
  if (random.chance(20)) options.or_nearest = true;
  if (options.by == Algorithm::astar && random.chance(20)) options.weight = random.hundredths(100, 1000);
  if (!bfs && !greedy && options.weight == 100) {
    options.natural = random.chance(20);
    const bool turns = !options.natural && costs.tiling().shape() != Shape::triangle && random.chance(20);
    if (turns) options.turn_cost = random.hundredths(1, 300);
  }
  changes.clear();
  if (random.chance(20)) {
    for (int i = random.whole(1, 5); i > 0; --i) {
      const Cell cell = random.cell(costs.size());
      const bool may_open = !costs.has_sides() || costs.open(cell);
      changes.push_back({cell, may_open && random.chance(50) ? EntryCost{250} : blocked});
    }
  }
  options.changes = changes;
  return options;
}

/// The number of wrong answers among so many queries on one map.
std::size_t ask(const CostGrid& costs, Searcher& searcher, Random& random, std::size_t queries) {
  std::size_t wrong = 0;
  std::vector<EntryChange> changes;
  const Size size = costs.size();
  for (std::size_t i = 0; i < queries; ++i) {
    const RouteOptions options = random_options(random, costs, changes);
    const Cell from{random.whole(-1, size.cols), random.whole(-1, size.rows)};
    const Cell to{random.whole(-1, size.cols), random.whole(-1, size.rows)};
    const Source starts[] = {{from}, {to, 7_steps}};
    const Cell goals[] = {to, random.cell(size)};
    const bool several = random.chance(20);
    const Query query{.starts = std::span(starts, several ? 2 : 1),
                      .goals = std::span(goals, several ? 2 : 1),
                      .within = several ? random.whole(0, 2) : 0,
                      .beside = random.chance(30)};
    const Route& route = several ? searcher.route(costs, query, options) : searcher.route(costs, from, to, options);
    if (route.found() && route.cells().empty()) ++wrong;
    const auto walked = cost_of_path(costs, route.cells(), changes);
    const bool extra = options.turn_cost > 0 || several;  // turns and head starts come on top
    const bool sums = walked && (extra ? *walked <= route.cost() : *walked == route.cost());
    if (sums) continue;
    ++wrong;
    std::fprintf(stderr, "%s from %d,%d to %d,%d: %s, cost %u, walked %lld, several %d, nearest %d, turn cost %u\n",
                 std::string(algorithm_name(options.by)).c_str(), from.col, from.row, to.col, to.row,
                 to_string(route.verdict()).c_str(), route.cost(), walked ? static_cast<long long>(*walked) : -1LL,
                 several ? 1 : 0, options.or_nearest ? 1 : 0, Cost{options.turn_cost});
  }
  return wrong;
}

}  // namespace

int main(int count, char** words) {
  if (count < 3) return 2;
  const auto queries = static_cast<std::size_t>(std::atoll(words[1]));
  const auto thread_count = static_cast<std::size_t>(std::atoll(words[2]));
  const auto seed = static_cast<std::uint64_t>(count > 3 ? std::atoll(words[3]) : 1);
  constexpr std::size_t per_map = 250;
  // A few maps at a time are shared by all threads.
  std::vector<CostGrid> grids;
  Random maps(seed);
  for (int i = 0; i < 40; ++i) {
    const Tiling tiling = maps.one_of(all_tilings());
    Map map = random_map(maps, tiling, random_size(maps, 30));
    if (maps.chance(40)) add_random_edges(maps, map);
    grids.push_back(bake(map, random_mover(maps, tiling)));
  }
  std::atomic<std::size_t> asked{0};
  std::atomic<std::size_t> wrong{0};
  std::vector<std::thread> threads;
  for (std::size_t worker = 0; worker < thread_count; ++worker) {
    threads.emplace_back([&, worker] {
      Searcher searcher;
      Random random(seed * 1000 + worker);
      while (asked.fetch_add(per_map) < queries) wrong += ask(random.one_of(grids), searcher, random, per_map);
    });
  }
  for (std::thread& thread : threads) thread.join();
  std::printf("%zu queries over %zu threads, %zu wrong (seed %llu)\n", queries, thread_count, wrong.load(),
              static_cast<unsigned long long>(seed));
  return wrong == 0 ? 0 : 1;
}
