// Baked cost grids against the definitions: standing, entry costs and legal steps with every feature at once.
#include <catch2/catch.hpp>

#include "saunter/search/searcher.hpp"
#include "support/seeds.hpp"
#include "support/oracle.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

struct Case {
  Map map;
  Mover mover;
  BitGrid occupied;
};

Case random_case(Random& random, int most) {
  const Tiling tiling = random.one_of(all_tilings());
  Case made{random_map(random, tiling, random_size(random, most)), random_mover(random, tiling), {}};
  if (random.chance(75)) add_random_edges(random, made.map);
  made.occupied = BitGrid(made.map.size());
  for (int i = random.whole(0, 3); i > 0; --i) made.occupied.set(random.cell(made.map.size()));
  return made;
}

void check_against_definitions(const Case& made, const CostGrid& costs) {
  const GroundOracle oracle(made.map, made.mover, &made.occupied);
  EntryCost cheapest = blocked;
  for (int row = 0; row < made.map.size().rows; ++row) {
    for (int col = 0; col < made.map.size().cols; ++col) {
      const Cell cell{col, row};
      const EntryCost entry = oracle.entry(cell);
      REQUIRE(costs.entry(cell) == entry);
      REQUIRE(costs.open(cell) == (entry != blocked));
      if (entry != blocked && (cheapest == blocked || entry < cheapest)) cheapest = entry;
      unsigned legal = 0;
      for (const Cell other : oracle.touching(cell)) {
        if (!oracle.legal(cell, other)) continue;
        const Direction d = made.map.tiling().direction(cell, other);
        legal |= 1U << static_cast<unsigned>(d);
        REQUIRE(costs.cost_of_step(cell, d) == oracle.step_cost(cell, other));
      }
      INFO("cell " << col << "," << row);
      REQUIRE(costs.moves(cell) == legal);
    }
  }
  CHECK(costs.lowest_entry() == cheapest);
}

}  // namespace

TEST_CASE("baked grids follow the definitions on 1,500 random cases") {
  for (const std::uint64_t seed : seeds(1500)) {
    INFO("seed " << seed);
    Random random(seed);
    const Case made = random_case(random, 9);
    check_against_definitions(made, bake(made.map, made.mover, &made.occupied));
  }
}

TEST_CASE("repaired grids equal fresh ones after random edits") {
  for (const std::uint64_t seed : seeds(400)) {
    INFO("seed " << seed);
    Random random(seed);
    Case made = random_case(random, 16);
    CostGrid costs = bake(made.map, made.mover, &made.occupied);
    for (int edit = 0; edit < 12; ++edit) {
      Rect changed;
      for (int i = random.whole(1, 3); i > 0; --i) {
        const Cell cell = random.cell(made.map.size());
        changed = changed.joined(Rect::of(cell));
        switch (random.whole(0, 4)) {
          case 0: made.map.set_height(cell, static_cast<std::int16_t>(random.whole(-4, 4))); break;
          case 1: {
            const Direction d(random.whole(0, made.map.tiling().edge_count() - 1));
            const bool closed = random.chance(60);
            const Cell other = made.map.tiling().neighbour(cell, d);
            made.map.set_closed(cell, d, closed);
            if (made.map.size().contains(other)) changed = changed.joined(Rect::of(other));
            break;
          }
          case 2: made.occupied.set(cell, random.chance(50)); break;
          default:
            made.map.set_terrain(
                cell, static_cast<TerrainId>(random.whole(0, static_cast<int>(made.map.kinds().size()) - 1)));
        }
      }
      const Stamp before = costs.stamp();
      rebake(costs, made.map, made.mover, changed, &made.occupied);
      CHECK_FALSE(costs.stamp().same(before));
      REQUIRE(costs == bake(made.map, made.mover, &made.occupied));
    }
  }
}

TEST_CASE("grids from the game's own numbers equal baked ones") {
  for (const std::uint64_t seed : seeds(200)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Map map = random_map(random, tiling, random_size(random, 20));
    const Mover mover{.name = "x", .rules = random_rules(random, tiling)};
    const CostGrid baked = bake(map, mover);
    const std::vector<EntryCost> numbers(baked.entries().begin(), baked.entries().end());
    CostGrid own = CostGrid::from_hundredths(map.board(), mover.rules, numbers);
    CHECK(own == baked);
    CHECK(CostGrid(map.board(), mover.rules, [&](Cell cell) -> EntryCost { return baked.entry(cell); }) == baked);
    const std::vector<std::uint8_t> bytes(map.size().cell_count(), 3);
    CHECK(CostGrid::from_steps(map.board(), mover.rules, bytes).lowest_entry() == 300);
    for (int i = 0; i < 20; ++i) {
      const Cell cell = random.cell(map.size());
      own.set_entry(cell, static_cast<EntryCost>(random.chance(40) ? 0 : random.whole(1, 500)));
      std::vector<EntryCost> now(own.entries().begin(), own.entries().end());
      REQUIRE(own == CostGrid::from_hundredths(map.board(), mover.rules, now));
    }
  }
}

