/// @file
/// Walking a way cell by cell.
#pragma once

#include <catch2/catch.hpp>
#include <span>

#include "saunter/ground/cost_grid.hpp"

namespace saunter::test {

/// Walks a route and adds up its cost; fails the test at the first step that is not legal.
inline std::uint64_t walk(const CostGrid& costs, std::span<const Cell> cells) {
  std::uint64_t sum = 0;
  for (std::size_t i = 1; i < cells.size(); ++i) {
    const Direction d = costs.tiling().direction(cells[i - 1], cells[i]);
    REQUIRE(d >= 0);
    REQUIRE(((costs.moves(cells[i - 1]) >> d) & 1U) == 1);
    sum += costs.cost_of_step(cells[i - 1], d);
  }
  return sum;
}

/// Eighths or sixths of a turn between two directions, squares and hexes.
inline int turned_by(Tiling tiling, Direction from, Direction to) {
  const bool square = tiling.shape() == Shape::square;
  const int full = square ? 8 : 6;
  const auto angle = [&](Direction d) { return !square ? d : d < 4 ? 2 * d : 2 * (d - 4) + 1; };
  const int apart = (angle(to) - angle(from) + full) % full;
  return std::min(apart, full - apart);
}

}  // namespace saunter::test
