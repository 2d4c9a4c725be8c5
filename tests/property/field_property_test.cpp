// Fields and reaches against brute force on random maps, in both directions of travel.
#include <catch2/catch.hpp>

#include "saunter/search/path.hpp"
#include "saunter/search/searcher.hpp"
#include "support/seeds.hpp"
#include "support/oracle.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

bool legal(const CostGrid& costs, Cell from, Direction d) { return ((costs.moves(from) >> d) & 1U) == 1; }

/// Least costs from every cell to the sources (or from them), by relaxing until nothing changes.
std::vector<std::uint64_t> brute_force(const CostGrid& costs, const std::vector<Source>& sources, bool to_sources,
                                       bool count_steps) {
  const Size size = costs.size();
  std::vector<std::uint64_t> least(size.cell_count(), never);
  for (const Source& source : sources) {
    if (!costs.open(source.cell)) continue;
    auto& here = least[size.index(source.cell).value()];
    here = std::min<std::uint64_t>(here, source.head_start);
  }
  for (bool changed = true; changed;) {
    changed = false;
    for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
      const Cell cell = size.cell(CellIndex{i});
      for (Direction d{0}; d < costs.tiling().direction_count(); ++d) {
        if (!costs.open(cell) || !legal(costs, cell, d)) continue;
        const std::uint32_t j = size.index(costs.tiling().neighbour(cell, d)).value();
        const std::uint32_t known = to_sources ? j : i;
        const std::uint32_t other = to_sources ? i : j;
        if (least[known] == never) continue;
        const std::uint64_t cost = least[known] + (count_steps ? 100 : costs.cost_of_step(cell, d));
        if (cost >= least[other]) continue;
        least[other] = cost;
        changed = true;
      }
    }
  }
  return least;
}

}  // namespace

