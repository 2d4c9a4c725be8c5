/// @file
/// The open lines of a board as one question sees them.
#pragma once

#include <vector>

#include "kernel/changed_moves.hpp"

namespace saunter::inline v0_2::detail {

/// Open cells by rows and by columns. Of a board as it is they are the board's own. For a question with changes they
/// are a copy that is kept, follows the board, and is mended by what the question changes.
class JumpGround {
 public:
  /// @param ground  null, or without changes: the board as it is
  /// @cost O(changes), and for those O(words of the rows and columns that have changed since the last question of the
  /// kind; all of them on another board)
  void begin(const CostGrid& costs, const ChangedMoves* ground);

  [[nodiscard]] const BitGrid& rows() const { return *rows_; }
  [[nodiscard]] const BitGrid& columns() const { return *columns_; }
  [[nodiscard]] std::size_t memory() const { return own_rows_.memory() + own_columns_.memory() + bytes_of(mended_); }

 private:
  void follow(const CostGrid& costs);
  void set(Cell cell, bool open) {
    own_rows_.set(cell, open);
    own_columns_.set({cell.row, cell.col}, open);
  }

  const BitGrid* rows_ = nullptr;
  const BitGrid* columns_ = nullptr;
  BitGrid own_rows_;
  BitGrid own_columns_;
  Stamp of_;                  // the state of the board they were copied from
  std::vector<Cell> mended_;  // cells that differ from it
};

}  // namespace saunter::inline v0_2::detail
