/// @file
/// Bodies of movers and the places that cover a cell.
#pragma once

#include <algorithm>
#include <cstdint>
#include <vector>

#include "saunter/grid/area.hpp"

namespace saunter::inline v0_2::detail {

/// How many edge steps lie between a body and a cell; 0 for those it covers. @pre size > 0, 1 on triangles
inline std::int64_t distance_from_body(Tiling tiling, Cell place, int size, Cell cell) {
  if (tiling.shape() != Shape::square) {
    return std::max<std::int64_t>(0, tiling.edge_distance(place, cell) - (size - 1));
  }
  const auto beyond = [size](std::int64_t first, std::int64_t at) {
    return std::max<std::int64_t>({0, first - at, at - (first + size - 1)});
  };
  return beyond(place.col, cell.col) + beyond(place.row, cell.row);
}

inline bool covers(Tiling tiling, Cell place, int size, Cell cell) {
  return distance_from_body(tiling, place, size, cell) == 0;
}

/// Calls visit(place) for each place of a mover that covers a cell, on the map or off it. @param cells  scratch
template <typename Visit>
void for_each_place_over(Tiling tiling, Cell cell, int size, std::vector<Cell>& cells, Visit&& visit) {
  if (tiling.is_hex()) {
    disk_of_cells(tiling, cell, size - 1, cells);
  } else {
    body_cells(tiling, cell + Offset{1 - size, 1 - size}, size, cells);
  }
  for (const Cell place : cells) visit(place);
}

}  // namespace saunter::inline v0_2::detail
