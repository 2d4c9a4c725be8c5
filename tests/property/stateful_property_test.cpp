// One object of each kind is asked tens of thousands of mixed questions on many maps; each answer must be the one that
// a new object gives. What changes step by step (regions, threat, occupancy) must equal what is made anew.
#include <catch2/catch.hpp>

#include <array>
#include <map>

#include "support/seeds.hpp"
#include "support/desk.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// Something about a world becomes otherwise, and its regions may not hear of it.
void change(World& world, Random& random) {
  CostGrid& costs = world.ground.costs;
  const int count = random.whole(1, 4);
  for (int i = 0; i < count; ++i) {
    const auto cost =
        static_cast<std::uint32_t>(random.chance(40) ? 0 : random.whole(1, random.chance(20) ? 65'535 : 500));
    costs.set_entry(some_cell(random, world.size()), Hundredths(cost));
  }
  if (random.chance(20)) costs = bake(world.ground.map, world.ground.mover);
  if (random.chance(60)) world.regions.update(costs);
  if (random.chance(30)) {
    const ThreatField::ThreatId id = static_cast<ThreatField::ThreatId>(random.whole(0, 4));
    (void)world.threat.move(id, world.sight, some_cell(random, world.size()));
  }
}

}  // namespace

TEST_CASE("one desk answers 24,000 mixed questions as new ones do") {
  constexpr std::uint64_t pool_seed = 7'001;
  Random random(pool_seed);
  std::vector<World> worlds;
  for (int i = 0; i < 40; ++i) worlds.emplace_back(random, 16);
  Desk desk;
  std::array<std::size_t, question_kinds> asked{};
  for (const std::uint64_t seed : seeds(24'000)) {
    World& world = worlds[static_cast<std::size_t>(random.whole(0, 39))];
    if (random.chance(10)) change(world, random);
    const int kind = random.whole(0, question_kinds - 1);
    Random for_old(seed);
    Random for_new(seed);
    const std::uint64_t old_answer = ask(desk, world, kind, for_old);
    Desk fresh;
    const std::uint64_t new_answer = ask(fresh, world, kind, for_new);
    if (old_answer != new_answer) {
      CAPTURE(pool_seed, seed, question_names[kind]);
      FAIL_CHECK("the old desk answers otherwise");
      return;
    }
    ++asked[static_cast<std::size_t>(kind)];
  }
  for (const std::size_t count : asked) CHECK(count > share_of(2'000));
}

TEST_CASE("regions brought up to date on ever other grids equal regions made anew") {
  for (std::uint64_t seed = 1; seed <= 40; ++seed) {
    CAPTURE(seed);
    Random random(seed);
    std::vector<World> worlds;
    for (int i = 0; i < 4; ++i) worlds.emplace_back(random, 20);
    Regions regions;
    for (int turn = 0; turn < 80; ++turn) {
      World& world = worlds[static_cast<std::size_t>(random.whole(0, 3))];
      CostGrid& costs = world.ground.costs;
      change(world, random);
      const Rect any_block{random.whole(-5, 20), random.whole(-5, 20), random.whole(-5, 25), random.whole(-5, 25)};
      regions.update(costs, random.chance(50) ? any_block : Rect{});
      const Regions anew(costs);
      REQUIRE(regions.made_from(costs));
      REQUIRE(regions.list() == anew.list());
      for (std::uint32_t i = 0; i < costs.size().cell_count(); ++i)
        REQUIRE(regions.at(CellIndex{i}) == anew.at(CellIndex{i}));
    }
  }
}

TEST_CASE("a threat field after any changes equals one that was given its sources at once") {
  for (const std::uint64_t seed : seeds(60)) {
    CAPTURE(seed);
    Random random(seed);
    const World world(random, 18);
    ThreatField field(world.ground.map.board());
    std::map<ThreatField::ThreatId, Threat> known;
    for (int turn = 0; turn < 60; ++turn) {
      const auto id = static_cast<ThreatField::ThreatId>(random.whole(0, 12));  // often none
      const bool was_known = known.contains(id);
      switch (random.whole(0, 3)) {
        case 0: {
          const Threat source = world.source(random);
          const ThreatField::ThreatId made = field.add(world.sight, source);
          if (world.size().contains(source.at)) known[made] = source;
          break;
        }
        case 1: {
          const Cell to = some_cell(random, world.size());
          const bool moved = field.move(id, world.sight, to);
          CHECK(moved == (was_known && world.size().contains(to)));
          if (moved) known[id].at = to;
          break;
        }
        case 2: {
          const Threat source = world.source(random);
          CHECK(field.replace(id, world.sight, source) == was_known);
          if (was_known) known[id] = source;
          break;
        }
        default: CHECK(field.remove(id) == was_known); known.erase(id);
      }
      if (turn % 10 != 9) continue;
      ThreatField anew(world.ground.map.board());
      for (const auto& [number, source] : known) (void)anew.add(world.sight, source);
      Print ours;
      Print expected;
      ours.add(field);
      expected.add(anew);
      REQUIRE(ours.value() == expected.value());
    }
  }
}

TEST_CASE("an occupancy after any changes holds just what its units say, and undo takes back one") {
  for (const std::uint64_t seed : seeds(150)) {
    CAPTURE(seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Size size = random_size(random, 12);
    Occupancy units({tiling, size}, 2);
    for (int i = 0; i < 6; ++i) {
      std::vector<Offset> parts = {{0, 0}};
      if (random.chance(60)) parts.push_back({random.whole(0, 2), 1});
      (void)units.add(Footprint(parts), random.whole(0, 1), random.chance(70));
    }
    std::uint64_t before = 0;
    const auto print_of = [&] {
      Print print;
      print.add(units);
      return print.value();
    };
    for (int turn = 0; turn < 100; ++turn) {
      const auto a = static_cast<UnitId>(random.whole(0, 8));
      const auto b = static_cast<UnitId>(random.whole(0, 8));
      const Pose pose{some_cell(random, size), tiling.shape() == Shape::triangle ? 0 : random.whole(0, 4),
                      random.chance(30)};
      const std::uint64_t now = print_of();
      bool changed = false;
      bool undone = false;
      switch (random.whole(0, 4)) {
        case 0: changed = units.place(a, pose); break;
        case 1: changed = units.lift(a); break;
        case 2: changed = units.move(a, pose); break;
        case 3: changed = units.swap(a, b); break;
        default: undone = units.undo();
      }
      if (changed) before = now;
      if (undone) REQUIRE(print_of() == before);
      if (!changed && !undone) REQUIRE(print_of() == now);
      // By the units' own word.
      Grid<UnitId> taken[2] = {Grid<UnitId>(size), Grid<UnitId>(size)};
      BitGrid blocking(size);
      for (UnitId id = 1; id <= units.unit_count(); ++id) {
        const Occupancy::Unit& unit = units.unit(id);
        std::vector<Cell> cells;
        if (unit.standing) cells_in_pose(tiling, unit.footprint, unit.pose, cells);
        std::sort(cells.begin(), cells.end());
        std::vector<Cell> told = unit.cells;
        std::sort(told.begin(), told.end());
        REQUIRE(told == cells);
        for (const Cell cell : cells) {
          REQUIRE(taken[unit.layer][cell] == 0);
          taken[unit.layer][cell] = id;
          if (unit.blocks) blocking.set(cell);
        }
      }
      for (const Cell cell : size.cells()) {
        for (int layer = 0; layer < 2; ++layer) REQUIRE(units.at(cell, layer) == taken[layer][cell]);
        REQUIRE(units.blocking().test(cell) == blocking.test(cell));
      }
    }
  }
}
