/// @file
/// A number for each cell that says which group it belongs to.
///
/// Units: group numbers from 1, 0 = none.
/// Errors: off the map is 0.
/// Cost: O(1) a cell, 4 bytes a cell; allocates when made.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <vector>

#include "saunter/grid/grid.hpp"
#include "saunter/grid/stamp.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Group numbers of all cells, 0 = none. Cells hold a name and a table says which number a name has: groups that join
/// or are numbered anew cost one entry of the table, however many cells they have.
class Labels {
 public:
  Labels() = default;
  explicit Labels(Size size) : names_(size), numbers_(1, 0) {}
  Labels(const Labels&) = default;
  Labels(Labels&&) noexcept = default;
  /// When it throws, nothing has changed.
  Labels& operator=(const Labels& other) { return *this = Labels(other); }
  Labels& operator=(Labels&&) noexcept = default;
  ~Labels() = default;

  [[nodiscard]] Size size() const { return names_.size(); }
  /// The number of a cell's group, 0 off the map. O(1).
  [[nodiscard]] std::uint32_t at(Cell cell) const { return number_of(names_[cell]); }
  [[nodiscard]] std::uint32_t at(CellIndex index) const { return number_of(names_[index]); }
  /// Whether no way leads from one group to another (where steps lead one way only, it may).
  [[nodiscard]] bool proves_apart() const { return proves_apart_; }
  void set_proves_apart(bool proves) { proves_apart_ = proves; }
  /// Which state of which cost grid the labels describe (CostGrid::stamp). They are believed for no other.
  [[nodiscard]] const Stamp& stamp() const { return stamp_; }
  void set_stamp(const Stamp& stamp) { stamp_ = stamp; }

  /// For those that make labels: name 0 is number 0.
  [[nodiscard]] Grid<std::uint32_t>& names() { return names_; }
  [[nodiscard]] const Grid<std::uint32_t>& names() const { return names_; }
  [[nodiscard]] std::vector<std::uint32_t>& numbers() { return numbers_; }

 private:
  [[nodiscard]] std::uint32_t number_of(std::uint32_t name) const {
    return name < numbers_.size() ? numbers_[name] : 0;
  }
  Grid<std::uint32_t> names_;
  std::vector<std::uint32_t> numbers_;
  Stamp stamp_;
  bool proves_apart_ = false;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
