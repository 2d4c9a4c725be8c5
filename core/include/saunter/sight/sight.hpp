/// @file
/// Who sees what.
///
/// Units: cells; ranges in edge steps.
/// Errors: nothing sees or is seen off the map.
/// Cost: O(cells on a line), O(cells seen) all round.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "saunter/grid/bit_grid.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/ground/map.hpp"
#include "saunter/sight/range.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Which cells of a board hide what lies behind them.
///
/// A cell sees another when the straight line between their centres crosses the inside of no opaque cell but the two
/// themselves, and squeezes past no point or edge with an opaque cell on either side. There the rim of the map counts
/// as opaque beside an opaque cell. Decided in whole numbers; the same seen from both ends; every cell sees itself.
///
/// Memory: a bit a cell, and two (squares) or three more (hexes, triangles) for rows along each axis. Reading is
/// `const` and may happen in any number of threads at once.
class SightGrid {
 public:
  SightGrid() = default;
  /// Nothing is opaque. O(cells)
  explicit SightGrid(Board board);
  /// @pre opaque.size() == board.size, else nothing is opaque beyond it. O(cells)
  SightGrid(Board board, const BitGrid& opaque);

  [[nodiscard]] Board board() const { return {tiling_, opaque_.size()}; }
  [[nodiscard]] Size size() const { return opaque_.size(); }
  /// No off the map.
  [[nodiscard]] bool opaque(Cell cell) const { return opaque_.test(cell); }
  [[nodiscard]] const BitGrid& opaque_cells() const { return opaque_; }
  /// O(1). Does nothing off the map.
  void set_opaque(Cell cell, bool opaque);
  /// Rises with every change.
  [[nodiscard]] std::uint64_t revision() const { return revision_; }

 private:
  friend class Lookout;

  Tiling tiling_;
  BitGrid opaque_;
  std::array<BitGrid, 3> clear_;  // cells that hide nothing, a row for each line of cells across an axis
  std::array<Cell, 3> origin_;    // least column and row of those
  std::uint64_t revision_ = 0;
};

/// The cells whose terrain is opaque. O(cells).
[[nodiscard]] BitGrid opaque_terrain(const Map& map);

/// The cells of void terrain, where nothing can be. O(cells).
[[nodiscard]] BitGrid void_terrain(const Map& map);

/// What hides one cell from another: the first opaque cell that the line crosses or that it squeezes past, seen from
/// `a`; nothing when they see each other. O(cells on the line), no allocation. From or to a cell off the map: that cell
[[nodiscard]] std::optional<Cell> hidden_by(const SightGrid& grid, Cell a, Cell b);
/// Whether two cells see each other; never off the map. O(cells on the line), no allocation.
[[nodiscard]] inline bool sees(const SightGrid& grid, Cell a, Cell b) { return !hidden_by(grid, a, b); }

/// Finds all that is seen from a cell; owns its scratch memory. One per thread.
class Lookout {
 public:
  /// The cells seen from a cell, opaque ones that are seen included, in a fixed order that begins with the cell itself.
  ///
  /// Sweeps rows of cells outward in four or six sectors and keeps the directions still open as exact fractions
  /// (shadow casting, with open shadows: a direction that only touches stays open; those that squeeze between two cells
  /// are followed by exact lines). Same answers as `sees` for each cell.
  ///
  /// @param range  straight, in edge steps (`7.5_steps`); nothing = as far as the map goes
  /// @param out  cleared first; grows only when it must
  /// @cost O(cells seen + rows x gaps between shadows); no allocation after warm-up. Nothing is seen from off the map
  void visible(const SightGrid& grid, Cell from, std::optional<Hundredths> range, std::vector<Cell>& out);

 private:
  class Sweep;
  /// A direction, as steps aside for steps ahead.
  struct Slope {
    std::int32_t aside = 0;
    std::int32_t ahead = 1;
  };
  /// Directions from one to another, both included.
  struct Gap {
    Slope low;
    Slope high;
  };
  std::vector<Gap> gaps_;
  std::vector<Gap> next_gaps_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
