/// @file
/// The map as its makers paint it: terrain, heights and barriers. Searches never see it; they read a `CostGrid`.
///
/// Units: heights in the map's own units, costs in hundredths.
/// Errors: off the map there is nothing: reading answers, changes return false.
/// Cost: O(1) a cell; 1 to 4 bytes a cell, allocated as layers are first used.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "saunter/grid/grid.hpp"
#include "saunter/grid/tiling.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Number of a terrain kind within its map.
using TerrainId = std::uint8_t;
inline constexpr std::size_t max_terrain_kinds = 256;

/// A colour, 8 bits a channel.
struct Rgb {
  std::uint8_t red = 0;
  std::uint8_t green = 0;
  std::uint8_t blue = 0;
  friend constexpr bool operator==(Rgb, Rgb) = default;
};

/// One kind of ground. `glyph` and `color` are carried for files and pictures; no answer depends on them.
struct Terrain {
  std::string name = {};
  EntryCost cost = 100;              ///< for movers that do not override it; `blocked` = cannot be entered
  bool opaque = false;               ///< hides what lies behind
  bool is_void = false;              ///< not part of the world: never enterable, never opened by joins
  std::optional<Cost> breach = 100;  ///< cost of opening one such cell; nothing = never
  char32_t glyph = U'?';
  Rgb color = {};
};

/// Terrain, heights and barriers of one board.
///
/// Memory: 1 byte a cell, 2 more with heights, 1 more with barriers. Every change bumps `revision()`; whoever keeps
/// something baked from the map compares it, and repairs from the changed cells. Reading off the map is answered:
/// terrain kind 0, height 0, no barriers. Changes off the map, of kinds there are not and of layers of another size do
/// nothing and return false. When a change throws, nothing is different. A map moved from is empty.
class Map {
 public:
  Map() = default;
  Map(const Map&) = default;
  Map(Map&&) noexcept = default;
  Map& operator=(const Map& other) { return *this = Map(other); }
  Map& operator=(Map&&) noexcept = default;
  ~Map() = default;
  /// A map of terrain kind 0. @pre 1 <= kinds.size() <= max_terrain_kinds, else the map is empty; a sound size
  Map(Board board, std::vector<Terrain> kinds);

  [[nodiscard]] Board board() const { return {tiling_, terrain_.size()}; }
  [[nodiscard]] Tiling tiling() const { return tiling_; }
  [[nodiscard]] Size size() const { return terrain_.size(); }
  [[nodiscard]] std::uint64_t revision() const { return revision_; }

  [[nodiscard]] const std::vector<Terrain>& kinds() const { return kinds_; }
  /// The last one when there are not so many.
  [[nodiscard]] const Terrain& kind(TerrainId id) const;
  /// The terrain kind of that name. O(kinds).
  [[nodiscard]] std::optional<TerrainId> find_kind(std::string_view name) const;

  [[nodiscard]] const Grid<TerrainId>& terrain() const { return terrain_; }
  [[nodiscard]] TerrainId terrain_at(Cell cell) const { return terrain_[cell]; }
  bool set_terrain(Cell cell, TerrainId id);
  /// Replaces the whole layer. O(cells)
  bool set_all_terrain(Grid<TerrainId> terrain);

  /// Heights in whole units of the game's own; 0 everywhere until the first is set.
  [[nodiscard]] bool has_heights() const { return !heights_.empty(); }
  [[nodiscard]] std::int16_t height_at(Cell cell) const { return heights_.empty() ? std::int16_t{0} : heights_[cell]; }
  [[nodiscard]] const Grid<std::int16_t>& heights() const { return heights_; }
  bool set_height(Cell cell, std::int16_t height);
  /// Replaces the whole layer.
  bool set_all_heights(Grid<std::int16_t> heights);

  /// Barriers: for each cell the edge directions one cannot leave it by.
  [[nodiscard]] bool has_barriers() const { return !closed_.empty(); }
  [[nodiscard]] DirectionSet closed_sides(Cell cell) const { return closed_.empty() ? DirectionSet{0} : closed_[cell]; }
  /// The same for all cells; 0 x 0 while there is none.
  [[nodiscard]] const Grid<std::uint8_t>& closed_layer() const { return closed_; }
  [[nodiscard]] bool closed(Cell from, Direction edge) const {
    return edge >= 0 && edge < max_directions && holds(closed_sides(from), edge);
  }
  /// Closes or opens the way from a cell across one of its edges (the other way stays as it is).
  /// Edges of the map's rim have no barriers, nor have directions that are no edges: the call does nothing there.
  bool set_closed(Cell from, Direction edge, bool closed = true);
  /// Replaces the whole layer: for each cell a bit for each edge direction. Bits on the map's rim and beyond the edges
  /// are dropped.
  bool set_all_closed(Grid<std::uint8_t> closed);
  /// Closes an edge both ways.
  bool add_barrier(Cell from, Direction edge);

 private:
  Tiling tiling_;
  std::vector<Terrain> kinds_;
  Grid<TerrainId> terrain_;
  Grid<std::int16_t> heights_;
  Grid<std::uint8_t> closed_;
  std::uint64_t revision_ = 0;
};

/// How many cells have each kind of terrain, by its id. O(cells)
[[nodiscard]] std::vector<std::size_t> cells_of_each_kind(const Map& map);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
