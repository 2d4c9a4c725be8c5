/// @file
/// The layers of a map that live in files of their own.
#pragma once

#include "fields.hpp"
#include "saunter/ground/map.hpp"

namespace saunter::inline v0_2::io::detail {

/// Each reads the file that the [map] table names and throws ReadFailure; size errors come before memory is taken.
Grid<TerrainId> read_terrain_csv(const std::string& folder, const Fields& map, const std::vector<Terrain>& kinds);
/// @param colors_known  else a colour that no kind has is not told
Grid<TerrainId> read_terrain_png(const std::string& folder, const Fields& map, const std::vector<Terrain>& kinds,
                                 bool colors_known);
/// Where a layer that stands in the scenario itself begins.
struct LayerStart {
  int lines_above = 0;
  int columns_before = 0;  ///< of its first line
};

/// heights, height_csv or height_png (+ height_base), if there. @param start  of heights
void read_heights(const std::string& folder, const Fields& fields, LayerStart start, Map& map);
/// barriers_png, if there.
void read_barriers_png(const std::string& folder, const Fields& fields, Map& map);

}  // namespace saunter::inline v0_2::io::detail