TEST_CASE("fields tell the least cost, a step that leads down, and the source it leads to, on 2,000 random maps") {
  Searcher searcher;
  Field field;
  for (const std::uint64_t seed : seeds(2000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    Map map = random_map(random, tiling, random_size(random, 18));
    if (random.chance(50)) add_random_edges(random, map);
    const CostGrid costs = bake(map, random_mover(random, tiling));
    const bool to_sources = random.chance(50);
    std::vector<Source> sources;
    for (int i = random.whole(1, 4); i > 0; --i) {
      const Cell cell{random.whole(-1, map.size().cols), random.whole(-1, map.size().rows)};
      const int farthest = random.chance(20) ? 2'000'000 : 900;
      sources.push_back({cell, random.chance(60) ? 0_hundredths : random.hundredths(0, farthest)});
    }
    FieldOptions options;
    if (random.chance(40)) options.budget = random.hundredths(0, 5000);
    options.count_steps = random.chance(40);
    if (to_sources) {
      searcher.field_to(costs, sources, field, options);
    } else {
      searcher.reach(costs, sources, field, options);
    }
    const auto least = brute_force(costs, sources, to_sources, options.count_steps);
    std::size_t reached = 0;
    for (std::uint32_t i = 0; i < map.size().cell_count(); ++i) {
      const Cell cell = map.size().cell(CellIndex{i});
      const bool within = least[i] <= options.budget.value_or(Hundredths(max_cost));
      REQUIRE(field.reached(cell) == within);
      if (!within) {
        CHECK_FALSE(field.next(cell).has_value());
        continue;
      }
      ++reached;
      REQUIRE(field.cost(cell) == least[i]);
      // The first neighbour in the fixed order on a cheapest way, and the lowest source any descent can end at.
      std::optional<Cell> first;
      std::size_t lowest = sources.size();
      bool is_source = false;
      for (std::size_t n = sources.size(); n-- > 0;) {
        if (sources[n].cell != cell || sources[n].head_start != least[i]) continue;
        is_source = true;
        lowest = n;
      }
      for (Direction d{0}; d < tiling.direction_count(); ++d) {
        const Cell other = tiling.neighbour(cell, d);
        if (!costs.open(other) || !field.reached(other)) continue;
        const Cell from = to_sources ? cell : other;
        const Direction way = tiling.direction(from, to_sources ? other : cell);
        const Cost step = options.count_steps ? 100 : costs.cost_of_step(from, way);
        if (!legal(costs, from, way) || field.cost(other) + step != least[i]) continue;
        if (!first) first = other;
        lowest = std::min(lowest, field.source(other));
      }
      REQUIRE(field.source(cell) == lowest);
      REQUIRE(field.next(cell) == (is_source ? std::nullopt : first));
    }
    CHECK(field.reached_count() == reached);
    for (const UnusedSource& unused : field.unused()) CHECK_FALSE(costs.open(sources[unused.number].cell));
  }
}

TEST_CASE("reach agrees with routes: within the budget exactly what a route can pay for") {
  Searcher searcher;
  for (const std::uint64_t seed : seeds(60)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Map map = random_map(random, tiling, random_size(random, 14));
    const CostGrid costs = bake(map, Mover{.name = "x", .rules = random_rules(random, tiling)});
    const Cell start = random.cell(map.size());
    const auto budget = random.hundredths(0, 2500);
    const Field reach = searcher.reach(costs, start, {.budget = budget});
    if (!costs.open(start)) {
      CHECK(reach.unused().at(0).verdict.reason == Reason::start_blocked);
      continue;
    }
    CHECK(reach.cost(start) == 0);
    std::vector<Cell> way;
    for (const Cell cell : map.size().cells()) {
      const Route& route = searcher.route(costs, start, cell, {.budget = budget});
      REQUIRE(route.found() == reach.reached(cell));
      if (!route.found()) continue;
      CHECK(route.cost() == reach.cost(cell));
      reach.path(cell, way);
      CHECK(way.front() == start);
      CHECK(way.back() == cell);
      CHECK(cost_of_path(costs, way) == route.cost());
    }
  }
}

TEST_CASE("fields mark what does not fit") {
  const int last = 65'534;
  const CostGrid costs({Tiling::square(), {last + 1, 4}}, {.steps = 4},
                       [](Cell cell) -> EntryCost { return cell.row == 0 || cell.col == last ? 65'535 : 0; });
  Searcher searcher;
  const Field reach = searcher.reach(costs, {0, 0});
  CHECK(reach.cost({last, 2}) == 65'536ULL * 65'535);
  CHECK_FALSE(reach.reached({last, 3}));
  CHECK(reach.overflowed());
  CHECK_FALSE(searcher.reach(costs, {0, 0}, {.budget = 10000_steps}).overflowed());
}

TEST_CASE(
    "fields of one source are the same with and without a bound that bounds nothing, on 2,000 larger random boards") {
  // Without one several neighbours are looked at together, with one each by itself.
  Searcher searcher;
  Field together;
  Field singly;
  for (const std::uint64_t seed : seeds(2000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground ground = random_ground(random, 64, random.chance(20));
    const CostGrid& costs = ground.costs;
    const Source source{random.cell(costs.size()),
                        random.chance(60) ? 0_hundredths : random.hundredths(0, 2'000'000'000)};
    FieldOptions options{.count_steps = random.chance(30)};
    const bool to_sources = random.chance(50);
    const auto make = [&](Field& field) {
      if (to_sources) {
        searcher.field_to(costs, std::span(&source, 1), field, options);
      } else {
        searcher.reach(costs, std::span(&source, 1), field, options);
      }
    };
    make(together);
    options.budget = Hundredths(max_cost);
    make(singly);
    REQUIRE(together.costs() == singly.costs());
    REQUIRE(together.reached_count() == singly.reached_count());
    for (const Cell cell : costs.size().cells()) {
      if (together.next(cell) == singly.next(cell)) continue;
      INFO("at " << cell.col << "," << cell.row);
      REQUIRE(together.next(cell) == singly.next(cell));
    }
  }
}
