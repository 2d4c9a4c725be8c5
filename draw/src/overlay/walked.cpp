#include "saunter/draw/overlay/walked.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "../strokes.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;
namespace {

constexpr double walked_opacity = 0.72;
constexpr Rgb walker_color = {250, 250, 255};

/// By logarithms: twice as often is as much darker, however often.
Rgb walked_color(std::uint32_t count, std::uint32_t most) {
  return on_ramp(trail_ramp, most > 1 ? std::log(double(count)) / std::log(double(most)) : 0.4);
}

}  // namespace

template <typename F>
void Walked::for_each_walked(const Map& map, F&& f) const {
  if (counts_.size() != map.size()) return;
  for (const Cell cell : map.size().cells()) {
    if (counts_[cell] != 0) f(cell, counts_[cell]);
  }
}

std::uint32_t Walked::most() const {
  const auto counts = counts_.values();
  return counts.empty() ? 0 : *std::max_element(counts.begin(), counts.end());
}

void Walked::shade(Stage& stage) const {
  const std::uint32_t most = this->most();
  for_each_walked(stage.map(), [&](Cell cell, std::uint32_t count) {
    stage.colors()[cell] = mix(stage.color(cell), walked_color(count, most), walked_opacity);
  });
}

void Walked::number(Stage& stage) const {
  if (!stage.room_for_number()) return;
  for_each_walked(stage.map(), [&](Cell cell, std::uint32_t count) {
    if (count < 2 || !stage.claim(cell)) return;
    stage.write(cell, std::to_string(count), std::clamp(stage.cell() * 0.22, 8.0, 11.0),
                readable_on(stage.color(cell)), {-0.26, -0.26});
  });
}

void Walked::paint(Stage& stage) const {
  if (last_stretch_.size() < 2) return;
  std::vector<Point> points;
  points.reserve(last_stretch_.size());
  for (const Cell cell : last_stretch_) points.push_back(stage.centre(cell));
  const double cell = std::max(stage.cell(), 4.0);
  stage.canvas().line(points, {night}, std::clamp(cell * 0.2, 3.0, 7.0));
  stage.canvas().line(points, {walker_color}, std::clamp(cell * 0.09, 1.5, 3.0));
  stage.canvas().disc(points.back(), std::clamp(cell * 0.22, 4.0, 9.0), {night});
  stage.canvas().disc(points.back(), std::clamp(cell * 0.12, 2.0, 5.0), {walker_color});
}

void Walked::explain(Legend& legend) const {
  const std::uint32_t most = this->most();
  if (most == 0) return;
  legend.ramp("how often a cell was walked", trail_ramp, "once",
              legend.shared() ? "most often" : std::to_string(most) + (most == 1 ? " time" : " times"));
  if (last_stretch_.size() < 2) return;
  legend.entry("its last steps, and where it is", legend.shared() ? "" : std::to_string(last_stretch_.size() - 1),
               [](Canvas& canvas, Point at) {
                 const std::array<Point, 2> stroke = {at - Point(8, 0), at + Point(6, 0)};
                 canvas.line(stroke, {night}, 6);
                 canvas.line(stroke, {walker_color}, 2);
                 canvas.disc(stroke[1], 4, {night});
                 canvas.disc(stroke[1], 2, {walker_color});
               });
}

void Walked::show(Screen& screen) const {
  const std::uint32_t most = this->most();
  for_each_walked(screen.map(), [&](Cell cell, std::uint32_t count) {
    screen.shade(cell, walked_color(count, most), walked_opacity, true);
    screen.at(cell).glyph = count < 10 ? U'0' + count : U'+';
  });
  for (const Cell cell : last_stretch_) screen.mark(cell, U'*', night);
  if (!last_stretch_.empty()) screen.mark(last_stretch_.back(), U'@', night);
}

}  // namespace saunter::inline v0_2::draw
