/// @file
/// One search for many units: the cost from or to every cell, and the next step from each.
///
/// Units: costs in hundredths.
/// Errors: sources that can't be used are listed; cells without a route are unreached.
/// Cost: O(cells log costs) to make, O(cells whose answer changes) to repair, O(1) to read; 9 bytes a cell.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "saunter/grid/borrowed.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost_grid.hpp"
#include "saunter/search/verdict.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Where a field begins: a goal to travel to, or a start to travel from.
struct Source {
  Cell cell;
  Hundredths head_start = {};  ///< what is already spent (or still to be paid) there
};

/// A source that could not be used, and why: `goal-off-map`, `goal-blocked` (fields to goals), `start-...` (reach).
struct UnusedSource {
  std::size_t number = 0;  ///< its place in the list, from 0
  Verdict verdict;
};

/// A cell whose entry cost is another for one question.
struct EntryChange {
  Cell cell;
  Hundredths cost = blocked;  ///< 0.01 to 655.35; `blocked` = keep out
};

/// The lists are copied into the field.
struct FieldOptions {
  /// Leave out cells that cost more (`8_steps`).
  std::optional<Hundredths> budget = {};
  /// Count every step as 1.00, whatever it costs: the fewest steps, found breadth first.
  bool count_steps = false;
  /// Answer as if these cells had other entry costs; the later of two for one cell counts. The grid is neither changed
  /// nor copied. Cells of ground, as in RouteOptions.
  Borrowed<EntryChange> changes = {};
  /// Cells that may be entered, but not left again: nothing is reached through them; places of a large mover that cover
  /// one are such. Sources are none. Of the grid's size, else as if there were none.
  const BitGrid* stops = nullptr;
  /// Enough once these cells are known: the field then holds every cell that costs at most as much as the costliest of
  /// them, and no other. Those off the map or blocked are not waited for; when one can't be reached, or all are such,
  /// the field is whole.
  Borrowed<Cell> until = {};
};

/// Least costs between a set of sources and every cell, in one direction of travel.
///
/// Everything it tells is a function of the costs alone, so a repaired field equals a rebuilt one: the next step from a
/// cell is the first in the fixed neighbour order whose cost and remaining distance add up to the cell's own.
/// Memory: 5 bytes a cell, 4 more with several sources. Reading is O(1), allocates nothing, is answered off the map too
/// and may happen in many threads at once. A field that an exception has left unfinished is made_from() no grid.
class Field {
 public:
  [[nodiscard]] Board board() const { return {tiling_, cost_.size()}; }
  /// Whether it was made, and whole, from this grid as it is now: a field that no longer fits its grid is told.
  [[nodiscard]] bool made_from(const CostGrid& costs) const { return stamp_.same(costs.stamp()); }
  /// Least cost in hundredths; `unreached` when there is no way, or none within the budget, and off the map.
  [[nodiscard]] Cost cost(Cell cell) const { return cost_.size().contains(cell) ? cost_[cell] : unreached; }
  [[nodiscard]] bool reached(Cell cell) const { return cost(cell) != unreached; }
  [[nodiscard]] const Grid<Cost>& costs() const { return cost_; }
  /// The next cell on a cheapest route: towards the goal in a field to goals, back to the start in a reach. Nothing at
  /// a source that is its own best, where nothing is reached, and off the map.
  [[nodiscard]] std::optional<Cell> next(Cell cell) const {
    if (!next_.size().contains(cell)) return std::nullopt;
    const std::uint8_t d = next_[cell];
    if (d == no_direction) return std::nullopt;
    return tiling_.neighbour(cell, Direction(d));
  }
  /// The number of the source a cheapest route ends at; the lowest where several do. 0 where not reached.
  [[nodiscard]] std::size_t source(Cell cell) const {
    return many_sources_ && reached(cell) ? source_[cell] : std::size_t{0};
  }
  /// The cells a unit travels, in that order, both ends included: in a field to goals from the cell to its goal, in a
  /// reach from the start to the cell. Empty when it is not reached. @param out  cleared first
  void path(Cell cell, std::vector<Cell>& out) const;

  /// Cells whose cost is known.
  [[nodiscard]] std::size_t reached_count() const { return reached_; }
  /// Whether cells were left out because their least cost does not fit.
  [[nodiscard]] bool overflowed() const { return overflowed_; }
  /// Sources off the map or blocked, in the order given; the others make the field.
  [[nodiscard]] const std::vector<UnusedSource>& unused() const { return unused_; }
  /// What it was made from, as given; repairs go by it. A field with changes, stops or an end is made anew by them.
  [[nodiscard]] const std::vector<Source>& sources() const { return sources_; }
  /// The cells nothing is reached through; null without any.
  [[nodiscard]] const BitGrid* stops() const { return has_stops_ ? &stops_ : nullptr; }
  /// Lists in it are the field's own: they live as long as the field stays where it is and is not made anew.
  [[nodiscard]] FieldOptions options() const {
    return {budget_, count_steps_, changes_, has_stops_ ? &stops_ : nullptr, until_};
  }

 private:
  friend class Searcher;
  friend class SteppedField;
  static constexpr std::uint8_t no_direction = 255;
  void keep(std::span<const Source> sources, const FieldOptions& options, bool to_sources);
  void clear(const CostGrid& costs, Rect known);
  void forget_beyond(Cost wanted);

  Stamp stamp_;
  Tiling tiling_;
  Grid<Cost> cost_;
  Grid<std::uint8_t> next_;
  Grid<std::uint32_t> source_;  // kept up only with several sources
  bool many_sources_ = false;
  Rect known_;  // nothing is reached outside
  Rect named_;  // no source has a cell outside
  std::size_t reached_ = 0;
  bool overflowed_ = false;
  std::vector<UnusedSource> unused_;
  // What was asked, for repairs.
  std::vector<Source> sources_;
  std::optional<Hundredths> budget_;
  bool count_steps_ = false;
  std::vector<EntryChange> changes_;
  BitGrid stops_;
  bool has_stops_ = false;
  std::vector<Cell> until_;
  bool to_sources_ = true;
};

/// Every cell within so many edge steps (on an open board) of a cell the field reaches: what a unit can act on that
/// first moves and then acts at a range. @param out  on the field's board; made anew. @cost O(cells), whatever the
/// range
void cells_in_range(const Field& field, int range, BitGrid& out);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
