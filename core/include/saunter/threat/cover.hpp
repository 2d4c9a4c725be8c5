/// @file
/// Where to hide.
///
/// Units: levels of danger, costs and weights in hundredths.
/// Errors: nothing where no cell is safe enough.
/// Cost: O(cells looked at) a search; keeps its memory.
/// Threads: one at a time; each thread its own.
#pragma once

#include <memory>
#include <span>

#include "saunter/grid/visible.hpp"
#include "saunter/threat/wary.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// A place to hide.
struct Cover {
  Cell cell;
  Cost cost = 0;  ///< to get there, hundredths; of a CoverFinder the weighed sum
  std::uint16_t level = 0;
  friend bool operator==(const Cover&, const Cover&) = default;
};

/// The cells a unit can reach for at most `budget` whose level is at most `highest`, nearest first (ties: reading
/// order): where to hide. The start is among them if it qualifies. Made from a reach field (`Searcher::reach` with a
/// budget). O(cells)
[[nodiscard]] std::vector<Cover> find_cover(const Field& reach, const Levels& levels, std::uint16_t highest = 0);

/// Which cover is wanted.
struct CoverTerms {
  /// What danger on the way is worth. Linger is not weighed: where to hide must not depend on the way that was taken.
  Wariness care = {};
  /// Cells up to this level are cover.
  std::uint16_t highest = 0;
  /// Levels that decide what is cover; null = those of the way. To hide from some threats only: those of
  /// `ThreatField::levels_of`.
  const Levels* hidden_from = nullptr;
  /// No farther than this weighed sum.
  std::optional<Hundredths> budget = {};
  /// At most so many; at least 1, which 0 counts as.
  std::size_t most = 1;
  /// The lowest level first, then the least weighed sum; else the least sum first. Looks at all within the budget.
  bool safest_first = false;
};

/// Finds cover that is safe to get to. Keeps its memory: after warm-up it allocates nothing.
class CoverFinder {
 public:
  CoverFinder();
  ~CoverFinder();
  CoverFinder(CoverFinder&&) noexcept;
  CoverFinder& operator=(CoverFinder&&) noexcept;

  /// The best cover by the terms, the best first; among equals in reading order. The start counts, at sum 0; empty when
  /// the start can't be used or nothing qualifies. The list lives until the next question.
  /// @pre levels (and those of `hidden_from`) of the grid's size, else cells without a level have level 0
  /// @cost O(cells that weigh less than the farthest cover found), O(cells in reach) with `safest_first`
  std::span<const Cover> find(const CostGrid& costs, const Levels& levels, Cell from, const CoverTerms& terms = {}) &;
  /// The way of least weighed sum to a cell that the last question has settled (each cover is one), from the start on;
  /// empty for others. `exposure_of` takes its measure.
  void path(Cell to, std::vector<Cell>& out) const;

 private:
  class Work;
  std::unique_ptr<Work> work_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
