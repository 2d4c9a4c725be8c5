// Units on a board against a plain model.
#include <algorithm>
#include <catch2/catch.hpp>
#include <map>
#include <set>

#include "saunter/grid/dice.hpp"
#include "saunter/grid/frame.hpp"
#include "saunter/ground/bake.hpp"
#include "saunter/place/scatter.hpp"
#include "saunter/search/searcher.hpp"
#include "support/seeds.hpp"
#include "support/random_changes.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

Footprint random_footprint(Random& random) {
  std::vector<Offset> parts = {{0, 0}};
  for (int i = random.whole(0, 4); i > 0; --i) {
    const int cols = random.whole(-1, 2);
    const int rows = random.whole(-1, 2);
    const Offset part{cols, rows};
    if (std::find(parts.begin(), parts.end(), part) == parts.end()) parts.push_back(part);
  }
  return Footprint(parts);
}

Pose random_pose(Random& random, Board board) {
  Pose pose{.at = random.cell(board.size), .turn = random.whole(0, full_turn(board.tiling) - 1)};
  pose.mirrored = random.chance(40);
  // A turned or mirrored triangle drawing keeps its anchor's way up.
  return pose;
}

/// Everything that can be seen of an occupancy, as a plain list.
struct Model {
  struct Unit {
    Footprint footprint;
    int layer = 0;
    bool blocks = true;
    bool standing = false;
    Pose pose;
  };
  std::vector<Unit> units;

  std::set<std::pair<std::int32_t, std::int32_t>> cells(Tiling tiling, const Unit& unit) const {
    std::vector<Cell> list;
    Footprint footprint = unit.pose.mirrored ? unit.footprint.mirrored(tiling) : unit.footprint;
    footprint.turned(tiling, unit.pose.turn).cells_at(tiling, unit.pose.at, list);
    std::set<std::pair<std::int32_t, std::int32_t>> found;
    for (const Cell cell : list) found.emplace(cell.row, cell.col);
    return found;
  }
  bool legal(Board board) const {
    for (std::size_t i = 0; i < units.size(); ++i) {
      if (!units[i].standing) continue;
      for (const auto& [row, col] : cells(board.tiling, units[i])) {
        if (!board.size.contains({col, row})) return false;
        for (std::size_t k = 0; k < i; ++k) {
          if (!units[k].standing || units[k].layer != units[i].layer) continue;
          if (cells(board.tiling, units[k]).contains({row, col})) return false;
        }
      }
    }
    return true;
  }
};

void require_same(const Occupancy& real, const Model& model, Board board) {
  std::size_t wrong = 0;
  std::map<std::pair<int, std::pair<int, int>>, UnitId> who;
  std::set<std::pair<int, int>> blocking;
  for (std::size_t i = 0; i < model.units.size(); ++i) {
    const Model::Unit& unit = model.units[i];
    const auto& seen = real.unit(static_cast<UnitId>(i + 1));
    wrong += seen.standing == unit.standing ? 0U : 1U;
    if (!unit.standing) continue;
    wrong += seen.pose == unit.pose ? 0U : 1U;
    const auto cells = model.cells(board.tiling, unit);
    wrong += seen.cells.size() == cells.size() ? 0U : 1U;
    for (const auto& cell : cells) {
      who[{unit.layer, cell}] = static_cast<UnitId>(i + 1);
      if (unit.blocks) blocking.insert(cell);
    }
  }
  for (const Cell cell : board.size.cells()) {
    for (int layer = 0; layer < real.layers(); ++layer) {
      const auto at = who.find({layer, {cell.row, cell.col}});
      wrong += real.at(cell, layer) == (at == who.end() ? 0 : at->second) ? 0U : 1U;
    }
    wrong += real.blocking().test(cell) == blocking.contains({cell.row, cell.col}) ? 0U : 1U;
  }
  REQUIRE(wrong == 0);
}

}  // namespace

