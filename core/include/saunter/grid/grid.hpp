/// @file
/// One value per cell.
#pragma once

#include <span>
#include <vector>

#include "saunter/grid/cell.hpp"

namespace saunter {

/// A value of type T for each cell of a map, row by row in one block of memory.
/// Access by `Cell` or `CellIndex` is O(1) and unchecked in release builds. Only construction and assignment allocate.
/// T must not be bool; use `BitGrid` for flags.
template <typename T>
class Grid {
 public:
  Grid() = default;
  explicit Grid(Size size, T fill = T{}) : size_(size), values_(size.cell_count(), fill) {}

  [[nodiscard]] Size size() const { return size_; }
  [[nodiscard]] bool empty() const { return values_.empty(); }

  [[nodiscard]] const T& operator[](CellIndex index) const {
    SAUNTER_EXPECT(index.value() < values_.size());
    return values_[index.value()];
  }
  [[nodiscard]] T& operator[](CellIndex index) {
    SAUNTER_EXPECT(index.value() < values_.size());
    return values_[index.value()];
  }
  [[nodiscard]] const T& operator[](Cell cell) const { return (*this)[size_.index(cell)]; }
  [[nodiscard]] T& operator[](Cell cell) { return (*this)[size_.index(cell)]; }

  /// All values in reading order.
  [[nodiscard]] std::span<const T> values() const { return values_; }
  [[nodiscard]] std::span<T> values() { return values_; }
  /// The values of one row. @pre 0 <= row < size().rows
  [[nodiscard]] std::span<const T> row(std::int32_t row) const {
    return values().subspan(row_start(row), static_cast<std::size_t>(size_.cols));
  }
  [[nodiscard]] std::span<T> row(std::int32_t row) {
    return values().subspan(row_start(row), static_cast<std::size_t>(size_.cols));
  }

  friend bool operator==(const Grid&, const Grid&) = default;

 private:
  [[nodiscard]] std::size_t row_start(std::int32_t row) const {
    SAUNTER_EXPECT(row >= 0 && row < size_.rows);
    return static_cast<std::size_t>(row) * static_cast<std::size_t>(size_.cols);
  }

  Size size_;
  std::vector<T> values_;
};

}  // namespace saunter
