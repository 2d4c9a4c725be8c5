#include "saunter/search/changed_moves.hpp"

namespace saunter {
namespace {

bool before(const EntryChange& change, Cell cell) { return change.cell < cell; }

}  // namespace

void ChangedMoves::begin(const CostGrid& costs, std::span<const EntryChange> changes) {
  if (changed_.size() != costs.size()) {
    if (!changes.empty()) changed_ = BitGrid(costs.size());
  } else {
    for (const EntryChange& change : changes_) changed_.set(change.cell, false);
  }
  costs_ = &costs;
  changes_.clear();
  cheapest_ = costs.cheapest();
  dearest_ = costs.dearest();
  for (const EntryChange& change : changes) {
    if (!costs.size().contains(change.cell)) continue;
    SAUNTER_EXPECT(!costs.has_sides() || change.cost == blocked || costs.open(change.cell));
    // In reading order; the later of two for one cell takes the place of the earlier.
    const auto at = std::lower_bound(changes_.begin(), changes_.end(), change.cell, before);
    if (changed_.test(change.cell)) {
      at->cost = change.cost;
    } else {
      changes_.insert(at, change);
      changed_.set(change.cell);
    }
    if (change.cost == blocked) continue;
    if (cheapest_ == blocked || change.cost < cheapest_) cheapest_ = change.cost;
    dearest_ = std::max(dearest_, change.cost);
  }
}

EntryCost ChangedMoves::entry(Cell cell) const {
  if (any() && changed_.test(cell)) {
    const auto at = std::lower_bound(changes_.begin(), changes_.end(), cell, before);
    return at->cost;
  }
  return costs_->entry(cell);
}

bool ChangedMoves::near_change(Cell cell) const {
  return (changed_.five_around({cell.col, cell.row - 1}) | changed_.five_around(cell) |
          changed_.five_around({cell.col, cell.row + 1})) != 0;
}

/// Whether one step across an edge is legal now. Where legal steps are stored they know about barriers and heights, but
/// not about what the query shuts.
bool ChangedMoves::edge_legal(Cell from, unsigned edge, Cell to) const {
  if (!open(from) || !open(to)) return false;
  return !costs_->has_sides() || (unsigned{costs_->moves(from)} >> edge & 1U) != 0;
}

DirectionSet ChangedMoves::moves_by_rules(Cell cell) const {
  if (!open(cell)) return 0;
  const Tiling tiling = costs_->tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  const auto kind = static_cast<unsigned>(tiling.kind(cell));
  const Corners corners = costs_->rules().corners;
  const unsigned stored = costs_->has_sides() ? unsigned{costs_->moves(cell)} : ~0U;
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
          const Cell next = tiling.neighbour(at, static_cast<int>(edge));
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

}  // namespace saunter
