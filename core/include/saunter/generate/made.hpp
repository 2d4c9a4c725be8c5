/// @file
/// What a maker of ground has made: open cells, thin walls, what each cell is, rooms and corridors.
///
/// Units: cells; parts by kind, sides as bits of edge directions.
/// Errors: none; nothing could be made where no cell is open.
/// Cost: two bytes a cell, and the lists; `to_map` O(cells).
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <span>
#include <vector>

#include "saunter/grid/bit_grid.hpp"
#include "saunter/grid/tiling.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost_grid.hpp"
#include "saunter/ground/map.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Boards of more cells are not made.
inline constexpr std::size_t max_made_cells = std::size_t{1} << 28U;

/// What a cell of made ground is.
enum class Part : std::uint8_t {
  beyond,  ///< closed, and touches nothing open: where nothing can be
  wall,    ///< closed, and touches something open
  floor,
  door  ///< open, between a room and a corridor
};

/// Ground as a maker leaves it.
struct Made {
  Tiling tiling;
  Grid<Part> parts;
  /// Thin walls: for each cell a bit for each edge direction that is closed, both ways; empty where there are none.
  Grid<std::uint8_t> closed;
  std::vector<Rect> rooms = {};                   ///< in the order they were put down
  std::vector<std::size_t> visits = {};           ///< numbers of rooms in the order they were joined
  std::vector<std::vector<Cell>> corridors = {};  ///< the cells each passes, in the order they were dug
  std::vector<Cell> doors = {};                   ///< in reading order
  std::size_t asked = 0;                          ///< rooms
  std::size_t dead_ends = 0;                      ///< mazes: cells with one passage

  [[nodiscard]] Size size() const { return parts.size(); }
  [[nodiscard]] bool open(Cell cell) const { return parts[cell] >= Part::floor; }
  [[nodiscard]] bool open_side(Cell cell, Direction d) const { return closed.empty() || !holds(closed[cell], d); }
  /// O(cells).
  [[nodiscard]] std::size_t open_count() const;
};

/// The terrain of each part of a map.
struct PartTerrains {
  TerrainId beyond = 0;
  TerrainId wall = 1;
  TerrainId floor = 2;
  TerrainId door = 2;
};

/// A map of what was made. @pre the terrains are among the kinds, else the map is empty
[[nodiscard]] Map to_map(const Made& made, std::vector<Terrain> kinds, const PartTerrains& terrains);

/// The ground of a mover that steps across edges alone, straight from what was made: `closed` is turned into the grid's
/// steps in place and no map lies between. What was made keeps its parts and loses its thin walls.
/// @cost O(cells), a few nanoseconds a cell; allocates the entry costs, 2 bytes a cell (thin walls on triangles: 4)
[[nodiscard]] CostGrid to_costs(Made&& made, Hundredths entry = 1_steps);

/// The parts of ground of which only the open cells are known: floor where it is open, a wall where a closed cell
/// touches an open one across an edge or a corner, `beyond` elsewhere. O(cells)
[[nodiscard]] Grid<Part> parts_of(Tiling tiling, const BitGrid& open);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
