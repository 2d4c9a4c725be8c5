/// @file
/// One bit per cell, in 64-bit words a row at a time.
///
/// Units: cells; a bit a cell, rows in words of 64 with a margin.
/// Errors: reading off the map is no, writing there does nothing.
/// Cost: O(1) a cell, O(words) for whole grids; allocates when made.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <algorithm>
#include <bit>
#include <span>
#include <utility>
#include <vector>

#include "saunter/grid/cell.hpp"
#include "saunter/grid/compiler.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// A flag for each cell. Around the map lies a margin of clear bits, so the neighbourhood of any cell of the map can be
/// read without asking whether it is on the map: two columns left and right, one row above and below.
/// Memory: about (cols + 4) / 8 bytes a row. Only construction and assignment allocate; when they throw, nothing has
/// changed. A grid moved from is empty.
class BitGrid {
 public:
  BitGrid() = default;
  /// 0 x 0 when the size is not sound.
  explicit BitGrid(Size size)
      : size_(size.or_empty()),
        words_per_row_((static_cast<std::size_t>(size_.cols) + 2 * margin + 63) / 64 + 1),
        words_(words_per_row_ * (static_cast<std::size_t>(size_.rows) + 2), 0) {}
  /// The same for lines of cells along any axis of a board, which are more and longer than a board may be wide.
  /// @pre 0 to 2^20 columns and rows
  [[nodiscard]] static BitGrid of_lines(Size size) {
    BitGrid lines;
    lines.size_ = size;
    lines.words_per_row_ = (static_cast<std::size_t>(size.cols) + 2 * margin + 63) / 64 + 1;
    lines.words_.assign(lines.words_per_row_ * (static_cast<std::size_t>(size.rows) + 2), 0);
    return lines;
  }
  BitGrid(const BitGrid&) = default;
  BitGrid(BitGrid&& other) noexcept { swap(other); }
  BitGrid& operator=(const BitGrid& other) {  // NOLINT(modernize-use-equals-default): the words go first
    words_ = other.words_;                    // may throw, and then nothing has changed
    size_ = other.size_;
    words_per_row_ = other.words_per_row_;
    return *this;
  }
  BitGrid& operator=(BitGrid&& other) noexcept {
    BitGrid taken(std::move(other));
    swap(taken);
    return *this;
  }
  ~BitGrid() = default;

  [[nodiscard]] Size size() const { return size_; }

  /// False off the map.
  [[nodiscard]] bool test(Cell cell) const {
    if (!size_.contains(cell)) return false;
    const std::size_t bit = bit_of(cell.col);
    return ((row_words(cell.row)[bit / 64] >> (bit % 64)) & 1U) != 0;
  }
  /// Does nothing off the map.
  void set(Cell cell, bool value = true) {
    if (!size_.contains(cell)) return;
    const std::size_t bit = bit_of(cell.col);
    std::uint64_t& word = words_[row_start(cell.row) + bit / 64];
    const std::uint64_t mask = std::uint64_t{1} << (bit % 64);
    word = value ? word | mask : word & ~mask;
  }

  /// Sets each bit of a row, a word at a time. @param test  anything that is true for a column's bit to be set
  /// @pre 0 <= row < rows
  template <typename Test>
  void set_row(std::int32_t row, Test&& test) {
    const std::span<std::uint64_t> words = row_words(row);
    std::int32_t col = 0;
    for (std::size_t i = 0; col < size_.cols; ++i) {
      const unsigned first = i == 0 ? unsigned{margin} : 0U;
      const auto count = std::min<unsigned>(64 - first, static_cast<unsigned>(size_.cols - col));
      std::uint64_t word = 0;
      for (unsigned bit = 0; bit < count; ++bit) {
        word |= std::uint64_t{static_cast<bool>(test(col + static_cast<std::int32_t>(bit)))} << bit;
      }
      words[i] = word << first;
      col += static_cast<std::int32_t>(count);
    }
  }

