#include "saunter/draw/overlay/regions.hpp"

#include <algorithm>

#include "../strokes.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;
namespace {

void paint_lozenge(Canvas& canvas, Point centre, double arm) {
  CellPolygon lozenge;
  lozenge.count = 4;
  lozenge.points = {centre + Point(0, -arm), centre + Point(arm, 0), centre + Point(0, arm), centre + Point(-arm, 0)};
  canvas.fill(lozenge, {night});
  canvas.outline(lozenge, {white}, 1);
}

}  // namespace

void RegionColors::shade(Stage& stage) const {
  for (const Cell cell : stage.map().size().cells()) {
    const std::uint32_t id = regions_.at(cell);
    stage.colors()[cell] =
        id == 0 ? mix(stage.color(cell), paper, 0.55) : mix(stage.color(cell), region_color(id), region_opacity);
  }
}

void RegionColors::explain(Legend& legend) const {
  constexpr std::size_t most_listed = 6;
  legend.cover_ground();
  std::vector<Region> list = regions_.list();
  std::stable_sort(list.begin(), list.end(), [](const Region& a, const Region& b) { return a.cells > b.cells; });
  for (std::size_t i = 0; i < list.size() && i < most_listed; ++i) {
    legend.swatch("region " + std::to_string(list[i].id), std::to_string(list[i].cells), {region_color(list[i].id)});
  }
  if (list.size() > most_listed) legend.note("and " + std::to_string(list.size() - most_listed) + " smaller ones");
}

void RegionColors::show(Screen& screen) const {
  for (const Cell cell : screen.map().size().cells()) {
    if (const std::uint32_t id = regions_.at(cell); id != 0) screen.shade(cell, region_color(id), region_opacity);
  }
}

void CutOff::paint(Stage& stage) const {
  for (const Cell cell : cells_) {
    stage.canvas().hatch(stage.corners(cell), {night, 0.6}, std::max(4.0, stage.cell() / 3), 1.5);
  }
}

void CutOff::explain(Legend& legend) const {
  if (cells_.empty()) return;
  legend.entry("cut off", std::to_string(cells_.size()), [](Canvas& canvas, Point at) {
    canvas.fill(box_about(at), {paper});
    canvas.hatch(box_about(at), {night, 0.6}, 5, 1.5);
  });
}

void Openings::paint(Stage& stage) const {
  for (const Cell cell : cells_) {
    stage.canvas().fill(stage.corners(cell), {white, 0.85});
    stage.canvas().outline(stage.corners(cell), {goal_color}, std::max(1.5, stage.cell() / 7));
  }
}

void Openings::explain(Legend& legend) const {
  if (!cells_.empty()) legend.entry("to be opened", std::to_string(cells_.size()), framed({white}, goal_color));
}

void Openings::show(Screen& screen) const {
  for (const Cell cell : cells_) screen.mark(cell, U'O', goal_color);
}

void Chokes::paint(Stage& stage) const {
  for (const Cell cell : cells_) {
    paint_lozenge(stage.canvas(), stage.centre(cell), std::clamp(stage.cell() * 0.3, 1.5, 9.0));
  }
}

void Chokes::explain(Legend& legend) const {
  if (cells_.empty()) return;
  legend.entry("choke cell", std::to_string(cells_.size()),
               [](Canvas& canvas, Point at) { paint_lozenge(canvas, at, 7); });
}

void Chokes::show(Screen& screen) const {
  for (const Cell cell : cells_) screen.mark(cell, U'+', night);
}

}  // namespace saunter::inline v0_2::draw
