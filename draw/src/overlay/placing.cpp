#include "saunter/draw/overlay/placing.hpp"

#include <algorithm>

#include "../strokes.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;

void Spots::paint(Stage& stage) const {
  for (const Cell cell : cells_) {
    stage.canvas().disc(stage.centre(cell), std::max(1.5, stage.cell() * 0.16), {start_color, 0.85});
  }
}

void Spots::explain(Legend& legend) const {
  if (cells_.empty()) return;
  legend.entry("fits with its anchor here", legend.shared() ? "" : std::to_string(cells_.size()),
               [](Canvas& canvas, Point at) {
                 canvas.disc(at, 5, {start_color, 0.85});
               });
}

void Spots::show(Screen& screen) const {
  for (const Cell cell : cells_) screen.mark(cell, U'+', start_color);
}

void Ghost::paint(Stage& stage) const {
  for (const Cell cell : cells_) {
    stage.canvas().fill(stage.corners(cell), {unit_color, 0.35});
    stage.canvas().outline(stage.corners(cell), {unit_color}, std::max(2.0, stage.cell() / 9));
  }
}

void Ghost::explain(Legend& legend) const {
  if (!cells_.empty()) legend.entry("what it would cover", "", framed({unit_color, 0.35}, unit_color));
}

void Ghost::show(Screen& screen) const {
  for (const Cell cell : cells_) screen.mark(cell, U'U', unit_color);
}

void InRange::paint(Stage& stage) const {
  for (const Cell cell : cells_) {
    stage.canvas().disc(stage.centre(cell), std::max(1.5, stage.cell() * 0.14), {waypoint_color, 0.75});
  }
}

void InRange::explain(Legend& legend) const {
  if (cells_.empty()) return;
  legend.entry("can be acted on from there", "", [](Canvas& canvas, Point at) {
    canvas.disc(at, 4, {waypoint_color, 0.75});
  });
}

}  // namespace saunter::inline v0_2::draw
