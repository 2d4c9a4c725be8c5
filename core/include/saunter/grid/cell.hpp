/// @file
/// Cells, cell numbers and map sizes: the three things that must never be mixed up.
///
/// Units: columns to the right, rows down, both from 0; indices row by row.
/// Errors: cells off the map are told by contains(); an index off the map gives a cell off the map.
/// Cost: O(1), no allocation.
/// Threads: any number, nothing is shared.
#pragma once

#include <compare>
#include <cstddef>
#include <cstdint>
#include <functional>

#include "saunter/grid/expect.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Sums and differences of coordinates wrap round at the ends of the number range, so they are defined for every cell;
/// a wrapped coordinate lies off every map, since no two cells of one map are that far apart.
constexpr std::int32_t wrapping_add(std::int32_t a, std::int32_t b) {
  return static_cast<std::int32_t>(static_cast<std::uint32_t>(a) + static_cast<std::uint32_t>(b));
}
constexpr std::int32_t wrapping_subtract(std::int32_t a, std::int32_t b) {
  return static_cast<std::int32_t>(static_cast<std::uint32_t>(a) - static_cast<std::uint32_t>(b));
}

/// A place on a board: column and row. Columns grow to the right, rows grow down, (0,0) is the top left.
/// May lie off the map (negative or beyond the size); functions that care say so.
struct Cell {
  std::int32_t col = 0;
  std::int32_t row = 0;

  friend constexpr bool operator==(Cell, Cell) = default;
  /// Reading order: row by row, left to right.
  friend constexpr std::strong_ordering operator<=>(Cell a, Cell b) {
    if (const auto by_row = a.row <=> b.row; by_row != 0) return by_row;
    return a.col <=> b.col;
  }
};

/// The difference between two cells.
struct Offset {
  std::int32_t cols = 0;
  std::int32_t rows = 0;

  friend constexpr bool operator==(Offset, Offset) = default;
  friend constexpr Offset operator-(Offset a) { return {wrapping_subtract(0, a.cols), wrapping_subtract(0, a.rows)}; }
  friend constexpr Offset operator+(Offset a, Offset b) {
    return {wrapping_add(a.cols, b.cols), wrapping_add(a.rows, b.rows)};
  }
};

constexpr Cell operator+(Cell cell, Offset by) {
  return {wrapping_add(cell.col, by.cols), wrapping_add(cell.row, by.rows)};
}
constexpr Offset operator-(Cell to, Cell from) {
  return {wrapping_subtract(to.col, from.col), wrapping_subtract(to.row, from.row)};
}

/// The number of a cell within one map, row by row from 0. Only a `Size` makes one from a cell, so an index can't be
/// handed over where a cell is meant, nor a column where an index is meant.
class CellIndex {
 public:
  constexpr CellIndex() = default;
  constexpr explicit CellIndex(std::uint32_t value) : value_(value) {}
  [[nodiscard]] constexpr std::uint32_t value() const { return value_; }

  friend constexpr bool operator==(CellIndex, CellIndex) = default;
  friend constexpr auto operator<=>(CellIndex, CellIndex) = default;

 private:
  std::uint32_t value_ = 0;
};

class CellRange;

/// Width and height of a map in cells, each 0 to 65,535. Whatever is made for a size that is not `sound()` is empty.
struct Size {
  std::int32_t cols = 0;
  std::int32_t rows = 0;

  friend constexpr bool operator==(Size, Size) = default;

  /// Whether both sides are 0 to 65,535.
  [[nodiscard]] constexpr bool sound() const {
    return (static_cast<std::uint32_t>(cols) | static_cast<std::uint32_t>(rows)) <= 65'535U;
  }
  /// This size, or 0 x 0 when it is not sound.
  [[nodiscard]] constexpr Size or_empty() const {
    SAUNTER_EXPECT(sound());
    return sound() ? *this : Size{};
  }
  /// Number of cells. Fits 32 bits for every sound size; 0 for others.
  [[nodiscard]] constexpr std::size_t cell_count() const {
    return sound() ? static_cast<std::size_t>(cols) * static_cast<std::size_t>(rows) : 0;
  }
  [[nodiscard]] constexpr bool contains(Cell cell) const {
    return static_cast<std::uint32_t>(cell.col) < static_cast<std::uint32_t>(cols) &&
           static_cast<std::uint32_t>(cell.row) < static_cast<std::uint32_t>(rows);
  }
  /// @pre contains(cell), else an index beyond all cells
  [[nodiscard]] constexpr CellIndex index(Cell cell) const {
    SAUNTER_EXPECT(contains(cell));
    if (!contains(cell)) return CellIndex{0xFFFF'FFFF};
    return CellIndex{static_cast<std::uint32_t>(cell.row) * static_cast<std::uint32_t>(cols) +
                     static_cast<std::uint32_t>(cell.col)};
  }
  /// @pre index < cell_count(), else a cell off the map
  [[nodiscard]] constexpr Cell cell(CellIndex index) const {
    SAUNTER_EXPECT(index.value() < cell_count());
    if (index.value() >= cell_count()) return {-1, -1};
    const auto width = static_cast<std::uint32_t>(cols);
    return {static_cast<std::int32_t>(index.value() % width), static_cast<std::int32_t>(index.value() / width)};
  }
  /// All its cells in reading order.
  [[nodiscard]] constexpr CellRange cells() const;
};

/// All cells of a block in reading order, for `for (const Cell cell : size.cells())`.
class CellRange {
 public:
  class Iterator {
   public:
    using value_type = Cell;
    using difference_type = std::ptrdiff_t;
    constexpr Iterator() = default;
    constexpr Iterator(Cell at, std::int32_t left, std::int32_t right) : at_(at), left_(left), right_(right) {}
    constexpr Cell operator*() const { return at_; }
    constexpr Iterator& operator++() {
      if (++at_.col == right_) at_ = {left_, at_.row + 1};
      return *this;
    }
    constexpr Iterator operator++(int) {
      const Iterator before = *this;
      ++*this;
      return before;
    }
    friend constexpr bool operator==(Iterator a, Iterator b) { return a.at_ == b.at_; }

