/// @file
/// Routes that weigh danger against distance.
///
/// Units: costs and weights in hundredths.
/// Errors: every no has a verdict.
/// Cost: O(states), scratch is kept.
/// Threads: one at a time; each thread its own.
#pragma once

#include <limits>
#include <memory>
#include <optional>
#include <span>
#include <vector>

#include "saunter/grid/grid.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/search/field.hpp"
#include "saunter/threat/levels.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// What danger is worth to a unit.
struct Wariness {
  /// Steps that one level weighs: a step of length l into a cell of entry cost e and level v weighs l x (e + wary x v).
  Hundredths wary = 1_steps;
  /// By how much a level weighs more for each exposed step in a row before this one, up to 7: the level counts
  /// (1 + linger x (k - 1)) times on the k-th. A step into a cell of level 0 starts anew; the start counts for nothing.
  /// 0 .. 655.35; more counts as that
  Hundredths linger = {};
  /// Cells above this level are not entered (their corners may be passed). The start may be.
  std::optional<std::uint16_t> highest = {};
};

struct WaryOptions {
  Wariness care = {};
  /// Give up beyond this weighed sum.
  std::optional<Hundredths> budget = {};
  /// Expand at most so many states; at least 1, which 0 counts as.
  std::uint64_t limit = std::numeric_limits<std::uint64_t>::max();
  /// Exposed steps in a row that the unit has behind it when it sets out (matters with linger; 8 and more are alike).
  std::uint32_t exposed_before = 0;
  /// Strike off all dead ends first, as Algorithm::dead_ends does. @pre care.linger == 0, else it is not done: turning
  /// back in one can then pay
  bool strike_dead_ends = false;
};

/// What a route costs and how much of it is exposed (in cells of level above 0; the start does not count).
struct Exposure {
  std::uint64_t cost = 0;          ///< of travel alone, hundredths
  std::uint64_t exposure = 0;      ///< sum of level x length, hundredths
  std::uint64_t weighed = 0;       ///< what a wary search minimises, hundredths
  std::uint32_t longest = 0;       ///< most exposed steps in a row
  std::uint64_t longest_cost = 0;  ///< what the costliest exposed stretch costs to travel, hundredths
  std::uint32_t exposed_steps = 0;
  std::uint32_t covered_steps = 0;  ///< into cells of level 0
  friend bool operator==(const Exposure&, const Exposure&) = default;
};

/// Takes the measure of any route. O(cells). @pre cost_of_path(costs, cells), else steps that are none count nothing;
/// levels of the same size
/// @param exposed_before  as in WaryOptions: what is weighed counts on from there
[[nodiscard]] Exposure exposure_of(const CostGrid& costs, const Levels& levels, std::span<const Cell> cells,
                                   const Wariness& care = {}, std::uint32_t exposed_before = 0);

/// The answer of a wary search. Belongs to the searcher and is overwritten by its next question.
class WaryRoute {
 public:
  [[nodiscard]] bool found() const { return verdict_.reason == Reason::found; }
  [[nodiscard]] const Verdict& verdict() const { return verdict_; }
  [[nodiscard]] std::span<const Cell> cells() const { return cells_; }
  [[nodiscard]] std::size_t steps() const { return cells_.empty() ? 0 : cells_.size() - 1; }
  [[nodiscard]] const Exposure& measure() const { return measure_; }
  [[nodiscard]] std::uint64_t expanded() const { return expanded_; }

 private:
  friend class WarySearcher;
  Verdict verdict_;
  std::vector<Cell> cells_;
  Exposure measure_;
  std::uint64_t expanded_ = 0;
};

/// Searches that weigh danger; owns the scratch memory. One per thread.
class WarySearcher {
 public:
  WarySearcher();
  ~WarySearcher();
  WarySearcher(WarySearcher&&) noexcept;
  WarySearcher& operator=(WarySearcher&&) noexcept;

  /// The route of least weighed sum (A* over states and, with linger, the number of exposed steps in a row: a state
  /// reached later but after fewer of them is kept, so that no branch pays for another's exposure).
  ///
  /// Verdicts as for other searches; a goal above the highest level is `goal-blocked`. Deterministic.
  /// @pre levels.size() == costs.size(), else cells without a level have level 0
  /// @cost O(states); 4 bytes a cell (8 more once sums exceed 167,772) and 12 for each that waits; with linger 12 a
  /// cell, 16 for each state reached and 12 for each that waits. No allocation after warm-up
  const WaryRoute& route(const CostGrid& costs, const Levels& levels, Cell from, Cell to,
                         const WaryOptions& options = {}) &;
  const WaryRoute& route(const CostGrid& costs, const Levels& levels, Cell from, Cell to,
                         const WaryOptions& options = {}) && = delete;
  /// Bytes of scratch memory kept for the next question. It only grows.
  [[nodiscard]] std::size_t memory() const;

 private:
  struct Memory;
  class Weighing;
  class Lingering;

  std::unique_ptr<Memory> memory_;
  WaryRoute route_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
