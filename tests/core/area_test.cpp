// Lines, rings, disks, turns and strips against geometry; painting reports exactly what it changed.
#include <catch2/catch.hpp>
#include <algorithm>
#include <numbers>
#include <set>

#include "saunter/grid/area.hpp"
#include "saunter/grid/eigen.hpp"
#include "saunter/grid/frame.hpp"
#include "saunter/ground/clearance.hpp"
#include "saunter/ground/paint.hpp"
#include "saunter/search/estimate.hpp"
#include "support/seeds.hpp"
#include "support/oracle.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

TEST_CASE("lines have no gaps, no detours, hug the straight line and read the same backwards") {
  for (const std::uint64_t seed : seeds(3000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Cell from{random.whole(-30, 30), random.whole(-30, 30)};
    const Cell to{random.whole(-30, 30), random.whole(-30, 30)};
    const Frame frame(tiling);
    for (const LineKind kind : {LineKind::edges, LineKind::corners}) {
      std::vector<Cell> line;
      line_of_cells(tiling, from, to, line, kind);
      REQUIRE(line.front() == from);
      REQUIRE(line.back() == to);
      for (std::size_t i = 1; i < line.size(); ++i) {
        const Direction d = tiling.direction(line[i - 1], line[i]);
        REQUIRE(d >= 0);
        const bool diagonal_allowed = kind == LineKind::corners && tiling.shape() == Shape::square;
        REQUIRE((diagonal_allowed || d < tiling.edge_count()));
      }
      if (kind == LineKind::edges) CHECK(line.size() == static_cast<std::size_t>(tiling.edge_distance(from, to)) + 1);
      const Point along = frame.centre(to) - frame.centre(from);
      for (const Cell cell : line) {
        const Point off = frame.centre(cell) - frame.centre(from);
        if (from != to) CHECK(std::abs(along.x * off.y - along.y * off.x) / length(along) < 1.01);
      }
      std::vector<Cell> back;
      line_of_cells(tiling, to, from, back, kind);
      std::reverse(back.begin(), back.end());
      CHECK(back == line);
    }
  }
}

TEST_CASE("rings and disks are the cells at or within a number of edge steps") {
  for (const Tiling tiling : all_tilings()) {
    for (const Cell centre : {Cell{0, 0}, Cell{-3, 2}, Cell{4, -1}}) {
      std::set<Cell> flood{centre};
      std::set<Cell> rim{centre};
      for (int radius = 0; radius <= 5; ++radius) {
        std::vector<Cell> disk;
        std::vector<Cell> ring;
        disk_of_cells(tiling, centre, radius, disk);
        ring_of_cells(tiling, centre, radius, ring);
        CHECK(std::set<Cell>(disk.begin(), disk.end()) == flood);
        CHECK(std::set<Cell>(ring.begin(), ring.end()) == rim);
        CHECK(std::is_sorted(disk.begin(), disk.end()));
        std::set<Cell> next;
        for (const Cell cell : rim) {
          for (Direction d{0}; d < tiling.edge_count(); ++d) {
            if (flood.insert(tiling.neighbour(cell, d)).second) next.insert(tiling.neighbour(cell, d));
          }
        }
        rim = next;
      }
    }
  }
}

TEST_CASE("turning goes clockwise about the centre and comes round") {
  Random random(8);
  for (int i = 0; i < 500; ++i) {
    const Tiling tiling = random.one_of(all_tilings());
    if (tiling.shape() == Shape::triangle) continue;
    const Frame frame(tiling);
    const Cell centre{random.whole(-9, 9), random.whole(-9, 9)};
    const Cell cell{random.whole(-9, 9), random.whole(-9, 9)};
    const Eigen::Rotation2Dd turn(2 * std::numbers::pi / full_turn(tiling));  // y down: positive angles turn clockwise
    const Point expected = frame.centre(centre) + Point(turn * to_eigen(frame.centre(cell) - frame.centre(centre)));
    CHECK(length(frame.centre(turned_about(tiling, cell, centre, 1)) - expected) < 1e-9);
    CHECK(turned_about(tiling, cell, centre, full_turn(tiling)) == cell);
  }
}

TEST_CASE("strips and cubes convert back") {
  for (const Tiling tiling : all_tilings()) {
    for (int row = -4; row <= 4; ++row) {
      for (int col = -4; col <= 4; ++col) {
        const Cell cell{col, row};
        if (tiling.shape() == Shape::triangle) CHECK(tiling.from_strips(tiling.strips(cell)) == cell);
        if (!tiling.is_hex()) continue;
        const Cube cube = to_cube(tiling.to_axial(cell));
        CHECK(cube.q + cube.r + cube.s == 0);
        CHECK(tiling.from_axial(to_axial(cube)) == cell);
      }
    }
  }
}

TEST_CASE("the distance for a mover's steps is the least sum of lengths") {
  Random random(12);
  for (const Tiling tiling : all_tilings()) {
    const StepRules rules = random_rules(random, tiling);
    const CostGrid open({tiling, {15, 13}}, rules, [](Cell) -> EntryCost { return 100; });
    const Cell from{7, 6};
    const auto least = least_costs(open, from);
    for (const Cell to : {Cell{4, 4}, Cell{10, 9}, Cell{7, 3}, Cell{9, 6}, Cell{5, 8}}) {
      CHECK(Estimate(tiling, rules, 100, to)(from) == least[open.size().index(to).value()]);
    }
  }
}

namespace {

const std::vector<Terrain> three_kinds = {{.name = "sand"}, {.name = "kelp"}, {.name = "void", .is_void = true}};

}  // namespace

TEST_CASE("painting returns exactly the cells that changed, and a rebake from them is right") {
  for (const std::uint64_t seed : seeds(600)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    Map map = random_map(random, tiling, random_size(random, 20));
    const Mover mover = random_mover(random, tiling);
    CostGrid costs = bake(map, mover);
    const Map before = map;
    const auto id = static_cast<TerrainId>(random.whole(0, static_cast<int>(map.kinds().size()) - 1));
    const Cell a{random.whole(-3, map.size().cols + 2), random.whole(-3, map.size().rows + 2)};
    const Cell b{random.whole(-3, map.size().cols + 2), random.whole(-3, map.size().rows + 2)};
    Painted painted;
    switch (random.whole(0, 5)) {
      case 0: painted = paint_cell(map, a, id); break;
      case 1: painted = paint_line(map, a, b, id, random.chance(50) ? LineKind::edges : LineKind::corners); break;
      case 2: painted = paint_rect(map, Rect::of(a).joined(Rect::of(b)), id); break;
      case 3: painted = paint_disk(map, a, random.whole(0, 5), id); break;
      case 4: painted = paint_flood(map, a, id); break;
      default: {
        Grid<TerrainId> piece(Size{random.whole(1, 5), random.whole(1, 5)}, id);
        piece[Cell{0, 0}] = 0;
        Tiling piece_tiling = tiling;
        if (tiling.shape() == Shape::triangle) {
          piece_tiling = Tiling::triangle(tiling.kind(a) == 0 ? FirstTriangle::up : FirstTriangle::down);
        }
        painted = paint_stamp(map, piece, piece_tiling, a, TerrainId{0});
      }
    }
    std::set<Cell> changed;
    for (int row = 0; row < map.size().rows; ++row) {
      for (int col = 0; col < map.size().cols; ++col) {
        if (map.terrain_at({col, row}) != before.terrain_at({col, row})) changed.insert({col, row});
      }
    }
    CHECK(std::set<Cell>(painted.cells.begin(), painted.cells.end()) == changed);
    CHECK(painted.cells.size() == changed.size());
    for (const Cell cell : changed) CHECK(painted.block.contains(cell));
    rebake(costs, map, mover, painted.block);
    CHECK(costs == bake(map, mover));
  }
}

TEST_CASE("a flood fills the patch it starts in and no other") {
  Map map({Tiling::square(), {5, 3}}, three_kinds);
  (void)paint_line(map, {2, 0}, {2, 2}, 1);
  CHECK(paint_flood(map, {0, 0}, 2).cells.size() == 6);
  CHECK(map.terrain_at({4, 0}) == 0);
  CHECK(paint_flood(map, {-1, 0}, 2).cells.empty());
}

TEST_CASE("stamps look alike wherever they are put") {
  for (const Tiling tiling : all_tilings()) {
    if (!tiling.is_hex()) continue;
    const Frame frame(tiling);
    const Grid<TerrainId> piece(Size{3, 3}, 1);
    std::vector<Point> shape;
    for (const Cell at : {Cell{2, 2}, Cell{3, 3}, Cell{2, 3}, Cell{3, 2}}) {
      Map map({tiling, {12, 12}}, three_kinds);
      const Painted painted = paint_stamp(map, piece, tiling, at);
      REQUIRE(painted.cells.size() == 9);
      std::vector<Point> now;
      for (const Cell cell : painted.cells) now.push_back(frame.centre(cell) - frame.centre(at));
      if (shape.empty()) shape = now;
      for (std::size_t i = 0; i < 9; ++i) CHECK(length(shape[i] - now[i]) < 1e-9);
    }
  }
}

TEST_CASE("boards in the shape of their cells") {
  for (const HexTop top : {HexTop::pointy, HexTop::flat}) {
    const Map board = hexagon_map(top, 3, three_kinds, 0, 2);
    const CostGrid costs = bake(board, Mover{.name = "x"});
    CHECK(costs.open_cells().count() == 37);  // 1 + 6 + 12 + 18
  }
  for (int side = 1; side <= 6; ++side) {
    const Map board = triangle_map(side, three_kinds, 0, 2);
    const CostGrid costs = bake(board, Mover{.name = "x"});
    CHECK(costs.open_cells().count() == static_cast<std::size_t>(side) * static_cast<std::size_t>(side));
    CHECK(board.tiling().kind({side - 1, 0}) == 0);
  }
}

TEST_CASE("clearance is the largest size that can stand") {
  for (const std::uint64_t seed : seeds(300)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Map map = random_map(random, tiling, random_size(random, 14));
    const Grid<std::uint8_t> largest = clearance(bake(map, Mover{.name = "one"}));
    const int most = tiling.shape() == Shape::triangle ? 1 : 5;
    for (int size = 1; size <= most; ++size) {
      const CostGrid costs = bake(map, Mover{.name = "large", .size = size});
      for (int row = 0; row < map.size().rows; ++row) {
        for (int col = 0; col < map.size().cols; ++col) {
          const Cell cell{col, row};
          REQUIRE((largest[cell] >= size) == costs.open(cell));
        }
      }
    }
  }
}
