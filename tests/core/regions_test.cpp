// Regions against the definition: places joined by steps that can be taken both ways.
#include <catch2/catch.hpp>

#include "saunter/region/regions.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

bool step(const CostGrid& costs, Cell from, Cell to) {
  const Direction d = costs.tiling().direction(from, to);
  return d >= 0 && ((costs.moves(from) >> d) & 1U) == 1;
}

}  // namespace

TEST_CASE("regions are the components of two-way steps, on 600 random maps") {
  for (std::uint64_t seed = 1; seed <= 600; ++seed) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    Map map = random_map(random, tiling, random_size(random, 14));
    if (random.chance(60)) add_random_edges(random, map);
    const CostGrid costs = bake(map, random_mover(random, tiling));
    const Regions regions(costs);
    // Repeated merging: slow, and obviously the definition.
    const auto count = static_cast<std::uint32_t>(map.size().cell_count());
    std::vector<std::uint32_t> label(count);
    for (std::uint32_t i = 0; i < count; ++i) label[i] = i;
    for (bool changed = true; changed;) {
      changed = false;
      for (std::uint32_t i = 0; i < count; ++i) {
        const Cell cell = map.size().cell(CellIndex{i});
        for (Direction d = 0; d < tiling.direction_count(); ++d) {
          const Cell other = tiling.neighbour(cell, d);
          if (!map.size().contains(other) || !step(costs, cell, other) || !step(costs, other, cell)) continue;
          auto& mine = label[i];
          auto& theirs = label[map.size().index(other).value()];
          if (mine == theirs) continue;
          changed = true;
          mine = theirs = std::min(mine, theirs);
        }
      }
    }
    std::vector<std::uint32_t> cells(regions.list().size() + 1, 0);
    std::uint32_t seen = 0;
    for (std::uint32_t i = 0; i < count; ++i) {
      const Cell cell = map.size().cell(CellIndex{i});
      if (!costs.open(cell)) {
        REQUIRE(regions.at(cell) == 0);
        continue;
      }
      const std::uint32_t id = regions.at(cell);
      const Cell first = map.size().cell(CellIndex{label[i]});
      REQUIRE(id == regions.at(first));
      if (label[i] == i) REQUIRE(id == ++seen);  // numbered by first cell
      REQUIRE(regions.list()[id - 1].first == first);
      REQUIRE(regions.list()[id - 1].box.contains(cell));
      REQUIRE(regions.same(cell, first));
      ++cells[id];
    }
    REQUIRE(seen == regions.list().size());
    for (const Region& region : regions.list()) CHECK(region.cells == cells[region.id]);
  }
}
