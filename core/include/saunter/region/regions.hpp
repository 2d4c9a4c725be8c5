/// @file
/// Which places belong together.
///
/// Units: cells counted, ids from 1.
/// Errors: off the map is 0; after a throw they are made from no grid.
/// Cost: O(cells) when made, the smaller part when updated; 4 bytes a cell.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <memory>
#include <vector>

#include "saunter/grid/labels.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost_grid.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// A connected part of a board for one mover.
struct Region {
  std::uint32_t id = 0;     ///< from 1, by first cell in reading order
  std::uint32_t cells = 0;  ///< places in it
  Rect box;                 ///< the smallest block that holds it
  Cell first;               ///< its first cell in reading order
  friend bool operator==(const Region&, const Region&) = default;
};

/// The regions of a cost grid: places joined by steps that can be taken both ways. (A circle of one-way steps does not
/// join.) Labels are 0 where the mover can't stand.
class Regions {
 public:
  Regions() = default;
  /// Labels all cells. @cost O(cells), a few nanoseconds a cell; 4 bytes a cell, 4 for each stretch of open cells in a
  /// row and the list of regions. Large maps spend more of it on fresh memory than on labels: RegionsUpdater::remake.
  /// Where barriers or height limits take part, and on triangles with free corners, steps are asked cell by cell
  explicit Regions(const CostGrid& costs);

  /// Brings the regions up to date after cells were opened or closed, or barriers or heights changed: afterwards they
  /// equal regions made anew.
  ///
  /// Where a closed cell may have split a region, floods set out from all sides of it by turns; when all but one have
  /// ended or met, the rest keeps its labels unseen. So the cost follows the smaller part, not the region. Regions that
  /// join are renamed in a table. Starts over when more than a quarter of the map would be flooded.
  ///
  /// @param costs  the grid the regions were made from, brought up to date; for another one they are made anew
  /// @param changed  what `rebake` returned, or the one cell given to `set_entry`. The grid knows its own changes:
  /// those
  ///                 this block leaves out are taken in all the same
  /// @cost O(cells of the block + cells of the parts split off); O(regions) more when their number or order changed;
  /// the sides of a region's box are looked for anew when cells on them were lost
  /// When it throws, the regions say that they are made_from() no grid, and the next update makes them anew.
  void update(const CostGrid& costs, Rect changed = {});
  /// Whether they describe this grid as it is now.
  [[nodiscard]] bool made_from(const CostGrid& costs) const { return labels_.stamp().same(costs.stamp()); }

  [[nodiscard]] const std::vector<Region>& list() const { return list_; }
  /// The region with the most cells, the first of them among equals; null when there is none.
  [[nodiscard]] const Region* largest() const;
  /// The id of each cell's region; hand it to searches and a hopeless query is answered at once (RouteOptions::labels).
  [[nodiscard]] const Labels& labels() const { return labels_; }
  /// The region of a cell, 0 for none and off the map. O(1).
  [[nodiscard]] std::uint32_t at(Cell cell) const { return labels_.at(cell); }
  [[nodiscard]] std::uint32_t at(CellIndex index) const { return labels_.at(index); }
  /// Whether two cells belong to one region. O(1).
  [[nodiscard]] bool same(Cell a, Cell b) const { return at(a) != 0 && at(a) == at(b); }

 private:
  friend class RegionsUpdater;
  class Update;
  struct Making;
  void make(const CostGrid& costs, Making& making);
  void flood(const CostGrid& costs, std::vector<Cell>& line);

  Labels labels_;
  std::vector<Region> list_;
};

/// Updates regions many times: keeps its scratch memory, so that after warm-up nothing is allocated while no list
/// grows. One per thread.
class RegionsUpdater {
 public:
  RegionsUpdater();
  ~RegionsUpdater();
  RegionsUpdater(RegionsUpdater&&) noexcept;
  RegionsUpdater& operator=(RegionsUpdater&&) noexcept;
  /// What Regions::update does. After an exception the next update makes the regions anew.
  void operator()(Regions& regions, const CostGrid& costs, Rect changed = {});
  /// Labels all cells as `Regions(costs)` does, in the memory that the regions and the updater have: for boards that
  /// change all over, and for one board after the other. @cost O(cells); allocates only while a list or the board grows
  void remake(Regions& regions, const CostGrid& costs);

 private:
  friend class Regions;
  struct Scratch;
  std::unique_ptr<Scratch> scratch_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
