/// @file
/// The most that a mover's body lies on.
#pragma once

#include <algorithm>

#include "saunter/ground/cost_grid.hpp"
#include "sweep.hpp"

namespace saunter::inline v0_2::detail {

/// For each place of a block the largest value of the cells that a mover of a size covers there.
/// @param value  T of a cell on the board  @param outside  what cells off the board count as  @param found  shown each
/// place of the block with its largest. @pre size > 1, and not a triangle tiling. O(cells of the block grown x log
/// size)
template <typename T, typename Value, typename Found>
void most_under_body(Board board, Rect places, int size, T outside, Value&& value, Found&& found) {
  // A body that leads further than the map is as good as one that ends with it.
  size = std::min(size, 2 * std::max(board.size.cols, board.size.rows) + 1);
  const Body body = Body::of(board.tiling, size);
  Patch<T> most(grown_freely(places, size), outside);
  for_each_cell(most.rect().grown(0, board.size), [&](Cell cell) { *most.at(cell) = value(cell); });
  sweep(most, board.tiling, body, outside, [](T a, T b) { return std::max(a, b); });
  for_each_run(board.tiling, places, [&](Run run) {
    const Offset to_base = leap(board.tiling, run.kind, body.base_direction, body.base_steps);
    const T* const from = most.at({to_base.cols, run.row + to_base.rows});
    for (std::int32_t col = run.first; col < run.last; col += run.apart) found(Cell{col, run.row}, from[col]);
  });
}

/// What places of a large mover cost on other ground: shows found(place, EntryCost) each of a block.
/// @param ground  EntryCost of a cell of the map
template <typename GroundCost, typename Found>
void place_costs(const CostGrid& costs, Rect places, GroundCost&& ground, Found&& found) {
  // One less than the cost: so `blocked` is the largest of all.
  most_under_body(
      costs.board(), places, costs.mover_size(), std::uint16_t{65'535},
      [&](Cell cell) { return static_cast<std::uint16_t>(ground(cell) - 1U); },
      [&](Cell place, std::uint16_t most) {
        found(place, costs.split(place) ? blocked : static_cast<EntryCost>(most + 1U));
      });
}

/// For each place the largest value of the cells that a mover of a size covers there; off the map counts as T{}.
/// O(cells x log size). @pre size > 1, and not a triangle tiling
template <typename T>
Grid<T> most_under_body(Tiling tiling, const Grid<T>& values, int size) {
  Grid<T> largest(values.size());
  most_under_body(
      Board{tiling, values.size()}, Rect::whole(values.size()), size, T{}, [&](Cell cell) { return values[cell]; },
      [&](Cell cell, T most) { largest[cell] = most; });
  return largest;
}

}  // namespace saunter::inline v0_2::detail
