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
  /// Labels all cells. @cost O(cells x directions), 4 bytes a cell and the list of regions
  explicit Regions(const CostGrid& costs);

  [[nodiscard]] const std::vector<Region>& list() const { return list_; }
  [[nodiscard]] const Grid<std::uint32_t>& labels() const { return labels_; }
  /// The region of a cell, 0 for none. O(1). @pre the cell is on the map
  [[nodiscard]] std::uint32_t at(Cell cell) const { return labels_[cell]; }
  /// Whether two cells belong to one region. O(1).
  [[nodiscard]] bool same(Cell a, Cell b) const { return at(a) != 0 && at(a) == at(b); }

 private:
  Grid<std::uint32_t> labels_;
  std::vector<Region> list_;
};

}  // namespace saunter
