/// @file
/// Frames and positions for programs that use Eigen. Only who includes this pays for Eigen's headers.
///
/// Units: those of saunter/grid/frame.hpp.
/// Errors: none.
/// Cost: O(1), no allocation.
/// Threads: any number, nothing is shared.
#pragma once

#include <Eigen/Geometry>

#include "saunter/grid/point.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Eigen's vector for a position. The other way round nothing is needed: a Point takes any vector.
[[nodiscard]] inline Eigen::Vector2d to_eigen(Point point) { return {point.x, point.y}; }

/// Eigen's transform, and ours for it: `Frame(tiling, from_eigen(transform))`.
[[nodiscard]] inline Eigen::Affine2d to_eigen(const Affine& map) {
  Eigen::Affine2d transform;
  transform.linear() << map.xx, map.xy, map.yx, map.yy;
  transform.translation() = to_eigen(map.shift);
  transform.makeAffine();
  return transform;
}
[[nodiscard]] inline Affine from_eigen(const Eigen::Affine2d& transform) {
  const auto& m = transform.matrix();
  return {m(0, 0), m(0, 1), m(1, 0), m(1, 1), {m(0, 2), m(1, 2)}};
}

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
