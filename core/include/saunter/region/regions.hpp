/// @file
/// Which places belong together.
#pragma once

#include <vector>

#include "saunter/ground/cost_grid.hpp"

namespace saunter {

/// A connected part of a board for one mover.
struct Region {
  std::uint32_t id = 0;     ///< from 1, by first cell in reading order
  std::uint32_t cells = 0;  ///< places in it
  Rect box;                 ///< the smallest block that holds it
  Cell first;               ///< its first cell in reading order
};

/// The regions of a cost grid: places joined by steps that can be taken both ways. (A circle of one-way steps does not
/// join.) Labels are 0 where the mover can't stand.
class Regions {
 public:
  /// Labels all cells. @cost O(cells), a few nanoseconds a cell; 4 bytes a cell, 12 for each stretch of open cells in a
  /// row and the list of regions. Where barriers or height limits take part, and on triangles with free corners, steps
  /// are asked cell by cell
  explicit Regions(const CostGrid& costs);

  [[nodiscard]] const std::vector<Region>& list() const { return list_; }
  /// The region with the most cells, the first of them among equals; null when there is none.
  [[nodiscard]] const Region* largest() const;
  [[nodiscard]] const Grid<std::uint32_t>& labels() const { return labels_; }
  /// The region of a cell, 0 for none. O(1). @pre the cell is on the map
  [[nodiscard]] std::uint32_t at(Cell cell) const { return labels_[cell]; }
  /// Whether two cells belong to one region. O(1).
  [[nodiscard]] bool same(Cell a, Cell b) const { return at(a) != 0 && at(a) == at(b); }

 private:
  void label_runs(const CostGrid& costs);
  void flood(const CostGrid& costs);

  Grid<std::uint32_t> labels_;
  std::vector<Region> list_;
};

}  // namespace saunter
