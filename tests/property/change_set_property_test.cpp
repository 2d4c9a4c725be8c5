// Several changes at once: blocks that hold them all, grids and danger that follow, units moved together and removed.
#include <catch2/catch.hpp>
#include <map>

#include "saunter/grid/area.hpp"
#include "saunter/ground/clearance.hpp"
#include "saunter/place/fit.hpp"
#include "saunter/place/occupancy.hpp"
#include "saunter/threat/threat_field.hpp"
#include "support/seeds.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// Whether two grids answer alike everywhere.
bool alike(const CostGrid& a, const CostGrid& b) {
  for (const Cell cell : a.size().cells()) {
    if (a.entry(cell) != b.entry(cell) || a.moves(cell) != b.moves(cell)) return false;
  }
  return a.board() == b.board();
}

}  // namespace

TEST_CASE("a set of changes holds every cell it was given, in few blocks") {
  Random random(3);
  for (std::uint64_t round = 0; round < cases(2000); ++round) {
    ChangeSet changes;
    std::vector<Cell> given;
    for (int i = random.whole(0, 30); i > 0; --i) {
      const Cell cell{random.whole(-5, 200), random.whole(-5, 200)};
      if (random.chance(50)) {
        changes.add(cell);
        given.push_back(cell);
        continue;
      }
      const Rect block{cell.col, cell.row, cell.col + random.whole(0, 9), cell.row + random.whole(0, 9)};
      changes.add(block);
      for (const Cell inside : block.cells()) given.push_back(inside);
    }
    REQUIRE(changes.blocks().size() <= ChangeSet::most_blocks);
    REQUIRE(changes.empty() == given.empty());
    for (const Cell cell : given) {
      const auto blocks = changes.blocks();
      REQUIRE(std::any_of(blocks.begin(), blocks.end(), [&](Rect block) { return block.contains(cell); }));
      REQUIRE(changes.whole().contains(cell));
    }
  }
  // Far apart they stay apart.
  ChangeSet corners{Rect::of({0, 0})};
  corners.add(Cell{900, 900});
  CHECK(corners.blocks().size() == 2);
}

TEST_CASE("units moved together and removed stand as if put down anew, and grids follow by blocks, on 400 maps") {
  for (const std::uint64_t seed : seeds(400)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    Map map = random_map(random, tiling, random_size(random, 16));
    if (random.chance(40)) add_random_edges(random, map);
    const Mover mover = random_mover(random, tiling);
    Occupancy units(map.board());
    CostGrid costs = bake(map, mover, &units.blocking());
    std::map<UnitId, std::vector<Cell>> standing;  // what stands, by the book
    std::map<UnitId, Footprint> shapes;
    for (int i = 0; i < 6; ++i) {
      const Footprint shape = Footprint::of_size(tiling, tiling.shape() == Shape::square ? random.whole(1, 2) : 1);
      const UnitId id = units.add(shape, 0, random.chance(80));
      shapes[id] = shape;
      if (units.place(id, {.at = random.cell(map.size())})) standing[id] = units.unit(id).cells;
    }
    rebake(costs, map, mover, Rect::whole(map.size()), &units.blocking());
    for (int round = 0; round < 12; ++round) {
      std::vector<UnitMove> moves;
      for (const auto& [id, cells] : standing) {
        if (random.chance(50)) moves.push_back({id, {.at = random.cell(map.size())}});
      }
      // By the book: all fit on the map, beside each other and beside those that stay.
      auto wanted = standing;
      for (const UnitMove& move : moves) shapes[move.id].cells_at(tiling, move.pose.at, wanted[move.id]);
      bool fine = true;
      std::map<std::pair<int, int>, int> count;
      for (const auto& [id, cells] : wanted) {
        for (const Cell cell : cells) fine = fine && map.size().contains(cell) && ++count[{cell.col, cell.row}] == 1;
      }
      const std::uint64_t before = units.revision();
      REQUIRE(units.move_all(moves) == fine);
      if (fine) standing = wanted;
      ChangeSet changed;
      if (fine && !moves.empty()) changed = units.changed_blocks();
      REQUIRE((units.revision() != before) == (fine && !moves.empty()));
      if (!standing.empty() && random.chance(20)) {
        const UnitId gone = standing.begin()->first;
        REQUIRE(units.remove(gone));
        REQUIRE_FALSE(units.known(gone));
        REQUIRE_FALSE(units.undo());
        standing.erase(gone);
        changed.add(units.changed_blocks());
      }
      std::map<std::pair<int, int>, UnitId> by_cell;
      for (const auto& [id, cells] : standing) {
        for (const Cell cell : cells) by_cell[{cell.col, cell.row}] = id;
      }
      for (const Cell cell : map.size().cells()) {
        const auto on = by_cell.find({cell.col, cell.row});
        REQUIRE(units.at(cell) == (on == by_cell.end() ? 0 : on->second));
      }
      rebake(costs, map, mover, changed, &units.blocking());
      REQUIRE(alike(costs, bake(map, mover, &units.blocking())));
    }
    std::vector<Cell> residents;
    std::vector<Cell> wanted;
    for (const auto& [id, cells] : standing) {
      if (!random.chance(50)) continue;
      REQUIRE(units.keep(id));
      wanted.push_back(cells.front());
    }
    units.residents(residents);
    REQUIRE(residents == wanted);
    // Several questions at once answer as one after the other.
    Fitter fitter;
    const FitTerms terms{.map = &map, .units = &units};
    const Footprint one;
    std::vector<FitQuestion> questions = {{nullptr, {}}};
    for (int i = 0; i < 8; ++i) questions.push_back({&one, {.at = random.cell(map.size())}});
    std::vector<std::optional<FitProblem>> answers;
    fitter.first_problems(terms, questions, answers);
    REQUIRE(answers.size() == questions.size());
    REQUIRE(answers.front()->why == FitFault::off_map);
    for (std::size_t i = 1; i < questions.size(); ++i) {
      const auto problems = fitter.problems(terms, one, questions[i].pose);
      REQUIRE(answers[i] == (problems.empty() ? std::nullopt : std::optional(problems.front())));
    }
  }
}

