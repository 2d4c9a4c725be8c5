/// @file
/// Many units that share a field: a step for each of them, every tick.
///
/// Units: ticks; costs in hundredths.
/// Errors: units that can't stand where they are put are not added; who can't step waits.
/// Cost: O(units x directions) a tick and sorting them by patience; 8 bytes a cell, no allocation after warm-up.
/// Threads: one at a time; each thread its own.
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/live/id.hpp"
#include "saunter/place/footprint.hpp"
#include "saunter/search/field.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// What units of one kind go by: the steps they can take and the field they descend.
struct CrowdGround {
  const CostGrid* costs = nullptr;
  const Field* field = nullptr;  ///< to goals @pre field->made_from(*costs)
};

struct CrowdOptions {
  Hundredths crowding = 50_hundredths;  ///< what a place that another stands on seems to cost more
  Hundredths waiting = 1_steps;         ///< what a tick without a step seems to cost
  /// Who is so near to a goal by the field has arrived, and moves up as long as nobody is ahead: so one rally point has
  /// room for all. For large units the better way: among many goals of equal worth they stay where they first arrive.
  Hundredths arrive_within = {};
};

/// Units on a board, several cells large or not. In one tick each takes at most one step, no two are in one cell, and
/// no two change places (who follows closely, or goes round in a ring of three and more, may). Crossing diagonals are
/// fine.
///
/// Each tick those who have been on their way longest choose first; who stands in the way of one who chose earlier
/// chooses next, so that it makes room if it can, and steps aside or back if it must; else the one behind chooses anew
/// (priority inheritance with backtracking; Okumura, Machida, Defago, Tamura 2022). Whoever has arrived goes to the end
/// of the line, and makes room for those still coming, but does not leave the goal again. One who chooses first goes by
/// the field alone, so where there is room to step aside everybody comes forward; in a corridor one unit wide that ends
/// blindly, units that must get past each other do not, and large ones need passages wider than themselves to make
/// room. The same units and calls give the same steps everywhere.
class Crowd {
 public:
  using UnitNumber = Id<Crowd>;

  explicit Crowd(Board board);

  /// @param costs  of this board: the unit is as large as the mover it was baked for
  /// @param kind  which of the grounds given to `step` it goes by
  /// @return its number; nothing where it would be off the map or on another. O(its cells)
  std::optional<UnitNumber> add(const CostGrid& costs, Cell cell, std::size_t kind = 0);
  /// Takes it off the board; its number is never given again. False when there is no such unit. O(units)
  bool remove(UnitNumber unit);

  /// One tick. Units of a kind without a ground wait. @pre grounds of this board for movers of their units' size, with
  /// fields made from them, else those units wait too
  void step(std::span<const CrowdGround> grounds, const CrowdOptions& options = {});

  /// Those on the board, by number.
  [[nodiscard]] std::span<const UnitNumber> units() const { return numbers_; }
  /// What is asked about one unit costs O(log units).
  [[nodiscard]] bool known(UnitNumber unit) const { return slot_of(unit).has_value(); }
  [[nodiscard]] std::size_t count() const { return numbers_.size(); }
  /// Where it stands. @pre known(unit), else {-1, -1}
  [[nodiscard]] Cell cell(UnitNumber unit) const;
  /// Whether it stood on a goal after the last tick.
  [[nodiscard]] bool arrived(UnitNumber unit) const;
  [[nodiscard]] std::size_t arrived_count() const;
  /// Ticks since it was added or last stood on a goal.
  [[nodiscard]] std::uint32_t patience(UnitNumber unit) const;
  /// Who covers a cell.
  [[nodiscard]] std::optional<UnitNumber> at(Cell cell) const;
  /// Ticks so far.
  [[nodiscard]] std::uint64_t ticks() const { return ticks_; }

 private:
  class Tick;
  using Slot = std::uint32_t;  // of units_, used again
  struct Unit {
    UnitNumber number;
    Cell cell;
    Cell next;
    std::uint32_t kind = 0;
    std::uint32_t body = 0;  // of bodies_
    std::uint32_t patience = 0;
    bool arrived = false;
    bool decided = false;
  };
  struct Body {
    int size = 1;
    Footprint footprint;
  };
  [[nodiscard]] std::uint32_t body_of(int size);
  [[nodiscard]] std::optional<Slot> slot_of(UnitNumber unit) const;

  Board board_;
  std::vector<Unit> units_;
  std::vector<Body> bodies_;
  std::vector<UnitNumber> numbers_;  // of those on the board, rising
  std::vector<Slot> slots_;          // of each of them
  std::vector<Slot> free_;
  Grid<std::uint32_t> now_;   // the slot of who covers a cell, from 1
  Grid<std::uint32_t> then_;  // of who has claimed it for after the tick
  std::vector<Slot> order_;
  std::vector<Slot> moved_;  // who made room in this tick, in the order it was asked to
  std::vector<Cell> cells_;
  std::vector<Cell> other_cells_;
  std::uint32_t last_ = 0;  // number given
  std::uint64_t ticks_ = 0;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