TEST_CASE("ten thousand changes of units, kept or refused as in a plain model, on all tilings") {
  std::size_t changes = 0;
  std::size_t refused = 0;
  std::size_t undone = 0;
  for (const std::uint64_t seed : seeds(100)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Size size{random.whole(3, 12), random.whole(3, 12)};
    const Board board{tiling, size};
    const int layers = random.whole(1, 3);
    Occupancy real(board, layers);
    Model model;
    for (int i = random.whole(2, 7); i > 0; --i) {
      const Footprint footprint = random_footprint(random);
      const int layer = random.whole(0, layers - 1);
      const bool blocks = random.chance(70);
      model.units.push_back({footprint, layer, blocks, false, {}});
      CHECK(real.add(footprint, layer, blocks) == model.units.size());
    }
    std::optional<Model> before;  // the last change
    for (int i = 0; i < 100; ++i, ++changes) {
      INFO("change " << i);
      const auto number = static_cast<std::size_t>(random.whole(0, static_cast<int>(model.units.size()) - 1));
      const auto id = static_cast<UnitId>(number + 1);
      Model wanted = model;
      Model::Unit& unit = wanted.units[number];
      const auto revision = real.revision();
      bool done = false;
      if (random.chance(15)) {
        done = real.undo();
        CHECK(done == before.has_value());
        if (done) {
          ++undone;
          model = *before;
        }
        before.reset();
        require_same(real, model, board);
        continue;
      }
      if (!unit.standing) {
        unit.pose = random_pose(random, board);
        unit.standing = true;
        done = real.place(id, unit.pose);
      } else if (const int what = random.whole(0, 3); what == 0) {
        unit.standing = false;
        real.lift(id);
        done = true;
      } else if (what == 1) {
        const auto other = static_cast<std::size_t>(random.whole(0, static_cast<int>(model.units.size()) - 1));
        if (other == number || !wanted.units[other].standing) continue;
        std::swap(unit.pose.at, wanted.units[other].pose.at);
        done = real.swap(id, static_cast<UnitId>(other + 1));
      } else {
        unit.pose = random_pose(random, board);
        if (random.chance(50)) unit.pose.at = tiling.neighbour(model.units[number].pose.at, Direction(0));
        done = real.move(id, unit.pose);
      }
      CHECK(done == wanted.legal(board));
      CHECK((real.revision() != revision) == done);
      refused += done ? 0U : 1U;
      if (done) {
        before = model;
        model = wanted;
      }
      require_same(real, model, board);
    }
  }
  CHECK(refused > share_of(1000));
  CHECK(undone > share_of(200));
}

TEST_CASE("what a change reports is all a cost grid needs to follow") {
  for (const std::uint64_t seed : seeds(200)) {
    INFO("seed " << seed);
    Random random(seed);
    Ground c = random_ground(random, 20, seed % 2 == 0);
    Occupancy units(c.map.board());
    const UnitId hut = units.add(random_footprint(random));
    const UnitId crate = units.add(random_footprint(random));
    c.costs = bake(c.map, c.mover, &units.blocking());
    for (int i = 0; i < 12; ++i) {
      const UnitId id = random.chance(50) ? hut : crate;
      const Pose pose = random_pose(random, c.map.board());
      bool done = false;
      if (random.chance(20)) {
        done = units.undo();
      } else {
        done = units.unit(id).standing ? units.move(id, pose) : units.place(id, pose);
      }
      if (!done) continue;
      CHECK(std::is_sorted(units.changed().begin(), units.changed().end()));
      rebake(c.costs, c.map, c.mover, units.changed_block(), &units.blocking());
      REQUIRE(c.costs == bake(c.map, c.mover, &units.blocking()));
    }
  }
}

