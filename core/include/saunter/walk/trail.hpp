/// @file
/// Where a walker has been, step by step.
///
/// Units: edge steps.
/// Errors: none.
/// Cost: a byte a step; lists of cells are made when asked for.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <algorithm>
#include <span>
#include <vector>

#include "saunter/grid/grid.hpp"
#include "saunter/grid/tiling.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

class Trail {
 public:
  Trail() = default;
  Trail(Board board, Cell from) : board_(board), from_(from) {}

  [[nodiscard]] Cell from() const { return from_; }
  [[nodiscard]] std::size_t steps() const { return steps_.size(); }
  /// The direction of each step, in order.
  [[nodiscard]] std::span<const std::uint8_t> directions() const { return steps_; }
  /// Makes room for more steps: what fails then has changed nothing.
  void make_room(std::size_t more = 1) {
    if (steps_.capacity() - steps_.size() < more) steps_.reserve(std::max({steps_.size() + more, 2 * steps_.size(), std::size_t{64}}));
  }
  /// @pre the directions are ones across edges
  void add(Direction step) { steps_.push_back(static_cast<std::uint8_t>(step.index())); }
  void add(std::span<const std::uint8_t> steps) { steps_.insert(steps_.end(), steps.begin(), steps.end()); }

  /// Calls visit(cell) for every cell in order, the first one too.
  template <typename Visit>
  void for_each_cell(Visit&& visit) const {
    const Neighbourhood& hood = board_.tiling.neighbourhood();
    Cell cell = from_;
    visit(cell);
    for (const std::uint8_t step : steps_) {
      cell = cell + hood.offset[static_cast<unsigned>(board_.tiling.kind(cell))][step];
      visit(cell);
    }
  }
  /// Every cell in order. O(steps)
  [[nodiscard]] std::vector<Cell> cells() const;
  /// The same without its loops: a way from its first to its last cell that meets no cell twice (loop erasure, chronological: Lawler 1980).
  /// O(steps), a byte for each cell of the board
  [[nodiscard]] std::vector<Cell> without_loops() const;
  /// How often each cell was walked on; the start counts once. O(cells + steps)
  [[nodiscard]] Grid<std::uint32_t> counts() const;
  [[nodiscard]] std::size_t memory() const { return steps_.capacity(); }

 private:
  Board board_;
  Cell from_;
  std::vector<std::uint8_t> steps_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
