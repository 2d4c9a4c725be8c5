/// @file
/// The room things take on a picture.
#pragma once

#include <algorithm>
#include <limits>

#include "saunter/draw/overlay.hpp"

namespace saunter::inline v0_2::draw::detail {

struct Box {
  double left = std::numeric_limits<double>::infinity();
  double top = left;
  double right = -left;
  double bottom = -left;

  void add(const CellPolygon& polygon) {
    for (const Point p : polygon) {
      left = std::min(left, p.x);
      right = std::max(right, p.x);
      top = std::min(top, p.y);
      bottom = std::max(bottom, p.y);
    }
  }
  [[nodiscard]] double width() const { return right - left; }
  [[nodiscard]] double height() const { return bottom - top; }
};

/// The room a map takes in a frame. Its outermost corners belong to the cells of the first and last two lines.
inline Box extent(const Frame& frame, Size size) {
  Box box;
  for (const std::int32_t row : {0, 1, size.rows - 2, size.rows - 1}) {
    for (const std::int32_t col : {0, 1, size.cols - 2, size.cols - 1}) {
      if (size.contains({col, row})) box.add(frame.corners({col, row}));
    }
  }
  return box;
}

}  // namespace saunter::inline v0_2::draw::detail
