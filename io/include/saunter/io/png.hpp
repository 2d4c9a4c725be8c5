/// @file
/// PNG images as grids of numbers, untouched by gamma or colour profiles.
///
/// Units: pixels, channels of 8 or 16 bits.
/// Errors: what is no PNG, or one of another kind, is an Error.
/// Cost: O(pixels), the grid is allocated.
/// Threads: any number, nothing is shared.
#pragma once

#include <string>
#include <string_view>

#include "saunter/grid/grid.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/ground/map.hpp"
#include "saunter/io/result.hpp"

namespace saunter::inline v0_2 {
namespace io SAUNTER_VISIBLE {

/// A PNG brought to 8-bit RGB. Alpha other than fully opaque is an error.
/// @errors not a PNG, broken, larger than a map may be; found before memory for the pixels is taken where possible
[[nodiscard]] Result<Grid<Rgb>> decode_rgb_png(std::string_view bytes, const std::string& name);

/// A grey PNG of 1 to 16 bits a pixel as the numbers it stores.
struct GreyImage {
  Grid<std::uint16_t> pixels;
  int bits = 8;  ///< 8 (also for fewer) or 16
};
[[nodiscard]] Result<GreyImage> decode_grey_png(std::string_view bytes, const std::string& name);

/// "#e6d5a8".
[[nodiscard]] std::string hex_color(Rgb color);

[[nodiscard]] std::string encode_png(const Grid<Rgb>& pixels);
/// @param bits  4, 8 or 16; every value must fit
[[nodiscard]] std::string encode_grey_png(const Grid<std::uint16_t>& pixels, int bits);

}  // namespace io SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
