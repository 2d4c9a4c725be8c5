// Searches take no memory after warm-up: counted at the global allocator.
#include <catch2/catch.hpp>
#include <atomic>
#include <cstdlib>
#include <new>

#include "saunter/search/searcher.hpp"
#include "support/random_maps.hpp"

namespace {
std::atomic<std::size_t> allocations{0};
}

void* operator new(std::size_t size) {
  ++allocations;
  if (void* memory = std::malloc(size > 0 ? size : 1)) return memory;
  throw std::bad_alloc();
}
void operator delete(void* memory) noexcept { std::free(memory); }
void operator delete(void* memory, std::size_t) noexcept { std::free(memory); }

using namespace saunter;
using namespace saunter::test;

TEST_CASE("no allocation after the first query") {
  Random random(5);
  for (const Tiling tiling : all_tilings()) {
    const Map map = random_map(random, tiling, {40, 30});
    const CostGrid costs = bake(map, Mover{.name = "crab"});
    Searcher searcher;
    std::vector<std::pair<Cell, Cell>> queries;
    for (int i = 0; i < 50; ++i) queries.emplace_back(random.cell({40, 30}), random.cell({40, 30}));
    std::size_t found = 0;
    const auto ask_all = [&] {
      for (const Algorithm by : {Algorithm::astar, Algorithm::dijkstra, Algorithm::bfs}) {
        for (const auto& [from, to] : queries) found += searcher.route(costs, from, to, {.by = by}).found() ? 1U : 0U;
      }
    };
    ask_all();
    const std::size_t before = allocations;
    ask_all();
    CHECK(allocations == before);
    CHECK(before > 0);
    CHECK(found % 2 == 0);
  }
}
