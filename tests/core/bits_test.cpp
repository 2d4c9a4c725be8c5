// Bits of a board: read in windows, turned, and kept in step by cost grids.
#include <catch2/catch.hpp>

#include "saunter/ground/bake.hpp"
#include "support/seeds.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

BitGrid random_bits(Random& random, Size size) {
  BitGrid bits(size);
  const int share = random.whole(5, 95);
  for (std::uint32_t i = 0; i < size.cell_count(); ++i) bits.set(size.cell(CellIndex{i}), random.chance(share));
  return bits;
}

Size wide_size(Random& random) { return {random.whole(1, 200), random.whole(1, 200)}; }

/// Whether one grid is the other with columns as rows.
bool turned(const BitGrid& a, const BitGrid& b) {
  for (std::int32_t row = 0; row < a.size().rows; ++row) {
    for (std::int32_t col = 0; col < a.size().cols; ++col) {
      if (a.test({col, row}) != b.test({row, col})) return false;
    }
  }
  return true;
}

}  // namespace

TEST_CASE("the nine cells round a spot are those of the board, clear beyond its rim") {
  for (const std::uint64_t seed : seeds(60)) {
    INFO("seed " << seed);
    Random random(seed);
    const Size size = wide_size(random);
    const BitGrid bits = random_bits(random, size);
    for (int i = 0; i < 200; ++i) {
      const Cell cell = random.cell(size);
      std::uint32_t expected = 0;
      for (std::int32_t k = 0; k < 9; ++k) {
        if (bits.test({cell.col + k % 3 - 1, cell.row + k / 3 - 1})) expected |= 1U << static_cast<unsigned>(k);
      }
      REQUIRE(bits.nine_around(bits.spot(cell)) == expected);
    }
  }
}

TEST_CASE("a turned copy has columns as rows, whole or block by block") {
  for (const std::uint64_t seed : seeds(60)) {
    INFO("seed " << seed);
    Random random(seed);
    const Size size = wide_size(random);
    BitGrid bits = random_bits(random, size);
    BitGrid copy({size.rows, size.cols});
    copy.take_turned(bits, Rect::whole(size));
    REQUIRE(turned(bits, copy));
    for (int i = 0; i < 10; ++i) {
      const Cell a = random.cell(size);
      const Cell b = random.cell(size);
      const Rect block = Rect::of(a).joined(Rect::of(b));
      for (std::int32_t row = block.top; row < block.bottom; ++row) {
        for (std::int32_t col = block.left; col < block.right; ++col) bits.set({col, row}, random.chance(50));
      }
      copy.take_turned(bits, block);
      REQUIRE(turned(bits, copy));
    }
    copy.take_turned(bits, Rect{});  // nothing to take over
    REQUIRE(turned(bits, copy));
  }
}

TEST_CASE("cost grids keep both copies in step: made, baked, changed and repaired") {
  for (const std::uint64_t seed : seeds(120)) {
    INFO("seed " << seed);
    Random random(seed);
    Map map = random_map(random, Tiling::square(), random_size(random, 90));
    Mover mover = random_mover(random, Tiling::square());
    mover.rules.steps = 8;
    CostGrid costs = bake(map, mover);
    REQUIRE(turned(costs.open_cells(), costs.open_cells_turned()));
    for (int i = 0; i < 8; ++i) {
      const Cell cell = random.cell(map.size());
      map.set_terrain(cell, static_cast<TerrainId>(random.whole(0, static_cast<int>(map.kinds().size()) - 1)));
      rebake(costs, map, mover, Rect::of(cell));
      REQUIRE(turned(costs.open_cells(), costs.open_cells_turned()));
    }
    CostGrid own(map.board(), mover.rules, [&](Cell) -> EntryCost { return random.chance(30) ? 0 : 100; });
    REQUIRE(turned(own.open_cells(), own.open_cells_turned()));
    for (int i = 0; i < 8; ++i) {
      const Cell cell = random.cell(map.size());
      own.set_entry(cell, own.open(cell) ? blocked : EntryCost{100});
    }
    REQUIRE(turned(own.open_cells(), own.open_cells_turned()));
  }
}

TEST_CASE("dice: every number below a count is as likely, and seeds decide alone") {
  for (const std::uint32_t count : {1U, 2U, 3U, 5U, 6U, 12U, 60U, 1000U}) {
    Dice dice(count);
    std::vector<int> seen(count, 0);
    const int draws = 2000 * static_cast<int>(count);
    for (int i = 0; i < draws; ++i) {
      const std::uint32_t drawn = dice.pick(count);
      REQUIRE(drawn < count);
      ++seen[drawn];
    }
    // Each 2000 times, give or take six times the root of that.
    for (const int times : seen) CHECK(std::abs(times - 2000) < 270);
  }
  Dice first(7);
  Dice second(7);
  for (int i = 0; i < 100; ++i) CHECK(first.pick(1000) == second.pick(1000));
  // Counts that do not divide 2^32 are drawn again where that would favour some: the largest count shows it.
  constexpr std::uint32_t large = 3'000'000'000U;
  Dice dice(1);
  std::size_t low = 0;
  for (int i = 0; i < 30'000; ++i) low += dice.pick(large) < large / 2 ? 1U : 0U;
  CHECK(low > 14'500);
  CHECK(low < 15'500);
}

TEST_CASE("cells of a size, a block and directions of a set come in order, each once") {
  for (const Size size : {Size{0, 0}, Size{0, 5}, Size{5, 0}, Size{1, 1}, Size{7, 3}}) {
    std::uint32_t next = 0;
    for (const Cell cell : size.cells()) CHECK(size.index(cell).value() == next++);
    CHECK(next == size.cell_count());
  }
  std::vector<Cell> cells;
  for (const Cell cell : Rect{2, 5, 4, 7}.cells()) cells.push_back(cell);
  CHECK(cells == std::vector<Cell>{{2, 5}, {3, 5}, {2, 6}, {3, 6}});
  for (const Cell cell : Rect{4, 4, 4, 9}.cells()) FAIL("an empty block has cell " << cell.col);
  std::vector<int> found;
  for (const Direction d : directions(0b1010'0000'0101U)) found.push_back(d);
  CHECK(found == std::vector<int>{0, 2, 9, 11});
  for (const Direction d : directions(0)) FAIL("an empty set has direction " << int{d});
  BitGrid bits({70, 4});
  const std::vector<Cell> set = {{0, 0}, {63, 0}, {69, 1}, {5, 3}};
  for (const Cell cell : set) bits.set(cell);
  std::vector<Cell> visited;
  bits.for_each_set([&](Cell cell) { visited.push_back(cell); });
  CHECK(visited == set);
}
