/// @file
/// Sets of cells with a simple shape: straight lines, rings, disks; and turning cells about one another.
///
/// Units: cells; radii and lengths in edge steps.
/// Errors: none: what lies off a map is given all the same, or left out where a block is given.
/// Cost: O(cells given); the caller's list grows, nothing else is allocated.
/// Threads: any number, nothing is shared.
#pragma once

#include <vector>

#include "saunter/grid/tiling.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// How the cells of a line are connected.
enum class LineKind : std::uint8_t {
  edges,   ///< each shares an edge with the next: nothing that steps across edges or squeezes past corners gets through
  corners  ///< squares: diagonal steps too, the thinnest line; other tilings: as edges
};

/// The cells of a straight line from one cell to another, both included, without gaps and without detours: one more
/// than the fewest steps. Squares and hexes: each step leads to the cell whose centre is nearest to the true line;
/// triangles: across the edge that the line crosses. Decided in whole numbers, the first in the fixed order among
/// equals. A line and its reverse hold the same cells.
/// @param out  cleared first; grows only when it must. @cost O(length). @pre both cells within +-2^20 of each other
void line_of_cells(Tiling tiling, Cell from, Cell to, std::vector<Cell>& out, LineKind kind = LineKind::edges);

/// All cells within `radius` edge steps, in reading order; they may lie off the map, but not beyond the range of
/// coordinates. None when the radius is negative. `out` is cleared first. @cost O(radius^2)
void disk_of_cells(Tiling tiling, Cell centre, int radius, std::vector<Cell>& out);
/// The same, only those on a map. @cost O(cells found + rows x log cols)
void disk_of_cells(Tiling tiling, Cell centre, int radius, Size within, std::vector<Cell>& out);
/// The cells exactly `radius` edge steps away, in reading order. @cost O(radius^2)
void ring_of_cells(Tiling tiling, Cell centre, int radius, std::vector<Cell>& out);

/// The cells a mover of a size covers: squares size x size with the cell at the top left, hexes all within size - 1
/// steps, triangles the cell alone; they may lie off the map. In reading order; `out` is cleared first. O(cells)
/// @pre size >= 1, 1 on triangles; else size 1 is taken
void body_cells(Tiling tiling, Cell cell, int size, std::vector<Cell>& out);

/// A cell turned clockwise about another: quarters on squares, sixths on hexes. @pre not a triangle tiling, where
/// nothing is turned; turns >= 0, fewer turn the other way
[[nodiscard]] Cell turned_about(Tiling tiling, Cell cell, Cell centre, int turns);

/// How many turns lead back to the start: 4, 6, 1.
[[nodiscard]] constexpr int full_turn(Tiling tiling) {
  if (tiling.shape() == Shape::square) return 4;
  return tiling.is_hex() ? 6 : 1;
}

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
