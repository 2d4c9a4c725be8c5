#include "ends.hpp"

#include <algorithm>

#include "beside.hpp"

namespace saunter::inline v0_2::detail {

void Goals::forget(Size size) {
  for (const Accepted& accepted : accepted_) cells_.set(accepted.cell, false);
  accepted_.clear();
  aims_.clear();
  if (cells_.size() != size) cells_ = BitGrid(size);
}

Verdict Goals::begin(const CostGrid& costs, const ChangedMoves& ground, std::span<const Cell> goals, int within,
                     bool beside, bool open_ended) {
  forget(costs.size());
  heuristics_.clear();
  counted_.clear();
  given_ = goals.size();
  const auto count_towards = [&](Cell goal) {
    heuristics_.emplace_back(costs.tiling(), costs.rules(), ground.lowest_entry(), goal);
    counted_.push_back(goal);
  };
  Verdict first{Reason::found, {}};
  for (std::size_t i = 0; i < goals.size(); ++i) {
    const bool on_map = costs.size().contains(goals[i]);
    const bool usable = on_map && accept_about(costs, ground, i, goals[i], within, beside);
    if (usable) count_towards(goals[i]);
    if (usable || first.reason != Reason::found) continue;
    first = {on_map ? Reason::goal_blocked : Reason::goal_off_map, goals[i]};
  }
  std::sort(accepted_.begin(), accepted_.end(), [](const Accepted& a, const Accepted& b) { return a.cell < b.cell; });
  if (!open_ended) take_aims(costs, ground, goals);
  if (!accepted_.empty() || open_ended) return {Reason::found, {}};
  for (const Cell goal : goals) {
    if (costs.size().contains(goal)) count_towards(goal);
  }
  return first;
}

void Goals::begin_anew(const CostGrid& costs, const ChangedMoves& ground, std::optional<Cell> goal) {
  forget(costs.size());
  if (!goal) return;
  (void)accept(ground, *goal, 0);
  aims_.push_back({*goal, Estimate(costs.tiling(), costs.rules(), ground.lowest_entry(), *goal), 0, 0});
}

/// @return whether one can arrive at the goal
bool Goals::accept_about(const CostGrid& costs, const ChangedMoves& ground, std::size_t goal, Cell at, int within,
                         bool beside) {
  if (within <= 0 && !beside) return accept(ground, at, goal);
  bool usable = false;
  if (within > 0) {
    disk_of_cells(costs.tiling(), at, within, costs.size(), about_);
    for (const Cell cell : about_) {
      if (!beside || cell != at) usable |= accept(ground, cell, goal);
    }
  } else {
    for_each_place_beside(
        costs, at, about_, [&](Cell cell) { return ground.open(cell); },
        [&](Cell place) { usable |= accept(ground, place, goal); });
  }
  return usable;
}

/// @return whether one can arrive there
bool Goals::accept(const ChangedMoves& ground, Cell cell, std::size_t goal) {
  if (!ground.open(cell)) return false;
  if (cells_.test(cell)) return true;
  accepted_.push_back({cell, static_cast<std::uint32_t>(goal)});  // first: this list is what clears the marks
  cells_.set(cell);
  return true;
}

void Goals::take_aims(const CostGrid& costs, const ChangedMoves& ground, std::span<const Cell> goals) {
  const auto aim_at = [&](Cell cell, std::size_t goal) {
    aims_.push_back({cell, Estimate(costs.tiling(), costs.rules(), ground.lowest_entry(), cell), goal});
  };
  if (accepted_.empty()) return;
  if (goals.size() <= most_aims) {
    for (std::size_t goal = 0; goal < goals.size(); ++goal) {
      const auto is_its = [&](const Accepted& accepted) { return accepted.goal == goal; };
      if (std::any_of(accepted_.begin(), accepted_.end(), is_its)) aim_at(goals[goal], goal);
    }
    for (const Accepted& accepted : accepted_) {
      Aim& aim = aims_[aim_of(accepted)];
      aim.slack = std::max(aim.slack, aim.estimate(accepted.cell));
    }
    return;
  }
  Cell low = accepted_.front().cell;
  Cell high = low;
  for (const Accepted& accepted : accepted_) {
    low = {std::min(low.col, accepted.cell.col), std::min(low.row, accepted.cell.row)};
    high = {std::max(high.col, accepted.cell.col), std::max(high.row, accepted.cell.row)};
  }
  aim_at({low.col + (high.col - low.col) / 2, low.row + (high.row - low.row) / 2}, none);
  for (const Accepted& accepted : accepted_) {
    aims_[0].slack = std::max(aims_[0].slack, aims_[0].estimate(accepted.cell));
  }
}

std::uint64_t Goals::estimate(Cell cell) const {
  if (aims_.empty()) return 0;
  std::uint64_t least = ~std::uint64_t{0};
  for (const Aim& aim : aims_) {
    const std::uint64_t to_aim = aim.estimate(cell);
    least = std::min(least, to_aim > aim.slack ? to_aim - aim.slack : 0);
  }
  return least;
}

std::uint64_t Goals::heuristic(Cell cell) const {
  if (heuristics_.empty()) return 0;
  std::uint64_t least = ~std::uint64_t{0};
  for (const Estimate& to_goal : heuristics_) least = std::min(least, to_goal(cell));
  return least;
}

std::size_t Goals::goal_of(Cell cell) const {
  const auto at = std::lower_bound(accepted_.begin(), accepted_.end(), cell,
                                   [](const Accepted& a, Cell wanted) { return a.cell < wanted; });
  return at->goal;
}

}  // namespace saunter::inline v0_2::detail
