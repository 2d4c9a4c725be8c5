#include "saunter/draw/overlay/marks.hpp"

#include <algorithm>
#include <array>

#include "../strokes.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;
namespace {

struct LetterLook {
  char letter;
  Rgb color;
  const char* meaning;
};
LetterLook look_of(Ends::Kind kind) {
  if (kind == Ends::Kind::start) return {'S', start_color, "start"};
  if (kind == Ends::Kind::goal) return {'G', goal_color, "goal"};
  return {'K', waypoint_color, "to be kept open"};
}

void paint_letter(Canvas& canvas, Point centre, double radius, const LetterLook& look) {
  canvas.disc(centre, radius, {look.color});
  canvas.ring(centre, radius, {white}, std::max(1.5, radius / 6));
  if (radius < 6) return;
  const double size = radius * 1.25 / canvas.text_scale();  // as large as its disc, whatever other text is
  canvas.text(centre.x, centre.y + radius * 0.45, {&look.letter, 1}, size, {white}, Align::centre, true);
}

void paint_cross(Canvas& canvas, Point centre, double arm, Rgb color) {
  for (const double side : {-1.0, 1.0}) {
    const Point along{arm, arm * side};
    const std::array<Point, 2> stroke = {centre - along, centre + along};
    canvas.line(stroke, {white}, std::max(3.0, arm * 0.5));
    canvas.line(stroke, {color}, std::max(1.5, arm * 0.3));
  }
}

void paint_cross_on(const Stage& stage, Cell cell, Rgb color) {
  if (!stage.map().size().contains(cell)) return;
  const double arm = std::clamp(std::max(stage.cell(), 4.0) * 0.25, 2.0, 12.0);
  paint_cross(stage.canvas(), stage.centre(cell), arm, color);
}

Legend::Sample cross_of(Rgb color) {
  return [color](Canvas& canvas, Point at) { paint_cross(canvas, at, 5, color); };
}

void paint_ring(Canvas& canvas, Point centre, double radius) {
  canvas.ring(centre, radius, {night}, 4);
  canvas.ring(centre, radius, {white}, 2);
}

double radius_on(const Stage& stage) { return std::clamp(stage.cell() * 0.36, 4.0, 20.0); }

}  // namespace

void Ends::paint(Stage& stage) const {
  for (const Cell cell : cells_) {
    if (!stage.map().size().contains(cell)) continue;
    paint_letter(stage.canvas(), stage.centre(cell), radius_on(stage), look_of(kind_));
  }
}

void Ends::explain(Legend& legend) const {
  if (cells_.empty()) return;
  const LetterLook look = look_of(kind_);
  legend.entry(look.meaning, cells_.size() > 1 && !legend.shared() ? std::to_string(cells_.size()) : "",
               [look](Canvas& canvas, Point at) { paint_letter(canvas, at, 8, look); });
}

void Ends::show(Screen& screen) const {
  const LetterLook look = look_of(kind_);
  for (const Cell cell : cells_) screen.mark(cell, static_cast<char32_t>(look.letter), look.color);
}

void Avoided::paint(Stage& stage) const {
  for (const Cell cell : cells_) paint_cross_on(stage, cell, night);
}

void Avoided::explain(Legend& legend) const {
  if (!cells_.empty()) legend.entry("kept out of", std::to_string(cells_.size()), cross_of(night));
}

void Avoided::show(Screen& screen) const {
  for (const Cell cell : cells_) screen.mark(cell, U'x', night);
}

void Ring::paint(Stage& stage) const {
  if (stage.map().size().contains(cell_)) paint_ring(stage.canvas(), stage.centre(cell_), radius_on(stage));
}

void Ring::explain(Legend& legend) const {
  legend.entry(why_, "", [](Canvas& canvas, Point at) { paint_ring(canvas, at, 6); });
}

void Problems::paint(Stage& stage) const {
  for (const Problem& problem : problems_) paint_cross_on(stage, problem.at, goal_color);
}

void Problems::explain(Legend& legend) const {
  constexpr std::size_t most_listed = 12;
  const std::size_t listed = problems_.size() > most_listed + 1 ? most_listed : problems_.size();
  for (std::size_t i = 0; i < listed; ++i) legend.entry(problems_[i].what, "", cross_of(goal_color));
  if (listed < problems_.size()) legend.note("and " + std::to_string(problems_.size() - listed) + " more problems");
}

void Problems::show(Screen& screen) const {
  for (const Problem& problem : problems_) screen.mark(problem.at, U'!', goal_color);
}

}  // namespace saunter::inline v0_2::draw