   private:
    Cell at_;
    std::int32_t left_ = 0;
    std::int32_t right_ = 0;
  };
  /// @pre left <= right and top <= bottom; with no columns there must be no rows
  constexpr CellRange(Cell first, std::int32_t right, std::int32_t bottom)
      : first_(first), right_(right), bottom_(bottom) {}
  [[nodiscard]] constexpr Iterator begin() const { return {first_, first_.col, right_}; }
  [[nodiscard]] constexpr Iterator end() const { return {{first_.col, bottom_}, first_.col, right_}; }

 private:
  Cell first_;
  std::int32_t right_;
  std::int32_t bottom_;
};

constexpr CellRange Size::cells() const {
  return cell_count() == 0 ? CellRange({0, 0}, 0, 0) : CellRange({0, 0}, cols, rows);
}

/// The most cells in a line and on a map that a file may ask for.
inline constexpr std::int32_t max_line_cells = 65'535;
inline constexpr std::size_t max_map_cells = 33'554'432;

/// A block of cells: columns [left, right) and rows [top, bottom).
struct Rect {
  std::int32_t left = 0;
  std::int32_t top = 0;
  std::int32_t right = 0;
  std::int32_t bottom = 0;

  friend constexpr bool operator==(Rect, Rect) = default;

  [[nodiscard]] static constexpr Rect whole(Size size) { return {0, 0, size.cols, size.rows}; }
  /// Empty for the last column and row of the number range, which no map reaches.
  [[nodiscard]] static constexpr Rect of(Cell cell) {
    return {cell.col, cell.row, wrapping_add(cell.col, 1), wrapping_add(cell.row, 1)};
  }
  [[nodiscard]] constexpr bool empty() const { return left >= right || top >= bottom; }
  [[nodiscard]] constexpr std::uint64_t cell_count() const {
    return empty() ? 0
                   : static_cast<std::uint64_t>(std::int64_t{right} - left) *
                         static_cast<std::uint64_t>(std::int64_t{bottom} - top);
  }
  /// Whether they have a cell in common.
  [[nodiscard]] constexpr bool meets(Rect other) const {
    return !empty() && !other.empty() && left < other.right && other.left < right && top < other.bottom &&
           other.top < bottom;
  }
  /// All its cells in reading order.
  [[nodiscard]] constexpr CellRange cells() const {
    return empty() ? CellRange({left, top}, left, top) : CellRange({left, top}, right, bottom);
  }
  [[nodiscard]] constexpr bool contains(Cell cell) const {
    return cell.col >= left && cell.col < right && cell.row >= top && cell.row < bottom;
  }
  /// Grown by `by` cells on every side and cut to the map.
  [[nodiscard]] constexpr Rect grown(std::int32_t by, Size within) const {
    const auto low = [by](std::int32_t edge) {
      const std::int64_t moved = std::int64_t{edge} - by;
      return static_cast<std::int32_t>(moved < 0 ? 0 : moved > 65'536 ? 65'536 : moved);
    };
    const auto high = [by](std::int32_t edge, std::int32_t most) {
      const std::int64_t moved = std::int64_t{edge} + by;
      return static_cast<std::int32_t>(moved > most ? most : moved < 0 ? 0 : moved);
    };
    return {low(left), low(top), high(right, within.cols), high(bottom, within.rows)};
  }
  /// The smallest block that holds both (an empty one counts for nothing).
  [[nodiscard]] constexpr Rect joined(Rect other) const {
    if (empty()) return other;
    if (other.empty()) return *this;
    return {left < other.left ? left : other.left, top < other.top ? top : other.top,
            right > other.right ? right : other.right, bottom > other.bottom ? bottom : other.bottom};
  }
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter

template <>
struct std::hash<saunter::Cell> {
  std::size_t operator()(saunter::Cell cell) const noexcept {
    // Multiply-mix both halves: neighbouring cells must not share buckets, or hashed searches crawl.
    std::uint64_t bits =
        (std::uint64_t{static_cast<std::uint32_t>(cell.row)} << 32U) | static_cast<std::uint32_t>(cell.col);
    bits = (bits ^ (bits >> 32U)) * 0x9E3779B97F4A7C15ULL;
    return static_cast<std::size_t>(bits ^ (bits >> 29U));
  }
};
