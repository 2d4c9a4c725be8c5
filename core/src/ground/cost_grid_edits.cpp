// What changes a cost grid that is there already.
#include <algorithm>
#include <utility>
#include <vector>

#include "body_most.hpp"
#include "saunter/ground/cost_grid.hpp"

namespace saunter::inline v0_2 {

std::uint8_t CostGrid::barred_edges(Cell cell) const {
  unsigned bars = 0;
  for (unsigned d = 0; d < static_cast<unsigned>(tiling_.edge_count()); ++d) {
    if (barred(cell, Direction(d))) bars |= 1U << d;
  }
  return static_cast<std::uint8_t>(bars);
}

/// Writes the stored steps of a block anew.
void CostGrid::take_sides(Rect block) {
  for (const Cell cell : block.cells()) {
    sides_.put(cell, moves_if(cell, [&](Cell at) { return open_.test(at); }));
  }
}

bool CostGrid::set_entry(Cell cell, Hundredths cost) {
  if (!size().contains(cell) || cost > max_entry_cost) return false;
  const EntryCost before = ground_entry(cell);
  const auto now = static_cast<EntryCost>(cost);
  if (before == now) return true;
  if (has_sides() && unbarred_.empty() && now == blocked) unbarred_ = sides_;
  changes_.make_room(size());
  if (mover_size_ > 1) {
    set_ground(cell, now);
    return true;
  }
  counts_.add(now);  // the last thing that may throw
  counts_.remove(before);
  entry_[cell] = now;
  open_.set(cell, now != blocked);
  const bool opens = (before == blocked) != (now == blocked);
  if (opens && open_turned_.size().cols > 0) {
    count_lines(Rect::of(cell), less);
    open_turned_.set({cell.row, cell.col}, now != blocked);
    count_lines(Rect::of(cell), more);
  }
  const Rect block = has_sides() && opens ? Rect::of(cell).grown(2, size()) : Rect::of(cell);
  if (has_sides() && opens) take_sides(block);
  note_change(block);
  return true;
}

/// Every place of a large mover that covers the cell costs as much as its costliest cell now does.
void CostGrid::set_ground(Cell cell, EntryCost cost) {
  std::vector<std::pair<Cell, EntryCost>> places;
  detail::place_costs(
      *this, Rect::of(cell).grown(mover_size_, size()), [&](Cell at) { return at == cell ? cost : ground_[at]; },
      [&](Cell place, EntryCost now) {
        if (now != entry_[place]) places.emplace_back(place, now);
      });
  for (const auto& [place, now] : places) counts_.make_room(now);  // the last thing that may throw
  ground_[cell] = cost;
  Rect block;
  for (const auto& [place, now] : places) {
    counts_.add(now);
    counts_.remove(entry_[place]);
    entry_[place] = now;
    open_.set(place, now != blocked);
    block = block.joined(Rect::of(place));
  }
  if (block.empty()) block = Rect::of(cell);
  take_open_bits(block);
  if (has_sides()) {
    block = block.grown(2, size());
    take_sides(block);
  }
  note_change(block);
}

bool CostGrid::set_entries(Rect block, std::span<const EntryCost> costs) {
  block = block.grown(0, size());
  if (block.empty() || costs.size() != block.cell_count()) return block.empty() && costs.empty();
  const auto given = [&](Cell cell) {
    return costs[static_cast<std::size_t>(cell.row - block.top) * static_cast<std::size_t>(block.right - block.left) +
                 static_cast<std::size_t>(cell.col - block.left)];
  };
  // What may throw, before anything is changed.
  if (has_sides() && unbarred_.empty()) unbarred_ = sides_;
  changes_.make_room(size());
  for (const EntryCost cost : costs) counts_.make_room(cost);  // a large mover's costs are among these and its own
  const Rect places = mover_size_ > 1 ? block.grown(mover_size_, size()) : block;
  Grid<EntryCost> now({places.right - places.left, places.bottom - places.top});
  const auto at = [&](Cell cell) { return Cell{cell.col - places.left, cell.row - places.top}; };
  if (mover_size_ > 1) {
    detail::place_costs(
        *this, places, [&](Cell cell) { return block.contains(cell) ? given(cell) : ground_[cell]; },
        [&](Cell place, EntryCost cost) { now[at(place)] = cost; });
    for (const EntryCost cost : now.values()) counts_.make_room(cost);
    for (const Cell cell : block.cells()) ground_[cell] = given(cell);
  } else {
    std::copy(costs.begin(), costs.end(), now.values().begin());
  }
  for (std::int32_t row = places.top; row < places.bottom; ++row) {
    EntryCost* const entries = entry_.row(row).data();
    for (std::int32_t col = places.left; col < places.right; ++col) {
      const EntryCost cost = std::as_const(now)[at({col, row})];
      if (cost == entries[col]) continue;
      counts_.remove(entries[col]);
      counts_.add(cost);
      if ((cost == blocked) != (entries[col] == blocked)) open_.set({col, row}, cost != blocked);
      entries[col] = cost;
    }
  }
  take_open_bits(places);
  const Rect touched = has_sides() ? places.grown(2, size()) : places;
  if (has_sides()) take_sides(touched);
  note_change(touched);
  return true;
}

bool CostGrid::take_block(const CostGrid& from, Rect block) {
  if (from.board() != board() || from.rules_ != rules_ || from.mover_size_ != mover_size_) return false;
  if (from.has_sides() && has_sides() && from.edges_decide_ != edges_decide_) return false;
  block = block.grown(0, size());
  if (block.empty() || &from == this) return true;
  // What steps are stored as, before anything is changed: memory may run out.
  const bool first_sides = from.has_sides() && !has_sides();
  Sides sides = first_sides ? Sides::of(board(), 0) : Sides{};
  const bool first_unbarred = (from.has_sides() || has_sides()) && unbarred_.empty();
  Sides unbarred = !first_unbarred ? Sides{} : has_sides() ? sides_ : Sides::of(board(), 0xFFFF);
  Grid<std::uint8_t> walls;
  if ((from.has_sides() || has_sides()) && walls_.empty() &&
      !(from.walls_.empty() && from.has_sides() && has_sides())) {
    walls = Grid<std::uint8_t>(size());
    for (const Cell cell : size().cells()) walls[cell] = barred_edges(cell);
  }
  BitGrid split = from.split_.size() == size() && split_.size() != size() ? BitGrid(size()) : BitGrid();
  for (const Cell cell : block.cells()) counts_.make_room(from.entry_[cell]);
  changes_.make_room(size());
  if (first_sides) {
    for (const Cell cell : size().cells()) sides.put(cell, moves_on_map(cell));
    sides_ = std::move(sides);
    edges_decide_ = from.edges_decide_;
  }
  if (!walls.empty()) walls_ = std::move(walls);
  if (first_unbarred) unbarred_ = std::move(unbarred);
  if (split.size() == size()) split_ = std::move(split);
  for (const Cell cell : block.cells()) {
    counts_.remove(entry_[cell]);
    counts_.add(from.entry_[cell]);
    entry_[cell] = from.entry_[cell];
    open_.set(cell, from.open_.test(cell));
    if (!ground_.empty()) ground_[cell] = from.ground_[cell];
    if (split_.size() == size()) split_.set(cell, from.split_.test(cell));
    if (!walls_.empty()) walls_[cell] = from.barred_edges(cell);
    if (!has_sides()) continue;
    unbarred_.put(cell, from.unbarred_moves(cell));
  }
  take_open_bits(block);
  // Steps about the block lead into it.
  const Rect touched = has_sides() ? block.grown(2, size()) : block;
  if (has_sides()) take_sides(touched);
  note_change(touched);
  return true;
}

}  // namespace saunter::inline v0_2
