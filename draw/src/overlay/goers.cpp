#include "saunter/draw/overlay/goers.hpp"

#include <algorithm>
#include <array>

#include "../strokes.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;
namespace {

/// Told apart by depth as well as by hue; white numbers can be read on all.
constexpr std::array<Rgb, 8> goer_colors = {{{32, 58, 112},
                                             {150, 48, 28},
                                             {92, 44, 120},
                                             {20, 96, 92},
                                             {120, 84, 8},
                                             {128, 24, 84},
                                             {48, 84, 28},
                                             {64, 64, 72}}};
constexpr std::size_t most_named = 16;

Rgb color_of(std::size_t number) { return goer_colors[number % goer_colors.size()]; }

void paint_number(Canvas& canvas, Point centre, double radius, std::size_t number) {
  canvas.disc(centre, radius, {color_of(number)});
  canvas.ring(centre, radius, {white}, std::max(1.5, radius / 6));
  if (radius < 6) return;
  const std::string text = std::to_string(number + 1);
  const double size = radius * (text.size() > 1 ? 1.0 : 1.25) / canvas.text_scale();
  canvas.text(centre.x, centre.y + radius * 0.42, text, size, {white}, Align::centre, true);
}

}  // namespace

void Goers::paint(Stage& stage) const {
  const double cell = std::max(stage.cell(), 4.0);
  for (std::size_t i = 0; i < goers_.size(); ++i) {
    std::vector<Point> points;
    for (const Cell at : goers_[i].trail) {
      if (stage.map().size().contains(at)) points.push_back(stage.centre(at));
    }
    if (points.size() < 2) continue;
    stage.canvas().line(points, {white, 0.8}, std::clamp(cell * 0.22, 2.5, 6.0));
    stage.canvas().line(points, {color_of(i)}, std::clamp(cell * 0.12, 1.5, 3.5));
  }
  for (std::size_t i = 0; i < goers_.size(); ++i) {
    if (goers_[i].trail.empty() || !stage.map().size().contains(goers_[i].trail.back())) continue;
    paint_number(stage.canvas(), stage.centre(goers_[i].trail.back()), std::clamp(cell * 0.42, 6.5, 16.0), i);
  }
}

void Goers::explain(Legend& legend) const {
  const std::size_t listed = goers_.size() > most_named + 1 ? most_named : goers_.size();
  for (std::size_t i = 0; i < listed; ++i) {
    legend.entry(goers_[i].name, legend.shared() ? "" : goers_[i].state,
                 [i](Canvas& canvas, Point at) { paint_number(canvas, at, 8, i); });
  }
  if (listed < goers_.size()) legend.note("and " + std::to_string(goers_.size() - listed) + " more units");
}

void Goers::show(Screen& screen) const {
  for (std::size_t i = 0; i < goers_.size(); ++i) {
    if (goers_[i].trail.empty()) continue;
    screen.mark(goers_[i].trail.back(), i < 9 ? U'1' + static_cast<char32_t>(i) : U'+', color_of(i));
  }
}

}  // namespace saunter::inline v0_2::draw
