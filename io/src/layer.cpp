#include "saunter/io/layer.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "saunter/ground/cost.hpp"
#include "saunter/io/png.hpp"

namespace saunter::inline v0_2::io {
namespace {

struct Span {
  std::int64_t least = 0;
  std::int64_t most = 0;
};

Span span_of(const Layer& layer) {
  Span span{std::numeric_limits<std::int64_t>::max(), Layer::none};
  for (const std::int64_t value : layer.values.values()) {
    if (value == Layer::none) continue;
    span.least = std::min(span.least, value);
    span.most = std::max(span.most, value);
  }
  return span.most == Layer::none ? Span{} : span;
}

/// All cells as text, with what stands between cells and rows.
std::string join(const Layer& layer, const char* missing, const char* row_begin, const char* row_end,
                 const char* between_rows) {
  std::string text;
  for (std::int32_t row = 0; row < layer.values.size().rows; ++row) {
    text += row == 0 ? row_begin : between_rows + std::string(row_begin);
    bool first = true;
    for (const std::int64_t value : layer.values.row(row)) {
      if (!first) text += ',';
      first = false;
      if (value == Layer::none) {
        text += missing;
      } else {
        text += layer.hundredths ? to_decimal(value) : std::to_string(value);
      }
    }
    text += row_end;
  }
  return text;
}

}  // namespace

std::string to_csv(const Layer& layer) { return join(layer, "-", "", "\n", ""); }

std::string to_json(const Layer& layer) {
  const Size size = layer.values.size();
  return "{\"size\":[" + std::to_string(size.cols) + "," + std::to_string(size.rows) + "],\"rows\":[" +
         join(layer, "null", "[", "]", ",") + "]}\n";
}

Result<std::string> to_grey_png(const Layer& layer) {
  const Span span = span_of(layer);
  constexpr std::int64_t most_apart = 65'534;
  if (span.most - span.least > most_apart) {
    return Error{"grey PNG", 0, 0, "values from " + std::to_string(span.least) + " to " + std::to_string(span.most),
                 "at most 65534 apart"};
  }
  Grid<std::uint16_t> pixels(layer.values.size());
  std::transform(layer.values.values().begin(), layer.values.values().end(), pixels.values().begin(),
                 [&](std::int64_t value) {
                   return static_cast<std::uint16_t>(value == Layer::none ? 0 : value - span.least + 1);
                 });
  return encode_grey_png(pixels, 16);
}

std::string to_ramp_png(const Layer& layer) {
  constexpr std::array<std::array<double, 3>, 3> stops = {{{236, 244, 238}, {112, 170, 152}, {30, 74, 84}}};
  constexpr Rgb missing = {160, 156, 150};
  const Span span = span_of(layer);
  Grid<Rgb> pixels(layer.values.size());
  std::transform(layer.values.values().begin(), layer.values.values().end(), pixels.values().begin(),
                 [&](std::int64_t value) {
                   if (value == Layer::none) return missing;
                   const double range = std::max(1.0, static_cast<double>(span.most - span.least));
                   const double place = 2 * static_cast<double>(value - span.least) / range;
                   const std::size_t below = place < 1 ? 0 : 1;
                   const auto channel = [&](std::size_t i) {
                     const double share = place - static_cast<double>(below);
                     return static_cast<std::uint8_t>(
                         std::lround(stops[below][i] + (stops[below + 1][i] - stops[below][i]) * share));
                   };
                   return Rgb{channel(0), channel(1), channel(2)};
                 });
  return encode_png(pixels);
}

}  // namespace saunter::inline v0_2::io
