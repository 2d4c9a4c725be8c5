#include "map_part.hpp"

#include <cmath>

#include "saunter/draw/palette.hpp"

namespace saunter::inline v0_2::draw::detail {
namespace {

Frame plain_frame(const Picture& picture, double cell, Point origin) {
  if (picture.diamond) return Frame::diamond(picture.map()->tiling(), cell * 2, cell, origin);
  return Frame(picture.map()->tiling(), cell, origin);
}

/// Cells of a few pixels or less: each pixel shows the cell at its middle.
void paint_pixels(const Stage& stage, Canvas& canvas) {
  const Size map = stage.map().size();
  const Box box = extent(stage.frame(), map);
  const int left = static_cast<int>(std::floor(box.left));
  const int top = static_cast<int>(std::floor(box.top));
  const Size size{static_cast<std::int32_t>(std::ceil(box.right)) - left,
                  static_cast<std::int32_t>(std::ceil(box.bottom)) - top};
  std::vector<Rgb> pixels(size.cell_count(), paper);
  std::size_t i = 0;
  for (const Cell pixel : size.cells()) {
    const Point middle(left + pixel.col + 0.5, top + pixel.row + 0.5);
    if (const auto cell = stage.frame().cell_at(middle, map)) pixels[i] = stage.color(*cell);
    ++i;
  }
  canvas.pixels(left, top, size, pixels);
}

}  // namespace

double cell_within(const Picture& picture, double width, double height, double most) {
  const Box unit = extent(plain_frame(picture, 1, Point{}), picture.map()->size());
  const double cell = std::min({width / unit.width(), height / unit.height(), most});
  return cell >= smallest_drawn_cell ? std::floor(cell) : cell;  // whole pixels keep the edges of square cells sharp
}

Frame frame_at(const Picture& picture, double cell, Point corner) {
  const Box unit = extent(plain_frame(picture, 1, Point{}), picture.map()->size());
  const Point origin(std::floor(corner.x - unit.left * cell), std::floor(corner.y - unit.top * cell));
  const bool squares = picture.map()->tiling().shape() == Shape::square && !picture.diamond;
  const double half = squares ? cell / 2 - std::floor(cell / 2) : 0;
  return plain_frame(picture, cell, origin + Point(half, half));
}

void paint_map(const Picture& picture, const Layout& layout, Canvas& canvas) {
  Stage stage(*picture.map(), layout, picture.diamond, canvas);
  const std::vector<const Overlay*> overlays = picture.overlays();
  for (const Overlay* overlay : overlays) overlay->shade(stage);
  if (stage.as_pixels()) {
    paint_pixels(stage, canvas);
  } else {
    for (const Cell cell : stage.map().size().cells()) canvas.fill(stage.corners(cell), {stage.color(cell)});
    for (const Overlay* overlay : overlays) {
      if (overlay->tier() < Tier::paths) overlay->paint(stage);
    }
    for (auto i = overlays.rbegin(); i != overlays.rend(); ++i) (*i)->number(stage);
  }
  for (const Overlay* overlay : overlays) {
    if (overlay->tier() >= Tier::paths) overlay->paint(stage);
  }
}

/// From the topmost overlay down: what was asked for comes before the ground it lies on.
void explain(const Picture& picture, Legend& legend) {
  for (const auto& [what, value] : picture.facts) {
    if (!legend.shared()) legend.fact(what, value);
  }
  const std::vector<const Overlay*> overlays = picture.overlays();
  for (const Tier tier : {Tier::marks, Tier::paths, Tier::things, Tier::cells, Tier::ground}) {
    for (const Overlay* overlay : overlays) {
      if (overlay->tier() == tier) overlay->explain(legend);
    }
  }
}

double scale_of(PixelSize size) { return std::max(1.0, std::min(size.width / 1280.0, size.height / 800.0)); }

bool drawable(const Picture& picture) { return picture.map() != nullptr && picture.map()->size().cell_count() > 0; }

}  // namespace saunter::inline v0_2::draw::detail

namespace saunter::inline v0_2::draw {

std::vector<const Overlay*> Picture::overlays() const {
  std::vector<const Overlay*> list;
  list.reserve(overlays_.size());
  for (const auto& overlay : overlays_) list.push_back(overlay.get());
  std::stable_sort(list.begin(), list.end(), [](const Overlay* a, const Overlay* b) { return a->tier() < b->tier(); });
  return list;
}

}  // namespace saunter::inline v0_2::draw
