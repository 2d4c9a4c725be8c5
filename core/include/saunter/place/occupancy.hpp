/// @file
/// Who stands where.
#pragma once

#include <vector>

#include "saunter/grid/bit_grid.hpp"
#include "saunter/grid/grid.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/place/footprint.hpp"

namespace saunter SAUNTER_VISIBLE {

/// A thing's number in an `Occupancy`, from 1; 0 = nobody.
using ThingId = std::uint32_t;

/// Things on a board, by number: put down, lifted, moved, exchanged. A change happens whole or not at all: when a cell
/// would be off the map or is taken in that layer, the thing is not known, or it does not stand as the call needs it,
/// it returns false and nothing is different; so it is when a call throws. Things in different layers do not meet: a
/// mark on the floor does not keep a crate away.
///
/// Each change tells its cells, so that cost grids, regions and fields can follow, and the last one can be taken back.
/// Memory: 4 bytes a cell and layer. Reading is `const`. What was moved from is empty.
class Occupancy {
 public:
  /// What is known of a thing.
  struct Thing {
    Footprint footprint = {};
    int layer = 0;
    bool blocks = true;  ///< stands in the way of movers
    bool standing = false;
    Pose pose = {};                ///< where it stands, or stood last
    std::vector<Cell> cells = {};  ///< covered; empty while it is lifted
  };

  Occupancy() = default;
  /// @pre layers >= 1
  explicit Occupancy(Board board, int layers = 1);

  [[nodiscard]] Board board() const { return {tiling_, blocking_.size()}; }
  [[nodiscard]] int layers() const { return static_cast<int>(taken_.size()); }

  /// Makes a thing known; it stands nowhere yet. @return its number, 0 when there is no such layer or no cell
  ThingId add(Footprint footprint, int layer = 0, bool blocks = true);
  /// Puts a lifted thing down. O(its cells x log), as all changes.
  bool place(ThingId id, const Pose& pose);
  /// Takes a thing up.
  bool lift(ThingId id);
  /// Somewhere else, or otherwise turned; it may overlap where it stood.
  bool move(ThingId id, const Pose& pose);
  /// Two things change anchors and keep their turns, in whatever layers.
  bool swap(ThingId a, ThingId b);
  /// Takes the last change back. Once: false when there is none, or it was taken back already.
  bool undo();

  [[nodiscard]] bool known(ThingId id) const { return id >= 1 && id <= things_.size(); }
  /// One that covers nothing and stands nowhere when it is not known.
  [[nodiscard]] const Thing& thing(ThingId id) const;
  [[nodiscard]] std::size_t thing_count() const { return things_.size(); }
  /// Who covers a cell in a layer, 0 = nobody, also off the map and where there is no such layer. O(1).
  [[nodiscard]] ThingId at(Cell cell, int layer = 0) const {
    return layer >= 0 && layer < layers() ? taken_[static_cast<std::size_t>(layer)][cell] : ThingId{0};
  }
  /// Cells under things that stand in the way of movers, in any layer: for `bake` and `rebake`.
  [[nodiscard]] const BitGrid& blocking() const { return blocking_; }
  /// The cells that the last change (or its undoing) gave to another thing or to nobody, in reading order.
  [[nodiscard]] const std::vector<Cell>& changed() const { return changed_; }
  /// The smallest block that holds them: for `rebake`.
  [[nodiscard]] Rect changed_block() const;
  /// Rises with every change.
  [[nodiscard]] std::uint64_t revision() const { return revision_; }

 private:
  struct Before {
    ThingId id = 0;
    bool standing = false;
    Pose pose = {};
  };

  /// A cell of a layer, and who had it before.
  struct Spot {
    int layer = 0;
    Cell cell;
    ThingId had = 0;
    friend bool operator<(const Spot& a, const Spot& b) {
      return a.layer != b.layer ? a.layer < b.layer : a.cell < b.cell;
    }
  };

  /// Puts things into new states all at once, or none.
  bool change(std::span<const Before> states);
  [[nodiscard]] bool find_wanted(std::span<const Before> states);
  void take_off(Thing& thing);
  void put_on(ThingId id, Thing& thing);

  Tiling tiling_;
  std::vector<Grid<ThingId>> taken_;
  BitGrid blocking_;
  std::vector<Thing> things_;
  std::vector<Before> last_;  // how the things of the last change were before it
  std::vector<Cell> changed_;
  std::vector<std::vector<Cell>> wanted_;  // by the things of a change
  std::vector<Spot> spots_;                // all that a change touches
  std::uint64_t revision_ = 0;
};

}  // namespace saunter SAUNTER_VISIBLE
