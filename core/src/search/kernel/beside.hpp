/// @file
/// What stands beside a cell, and cells of ground as places of a mover.
#pragma once

#include <vector>

#include "../../grid/body.hpp"
#include "saunter/ground/clearance.hpp"
#include "saunter/ground/cost_grid.hpp"

namespace saunter::inline v0_2::detail {

/// Calls visit(place) for each place from which a mover stands beside a cell: one of a single cell where its step there
/// would be legal if the cell were open and all heights the same; a larger one where it does not cover the cell, but
/// one across an edge of it, without a barrier between. Places may come twice.
/// @param open  of a place, also off the map  @param body  scratch. O(cells of the body)
template <typename Open, typename Visit>
void for_each_place_beside(const CostGrid& costs, Cell cell, std::vector<Cell>& body, Open&& open, Visit&& visit) {
  if (!costs.size().contains(cell)) return;
  const Tiling tiling = costs.tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  const auto kind = static_cast<unsigned>(tiling.kind(cell));
  const auto entered = [&](Cell at) { return at == cell || open(at); };
  const int size = costs.mover_size();
  const int directions = size > 1 ? hood.edges : costs.rules().steps;
  for (unsigned d = 0; d < static_cast<unsigned>(directions); ++d) {
    const Cell other = cell + hood.offset[kind][d];
    const Direction back(hood.opposite[kind][d]);
    if (size == 1) {
      if (open(other) && costs.level_step_if(other, back, entered)) visit(other);
      continue;
    }
    if (!costs.size().contains(other) || costs.barred(other, back)) continue;
    for_each_place_over(tiling, other, size, body, [&](Cell place) {
      if (open(place) && !covers(tiling, place, size, cell)) visit(place);
    });
  }
}

/// Cells of ground that a question names, as places of the grid's mover. @return null when they are not of the board's
/// size; the cells themselves for a mover of one cell, else `places`
inline const BitGrid* as_places(const CostGrid& costs, const BitGrid* cells, BitGrid& places) {
  if (cells == nullptr || cells->size() != costs.size()) return nullptr;
  if (costs.mover_size() <= 1) return cells;
  places = places_over(costs.tiling(), *cells, costs.mover_size());
  return &places;
}

}  // namespace saunter::inline v0_2::detail
