// Repaired fields equal fields made anew, whatever changes; by slices too.
#include <catch2/catch.hpp>

#include "saunter/search/searcher.hpp"
#include "saunter/search/stepped_field.hpp"
#include "support/seeds.hpp"
#include "support/random_changes.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

void check_equal(const Field& a, const Field& b) {
  REQUIRE(a.costs() == b.costs());
  REQUIRE(a.reached_count() == b.reached_count());
  REQUIRE(a.overflowed() == b.overflowed());
  REQUIRE(a.unused().size() == b.unused().size());
  for (std::size_t i = 0; i < a.unused().size(); ++i) {
    REQUIRE(a.unused()[i].number == b.unused()[i].number);
    REQUIRE(a.unused()[i].verdict == b.unused()[i].verdict);
  }
  for (const Cell cell : a.board().size.cells()) {
    if (a.next(cell) != b.next(cell) || a.source(cell) != b.source(cell)) {
      INFO("at " << cell.col << "," << cell.row);
      REQUIRE(a.next(cell) == b.next(cell));
      REQUIRE(a.source(cell) == b.source(cell));
    }
  }
}

std::vector<Source> random_sources(Random& random, Size size) {
  std::vector<Source> sources;
  for (int i = random.chance(50) ? 1 : random.whole(1, 6); i > 0; --i) {
    const Cell cell{random.whole(-1, size.cols), random.whole(-1, size.rows)};
    const int farthest = random.chance(20) ? 2'000'000 : 900;
    sources.push_back({cell, random.chance(60) ? 0_hundredths : random.hundredths(0, farthest)});
  }
  return sources;
}

FieldOptions random_options(Random& random) {
  FieldOptions options;
  if (random.chance(30)) options.budget = random.hundredths(0, 5000);
  options.count_steps = random.chance(30);
  return options;
}

}  // namespace

TEST_CASE("a repaired field equals one made anew: 1,000 random maps, 50 edits each, all tilings and movers") {
  Searcher searcher;
  SteppedField stepped;
  Field fresh;
  std::size_t repairs_at_once = 0;
  for (const std::uint64_t seed : seeds(1000)) {
    INFO("seed " << seed);
    Random random(seed);
    Ground ground = random_ground(random, 24, random.chance(60));
    BitGrid occupied(ground.map.size());
    const std::vector<Source> sources = random_sources(random, ground.map.size());
    FieldOptions options = random_options(random);
    std::vector<Cell> awaited;  // cells that edits may shut and open again
    if (random.chance(20)) {
      for (int i = random.whole(1, 2); i > 0; --i) awaited.push_back(random.cell(ground.map.size()));
    }
    options.until = awaited;
    const bool to_sources = random.chance(50);
    const auto make = [&](Field& field) {
      if (to_sources) {
        searcher.field_to(ground.costs, sources, field, options);
      } else {
        searcher.reach(ground.costs, sources, field, options);
      }
    };
    Field field;
    Field sliced;
    make(field);
    make(sliced);
    for (int edit = 0; edit < 50; ++edit) {
      INFO("edit " << edit);
      for (int i = random.chance(80) ? 1 : random.whole(0, 6); i > 0; --i) {
        random_change(random, ground.map, occupied, ground.mover, ground.costs);
      }
      repairs_at_once += searcher.repair(ground.costs, field) > 0 ? 1U : 0U;
      make(fresh);
      check_equal(field, fresh);
      REQUIRE(field.made_from(ground.costs));
      if (!random.chance(30)) continue;  // it may fall behind
      stepped.begin_repair(ground.costs, sliced);
      while (!stepped.run(static_cast<std::uint64_t>(random.whole(1, 9))))
        REQUIRE_FALSE(sliced.made_from(ground.costs));
      REQUIRE(stepped.ended());
      check_equal(sliced, fresh);
    }
  }
  CHECK(repairs_at_once > share_of(20'000));
}

TEST_CASE("a field made by slices equals one made at once, and what it has settled is final") {
  Searcher searcher;
  SteppedField stepped;
  for (const std::uint64_t seed : seeds(300)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground ground = random_ground(random, 24, true);
    const std::vector<Source> sources = random_sources(random, ground.map.size());
    const FieldOptions options = random_options(random);
    Field fresh;
    Field sliced;
    searcher.field_to(ground.costs, sources, fresh, options);
    stepped.begin_field_to(ground.costs, sources, sliced, options);
    while (!stepped.run(7)) {
      for (const Cell cell : ground.map.size().cells()) {
        if (sliced.cost(cell) < stepped.settled()) REQUIRE(sliced.cost(cell) == fresh.cost(cell));
      }
    }
    check_equal(sliced, fresh);
    searcher.reach(ground.costs, sources, fresh, options);
    stepped.begin_reach(ground.costs, sources, sliced, options);
    stepped.run(std::numeric_limits<std::uint64_t>::max());
    check_equal(sliced, fresh);
  }
}

TEST_CASE("a field left unfinished, of another grid or never made is made anew by a repair") {
  Random random(5);
  Ground ground = random_ground(random, 24, false);
  while (ground.map.size().cell_count() < 100) ground = random_ground(random, 24, false);
  Searcher searcher;
  SteppedField stepped;
  const std::vector<Source> sources = {{random.cell(ground.map.size())}, {random.cell(ground.map.size())}};
  Field field;
  searcher.repair(ground.costs, field);
  CHECK(field.reached_count() == 0);
  CHECK(field.board() == ground.costs.board());
  stepped.begin_field_to(ground.costs, sources, field);
  stepped.run(3);
  CHECK_FALSE(field.made_from(ground.costs));
  searcher.repair(ground.costs, field);
  check_equal(field, searcher.field_to(ground.costs, sources));
  const Ground other = random_ground(random, 24, true);
  searcher.repair(other.costs, field);
  check_equal(field, searcher.field_to(other.costs, sources));
}

TEST_CASE("edits undone give the field before, bit for bit") {
  Searcher searcher;
  for (const std::uint64_t seed : seeds(100)) {
    INFO("seed " << seed);
    Random random(seed);
    Ground ground = random_ground(random, 30, false);
    const std::vector<Source> sources = random_sources(random, ground.map.size());
    Field field = searcher.field_to(ground.costs, sources);
    const Field before = field;
    const Map map = ground.map;
    Rect all;
    for (int i = 0; i < 20; ++i) {
      const Cell cell = random.cell(map.size());
      ground.map.set_terrain(cell, static_cast<TerrainId>(random.whole(0, 1)));
      all = all.joined(Rect::of(cell));
      rebake(ground.costs, ground.map, ground.mover, Rect::of(cell));
      if (random.chance(50)) searcher.repair(ground.costs, field);
    }
    rebake(ground.costs, map, ground.mover, all);
    searcher.repair(ground.costs, field);
    check_equal(field, before);
  }
}
