// Things on a board against a plain model.
#include <algorithm>
#include <catch2/catch.hpp>
#include <map>
#include <set>

#include "saunter/grid/frame.hpp"
#include "saunter/ground/bake.hpp"
#include "saunter/place/occupancy.hpp"
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
  struct Thing {
    Footprint footprint;
    int layer = 0;
    bool blocks = true;
    bool standing = false;
    Pose pose;
  };
  std::vector<Thing> things;

  std::set<std::pair<std::int32_t, std::int32_t>> cells(Tiling tiling, const Thing& thing) const {
    std::vector<Cell> list;
    Footprint footprint = thing.pose.mirrored ? thing.footprint.mirrored(tiling) : thing.footprint;
    footprint.turned(tiling, thing.pose.turn).cells_at(tiling, thing.pose.at, list);
    std::set<std::pair<std::int32_t, std::int32_t>> found;
    for (const Cell cell : list) found.emplace(cell.row, cell.col);
    return found;
  }
  bool legal(Board board) const {
    for (std::size_t i = 0; i < things.size(); ++i) {
      if (!things[i].standing) continue;
      for (const auto& [row, col] : cells(board.tiling, things[i])) {
        if (!board.size.contains({col, row})) return false;
        for (std::size_t k = 0; k < i; ++k) {
          if (!things[k].standing || things[k].layer != things[i].layer) continue;
          if (cells(board.tiling, things[k]).contains({row, col})) return false;
        }
      }
    }
    return true;
  }
};

void require_same(const Occupancy& real, const Model& model, Board board) {
  std::size_t wrong = 0;
  std::map<std::pair<int, std::pair<int, int>>, ThingId> who;
  std::set<std::pair<int, int>> blocking;
  for (std::size_t i = 0; i < model.things.size(); ++i) {
    const Model::Thing& thing = model.things[i];
    const auto& seen = real.thing(static_cast<ThingId>(i + 1));
    wrong += seen.standing == thing.standing ? 0U : 1U;
    if (!thing.standing) continue;
    wrong += seen.pose == thing.pose ? 0U : 1U;
    const auto cells = model.cells(board.tiling, thing);
    wrong += seen.cells.size() == cells.size() ? 0U : 1U;
    for (const auto& cell : cells) {
      who[{thing.layer, cell}] = static_cast<ThingId>(i + 1);
      if (thing.blocks) blocking.insert(cell);
    }
  }
  for (std::uint32_t i = 0; i < board.size.cell_count(); ++i) {
    const Cell cell = board.size.cell(CellIndex{i});
    for (int layer = 0; layer < real.layers(); ++layer) {
      const auto at = who.find({layer, {cell.row, cell.col}});
      wrong += real.at(cell, layer) == (at == who.end() ? 0 : at->second) ? 0U : 1U;
    }
    wrong += real.blocking().test(cell) == blocking.contains({cell.row, cell.col}) ? 0U : 1U;
  }
  REQUIRE(wrong == 0);
}

}  // namespace

TEST_CASE("ten thousand changes of things, kept or refused as in a plain model, on all tilings") {
  std::size_t changes = 0;
  std::size_t refused = 0;
  std::size_t undone = 0;
  for (std::uint64_t seed = 1; seed <= 100; ++seed) {
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
      model.things.push_back({footprint, layer, blocks, false, {}});
      CHECK(real.add(footprint, layer, blocks) == model.things.size());
    }
    std::optional<Model> before;  // the last change
    for (int i = 0; i < 100; ++i, ++changes) {
      INFO("change " << i);
      const auto number = static_cast<std::size_t>(random.whole(0, static_cast<int>(model.things.size()) - 1));
      const auto id = static_cast<ThingId>(number + 1);
      Model wanted = model;
      Model::Thing& thing = wanted.things[number];
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
      if (!thing.standing) {
        thing.pose = random_pose(random, board);
        thing.standing = true;
        done = real.place(id, thing.pose);
      } else if (const int what = random.whole(0, 3); what == 0) {
        thing.standing = false;
        real.lift(id);
        done = true;
      } else if (what == 1) {
        const auto other = static_cast<std::size_t>(random.whole(0, static_cast<int>(model.things.size()) - 1));
        if (other == number || !wanted.things[other].standing) continue;
        std::swap(thing.pose.at, wanted.things[other].pose.at);
        done = real.swap(id, static_cast<ThingId>(other + 1));
      } else {
        thing.pose = random_pose(random, board);
        if (random.chance(50)) thing.pose.at = tiling.neighbour(model.things[number].pose.at, 0);
        done = real.move(id, thing.pose);
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
  CHECK(refused > 1000);
  CHECK(undone > 200);
}

TEST_CASE("what a change reports is all a cost grid needs to follow") {
  for (std::uint64_t seed = 1; seed <= 200; ++seed) {
    INFO("seed " << seed);
    Random random(seed);
    Ground c = random_ground(random, 20, seed % 2 == 0);
    Occupancy things(c.map.board());
    const ThingId hut = things.add(random_footprint(random));
    const ThingId crate = things.add(random_footprint(random));
    c.costs = bake(c.map, c.mover, &things.blocking());
    for (int i = 0; i < 12; ++i) {
      const ThingId id = random.chance(50) ? hut : crate;
      const Pose pose = random_pose(random, c.map.board());
      bool done = false;
      if (random.chance(20)) {
        done = things.undo();
      } else {
        done = things.thing(id).standing ? things.move(id, pose) : things.place(id, pose);
      }
      if (!done) continue;
      CHECK(std::is_sorted(things.changed().begin(), things.changed().end()));
      rebake(c.costs, c.map, c.mover, things.changed_block(), &things.blocking());
      REQUIRE(c.costs == bake(c.map, c.mover, &things.blocking()));
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
      const Eigen::Vector2d a = frame.centre(plain[i]) - frame.centre(at);
      const Eigen::Vector2d b = frame.centre(mirrored[i]) - frame.centre(at);
      CHECK(a.x() == Approx(-b.x()).margin(1e-9));
      CHECK(a.y() == Approx(b.y()).margin(1e-9));
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
