/// @file
/// What a picture is made of. An overlay is one thing shown on a map: it owns what it shows, and says how it colours
/// cells, what it writes and paints on them, what the legend says about it and how a terminal shows it. Ours lie in
/// saunter/draw/overlay/; yours can be added to any picture in the same way.
///
/// Units: pixels, y down; terminal columns two a cell.
/// Errors: none: cells off the map are left out.
/// Cost: as each overlay; a colour a cell while a picture is made.
/// Threads: one at a time; each thread its own.
#pragma once

#include <functional>
#include <string>
#include <utility>
#include <vector>

#include "saunter/draw/canvas.hpp"
#include "saunter/grid/bit_grid.hpp"
#include "saunter/grid/grid.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// Where things lie on a picture, in pixels.
struct Layout {
  Frame frame = Frame(Tiling::square(), 1, Point{});  ///< cells to pixels; cell centres and corners are exact
  double cell = 0;                                    ///< pixels between the centres of edge neighbours
  int width = 0;
  int height = 0;
};

/// The map part of a picture while it is made: where cells lie, what colour they have, what is drawn on.
class Stage {
 public:
  Stage(const Map& map, const Layout& layout, bool diamond, Canvas& canvas);

  [[nodiscard]] const Map& map() const { return map_; }
  [[nodiscard]] const Frame& frame() const { return layout_.frame; }
  [[nodiscard]] Canvas& canvas() const { return canvas_; }
  /// Pixels between the centres of edge neighbours.
  [[nodiscard]] double cell() const { return layout_.cell; }
  /// Whether the map is sheared as isometric games show it. Upright marks and numbers are then left out.
  [[nodiscard]] bool diamond() const { return diamond_; }

  /// Cells are so small that they are painted as pixels; only paths and marks are drawn above them.
  [[nodiscard]] bool as_pixels() const { return layout_.cell < 3; }
  /// Cells are large enough for outlines and small signs.
  [[nodiscard]] bool room_for_signs() const { return layout_.cell >= 9; }
  /// Cells are large enough for a number; for three of them.
  [[nodiscard]] bool room_for_number() const { return layout_.cell >= 26 && !diamond_; }
  [[nodiscard]] bool room_for_three() const {
    return layout_.cell >= 46 && !diamond_ && map_.tiling().shape() != Shape::triangle;  // those taper too much
  }

  /// The colours of cells, to be laid over in `Overlay::shade` and read afterwards.
  [[nodiscard]] Grid<Rgb>& colors() { return colors_; }
  [[nodiscard]] Rgb color(Cell cell) const { return colors_[cell]; }
  [[nodiscard]] Point centre(Cell cell) const { return layout_.frame.centre(cell); }
  [[nodiscard]] CellPolygon corners(Cell cell) const { return layout_.frame.corners(cell); }

  /// A cell has room for the words of one overlay: the topmost that asks. @return whether this one may write there
  [[nodiscard]] bool claim(Cell cell);
  /// Writes in a cell, off its centre by parts of a cell.
  void write(Cell cell, const std::string& text, double size, Rgb ink, Point off = Point{}, bool bold = false);

 private:
  const Map& map_;
  const Layout& layout_;
  bool diamond_;
  Canvas& canvas_;
  Grid<Rgb> colors_;
  BitGrid claimed_;
};

/// What is said beside a map. Lines that are there already are not said again, so that several maps can share a legend.
class Legend {
 public:
  /// Draws a small likeness of a mark about a point, at most 20 pixels wide and 14 high.
  using Sample = std::function<void(Canvas&, Point)>;

  Legend(const Map& map, const Layout& layout, bool diamond, bool shared)
      : map_(&map), cell_(layout.cell), diamond_(diamond), shared_(shared) {}

  [[nodiscard]] const Map& map() const { return *map_; }
  [[nodiscard]] double cell() const { return cell_; }
  [[nodiscard]] bool diamond() const { return diamond_; }
  /// Several maps share it: figures of a single one are left out.
  [[nodiscard]] bool shared() const { return shared_; }
  /// The ground's own colours can't be made out: what lies above it says so, and the ground is not explained.
  void cover_ground() { ground_covered_ = true; }
  [[nodiscard]] bool ground_covered() const { return ground_covered_; }
  /// Goes on with the next map.
  void turn_to(const Map& map, const Layout& layout, bool diamond);

  /// What, and how much.
  void fact(const std::string& what, const std::string& value);
  /// A mark, what it means, and how many or how much.
  void entry(const std::string& name, const std::string& value, Sample sample);
  /// The same with a box of a colour for the mark.
  void swatch(const std::string& name, const std::string& value, Ink fill);
  /// Colours from low to high.
  void ramp(const std::string& name, std::span<const Rgb> stops, const std::string& low, const std::string& high);
  /// A line in small print.
  void note(const std::string& words);
  /// A drawing as wide as the legend; `paint` is given its upper left corner and its width.
  void drawing(const std::string& name, double height, std::function<void(Canvas&, Point, double)> paint);

  [[nodiscard]] double height() const;
  /// Paints it into columns of this width, each no higher than `most` (but never less than one line).
  void paint(Canvas& canvas, Point corner, double width) const;

 private:
  struct Item {
    std::string key;
    double height = 0;
    std::function<void(Canvas&, Point, double)> paint;
  };
  void add(Item item);

  const Map* map_;
  double cell_;
  bool diamond_;
  bool shared_;
  bool ground_covered_ = false;
  std::vector<Item> facts_;
  std::vector<Item> items_;
};

/// A map in characters, two columns a cell.
class Screen {
 public:
  struct Look {
    char32_t glyph = U' ';
    Rgb ground;
    Rgb ink;
    bool strong = false;
  };
  explicit Screen(const Map& map) : map_(map), looks_(map.size()) {}
  [[nodiscard]] const Map& map() const { return map_; }
  /// @pre the cell is on the map
  [[nodiscard]] Look& at(Cell cell) { return looks_[cell]; }
  [[nodiscard]] Look at(Cell cell) const { return looks_[cell]; }
  /// Lays a colour over a cell's ground; its glyph stays readable, fainter where it is not `strong`.
  void shade(Cell cell, Rgb color, double opacity, bool strong = false);
  /// A white glyph on a colour. Nothing off the map.
  void mark(Cell cell, char32_t glyph, Rgb color);

 private:
  const Map& map_;
  Grid<Look> looks_;
};

/// From the ground up; overlays of one tier are drawn in the order they were added.
enum class Tier : std::uint8_t { ground, cells, things, paths, marks };

class Overlay {
 public:
  Overlay() = default;
  virtual ~Overlay() = default;

  [[nodiscard]] virtual Tier tier() const = 0;
  /// Lays colours over those of the cells, see Stage::colors.
  virtual void shade(Stage&) const {}
  /// Writes into cells it can claim; overlays are asked from the topmost down.
  virtual void number(Stage&) const {}
  /// Strokes and marks, from the ground up. Not asked below the tier `paths` where cells are painted as pixels.
  virtual void paint(Stage&) const {}
  virtual void explain(Legend&) const {}
  virtual void show(Screen&) const {}

 protected:
  Overlay(const Overlay&) = default;
  Overlay& operator=(const Overlay&) = default;
  Overlay(Overlay&&) = default;
  Overlay& operator=(Overlay&&) = default;
};

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
