#include "saunter/draw/overlay/field.hpp"

#include <algorithm>
#include <array>

#include "../strokes.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;
namespace {

void paint_arrow(Canvas& canvas, Point from, Point along, Ink ink, double thick) {
  const Point across(-along.y, along.x);
  const std::array<Point, 2> shaft = {from - along, from + along};
  const std::array<Point, 3> head = {from + along * 0.25 + across * 0.55, from + along,
                                     from + along * 0.25 - across * 0.55};
  canvas.line(shaft, ink, thick);
  canvas.line(head, ink, thick);
}

}  // namespace

FieldCosts::FieldCosts(const Field& field) : field_(field) {
  for (const Cost cost : field.costs().values()) {
    if (cost != unreached) most_ = std::max(most_, cost);
  }
}

void FieldCosts::shade(Stage& stage) const {
  for (const Cell cell : stage.map().size().cells()) {
    if (!field_.reached(cell)) continue;
    const Rgb color = on_ramp(reach_ramp, most_ > 0 ? double(field_.cost(cell)) / most_ : 0);
    stage.colors()[cell] = mix(stage.color(cell), color, laid_over);
  }
}

void FieldCosts::number(Stage& stage) const {
  if (!stage.room_for_number()) return;
  const double small = std::clamp(stage.cell() * 0.2, 8.0, 11.0);
  for (const Cell cell : stage.map().size().cells()) {
    if (!field_.reached(cell) || !stage.claim(cell)) continue;
    stage.write(cell, to_decimal(field_.cost(cell)), small, readable_on(stage.color(cell)));
  }
}

void FieldCosts::explain(Legend& legend) const { legend.ramp("cost", reach_ramp, "0", to_decimal(most_)); }

void FieldCosts::show(Screen& screen) const {
  for (const Cell cell : screen.map().size().cells()) {
    if (!field_.reached(cell)) continue;
    screen.at(cell).glyph = U'+';
    screen.shade(cell, on_ramp(reach_ramp, most_ > 0 ? double(field_.cost(cell)) / most_ : 0), laid_over);
  }
}

void FieldArrows::number(Stage& stage) const {
  if (!stage.room_for_signs()) return;
  for (const Cell cell : stage.map().size().cells()) {
    if (field_.reached(cell)) (void)stage.claim(cell);
  }
}

void FieldArrows::paint(Stage& stage) const {
  if (!stage.room_for_signs()) return;
  for (const Cell cell : stage.map().size().cells()) {
    const auto next = field_.next(cell);
    if (!next) continue;
    const Point from = stage.centre(cell);
    const Point towards = stage.centre(*next) - from;
    paint_arrow(stage.canvas(), from, towards / length(towards) * stage.cell() * 0.32,
                {readable_on(stage.color(cell)), 0.85}, std::max(1.0, stage.cell() / 22));
  }
}

void FieldArrows::explain(Legend& legend) const {
  if (legend.cell() < 9) return;
  legend.entry("next step", "", [](Canvas& canvas, Point at) { paint_arrow(canvas, at, {7, 0}, {night, 0.85}, 1.5); });
}

}  // namespace saunter::inline v0_2::draw
