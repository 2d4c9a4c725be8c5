#include "saunter/draw/canvas.hpp"

#include <cairo-svg.h>
#include <cairo.h>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <vector>

namespace saunter::inline v0_2::draw {
namespace {

cairo_status_t append(void* to, const unsigned char* data, unsigned length) {
  static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(data), length);
  return CAIRO_STATUS_SUCCESS;
}

}  // namespace

void Canvas::Destroy::operator()(cairo_surface_t* surface) const { cairo_surface_destroy(surface); }
void Canvas::Destroy::operator()(cairo_t* context) const { cairo_destroy(context); }

Canvas::Canvas(Kind kind, int width, int height) : kind_(kind) {
  surface_.reset(kind == Kind::png ? cairo_image_surface_create(CAIRO_FORMAT_RGB24, width, height)
                                   : cairo_svg_surface_create_for_stream(append, &bytes_, width, height));
  context_.reset(cairo_create(surface_.get()));
  cairo_set_line_join(context_.get(), CAIRO_LINE_JOIN_ROUND);
  cairo_set_line_cap(context_.get(), CAIRO_LINE_CAP_ROUND);
}

void Canvas::set(Ink ink) {
  cairo_set_source_rgba(context_.get(), ink.color.red / 255.0, ink.color.green / 255.0, ink.color.blue / 255.0,
                        ink.opacity);
}

void Canvas::trace(const CellPolygon& polygon) {
  cairo_new_path(context_.get());
  for (const Point point : polygon) cairo_line_to(context_.get(), point.x, point.y);
  cairo_close_path(context_.get());
}

void Canvas::set_view(double x, double y, double scale) {
  cairo_identity_matrix(context_.get());
  cairo_translate(context_.get(), x, y);
  cairo_scale(context_.get(), scale, scale);
}

void Canvas::fill_rect(double x, double y, double width, double height, Ink ink) {
  set(ink);
  cairo_rectangle(context_.get(), x, y, width, height);
  cairo_fill(context_.get());
}

void Canvas::fill(const CellPolygon& polygon, Ink ink) {
  set(ink);
  trace(polygon);
  // Neighbouring cells share their edges exactly; smoothed edges would let the background shine through between them.
  cairo_set_antialias(context_.get(), CAIRO_ANTIALIAS_NONE);
  cairo_fill(context_.get());
  cairo_set_antialias(context_.get(), CAIRO_ANTIALIAS_DEFAULT);
}

void Canvas::outline(const CellPolygon& polygon, Ink ink, double line_width) {
  set(ink);
  cairo_set_line_width(context_.get(), line_width);
  trace(polygon);
  cairo_stroke(context_.get());
}

void Canvas::hatch(const CellPolygon& polygon, Ink ink, double spacing, double line_width) {
  double left = polygon.points[0].x;
  double right = left;
  double top = polygon.points[0].y;
  double bottom = top;
  for (const Point p : polygon) {
    left = std::min(left, p.x);
    right = std::max(right, p.x);
    top = std::min(top, p.y);
    bottom = std::max(bottom, p.y);
  }
  cairo_save(context_.get());
  trace(polygon);
  cairo_clip(context_.get());
  set(ink);
  cairo_set_line_width(context_.get(), line_width);
  // Strokes lie on one grid for the whole picture, so that they run on from cell to cell.
  const int first = static_cast<int>(std::ceil((left + top) / spacing));
  for (int i = first; i * spacing < right + bottom; ++i) {
    const double at = i * spacing;
    cairo_move_to(context_.get(), at - top, top);
    cairo_line_to(context_.get(), at - bottom, bottom);
  }
  cairo_stroke(context_.get());
  cairo_restore(context_.get());
}

void Canvas::line(std::span<const Point> points, Ink ink, double line_width) {
  set(ink);
  cairo_set_line_width(context_.get(), line_width);
  cairo_new_path(context_.get());
  for (const Point point : points) cairo_line_to(context_.get(), point.x, point.y);
  cairo_stroke(context_.get());
}

