/// @file
/// Which places a least-cost way can pass at all: dead ends are struck off until none is left.
#pragma once

#include <bit>
#include <span>
#include <vector>

#include "changed_moves.hpp"
#include "pack.hpp"

namespace saunter::inline v0_2::detail {

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

/// From each dead end back along the way it lies on, until that forks. Cells go by number and packed: no division.
template <typename Sets, typename Keep>
void DeadEnds::chase(const CostGrid& costs, Sets& joined, Keep&& keep) {
  using Set = typename Sets::value_type;
  const Size size = costs.size();
  const Tiling tiling = costs.tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  const StepTable steps(costs.board());
  Set* const sets = joined.data();
  std::uint32_t number = 0;
  for (std::int32_t row = 0; row < size.rows; ++row) {
    for (std::int32_t col = 0; col < size.cols; ++col, ++number) {
      std::uint32_t index = number;
      std::uint32_t packed = pack({col, row});
      for (unsigned set = sets[index]; set != 0 && (set & (set - 1)) == 0; set = sets[index]) {
        const Cell cell = unpack(packed);
        if (keep(cell)) break;
        const auto d = static_cast<unsigned>(std::countr_zero(set));
        const auto kind = static_cast<unsigned>(tiling.kind(cell));
        sets[index] = 0;
        index += steps.index[kind][d];
        packed += steps.packed[kind][d];
        sets[index] = static_cast<Set>(sets[index] & ~(1U << hood.opposite[kind][d]));
      }
    }
  }
}

}  // namespace saunter::inline v0_2::detail
