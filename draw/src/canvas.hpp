/// @file
/// A drawing surface: the few strokes and fills our pictures are made of, over cairo.
#pragma once

#include <cairo-svg.h>
#include <cairo.h>

#include <memory>
#include <span>
#include <string>
#include <string_view>

#include "saunter/draw/picture.hpp"

namespace saunter::draw {

struct Ink {
  Rgb color;
  double opacity = 1.0;
};

enum class Align : std::uint8_t { left, centre, right };

class Canvas {
 public:
  enum class Kind : std::uint8_t { png, svg };
  Canvas(Kind kind, int width, int height);

  /// What follows is drawn from this point on, and smaller by this factor.
  void set_view(double x, double y, double scale);
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

  /// The finished file. The canvas must not be used afterwards.
  [[nodiscard]] std::string finish();

 private:
  struct Destroy {
    void operator()(cairo_surface_t* surface) const { cairo_surface_destroy(surface); }
    void operator()(cairo_t* context) const { cairo_destroy(context); }
  };
  void set(Ink ink);
  void trace(const CellPolygon& polygon);
  void choose_font(double size, bool bold);

  Kind kind_;
  std::string bytes_;
  std::unique_ptr<cairo_surface_t, Destroy> surface_;
  std::unique_ptr<cairo_t, Destroy> context_;
};

}  // namespace saunter::draw