TEST_CASE("mirrored and turned footprints look as they should") {
  for (const Tiling tiling : all_tilings()) {
    const Footprint shape({{0, 0}, {1, 0}, {2, 0}, {0, 1}});
    const Frame frame(tiling);
    std::vector<Cell> plain;
    std::vector<Cell> mirrored;
    const Cell at{10, 10};
    cells_in_pose(tiling, shape, {.at = at}, plain);
    cells_in_pose(tiling, shape, {.at = at, .mirrored = true}, mirrored);
    for (std::size_t i = 0; i < plain.size(); ++i) {
      const Point a = frame.centre(plain[i]) - frame.centre(at);
      const Point b = frame.centre(mirrored[i]) - frame.centre(at);
      CHECK(a.x == Approx(-b.x).margin(1e-9));
      CHECK(a.y == Approx(b.y).margin(1e-9));
    }
    for (int turn = 1; turn < full_turn(tiling); ++turn) {
      std::vector<Cell> turned;
      cells_in_pose(tiling, shape, {.at = at, .turn = turn}, turned);
      for (std::size_t i = 0; i < plain.size(); ++i) {
        CHECK(turned[i] == turned_about(tiling, plain[i], at, turn));
      }
    }
  }
}

namespace {

/// A board with units on it, and terms that ask for a bit of everything.
struct Site {
  Ground c;
  Occupancy units;
  Levels levels;
  BitGrid walls;
  std::vector<TerrainId> allowed;
  std::vector<Rule> rules;
  FitTerms terms;
};

void furnish(Random& random, Site& site, bool edges) {
  site.c = random_ground(random, 16, edges);
  const Board board = site.c.map.board();
  site.units = Occupancy(board);
  for (int i = random.whole(0, 4); i > 0; --i) {
    const UnitId id = site.units.add(random_footprint(random));
    (void)site.units.place(id, random_pose(random, board));
  }
  site.levels = Levels(board.size);
  site.walls = BitGrid(board.size);
  for (std::uint32_t i = 0; i < board.size.cell_count(); ++i) {
    site.levels[CellIndex{i}] = random.chance(15) ? 4 : 0;
    site.walls.set(board.size.cell(CellIndex{i}), random.chance(10));
  }
  FitTerms& terms = site.terms;
  terms.map = &site.c.map;
  if (random.chance(60)) terms.mover = &site.c.mover;
  if (random.chance(20)) {
    for (std::size_t id = 0; id < site.c.map.kinds().size(); ++id) {
      if (random.chance(60)) site.allowed.push_back(static_cast<TerrainId>(id));
    }
    terms.allowed = site.allowed;
  }
  if (random.chance(40)) terms.flatness = random.whole(0, 3);
  if (random.chance(80)) {
    terms.units = &site.units;
    if (site.units.unit_count() > 0 && random.chance(40)) terms.self = 1;
  }
  if (random.chance(50)) {
    terms.levels = &site.levels;
    terms.highest = std::uint16_t{3};
  }
  if (random.chance(30)) {
    site.rules.push_back(either(against(board.tiling, site.walls, 2), no(near_to(board.tiling, site.walls, 2))));
    terms.rules = site.rules;
  }
}

/// The verdict from the definitions, cell by cell.
bool fits_by_definition(const Site& site, const Footprint& footprint, const Pose& pose) {
  const Map& map = site.c.map;
  const FitTerms& terms = site.terms;
  std::vector<Cell> cells;
  cells_in_pose(map.tiling(), footprint, pose, cells);
  if (map.tiling().shape() == Shape::triangle && map.tiling().kind(pose.at) != 0) return false;
  if (!std::all_of(cells.begin(), cells.end(), [&](Cell cell) { return map.size().contains(cell); })) return false;
  for (const Cell cell : cells) {
    const TerrainId id = map.terrain_at(cell);
    const Terrain& kind = map.kind(id);
    if (!terms.allowed.empty()) {
      if (std::count(terms.allowed.begin(), terms.allowed.end(), id) == 0) return false;
    } else if ((terms.mover != nullptr ? terms.mover->cost_on(id, kind) : kind.cost) == blocked || kind.is_void) {
      return false;
    }
    if (terms.units != nullptr && terms.units->at(cell) != 0 && terms.units->at(cell) != terms.self) return false;
    if (terms.levels != nullptr && (*terms.levels)[cell] > *terms.highest) return false;
    for (const Cell other : cells) {
      if (terms.flatness && map.height_at(cell) - map.height_at(other) > *terms.flatness) return false;
      const Direction d = map.tiling().direction(cell, other);
      if (d >= 0 && d < map.tiling().edge_count() && map.closed(cell, d)) return false;
    }
  }
  return std::all_of(terms.rules.begin(), terms.rules.end(), [&](const Rule& rule) { return rule.holds(cells); });
}

}  // namespace

