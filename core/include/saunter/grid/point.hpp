/// @file
/// Positions in the game's world, without asking for anybody's vectors.
///
/// Units: world units of the caller.
/// Errors: none: what is no number stays none.
/// Cost: O(1), no allocation.
/// Threads: any number, nothing is shared.
#pragma once

#include <cmath>
#include <concepts>

#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

struct Point;

/// A vector of an engine or a library: x and y as members or as functions.
template <typename V>
concept HasXAndY = !std::same_as<V, Point> && (
                                                  requires(const V& v) {
                                                    { v.x } -> std::convertible_to<double>;
                                                    { v.y } -> std::convertible_to<double>;
                                                  } ||
                                                  requires(const V& v) {
                                                    { v.x() } -> std::convertible_to<double>;
                                                    { v.y() } -> std::convertible_to<double>;
                                                  });

/// A position, or what leads from one to another; world units. Any vector with an x and a y is taken for one.
/// saunter/grid/eigen.hpp gives Eigen's for it.
struct Point {
  double x = 0;
  double y = 0;

  constexpr Point() = default;
  constexpr Point(double across, double down) : x(across), y(down) {}
  template <HasXAndY V>
  constexpr Point(const V& v) {  // NOLINT(google-explicit-constructor): it is one
    if constexpr (requires { v.x(); }) {
      x = v.x(), y = v.y();
    } else {
      x = v.x, y = v.y;
    }
  }

  friend constexpr bool operator==(Point, Point) = default;
  friend constexpr Point operator+(Point a, Point b) { return {a.x + b.x, a.y + b.y}; }
  friend constexpr Point operator-(Point a, Point b) { return {a.x - b.x, a.y - b.y}; }
  friend constexpr Point operator*(Point a, double by) { return {a.x * by, a.y * by}; }
  friend constexpr Point operator*(double by, Point a) { return a * by; }
  friend constexpr Point operator/(Point a, double by) { return {a.x / by, a.y / by}; }
  constexpr Point& operator+=(Point other) { return *this = *this + other; }
};

[[nodiscard]] constexpr double dot(Point a, Point b) { return a.x * b.x + a.y * b.y; }
[[nodiscard]] inline double length(Point p) { return std::sqrt(dot(p, p)); }

/// A map of the plane that keeps straight lines straight: scales, mirrors, turns, shears and shifts.
struct Affine {
  double xx = 1, xy = 0, yx = 0, yy = 1;  ///< x' = xx x + xy y + shift.x, y' = yx x + yy y + shift.y
  Point shift = {};

  [[nodiscard]] constexpr Point operator()(Point p) const {
    return {xx * p.x + xy * p.y + shift.x, yx * p.x + yy * p.y + shift.y};
  }
  friend constexpr bool operator==(const Affine&, const Affine&) = default;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
