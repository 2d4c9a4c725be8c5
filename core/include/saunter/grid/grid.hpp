/// @file
/// One value per cell.
///
/// Units: one value a cell, row by row from cell 0,0.
/// Errors: reading off the map gives T{}, writing there stops the program.
/// Cost: O(1) a cell, O(cells) when made or compared; allocates when made.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <cstdlib>
#include <span>
#include <utility>
#include <vector>

#include "saunter/grid/cell.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// A value of type T for each cell of a map, row by row in one block of memory.
/// Access by `Cell` or `CellIndex` is O(1). Reading off the map gives T{}; writing there stops the program in every
/// build, since there is no place to write to. Only construction and assignment allocate; when they throw, nothing has
/// changed. A grid moved from is empty. T must not be bool; use `BitGrid` for flags.
template <typename T>
class Grid {
 public:
  Grid() = default;
  /// 0 x 0 when the size is not sound.
  explicit Grid(Size size, T fill = T{}) : size_(size.or_empty()), values_(size_.cell_count(), fill) {}
  /// Takes over a vector's memory. @pre a value for each cell, else missing ones are T{}; 0 x 0 when the size is not
  /// sound
  Grid(Size size, std::vector<T> values) : size_(size.or_empty()), values_(std::move(values)) {
    SAUNTER_EXPECT(values_.size() == size_.cell_count());
    values_.resize(size_.cell_count());
  }
  Grid(const Grid&) = default;
  Grid(Grid&& other) noexcept : size_(std::exchange(other.size_, {})), values_(std::move(other.values_)) {
    other.values_.clear();
  }
  Grid& operator=(const Grid& other) {
    values_ = other.values_;  // may throw, and then nothing has changed
    size_ = other.size_;
    return *this;
  }
  Grid& operator=(Grid&& other) noexcept {
    values_.swap(other.values_);
    std::swap(size_, other.size_);
    if (this != &other) {
      other.values_.clear();
      other.size_ = {};
    }
    return *this;
  }
  ~Grid() = default;

  [[nodiscard]] Size size() const { return size_; }
  [[nodiscard]] bool empty() const { return values_.empty(); }

  [[nodiscard]] T operator[](CellIndex index) const {
    return index.value() < values_.size() ? values_[index.value()] : T{};
  }
  [[nodiscard]] T operator[](Cell cell) const { return size_.contains(cell) ? values_[place(cell)] : T{}; }
  /// @pre on the map; stops every build otherwise
  [[nodiscard]] T& operator[](CellIndex index) {
    if (index.value() >= values_.size()) stop();
    return values_[index.value()];
  }
  [[nodiscard]] T& operator[](Cell cell) {
    if (!size_.contains(cell)) stop();
    return values_[place(cell)];
  }

  /// All values in reading order.
  [[nodiscard]] std::span<const T> values() const { return values_; }
  [[nodiscard]] std::span<T> values() { return values_; }
  /// The values of one row. @pre 0 <= row < size().rows; stops every build otherwise
  [[nodiscard]] std::span<const T> row(std::int32_t row) const {
    return values().subspan(row_start(row), static_cast<std::size_t>(size_.cols));
  }
  [[nodiscard]] std::span<T> row(std::int32_t row) {
    return values().subspan(row_start(row), static_cast<std::size_t>(size_.cols));
  }

  friend bool operator==(const Grid&, const Grid&) = default;

 private:
  [[noreturn]] static void stop() {
    [[maybe_unused]] constexpr bool cell_of_the_map = false;
    SAUNTER_EXPECT(cell_of_the_map);
    std::abort();
  }
  [[nodiscard]] std::size_t place(Cell cell) const {
    return static_cast<std::size_t>(cell.row) * static_cast<std::size_t>(size_.cols) +
           static_cast<std::size_t>(cell.col);
  }
  [[nodiscard]] std::size_t row_start(std::int32_t row) const {
    if (row < 0 || row >= size_.rows) stop();
    return static_cast<std::size_t>(row) * static_cast<std::size_t>(size_.cols);
  }

  Size size_;
  std::vector<T> values_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
