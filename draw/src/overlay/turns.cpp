#include "saunter/draw/overlay/turns.hpp"

#include <algorithm>
#include <array>

#include "../strokes.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;
namespace {

/// So far apart that a number in the cell stays readable.
void paint_bars(Canvas& canvas, Point middle, double high, double apart, double thick) {
  for (const double side : {-1.0, 1.0}) {
    const Point at = middle + Point(side * apart, 0);
    const std::array<Point, 2> bar = {at - Point(0, high), at + Point(0, high)};
    canvas.line(bar, {white}, thick * 1.8);
    canvas.line(bar, {goal_color}, thick);
  }
}

void paint_dots(Canvas& canvas, Point middle, double apart, double radius) {
  for (const double side : {-1.0, 0.0, 1.0}) {
    const Point at = middle + Point(side * apart, 0);
    canvas.disc(at, radius + 1, {white});
    canvas.disc(at, radius, {night});
  }
}

void paint_number(Canvas& canvas, Point centre, double radius, const std::string& number) {
  canvas.disc(centre, radius, {waypoint_color});
  canvas.ring(centre, radius, {white}, std::max(1.5, radius / 6));
  if (radius < 6) return;
  const double size = radius * 1.15 / canvas.text_scale();
  canvas.text(centre.x, centre.y + radius * 0.42, number, size, {white}, Align::centre, true);
}

}  // namespace

void Stops::paint(Stage& stage) const {
  const double high = std::clamp(stage.cell() * 0.24, 2.0, 12.0);
  for (const Cell cell : cells_) {
    if (stage.map().size().contains(cell)) {
      paint_bars(stage.canvas(), stage.centre(cell), high, high * 1.35, std::max(1.2, stage.cell() / 16));
    }
  }
}

void Stops::explain(Legend& legend) const {
  if (cells_.empty()) return;
  legend.entry("ends the move", "", [](Canvas& canvas, Point at) { paint_bars(canvas, at, 6, 6, 2); });
}

void Stops::show(Screen& screen) const {
  for (const Cell cell : cells_) screen.mark(cell, U'|', goal_color);
}

void PassedOver::paint(Stage& stage) const {
  for (const Cell cell : cells_) {
    if (!stage.map().size().contains(cell)) continue;
    paint_dots(stage.canvas(), stage.centre(cell), stage.cell() * 0.2, std::max(1.0, stage.cell() * 0.06));
  }
}

void PassedOver::explain(Legend& legend) const {
  if (cells_.empty()) return;
  legend.entry("passed over, not ended on", "", [](Canvas& canvas, Point at) { paint_dots(canvas, at, 6, 2); });
}

void PassedOver::show(Screen& screen) const {
  for (const Cell cell : cells_) screen.mark(cell, U':', night);
}

void StrikingCells::paint(Stage& stage) const {
  for (const Cell cell : cells_) {
    if (!stage.map().size().contains(cell)) continue;
    stage.canvas().outline(stage.corners(cell), {waypoint_color}, std::max(1.5, stage.cell() / 12));
  }
}

void StrikingCells::explain(Legend& legend) const {
  if (!cells_.empty()) legend.entry("strikes from here", "", framed({paper}, waypoint_color));
}

void TurnEnds::paint(Stage& stage) const {
  const double radius = std::clamp(stage.cell() * 0.34, 4.0, 18.0);
  for (std::size_t turn = 0; turn < cells_.size(); ++turn) {
    if (!stage.map().size().contains(cells_[turn])) continue;
    paint_number(stage.canvas(), stage.centre(cells_[turn]), radius, std::to_string(turn + 1));
  }
}

void TurnEnds::explain(Legend& legend) const {
  if (cells_.empty()) return;
  legend.entry("a turn ends here", "", [](Canvas& canvas, Point at) { paint_number(canvas, at, 8, "1"); });
}

void TurnEnds::show(Screen& screen) const {
  for (std::size_t turn = 0; turn < cells_.size(); ++turn) {
    screen.mark(cells_[turn], turn < 9 ? U'1' + static_cast<char32_t>(turn) : U'*', waypoint_color);
  }
}

}  // namespace saunter::inline v0_2::draw
