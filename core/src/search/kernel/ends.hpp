/// @file
/// Where searches begin and where they may arrive, and the cell nearest to a goal.
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "flood.hpp"
#include "legal_steps.hpp"
#include "saunter/grid/bit_grid.hpp"
#include "changed_moves.hpp"
#include "saunter/search/estimate.hpp"
#include "saunter/search/verdict.hpp"

namespace saunter::inline v0_2::detail {

/// Why a start or goal can't be used; `found` when both can.
/// @param may_start, may_arrive  of a cell on the map
template <typename MayStart, typename MayArrive>
Verdict unusable_end(Size size, Cell from, Cell to, MayStart&& may_start, MayArrive&& may_arrive) {
  if (!size.contains(from)) return {Reason::start_off_map, from};
  if (!may_start(from)) return {Reason::start_blocked, from};
  if (!size.contains(to)) return {Reason::goal_off_map, to};
  if (!may_arrive(to)) return {Reason::goal_blocked, to};
  return {Reason::found, to};
}
inline Verdict unusable_end(const CostGrid& costs, Cell from, Cell to) {
  const auto open = [&](Cell cell) { return costs.open(cell); };
  return unusable_end(costs.size(), from, to, open, open);
}

/// The first and last number of the cells expanded: what lies a row beyond them was not touched.
struct Span {
  std::uint32_t first = ~std::uint32_t{0};
  std::uint32_t last = 0;
  void take(std::uint32_t index) {
    first = index < first ? index : first;
    last = index > last ? index : last;
  }
  /// All cells that one step from the expanded ones can lead to.
  [[nodiscard]] Span with_neighbours(Size size) const {
    if (first > last) return {0, 0};
    const auto step = static_cast<std::uint32_t>(size.cols) + 2;  // triangles step two columns aside
    const auto end = static_cast<std::uint32_t>(size.cell_count());
    return {first > step ? first - step : 0, end - last > step ? last + step : end - 1};
  }
};

/// The cell of least heuristic among those it is shown; among equals the first in reading order.
class Nearest {
 public:
  Nearest(Cell first, std::uint64_t heuristic) : cell_(first), least_(heuristic) {}
  void look(Cell cell, std::uint64_t heuristic) {
    if (heuristic > least_ || (heuristic == least_ && !(cell < cell_))) return;
    cell_ = cell;
    least_ = heuristic;
  }
  [[nodiscard]] Cell cell() const { return cell_; }
  [[nodiscard]] std::uint64_t heuristic() const { return least_; }

 private:
  Cell cell_;
  std::uint64_t least_;
};

/// The cells about those expanded that `known` names, each by its number.
template <typename Known>
struct ReachedCells {
  Size size;
  Span expanded;
  const Known& known;
  [[nodiscard]] bool knows(std::uint32_t index) const { return known(index); }
  template <typename Visit>
  void for_each(Visit&& visit) const {
    const Span span = expanded.with_neighbours(size);
    for (std::uint32_t index = span.first; index <= span.last; ++index) {
      if (known(index)) visit(index);
    }
  }
};

/// The nearest by a heuristic of the start and the cells that a search has reached.
template <typename Reached, typename Heuristic>
Nearest nearest_reached(Size size, Cell start, const Reached& reached, const Heuristic& heuristic) {
  Nearest nearest(start, heuristic(start));
  reached.for_each([&](std::uint32_t index) {
    const Cell cell = size.cell(CellIndex{index});
    nearest.look(cell, heuristic(cell));
  });
  return nearest;
}

/// Whether a step leads out of the cells that a search has reached, so that there are more to be got to.
/// @param moves  legal steps of a cell  @param bearable  whether a cell may be entered, by its number
template <typename Reached, typename Moves, typename Bearable>
bool leads_out(const CostGrid& costs, const Reached& reached, Moves&& moves, Bearable&& bearable) {
  const Size size = costs.size();
  bool out = false;
  reached.for_each([&](std::uint32_t index) {
    if (out) return;
    const Cell cell = size.cell(CellIndex{index});
    for_each_next(costs.tiling(), moves(cell), cell, [&](Cell next) {
      const std::uint32_t there = size.index(next).value();
      out = out || (!reached.knows(there) && bearable(there));
    });
  });
  return out;
}

/// The cells at which one query may arrive: goals, cells about them, or beside them.
class Goals {
 public:
  static constexpr std::size_t none = ~std::size_t{0};
  /// More are taken together: asking each would cost more than it saves.
  static constexpr std::size_t most_aims = 4;
  /// A cell that counts as arrived, and the goal it belongs to.
  struct Accepted {
    Cell cell;
    std::uint32_t goal = 0;
  };
  /// Estimates are taken towards these: the cost to a cell, less how far from it one may arrive. Only goals at which
  /// one can arrive are aimed at: another may lie anywhere, even where distances overflow.
  struct Aim {
    Cell at;
    Estimate estimate;
    std::size_t goal = none;  ///< whose aim it is; none: of all together
    std::uint64_t slack = 0;
  };

