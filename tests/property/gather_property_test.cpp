// Gathering against the places of the law and the best of all assignments.
#include <catch2/catch.hpp>
#include <numeric>

#include "saunter/grid/area.hpp"
#include "saunter/place/gather.hpp"
#include "saunter/search/unstick.hpp"
#include "support/seeds.hpp"
#include "support/oracle.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// The places of the law: the formation's first, then the nearest by cost from the rally cell.
std::vector<Cell> places_by_law(const CostGrid& costs, Cell rally, std::size_t wanted, const GatherOptions& options) {
  const auto middle = unstick(costs, rally);
  if (!middle) return {};
  const Cell start = middle->cells.back();
  const auto least = least_costs(costs, start);
  std::vector<Cell> order;
  for (const Offset offset : options.formation) {
    Cell slot = start + offset;
    if (costs.tiling().is_hex()) {
      const Axial axial = costs.tiling().to_axial(start);
      slot = costs.tiling().from_axial({axial.q + offset.cols, axial.r + offset.rows});
    }
    if (costs.size().contains(slot)) order.push_back(slot);
  }
  std::vector<Cell> nearest;
  for (const Cell cell : costs.size().cells()) nearest.push_back(cell);
  const auto cost = [&](Cell cell) { return least[costs.size().index(cell).value()]; };
  std::stable_sort(nearest.begin(), nearest.end(), [&](Cell a, Cell b) { return cost(a) < cost(b); });
  order.insert(order.end(), nearest.begin(), nearest.end());
  std::vector<Cell> chosen;
  std::vector<Cell> full;
  std::vector<Cell> body;
  for (const Cell cell : order) {
    if (chosen.size() == wanted) break;
    if (cost(cell) == never) continue;
    body_cells(costs.tiling(), cell, costs.mover_size(), body);
    const bool meets = std::any_of(body.begin(), body.end(), [&](Cell part) {
      return std::find(full.begin(), full.end(), part) != full.end() ||
             (options.taken != nullptr && options.taken->test(part));
    });
    if (meets) continue;
    chosen.push_back(cell);
    full.insert(full.end(), body.begin(), body.end());
  }
  return chosen;
}

}  // namespace

TEST_CASE("units gather in the places of the law, assigned at the least sum or the soonest, on 1,000 random maps") {
  Gatherer gatherer;
  int apart = 0;
  for (const std::uint64_t seed : seeds(1000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground ground = random_ground(random, 10, random.chance(30));
    const CostGrid& costs = ground.costs;
    std::vector<Cell> units;
    for (int i = random.whole(1, 6); i > 0; --i) units.push_back(random.cell(costs.size()));
    if (random.chance(10)) units.push_back({-1, 0});
    GatherOptions options;
    options.aim = random.chance(50) ? GatherAim::least_sum : GatherAim::soonest;
    std::vector<Offset> formation;
    if (random.chance(50) && costs.tiling().shape() != Shape::triangle) {
      for (int i = random.whole(1, 4); i > 0; --i) formation.push_back({random.whole(-3, 3), random.whole(-3, 3)});
      options.formation = formation;
    }
    BitGrid taken(costs.size());
    for (int i = 0; i < 6; ++i) taken.set(random.cell(costs.size()));
    if (random.chance(50)) options.taken = &taken;
    const Cell rally = random.cell(costs.size());
    const Gathering& gathering = gatherer.gather(costs, units, rally, options);
    REQUIRE(gathering.places == places_by_law(costs, rally, units.size(), options));
    REQUIRE(gathering.units.size() == units.size());
    std::vector<std::vector<std::uint64_t>> ways;
    for (const Cell unit : units) {
      ways.emplace_back(costs.size().cell_count(), never);
      if (costs.open(unit)) ways.back() = least_costs(costs, unit);
    }
    const auto cost = [&](std::size_t unit, std::size_t place) {
      if (place >= gathering.places.size()) return never;
      return ways[unit][costs.size().index(gathering.places[place]).value()];
    };
    // Every order of all places, those that are missing too.
    std::vector<std::size_t> order(units.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::tuple<std::size_t, std::uint64_t, std::uint64_t> best{never, 0, 0};
    do {
      std::size_t left = 0;
      std::uint64_t sum = 0;
      std::uint64_t last = 0;
      for (std::size_t unit = 0; unit < units.size(); ++unit) {
        const std::uint64_t way = cost(unit, order[unit]);
        if (way == never) {
          ++left;
          continue;
        }
        sum += way;
        last = std::max(last, way);
      }
      best = options.aim == GatherAim::least_sum ? std::min(best, {left, sum, 0}) : std::min(best, {left, last, sum});
    } while (std::next_permutation(order.begin(), order.end()));
    REQUIRE(gathering.placed == units.size() - std::get<0>(best));
    apart += gathering.placed < units.size() ? 1 : 0;
    if (options.aim == GatherAim::least_sum) {
      REQUIRE(gathering.sum == std::get<1>(best));
    } else {
      REQUIRE(gathering.last == std::get<1>(best));
      REQUIRE(gathering.sum == std::get<2>(best));
    }
    std::uint64_t sum = 0;
    std::vector<Cell> given;
    for (std::size_t i = 0; i < units.size(); ++i) {
      const Gathered& unit = gathering.units[i];
      REQUIRE(unit.from == units[i]);
      if (!unit.to) continue;
      REQUIRE(unit.cost == ways[i][costs.size().index(*unit.to).value()]);
      REQUIRE(std::find(given.begin(), given.end(), *unit.to) == given.end());
      given.push_back(*unit.to);
      sum += unit.cost;
    }
    REQUIRE(sum == gathering.sum);
  }
  CHECK(apart > share_of(50));
}

TEST_CASE("a crowd that comes from afar gathers at true costs, and no two can better it by changing places") {
  Gatherer gatherer;
  std::size_t placed = 0;
  for (const std::uint64_t seed : seeds(60)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    Map map = random_map(random, tiling, {30, 22});
    if (random.chance(40)) add_random_edges(random, map);
    const CostGrid costs = bake(map, {.name = "crab"});
    // More of them than there are ways in to where they gather.
    std::vector<Cell> units;
    for (int i = 0; i < 60; ++i) units.push_back({random.whole(0, 11), random.whole(0, 21)});
    const Gathering& gathering = gatherer.gather(costs, units, {random.whole(22, 28), random.whole(2, 19)});
    std::vector<std::vector<std::uint64_t>> ways;
    for (const Cell unit : units) {
      ways.emplace_back(costs.size().cell_count(), never);
      if (costs.open(unit)) ways.back() = least_costs(costs, unit);
    }
    const auto cost = [&](std::size_t unit, Cell place) { return ways[unit][costs.size().index(place).value()]; };
    for (std::size_t a = 0; a < units.size(); ++a) {
      const Gathered& one = gathering.units[a];
      if (!one.to) continue;
      ++placed;
      REQUIRE(one.cost == cost(a, *one.to));
      for (std::size_t b = 0; b < a; ++b) {
        const Gathered& other = gathering.units[b];
        if (!other.to || cost(a, *other.to) == never || cost(b, *one.to) == never) continue;
        REQUIRE(one.cost + std::uint64_t{other.cost} <= cost(a, *other.to) + cost(b, *one.to));
      }
    }
  }
  CHECK(placed > share_of(1000));
}