namespace {

/// The legal steps of every cell, in sets of one kind or the other.
template <typename Set>
Grid<Set> steps_of(const CostGrid& costs) {
  Grid<Set> steps(costs.size());
  for (const Cell cell : costs.size().cells()) steps[cell] = static_cast<Set>(costs.moves(cell));
  return steps;
}
Grid<EntryCost> entries_of(const CostGrid& costs) {
  const std::span<const EntryCost> entries = costs.entries();
  return {costs.size(), std::vector<EntryCost>(entries.begin(), entries.end())};
}

}  // namespace

TEST_CASE("grids made of planes are those the planes were taken from, on 800 random maps") {
  std::size_t with_sides = 0;
  for (const std::uint64_t seed : seeds(800)) {
    INFO("seed " << seed);
    Random random(seed);
    Case made = random_case(random, seed % 20 == 0 ? 150 : 12);
    made.mover.size = 1;
    const CostGrid baked = bake(made.map, made.mover, &made.occupied);
    with_sides += baked.has_sides() ? 1U : 0U;
    const Board board = baked.board();
    // The memory handed over is the memory kept.
    Grid<EntryCost> entries = entries_of(baked);
    const EntryCost* const own = entries.values().data();
    const bool wide = board.tiling.shape() == Shape::triangle;
    const CostGrid same =
        wide ? CostGrid::from_planes(board, baked.rules(), std::move(entries), steps_of<DirectionSet>(baked))
             : CostGrid::from_planes(board, baked.rules(), std::move(entries), steps_of<std::uint8_t>(baked));
    REQUIRE(same == baked);
    REQUIRE(same.entries().data() == own);
    CHECK(same.lowest_entry() == baked.lowest_entry());
    if (!wide) {  // sets of the other kind hold the same
      CHECK(CostGrid::from_planes(board, baked.rules(), entries_of(baked), steps_of<DirectionSet>(baked)) == baked);
    }
    // Without steps the rules and the entries decide, as for numbers.
    const CostGrid by_rules = CostGrid::from_planes(board, baked.rules(), entries_of(baked));
    REQUIRE(by_rules == CostGrid::from_hundredths(board, baked.rules(), baked.entries()));
    // Of steps at random those that the rules allow are left.
    Grid<DirectionSet> wild(board.size);
    for (DirectionSet& set : wild.values()) set = static_cast<DirectionSet>(random.next());
    const CostGrid tamed = CostGrid::from_planes(board, baked.rules(), entries_of(baked), wild);
    const auto edges = static_cast<unsigned>(board.tiling.edge_count());
    for (const Cell cell : board.size.cells()) {
      const unsigned within = std::as_const(wild)[cell] & by_rules.moves(cell);
      REQUIRE((unsigned{tamed.moves(cell)} & ~within) == 0);
      REQUIRE((tamed.moves(cell) ^ within) >> edges << edges == (tamed.moves(cell) ^ within));
      for (unsigned d = 0; d < static_cast<unsigned>(tamed.rules().steps); ++d) {
        // What is left of corners is what a check of the finished way calls legal.
        if ((within >> d & 1U) == 0 || tamed.rules().corners == Corners::free) continue;
        const Cell next = board.tiling.neighbour(cell, Direction(static_cast<int>(d)));
        const auto open = [&](const CornerWay& way) {
          Cell at = cell;
          bool all = true;
          for (unsigned i = 0; i < way.count && all; ++i) {
            all = holds(tamed.moves(at), Direction(way.steps[i]));
            at = board.tiling.neighbour(at, Direction(way.steps[i]));
          }
          return all && at == next;
        };
        const auto& ways = board.tiling.neighbourhood().ways[static_cast<unsigned>(board.tiling.kind(cell))][d];
        const int ways_open = d < edges ? 2 : int{open(ways[0])} + int{open(ways[1])};
        REQUIRE(holds(tamed.moves(cell), Direction(static_cast<int>(d))) ==
                (ways_open >= (tamed.rules().corners == Corners::strict ? 2 : 1)));
      }
    }
  }
  CHECK(with_sides > share_of(200));
}

