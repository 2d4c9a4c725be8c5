/// @file
/// One number per cell as CSV, PNG or JSON, for other programs and for looking at.
///
/// Units: values as they are, or hundredths written with decimals.
/// Errors: values that do not fit a form are refused with an Error.
/// Cost: O(cells), the bytes are allocated.
/// Threads: any number, nothing is shared.
#pragma once

#include <limits>
#include <string>

#include "saunter/grid/grid.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/io/result.hpp"

namespace saunter::inline v0_2 {
namespace io SAUNTER_VISIBLE {

/// A layer to be exported.
struct Layer {
  static constexpr std::int64_t none = std::numeric_limits<std::int64_t>::min();
  Grid<std::int64_t> values;  ///< `none` where there is no value
  bool hundredths = false;    ///< printed as decimals
};

/// One line a row, commas, no heading, `-` where there is no value.
[[nodiscard]] std::string to_csv(const Layer& layer);
/// `{"size":[cols,rows],"rows":[[...],...]}`, null where there is no value.
[[nodiscard]] std::string to_json(const Layer& layer);
/// 16-bit grey, a pixel a cell: value - least value + 1, 0 where there is none.
/// @errors values more than 65,534 apart
[[nodiscard]] Result<std::string> to_grey_png(const Layer& layer);
/// Colours from pale (least) to dark (most), a pixel a cell; grey where there is no value.
[[nodiscard]] std::string to_ramp_png(const Layer& layer);

}  // namespace io SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
