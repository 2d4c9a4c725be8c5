/// @file
/// The map part of a picture: fitting it into its room, and painting it.
#pragma once

#include "box.hpp"
#include "saunter/draw/picture.hpp"

namespace saunter::inline v0_2::draw::detail {

/// The cell size at which the map fits a room, in whole pixels unless it is very small.
[[nodiscard]] double cell_within(const Picture& picture, double width, double height, double most);
/// A frame with cells of this size whose map has its upper left corner here.
[[nodiscard]] Frame frame_at(const Picture& picture, double cell, Point corner);
void paint_map(const Picture& picture, const Layout& layout, Canvas& canvas);
void explain(const Picture& picture, Legend& legend);

/// How much larger than usual text and margins are.
[[nodiscard]] double scale_of(PixelSize size);
[[nodiscard]] bool drawable(const Picture& picture);

inline constexpr double largest_cell = 64;
inline constexpr double smallest_drawn_cell = 3;  // smaller cells are painted as pixels
inline constexpr double column = 240;             // of the legend
inline constexpr double gap = 24;

}  // namespace saunter::inline v0_2::draw::detail
