#include "saunter/draw/overlay/path.hpp"

#include <algorithm>
#include <array>

#include "../strokes.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;
namespace {

std::vector<Point> centres(const Stage& stage, const std::vector<Cell>& cells) {
  std::vector<Point> points;
  points.reserve(cells.size());
  for (const Cell cell : cells) points.push_back(stage.centre(cell));
  return points;
}

/// The same for a line, without points that lie so close to the one before that nobody could tell.
std::vector<Point> line_of(const Stage& stage, const std::vector<Cell>& cells) {
  constexpr double least_apart = 0.75;  // pixels
  std::vector<Point> points;
  for (const Cell cell : cells) {
    const Point next = stage.centre(cell);
    if (points.empty() || length(next - points.back()) >= least_apart) points.push_back(next);
  }
  points.push_back(stage.centre(cells.back()));
  return points;
}

void paint_dot(Canvas& canvas, Point at, double radius) {
  canvas.disc(at, radius, {waypoint_color});
  canvas.ring(at, radius, {white}, 1);
}

Legend::Sample stroke_of(Rgb color) {
  return [color](Canvas& canvas, Point at) {
    const std::array<Point, 2> stroke = {at - Point(8, 0), at + Point(8, 0)};
    canvas.line(stroke, {night}, 8);
    canvas.line(stroke, {color}, 4);
  };
}

}  // namespace

void Path::paint(Stage& stage) const {
  if (cells_.size() < 2) return;
  const double cell = std::max(stage.cell(), 4.0);
  const double thin = std::max(1.5, std::min(cell * 0.13, 4.5));
  const std::vector<Point> points = line_of(stage, cells_);
  stage.canvas().line(points, {night}, std::max(3.0, std::min(cell * 0.26, 9.0)));
  stage.canvas().line(points, {white}, thin);
  for (std::size_t i = 1; threat_ != nullptr && i < cells_.size(); ++i) {
    if (threat_->level(cells_[i]) == 0) continue;
    const std::array<Point, 2> stretch = {stage.centre(cells_[i - 1]), stage.centre(cells_[i])};
    stage.canvas().line(stretch, {danger_color}, thin);
  }
}

void Path::explain(Legend& legend) const {
  if (cells_.size() < 2) return;
  legend.entry(threat_ != nullptr ? "covered part of the path" : "path", "", stroke_of(white));
  if (threat_ != nullptr) legend.entry("exposed part", "", stroke_of(danger_color));
}

void Path::show(Screen& screen) const {
  for (const Cell cell : cells_) screen.mark(cell, U'*', night);
}

void Waypoints::paint(Stage& stage) const {
  if (cells_.size() < 2) return;
  const double cell = std::max(stage.cell(), 4.0);
  const std::vector<Point> points = centres(stage, cells_);
  stage.canvas().line(points, {waypoint_color}, std::max(1.5, std::min(cell * 0.08, 3.0)));
  for (const Point point : points) paint_dot(stage.canvas(), point, std::clamp(cell * 0.16, 2.5, 7.0));
}

void Waypoints::explain(Legend& legend) const {
  if (cells_.size() < 2) return;
  legend.entry("way point", std::to_string(cells_.size()), [](Canvas& canvas, Point at) { paint_dot(canvas, at, 5); });
}

void SightLine::paint(Stage& stage) const {
  for (const Cell cell : hidden_by_) {
    stage.canvas().outline(stage.corners(cell), {goal_color}, std::max(2.0, stage.cell() / 8));
  }
  const std::array<Point, 2> line = {stage.centre(from_), stage.centre(to_)};
  stage.canvas().line(line, {threat_color}, 2);
}

void SightLine::explain(Legend& legend) const {
  legend.entry("line of sight", "", [](Canvas& canvas, Point at) {
    const std::array<Point, 2> stroke = {at - Point(10, 0), at + Point(10, 0)};
    canvas.line(stroke, {threat_color}, 2);
  });
  if (hidden_by_.empty()) return;
  legend.entry("hides what is behind", "", framed({paper}, goal_color));
}

}  // namespace saunter::inline v0_2::draw
