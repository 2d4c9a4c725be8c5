/// @file
/// On which side a direction on the plane of whole numbers lies.
#pragma once

#include "saunter/grid/whole_plane.hpp"
#include "saunter/threat/side.hpp"

namespace saunter::inline v0_2::detail {

inline constexpr double bearing_scale = 4398046511104.0;  // 2^42: with coordinates of 18 bits, products stay below 2^63
inline constexpr double root_of_three = 1.7320508075688772;
/// To the nearest whole number. @pre value >= 0
constexpr std::int64_t whole(double value) {
  return static_cast<std::int64_t>(value * bearing_scale + 0.5);  // NOLINT(bugprone-incorrect-roundings): constexpr
}

/// Which of eight sides of 45 degrees. Their borders never pass through a cell: the tangent of 22.5 degrees has no
/// whole ratio (and none to the root of three).
inline int one_of_eight(std::int64_t x, std::int64_t y, bool triangles) {
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

inline int one_of_six_pointy(std::int64_t right, std::int64_t down) {
  if (right > 0) return -down > right ? 0 : down < right ? 1 : 2;
  if (right < 0) return down > -right ? 3 : -down < -right ? 4 : 5;
  return down < 0 ? 0 : 3;
}
inline int one_of_six_flat(std::int64_t right, std::int64_t down) {
  if (right > 0) return -down > right ? 0 : down < 0 ? 1 : down < right ? 2 : 3;
  if (right < 0) return down > -right ? 3 : down > 0 ? 4 : -down < -right ? 5 : 0;
  return down < 0 ? 0 : 3;
}

inline Side side_of(Shape shape, WholePoint d) {
  switch (shape) {
    case Shape::square: return Side(one_of_eight(d.x, d.y, false));
    case Shape::triangle: return Side(one_of_eight(d.x, d.y, true));
    case Shape::hex_pointy: return Side(one_of_six_pointy(d.x, d.y));
    case Shape::hex_flat: return Side(one_of_six_flat(d.y, d.x));
  }
  return Side{};
}

}  // namespace saunter::inline v0_2::detail
