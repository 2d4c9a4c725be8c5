/// @file
/// A number for each cell that says which group it belongs to.
#pragma once

#include <vector>

#include "saunter/grid/grid.hpp"

namespace saunter {

/// Group numbers of all cells, 0 = none. Cells hold a name and a table says which number a name has: groups that join
/// or are numbered anew cost one entry of the table, however many cells they have.
class Labels {
 public:
  Labels() = default;
  explicit Labels(Size size) : names_(size), numbers_(1, 0) {}

  [[nodiscard]] Size size() const { return names_.size(); }
  /// The number of a cell's group. O(1). @pre the cell is on the map
  [[nodiscard]] std::uint32_t at(Cell cell) const { return numbers_[names_[cell]]; }
  [[nodiscard]] std::uint32_t at(CellIndex index) const { return numbers_[names_[index]]; }
  /// Whether no way leads from one group to another (where steps lead one way only, it may).
  [[nodiscard]] bool proves_apart() const { return proves_apart_; }
  void set_proves_apart(bool proves) { proves_apart_ = proves; }
  /// Which state of the cost grid the labels describe (CostGrid::revision).
  [[nodiscard]] std::uint64_t revision() const { return revision_; }
  void set_revision(std::uint64_t revision) { revision_ = revision; }

  /// For those that make labels: name 0 is number 0.
  [[nodiscard]] Grid<std::uint32_t>& names() { return names_; }
  [[nodiscard]] const Grid<std::uint32_t>& names() const { return names_; }
  [[nodiscard]] std::vector<std::uint32_t>& numbers() { return numbers_; }

 private:
  Grid<std::uint32_t> names_;
  std::vector<std::uint32_t> numbers_;
  std::uint64_t revision_ = 0;
  bool proves_apart_ = false;
};

}  // namespace saunter
