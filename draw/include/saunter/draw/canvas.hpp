/// @file
/// A drawing surface: the few strokes and fills our pictures are made of.
///
/// Units: pixels, y down; opacity 0 to 1.
/// Errors: nothing on the spot; finish() returns nothing when it could not be made.
/// Cost: O(pixels touched); allocates the surface.
/// Threads: one at a time; each thread its own.
#pragma once

#include <memory>
#include <span>
#include <string>
#include <string_view>

#include "saunter/grid/frame.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/ground/map.hpp"

struct _cairo;          // NOLINT(bugprone-reserved-identifier): its name
struct _cairo_surface;  // NOLINT(bugprone-reserved-identifier)

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// A colour and how much of it: 0 = nothing, 1 = all.
struct Ink {
  Rgb color;
  double opacity = 1.0;
};

enum class Align : std::uint8_t { left, centre, right };

/// One picture under way, as pixels or as SVG. Lengths are pixels, y points down. Nothing here fails on the spot: when
/// memory runs out or a size is impossible, finish() returns nothing. One thread at a time.
class Canvas {
 public:
  enum class Kind : std::uint8_t { png, svg };
  Canvas(Kind kind, int width, int height);

  /// What follows is drawn from this point on, larger by this factor.
  void set_view(double x, double y, double scale);
  /// Text that follows is larger by this factor than asked: on large pictures.
  void set_text_scale(double scale) { text_scale_ = scale; }
  [[nodiscard]] double text_scale() const { return text_scale_; }

  void fill_rect(double x, double y, double width, double height, Ink ink);
  void fill(const CellPolygon& polygon, Ink ink);
  void outline(const CellPolygon& polygon, Ink ink, double line_width);
  /// Diagonal strokes over a cell.
  void hatch(const CellPolygon& polygon, Ink ink, double spacing, double line_width);
  void line(std::span<const Point> points, Ink ink, double line_width);
  void disc(Point centre, double radius, Ink ink);
  void ring(Point centre, double radius, Ink ink, double line_width);
  /// Text with its baseline at y.
  void text(double x, double y, std::string_view text, double size, Ink ink, Align align = Align::left,
            bool bold = false);
  [[nodiscard]] double text_width(std::string_view text, double size, bool bold = false);
  /// Pixels of width x height, row by row, put at x, y one to one.
  void pixels(int x, int y, Size size, std::span<const Rgb> pixels);

  /// The finished file; nothing when it could not be made. The canvas must not be used afterwards.
  [[nodiscard]] std::string finish();

 private:
  struct Destroy {
    void operator()(_cairo_surface* surface) const;
    void operator()(_cairo* context) const;
  };
  void set(Ink ink);
  void trace(const CellPolygon& polygon);
  void choose_font(double size, bool bold);

  Kind kind_;
  double text_scale_ = 1;
  std::string bytes_;
  std::unique_ptr<_cairo_surface, Destroy> surface_;
  std::unique_ptr<_cairo, Destroy> context_;
};

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
