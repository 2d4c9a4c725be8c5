#include "saunter/draw/picture.hpp"

#include <cmath>

#include "map_part.hpp"
#include "strokes.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;
namespace {

constexpr double margin_left = 40;
constexpr double margin_top = 64;
constexpr double margin_bottom = 28;
constexpr double narrow = 700;  // below that the legend lies under the map

/// A picture as it will be: the legend's place and the layout of the map.
struct Plan {
  Layout layout;
  Legend legend;
  double scale = 1;
  Point corner;  // of the legend
  double column = detail::column;
};

double cell_for(const Picture& picture, PixelSize size, double width, double height, double scale) {
  double cell = cell_within(picture, std::max(width, 16.0), std::max(height, 16.0), largest_cell * scale);
  if (cell >= smallest_drawn_cell || size.firm) return cell;
  // Large maps: the picture grows until each cell has a pixel, within reason.
  const Box unit = extent(frame_at(picture, 1, Point{}), picture.map()->size());
  return std::max(cell, std::min(1.0, most_pixels / std::max(unit.width(), unit.height())));
}

Plan plan_of(const Picture& picture, PixelSize size) {
  const double scale = scale_of(size);
  const bool below = size.width < narrow && size.height >= size.width;
  const double beside = below ? margin_left + gap : margin_left + 2 * gap + detail::column + 26;
  const double width = size.width - beside * scale;
  // What the legend says depends on the size of cells, which depends on the legend's height: twice is enough.
  double legend_height = 0;
  Layout layout;
  const Point top_left(margin_left * scale, margin_top * scale);
  Legend legend(*picture.map(), layout, picture.diamond, false);
  for (int round = 0; round < 2; ++round) {
    const double taken = below ? margin_top + gap + legend_height : margin_top + margin_bottom + 18;
    layout.cell = cell_for(picture, size, width, std::max(size.height - taken * scale, size.height * 0.4), scale);
    layout.frame = frame_at(picture, layout.cell, top_left);
    legend = Legend(*picture.map(), layout, picture.diamond, false);
    explain(picture, legend);
    legend_height = legend.height();
  }
  const Box box = extent(layout.frame, picture.map()->size());
  Plan plan{layout, std::move(legend), scale, Point{}, detail::column};
  if (below) {
    plan.corner = {gap * scale, std::ceil(box.bottom) + gap * scale};
    plan.column = size.width / scale - 2 * gap;
    plan.layout.width = size.width;
    plan.layout.height = static_cast<int>(std::ceil(plan.corner.y + (legend_height + gap) * scale));
    return plan;
  }
  plan.corner = {std::ceil(box.right) + gap * scale, (margin_top - 8) * scale};
  plan.layout.width = static_cast<int>(std::ceil(plan.corner.x + (detail::column + gap) * scale));
  const double least = size.firm ? 0 : 480 * scale;
  plan.layout.height = static_cast<int>(std::ceil(
      std::max({std::ceil(box.bottom) + margin_bottom * scale, plan.corner.y + (legend_height + gap) * scale, least})));
  return plan;
}

std::string paint(const Picture& picture, PixelSize size, Canvas::Kind kind) {
  if (!drawable(picture)) return {};
  const Plan plan = plan_of(picture, size);
  Canvas canvas(kind, plan.layout.width, plan.layout.height);
  canvas.fill_rect(0, 0, plan.layout.width, plan.layout.height, {paper});
  canvas.set_text_scale(plan.scale);
  paint_map(picture, plan.layout, canvas);
  canvas.set_text_scale(1);
  canvas.set_view(0, 0, plan.scale);
  write_within(canvas, {margin_left, 36}, picture.title, 20, {night}, plan.layout.width / plan.scale - margin_left - 8,
               true);
  canvas.set_view(plan.corner.x, plan.corner.y, plan.scale);
  plan.legend.paint(canvas, Point{}, plan.column);
  return canvas.finish();
}

}  // namespace

Layout layout(const Picture& picture, PixelSize size) {
  SAUNTER_EXPECT(drawable(picture));
  return drawable(picture) ? plan_of(picture, size).layout : Layout{};
}

std::string to_png(const Picture& picture, PixelSize size) { return paint(picture, size, Canvas::Kind::png); }
std::string to_svg(const Picture& picture, PixelSize size) { return paint(picture, size, Canvas::Kind::svg); }

}  // namespace saunter::inline v0_2::draw
