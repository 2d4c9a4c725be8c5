/// @file
/// Legal steps and entry costs with some cells changed for one query.
#pragma once

#include <algorithm>
#include <span>
#include <vector>

#include "saunter/search/query.hpp"

namespace saunter {

class ChangedMoves {
 public:
  /// Looks at the grid through these changes. Clears what the query before has left.
  void begin(const CostGrid& costs, std::span<const EntryChange> changes);

  [[nodiscard]] bool any() const { return !changes_.empty(); }
  [[nodiscard]] bool open(Cell cell) const {
    return any() ? costs_->size().contains(cell) && entry(cell) != blocked : costs_->open(cell);
  }
  [[nodiscard]] EntryCost entry(Cell cell) const;
  [[nodiscard]] DirectionSet moves(Cell cell) const {
    return any() && near_change(cell) ? moves_by_rules(cell) : costs_->moves(cell);
  }
  [[nodiscard]] EntryCost cheapest() const { return cheapest_; }
  [[nodiscard]] EntryCost dearest() const { return dearest_; }

 private:
  [[nodiscard]] bool near_change(Cell cell) const;
  [[nodiscard]] DirectionSet moves_by_rules(Cell cell) const;
  [[nodiscard]] bool edge_legal(Cell from, unsigned edge, Cell to) const;

  const CostGrid* costs_ = nullptr;
  std::vector<EntryChange> changes_;  // on the map, in reading order, one for each cell
  BitGrid changed_;
  EntryCost cheapest_ = blocked;
  EntryCost dearest_ = blocked;
};

}  // namespace saunter