TEST_CASE("a block taken from another grid is the other's and all else stays, on 600 random maps") {
  std::size_t first_sides = 0;
  for (const std::uint64_t seed : seeds(600)) {
    INFO("seed " << seed);
    Random random(seed);
    Ground here = random_ground(random, 12, random.chance(30));
    Map other_map = here.map;
    for (int i = 0; i < 6; ++i) {
      other_map.set_terrain(random.cell(other_map.size()),
                            static_cast<TerrainId>(random.whole(0, static_cast<int>(other_map.kinds().size()) - 1)));
    }
    if (random.chance(50)) add_random_edges(random, other_map);
    const CostGrid other = bake(other_map, here.mover);
    const CostGrid before = here.costs;
    first_sides += other.has_sides() && !before.has_sides() ? 1U : 0U;
    const Rect block = random.chance(30)
                           ? Rect::whole(before.size())
                           : Rect::of(random.cell(before.size())).grown(random.whole(0, 2), before.size());
    const Rect inner{block.left + (block.left > 0 ? 2 : 0), block.top + (block.top > 0 ? 2 : 0),
                     block.right - (block.right < before.size().cols ? 2 : 0),
                     block.bottom - (block.bottom < before.size().rows ? 2 : 0)};
    REQUIRE(here.costs.take_block(other, block));
    for (const Cell cell : before.size().cells()) {
      INFO("cell " << cell.col << ',' << cell.row);
      const CostGrid& wanted = block.contains(cell) ? other : before;
      REQUIRE(here.costs.entry(cell) == wanted.entry(cell));
      REQUIRE(here.costs.open(cell) == wanted.open(cell));
      const bool at_rim = block.grown(2, before.size()).contains(cell) && !inner.contains(cell);
      if (!at_rim) REQUIRE(here.costs.moves(cell) == wanted.moves(cell));
      REQUIRE(here.costs.moves(cell) == here.costs.moves_if(cell, [&](Cell at) { return here.costs.open(at); }));
      REQUIRE(here.costs.ground_entry(cell) == wanted.ground_entry(cell));
      for (Direction d{0}; d < before.tiling().edge_count(); ++d) {
        REQUIRE(here.costs.barred(cell, d) == wanted.barred(cell, d));
      }
    }
    const auto changed = here.costs.changed_since(before.stamp());
    REQUIRE_FALSE(changed.has_value());  // a copy is a grid of its own
    if (block != Rect::whole(before.size())) continue;
    // And goes on as the other does: cells that are opened for one question are entered where barriers let them.
    REQUIRE(here.costs == other);
    Searcher searcher;
    const EntryChange opened{random.cell(before.size()), 1_steps};
    const Source start{random.cell(before.size())};
    const FieldOptions options{.changes = std::span(&opened, 1)};
    Field mine;
    Field others;
    searcher.reach(here.costs, {&start, 1}, mine, options);
    searcher.reach(other, {&start, 1}, others, options);
    REQUIRE(mine.costs() == others.costs());
  }
  CHECK(first_sides > share_of(60));
}

TEST_CASE("a grid tells what has changed since any moment, and little else, however many changes came") {
  for (const std::uint64_t seed : seeds(200)) {
    INFO("seed " << seed);
    Random random(seed);
    Ground ground = random_ground(random, random.chance(30) ? 90 : 20, random.chance(30));
    CostGrid& costs = ground.costs;
    const Size size = costs.size();
    struct Moment {
      Stamp stamp;
      CostGrid then;
      std::size_t changes = 0;
    };
    std::vector<Moment> moments;
    std::size_t changes = 0;
    for (int i = random.whole(10, 300); i > 0; --i) {
      if (random.chance(8)) moments.push_back({costs.stamp(), costs, changes});
      if (random.chance(5)) {
        const Rect block = Rect::of(random.cell(size)).grown(random.whole(0, 3), size);
        std::vector<EntryCost> mine(block.cell_count());
        for (EntryCost& cost : mine) cost = static_cast<EntryCost>(random.chance(30) ? 0 : random.whole(1, 700));
        CostGrid one_by_one = costs;
        std::size_t next = 0;
        for (const Cell cell : block.cells()) REQUIRE(one_by_one.set_entry(cell, mine[next++]));
        REQUIRE(costs.set_entries(block, mine));
        REQUIRE(costs == one_by_one);
        REQUIRE(costs.lowest_entry() == one_by_one.lowest_entry());
        REQUIRE(costs.highest_entry() == one_by_one.highest_entry());
        mine.push_back(1);
        REQUIRE_FALSE(costs.set_entries(block, mine));
        changes += mine.size();
        continue;
      }
      const auto cost = static_cast<EntryCost>(random.chance(30) ? 0 : random.whole(1, 700));
      REQUIRE(costs.set_entry(random.cell(size), cost));
      ++changes;
    }
    for (const Moment& moment : moments) {
      BitGrid told(size);
      std::size_t cells = 0;
      REQUIRE(costs.for_each_change_since(moment.stamp, [&](Rect block) {
        cells += block.cell_count();
        for (const Cell cell : block.cells()) told.set(cell);
      }));
      for (const Cell cell : size.cells()) {
        const bool same = costs.entry(cell) == moment.then.entry(cell) &&
                          (!costs.has_sides() || costs.moves(cell) == moment.then.moves(cell));
        if (!same) REQUIRE(told.test(cell));
      }
      // A change of one cell is told as that, or as its tile; a mover's body and its steps lead a little farther.
      const std::size_t about = static_cast<std::size_t>(20 + 4 * ground.mover.size);
      REQUIRE(cells <= (changes - moment.changes) * about * about);
    }
    REQUIRE_FALSE(costs.for_each_change_since(CostGrid(costs).stamp(), [](Rect) {}));
  }
}
