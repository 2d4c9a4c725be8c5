#include "saunter/draw/overlay/danger.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "../strokes.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;
namespace {

constexpr double danger_opacity = 0.9;

Point bearing(double degrees) {
  const double angle = degrees * std::numbers::pi / 180;
  return {std::sin(angle), -std::cos(angle)};
}

void paint_wedge(Canvas& canvas, Point tip, Point towards, double high, double half, Ink ink) {
  const Point across(-towards.y, towards.x);
  const Point back = tip - towards * high;
  CellPolygon wedge;
  wedge.count = 3;
  wedge.points = {tip, back + across * half, back - across * half};
  canvas.fill(wedge, ink);
}

void paint_eye(Canvas& canvas, Point centre, double radius) {
  canvas.disc(centre, radius, {threat_color});
  canvas.disc(centre, radius * 0.55, {white});
  canvas.disc(centre, radius * 0.28, {threat_color});
  canvas.ring(centre, radius, {white}, 1);
}

/// The rim of a range, or of the part of it within the arc; dashed by leaving every other stretch out.
void paint_reach(const Stage& stage, const Threat& threat) {
  const Point centre = stage.centre(threat.at);
  const double reach = threat.range / 100.0 * stage.cell();
  const double middle = threat.facing ? threat.facing->in_degrees(stage.map().tiling()) : 0;
  const double arc = threat.facing ? threat.arc : 360;
  const double step = std::max(1.0, 360 / std::max(24.0, reach / 2));
  const auto dashes = static_cast<int>(std::ceil((arc - step / 2) / (2 * step)));
  for (int i = 0; i < dashes; ++i) {
    const double turn = middle - arc / 2 + 2 * step * i;
    if (!stage.frame().cell_at(centre + bearing(turn + step / 2) * reach, stage.map().size())) continue;
    const std::array<Point, 2> dash = {centre + bearing(turn) * reach, centre + bearing(turn + step) * reach};
    stage.canvas().line(dash, {threat_color, 0.8}, 1.5);
  }
  if (arc >= 360) return;
  for (const double rim : {middle - arc / 2, middle + arc / 2}) {
    const std::array<Point, 2> line = {centre, centre + bearing(rim) * reach};
    stage.canvas().line(line, {threat_color, 0.8}, 1.5);
  }
}

}  // namespace

void Danger::shade(Stage& stage) const {
  const int highest = field_.highest();
  for (const Cell cell : stage.map().size().cells()) {
    const int level = field_.level(cell);
    if (level > 0) stage.colors()[cell] = mix(stage.color(cell), danger_color_at(level, highest), danger_opacity);
  }
}

void Danger::number(Stage& stage) const {
  if (!stage.room_for_number()) return;
  const double size = std::clamp(stage.cell() * 0.36, 9.0, 15.0);
  for (const Cell cell : stage.map().size().cells()) {
    const int level = field_.level(cell);
    if (level > 0 && stage.claim(cell)) stage.write(cell, std::to_string(level), size, readable_on(stage.color(cell)));
  }
}

void Danger::paint(Stage& stage) const {
  if (!stage.room_for_signs() || stage.diamond()) return;
  const Tiling tiling = stage.map().tiling();
  const double inner = tiling.shape() == Shape::triangle ? 0.26 : 0.44;
  for (const Cell cell : stage.map().size().cells()) {
    const Side side = field_.most_dangerous_side(cell);
    if (side < 0) continue;
    const Point towards = bearing(degrees_of(tiling, side));
    paint_wedge(stage.canvas(), stage.centre(cell) + towards * stage.cell() * inner, towards, stage.cell() * 0.16,
                stage.cell() * 0.11, {readable_on(stage.color(cell)), 0.8});
  }
}

void Danger::explain(Legend& legend) const {
  const int highest = field_.highest();
  if (highest == 0) return;
  legend.ramp("threat level", danger_ramp, highest > 1 ? "1" : "", std::to_string(highest));
  if (legend.cell() < 9 || legend.diamond()) return;
  legend.entry("side that most comes from", "", [](Canvas& canvas, Point at) {
    paint_wedge(canvas, at - Point(0, 5), {0, -1}, 9, 5, {night, 0.8});
  });
}

/// Danger as digits, + beyond nine.
void Danger::show(Screen& screen) const {
  const int highest = field_.highest();
  for (const Cell cell : screen.map().size().cells()) {
    const int level = field_.level(cell);
    if (level == 0) continue;
    screen.at(cell).glyph = level > 9 ? U'+' : U'0' + static_cast<char32_t>(level);
    screen.shade(cell, danger_color_at(level, highest), laid_over, true);
  }
}

void Threats::paint(Stage& stage) const {
  const double radius = std::clamp(stage.cell() * 0.34, 3.0, 13.0);
  for (const NamedThreat& threat : threats_) {
    const Point centre = stage.centre(threat.threat.at);
    if (!stage.diamond()) paint_reach(stage, threat.threat);
    paint_eye(stage.canvas(), centre, radius);
    if (!stage.room_for_signs()) continue;
    write_name(stage.canvas(), centre + Point(0, radius + 10), threat.name, {threat_color, 0.85});
  }
}

void Threats::explain(Legend& legend) const {
  if (threats_.empty()) return;
  legend.entry("threat, and how far it reaches", std::to_string(threats_.size()),
               [](Canvas& canvas, Point at) { paint_eye(canvas, at, 7); });
}

void Threats::show(Screen& screen) const {
  for (const NamedThreat& threat : threats_) screen.mark(threat.threat.at, U'@', threat_color);
}

void Unseen::shade(Stage& stage) const {
  for (const Cell cell : stage.map().size().cells()) {
    if (!seen_.test(cell)) stage.colors()[cell] = mix(stage.color(cell), night, 0.55);
  }
}

void Unseen::explain(Legend& legend) const { legend.swatch("not seen", "", {mix(paper, night, 0.55)}); }

void Unseen::show(Screen& screen) const {
  for (const Cell cell : screen.map().size().cells()) {
    if (seen_.test(cell)) continue;
    Screen::Look& look = screen.at(cell);
    look.glyph = U'\u2591';
    look.ground = mix(look.ground, night, 0.55);
    look.ink = mix(look.ground, white, 0.25);
  }
}

}  // namespace saunter::inline v0_2::draw
