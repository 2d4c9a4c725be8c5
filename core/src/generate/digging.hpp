/// @file
/// Ground being dug inside a rim that stays: places of a width, and the ways corridors take.
#pragma once

#include <vector>

#include "saunter/generate/rooms.hpp"
#include "saunter/grid/bit_grid.hpp"
#include "saunter/grid/dice.hpp"
#include "saunter/search/searcher.hpp"

namespace saunter::inline v0_2::detail {

/// A place is a cell, or with a width above 1 the block of cells whose top left it is.
class Digging {
 public:
  Digging(Board board, int width, Hundredths fresh);

  [[nodiscard]] Board board() const { return board_; }
  [[nodiscard]] const BitGrid& open() const { return open_; }
  /// Whether all cells of a place lie inside the rim.
  [[nodiscard]] bool fits(Cell place) const {
    return place.col > 0 && place.row > 0 && place.col + width_ < board_.size.cols &&
           place.row + width_ < board_.size.rows;
  }
  /// The place in the middle of a box. @pre the box is at least as wide as a place
  [[nodiscard]] Cell middle(Rect box) const {
    return {box.left + (box.right - box.left - width_) / 2, box.top + (box.bottom - box.top - width_) / 2};
  }
  /// Opens a place; cells that were not open yet are appended.
  void dig(Cell place, std::vector<Cell>& dug);
  void dig(std::span<const Cell> places, std::vector<Cell>& dug) {
    for (const Cell place : places) dig(place, dug);
  }
  /// Places from one to another, each across an edge from the one before. @pre both fit
  void path(CorridorShape shape, Cell from, Cell to, Dice& dice, std::vector<Cell>& out);
  [[nodiscard]] int width() const { return width_; }

 private:
  void cheapest(Cell from, Cell to, std::vector<Cell>& out);
  [[nodiscard]] bool all_fit(std::span<const Cell> places) const;
  [[nodiscard]] EntryCost cost_of(Cell place) const;

  Board board_;
  int width_;
  EntryCost fresh_;
  BitGrid open_;
  CostGrid costs_;  // of places; made when a cheapest path is first asked for
  bool costs_made_ = false;
  std::vector<Cell> dug_since_;  // since the costs were brought up to date
  Searcher searcher_;
};

}  // namespace saunter::inline v0_2::detail
