/// @file
/// Which blocked cells to open so that regions meet.
///
/// Units: costs in hundredths.
/// Errors: regions that no opening joins are listed.
/// Cost: one search from all regions at once, about 24 bytes a cell.
/// Threads: any number, nothing is shared.
#pragma once

#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/ground/map.hpp"
#include "saunter/region/regions.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// What it costs to open each cell: 0 where the mover can stand already, `never_opened` where it must not be.
class BreachCosts {
 public:
  static constexpr Cost never_opened = unreached;

  /// From the `breach` of each terrain; void, terrain without a breach and occupied cells are never opened.
  /// @param costs  baked from the map for a mover of size 1  @param occupied  as for bake(); may be null
  BreachCosts(const Map& map, const CostGrid& costs, const BitGrid* occupied = nullptr);
  [[nodiscard]] Cost at(Cell cell) const { return costs_[cell]; }

 private:
  Grid<Cost> costs_;
};

/// An opening between two regions.
struct Join {
  std::uint32_t from = 0;  ///< region numbers, from < to
  std::uint32_t to = 0;
  std::uint64_t cost = 0;   ///< sum of the breach costs of the cells opened
  std::vector<Cell> opens;  ///< blocked cells to open, on the way from the one region to the other
};

struct JoinOptions {
  /// Regions of fewer cells are not joined for their own sake; ways may lead through them for nothing.
  std::uint32_t least_cells = 1;
  /// So many more joins than are needed, the cheapest left, for levels with loops.
  std::size_t extra = 0;
};

struct JoinPlan {
  std::vector<Join> joins;           ///< what connects all that can be connected, cheapest first
  std::vector<Join> extra;           ///< more ways between regions, cheapest first
  std::uint64_t cost = 0;            ///< of `joins`; a cell opened by two of them counts twice
  std::vector<std::uint32_t> apart;  ///< regions that can't be joined to the one with the lowest number
};

/// A minimum spanning forest over the regions under the cheapest breach between them. A breach runs along steps across
/// edges that no barrier or height limit closes in either direction, and along steps the mover can take both ways.
/// Equal costs: the lower region numbers first, then the cells first in reading order.
///
/// Grown from all regions at once; where two meet lies a candidate, and among these is a minimum spanning forest of the
/// whole (Mehlhorn 1988). @pre mover.size == 1; `costs` belong to this map and mover, regions.made_from(costs);
/// else there are no joins
/// @cost O(cells x directions x log), about 24 bytes a cell
[[nodiscard]] JoinPlan plan_joins(const Map& map, const Mover& mover, const CostGrid& costs, const Regions& regions,
                                  const BreachCosts& breach, const JoinOptions& options = {});

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