TEST_CASE("all legal spots are those that fit when asked alone, every turn, on 800 random maps of all tilings") {
  Fitter fitter;
  std::size_t legal = 0;
  std::array<std::size_t, 6> reasons = {};
  for (const std::uint64_t seed : seeds(800)) {
    INFO("seed " << seed);
    Random random(seed);
    Site site;
    furnish(random, site, seed % 3 == 0);
    const Footprint footprint = random_footprint(random);
    const Board board = site.c.map.board();
    const int turn = random.whole(0, full_turn(board.tiling) - 1);
    const bool mirrored = random.chance(50);
    const BitGrid spots = fitter.spots(site.terms, footprint, turn, mirrored);
    for (std::uint32_t i = 0; i < board.size.cell_count(); ++i) {
      const Pose pose{board.size.cell(CellIndex{i}), turn, mirrored};
      const auto problems = fitter.problems(site.terms, footprint, pose);
      REQUIRE(problems.empty() == fits_by_definition(site, footprint, pose));
      REQUIRE(spots.test(pose.at) == problems.empty());
      CHECK(std::is_sorted(problems.begin(), problems.end(),
                           [](const FitProblem& a, const FitProblem& b) { return a.why < b.why; }));
      for (const FitProblem& problem : problems) {
        if (problem.why < FitFault::cuts_off) ++reasons[static_cast<unsigned>(problem.why)];
        CHECK((problem.by != 0) == (problem.why == FitFault::occupied));
        CHECK(problem.rule.empty() == (problem.why != FitFault::rule));
      }
      legal += problems.empty() ? 1U : 0U;
    }
    if (const auto nearest = nearest_spot(board.tiling, spots, {3, 3})) {
      CHECK(spots.test(*nearest));
      const auto best = best_spot(spots, [&](Cell cell) { return -distance_squared(board.tiling, {3, 3}, cell); });
      CHECK(best == nearest);
      Searcher searcher;
      const Field reach = searcher.reach(site.c.costs, random.cell(board.size));
      const auto cheapest = cheapest_spot(reach, spots);
      const auto by_cost = best_spot(spots, [&](Cell cell) {
        return reach.reached(cell) ? -std::int64_t{reach.cost(cell)} : std::int64_t{INT64_MIN};
      });
      CHECK(cheapest == (reach.reached(*by_cost) ? by_cost : std::nullopt));
    } else {
      CHECK(spots.count() == 0);
    }
  }
  CHECK(legal > share_of(3000));
  for (const std::size_t count : reasons) CHECK(count > share_of(200));
}

namespace {

/// What the law says of cells to be kept open, from regions made anew with the unit's cells shut.
std::vector<FitProblem> kept_by_definition(const Ground& c, const BitGrid& standing, std::span<const Cell> keep,
                                           std::span<const Cell> blocks) {
  const auto places = [&](const CostGrid& costs, Cell cell) {
    std::vector<Cell> list;
    if (costs.open(cell)) return std::vector<Cell>{cell};
    for (const Cell place : c.map.size().cells()) {
      if (!costs.open(place) || c.map.tiling().edge_distance(place, cell) > 3 * c.mover.size) continue;
      if (c.map.size().contains(cell) && stands_beside(costs, c.map, c.mover, place, cell)) list.push_back(place);
    }
    return list;
  };
  BitGrid shut = standing;
  for (const Cell cell : blocks) shut.set(cell);
  const CostGrid later = bake(c.map, c.mover, &shut);
  const Regions now(c.costs);
  const Regions then(later);
  const auto joined = [&](const CostGrid& costs, const Regions& regions, Cell a, Cell b) {
    for (const Cell p : places(costs, a)) {
      for (const Cell q : places(costs, b)) {
        if (regions.same(p, q)) return true;
      }
    }
    return false;
  };
  std::vector<Cell> kept;
  for (const Cell cell : keep) {
    if (std::find(kept.begin(), kept.end(), cell) == kept.end()) kept.push_back(cell);
  }
  const auto covered = [&](Cell cell) { return std::find(blocks.begin(), blocks.end(), cell) != blocks.end(); };
  std::vector<FitProblem> found;
  for (const Cell cell : kept) {
    if (covered(cell)) found.push_back({FitFault::covers, cell});
  }
  for (std::size_t i = 0; i < kept.size(); ++i) {
    for (std::size_t k = 0; k < i && !covered(kept[i]); ++k) {
      if (covered(kept[k]) || !joined(c.costs, now, kept[k], kept[i]) || joined(later, then, kept[k], kept[i]))
        continue;
      found.push_back({FitFault::cuts_off, kept[i], 0, kept[k]});
      break;
    }
  }
  return found;
}

}  // namespace