void Canvas::disc(Point centre, double radius, Ink ink) {
  set(ink);
  cairo_new_path(context_.get());
  cairo_arc(context_.get(), centre.x, centre.y, radius, 0, 2 * std::numbers::pi);
  cairo_fill(context_.get());
}

void Canvas::ring(Point centre, double radius, Ink ink, double line_width) {
  set(ink);
  cairo_set_line_width(context_.get(), line_width);
  cairo_new_path(context_.get());
  cairo_arc(context_.get(), centre.x, centre.y, radius, 0, 2 * std::numbers::pi);
  cairo_stroke(context_.get());
}

void Canvas::choose_font(double size, bool bold) {
  cairo_select_font_face(context_.get(), "DejaVu Sans", CAIRO_FONT_SLANT_NORMAL,
                         bold ? CAIRO_FONT_WEIGHT_BOLD : CAIRO_FONT_WEIGHT_NORMAL);
  cairo_set_font_size(context_.get(), size * text_scale_);
}

namespace {

/// As much of a text as the largest picture could show: measuring takes time for every letter.
std::string to_be_drawn(std::string_view text) {
  constexpr std::size_t most = 4'000;
  if (text.size() <= most) return std::string(text);
  std::size_t end = most;
  while (end > 0 && (static_cast<unsigned char>(text[end]) & 0xC0U) == 0x80U) --end;
  return std::string(text.substr(0, end));
}

}  // namespace

double Canvas::text_width(std::string_view text, double size, bool bold) {
  choose_font(size, bold);
  cairo_text_extents_t extents;
  cairo_text_extents(context_.get(), to_be_drawn(text).c_str(), &extents);
  return extents.x_advance;
}

void Canvas::text(double x, double y, std::string_view text, double size, Ink ink, Align align, bool bold) {
  const double width = text_width(text, size, bold);
  if (align == Align::centre) x -= width / 2;
  if (align == Align::right) x -= width;
  set(ink);
  cairo_move_to(context_.get(), x, y);
  cairo_show_text(context_.get(), to_be_drawn(text).c_str());
}

void Canvas::pixels(int x, int y, Size size, std::span<const Rgb> pixels) {
  const int stride = cairo_format_stride_for_width(CAIRO_FORMAT_RGB24, size.cols);
  std::vector<unsigned char> data(static_cast<std::size_t>(stride) * static_cast<std::size_t>(size.rows));
  for (std::int32_t row = 0; row < size.rows; ++row) {
    auto* words = reinterpret_cast<std::uint32_t*>(  // NOLINT: cairo's rows are 4-byte aligned words by definition
        static_cast<void*>(data.data() + static_cast<std::size_t>(row) * static_cast<std::size_t>(stride)));
    for (std::int32_t col = 0; col < size.cols; ++col) {
      const Rgb p =
          pixels[static_cast<std::size_t>(row) * static_cast<std::size_t>(size.cols) + static_cast<std::size_t>(col)];
      words[col] = (std::uint32_t{p.red} << 16U) | (std::uint32_t{p.green} << 8U) | p.blue;
    }
  }
  const std::unique_ptr<cairo_surface_t, Destroy> image(
      cairo_image_surface_create_for_data(data.data(), CAIRO_FORMAT_RGB24, size.cols, size.rows, stride));
  cairo_set_source_surface(context_.get(), image.get(), x, y);
  cairo_paint(context_.get());
  cairo_set_source_rgb(context_.get(), 0, 0, 0);  // lets go of the image before its pixels end
  cairo_surface_flush(surface_.get());
}

std::string Canvas::finish() {
  // What went wrong anywhere stays with the context or the surface; half a picture is none.
  bool well = cairo_status(context_.get()) == CAIRO_STATUS_SUCCESS;
  context_.reset();
  if (kind_ == Kind::png) {
    well = cairo_surface_write_to_png_stream(surface_.get(), append, &bytes_) == CAIRO_STATUS_SUCCESS && well;
  } else {
    cairo_surface_finish(surface_.get());
  }
  well = well && cairo_surface_status(surface_.get()) == CAIRO_STATUS_SUCCESS;
  if (!well) bytes_.clear();
  surface_.reset();
  return std::move(bytes_);
}

}  // namespace saunter::inline v0_2::draw
