// Neighbours, strips, axes and distances against geometry and breadth-first floods, also at negative coordinates.
#include <catch2/catch.hpp>
#include <cmath>
#include <map>
#include <numbers>
#include <set>

#include "saunter/grid/frame.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

std::vector<Cell> block(int from, int to) {
  std::vector<Cell> cells;
  for (int row = from; row <= to; ++row) {
    for (int col = from; col <= to; ++col) cells.push_back({col, row});
  }
  return cells;
}

double bearing(Point v) {  // degrees clockwise from north, y down
  const double degrees = std::atan2(v.x, -v.y) * 180 / std::numbers::pi;
  return degrees < -1e-9 ? degrees + 360 : std::max(degrees, 0.0);
}

}  // namespace

TEST_CASE("neighbours lie where geometry says, in the fixed order") {
  for (const Tiling tiling : all_tilings()) {
    const Frame frame(tiling);
    for (const Cell cell : block(-3, 3)) {
      double last = -1;
      for (Direction d{0}; d < tiling.direction_count(); ++d) {
        const Point to = frame.centre(tiling.neighbour(cell, d)) - frame.centre(cell);
        if (d == tiling.edge_count()) last = -1;  // corner neighbours start at north again
        CHECK(bearing(to) > last);
        last = bearing(to);
        const bool edge = d < tiling.edge_count();
        if (edge) CHECK(length(to) == Approx(1.0));
        if (!edge) CHECK(length(to) > 1.2);
        // Written lengths are the true ones to a hundredth.
        CHECK(std::abs(tiling.step_length(cell, d) / 100.0 - length(to)) < 0.005);
      }
    }
  }
}

TEST_CASE("every cell that shares a corner is a neighbour, and no other") {
  for (const Tiling tiling : all_tilings()) {
    const Frame frame(tiling);
    for (const Cell cell : block(-2, 1)) {
      std::set<Cell> listed;
      for (Direction d{0}; d < tiling.direction_count(); ++d) listed.insert(tiling.neighbour(cell, d));
      CHECK(listed.size() == static_cast<std::size_t>(tiling.direction_count()));
      for (const Cell other : block(-6, 6)) {
        if (other == cell) continue;
        bool touches = false;
        for (const auto& p : frame.corners(cell)) {
          for (const auto& q : frame.corners(other)) touches = touches || length(p - q) < 1e-9;
        }
        CHECK(touches == (listed.count(other) == 1));
        CHECK((tiling.direction(cell, other) >= 0) == touches);
      }
      CHECK(tiling.direction(cell, cell) == -1);
    }
  }
}

TEST_CASE("the way back leads back") {
  for (const Tiling tiling : all_tilings()) {
    const Neighbourhood& hood = tiling.neighbourhood();
    for (const Cell cell : block(-2, 2)) {
      const auto kind = static_cast<unsigned>(tiling.kind(cell));
      for (unsigned d = 0; d < static_cast<unsigned>(hood.directions); ++d) {
        const Cell next = tiling.neighbour(cell, static_cast<Direction>(d));
        CHECK(tiling.kind(next) == hood.kind_after[kind][d]);
        CHECK(tiling.neighbour(next, Direction(hood.opposite[kind][d])) == cell);
      }
    }
  }
}

TEST_CASE("edge distance is the fewest edge steps") {
  for (const Tiling tiling : all_tilings()) {
    for (const Cell start : {Cell{0, 0}, Cell{1, 0}, Cell{0, 1}, Cell{-1, -1}}) {
      std::map<Cell, int> steps{{start, 0}};
      std::vector<Cell> line{start};
      for (std::size_t i = 0; i < line.size() && steps[line[i]] < 6; ++i) {
        for (Direction d{0}; d < tiling.edge_count(); ++d) {
          const Cell next = tiling.neighbour(line[i], d);
          if (steps.emplace(next, steps[line[i]] + 1).second) line.push_back(next);
        }
      }
      for (const auto& [cell, count] : steps) CHECK(tiling.edge_distance(start, cell) == count);
    }
  }
}

