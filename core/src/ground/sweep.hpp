/// @file
/// The largest, or the sum of bits, over every cell's body at once: bodies as runs along axes, swept in doubling
/// strides.
#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <vector>

#include "saunter/grid/tiling.hpp"

namespace saunter::inline v0_2::detail {

/// Values for a block of cells that may reach beyond the map.
template <typename T>
class Patch {
 public:
  Patch(Rect rect, T fill)
      : rect_(rect),
        width_(rect.right - rect.left),
        values_(static_cast<std::size_t>(width_) * static_cast<std::size_t>(rect.bottom - rect.top), fill) {}
  [[nodiscard]] const Rect& rect() const { return rect_; }
  /// Cells from one row to the next.
  [[nodiscard]] std::ptrdiff_t stride() const { return width_; }
  /// Where a cell's value stands; the cell may be any of the rect.
  [[nodiscard]] T* at(Cell cell) { return values_.data() + place(cell); }
  [[nodiscard]] const T* at(Cell cell) const { return values_.data() + place(cell); }

 private:
  [[nodiscard]] std::ptrdiff_t place(Cell cell) const {
    return std::ptrdiff_t{cell.row - rect_.top} * width_ + (cell.col - rect_.left);
  }
  Rect rect_;
  std::int32_t width_;
  std::vector<T> values_;
};

/// The cells of one kind in one row: every neighbour lies at the same offset from each of them.
struct Run {
  unsigned kind = 0;
  std::int32_t row = 0;
  std::int32_t first = 0;  // first column
  std::int32_t last = 0;   // one past the last column
  std::int32_t apart = 1;  // 2 where kinds alternate along the row
};

/// Calls f(Run) for all cells of a block, row by row, kind 0 before kind 1.
template <typename F>
void for_each_run(Tiling tiling, Rect rect, F&& f) {
  const bool alternating = tiling.shape() == Shape::hex_flat || tiling.shape() == Shape::triangle;
  for (std::int32_t row = rect.top; row < rect.bottom; ++row) {
    const auto kind = static_cast<unsigned>(tiling.kind({rect.left, row}));
    if (!alternating) {
      f(Run{kind, row, rect.left, rect.right, 1});
      continue;
    }
    f(Run{0, row, rect.left + static_cast<std::int32_t>(kind), rect.right, 2});
    f(Run{1, row, rect.left + 1 - static_cast<std::int32_t>(kind), rect.right, 2});
  }
}

template <typename F>
void for_each_cell(Rect rect, F&& f) {
  for (std::int32_t row = rect.top; row < rect.bottom; ++row) {
    for (std::int32_t col = rect.left; col < rect.right; ++col) f(Cell{col, row});
  }
}

inline Rect grown_freely(Rect rect, std::int32_t by) {
  return {rect.left - by, rect.top - by, rect.right + by, rect.bottom + by};
}

/// The cells a mover covers, as a sum of straight runs: from the cell at `base_steps` steps in direction
/// `base_direction`, `length` further steps along each axis. Such a body is swept axis by axis, in doubling strides,
/// for all cells at once.
struct Body {
  Direction base_direction{};
  std::int32_t base_steps = 0;
  std::array<Direction, 3> axes = {};
  int axis_count = 0;
  std::int32_t length = 0;

  static Body of(Tiling tiling, int size) {
    constexpr Direction square_east{1};
    constexpr Direction square_south{2};
    if (tiling.shape() == Shape::square) {
      return {.axes = {square_east, square_south, Direction{0}}, .axis_count = 2, .length = size - 1};
    }
    // A hexagon of radius r is three runs of r steps, 60 degrees apart, begun r steps against the middle one.
    const Direction first(tiling.shape() == Shape::hex_pointy ? 1 : 2);  // east or south-east, then clockwise
    return {.base_direction = Direction((first + 1 + 3) % 6),
            .base_steps = size - 1,
            .axes = {first, Direction(first + 1), Direction(first + 2)},
            .axis_count = 3,
            .length = size - 1};
  }
};

/// The offset of `steps` steps in one direction from a cell of a kind.
inline Offset leap(Tiling tiling, unsigned kind, Direction direction, std::int32_t steps) {
  if (tiling.shape() == Shape::square) {
    const Offset o = tiling.neighbourhood().offset[0][static_cast<unsigned>(direction)];
    return {o.cols * steps, o.rows * steps};
  }
  Cell from{0, 0};
  if (static_cast<unsigned>(tiling.kind(from)) != kind) {
    from = tiling.shape() == Shape::hex_pointy ? Cell{0, 1} : Cell{1, 0};
  }
  const Axial a = tiling.to_axial(from);
  const Axial b = tiling.to_axial(tiling.neighbour(from, direction));
  return tiling.from_axial({a.q + (b.q - a.q) * steps, a.r + (b.r - a.r) * steps}) - from;
}

/// Replaces each value by op(value, the one `steps` further along an axis); cells beyond the patch count as `outside`.
/// Works in place: an axis leads to later rows, or along the row to cells that are still as they were (see
/// for_each_run's order).
template <typename T, typename Op>
void combine_ahead(Patch<T>& patch, Tiling tiling, Direction axis, std::int32_t steps, T outside, Op op) {
  const std::array<Offset, 2> by = {leap(tiling, 0, axis, steps), leap(tiling, 1, axis, steps)};
  const Rect rect = patch.rect();
  for_each_run(tiling, rect, [&](Run run) {
    const Offset o = by[run.kind];
    T* const here = patch.at({rect.left, run.row});
    const bool row_inside = run.row + o.rows < rect.bottom;
    const T* const ahead = row_inside ? patch.at({rect.left, run.row + o.rows}) + o.cols : nullptr;
    std::int32_t col = run.first - rect.left;
    const std::int32_t end = run.last - rect.left;
    const std::int32_t from = row_inside ? std::max(0, -o.cols) : end;
    const std::int32_t to = row_inside ? std::min(end, end - o.cols) : end;
    for (; col < end && col < from; col += run.apart) here[col] = op(here[col], outside);
    if (run.apart == 1) {
      for (; col < to; ++col) here[col] = op(here[col], ahead[col]);
    } else {
      for (; col < to; col += 2) here[col] = op(here[col], ahead[col]);
    }
    for (; col < end; col += run.apart) here[col] = op(here[col], outside);
  });
}

/// Replaces each value by op over the run of `length` + 1 cells along each axis of the body; the axis `shorter` (if
/// any) is one step shorter. The result for the mover's cell then stands at its base.
template <typename T, typename Op>
void sweep(Patch<T>& patch, Tiling tiling, const Body& body, T outside, Op op, int shorter = -1) {
  for (int axis = 0; axis < body.axis_count; ++axis) {
    const std::int32_t cells = body.length + (axis == shorter ? 0 : 1);
    for (std::int32_t done = 1; done < cells;) {
      const std::int32_t step = std::min(done, cells - done);
      combine_ahead(patch, tiling, body.axes[static_cast<unsigned>(axis)], step, outside, op);
      done += step;
    }
  }
}

}  // namespace saunter::inline v0_2::detail