  /// Forgets an earlier query, whatever ended it, and takes new goals. O(cells that count as arrived)
  /// @param open_ended  cells that nothing is known of count as goals too: there is nothing to aim at
  /// @return `found`, or what is wrong with the first goal that can't be used when none can
  Verdict begin(const CostGrid& costs, const ChangedMoves& ground, std::span<const Cell> goals, int within, bool beside,
                bool open_ended = false);
  /// One cell alone, or none at all: where a query goes on after its answer.
  void begin_anew(const CostGrid& costs, const ChangedMoves& ground, std::optional<Cell> goal);

  [[nodiscard]] bool empty() const { return accepted_.empty(); }
  [[nodiscard]] std::size_t given() const { return given_; }
  [[nodiscard]] std::span<const Accepted> accepted() const { return accepted_; }
  [[nodiscard]] std::span<const Aim> aims() const { return aims_; }
  /// The goals that the heuristic is about.
  [[nodiscard]] std::span<const Cell> counted() const { return counted_; }
  /// The number of the aim that stands for a cell.
  [[nodiscard]] std::size_t aim_of(const Accepted& accepted) const {
    std::size_t aim = 0;
    while (aims_[aim].goal != accepted.goal && aims_[aim].goal != none) ++aim;
    return aim;
  }
  [[nodiscard]] std::size_t memory() const { return bytes_of(accepted_) + cells_.memory(); }
  /// The number of the goal that a cell counts for, or none.
  [[nodiscard]] std::size_t at(Cell cell) const { return cells_.test(cell) ? goal_of(cell) : none; }
  /// What a way to a goal must still cost at least.
  [[nodiscard]] std::uint64_t estimate(Cell cell) const;
  /// What verdicts go by: the exact heuristic to the nearest goal given. 0 when nothing is known of where goals lie.
  [[nodiscard]] std::uint64_t heuristic(Cell cell) const;

 private:
  void forget(Size size);
  bool accept(const ChangedMoves& ground, Cell cell, std::size_t goal);
  bool accept_about(const CostGrid& costs, const ChangedMoves& ground, std::size_t goal, Cell at, int within,
                    bool beside);
  void take_aims(const CostGrid& costs, const ChangedMoves& ground, std::span<const Cell> goals);
  [[nodiscard]] std::size_t goal_of(Cell cell) const;

  std::vector<Accepted> accepted_;  // in reading order, each cell once
  BitGrid cells_;                   // the same
  std::vector<Aim> aims_;
  std::vector<Estimate> heuristics_;  // one for each goal that counts
  std::vector<Cell> counted_;         // the same goals
  std::vector<Cell> about_;
  std::size_t given_ = 0;
};

/// Whether steps lead from the starts to a cell that `arrives` names, whatever they cost. Asked only after sums did not
/// fit. @param nearest  otherwise shown every cell they lead to
template <typename Next, typename Arrives, typename Heuristic>
bool leads_to(Size size, std::span<const Cell> starts, Next&& for_each_step, Arrives&& arrives,
              const Heuristic& heuristic, Nearest& nearest) {
  BitGrid seen(size);
  std::vector<Cell> line;
  const auto mark = [&](Cell cell) {
    if (seen.test(cell)) return false;
    seen.set(cell);
    return true;
  };
  for (const Cell start : starts) {
    if (mark(start)) line.push_back(start);
  }
  return !flood(line, mark, [&](Cell cell, const auto& take) {
    if (arrives(cell)) return false;
    nearest.look(cell, heuristic(cell));
    for_each_step(cell, take);
    return true;
  });
}

}  // namespace saunter::inline v0_2::detail
