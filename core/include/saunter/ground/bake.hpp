/// @file
/// From map and mover to cost grid.
///
/// Units: entry costs in hundredths, 1 to 65,535.
/// Errors: a mover that does not suit the map gives an empty grid; a mistaken grid is baked anew.
/// Cost: O(cells), about 2 ns a cell, more with barriers; allocates the grid.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <concepts>
#include <memory>

#include "saunter/grid/change_set.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost_grid.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// What a mover can enter on a map, what it costs and which steps are legal.
///
/// A large mover's entry cost is the largest of the cells it covers; it can stand where all of them are on the map and
/// enterable and no barrier closed both ways runs between two of them. Barriers and height limits shape the legal
/// steps.
///
/// @param occupied  cells nobody can enter for now, such as those under units; same size as the map (what it does not
///                  have is free); may be null
/// @param added     what entering a cell costs more for now, hundredths (sums above 655.35 count as that); same size as
///                  the map; may be null
/// @pre !mover_problem(map.tiling(), mover), else the grid is empty
/// @cost O(cells x log size), a few bytes a cell of scratch memory for large movers, barriers and heights
[[nodiscard]] CostGrid bake(const Map& map, const Mover& mover, const BitGrid* occupied = nullptr,
                            const Grid<EntryCost>* added = nullptr);

/// Brings a cost grid up to date after cells of the map (terrain, height, barriers), of `occupied` or of `added`
/// changed: afterwards it equals a fresh bake. @param changed  a block that holds every changed cell; parts off the map
/// are ignored
/// @return a block that holds every cell whose entry cost or legal steps may have changed (where steps are not stored,
/// those beside it follow from open cells): what regions, fields and ways are to be brought up to date with
/// When it throws, nothing has changed. @pre `costs` was baked from the same map and an equal mover; a grid of another
/// board is baked anew
/// @cost O(cells of the block grown by the mover's size), and a few bytes for each of them
Rect rebake(CostGrid& costs, const Map& map, const Mover& mover, Rect changed, const BitGrid* occupied = nullptr,
            const Grid<EntryCost>* added = nullptr);

/// The same for many changes: keeps its scratch memory, so that after warm-up nothing is allocated for movers of size 1
/// without barriers and heights. One per thread.
class Rebaker {
 public:
  Rebaker();
  ~Rebaker();
  Rebaker(Rebaker&&) noexcept;
  Rebaker& operator=(Rebaker&&) noexcept;
  Rect operator()(CostGrid& costs, const Map& map, const Mover& mover, Rect changed, const BitGrid* occupied = nullptr,
                  const Grid<EntryCost>* added = nullptr);
  /// The same for several blocks, each brought up to date by itself. @return blocks that hold every cell whose entry
  /// cost or legal steps may have changed. When it throws, the blocks before are done: call it again
  template <std::same_as<ChangeSet> Changes>
  ChangeSet operator()(CostGrid& costs, const Map& map, const Mover& mover, const Changes& changed,
                       const BitGrid* occupied = nullptr, const Grid<EntryCost>* added = nullptr) {
    ChangeSet touched;
    for (const Rect block : changed.blocks()) touched.add((*this)(costs, map, mover, block, occupied, added));
    return touched;
  }

 private:
  struct Scratch;
  std::unique_ptr<Scratch> scratch_;
};

/// The same, once.
template <std::same_as<ChangeSet> Changes>
ChangeSet rebake(CostGrid& costs, const Map& map, const Mover& mover, const Changes& changed,
                 const BitGrid* occupied = nullptr, const Grid<EntryCost>* added = nullptr) {
  return Rebaker()(costs, map, mover, changed, occupied, added);
}

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
