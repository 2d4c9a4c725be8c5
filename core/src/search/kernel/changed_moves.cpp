#include "changed_moves.hpp"

namespace saunter::inline v0::detail {

void ChangedMoves::begin(const CostGrid& costs, std::span<const EntryChange> changes, Lookup lookup) {
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
    const bool known = !costs.has_sides() || change.cost == blocked || costs.open(change.cell);
    SAUNTER_EXPECT(known);
    if (!known) continue;
    const auto cost = static_cast<EntryCost>(std::min<Cost>(change.cost, max_entry_cost));
    changes_.push_back({change.cell, cost, i});
  }
  std::sort(changes_.begin(), changes_.end(),
            [](const Change& a, const Change& b) { return a.cell != b.cell ? a.cell < b.cell : a.place > b.place; });
  const auto last =
      std::unique(changes_.begin(), changes_.end(), [](const Change& a, const Change& b) { return a.cell == b.cell; });
  changes_.erase(last, changes_.end());
  for (const Change& change : changes_) {
    if (by_bits_) bits_.set(change.cell);
    block_ = block_.joined(Rect::of(change.cell));
  }
  find_bounds();
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

const ChangedMoves::Change* ChangedMoves::find(Cell cell) const {
  if (by_bits_ ? !bits_.test(cell) : !block_.contains(cell)) return nullptr;
  const auto at = std::lower_bound(changes_.begin(), changes_.end(), cell,
                                   [](const Change& change, Cell wanted) { return change.cell < wanted; });
  return at != changes_.end() && at->cell == cell ? &*at : nullptr;
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

/// Whether one step across an edge is legal now. Where legal steps are stored they know about barriers and heights, but
/// not about what the query shuts.
bool ChangedMoves::edge_legal(Cell from, unsigned edge, Cell to) const {
  if (!open(from) || !open(to)) return false;
  return !costs_->has_sides() || (unsigned{costs_->moves_on_map(from)} >> edge & 1U) != 0;
}

DirectionSet ChangedMoves::moves_by_rules(Cell cell) const {
  if (!open(cell)) return 0;
  const Tiling tiling = costs_->tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  const auto kind = static_cast<unsigned>(tiling.kind(cell));
  const Corners corners = costs_->rules().corners;
  const unsigned stored = costs_->has_sides() ? unsigned{costs_->moves_on_map(cell)} : ~0U;
  unsigned legal = 0;
  for (unsigned d = 0; d < static_cast<unsigned>(costs_->rules().steps); ++d) {
    const Cell target = cell + hood.offset[kind][d];
    if ((stored >> d & 1U) == 0 || !open(target)) continue;
    if (d >= static_cast<unsigned>(hood.edges)) {
      unsigned ways_open = 0;
      for (const CornerWay& way : hood.ways[kind][d]) {
        bool passes = true;
        Cell at = cell;
        for (unsigned i = 0; i < way.count && passes; ++i) {
          const unsigned edge = way.steps[i];
          const Cell next = tiling.neighbour(at, Direction(edge));
          // Under `free` what is beside does not matter; barriers are in `stored`, and a way must not leave the map.
          passes = corners == Corners::free ? costs_->size().contains(next) : edge_legal(at, edge, next);
          at = next;
        }
        ways_open += passes ? 1U : 0U;
      }
      if (ways_open < (corners == Corners::strict ? 2U : 1U)) continue;
    }
    legal |= 1U << d;
  }
  return static_cast<DirectionSet>(legal);
}

}  // namespace saunter::inline v0::detail
