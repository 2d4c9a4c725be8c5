/// @file
/// Who stands where.
///
/// Units: cells; units by number from 1, layers from 0.
/// Errors: what can't be done returns false and changes nothing.
/// Cost: O(cells of the unit x log); 4 bytes a cell and layer.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <span>
#include <vector>

#include "saunter/grid/bit_grid.hpp"
#include "saunter/grid/change_set.hpp"
#include "saunter/grid/grid.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/place/footprint.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// A unit's number in an `Occupancy`, from 1; 0 = nobody.
using UnitId = std::uint32_t;

/// A unit and where it is to stand.
struct UnitMove {
  UnitId id = 0;
  Pose pose = {};
};

/// Units on a board, by number: put down, lifted, moved, exchanged. A change happens whole or not at all: when a cell
/// would be off the map or is taken in that layer, the unit is not known, or it does not stand as the call needs it,
/// it returns false and nothing is different; so it is when a call throws. Units in different layers do not meet: a
/// mark on the floor does not keep a crate away.
///
/// Each change tells its cells, so that cost grids, regions and fields can follow, and the last one can be taken back.
/// Memory: 4 bytes a cell and layer. Reading is `const`. What was moved from is empty.
class Occupancy {
 public:
  /// What is known of a unit.
  struct Unit {
    Footprint footprint = {};
    int layer = 0;
    bool blocks = true;  ///< stands in the way of movers
    bool standing = false;
    bool resident = false;         ///< see keep()
    Pose pose = {};                ///< where it stands, or stood last
    std::vector<Cell> cells = {};  ///< covered; empty while it is lifted
  };

  Occupancy() = default;
  /// @pre layers >= 1
  explicit Occupancy(Board board, int layers = 1);

  [[nodiscard]] Board board() const { return {tiling_, blocking_.size()}; }
  [[nodiscard]] int layers() const { return static_cast<int>(taken_.size()); }

  /// Makes a unit known; it stands nowhere yet. @return its number, 0 when there is no such layer or no cell
  UnitId add(Footprint footprint, int layer = 0, bool blocks = true);
  /// Puts a lifted unit down. O(its cells x log), as all changes.
  bool place(UnitId id, const Pose& pose);
  /// Takes a unit up.
  bool lift(UnitId id);
  /// Somewhere else, or otherwise turned; it may overlap where it stood.
  bool move(UnitId id, const Pose& pose);
  /// Several at once, each to a pose of its own, also into each other's places: all, or none when one can't, is not
  /// known, does not stand or is named twice.
  bool move_all(std::span<const UnitMove> moves);
  /// Takes a unit up and forgets it: its number is not known any more and never given again. Can't be taken back.
  bool remove(UnitId id);
  /// Makes a unit a resident, who is to be able to get about wherever others are put (see residents()), or one no more.
  bool keep(UnitId id, bool resident = true);
  /// A cell of each resident that stands: what `FitTerms::keep_open` wants, so that nobody is walled in. In the order
  /// of their numbers; `out` is cleared first.
  void residents(std::vector<Cell>& out) const;
  /// Two units change anchors and keep their turns, in whatever layers.
  bool swap(UnitId a, UnitId b);
  /// Takes the last change back. Once: false when there is none, or it was taken back already.
  bool undo();

  [[nodiscard]] bool known(UnitId id) const {
    return id >= 1 && id <= units_.size() && units_[id - 1].footprint.cell_count() != 0;
  }
  /// One that covers nothing and stands nowhere when it is not known.
  [[nodiscard]] const Unit& unit(UnitId id) const;
  /// The largest number given so far.
  [[nodiscard]] std::size_t unit_count() const { return units_.size(); }
  /// Who covers a cell in a layer, 0 = nobody, also off the map and where there is no such layer. O(1).
  [[nodiscard]] UnitId at(Cell cell, int layer = 0) const {
    return layer >= 0 && layer < layers() ? taken_[static_cast<std::size_t>(layer)][cell] : UnitId{0};
  }
  /// The same for all cells; null where there is no such layer.
  [[nodiscard]] const Grid<UnitId>* layer(int layer) const {
    return layer >= 0 && layer < layers() ? &taken_[static_cast<std::size_t>(layer)] : nullptr;
  }
  /// Cells under units that stand in the way of movers, in any layer: for `bake` and `rebake`.
  [[nodiscard]] const BitGrid& blocking() const { return blocking_; }
  /// The cells that the last change (or its undoing) gave to another unit or to nobody, in reading order.
  [[nodiscard]] const std::vector<Cell>& changed() const { return changed_; }
  /// The smallest block that holds them: for `rebake`.
  [[nodiscard]] Rect changed_block() const;
  /// The same as few blocks, so that what was left and what was taken far away cost no more than themselves.
  [[nodiscard]] ChangeSet changed_blocks() const;
  /// Rises with every change.
  [[nodiscard]] std::uint64_t revision() const { return revision_; }

 private:
  struct Before {
    UnitId id = 0;
    bool standing = false;
    Pose pose = {};
  };

  /// A cell of a layer, and who had it before.
  struct Spot {
    int layer = 0;
    Cell cell;
    UnitId had = 0;
    friend bool operator<(const Spot& a, const Spot& b) {
      return a.layer != b.layer ? a.layer < b.layer : a.cell < b.cell;
    }
  };

  /// Puts units into new states all at once, or none.
  bool change(std::span<const Before> states);
  [[nodiscard]] bool find_wanted(std::span<const Before> states);
  void take_off(Unit& unit);
  void put_on(UnitId id, Unit& unit);

  Tiling tiling_;
  std::vector<Grid<UnitId>> taken_;
  BitGrid blocking_;
  std::vector<Unit> units_;
  std::vector<Before> last_;  // how the units of the last change were before it
  std::vector<Before> before_;
  std::vector<Cell> changed_;
  std::vector<std::vector<Cell>> wanted_;  // by the units of a change
  std::vector<Spot> spots_;                // all that a change touches
  std::uint64_t revision_ = 0;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
