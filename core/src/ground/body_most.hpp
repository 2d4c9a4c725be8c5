/// @file
/// The most that a mover's body lies on.
#pragma once

#include <algorithm>

#include "sweep.hpp"

namespace saunter::inline v0::detail {

/// For each place the largest value of the cells that a mover of a size covers there; off the map counts as T{}.
/// O(cells x log size). @pre size > 1, and not a triangle tiling
template <typename T>
Grid<T> most_under_body(Tiling tiling, const Grid<T>& values, int size) {
  const Size board = values.size();
  // A body that leads further than the map is as good as one that ends with it.
  size = std::min(size, 2 * std::max(board.cols, board.rows) + 1);
  const Body body = Body::of(tiling, size);
  Patch<T> most(grown_freely(Rect::whole(board), size), T{});
  for (std::int32_t row = 0; row < board.rows; ++row) {
    const auto from = values.row(row);
    std::copy(from.begin(), from.end(), most.at({0, row}));
  }
  sweep(most, tiling, body, T{}, [](T a, T b) { return std::max(a, b); });
  Grid<T> largest(board);
  for_each_run(tiling, Rect::whole(board), [&](Run run) {
    const Offset to_base = leap(tiling, run.kind, body.base_direction, body.base_steps);
    const T* const from = most.at({to_base.cols, run.row + to_base.rows});
    T* const to = largest.row(run.row).data();
    for (std::int32_t col = run.first; col < run.last; col += run.apart) to[col] = from[col];
  });
  return largest;
}

}  // namespace saunter::inline v0::detail
