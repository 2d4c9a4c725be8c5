/// @file
/// What the fast searches behind `Searcher::route` are asked and how they answer.
#pragma once

#include <array>
#include <limits>
#include <span>

#include "kernel/dead_ends.hpp"
#include "kernel/ends.hpp"
#include "kernel/legal_steps.hpp"
#include "kernel/pack.hpp"
#include "saunter/search/query.hpp"

namespace saunter::inline v0_2::detail {

/// What a question has beyond one goal and the board as it is; what it does not have costs nothing.
struct Beyond {
  const ChangedMoves& ground;           ///< other entry costs for this question, perhaps none
  const Goals& goals;                   ///< where it may arrive, perhaps nowhere
  Rect changed = {};                    ///< elsewhere entries and steps are the board's own, also those of neighbours
  const DeadEnds* dead_ends = nullptr;  ///< struck off, unless null

  [[nodiscard]] unsigned moves(const CostGrid& costs, Cell cell) const {
    const unsigned legal = changed.contains(cell) ? ground.moves(cell) : costs.moves_on_map(cell);
    return dead_ends == nullptr ? legal : legal & dead_ends->left(costs.size().index(cell).value());
  }
  /// Whether a board on which every entry costs the same stays one.
  [[nodiscard]] bool keeps_one_cost(const CostGrid& costs) const {
    return ground.lowest_entry() == costs.lowest_entry() && ground.highest_entry() == costs.highest_entry();
  }
};

/// A step that costs `more` hundredths an edge length beside what the cell costs to enter. Rounded half up, as
/// step_cost. @pre more is the product of a number of 32 bits and one of 16, so that nothing overflows
inline std::uint64_t weighed_step(Length length, EntryCost entry, std::uint64_t more) {
  return (std::uint64_t{length} * (entry + more) + 50) / 100;
}

/// Danger that steps weigh beside what it costs to enter a cell: a step of length l into a cell of level v costs
/// l x `wary` x v more, rounded with the rest.
struct Danger {
  std::span<const std::uint16_t> level;
  std::uint64_t wary = 0;                                             ///< hundredths a level
  std::uint16_t highest = std::numeric_limits<std::uint16_t>::max();  ///< cells above it are not entered
};

class BackFlood;

/// One start that can be used, and one goal or more (or none that can be entered: the search then ends without it).
struct Question {
  const CostGrid& costs;
  Cell from;
  Cell to;             ///< the goal, or the first of several
  bool guided = true;  ///< by the estimate; not in Dijkstra's search
  Cost bound = max_cost;
  std::uint64_t limit = 0;
  std::vector<Visit>* trace = nullptr;
  const Beyond* beyond = nullptr;  ///< null: arrive at `to`, on the board as it is
  const Danger* danger = nullptr;  ///< null: none; only searches by cost weigh it
  BackFlood* behind = nullptr;     ///< looks back from the goals, unless null; minds no danger

  [[nodiscard]] unsigned moves(Cell cell) const {
    return beyond != nullptr ? beyond->moves(costs, cell) : costs.moves_on_map(cell);
  }
  [[nodiscard]] EntryCost entry(Cell cell) const {
    return beyond != nullptr ? beyond->ground.entry(cell) : costs.entry(cell);
  }
  /// What a step of this length into a cell costs.
  [[nodiscard]] std::uint64_t step(Length length, Cell into) const {
    if (danger == nullptr) return step_cost(length, entry(into));
    return weighed_step(length, entry(into), danger->wary * danger->level[costs.size().index(into).value()]);
  }
};

/// How a search ended. The way itself is read from the search's marks afterwards.
struct Ending {
  Reason reason = Reason::no_way;
  std::uint64_t cost = 0;
  std::uint64_t expanded = 0;
  bool cut = false;                ///< places were left out because they lie beyond the bound
  bool shut = false;               ///< proven from behind that no goal can be got to; not all that can be was seen
  Cell at;                         ///< where it arrived
  std::size_t goal = Goals::none;  ///< at which of several goals
};

/// Notes a goal, or an earlier one than before. @return whether no other is worth looking for
template <bool beyond>
SAUNTER_INLINE inline bool arrives(Ending& ending, std::size_t goal, Cell cell, Cost cost) {
  if (beyond ? goal >= ending.goal : goal != 0) return false;
  ending.goal = goal;
  ending.at = cell;
  ending.cost = cost;
  return !beyond || goal == 0;
}

/// What a search arrives at: one cell, or what a question with more goals names. `here(cell)` is the goal's number.
class OneEnd {
 public:
  explicit OneEnd(const Question& question) : goal_(pack(question.to)) {}
  [[nodiscard]] std::size_t here(std::uint32_t packed, Cell /*cell*/) const {
    return packed == goal_ ? 0 : Goals::none;
  }

 private:
  std::uint32_t goal_;
};
class ManyEnds {
 public:
  explicit ManyEnds(const Question& question) : goals_(question.beyond->goals) {
    for (const Goals::Accepted& accepted : goals_.accepted()) {
      if (count_ < few) cells_[count_] = pack(accepted.cell);
      ++count_;
      box_ = box_.joined(Rect::of(accepted.cell));
    }
  }
  [[nodiscard]] std::size_t here(std::uint32_t packed, Cell cell) const {
    // Most cells are none, which costs no look at memory where goals are few or close together.
    if (count_ <= few) {
      bool any = false;
      for (const std::uint32_t end : cells_) any = any || packed == end;
      return any ? goals_.at(cell) : Goals::none;
    }
    return box_.contains(cell) ? goals_.at(cell) : Goals::none;
  }

 private:
  static constexpr std::size_t few = 4;
  static constexpr std::uint32_t nowhere = ~std::uint32_t{0};  // no map reaches it
  const Goals& goals_;
  std::array<std::uint32_t, few> cells_ = {nowhere, nowhere, nowhere, nowhere};
  std::size_t count_ = 0;
  Rect box_;
};

/// Whether a step leads out of the cells that a search has reached.
template <typename Reached>
bool leads_out(const Question& question, const Reached& reached) {
  const Danger* const danger = question.danger;
  return leads_out(
      question.costs, reached, [&](Cell cell) { return question.moves(cell); },
      [&](std::uint32_t index) { return danger == nullptr || danger->level[index] <= danger->highest; });
}

/// The cell nearest to the goal among those that a search has reached.
template <typename Reached>
Cell nearest_reached(const Question& question, const Reached& reached) {
  const auto by = [&](const auto& heuristic) {
    return nearest_reached(question.costs.size(), question.from, reached, heuristic).cell();
  };
  if (question.beyond == nullptr) return by(Estimate(question.costs, question.to));
  return by([&](Cell cell) { return question.beyond->goals.heuristic(cell); });
}

}  // namespace saunter::inline v0_2::detail
