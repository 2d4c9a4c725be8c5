#include "saunter/draw/overlay/plot.hpp"

#include <algorithm>
#include <array>

#include "../strokes.hpp"
#include "saunter/ground/cost.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;
namespace {

struct Axes {
  std::uint64_t low = 0;   // of costs
  std::uint64_t high = 0;  // of costs
  std::uint64_t most = 1;  // exposure
  double left = 0;
  double top = 0;
  double width = 0;
  double height = 0;

  [[nodiscard]] double across(std::uint64_t cost) const {
    return left + 6 + (width - 12) * (high > low ? double(cost - low) / double(high - low) : 0.5);
  }
  [[nodiscard]] double up(std::uint64_t exposure) const {
    return top + height - 6 - (height - 12) * double(exposure) / double(most);
  }
};

void paint_axes(Canvas& canvas, const Axes& axes) {
  const double bottom = axes.top + axes.height;
  const auto words = [](std::uint64_t hundredths) { return to_decimal(static_cast<std::int64_t>(hundredths)); };
  canvas.fill_rect(axes.left, axes.top, axes.width, axes.height, {white});
  const std::array<Point, 3> line = {Point(axes.left, axes.top), Point(axes.left, bottom),
                                     Point(axes.left + axes.width, bottom)};
  canvas.line(line, {soft_ink}, 1);
  canvas.text(axes.left - 4, axes.up(axes.most) + 4, words(axes.most), 10, {soft_ink}, Align::right);
  canvas.text(axes.left - 4, axes.up(0) + 4, "0", 10, {soft_ink}, Align::right);
  canvas.text(axes.left, bottom + 13, words(axes.low), 10, {soft_ink});
  canvas.text(axes.left + axes.width, bottom + 13, words(axes.high), 10, {soft_ink}, Align::right);
  canvas.text(axes.left + axes.width / 2, bottom + 13, "cost", 11, {soft_ink}, Align::centre);
}

void paint_plot(Canvas& canvas, Point corner, double width, const std::vector<PlotPoint>& points) {
  Axes axes{.low = points.front().cost, .high = points.front().cost, .left = corner.x + 34, .top = corner.y};
  axes.width = width - 34;
  axes.height = 150;
  for (const PlotPoint& point : points) {
    axes.low = std::min(axes.low, point.cost);
    axes.high = std::max(axes.high, point.cost);
    axes.most = std::max(axes.most, point.exposure);
  }
  paint_axes(canvas, axes);
  std::vector<Point> places;
  places.reserve(points.size());
  for (const PlotPoint& point : points) places.emplace_back(axes.across(point.cost), axes.up(point.exposure));
  canvas.line(places, {soft_ink, 0.6}, 1);
  for (std::size_t i = 0; i < places.size(); ++i) {
    canvas.disc(places[i], points[i].chosen ? 6 : 3.5, {points[i].chosen ? goal_color : danger_color});
    if (points[i].chosen) canvas.ring(places[i], 6, {white}, 1.5);
  }
}

}  // namespace

void Plot::explain(Legend& legend) const {
  if (points_.empty()) return;
  legend.drawing("exposure", 180, [points = points_](Canvas& canvas, Point corner, double width) {
    paint_plot(canvas, corner, width, points);
  });
}

}  // namespace saunter::inline v0_2::draw
