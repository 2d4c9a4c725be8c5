/// @file
/// Where mazes are grown: a byte of open sides and a byte of notes for each cell, with a ring of closed cells round
/// them, so that no step has to be asked whether it leaves the board.
#pragma once

#include <array>
#include <bit>
#include <vector>

#include "saunter/generate/made.hpp"
#include "saunter/grid/bit_grid.hpp"

namespace saunter::inline v0_2::detail {

class Yard {
 public:
  using Index = std::uint32_t;
  static constexpr std::uint8_t free = 0;       ///< a cell no maze has reached
  static constexpr std::uint8_t outside = 255;  ///< no cell of the maze

  /// Side by side, so that a look at both costs one.
  struct Spot {
    std::uint8_t open = 0;
    std::uint8_t note = outside;
  };
  /// What inner loops read, as values: a byte written could be part of anything that is read through a reference.
  struct Ways {
    std::array<std::array<Index, 6>, 2> delta = {};
    std::array<std::array<std::uint8_t, 6>, 2> opposite = {};
    std::array<std::array<std::uint8_t, 6>, 2> kind_after = {};
  };

  /// @param mask  null = all cells
  Yard(Board board, const BitGrid* mask) : board_(board), hood_(board.tiling.neighbourhood()) {
    stride_ = static_cast<Index>(board.size.cols) + 2;
    const std::size_t count = std::size_t{stride_} * (static_cast<std::size_t>(board.size.rows) + 2);
    cells_.assign(count, {0, outside});
    for (unsigned kind = 0; kind < 2; ++kind) {
      for (unsigned d = 0; d < static_cast<unsigned>(hood_.edges); ++d) {
        const Offset by = hood_.offset[kind][d];
        delta_[kind][d] = static_cast<Index>(by.rows) * stride_ + static_cast<Index>(by.cols);
      }
    }
    for (std::int32_t row = 0; row < board.size.rows; ++row) {
      Spot* const spots = &cells_[index({0, row})];
      for (std::int32_t col = 0; col < board.size.cols; ++col) {
        if (mask != nullptr && !mask->test({col, row})) continue;
        spots[col].note = free;
        ++count_;
      }
    }
  }

  [[nodiscard]] Ways ways() const {
    Ways ways;
    for (unsigned kind = 0; kind < 2; ++kind) {
      for (unsigned d = 0; d < edges(); ++d) {
        ways.delta[kind][d] = delta_[kind][d];
        ways.opposite[kind][d] = hood_.opposite[kind][d];
        ways.kind_after[kind][d] = hood_.kind_after[kind][d];
      }
    }
    return ways;
  }
  [[nodiscard]] Spot* spots() { return cells_.data(); }
  [[nodiscard]] Board board() const { return board_; }
  [[nodiscard]] unsigned edges() const { return static_cast<unsigned>(hood_.edges); }
  /// Cells the maze is to have.
  [[nodiscard]] std::size_t count() const { return count_; }
  [[nodiscard]] Index index(Cell cell) const {
    return static_cast<Index>(cell.row + 1) * stride_ + static_cast<Index>(cell.col + 1);
  }
  [[nodiscard]] Cell cell(Index index) const {
    return {static_cast<std::int32_t>(index % stride_) - 1, static_cast<std::int32_t>(index / stride_) - 1};
  }
  [[nodiscard]] unsigned kind(Index index) const {
    return hood_.edges == 4 ? 0U : static_cast<unsigned>(board_.tiling.kind(cell(index)));
  }
  [[nodiscard]] Index next(Index index, unsigned kind, unsigned d) const { return index + delta_[kind][d]; }
  [[nodiscard]] unsigned kind_after(unsigned kind, unsigned d) const { return hood_.kind_after[kind][d]; }
  [[nodiscard]] unsigned opposite(unsigned kind, unsigned d) const { return hood_.opposite[kind][d]; }

  [[nodiscard]] std::uint8_t note(Index index) const { return cells_[index].note; }
  void set_note(Index index, unsigned note) { cells_[index].note = static_cast<std::uint8_t>(note); }
  [[nodiscard]] bool inside(Index index) const { return cells_[index].note != outside; }
  [[nodiscard]] unsigned open_sides(Index index) const { return cells_[index].open; }
  [[nodiscard]] bool dead_end(Index index) const {
    const unsigned open = cells_[index].open;
    return open != 0 && (open & (open - 1)) == 0;
  }
  /// Opens a side both ways.
  void open(Index index, unsigned kind, unsigned d) {
    const Index other = next(index, kind, d);
    cells_[index].open = static_cast<std::uint8_t>(cells_[index].open | 1U << d);
    cells_[other].open = static_cast<std::uint8_t>(cells_[other].open | 1U << opposite(kind, d));
  }
  /// The closed sides of a cell that have a cell of the maze behind them.
  [[nodiscard]] unsigned closed_sides(Index index, unsigned kind) const {
    unsigned closed = 0;
    for (unsigned d = 0; d < edges(); ++d) closed |= static_cast<unsigned>(inside(next(index, kind, d))) << d;
    return closed & ~unsigned{cells_[index].open};
  }

 private:
  Board board_;
  Neighbourhood hood_;
  Index stride_ = 0;
  std::size_t count_ = 0;
  std::array<std::array<Index, max_directions>, 2> delta_ = {};  // modulo 2^32
  std::vector<Spot> cells_;
};

}  // namespace saunter::inline v0_2::detail
