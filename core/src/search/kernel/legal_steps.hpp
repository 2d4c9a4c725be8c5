/// @file
/// The steps that leave a cell and those that arrive there.
#pragma once

#include <bit>
#include <span>

#include "saunter/ground/cost_grid.hpp"

namespace saunter::inline v0_2::detail {

/// Calls visit(direction) for each direction of a set, the lowest first.
template <typename Visit>
void for_each_direction(unsigned set, Visit&& visit) {
  for (; set != 0; set &= set - 1) visit(static_cast<unsigned>(std::countr_zero(set)));
}

/// The directions from a cell in which neighbours lie that can step into it.
/// @param ground  tells which cells are open and the steps that leave them: the grid, or one with changes
template <typename Ground>
unsigned moves_into(const CostGrid& costs, const Ground& ground, Cell cell) {
  if (!costs.has_sides()) return ground.moves(cell);
  const Neighbourhood& hood = costs.tiling().neighbourhood();
  const auto kind = static_cast<unsigned>(costs.tiling().kind(cell));
  unsigned into = 0;
  for (unsigned d = 0; d < static_cast<unsigned>(costs.rules().steps); ++d) {
    const Cell other = cell + hood.offset[kind][d];
    if (!ground.open(other)) continue;
    if ((unsigned{ground.moves(other)} >> hood.opposite[kind][d] & 1U) != 0) into |= 1U << d;
  }
  return into;
}
inline unsigned moves_into(const CostGrid& costs, Cell cell) { return moves_into(costs, costs, cell); }

/// The directions in which a step can be taken both ways.
inline unsigned two_way_moves(const CostGrid& costs, Cell cell) {
  return costs.has_sides() ? costs.moves(cell) & moves_into(costs, cell) : costs.moves(cell);
}

/// Calls visit(cell) for each cell a step leads to. @param moves  a cost grid's, or those of one with changes
template <typename Visit>
void for_each_next(Tiling tiling, unsigned moves, Cell cell, Visit&& visit) {
  const Neighbourhood& hood = tiling.neighbourhood();
  const auto kind = static_cast<unsigned>(tiling.kind(cell));
  for_each_direction(moves, [&](unsigned d) { visit(cell + hood.offset[kind][d]); });
}

/// What the steps between cells cost one after another. @param entry  EntryCost entry(cell)
/// @param more  what a step in a direction costs beside that
template <typename Entry, typename More>
std::uint64_t cost_of_steps(const CostGrid& costs, std::span<const Cell> cells, Entry&& entry, More&& more) {
  const Tiling tiling = costs.tiling();
  std::uint64_t sum = 0;
  for (std::size_t i = 1; i < cells.size(); ++i) {
    const Direction d = tiling.direction(cells[i - 1], cells[i]);
    sum += step_cost(costs.step_length(tiling.kind(cells[i - 1]), d), entry(cells[i])) + more(d);
  }
  return sum;
}

}  // namespace saunter::inline v0_2::detail
