/// @file
/// Ways through danger and doors that change with time: over cells and ticks, with waiting.
///
/// Units: ticks, costs and weights in hundredths.
/// Errors: every no has a verdict.
/// Cost: O(states log states), a state being a cell at a tick; ticks that are alike for ever count once.
/// Threads: one at a time; each thread its own.
#pragma once

#include <limits>
#include <memory>
#include <optional>
#include <span>
#include <vector>

#include "saunter/grid/borrowed.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/threat/schedule.hpp"
#include "saunter/threat/wary.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// A cell that nothing can stand on from one tick to before another, such as a door while it is shut.
struct Closure {
  Cell cell = {};
  std::uint32_t from = 0;
  std::uint32_t until = std::numeric_limits<std::uint32_t>::max();
  std::uint32_t repeat = 0;  ///< the same again every so many ticks, at least `until`; 0 = once

  [[nodiscard]] bool shut(std::uint64_t tick) const {
    const std::uint64_t now = repeat == 0 ? tick : tick % repeat;
    return now >= from && now < until;
  }
};

struct TimedOptions {
  Hundredths wary = 1_steps;                  ///< what a level weighs, as in Wariness
  std::optional<std::uint16_t> highest = {};  ///< no cell is entered, or waited on, at a tick at which it is above
  Hundredths waiting = 1_steps;               ///< what a tick of waiting costs; at least 0.01, which 0 counts as
  std::uint32_t begin = 0;                    ///< the tick at which the unit stands on its start
  std::optional<Hundredths> budget = {};      ///< give up beyond this weighed sum
  std::uint64_t most_ticks = 100'000;         ///< arrive after at most so many
  std::uint64_t limit = std::numeric_limits<std::uint64_t>::max();  ///< states expanded at most; at least 1
  Borrowed<Closure> closures = {};  ///< cells of ground: a large mover can't stand where it covers one that is shut
};

/// A way by ticks. Belongs to its searcher and is overwritten by the next question.
class TimedRoute {
 public:
  [[nodiscard]] bool found() const { return verdict_.reason == Reason::found; }
  [[nodiscard]] const Verdict& verdict() const { return verdict_; }
  /// Where it stands at each tick from the first on; the same cell again is a tick of waiting.
  [[nodiscard]] std::span<const Cell> cells() const { return cells_; }
  [[nodiscard]] std::size_t ticks() const { return cells_.empty() ? 0 : cells_.size() - 1; }
  [[nodiscard]] std::size_t waits() const { return waits_; }
  [[nodiscard]] Cost cost() const { return cost_; }                   ///< of its steps, without waiting and danger
  [[nodiscard]] std::uint64_t exposure() const { return exposure_; }  ///< sum of level x length, hundredths
  [[nodiscard]] Cost weighed() const { return weighed_; }             ///< what is least
  [[nodiscard]] std::uint64_t expanded() const { return expanded_; }

 private:
  friend class TimedSearcher;
  Verdict verdict_;
  std::vector<Cell> cells_;
  std::size_t waits_ = 0;
  Cost cost_ = 0;
  std::uint64_t exposure_ = 0;
  Cost weighed_ = 0;
  std::uint64_t expanded_ = 0;
};

/// Searches over cells and ticks; owns the scratch memory. One per thread.
class TimedSearcher {
 public:
  TimedSearcher();
  ~TimedSearcher();
  TimedSearcher(TimedSearcher&&) noexcept;
  TimedSearcher& operator=(TimedSearcher&&) noexcept;

  /// The way of least weighed sum. Every step takes one tick: from tick t it arrives at t + 1 and weighs
  /// length x (entry cost + wary x the level there at t + 1); a tick of waiting weighs `waiting` and wary x that level.
  /// Each is rounded half up once; the start adds nothing. A step is judged on the ground of the tick it sets out in,
  /// and the cell it leads to must be open in the tick it arrives; so must one that is waited on. Who stands on a cell
  /// when it is shut can't have waited for it: such states are not reached.
  ///
  /// Verdicts as of other searches; `over-budget` when only the budget left places out, `stopped` when the limit or
  /// `most_ticks` did. A start that is shut at its tick is `start-blocked`. (A* over cells and ticks; Silver 2005.)
  /// @pre danger of the grid's board (or without threats), else there is none
  /// @cost 24 bytes a state and 24 for each known cell and tick; no allocation after warm-up
  const TimedRoute& route(const CostGrid& costs, const TimedDanger& danger, Cell from, Cell to,
                          const TimedOptions& options = {}) &;
  const TimedRoute& route(const CostGrid& costs, const TimedDanger& danger, Cell from, Cell to,
                          const TimedOptions& options = {}) && = delete;

 private:
  class Work;
  std::unique_ptr<Work> work_;
  TimedRoute route_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
