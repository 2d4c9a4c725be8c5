/// @file
/// A set of cells that are numbered.
#pragma once

#include <bit>
#include <vector>

#include "../kernel/memory.hpp"
#include "saunter/grid/bit_grid.hpp"

namespace saunter::inline v0_2::detail {

/// Cells that are not among some others of the same size.
inline BitGrid without(const BitGrid& cells, const BitGrid& others) {
  BitGrid rest = cells;
  for (std::int32_t row = 0; row < cells.size().rows; ++row) {
    const auto words = rest.row_words(row);
    const auto taken = others.row_words(row);
    for (std::size_t i = 0; i < words.size(); ++i) words[i] &= ~taken[i];
  }
  return rest;
}

/// Cells of a board, each with its number in reading order: a bit a cell and a count for every 64 (a succinct rank;
/// Jacobson 1989).
class PlaceSet {
 public:
  PlaceSet() = default;
  explicit PlaceSet(BitGrid cells) : cells_(std::move(cells)) {
    const std::int32_t rows = cells_.size().rows;
    words_ = cells_.row_words(0).size();
    before_.reserve(words_ * static_cast<std::size_t>(rows));
    for (std::int32_t row = 0; row < rows; ++row) {
      for (const std::uint64_t word : cells_.row_words(row)) {
        before_.push_back(count_);
        count_ += static_cast<std::uint32_t>(std::popcount(word));
      }
    }
  }
  [[nodiscard]] std::uint32_t count() const { return count_; }
  /// No off the map.
  [[nodiscard]] bool holds(Cell cell) const { return cells_.test(cell); }
  /// @pre holds(cell)
  [[nodiscard]] std::uint32_t number(Cell cell) const {
    const std::size_t bit = static_cast<std::size_t>(cell.col) + BitGrid::margin;
    const std::uint64_t below = cells_.row_words(cell.row)[bit / 64] & ((std::uint64_t{1} << (bit % 64)) - 1);
    return before_[static_cast<std::size_t>(cell.row) * words_ + bit / 64] +
           static_cast<std::uint32_t>(std::popcount(below));
  }
  [[nodiscard]] const BitGrid& cells() const { return cells_; }
  [[nodiscard]] std::size_t memory() const { return cells_.memory() + bytes_of(before_); }

 private:
  BitGrid cells_;
  std::vector<std::uint32_t> before_;
  std::size_t words_ = 0;
  std::uint32_t count_ = 0;
};

}  // namespace saunter::inline v0_2::detail
