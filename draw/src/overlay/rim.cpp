#include "saunter/draw/overlay/rim.hpp"

#include <algorithm>
#include <bit>

#include "../strokes.hpp"
#include "../box.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;
namespace {

/// A one-way edge: teeth on the side one can't come back up from, pointing the way that is open.
void paint_ledge(const Stage& stage, const std::array<Point, 2>& edge, Cell closed_side, Cell open_side) {
  const Point down = (stage.centre(closed_side) - stage.centre(open_side)) * 0.18;
  for (const double share : {0.2, 0.5, 0.8}) {
    const Point foot = edge[0] + (edge[1] - edge[0]) * share;
    const std::array<Point, 2> tooth = {foot, foot + down};
    stage.canvas().line(tooth, {night}, std::max(1.5, stage.cell() / 16));
  }
}

/// The two corners that both cells have.
std::array<Point, 2> shared_edge(const Stage& stage, Cell a, Cell b) {
  std::array<Point, 2> edge;
  std::size_t found = 0;
  const CellPolygon of_b = stage.corners(b);
  for (const Point p : stage.corners(a)) {
    for (const Point q : of_b) {
      if (length(p - q) < stage.cell() * 0.01 && found < 2) edge[found++] = p;
    }
  }
  return edge;
}

}  // namespace

void Outlines::paint(Stage& stage) const {
  if (!stage.room_for_signs()) return;
  for (const Cell cell : stage.map().size().cells()) stage.canvas().outline(stage.corners(cell), {night, 0.16}, 1);
}

void Coordinates::paint(Stage& stage) const {
  if (!stage.room_for_signs() || stage.diamond()) return;
  const Size size = stage.map().size();
  const Box box = extent(stage.frame(), size);
  const double room = stage.cell() / stage.canvas().text_scale();
  const double per_label = room * (stage.map().tiling().shape() == Shape::triangle ? 0.87 : 1.0);
  const std::int32_t every = per_label >= 24 ? 1 : per_label >= 12 ? 2 : 5;
  for (std::int32_t col = 0; col < size.cols; col += every) {
    stage.canvas().text(stage.centre({col, 0}).x, box.top - 5, std::to_string(col), 10, {soft_ink}, Align::centre);
  }
  for (std::int32_t row = 0; row < size.rows; row += every) {
    stage.canvas().text(box.left - 6, stage.centre({0, row}).y + 4, std::to_string(row), 10, {soft_ink}, Align::right);
  }
}

void Barriers::shade(Stage& stage) const {
  const Map& map = stage.map();
  if (!stage.as_pixels() || !map.has_barriers()) return;
  for (const Cell cell : map.size().cells()) {
    const int closed = std::popcount(static_cast<unsigned>(map.closed_sides(cell)));
    if (closed > 0) stage.colors()[cell] = mix(stage.color(cell), night, 0.16 * closed);
  }
}

void Barriers::paint(Stage& stage) const {
  const Map& map = stage.map();
  if (!map.has_barriers()) return;
  const double thick = std::max(2.0, stage.cell() / 7);
  for (const Cell cell : map.size().cells()) {
    for (Direction d{0}; d < map.tiling().edge_count(); ++d) {
      if (!map.closed(cell, d)) continue;
      const Cell other = map.tiling().neighbour(cell, d);
      const bool both_ways = map.closed(other, map.tiling().direction(other, cell));
      if (both_ways && other < cell) continue;  // drawn from the other side
      const auto edge = shared_edge(stage, cell, other);
      stage.canvas().line(edge, {night}, both_ways ? thick : thick / 2);
      if (!both_ways) paint_ledge(stage, edge, cell, other);
    }
  }
}

}  // namespace saunter::inline v0_2::draw
