/// @file
/// Which places a least-cost way can pass at all: dead ends are struck off until none is left.
#pragma once

#include <span>
#include <vector>

#include "changed_moves.hpp"

namespace saunter::inline v0::detail {

/// What is left of a board for one question. A place, neither a start nor a goal, whose legal steps join it to at most
/// one other place lies on no way that meets no place twice: it is struck off, and the one it hung on is looked at next
/// (dead-end filling; the leaves of a graph taken off one by one, as by Kahn 1962). Steps between places that are left
/// stay what they were, so least costs do.
class DeadEnds {
 public:
  /// Strikes off. O(cells), a byte a cell (two on triangles), kept for the next question
  /// @param keep  bool keep(cell): a start or a goal
  template <typename Keep>
  void strike(const CostGrid& costs, const ChangedMoves& ground, Keep&& keep) {
    if (join_up(costs, ground)) {
      chase(costs, narrow_, keep);
    } else {
      chase(costs, wide_, keep);
    }
  }
  /// The directions in which a place that is left is joined to others that are.
  [[nodiscard]] unsigned left(std::uint32_t index) const { return by_bytes_ ? narrow_[index] : wide_[index]; }
  [[nodiscard]] std::size_t memory() const { return bytes_of(narrow_, wide_); }

 private:
  /// Notes for each place the directions in which a step leads away or arrives. @return whether bytes hold them
  bool join_up(const CostGrid& costs, const ChangedMoves& ground);
  template <typename Sets, typename Keep>
  static void chase(const CostGrid& costs, Sets& joined, Keep&& keep);

  std::vector<std::uint8_t> narrow_;
  std::vector<std::uint16_t> wide_;
  bool by_bytes_ = true;
};

/// From each dead end back along the way it lies on, until that forks.
template <typename Sets, typename Keep>
void DeadEnds::chase(const CostGrid& costs, Sets& joined, Keep&& keep) {
  const Size size = costs.size();
  const Tiling tiling = costs.tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  const auto dead = [&](std::uint32_t index) {
    const unsigned set = joined[index];
    return set != 0 && (set & (set - 1)) == 0 && !keep(size.cell(CellIndex{index}));
  };
  const auto count = static_cast<std::uint32_t>(size.cell_count());
  for (std::uint32_t first = 0; first < count; ++first) {
    for (std::uint32_t index = first; dead(index);) {
      const auto d = static_cast<unsigned>(std::countr_zero(static_cast<unsigned>(joined[index])));
      const Cell cell = size.cell(CellIndex{index});
      const auto kind = static_cast<unsigned>(tiling.kind(cell));
      joined[index] = 0;
      index = size.index(cell + hood.offset[kind][d]).value();
      joined[index] = static_cast<typename Sets::value_type>(joined[index] & ~(1U << hood.opposite[kind][d]));
    }
  }
}

}  // namespace saunter::inline v0::detail