  /// The five cells col-2 .. col+2 of a row as bits 0..4; clear where off the map.
  /// @pre 0 <= col < cols and -1 <= row <= rows
  [[nodiscard]] std::uint32_t five_around(Cell cell) const {
    const auto first = static_cast<std::size_t>(cell.col);  // the margin moves col - 2 to bit col
    const std::uint64_t* words = words_.data() + row_start(cell.row) + first / 64;
    const unsigned shift = first % 64;
    return static_cast<std::uint32_t>((words[0] >> shift) | (words[1] << 1U << (63U - shift))) & 31U;
  }

  /// Where the 3 x 3 cells round a cell lie: the same in all grids of one size, so that several are read for one
  /// reckoning.
  struct Spot {
    std::size_t word = 0;  ///< of the cell to the left
    unsigned shift = 0;
  };
  /// @pre the cell is on the map
  [[nodiscard]] Spot spot(Cell cell) const {
    const auto first = static_cast<std::size_t>(cell.col) + 1;
    return {(static_cast<std::size_t>(cell.row) + 1) * words_per_row_ + first / 64, static_cast<unsigned>(first % 64)};
  }
  /// The cells round a spot as bits 0..8, row by row.
  [[nodiscard]] SAUNTER_INLINE std::uint32_t nine_around(Spot spot) const {
    const auto three = [&](const std::uint64_t* words) {
      return static_cast<std::uint32_t>((words[0] >> spot.shift) | (words[1] << 1U << (63U - spot.shift))) & 7U;
    };
    const std::uint64_t* const middle = words_.data() + spot.word;
    return three(middle - words_per_row_) | (three(middle) << 3U) | (three(middle + words_per_row_) << 6U);
  }
  /// Number of set bits. O(cells / 64).
  [[nodiscard]] std::size_t count() const {
    std::size_t sum = 0;
    for (const std::uint64_t word : words_) sum += static_cast<std::size_t>(std::popcount(word));
    return sum;
  }
  void clear() {
    for (std::uint64_t& word : words_) word = 0;
  }
  /// Calls visit(cell) for each set bit, row by row. O(cells / 64 + set bits).
  template <typename Visit>
  void for_each_set(Visit&& visit) const {
    for (std::int32_t row = 0; row < size_.rows; ++row) {
      const std::span<const std::uint64_t> words = row_words(row);
      for (std::size_t i = 0; i < words.size(); ++i) {
        for (std::uint64_t left = words[i]; left != 0; left &= left - 1) {
          const auto bit = static_cast<std::int32_t>(i * 64) + std::countr_zero(left);
          visit(Cell{bit - static_cast<std::int32_t>(margin), row});
        }
      }
    }
  }

  friend bool operator==(const BitGrid&, const BitGrid&) = default;

  /// Takes over a block of another grid with columns and rows swapped, so that columns can be scanned as rows (64 x 64
  /// bits at a time; Warren, "Hacker's Delight"). Cells around the block may be taken over too.
  /// @pre this grid's columns are the other's rows and the other way round
  void take_turned(const BitGrid& other, Rect block);

  /// Bits of a row before its first cell.
  static constexpr std::size_t margin = 2;
  /// The words of one row, -1 <= row <= rows; cell `col` is bit `col + margin` counted from the lowest bit of the first
  /// word. Writers must leave the margins clear.
  [[nodiscard]] std::span<const std::uint64_t> row_words(std::int32_t row) const {
    return std::span(words_).subspan(row_start(row), words_per_row_);
  }
  [[nodiscard]] std::span<std::uint64_t> row_words(std::int32_t row) {
    return std::span(words_).subspan(row_start(row), words_per_row_);
  }

  /// Bytes it keeps.
  [[nodiscard]] std::size_t memory() const { return words_.capacity() * sizeof(words_[0]); }

 private:
  void swap(BitGrid& other) noexcept {
    std::swap(size_, other.size_);
    std::swap(words_per_row_, other.words_per_row_);
    words_.swap(other.words_);
  }
  [[nodiscard]] static std::size_t bit_of(std::int32_t col) { return static_cast<std::size_t>(col) + margin; }
  [[nodiscard]] std::size_t row_start(std::int32_t row) const {
    SAUNTER_EXPECT(row >= -1 && row <= size_.rows);
    return static_cast<std::size_t>(row + 1) * words_per_row_;
  }

  Size size_;
  std::size_t words_per_row_ = 0;
  std::vector<std::uint64_t> words_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
