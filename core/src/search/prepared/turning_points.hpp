/// @file
/// Where least-cost ways bend on squares of one cost.
#pragma once

#include <algorithm>
#include <array>

#include "place_set.hpp"
#include "saunter/ground/cost_grid.hpp"

namespace saunter::inline v0_2::detail {

/// The cells beside the ends of walls, on boards of one cost with 8 steps and strict corners: open, with a blocked
/// diagonal neighbour between two open ones. Some least-cost way from any cell to any other goes by such cells alone,
/// each of them directly reached from the one before (subgoals; Uras, Koenig, Hernandez 2013): by diagonal steps, then
/// straight ones, over a rhomboid of open cells without another turning point. Found by scanning rows of bits, and
/// columns in a turned copy.
class TurningPoints {
 public:
  TurningPoints() = default;
  /// @pre canonical(costs)
  explicit TurningPoints(const CostGrid& costs);

  [[nodiscard]] const PlaceSet& places() const { return places_; }
  /// Calls visit(place, cost) for every turning point directly reached from an open cell, the cell itself excluded.
  template <typename Visit>
  void for_each_direct(const CostGrid& costs, Cell from, Visit&& visit) const;
  /// Whether the way of diagonal steps first, then straight ones, is legal: a way of least cost on any board.
  [[nodiscard]] static bool straight_way(const CostGrid& costs, Cell from, Cell to);
  [[nodiscard]] std::size_t memory() const { return places_.memory() + free_.memory() + free_turned_.memory(); }

 private:
  [[nodiscard]] static Cell along(Cell from, unsigned edge, std::int32_t steps) {
    switch (edge) {
      case 0: return {from.col, from.row - steps};
      case 1: return {from.col + steps, from.row};
      case 2: return {from.col, from.row + steps};
      default: return {from.col - steps, from.row};
    }
  }
  /// Cells along a line from a cell to the first that is not free; most + 1 when there are that many free ones.
  [[nodiscard]] std::int32_t run(Cell from, unsigned edge, std::int32_t most) const;

  PlaceSet places_;
  BitGrid free_;  // open and no turning point
  BitGrid free_turned_;
};

template <typename Visit>
void TurningPoints::for_each_direct(const CostGrid& costs, Cell from, Visit&& visit) const {
  const Neighbourhood& hood = costs.tiling().neighbourhood();
  const Cost edge_cost = costs.lowest_entry();
  const Cost diagonal_cost = step_cost(costs.step_length(0, 4), costs.lowest_entry());
  std::array<std::int32_t, 4> clear = {};
  for (unsigned edge = 0; edge < 4; ++edge) {
    const std::int32_t steps = run(from, edge, 65'535);
    const Cell end = along(from, edge, steps);
    if (places_.holds(end)) visit(end, static_cast<Cost>(steps) * edge_cost);
    clear[edge] = steps - 1;
  }
  for (unsigned diagonal = 4; diagonal < 8; ++diagonal) {
    // Clockwise from north: ne, se, sw, nw lie between n e, e s, s w, w n.
    const std::array<unsigned, 2> sides = {diagonal - 4, (diagonal - 3) % 4};
    std::array<std::int32_t, 2> most = {clear[sides[0]], clear[sides[1]]};
    Cell cell = from;
    for (Cost cost = diagonal_cost; (costs.moves_on_map(cell) >> diagonal & 1) != 0; cost += diagonal_cost) {
      cell = cell + hood.offset[0][diagonal];
      if (places_.holds(cell)) {
        visit(cell, cost);
        break;
      }
      for (unsigned side = 0; side < 2; ++side) {
        if (most[side] == 0) continue;
        const std::int32_t steps = run(cell, sides[side], most[side]);
        if (steps > most[side]) continue;
        const Cell end = along(cell, sides[side], steps);
        if (places_.holds(end)) visit(end, cost + static_cast<Cost>(steps) * edge_cost);
        most[side] = steps - 1;
      }
    }
  }
}

}  // namespace saunter::inline v0_2::detail
