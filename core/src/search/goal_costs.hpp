/// @file
/// True costs to a goal, to guide searches that mind more than cost.
#pragma once

#include "saunter/search/searcher.hpp"

namespace saunter::inline v0_2::detail {

/// What a way to the goal costs at the least, whatever else it minds: exact as far as the start; cells beyond it cost
/// more than the start does. Consistent. Where no way leads from the start at all, nothing guides. Keeps its memory.
class GoalCosts {
 public:
  void begin(const CostGrid& costs, Cell from, Cell to, Borrowed<EntryChange> changes = {}) {
    const Source goal{to};
    searcher_.field_to(costs, {&goal, 1}, field_, {.changes = changes, .until = std::span(&from, 1)});
    beyond_ = field_.reached(from) ? field_.cost(from) : 0;
  }
  [[nodiscard]] Cost left(CellIndex cell) const {
    const Cost known = field_.costs()[cell];
    return known != unreached ? known : beyond_;
  }

 private:
  Searcher searcher_;
  Field field_;
  Cost beyond_ = 0;
};

}  // namespace saunter::inline v0_2::detail
