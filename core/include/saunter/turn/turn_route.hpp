/// @file
/// A way to a far goal over several turns.
///
/// Units: movement points and costs in hundredths.
/// Errors: every no has a verdict.
/// Cost: O(states log states), a state being a cell, a turn and what is spent in it; few a cell.
/// Threads: one at a time; each thread its own.
#pragma once

#include <memory>
#include <span>

#include "saunter/grid/visible.hpp"
#include "saunter/turn/turn_reach.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// A way split into turns. Belongs to its searcher and is overwritten by the next question.
class TurnRoute {
 public:
  [[nodiscard]] bool found() const { return verdict_.reason == Reason::found; }
  [[nodiscard]] const Verdict& verdict() const { return verdict_; }
  [[nodiscard]] std::span<const Cell> cells() const { return cells_; }
  /// The number, among the cells, of the one each turn ends on; the last is the goal's. None when from = to.
  [[nodiscard]] std::span<const std::uint32_t> ends() const { return ends_; }
  [[nodiscard]] std::size_t turns() const { return ends_.size(); }
  /// Points spent in all turns; what a turn leaves unspent is lost and not counted.
  [[nodiscard]] Cost cost() const { return cost_; }
  /// Points spent in the last turn.
  [[nodiscard]] Cost last_turn() const { return last_turn_; }
  [[nodiscard]] std::uint64_t expanded() const { return expanded_; }

 private:
  friend class TurnSearcher;
  Verdict verdict_;
  std::vector<Cell> cells_;
  std::vector<std::uint32_t> ends_;
  Cost cost_ = 0;
  Cost last_turn_ = 0;
  std::uint64_t expanded_ = 0;
};

/// Searches for such ways; owns the scratch memory. One per thread.
class TurnSearcher {
 public:
  TurnSearcher();
  ~TurnSearcher();
  TurnSearcher(TurnSearcher&&) noexcept;
  TurnSearcher& operator=(TurnSearcher&&) noexcept;

  /// The way with the fewest turns, among those the one on which least is spent, among those the one with the least in
  /// the last turn. Each turn takes at most the terms' points, ends on a stop if it enters one, and does not end where
  /// it is passed over. A step dearer than a turn's points is never taken.
  ///
  /// A* over cells with as many states each as are worth keeping: one is dropped when another of the same cell has
  /// spent no more and is in an earlier turn, or has spent no more of the same one (label setting; Martins 1984).
  /// Verdicts as of other searches; a goal that is passed over is `goal-blocked`, since no turn may end there.
  /// @param limit  states expanded at most; at least 1, which 0 counts as
  /// @cost 24 bytes a state, 4 a cell; no allocation after warm-up
  const TurnRoute& route(const CostGrid& costs, Cell from, Cell to, const TurnTerms& terms,
                         std::uint64_t limit = ~std::uint64_t{0}) &;
  const TurnRoute& route(const CostGrid& costs, Cell from, Cell to, const TurnTerms& terms,
                         std::uint64_t limit = ~std::uint64_t{0}) && = delete;

 private:
  class Work;
  std::unique_ptr<Work> work_;
  TurnRoute route_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
