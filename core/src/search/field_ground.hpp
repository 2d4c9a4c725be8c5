/// @file
/// What a field is made on.
#pragma once

#include "kernel/changed_moves.hpp"
#include "kernel/legal_steps.hpp"
#include "saunter/search/field.hpp"

namespace saunter::inline v0::detail {

/// Stands for "no source" in lists of sources' numbers.
inline constexpr std::uint32_t no_source = 0xFFFFFFFF;

/// A cost grid as one field sees it: with other entry costs, cells that are not left again, and cells after which no
/// more is wanted. Whatever an earlier field left behind is cleared when the next begins.
class FieldGround {
 public:
  /// @param sources  are never stops  @param options  its stops stay where they are as long as the field is made
  void begin(const CostGrid& costs, std::span<const Source> sources, const FieldOptions& options) {
    costs_ = &costs;
    changed_.begin(costs, options.changes);
    stops_ = options.stops != nullptr && options.stops->size() == costs.size() ? options.stops : nullptr;
    const auto on_stop = [&](const Source& source) { return stops_->test(source.cell); };
    if (stops_ != nullptr && std::any_of(sources.begin(), sources.end(), on_stop)) {
      other_stops_ = *stops_;
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
  [[nodiscard]] unsigned arriving(Cell cell) const {
    if (!costs_->has_sides()) return changed_.moves(cell);
    const Neighbourhood& hood = costs_->tiling().neighbourhood();
    const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
    unsigned into = 0;
    for (unsigned d = 0; d < static_cast<unsigned>(costs_->rules().steps); ++d) {
      const Cell other = cell + hood.offset[kind][d];
      if (open(other) && (unsigned{changed_.moves(other)} >> hood.opposite[kind][d] & 1U) != 0) into |= 1U << d;
    }
    return into;
  }
  [[nodiscard]] EntryCost lowest_entry() const { return changed_.lowest_entry(); }
  /// No step costs more.
  [[nodiscard]] Cost highest_step() const {
    if (!changed_.any()) return costs_->highest_step();
    Length longest = 100;
    for (int kind = 0; kind < 2; ++kind) {
      for (int d = 0; d < costs_->rules().steps; ++d) longest = std::max(longest, costs_->step_length(kind, d));
    }
    return step_cost(longest, changed_.highest_entry());
  }

  /// Notes that a cell is settled. @return whether it was the last that is waited for: what costs more than farthest()
  /// is not wanted
  bool settles(Cell cell, Cost cost) {
    if (left_ == 0 || !waited_for_.test(cell)) return false;
    waited_for_.set(cell, false);
    farthest_ = std::max(farthest_, cost);
    return --left_ == 0;
  }
  [[nodiscard]] Cost farthest() const { return farthest_; }
  /// Cells of one bucket are settled in any order: takes those that cost more than is wanted out of a field.
  /// @return how many
  static std::size_t forget_beyond(Cost wanted, Grid<Cost>& costs, Grid<std::uint8_t>& next,
                                   Grid<std::uint32_t>& sources, bool many_sources) {
    std::size_t forgotten = 0;
    for (std::uint32_t i = 0; i < costs.values().size(); ++i) {
      Cost& cost = costs.values()[i];
      if (cost == unreached || cost <= wanted) continue;
      cost = unreached;
      next.values()[i] = nowhere;
      if (many_sources) sources.values()[i] = no_source;
      ++forgotten;
    }
    return forgotten;
  }
  [[nodiscard]] std::size_t memory() const {
    return changed_.memory() + other_stops_.memory() + waited_for_.memory() + bytes_of(wanted_);
  }

 private:
  static constexpr std::uint8_t nowhere = 255;  // a next step there is none of

  const CostGrid* costs_ = nullptr;
  ChangedMoves changed_;
  const BitGrid* stops_ = nullptr;  // the field's own, or
  BitGrid other_stops_;             // those without a source among them
  std::vector<Cell> wanted_;
  BitGrid waited_for_;
  std::size_t left_ = 0;
  Cost farthest_ = 0;
};

}  // namespace saunter::inline v0::detail
