#include "saunter/threat/side.hpp"

#include <array>

#include "bearing.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
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

}  // namespace

std::string_view side_name(Tiling tiling, Side side) {
  if (side < 0 || side >= side_count(tiling)) return {};
  return tiling.is_hex() ? tiling.direction_name({0, 0}, Direction(side.operator int()))
                         : names_of_eight[static_cast<unsigned>(side)];
}

Side side_named(Tiling tiling, std::string_view name) {
  for (Side side{0}; side < side_count(tiling); ++side) {
    if (side_name(tiling, side) == name) return side;
  }
  return Side(-1);
}

Side side_towards(Tiling tiling, Cell from, Cell to) {
  const WholePlane plane(tiling);
  return side_of(tiling.shape(), plane.centre(to) - plane.centre(from));
}

std::string facing_name(Tiling tiling, Facing facing) {
  if (const std::optional<Side> side = facing.side()) return std::string(side_name(tiling, *side));
  return std::to_string(facing.in_degrees(tiling));
}

Arc::Arc(Tiling tiling, Facing facing, int degrees) : tiling_(tiling), whole_(degrees >= 360), wide_(degrees > 180) {
  const bool sound = degrees >= 1 && degrees <= 360 && facing.exists(tiling);
  SAUNTER_EXPECT(sound);
  if (!sound) {
    whole_ = true;
    return;
  }
  const int middle = 2 * facing.in_degrees(tiling);  // in half degrees
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

}  // namespace saunter::inline v0_2
