// Sight against its definition, on random maps of all tilings.
#include <algorithm>
#include <catch2/catch.hpp>

#include "saunter/sight/sight.hpp"
#include "support/seeds.hpp"
#include "support/random_maps.hpp"
#include "support/sight_oracle.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

BitGrid random_cells(Random& random, Size size, int percent) {
  BitGrid cells(size);
  for (std::uint32_t i = 0; i < size.cell_count(); ++i) cells.set(size.cell(CellIndex{i}), random.chance(percent));
  return cells;
}

}  // namespace

TEST_CASE(
    "sight is what its definition says, for all pairs of 300 random maps of each tiling, and the same both ways") {
  std::size_t seen = 0;
  std::size_t hidden = 0;
  for (const Tiling tiling : all_tilings()) {
    for (const std::uint64_t seed : seeds(300)) {
      INFO("shape " << static_cast<int>(tiling.shape()) << " kind " << tiling.kind({0, 0}) << " seed " << seed);
      Random random(seed);
      const Size size{random.whole(1, 6), random.whole(1, 6)};
      const BitGrid opaque = random_cells(random, size, random.whole(5, 60));
      const SightGrid grid({tiling, size}, opaque);
      for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
        for (std::uint32_t k = i; k < size.cell_count(); ++k) {
          const Cell a = size.cell(CellIndex{i});
          const Cell b = size.cell(CellIndex{k});
          const bool expected = sees_by_definition(tiling, opaque, a, b);
          if (sees(grid, a, b) != expected || sees(grid, b, a) != expected) {
            FAIL(a.col << "," << a.row << " to " << b.col << "," << b.row << " expected " << expected);
          }
          (expected ? seen : hidden) += 1;
        }
      }
    }
  }
  CHECK(seen > share_of(30'000));
  CHECK(hidden > share_of(30'000));
}

TEST_CASE("the visible area holds exactly the cells that are seen, on 3,000 random maps with and without range") {
  Lookout lookout;
  std::vector<Cell> visible;
  for (const std::uint64_t seed : seeds(3000)) {
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Size size = random_size(random, 40);
    INFO("seed " << seed << " shape " << static_cast<int>(tiling.shape()) << " " << size.cols << "x" << size.rows);
    SightGrid grid({tiling, size}, random_cells(random, size, random.whole(0, 45)));
    // Cells changed one by one are as good as a grid made anew.
    for (int i = random.whole(0, 5); i > 0; --i) grid.set_opaque(random.cell(size), random.chance(50));
    std::optional<Hundredths> range;
    if (random.chance(60)) range = random.hundredths(0, 1500);
    const Cell from = random.cell(size);
    lookout.visible(grid, from, range, visible);
    CHECK(visible.front() == from);
    std::sort(visible.begin(), visible.end());
    std::vector<Cell> expected;
    for (const Cell cell : size.cells()) {
      if (range && distance_squared(tiling, from, cell) > farthest_squared(*range)) continue;
      if (sees(grid, from, cell)) expected.push_back(cell);
    }
    std::sort(expected.begin(), expected.end());
    std::vector<Cell> differ;
    std::set_symmetric_difference(visible.begin(), visible.end(), expected.begin(), expected.end(),
                                  std::back_inserter(differ));
    if (!differ.empty())
      INFO("from " << from.col << "," << from.row << " differ " << differ[0].col << "," << differ[0].row);
    REQUIRE(visible == expected);
  }
}
