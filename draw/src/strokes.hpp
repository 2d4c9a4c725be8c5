/// @file
/// Small drawings that several overlays make.
#pragma once

#include <algorithm>
#include <string>
#include <vector>

#include "saunter/draw/palette.hpp"
#include "saunter/draw/overlay.hpp"

namespace saunter::inline v0_2::draw::detail {

/// How strongly what was found is laid over the ground.
inline constexpr double laid_over = 0.62;

/// The box of a legend's line.
inline CellPolygon box_about(Point at) {
  CellPolygon box;
  box.count = 4;
  box.points = {at + Point(-10, -7.5), at + Point(10, -7.5), at + Point(10, 7.5), at + Point(-10, 7.5)};
  return box;
}

/// A box of one colour with a frame of another.
inline Legend::Sample framed(Ink fill, Rgb frame) {
  return [fill, frame](Canvas& canvas, Point at) {
    canvas.fill(box_about(at), {paper});
    canvas.fill(box_about(at), fill);
    canvas.outline(box_about(at), {frame}, 2);
  };
}

/// A name on a plate, about a point.
inline void write_name(Canvas& canvas, Point middle, const std::string& name, Ink plate) {
  const double half = canvas.text_width(name, 11, true) / 2 + 3;
  const double high = 14 * canvas.text_scale();
  canvas.fill_rect(middle.x - half, middle.y - high / 2, 2 * half, high, plate);
  canvas.text(middle.x, middle.y + 4 * canvas.text_scale(), name, 11, {white}, Align::centre, true);
}

/// Text that is made smaller, and in the end shorter, until it fits.
inline void write_within(Canvas& canvas, Point at, std::string words, double size, Ink ink, double width,
                         bool bold = false) {
  while (size > 9 && canvas.text_width(words, size, bold) > width) size -= 0.5;
  if (canvas.text_width(words, size, bold) > width) {
    // The longest beginning, in whole code points, that leaves room for the dots.
    std::vector<std::size_t> ends = {0};
    for (std::size_t i = 1; i < words.size(); ++i) {
      if ((static_cast<unsigned char>(words[i]) & 0xC0U) != 0x80U) ends.push_back(i);
    }
    const auto shortened = [&](std::size_t end) { return words.substr(0, end) + "..."; };
    const auto first_too_long = std::partition_point(ends.begin() + 1, ends.end(), [&](std::size_t end) {
      return canvas.text_width(shortened(end), size, bold) <= width;
    });
    words = shortened(*(first_too_long - 1));
  }
  canvas.text(at.x, at.y, words, size, ink, Align::left, bold);
}

}  // namespace saunter::inline v0_2::draw::detail
