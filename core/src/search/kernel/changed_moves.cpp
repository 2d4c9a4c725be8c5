#include "changed_moves.hpp"

#include "../../ground/body_most.hpp"

namespace saunter::inline v0_2::detail {

void ChangedMoves::begin(const CostGrid& costs, std::span<const EntryChange> changes, Lookup lookup, Meant meant) {
  // First what the query before has left, in the bits as large as they were then.
  for (const Change& change : changes_) bits_.set(change.cell, false);
  changes_.clear();
  block_ = {};
  costs_ = &costs;
  by_bits_ = lookup == Lookup::by_bits;
  if (by_bits_ && !changes.empty() && bits_.size() != costs.size()) bits_ = BitGrid(costs.size());
  for (std::size_t i = 0; i < changes.size(); ++i) {
    const EntryChange& change = changes[i];
    if (!costs.size().contains(change.cell)) continue;
    SAUNTER_EXPECT(change.cost <= max_entry_cost);
    const auto cost = static_cast<EntryCost>(std::min<Cost>(change.cost, max_entry_cost));
    changes_.push_back({change.cell, cost, i});
  }
  put_in_order();
  if (costs.mover_size() > 1 && meant == Meant::ground) spread_over_places();
  for (const Change& change : changes_) {
    if (by_bits_) bits_.set(change.cell);
    block_ = block_.joined(Rect::of(change.cell));
  }
  find_bounds();
}

/// In reading order, of each cell the last given.
void ChangedMoves::put_in_order() {
  std::sort(changes_.begin(), changes_.end(),
            [](const Change& a, const Change& b) { return a.cell != b.cell ? a.cell < b.cell : a.place > b.place; });
  const auto last =
      std::unique(changes_.begin(), changes_.end(), [](const Change& a, const Change& b) { return a.cell == b.cell; });
  changes_.erase(last, changes_.end());
}

/// A change of ground under a large mover is one of every place whose body covers it.
void ChangedMoves::spread_over_places() {
  ground_.swap(changes_);
  changes_.clear();
  const auto changed = [&](Cell cell) {
    const Change* const change = find_in(ground_, cell);
    return change != nullptr ? change->cost : costs_->ground_entry(cell);
  };
  for (const Change& change : ground_) {
    place_costs(*costs_, Rect::of(change.cell).grown(costs_->mover_size(), costs_->size()), changed,
                [&](Cell place, EntryCost cost) {
                  if (cost != costs_->entry(place)) changes_.push_back({place, cost, 0});
                });
  }
  put_in_order();
}

void ChangedMoves::find_bounds() {
  highest_ = costs_->highest_entry();
  EntryCost least_changed = blocked;
  for (const Change& change : changes_) {
    highest_ = std::max(highest_, change.cost);
    if (change.cost != blocked && (least_changed == blocked || change.cost < least_changed))
      least_changed = change.cost;
  }
  // The least of the cells left as they are: one that not all cells of its cost have been changed away from.
  EntryCost least_left = costs_->lowest_entry();
  while (least_left != blocked) {
    const auto changed = std::count_if(changes_.begin(), changes_.end(),
                                       [&](const Change& change) { return costs_->entry(change.cell) == least_left; });
    if (costs_->entry_counts().count(least_left) > static_cast<std::uint64_t>(changed)) break;
    least_left = costs_->entry_counts().next_above(least_left);
  }
  cheapest_ =
      least_left == blocked || (least_changed != blocked && least_changed < least_left) ? least_changed : least_left;
}

const ChangedMoves::Change* ChangedMoves::find_in(const std::vector<Change>& changes, Cell cell) {
  const auto at = std::lower_bound(changes.begin(), changes.end(), cell,
                                   [](const Change& change, Cell wanted) { return change.cell < wanted; });
  return at != changes.end() && at->cell == cell ? &*at : nullptr;
}

const ChangedMoves::Change* ChangedMoves::find(Cell cell) const {
  if (by_bits_ ? !bits_.test(cell) : !block_.contains(cell)) return nullptr;
  return find_in(changes_, cell);
}

EntryCost ChangedMoves::entry(Cell cell) const {
  const Change* const change = any() ? find(cell) : nullptr;
  return change != nullptr ? change->cost : costs_->entry(cell);
}

bool ChangedMoves::any_in_row(std::int32_t row, std::int32_t first, std::int32_t last) const {
  const auto at = std::lower_bound(changes_.begin(), changes_.end(), Cell{first, row},
                                   [](const Change& change, Cell wanted) { return change.cell < wanted; });
  return at != changes_.end() && at->cell.row == row && at->cell.col <= last;
}

bool ChangedMoves::near_change(Cell cell) const {
  const bool far = cell.col + 2 < block_.left || cell.col - 2 >= block_.right || cell.row + 1 < block_.top ||
                   cell.row - 1 >= block_.bottom;
  if (far) return false;
  if (by_bits_) {
    return (bits_.five_around({cell.col, cell.row - 1}) | bits_.five_around(cell) |
            bits_.five_around({cell.col, cell.row + 1})) != 0;
  }
  for (std::int32_t row = cell.row - 1; row <= cell.row + 1; ++row) {
    if (any_in_row(row, cell.col - 2, cell.col + 2)) return true;
  }
  return false;
}

}  // namespace saunter::inline v0_2::detail
