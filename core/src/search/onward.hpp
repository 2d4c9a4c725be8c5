/// @file
/// Neighbours that need not be looked at because the cell before has reached them at less cost.
#pragma once

#include <array>

#include "kernel/pack.hpp"
#include "saunter/ground/cost_grid.hpp"

namespace saunter::inline v0_2::detail {

/// A cell beside both the place expanded and, across an edge, the one before it was reached from there for the cost of
/// entering it: never costlier than going round. That leaves 3 of 6 neighbours on hexes and 5 of 8 on squares, whatever
/// the entry costs. Where barriers or height limits can close the step from the place before, all are left.
class Onward {
 public:
  static constexpr unsigned from_nowhere = 15;

  /// Fills the table unless it has been filled for such a board before.
  void prepare(const CostGrid& costs) {
    if (steps_ == costs.rules().steps && tiling_ == costs.tiling() && all_ == costs.has_sides()) return;
    steps_ = costs.rules().steps;
    tiling_ = costs.tiling();
    all_ = costs.has_sides();
    for (auto& by_back : wanted_) by_back.fill(static_cast<DirectionSet>((1U << max_directions) - 1));
    if (all_) return;
    const Neighbourhood& hood = tiling_.neighbourhood();
    for (std::int32_t col = 0; col < 2; ++col) {
      for (std::int32_t row = 0; row < 2; ++row) {
        const Cell cell{col, row};
        const auto kind = static_cast<unsigned>(tiling_.kind(cell));
        for (unsigned back = 0; back < static_cast<unsigned>(hood.directions); ++back) {
          const Cell before = cell + hood.offset[kind][back];
          unsigned wanted = 0;
          for (unsigned d = 0; d < static_cast<unsigned>(hood.directions); ++d) {
            if (tiling_.edge_distance(before, cell + hood.offset[kind][d]) > 1) wanted |= 1U << d;
          }
          wanted_[kind][back] = static_cast<DirectionSet>(wanted);
        }
      }
    }
  }
  [[nodiscard]] unsigned of(unsigned kind, unsigned back) const { return wanted_[kind][back & 15U]; }

 private:
  int steps_ = 0;
  bool all_ = false;
  Tiling tiling_;
  std::array<std::array<DirectionSet, 16>, 2> wanted_ = {};
};

}  // namespace saunter::inline v0_2::detail
