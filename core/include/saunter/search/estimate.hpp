/// @file
/// What a route must cost at least: the estimate that guides A*.
///
/// Units: hundredths.
/// Errors: none: it is a lower bound of every legal path, or 0.
/// Cost: O(1), no allocation.
/// Threads: any number, nothing is shared.
#pragma once

#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost_grid.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// The least cost from a cell to a goal on an open board on which every entry costs as little as the cheapest of the
/// grid: the exact least sum of *rounded* step costs (unrounded lengths would overestimate). It never exceeds the true
/// cost and is consistent, so A* expands no place twice.
class Estimate {
 public:
  /// Reads the grid's cheapest cost and rules; keeps no reference. A grid with nowhere to stand gives 0 everywhere.
  Estimate(const CostGrid& costs, Cell goal);
  /// The same for a board whose cheapest cell costs `cheapest`. With 100 it is the exact distance for a mover's steps,
  /// in hundredths of an edge step.
  Estimate(Tiling tiling, const StepRules& rules, EntryCost cheapest, Cell goal);

  /// Least cost from a cell to the goal, hundredths. O(1). The cell may lie off the map.
  [[nodiscard]] std::uint64_t operator()(Cell from) const;

 private:
  [[nodiscard]] std::uint64_t on_triangles(Cell from) const;
  [[nodiscard]] std::uint64_t between_alike(std::int64_t a, std::int64_t b, std::int64_t c) const;

  Tiling tiling_;
  Cell goal_;
  bool across_corners_ = false;
  std::uint64_t edge_ = 0;        // cost of an edge step
  std::uint64_t corner_ = 0;      // square diagonal, or the nearer corner step of a triangle
  std::uint64_t far_corner_ = 0;  // the farther one
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
