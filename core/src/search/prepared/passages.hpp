/// @file
/// The cells of a board that are not inside a passage, and the passages between them.
#pragma once

#include <array>

#include "place_set.hpp"
#include "saunter/ground/cost_grid.hpp"

namespace saunter::inline v0_2::detail {

/// Cells with exactly two ways on, both of which can be gone both ways, lie inside a passage; all other open cells, and
/// one in 32 of long passages, are places. For boards of every kind.
class Passages {
 public:
  static constexpr int most_steps = 32;

  Passages() = default;
  explicit Passages(const CostGrid& costs);
  [[nodiscard]] const PlaceSet& places() const { return places_; }

  [[nodiscard]] std::size_t memory() const { return places_.memory(); }

  /// What going along a passage, or a single step, costs one way and back; `unreached` where it can't be gone.
  struct Walk {
    Cell end;
    Cost there = 0;
    Cost back = 0;
    unsigned arriving = 0;  ///< the direction of the step back from the end
  };
  /// From a cell in a direction in which a step is legal one way or the other, to the first place.
  /// @param passed  called with each cell inside the passage and what getting there and back costs
  template <typename Passed>
  [[nodiscard]] static Walk walk(const CostGrid& costs, const PlaceSet& places, Cell from, unsigned direction,
                                 Passed&& passed);

 private:
  PlaceSet places_;
};

template <typename Passed>
Passages::Walk Passages::walk(const CostGrid& costs, const PlaceSet& places, Cell from, unsigned direction,
                              Passed&& passed) {
  const Tiling tiling = costs.tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  Walk walk{from};
  bool leaves = true;
  bool returns = true;
  std::uint64_t there = 0;
  std::uint64_t back = 0;
  for (;;) {
    const auto kind = static_cast<unsigned>(tiling.kind(walk.end));
    const Cell next = walk.end + hood.offset[kind][direction];
    const Length length = costs.step_length(static_cast<int>(kind), static_cast<int>(direction));
    walk.arriving = hood.opposite[kind][direction];
    leaves = leaves && (costs.moves(walk.end) >> direction & 1) != 0;
    returns = returns && (costs.moves(next) >> walk.arriving & 1) != 0;
    there += step_cost(length, costs.entry(next));
    back += step_cost(length, costs.entry(walk.end));
    walk.end = next;
    walk.there = leaves && there <= max_cost ? static_cast<Cost>(there) : unreached;
    walk.back = returns && back <= max_cost ? static_cast<Cost>(back) : unreached;
    if (places.holds(next)) return walk;
    passed(walk);
    direction = static_cast<unsigned>(std::countr_zero(costs.moves(next) & ~(1U << walk.arriving)));
  }
}

}  // namespace saunter::inline v0_2::detail
