/// @file
/// The two searches behind `WarySearcher`: with linger and without.
#pragma once

#include <algorithm>
#include <array>

#include "../search/cost_search.hpp"
#include "saunter/threat/wary.hpp"

namespace saunter::inline v0_2 {
namespace detail {

inline constexpr unsigned most_in_a_row = 8;

inline unsigned run_after(unsigned run, std::uint16_t level) {
  return level == 0 ? 0 : std::min(run + 1, most_in_a_row);
}

/// What steps weigh, in hundredths, rounded half up once.
class Scale {
 public:
  explicit Scale(const Wariness& care) : wary_(Length{care.wary}) {
    factor_[0] = 0;
    for (unsigned run = 1; run <= most_in_a_row; ++run) {
      factor_[run] = 100 + std::min<std::uint64_t>(Length{care.linger}, 65'535) * (run - 1);
      most_[run] = cut / factor_[run];
    }
  }
  [[nodiscard]] std::uint64_t operator()(Length length, EntryCost entry, std::uint16_t level, unsigned run) const {
    const std::uint64_t danger = wary_ * level;
    const std::uint64_t weight = danger > most_[run] ? cut : danger * factor_[run];
    return (length * (std::uint64_t{entry} * 100 + weight) + 5000) / 10'000;
  }

 private:
  static constexpr std::uint64_t cut = std::uint64_t{1} << 47U;  // beyond it a step exceeds any sum that fits
  std::uint64_t wary_;
  std::array<std::uint64_t, most_in_a_row + 1> factor_ = {};
  std::array<std::uint64_t, most_in_a_row + 1> most_ = {};  // danger that stays below the cut
};

/// A wary question whose ends can be used.
struct WaryQuestion {
  const CostGrid& costs;
  const Levels& levels;  // of the same size
  Cell from;
  Cell to;
  const WaryOptions& options;

  [[nodiscard]] std::uint64_t bound() const { return options.budget ? Length{*options.budget} : max_cost; }
  /// Why a search that ran dry has no answer.
  [[nodiscard]] Reason reason(bool cut) const {
    return !cut ? Reason::no_way : options.budget ? Reason::over_budget : Reason::cost_overflow;
  }
  /// The nearest of all cells the start can get to, whatever it costs, unless a route leads to the goal.
  [[nodiscard]] std::optional<Cell> nearest_when_apart() const;
};

}  // namespace detail

/// What wary searches work in, kept for the next question.
struct WarySearcher::Memory {
  struct Label {
    std::uint32_t cell = 0;  // packed
    std::uint32_t before = 0;
    Cost cost = 0;  // weighed, hundredths
    std::uint8_t run = 0;
  };
  struct Mark {
    std::uint32_t query = 0;
    Cost best = 0;                // least sum enqueued
    std::uint8_t run = 0;         // its exposed steps in a row
    std::uint8_t expanded = 255;  // fewest exposed steps in a row of those expanded
  };
  // With linger.
  std::vector<Label> labels;
  detail::Zeroed<Mark> marks;
  detail::QueryNumber query;
  detail::LongRing queue;  // of labels, by number
  // Without.
  detail::CostSearch by_cost;
  detail::ChangedMoves ground;  // the grid as it is
  detail::DeadEnds dead_ends;
  detail::Goals goals;
};

}  // namespace saunter::inline v0_2
