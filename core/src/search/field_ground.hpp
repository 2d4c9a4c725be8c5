/// @file
/// What a field is made on.
#pragma once

#include "kernel/beside.hpp"
#include "kernel/changed_moves.hpp"
#include "kernel/legal_steps.hpp"
#include "saunter/search/field.hpp"

namespace saunter::inline v0_2::detail {

/// A cost grid as one field sees it: with other entry costs, cells that are not left again, and cells after which no
/// more is wanted. Whatever an earlier field left behind is cleared when the next begins.
class FieldGround {
 public:
  /// @param sources  are never stops  @param options  its stops stay where they are as long as the field is made
  void begin(const CostGrid& costs, std::span<const Source> sources, const FieldOptions& options) {
    costs_ = &costs;
    changed_.begin(costs, options.changes);
    stops_ = as_places(costs, options.stops, other_stops_);
    const auto on_stop = [&](const Source& source) { return stops_->test(source.cell); };
    if (stops_ != nullptr && std::any_of(sources.begin(), sources.end(), on_stop)) {
      if (stops_ != &other_stops_) other_stops_ = *stops_;
      for (const Source& source : sources) other_stops_.set(source.cell, false);
      stops_ = &other_stops_;
    }
    for (const Cell cell : wanted_) waited_for_.set(cell, false);
    wanted_.assign(options.until.begin(), options.until.end());
    if (!wanted_.empty() && waited_for_.size() != costs.size()) waited_for_ = BitGrid(costs.size());
    begin_waiting();
  }
  /// The same field once more.
  void begin_waiting() {
    left_ = 0;
    farthest_ = 0;
    for (const Cell cell : wanted_) waited_for_.set(cell, false);
    for (const Cell cell : wanted_) {
      if (!open(cell) || waited_for_.test(cell)) continue;
      waited_for_.set(cell);
      ++left_;
    }
  }
  /// Whether it differs from the grid in anything.
  [[nodiscard]] bool limited() const { return changed_.any() || stops_ != nullptr || left_ > 0; }
  /// Whether some cell has another entry cost.
  [[nodiscard]] bool changed() const { return changed_.any(); }
  [[nodiscard]] bool open(Cell cell) const { return changed_.open(cell); }
  [[nodiscard]] EntryCost entry(Cell cell) const { return changed_.any() ? changed_.entry(cell) : costs_->entry(cell); }
  /// Whether nothing is reached through a cell.
  [[nodiscard]] bool is_stop(Cell cell) const { return stops_ != nullptr && stops_->test(cell); }
  /// The steps that leave a cell.
  [[nodiscard]] unsigned leaving(Cell cell) const { return changed_.moves(cell); }
  /// The directions of neighbours that can step into a cell.
  [[nodiscard]] unsigned arriving(Cell cell) const { return moves_into(*costs_, changed_, cell); }
  [[nodiscard]] EntryCost lowest_entry() const { return changed_.lowest_entry(); }
  /// No step costs more.
  [[nodiscard]] Cost highest_step() const { return step_cost(costs_->longest_step(), changed_.highest_entry()); }

  /// Notes that a cell is settled. @return whether it was the last that is waited for: what costs more than farthest()
  /// is not wanted
  bool settles(Cell cell, Cost cost) {
    if (left_ == 0 || !waited_for_.test(cell)) return false;
    waited_for_.set(cell, false);
    farthest_ = std::max(farthest_, cost);
    return --left_ == 0;
  }
  [[nodiscard]] Cost farthest() const { return farthest_; }
  [[nodiscard]] std::size_t memory() const {
    return changed_.memory() + other_stops_.memory() + waited_for_.memory() + bytes_of(wanted_);
  }

 private:
  const CostGrid* costs_ = nullptr;
  ChangedMoves changed_;
  const BitGrid* stops_ = nullptr;  // the field's own, or
  BitGrid other_stops_;             // places of a large mover, those without a source among them
  std::vector<Cell> wanted_;
  BitGrid waited_for_;
  std::size_t left_ = 0;
  Cost farthest_ = 0;
};

}  // namespace saunter::inline v0_2::detail