TEST_CASE("places over cells are those whose bodies lie on one, on 600 random boards") {
  std::vector<Cell> body;
  for (const std::uint64_t seed : seeds(600)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Size size = random_size(random, 24);
    BitGrid cells(size);
    for (int i = random.whole(0, 6); i > 0; --i) cells.set(random.cell(size));
    const int across = tiling.shape() == Shape::triangle ? 1 : random.whole(1, 30);
    const BitGrid places = places_over(tiling, cells, across);
    for (const Cell cell : size.cells()) {
      body_cells(tiling, cell, across, body);
      REQUIRE(places.test(cell) == std::any_of(body.begin(), body.end(), [&](Cell part) { return cells.test(part); }));
    }
  }
}

TEST_CASE("a threat that turns is as one that was put so, and levels of some are their sums, on 300 random maps") {
  Levels levels;
  for (const std::uint64_t seed : seeds(300)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Size size = random_size(random, 20);
    SightGrid sight({tiling, size});
    for (int i = 0; i < 12; ++i) sight.set_opaque(random.cell(size), true);
    ThreatField turned(sight.board());
    ThreatField anew(sight.board());
    std::vector<ThreatField::ThreatId> some;
    for (int i = random.whole(1, 5); i > 0; --i) {
      Threat threat{.at = random.cell(size), .levels = {{100_hundredths, 40'000}}, .needs_sight = random.chance(50)};
      threat.range = Hundredths(static_cast<std::uint32_t>(random.whole(0, 700)));
      threat.facing = Facing::from_degrees(random.whole(-720, 720));
      threat.arc = random.whole(1, 360);
      const auto id = turned.add(sight, threat);
      threat.facing = random.chance(50) ? Facing::from_degrees(random.whole(0, 359))
                                        : Facing(Side(random.whole(0, side_count(tiling) - 1)));
      REQUIRE(turned.turn(id, sight, *threat.facing));
      (void)anew.add(sight, threat);
      if (random.chance(50)) some.push_back(id);
    }
    // Cells that become opaque far apart: every threat looks again once.
    ChangeSet changed;
    for (int i = 0; i < 3; ++i) {
      const Cell cell = random.cell(size);
      sight.set_opaque(cell, !sight.opaque(cell));
      changed.add(cell);
    }
    turned.refresh(sight, changed);
    anew.refresh(sight, Rect::whole(size));
    REQUIRE(turned.levels() == anew.levels());
    turned.levels_of(some, levels);
    for (const Cell cell : size.cells()) {
      std::uint64_t sum = 0;
      for (const auto id : some) sum += turned.level_from(id, cell);
      REQUIRE(std::as_const(levels)[cell] == std::min<std::uint64_t>(sum, 65'535));
    }
  }
}