TEST_CASE("cells to be kept open: covered, cut off and from whom, as regions made anew tell, on 600 random maps") {
  Fitter fitter;
  std::size_t cut = 0;
  std::size_t covers = 0;
  std::size_t held = 0;
  std::size_t beside_units = 0;
  for (const std::uint64_t seed : seeds(600)) {
    INFO("seed " << seed);
    Random random(seed);
    Ground c = random_ground(random, 16, seed % 3 == 0);
    const Size size = c.map.size();
    BitGrid standing(size);
    for (int i = random.whole(0, 4); i > 0; --i) standing.set(random.cell(size));
    c.costs = bake(c.map, c.mover, &standing);
    const Regions regions(c.costs);
    std::vector<Cell> keep;
    for (int i = random.whole(1, 5); i > 0; --i) keep.push_back(random.cell(size));
    if (random.chance(20)) keep.push_back(keep.front());
    for (const Cell cell : keep) beside_units += standing.test(cell) ? 1U : 0U;
    FitTerms terms{.map = &c.map, .mover = &c.mover};
    terms.keep_open = keep;
    terms.costs = &c.costs;
    terms.regions = &regions;
    const Footprint footprint = random_footprint(random);
    const Pose any = random_pose(random, c.map.board());
    const BitGrid spots = fitter.spots(terms, footprint, any.turn, any.mirrored);
    for (std::int32_t row = 0; row < size.rows; ++row) {
      for (std::int32_t col = 0; col < size.cols; ++col) {
        const Pose pose{{col, row}, any.turn, any.mirrored};
        std::vector<Cell> blocks;
        cells_in_pose(c.map.tiling(), footprint, pose, blocks);
        const bool on_map = std::all_of(blocks.begin(), blocks.end(), [&](Cell cell) { return size.contains(cell); });
        const std::vector<FitProblem> problems = fitter.problems(terms, footprint, pose);
        CHECK(spots.test({col, row}) == problems.empty());
        if (!on_map || !random.chance(60)) continue;
        std::vector<FitProblem> found = problems;
        std::erase_if(found, [](const FitProblem& p) { return p.why < FitFault::covers; });
        const std::vector<FitProblem> expected = kept_by_definition(c, standing, keep, blocks);
        REQUIRE(found == expected);
        for (const FitProblem& p : expected) (p.why == FitFault::covers ? covers : cut) += 1;
        held += expected.empty() ? 1U : 0U;
      }
    }
  }
  CHECK(cut > share_of(300));
  CHECK(covers > share_of(300));
  CHECK(held > share_of(1500));
  CHECK(beside_units > share_of(40));
  CHECK(fitter.cut_off_answered_nearby() > fitter.cut_off_asked() / 2);
  CHECK(fitter.cut_off_answered_nearby() < fitter.cut_off_asked());
}

