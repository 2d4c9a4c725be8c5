/// @file
/// Legal steps and entry costs with some cells changed for one query.
#pragma once

#include <algorithm>
#include <span>
#include <vector>

#include "memory.hpp"
#include "saunter/search/query.hpp"

namespace saunter::inline v0_2::detail {

/// A cost grid as one query sees it. Reading allocates nothing; whatever an earlier query left behind is cleared when
/// the next begins, also after an exception.
class ChangedMoves {
 public:
  /// How changed cells are found: by a bit for each cell of the map (searches ask about every cell), or in the list
  /// alone (for questions about a few cells, which must not cost a look at the map).
  enum class Lookup : std::uint8_t { by_bits, by_list };

  /// What changed cells are: of the ground, under every place that covers one, or places of the mover themselves.
  enum class Meant : std::uint8_t { ground, places };

  /// Looks at the grid through these changes of its ground; those off the map are left out. O(changes x log), for a
  /// large mover O(changes x cells of its body x log)
  void begin(const CostGrid& costs, std::span<const EntryChange> changes, Lookup lookup = Lookup::by_bits,
             Meant meant = Meant::ground);

  [[nodiscard]] bool any() const { return !changes_.empty(); }
  /// No off the map.
  [[nodiscard]] bool open(Cell cell) const {
    return any() ? costs_->size().contains(cell) && entry(cell) != blocked : costs_->open(cell);
  }
  [[nodiscard]] EntryCost entry(Cell cell) const;
  /// @pre the cell is on the map
  [[nodiscard]] DirectionSet moves(Cell cell) const {
    if (!any() || !near_change(cell)) return costs_->moves_on_map(cell);
    return costs_->moves_if(cell, [this](Cell at) { return open(at); });
  }
  /// Calls visit(cell, cost) for each cell that is changed, once.
  template <typename Visit>
  void for_each(Visit&& visit) const {
    for (const Change& change : changes_) visit(change.cell, change.cost);
  }
  /// Elsewhere entries and steps are the grid's own, also those of neighbours. Empty when nothing is changed.
  [[nodiscard]] Rect about() const { return any() ? block_.grown(step_reach, costs_->size()) : Rect{}; }
  /// The smallest entry cost of any cell, with the changes made.
  [[nodiscard]] EntryCost lowest_entry() const { return cheapest_; }
  [[nodiscard]] std::size_t memory() const { return bytes_of(changes_, ground_) + bits_.memory(); }
  /// No cell costs more.
  [[nodiscard]] EntryCost highest_entry() const { return highest_; }

 private:
  static constexpr std::int32_t step_reach = 2;  // columns that a step on triangles can lead aside
  struct Change {
    Cell cell;
    EntryCost cost = blocked;
    std::size_t place = 0;  // in the caller's list: the later of two counts
  };
  [[nodiscard]] const Change* find(Cell cell) const;
  [[nodiscard]] bool any_in_row(std::int32_t row, std::int32_t first, std::int32_t last) const;
  [[nodiscard]] bool near_change(Cell cell) const;
  [[nodiscard]] static const Change* find_in(const std::vector<Change>& changes, Cell cell);
  void put_in_order();
  void spread_over_places();
  void find_bounds();

  const CostGrid* costs_ = nullptr;
  std::vector<Change> changes_;  // on the map, in reading order, one for each cell; of a large mover its places
  std::vector<Change> ground_;   // of a large mover: what was given
  Rect block_;                   // holds them all
  BitGrid bits_;                 // of the changed cells, only with Lookup::by_bits
  bool by_bits_ = false;
  EntryCost cheapest_ = blocked;
  EntryCost highest_ = blocked;
};

}  // namespace saunter::inline v0_2::detail
