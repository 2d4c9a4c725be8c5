/// @file
/// One search for many units: the cost from or to every cell, and the next step from each.
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "saunter/ground/cost_grid.hpp"
#include "saunter/search/verdict.hpp"

namespace saunter {

/// Where a field begins: a goal to travel to, or a start to travel from.
struct Source {
  Cell cell;
  Cost head_start = 0;  ///< what is already spent (or still to be paid) there, hundredths
};

/// A source that could not be used, and why: `goal-off-map`, `goal-blocked` (fields to goals), `start-...` (reach).
struct UnusedSource {
  std::size_t number = 0;  ///< its place in the list, from 0
  Verdict verdict;
};

struct FieldOptions {
  /// Leave out cells that cost more, hundredths.
  std::optional<Cost> budget = {};
  /// Count every step as 1.00, whatever it costs: the fewest steps, found breadth first.
  bool count_steps = false;
};

/// Least costs between a set of sources and every cell, in one direction of travel.
///
/// Everything it tells is a function of the costs alone, so a repaired field equals a rebuilt one: the next step from a
/// cell is the first in the fixed neighbour order whose cost and remaining distance add up to the cell's own.
/// Memory: 5 bytes a cell, 4 more with several sources. Reading is O(1), allocates nothing and may happen in many
/// threads at once.
class Field {
 public:
  [[nodiscard]] const Board& board() const { return board_; }
  /// Least cost in hundredths; `unreached` when there is no way, or none within the budget. @pre the cell is on the map
  [[nodiscard]] Cost cost(Cell cell) const { return cost_[cell]; }
  [[nodiscard]] bool reached(Cell cell) const { return cost(cell) != unreached; }
  [[nodiscard]] const Grid<Cost>& costs() const { return cost_; }
  /// The next cell on a cheapest way: towards the goal in a field to goals, back to the start in a reach. Nothing at a
  /// source that is its own best, and where nothing is reached.
  [[nodiscard]] std::optional<Cell> next(Cell cell) const {
    const std::uint8_t d = next_[cell];
    if (d == no_direction) return std::nullopt;
    return board_.tiling.neighbour(cell, d);
  }
  /// The number of the source a cheapest way ends at; the lowest where several do. @pre reached(cell)
  [[nodiscard]] std::size_t source(Cell cell) const { return many_sources_ ? source_[cell] : only_source_; }
  /// The cells from one cell along next() to its source, both included; empty when it is not reached.
  void way(Cell from, std::vector<Cell>& out) const;

  /// Cells whose cost is known.
  [[nodiscard]] std::size_t reached_count() const { return reached_; }
  /// Whether cells were left out because their least cost does not fit.
  [[nodiscard]] bool overflowed() const { return overflowed_; }
  /// Sources off the map or blocked, in the order given; the others make the field.
  [[nodiscard]] const std::vector<UnusedSource>& unused() const { return unused_; }

 private:
  friend class FieldSearch;
  static constexpr std::uint8_t no_direction = 255;

  Board board_;
  Grid<Cost> cost_;
  Grid<std::uint8_t> next_;
  Grid<std::uint32_t> source_;  // kept up only with several sources
  bool many_sources_ = false;
  std::size_t only_source_ = 0;
  std::size_t reached_ = 0;
  bool overflowed_ = false;
  std::vector<UnusedSource> unused_;
};

/// Every cell within so many edge steps (on an open board) of a cell the field reaches: what a unit can act on that
/// first moves and then acts at a range. @param out  on the field's board; made anew. @cost O(reached x range^2)
void cells_in_range(const Field& field, int range, BitGrid& out);

}  // namespace saunter