TEST_CASE("hex axes: q and r step the way they say, and convert back") {
  for (const Tiling tiling : all_tilings()) {
    if (!tiling.is_hex()) continue;
    const Frame frame(tiling);
    const bool pointy = tiling.shape() == Shape::hex_pointy;
    for (const Cell cell : block(-4, 4)) {
      const Axial at = tiling.to_axial(cell);
      CHECK(tiling.from_axial(at) == cell);
      const Point q = frame.centre(tiling.from_axial({at.q + 1, at.r})) - frame.centre(cell);
      const Point r = frame.centre(tiling.from_axial({at.q, at.r + 1})) - frame.centre(cell);
      CHECK(bearing(q) == Approx(pointy ? 90 : 120));
      CHECK(bearing(r) == Approx(pointy ? 150 : 180));
    }
  }
}

TEST_CASE("directions have their compass names") {
  CHECK(Tiling::square().direction_name({0, 0}, Direction(0)) == "n");
  CHECK(Tiling::square().direction_name({0, 0}, Direction(4)) == "ne");
  for (const Tiling tiling : all_tilings()) {
    const Frame frame(tiling);
    static const std::map<std::string_view, double> degrees = {{"n", 0},   {"nne", 22.5},  {"ne", 45},  {"ene", 67.5},
                                                               {"e", 90},  {"ese", 112.5}, {"se", 135}, {"sse", 157.5},
                                                               {"s", 180}, {"ssw", 202.5}, {"sw", 225}, {"wsw", 247.5},
                                                               {"w", 270}, {"wnw", 292.5}, {"nw", 315}, {"nnw", 337.5}};
    for (const Cell cell : {Cell{0, 0}, Cell{1, 0}}) {
      for (Direction d{0}; d < tiling.direction_count(); ++d) {
        const double named = degrees.at(tiling.direction_name(cell, d));
        const double off = std::abs(bearing(frame.centre(tiling.neighbour(cell, d)) - frame.centre(cell)) - named);
        CHECK(std::min(off, 360 - off) < 16);
      }
    }
  }
}

TEST_CASE("cells, indices and sizes") {
  const Size size{7, 3};
  CHECK(size.cell_count() == 21);
  CHECK(size.index({6, 2}).value() == 20);
  CHECK(size.cell(CellIndex{8}) == Cell{1, 1});
  CHECK_FALSE(size.contains({7, 0}));
  CHECK_FALSE(size.contains({0, -1}));
  CHECK(Cell{5, 0} < Cell{0, 1});  // reading order
  CHECK(Size{65535, 512}.index({65534, 511}).value() == 65535U * 512U - 1);
  CHECK(Rect{1, 1, 3, 3}.grown(5, size) == Rect{0, 0, 7, 3});
  CHECK(Rect{}.joined(Rect::of({2, 1})) == Rect{2, 1, 3, 2});
}

TEST_CASE("bit grids answer for cells and read neighbourhoods across their margin") {
  Random random(71);
  for (const Size size : {Size{1, 1}, Size{63, 2}, Size{64, 3}, Size{130, 4}}) {
    BitGrid bits(size);
    Grid<char> plain(size, 0);
    for (int i = 0; i < 200; ++i) {
      const Cell cell = random.cell(size);
      const bool value = random.chance(60);
      bits.set(cell, value);
      plain[cell] = value ? 1 : 0;
    }
    std::size_t count = 0;
    for (int row = -1; row <= size.rows; ++row) {
      for (int col = 0; col < size.cols; ++col) {
        unsigned expected = 0;
        for (int i = -2; i <= 2; ++i) {
          const Cell cell{col + i, row};
          if (size.contains(cell) && plain[cell] != 0) expected |= 1U << static_cast<unsigned>(i + 2);
        }
        CHECK(bits.five_around({col, row}) == expected);
        if (size.contains({col, row}) && plain[Cell{col, row}] != 0) ++count;
      }
    }
    CHECK(bits.count() == count);
    CHECK_FALSE(bits.test({-1, 0}));
  }
}

TEST_CASE("hashes of neighbouring cells differ") {
  std::set<std::size_t> seen;
  for (const Cell cell : block(-20, 20)) seen.insert(std::hash<Cell>{}(cell) % 4096);
  CHECK(seen.size() > 1300);  // 1681 cells into 4096 buckets: random spread fills about 1380
}
