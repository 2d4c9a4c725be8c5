/// @file
/// Turning: which exit of a cell lies on which side of the way back.
#pragma once

#include <bit>

#include "saunter/grid/tiling.hpp"

namespace saunter::inline v0_2::detail {

/// The first legal exit, tried from the way back round by the right (or the left), the way back last.
/// Exits are numbered clockwise, so the right side of the way back is the number before it.
/// @pre some exit is legal; 0 <= back < edges
inline int exit_by_hand(unsigned legal, int edges, int back, bool right) {
  const auto count = static_cast<unsigned>(edges);
  const auto from = static_cast<unsigned>(back);
  const unsigned twice = legal | legal << count;
  const unsigned mask = (1U << count) - 1;
  const unsigned exit = right ? from + static_cast<unsigned>(std::bit_width(twice >> from & mask)) - 1
                              : from + 1 + static_cast<unsigned>(std::countr_zero(twice >> (from + 1) & mask));
  return static_cast<int>(exit >= count ? exit - count : exit);
}

/// The way back that a walker with a heading but no step behind it would have. On triangles no exit lies behind it: the
/// two beside it come first and last.
inline int back_of_heading(int edges, int heading, bool right) {
  const int back = edges == 3 ? heading + (right ? 2 : 1) : heading + edges / 2;
  return back >= edges ? back - edges : back;
}

/// The first legal exit from one on, turning to the right (or left). @pre some exit is legal
inline int exit_by_turning(unsigned legal, int edges, int straight, bool right) {
  return exit_by_hand(legal, edges, (straight + (right ? edges - 1 : 1)) % edges, !right);
}

}  // namespace saunter::inline v0_2::detail
