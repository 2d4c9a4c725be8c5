/// @file
/// Painting terrain on a map. Every call returns the cells it really changed, so that whatever was baked from the map
/// can repair itself from them.
///
/// Units: cells.
/// Errors: off the map nothing is painted; when a call throws, nothing has changed.
/// Cost: O(cells painted or looked at); the list of changed cells.
/// Threads: one at a time; each thread its own.
#pragma once

#include <optional>
#include <vector>

#include "saunter/grid/area.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/ground/map.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// The cells a call changed, each once, and the block that holds them (what `rebake` takes).
struct Painted {
  std::vector<Cell> cells;
  Rect block;
};

/// Parts off the map, and terrain the map does not have, are left out everywhere. Cells that already have the terrain
/// do not count as changed. When a call throws, nothing has been painted.
Painted paint_cell(Map& map, Cell cell, TerrainId id);
/// A line without gaps between two pointer positions' cells, as `line_of_cells` draws it.
Painted paint_line(Map& map, Cell from, Cell to, TerrainId id, LineKind kind = LineKind::edges);
Painted paint_rect(Map& map, Rect rect, TerrainId id);
/// All cells within `radius` edge steps.
Painted paint_disk(Map& map, Cell centre, int radius, TerrainId id);
/// The patch of equal terrain that a cell belongs to, joined across edges. Nothing when the cell is off the map.
/// @cost O(cells of the patch), and a bit for each cell of the map
Painted paint_flood(Map& map, Cell start, TerrainId id);
/// Puts a small piece of terrain on the map, its top left cell at `at`. On hexes the piece keeps its look wherever it
/// is put; on triangles `at` must point the way the piece's top left cell does (`piece_tiling` says which). @pre the
/// tilings have one shape; else nothing is painted
/// @param leave_out  a terrain of the piece that is not painted: its holes
Painted paint_stamp(Map& map, const Grid<TerrainId>& piece, Tiling piece_tiling, Cell at,
                    std::optional<TerrainId> leave_out = std::nullopt);

/// A hexagonal board of hexes: all cells within `radius` steps of the middle one (radius,radius); the corners of the
/// rectangle around it are of kind `outside`, which should be void. The rest is kind `inside`.
[[nodiscard]] Map hexagon_map(HexTop top, int radius, std::vector<Terrain> kinds, TerrainId inside, TerrainId outside);
/// A triangular board of triangles, point up, `side` triangles along each edge, in a rectangle of 2 x side - 1 columns.
[[nodiscard]] Map triangle_map(int side, std::vector<Terrain> kinds, TerrainId inside, TerrainId outside);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
