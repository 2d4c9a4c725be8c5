/// @file
/// Colours of our pictures that do not come from the scenario, for whoever shows the same things elsewhere.
///
/// Units: 8 bits a channel; shares and opacity 0 to 1, shares beyond them are cut.
/// Errors: none.
/// Cost: O(1), no allocation.
/// Threads: any number, nothing is shared.
#pragma once

#include <algorithm>
#include <array>
#include <cmath>
#include <span>

#include "saunter/grid/visible.hpp"
#include "saunter/ground/map.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

inline constexpr Rgb paper = {250, 247, 240};
inline constexpr Rgb night = {16, 32, 43};
inline constexpr Rgb soft_ink = {92, 104, 112};
inline constexpr Rgb white = {255, 255, 255};
inline constexpr Rgb start_color = {31, 138, 91};
inline constexpr Rgb goal_color = {201, 42, 84};
inline constexpr Rgb waypoint_color = {92, 58, 171};
inline constexpr Rgb unit_color = {116, 72, 40};

/// Between two colours.
inline Rgb mix(Rgb a, Rgb b, double share_of_b) {
  const auto channel = [&](std::uint8_t x, std::uint8_t y) {
    return static_cast<std::uint8_t>(std::lround(x + (y - x) * share_of_b));
  };
  return {channel(a.red, b.red), channel(a.green, b.green), channel(a.blue, b.blue)};
}

/// The colour at `share` of a ramp of evenly spaced stops. @pre at least two stops
inline Rgb on_ramp(std::span<const Rgb> stops, double share) {
  const double place = std::clamp(share, 0.0, 1.0) * static_cast<double>(stops.size() - 1);
  const auto below = std::min(static_cast<std::size_t>(place), stops.size() - 2);
  return mix(stops[below], stops[below + 1], place - static_cast<double>(below));
}

inline constexpr std::array<Rgb, 4> visit_ramp = {{{255, 246, 196}, {250, 178, 92}, {214, 84, 110}, {98, 40, 128}}};
inline constexpr std::array<Rgb, 4> reach_ramp = {{{255, 250, 214}, {156, 212, 160}, {58, 142, 158}, {44, 62, 122}}};
/// Begins darker: a cell walked once must show on sand.
inline constexpr std::array<Rgb, 4> trail_ramp = {{{190, 224, 186}, {112, 184, 168}, {52, 128, 158}, {44, 62, 122}}};
inline constexpr std::array<Rgb, 3> cost_ramp = {{{236, 244, 238}, {112, 170, 152}, {30, 74, 84}}};
inline constexpr std::array<Rgb, 4> height_ramp = {{{38, 70, 110}, {126, 176, 178}, {232, 216, 168}, {150, 94, 58}}};

/// Danger: one colour, deeper with the level.
inline constexpr std::array<Rgb, 3> danger_ramp = {{{253, 226, 214}, {226, 92, 70}, {112, 12, 40}}};
/// By roots, so that faint danger can be told from none.
inline Rgb danger_color_at(int level, int highest) {
  return on_ramp(danger_ramp, highest > 1 ? std::sqrt(double(level - 1) / (highest - 1)) : 0.5);
}
inline constexpr Rgb danger_color = {206, 40, 40};
inline constexpr Rgb threat_color = {58, 20, 76};

/// Dark ink on light ground, light ink on dark.
inline Rgb readable_on(Rgb ground) {
  const double brightness = 0.299 * ground.red + 0.587 * ground.green + 0.114 * ground.blue;
  return brightness > 130 ? night : white;
}

inline constexpr double region_opacity = 0.78;
/// A colour for the n-th region: hues a golden angle apart, so that neighbours in number differ, at two depths.
inline Rgb region_color(std::uint32_t n) {
  const double hue = std::fmod(n * 0.61803398875 + 0.08, 1.0) * 6;
  const double light = n % 2 == 0 ? 0.62 : 0.82;
  const auto channel = [&](double shift) {
    const double place = std::fmod(hue + shift, 6.0);
    const double wave = std::clamp(std::abs(place - 3) - 1, 0.0, 1.0);
    return static_cast<std::uint8_t>(std::lround(255 * light * (0.45 + 0.55 * wave)));
  };
  return {channel(0), channel(4), channel(2)};
}

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