TEST_CASE("what is scattered can be got at in the end from the cell asked for, on 300 random maps") {
  Fitter fitter;
  std::size_t placed = 0;
  std::size_t sealed = 0;  // without asking
  std::size_t refused = 0;
  for (const std::uint64_t seed : seeds(300)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground c = random_ground(random, 14, random.chance(40));
    const Regions regions(c.costs);
    if (regions.largest() == nullptr) continue;
    Cell home = random.cell(c.map.size());
    while (!c.costs.open(home)) home = random.cell(c.map.size());
    const std::vector<ScatterUnit> units = {{Footprint(), 3}, {Footprint({{0, 0}, {1, 0}}), 1}};
    ScatterOptions options{.most = static_cast<std::size_t>(random.whole(4, 40)), .seed = seed};
    const FitTerms terms{.map = &c.map, .mover = &c.mover};
    const auto all_reachable = [&](const ScatterResult& result) {
      BitGrid shut(c.map.size());
      std::vector<std::vector<Cell>> bodies;
      for (const Scattered& one : result.placed) {
        cells_in_pose(c.map.tiling(), units[one.unit].footprint, one.pose, bodies.emplace_back());
        for (const Cell cell : bodies.back()) shut.set(cell);
      }
      const CostGrid later = bake(c.map, c.mover, &shut);
      const Regions then(later);
      const auto places = [&](Cell cell) {
        std::vector<Cell> list;
        if (later.open(cell)) return std::vector<Cell>{cell};
        for (const Cell place : c.map.size().cells()) {
          if (later.open(place) && stands_beside(later, c.map, c.mover, place, cell)) list.push_back(place);
        }
        return list;
      };
      const std::vector<Cell> from = places(home);
      return std::all_of(bodies.begin(), bodies.end(), [&](const std::vector<Cell>& body) {
        for (const Cell cell : body) {
          for (const Cell place : places(cell)) {
            if (std::any_of(from.begin(), from.end(), [&](Cell start) { return then.same(start, place); })) return true;
          }
        }
        return false;
      });
    };
    sealed += all_reachable(scatter(fitter, terms, units, options)) ? 0U : 1U;
    options.reachable_from = home;
    const ScatterResult result = scatter(fitter, terms, units, options);
    placed += result.placed.size();
    refused += result.refused[static_cast<unsigned>(FitFault::cuts_off)];
    REQUIRE(all_reachable(result));
  }
  CHECK(placed > share_of(500));
  CHECK(sealed > share_of(60));
  CHECK(refused > share_of(500));
}

