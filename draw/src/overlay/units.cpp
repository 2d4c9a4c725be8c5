#include "saunter/draw/overlay/units.hpp"

#include <algorithm>

#include "../strokes.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;

void Units::number(Stage& stage) const {
  for (const Unit& unit : units_) {
    for (const Cell cell : unit.cells) (void)stage.claim(cell);
  }
}

void Units::paint(Stage& stage) const {
  for (const Unit& unit : units_) {
    for (const Cell cell : unit.cells) {
      stage.canvas().fill(stage.corners(cell), {unit_color});
      stage.canvas().outline(stage.corners(cell), {night}, std::max(1.0, stage.cell() / 14));
    }
    if (unit.cells.empty() || !stage.room_for_signs()) continue;
    Point middle = Point{};
    for (const Cell cell : unit.cells) middle += stage.centre(cell) / static_cast<double>(unit.cells.size());
    write_name(stage.canvas(), middle, unit.name, {unit_color, 0.9});
  }
}

void Units::show(Screen& screen) const {
  for (const Unit& unit : units_) {
    for (const Cell cell : unit.cells) screen.mark(cell, U'U', unit_color);
  }
}

}  // namespace saunter::inline v0_2::draw
