#include "saunter/threat/side.hpp"

#include <array>

#include "saunter/grid/whole_plane.hpp"

namespace saunter {
namespace {

using namespace std::string_view_literals;
constexpr std::array names_of_eight = {"n"sv, "ne"sv, "e"sv, "se"sv, "s"sv, "sw"sv, "w"sv, "nw"sv};

/// Sine by its series, in steps that every compiler rounds alike. @pre 0 <= x <= pi / 2
constexpr double sine(double x) {
  double term = x;
  double sum = 0;
  for (int k = 1; k < 30; k += 2) {
    sum += term;
    term = -term * x * x / ((k + 1) * (k + 2));
  }
  return sum;
}
constexpr double scale = 4398046511104.0;  // 2^42: with coordinates of 18 bits, products stay below 2^63
constexpr double root_of_three = 1.7320508075688772;
constexpr std::int64_t whole(double value) { return static_cast<std::int64_t>(value * scale + 0.5); }

/// The sine of half degrees 0 .. 180, times a factor, times 2^42.
constexpr std::array<std::int64_t, 181> table(double factor) {
  std::array<std::int64_t, 181> made = {};
  for (std::size_t i = 0; i < made.size(); ++i) {
    made[i] = whole(factor * sine(static_cast<double>(i) * 3.14159265358979323846 / 360.0));
  }
  return made;
}
constexpr auto sines = table(1.0);
constexpr auto stretched_sines = table(root_of_three);
// Rims at 60 and 30 degrees pass through cells of hexes and triangles: there the whole numbers must be in proportion.
static_assert(sines[120] == stretched_sines[60] && stretched_sines[120] == 3 * sines[60]);

/// The sine (or, a quarter turn on, the cosine) of any number of half degrees from a table.
constexpr std::int64_t look_up(const std::array<std::int64_t, 181>& values, int half_degrees) {
  const int turn = ((half_degrees % 720) + 720) % 720;
  const auto at = [&](int i) { return values[static_cast<unsigned>(i)]; };
  if (turn <= 180) return at(turn);
  if (turn <= 360) return at(360 - turn);
  if (turn <= 540) return -at(turn - 360);
  return -at(720 - turn);
}

/// Which of eight sides of 45 degrees. Their borders never pass through a cell: the tangent of 22.5 degrees has no
/// whole ratio (and none to the root of three).
Side one_of_eight(std::int64_t x, std::int64_t y, bool triangles) {
  constexpr double tangent = 0.41421356237309503;  // of 22.5 degrees
  constexpr std::int64_t one = std::int64_t{1} << 42;
  const std::int64_t right = x < 0 ? -x : x;
  const std::int64_t down = y < 0 ? -y : y;
  // Triangles: the true width is the root of three times as much as the height's measure.
  const bool upright = right * one < down * (triangles ? whole(tangent / root_of_three) : whole(tangent));
  const bool level = down * one < right * (triangles ? whole(tangent * root_of_three) : whole(tangent));
  if (upright) return y < 0 ? 0 : 4;
  if (level) return x > 0 ? 2 : 6;
  if (x > 0) return y < 0 ? 1 : 3;
  return y < 0 ? 7 : 5;
}

Side one_of_six_pointy(std::int64_t right, std::int64_t down) {
  if (right > 0) return -down > right ? 0 : down < right ? 1 : 2;
  if (right < 0) return down > -right ? 3 : -down < -right ? 4 : 5;
  return down < 0 ? 0 : 3;
}
Side one_of_six_flat(std::int64_t right, std::int64_t down) {
  if (right > 0) return -down > right ? 0 : down < 0 ? 1 : down < right ? 2 : 3;
  if (right < 0) return down > -right ? 3 : down > 0 ? 4 : -down < -right ? 5 : 0;
  return down < 0 ? 0 : 3;
}

}  // namespace

std::string_view side_name(Tiling tiling, Side side) {
  SAUNTER_EXPECT(side >= 0 && side < side_count(tiling));
  return tiling.is_hex() ? tiling.direction_name({0, 0}, side) : names_of_eight[static_cast<unsigned>(side)];
}

Side side_named(Tiling tiling, std::string_view name) {
  for (Side side = 0; side < side_count(tiling); ++side) {
    if (side_name(tiling, side) == name) return side;
  }
  return -1;
}

Side side_towards(Tiling tiling, Cell from, Cell to) {
  const WholePlane plane(tiling);
  const WholePoint d = plane.centre(to) - plane.centre(from);
  switch (tiling.shape()) {
    case Shape::square: return one_of_eight(d.x, d.y, false);
    case Shape::triangle: return one_of_eight(d.x, d.y, true);
    case Shape::hex_pointy: return one_of_six_pointy(d.x, d.y);
    case Shape::hex_flat: return one_of_six_flat(d.y, d.x);
  }
  return 0;
}

Arc::Arc(Tiling tiling, Side facing, int degrees) : tiling_(tiling), whole_(degrees >= 360), wide_(degrees > 180) {
  SAUNTER_EXPECT(degrees >= 1 && degrees <= 360 && facing >= 0 && facing < side_count(tiling));
  int middle = facing * (tiling.is_hex() ? 120 : 90);  // in half degrees, clockwise from north
  if (tiling.shape() == Shape::hex_pointy) middle += 60;
  first_ = rim(tiling, middle - degrees);
  last_ = rim(tiling, middle + degrees);
}

/// On the plane of whole numbers a direction is (sine, -cosine), one of them times the root of three where the plane is
/// stretched.
Arc::Ray Arc::rim(Tiling tiling, int half_degrees) {
  const auto sine_of = [&](const auto& values) { return look_up(values, half_degrees); };
  const auto cosine_of = [&](const auto& values) { return look_up(values, half_degrees + 180); };
  switch (tiling.shape()) {
    case Shape::square: return {sine_of(sines), -cosine_of(sines)};
    case Shape::hex_flat: return {-cosine_of(sines), sine_of(stretched_sines)};
    default: return {sine_of(sines), -cosine_of(stretched_sines)};
  }
}

bool Arc::holds(Cell from, Cell to) const {
  if (whole_ || from == to) return true;
  const WholePlane plane(tiling_);
  const WholePoint v = plane.centre(to) - plane.centre(from);
  // Positive: v is clockwise of the ray. Flat hexes have their axes swapped, which turns the other way round.
  const std::int64_t mirror = tiling_.shape() == Shape::hex_flat ? -1 : 1;
  const auto beyond = [&](Ray ray) { return mirror * (ray.x * v.y - ray.y * v.x); };
  if (wide_) return !(beyond(last_) > 0 && beyond(first_) < 0);
  return beyond(first_) >= 0 && beyond(last_) <= 0;
}

}  // namespace saunter
