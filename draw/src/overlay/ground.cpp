#include "saunter/draw/overlay/ground.hpp"

#include <algorithm>

#include "../strokes.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;
namespace {

void write_small(Stage& stage, Cell cell, const std::string& words) {
  if (!stage.claim(cell)) return;
  stage.write(cell, words, std::clamp(stage.cell() * 0.2, 8.0, 11.0), readable_on(stage.color(cell)));
}

}  // namespace

void Terrains::shade(Stage& stage) const {
  const Map& map = stage.map();
  for (const Cell cell : map.size().cells()) stage.colors()[cell] = map.kind(map.terrain_at(cell)).color;
}

void Terrains::explain(Legend& legend) const {
  if (legend.ground_covered()) return;
  constexpr std::size_t most_listed = 16;
  const std::vector<Terrain>& kinds = legend.map().kinds();
  const std::size_t listed = kinds.size() > most_listed + 1 ? most_listed : kinds.size();
  for (std::size_t id = 0; id < listed; ++id) {
    const Terrain& kind = kinds[id];
    const EntryCost cost = mover_ != nullptr ? mover_->cost_on(static_cast<TerrainId>(id), kind) : kind.cost;
    legend.swatch(kind.name, kind.is_void ? "void" : cost == blocked ? "blocked" : to_decimal(cost), {kind.color});
  }
  if (listed < kinds.size()) legend.note("and " + std::to_string(kinds.size() - listed) + " more kinds of ground");
}

void Terrains::show(Screen& screen) const {
  const Map& map = screen.map();
  for (const Cell cell : map.size().cells()) {
    const Terrain& kind = map.kind(map.terrain_at(cell));
    screen.at(cell) = {kind.glyph, kind.color, mix(kind.color, readable_on(kind.color), 0.55)};
  }
}

void EntryCosts::shade(Stage& stage) const {
  const EntryCost low = costs_.lowest_entry();
  const EntryCost high = costs_.highest_entry();
  for (const Cell cell : stage.map().size().cells()) {
    const EntryCost cost = costs_.entry(cell);
    stage.colors()[cell] =
        cost == blocked ? soft_ink : on_ramp(cost_ramp, high > low ? double(cost - low) / (high - low) : 0);
  }
}

void EntryCosts::number(Stage& stage) const {
  if (!stage.room_for_number()) return;
  for (const Cell cell : stage.map().size().cells()) {
    if (costs_.open(cell)) write_small(stage, cell, to_decimal(costs_.entry(cell)));
  }
}

void EntryCosts::explain(Legend& legend) const {
  legend.ramp("entry cost", cost_ramp, to_decimal(costs_.lowest_entry()), to_decimal(costs_.highest_entry()));
  legend.swatch("cannot be entered", "", {soft_ink});
}

Heights::Heights(const Map& map) {
  if (!map.has_heights()) return;
  const auto [low, high] = std::minmax_element(map.heights().values().begin(), map.heights().values().end());
  lowest_ = *low;
  highest_ = *high;
}

void Heights::shade(Stage& stage) const {
  const Map& map = stage.map();
  if (!map.has_heights()) return;
  for (const Cell cell : map.size().cells()) {
    const double share = highest_ > lowest_ ? double(map.height_at(cell) - lowest_) / (highest_ - lowest_) : 0;
    stage.colors()[cell] = on_ramp(height_ramp, share);
  }
}

void Heights::number(Stage& stage) const {
  if (!stage.room_for_number() || !stage.map().has_heights()) return;
  for (const Cell cell : stage.map().size().cells()) {
    write_small(stage, cell, std::to_string(stage.map().height_at(cell)));
  }
}

void Heights::explain(Legend& legend) const {
  if (!legend.map().has_heights()) return;
  legend.ramp("height", height_ramp, std::to_string(lowest_), std::to_string(highest_));
}

void Blocked::shade(Stage& stage) const {
  if (!stage.as_pixels()) return;  // else hatched
  for (const Cell cell : stage.map().size().cells()) {
    if (!costs_.open(cell)) stage.colors()[cell] = mix(stage.color(cell), night, 0.4);
  }
}

void Blocked::paint(Stage& stage) const {
  for (const Cell cell : stage.map().size().cells()) {
    if (costs_.open(cell)) continue;
    stage.canvas().hatch(stage.corners(cell), {readable_on(stage.color(cell)), 0.45}, std::max(4.0, stage.cell() / 4),
                         1);
  }
}

void Blocked::explain(Legend& legend) const {
  legend.entry("cannot be entered", "", [](Canvas& canvas, Point at) {
    const CellPolygon box = box_about(at);
    canvas.fill(box, {paper});
    canvas.hatch(box, {night, 0.6}, 5, 1);
    canvas.outline(box, {night, 0.3}, 1);
  });
}

void Blocked::show(Screen& screen) const {
  for (const Cell cell : screen.map().size().cells()) {
    if (!costs_.open(cell)) screen.at(cell).glyph = U'\u00D7';
  }
}

}  // namespace saunter::inline v0_2::draw
