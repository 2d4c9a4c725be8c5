/// @file
/// Who stands where.
#pragma once

#include <vector>

#include "saunter/grid/bit_grid.hpp"
#include "saunter/grid/grid.hpp"
#include "saunter/place/footprint.hpp"

namespace saunter {

/// A thing's number in an `Occupancy`, from 1; 0 = nobody.
using ThingId = std::uint32_t;

/// Things on a board, by number: put down, lifted, moved, exchanged. A change happens whole or not at all: when a cell
/// would be off the map or is taken in that layer, it returns false and nothing is different. Things in different
/// layers do not meet: a mark on the floor does not keep a crate away.
///
/// Each change tells its cells, so that cost grids, regions and fields can follow, and the last one can be taken back.
/// Memory: 4 bytes a cell and layer. Reading is `const`.
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
  explicit Occupancy(Board board, int layers = 1);

  [[nodiscard]] const Board& board() const { return board_; }
  [[nodiscard]] int layers() const { return static_cast<int>(taken_.size()); }

  /// Makes a thing known; it stands nowhere yet. @pre 0 <= layer < layers(), the footprint has cells, each once
  ThingId add(Footprint footprint, int layer = 0, bool blocks = true);
  /// Puts a lifted thing down. O(its cells), as all changes. @pre it is not standing
  bool place(ThingId id, const Pose& pose);
  /// Takes a thing up. @pre it is standing
  void lift(ThingId id);
  /// Somewhere else, or otherwise turned; it may overlap where it stood. @pre it is standing
  bool move(ThingId id, const Pose& pose);
  /// Two things change anchors and keep their turns. @pre both are standing, in whatever layers
  bool swap(ThingId a, ThingId b);
  /// Takes the last change back. Once: false when there is none, or it was taken back already.
  bool undo();

  [[nodiscard]] const Thing& thing(ThingId id) const { return things_[id - 1]; }
  [[nodiscard]] std::size_t thing_count() const { return things_.size(); }
  /// Who covers a cell in a layer, 0 = nobody. O(1). @pre the cell is on the map
  [[nodiscard]] ThingId at(Cell cell, int layer = 0) const { return taken_[static_cast<std::size_t>(layer)][cell]; }
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

  /// Puts things into new states all at once, or none.
  bool change(std::span<const Before> states);
  void take_off(Thing& thing);
  void put_on(ThingId id, Thing& thing);

  Board board_;
  std::vector<Grid<ThingId>> taken_;
  BitGrid blocking_;
  std::vector<Thing> things_;
  std::vector<Before> last_;  // how the things of the last change were before it
  std::vector<Cell> changed_;
  std::vector<std::vector<Cell>> wanted_;
  std::uint64_t revision_ = 0;
};

}  // namespace saunter
