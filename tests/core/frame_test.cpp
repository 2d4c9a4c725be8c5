// World positions: the found cell's polygon contains the point; edges follow the written rule; frames turn and shear.
#include <catch2/catch.hpp>
#include <limits>
#include <numbers>

#include "saunter/grid/eigen.hpp"
#include "saunter/grid/frame.hpp"
#include "support/seeds.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// How far a point lies outside a polygon (0 inside), either winding.
double outside(const CellPolygon& polygon, Point point) {
  Point middle;
  for (const Point p : polygon) middle += p / polygon.count;
  double worst = 0;
  for (int i = 0; i < polygon.count; ++i) {
    const Point a = polygon.points[static_cast<unsigned>(i)];
    const Point edge = polygon.points[static_cast<unsigned>((i + 1) % polygon.count)] - a;
    Point normal(-edge.y, edge.x);
    if (dot(normal, middle - a) < 0) normal = -1 * normal;
    worst = std::max(worst, -dot(normal, point - a) / length(edge));
  }
  return worst;
}

Frame random_frame(Random& random, Tiling tiling) {
  const Point origin(random.share() * 200 - 100, random.share() * 200 - 100);
  if (random.chance(30)) return Frame(tiling, 0.1 + random.share() * 50, origin, WorldY::up);
  if (random.chance(30)) return Frame::diamond(tiling, 64, 32, origin);
  Eigen::Affine2d any = Eigen::Translation2d(to_eigen(origin)) * Eigen::Rotation2Dd(random.share() * 6.28);
  any = any * Eigen::Scaling(0.5 + random.share() * 3, 0.5 + random.share() * 3);
  return Frame(tiling, from_eigen(any));
}

}  // namespace

TEST_CASE("the cell at a point contains the point: a million points") {
  Random random(2026);
  for (std::uint64_t round = 0; round < cases(1000); ++round) {
    const Tiling tiling = random.one_of(all_tilings());
    const Frame frame = random_frame(random, tiling);
    double worst = 0;
    for (int i = 0; i < 1000; ++i) {
      const Point steps(random.share() * 400 - 200, random.share() * 400 - 200);
      const Point world = frame.to_world()(steps);
      const Cell cell = frame.cell_at(world);
      worst = std::max(worst, outside(frame.corners(cell), world));
    }
    CHECK(worst < 1e-9 * (1 + to_eigen(frame.to_world()).linear().norm() * 1000));
  }
}

TEST_CASE("a cell's centre lies in the cell") {
  Random random(7);
  for (int i = 0; i < 3000; ++i) {
    const Frame frame = random_frame(random, random.one_of(all_tilings()));
    const Cell cell{random.whole(-9000, 9000), random.whole(-9000, 9000)};
    CHECK(frame.cell_at(frame.centre(cell)) == cell);
  }
}

TEST_CASE("shared edges belong to one cell, by the written rule") {
  const Frame square(Tiling::square());
  CHECK(square.cell_at({0.5, 0.0}) == Cell{1, 0});
  CHECK(square.cell_at({0.0, 0.5}) == Cell{0, 1});
  CHECK(square.cell_at({-0.5, -0.5}) == Cell{0, 0});
  CHECK(square.cell_at({0.49999999999999994, 0.0}) == Cell{0, 0});  // the largest number below one half
  const Frame pointy(Tiling::hex(HexTop::pointy, Shift::odd));
  CHECK(pointy.cell_at({0.5, 0.0}) == Cell{1, 0});
  CHECK(pointy.cell_at({-0.5, 0.0}) == Cell{0, 0});
  const Frame flat(Tiling::hex(HexTop::flat, Shift::odd));
  CHECK(flat.cell_at({0.0, 0.5}) == Cell{0, 1});
  CHECK(flat.cell_at({0.0, -0.5}) == Cell{0, 0});
  const Frame up(Tiling::triangle(FirstTriangle::up));
  CHECK(up.cell_at({0.0, 0.5}) == Cell{0, 1});  // the lower side of an up triangle
}

TEST_CASE("off the map is answered, and numbers out of range are cut") {
  const Frame frame(Tiling::square(), 10.0);
  CHECK_FALSE(frame.cell_at({-6.0, 0.0}, {4, 4}).has_value());
  CHECK(frame.cell_at({-5.0, 0.0}, {4, 4}) == Cell{0, 0});
  CHECK_FALSE(frame.cell_at({1e300, 0.0}, {4, 4}).has_value());
  const double nan = std::numeric_limits<double>::quiet_NaN();
  CHECK(frame.cell_at({nan, 0.0}).col == std::numeric_limits<std::int32_t>::min());
}

TEST_CASE("y-up frames put lower rows higher") {
  const Frame frame(Tiling::square(), 2.0, {1.0, 1.0}, WorldY::up);
  CHECK(frame.centre({0, 1}).y == Approx(-1.0));
  CHECK(frame.cell_at({1.0, -1.0}) == Cell{0, 1});
}

TEST_CASE("the diamond view sends columns right and down, rows left and down") {
  const Frame frame = Frame::diamond(Tiling::square(), 64, 32);
  CHECK(length(frame.centre({1, 0}) - Point(32, 16)) < 1e-12);
  CHECK(length(frame.centre({0, 1}) - Point(-32, 16)) < 1e-12);
}

TEST_CASE("a dragged anchor follows the pointer and keeps a triangle's orientation") {
  Random random(11);
  for (int i = 0; i < 2000; ++i) {
    const Tiling tiling = random.one_of(all_tilings());
    const Frame frame(tiling, 12.0);
    const Cell anchor{random.whole(-5, 5), random.whole(-5, 5)};
    const Point grip(random.share() * 40, random.share() * 40);
    // Not moved: it stays where it is.
    CHECK(frame.drag_anchor(frame.centre(anchor) + grip, grip, anchor) == anchor);
    const Point pointer(random.share() * 200 - 100, random.share() * 200 - 100);
    const Cell dropped = frame.drag_anchor(pointer, grip, anchor);
    CHECK((tiling.shape() != Shape::triangle || tiling.kind(dropped) == tiling.kind(anchor)));
    CHECK(length(frame.centre(dropped) - (pointer - grip)) < 12.0 * 1.5);
  }
}
