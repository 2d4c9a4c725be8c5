/// @file
/// Where cells lie in the game's world, and which cell a world position lies in.
///
/// Units: world units of the caller; cell sizes are edge steps.
/// Errors: positions that are no numbers are in no cell; transforms that can't be inverted become the plain one.
/// Cost: O(1), no allocation.
/// Threads: any number, nothing is shared.
#pragma once

#include <array>
#include <optional>
#include <span>

#include "saunter/grid/point.hpp"
#include "saunter/grid/tiling.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Whether world y grows down with the rows (screens) or up against them (most engines).
enum class WorldY : std::uint8_t { down, up };

/// The corner points of a cell in world units, clockwise on a y-down screen from the topmost (hex pointy, triangle up)
/// or top left one.
struct CellPolygon {
  std::array<Point, 6> points;
  int count = 0;
  [[nodiscard]] auto begin() const { return points.begin(); }
  [[nodiscard]] auto end() const { return points.begin() + count; }
};

/// Maps cells to world positions and back, in O(1) for every tiling, without allocation.
///
/// Inside, positions are counted in *edge steps*: the centres of edge neighbours are 1 apart, x grows to the right,
/// y grows down, and the centre of cell (0,0) is at (0,0) (hexes: of the unshifted line; when line 0 is the shifted
/// one, cell (0,0) lies half a step along it). An affine transform takes edge steps to world units; it may scale,
/// mirror, turn and shear.
///
/// Which cell owns a shared edge: in edge steps, the cell further right; for edges that run left-right, the lower one;
/// flat hexes the other way round (the lower cell, and of two equally low the right one). So each point lies in
/// exactly one cell. The rule is applied to the coordinates after the inverse transform, without tolerance.
class Frame {
 public:
  /// @param cell_size  world units between the centres of edge neighbours; finite, > 0
  /// @param origin     world position of the centre of cell (0,0)
  explicit Frame(Tiling tiling, double cell_size = 1.0, Point origin = {}, WorldY world_y = WorldY::down);
  /// Any affine frame. @pre `to_world` can be inverted
  Frame(Tiling tiling, const Affine& to_world);

  /// The diamond view of isometric games: square cells drawn as diamonds `width` wide and `height` high, columns
  /// running down to the right, rows down to the left. Works for every tiling (the whole plane is sheared).
  [[nodiscard]] static Frame diamond(Tiling tiling, double width, double height, Point origin = {});

  [[nodiscard]] Tiling tiling() const { return tiling_; }
  /// Edge steps to world units.
  [[nodiscard]] const Affine& to_world() const { return to_world_; }

  /// World position of a cell's centre.
  [[nodiscard]] Point centre(Cell cell) const { return to_world_(centre_in_steps(tiling_, cell)); }
  /// World positions of a cell's corners: 4, 6 or 3 of them.
  [[nodiscard]] CellPolygon corners(Cell cell) const;

  /// The cell that holds a world position; it may lie off the map. Positions beyond the range of cells are cut to it;
  /// a position that is not a number gives the cell with the lowest column and row.
  [[nodiscard]] Cell cell_at(Point world) const;
  /// The same, or nothing when the position is off a map of this size.
  [[nodiscard]] std::optional<Cell> cell_at(Point world, Size size) const;

  /// Where the anchor of a dragged footprint comes to lie.
  /// @param pointer  world position of the pointer
  /// @param grip     pointer minus the anchor's centre when the thing was picked up, world units
  /// @param anchor   the anchor's cell when it was picked up: on triangles the result has its orientation, since a
  ///                 footprint of triangles only fits cells that point the same way
  [[nodiscard]] Cell drag_anchor(Point pointer, Point grip, Cell anchor) const;

  /// A cell's centre in edge steps.
  [[nodiscard]] static Point centre_in_steps(Tiling tiling, Cell cell);

 private:
  Tiling tiling_;
  Affine to_world_;
  Affine to_steps_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