TEST_CASE("scattered units fit, keep apart, and leave open what is to be kept open, on 400 random maps") {
  Fitter fitter;
  std::size_t placed = 0;
  std::size_t refused = 0;
  for (const std::uint64_t seed : seeds(400)) {
    INFO("seed " << seed);
    Random random(seed);
    Site site;
    furnish(random, site, seed % 4 == 0);
    const Board board = site.c.map.board();
    const std::vector<ScatterUnit> units = {
        {random_footprint(random), 3}, {random_footprint(random), 0}, {Footprint(), 1}};
    ScatterOptions options{.most = static_cast<std::size_t>(random.whole(0, 20)), .seed = seed};
    options.spacing = random.whole(0, 2);
    options.turned = random.chance(50);
    options.mirrored = random.chance(50);
    if (random.chance(30)) options.chance = static_cast<std::uint32_t>(random.whole(0, 10'000));
    FitTerms terms = site.terms;
    terms.self = 0;
    const std::vector<Cell> keep = {random.cell(board.size), random.cell(board.size)};
    const bool keeps = random.chance(40);
    CostGrid costs;
    Regions regions;
    const BitGrid nobody(board.size);
    if (keeps) {
      terms.mover = &site.c.mover;
      costs = bake(site.c.map, site.c.mover, terms.units != nullptr ? &site.units.blocking() : &nobody);
      regions = Regions(costs);
      terms.keep_open = keep;
      terms.costs = &costs;
      terms.regions = &regions;
    }
    site.terms = terms;
    const ScatterResult result = scatter(fitter, terms, units, options);
    CHECK(result.placed == scatter(fitter, terms, units, options).placed);
    CHECK(result.placed.size() <= options.most);
    std::size_t sum = result.placed.size() + result.too_near;
    for (const std::size_t count : result.refused) sum += count;
    CHECK(sum == result.tried);
    if (result.placed.size() < options.most) CHECK(result.tried + result.passed_by == board.size.cell_count());
    std::vector<std::vector<Cell>> bodies;
    BitGrid occupied = terms.units != nullptr ? site.units.blocking() : nobody;
    for (const Scattered& one : result.placed) {
      CHECK(one.unit != 1);  // has no weight
      CHECK(fits_by_definition(site, units[one.unit].footprint, one.pose));
      std::vector<Cell> cells;
      cells_in_pose(board.tiling, units[one.unit].footprint, one.pose, cells);
      for (const std::vector<Cell>& other : bodies) {
        for (const Cell a : cells) {
          for (const Cell b : other) CHECK(board.tiling.edge_distance(a, b) > options.spacing);
        }
      }
      for (const Cell cell : cells) occupied.set(cell);
      bodies.push_back(cells);
    }
    if (keeps) {
      std::vector<Cell> put;
      for (const std::vector<Cell>& body : bodies) put.insert(put.end(), body.begin(), body.end());
      Ground before{site.c.map, site.c.mover, costs};
      CHECK(kept_by_definition(before, terms.units != nullptr ? site.units.blocking() : nobody, keep, put).empty());
    }
    placed += result.placed.size();
    refused += result.tried - result.placed.size();
  }
  CHECK(placed > share_of(800));
  CHECK(refused > share_of(2000));
  // The same everywhere: these numbers must never change.
  Dice dice(1);
  CHECK(dice.next() == 0x910A2DEC89025CC1);
  CHECK(dice.below(1000) == 519);
}

TEST_CASE("each rule by hand") {
  const Tiling square = Tiling::square();
  const Size size{8, 6};
  BitGrid wall(size);
  wall.set({3, 2});
  const Cell beside[] = {{2, 2}};
  const Cell corner[] = {{0, 0}};
  const Cell far[] = {{6, 4}, {7, 4}};
  CHECK(against(square, wall).holds(beside));
  CHECK(!against(square, wall, 2).holds(beside));
  CHECK(against(square, wall, 2).holds(corner));  // the rim counts
  CHECK(against(square, wall).holds(far));
  CHECK(away_from(square, wall, 1).holds(beside));
  CHECK(!away_from(square, wall, 2).holds(beside));
  CHECK(away_from(square, wall, 5).holds(far));
  CHECK(!away_from(square, wall, 6).holds(far));
  CHECK(near_to(square, wall, 5).holds(far));
  CHECK(!near_to(square, wall, 4).holds(far));
  CHECK(both(near_to(square, wall, 1), no(against(square, wall, 2))).holds(beside));
  CHECK(both(near_to(square, wall, 1), no(against(square, wall, 2))).name == "near by 1 step and not against 2");
  BitGrid clear(size);
  for (std::uint32_t i = 0; i < size.cell_count(); ++i)
    clear.set(size.cell(CellIndex{i}), !wall.test(size.cell(CellIndex{i})));
  CHECK(!clear_margin(square, clear, 1).holds(beside));
  CHECK(!clear_margin(square, clear, 1).holds(corner));
  const Cell middle[] = {{5, 3}};
  CHECK(clear_margin(square, clear, 2).holds(middle));
  CHECK(!clear_margin(square, clear, 3).holds(middle));
  const CostGrid costs({square, size}, {.steps = 4}, [&](Cell cell) -> EntryCost { return cell.col == 4 ? 0 : 100; });
  Searcher searcher;
  const Field reach = searcher.reach(costs, {0, 0});
  CHECK(reached_within(reach, 3_steps).holds(beside));
  CHECK(!reached_within(reach, 2_steps).holds(beside));
  CHECK(!reached_within(reach, 99.99_steps).holds(far));
  const Regions regions(costs);
  CHECK(in_region(regions, 2).holds(far));
  CHECK(!in_region(regions, 2).holds(beside));
  const SightGrid sight({square, size}, wall);
  const Cell behind[] = {{5, 2}};
  CHECK(!seen_from(sight, {1, 2}).holds(behind));
  CHECK(seen_from(sight, {1, 2}).holds(far));
  CHECK(!seen_from(sight, {1, 2}, 4_steps).holds(far));
}
