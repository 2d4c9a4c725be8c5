/// @file
/// The one thing a search reads: where one mover can stand, what each entry costs and which steps are legal.
#pragma once

#include <array>
#include <concepts>
#include <span>
#include <vector>

#include "saunter/grid/bit_grid.hpp"
#include "saunter/grid/grid.hpp"
#include "saunter/ground/mover.hpp"

namespace saunter {

/// Walkability and movement cost of every cell of a board for one mover.
///
/// Made by `bake(map, mover)`, or straight from the game's own numbers:
/// ```cpp
/// std::vector<saunter::EntryCost> mine = ...;                        // cols * rows, row by row, 0 = blocked
/// saunter::CostGrid costs({saunter::Tiling::square(), {cols, rows}}, {.steps = 8}, mine);
/// ```
/// Memory: 2 bytes of entry cost and 1 or 2 bits a cell; 1 byte more (2 on triangles) only where barriers or height
/// limits take part. Reading is `const`, allocates nothing and may happen in any number of threads at once while no
/// thread changes the grid.
class CostGrid {
 public:
  CostGrid() = default;
  /// @param costs  entry cost of each cell in reading order, hundredths, 0 = blocked; copied
  /// @pre costs.size() == board.size.cell_count(), rules fit the tiling (see mover_problem)
  CostGrid(Board board, StepRules rules, std::span<const EntryCost> costs);
  /// The same from bytes that count whole steps: 0 = blocked, 1 = 1.00, 255 = 255.00.
  CostGrid(Board board, StepRules rules, std::span<const std::uint8_t> whole_steps);
  /// The same from a function of the cell, called once for each in reading order.
  template <std::invocable<Cell> CostAt>
  CostGrid(Board board, StepRules rules, CostAt&& cost_at) : CostGrid(board, rules) {
    for (std::int32_t row = 0; row < board.size.rows; ++row) {
      for (std::int32_t col = 0; col < board.size.cols; ++col) {
        put(Cell{col, row}, static_cast<EntryCost>(cost_at(Cell{col, row})));
      }
    }
    take_open_bits(Rect::whole(board.size));
    find_cheapest();
  }

  [[nodiscard]] const Board& board() const { return board_; }
  [[nodiscard]] Tiling tiling() const { return board_.tiling; }
  [[nodiscard]] Size size() const { return board_.size; }
  /// The rules it was made with; `steps` is filled in, never 0.
  [[nodiscard]] const StepRules& rules() const { return rules_; }
  /// Rises with every change.
  [[nodiscard]] std::uint64_t revision() const { return revision_; }

  /// Entry cost in hundredths, 0 = cannot be entered. @pre the cell is on the map
  [[nodiscard]] EntryCost entry(Cell cell) const { return entry_[cell]; }
  [[nodiscard]] EntryCost entry(CellIndex index) const { return entry_[index]; }
  [[nodiscard]] std::span<const EntryCost> entries() const { return entry_.values(); }
  /// Whether the mover can stand there; no off the map.
  [[nodiscard]] bool open(Cell cell) const { return open_.test_or_off(cell); }
  [[nodiscard]] const BitGrid& open_cells() const { return open_; }
  /// The same with columns as rows. Kept where long scans along both pay: squares with 8 steps; else of size 0 x 0.
  [[nodiscard]] const BitGrid& open_cells_turned() const { return open_turned_; }

  /// The legal steps from a cell, a bit for each direction; none from a blocked cell. O(1).
  /// @pre the cell is on the map
  [[nodiscard]] DirectionSet moves(Cell cell) const {
    if (!narrow_sides_.empty()) return narrow_sides_[cell];
    if (!wide_sides_.empty()) return wide_sides_[cell];
    if (tiling().shape() == Shape::triangle) return triangle_moves(cell);
    return moves_by_table(cell);
  }
  /// The same for inner loops. @pre !has_sides(), and no triangles
  [[nodiscard]] DirectionSet moves_by_table(Cell cell) const {
    return moves_by_table(open_.spot(cell), static_cast<unsigned>(tiling().kind(cell)));
  }
  [[nodiscard]] DirectionSet moves_by_table(BitGrid::Spot spot, unsigned kind) const {
    return table_[kind][open_.nine_around(spot)];
  }
  /// The legal steps of every cell where they are stored, a byte each; empty where they follow from the open cells, and
  /// on triangles.
  [[nodiscard]] std::span<const std::uint8_t> stored_moves() const { return narrow_sides_.values(); }
  /// Length of a step in hundredths, with the mover's own diagonal.
  [[nodiscard]] Length step_length(int kind, Direction direction) const {
    return lengths_[static_cast<unsigned>(kind)][static_cast<unsigned>(direction)];
  }
  /// Cost of a step in hundredths. @pre it is legal
  [[nodiscard]] Cost cost_of_step(Cell from, Direction direction) const {
    return step_cost(step_length(tiling().kind(from), direction), entry(tiling().neighbour(from, direction)));
  }
  /// The smallest entry cost of any cell; `blocked` when there is nowhere to stand. O(1).
  [[nodiscard]] EntryCost cheapest() const { return cheapest_; }

  /// No cell costs more. The largest entry cost when the grid was made; changes only raise it. O(1).
  [[nodiscard]] EntryCost dearest() const { return dearest_; }
  /// No legal step is longer. O(1).
  [[nodiscard]] Length longest_step() const { return longest_step_; }
  /// No legal step costs more, hundredths. O(1).
  [[nodiscard]] Cost dearest_step() const { return step_cost(longest_step_, dearest_); }

  /// Changes one cell of a grid that has no barriers or height limits (made from numbers, or baked from a map without).
  /// Amortised O(1). @pre the cell is on the map, !has_sides()
  void set_entry(Cell cell, EntryCost cost);
  /// Whether legal steps are stored for each cell because barriers or height limits take part.
  [[nodiscard]] bool has_sides() const { return !narrow_sides_.empty() || !wide_sides_.empty(); }

  /// Equal answers: the same board, rules, entry costs and legal steps (revisions may differ).
  friend bool operator==(const CostGrid& a, const CostGrid& b);

 private:
  friend class Baker;

  /// The cells that decide about one direction, as bits of the 5 x 3 window round a cell.
  struct StepMask {
    std::uint16_t target = 0;
    std::array<std::uint16_t, 2> beside = {};  // the middle cells of the two ways round a corner
  };

  CostGrid(Board board, StepRules rules);
  void put(Cell cell, EntryCost cost) {
    entry_[cell] = cost;
    if (cost != blocked) open_.set(cell);
  }
  void find_cheapest();
  /// To be called when open cells have changed within a block.
  void take_open_bits(Rect block) {
    if (open_turned_.size().cols > 0) open_turned_.take_turned(open_, block);
  }
  /// Keep count of the cells that cost the least, so that only the last one's change needs a look at all cells.
  void drop_cheapest(EntryCost cost) {
    if (cost != blocked && cost == cheapest_) --cheapest_cells_;
  }
  void take_cheapest(EntryCost cost) {
    if (cost > dearest_) dearest_ = cost;
    if (cost == blocked || (cheapest_cells_ > 0 && cost > cheapest_)) return;
    if (cheapest_cells_ == 0 && cheapest_ != blocked && cost > cheapest_) return;  // perhaps not the least: look later
    cheapest_cells_ = cost == cheapest_ ? cheapest_cells_ + 1 : 1;
    cheapest_ = cost;
  }
  void fill_table();
  [[nodiscard]] DirectionSet triangle_moves(Cell cell) const;
  [[nodiscard]] DirectionSet legal_within(unsigned kind, std::uint32_t around, std::uint32_t on_map) const;

  Board board_;
  StepRules rules_;
  Grid<EntryCost> entry_;
  BitGrid open_;
  BitGrid open_turned_;
  Grid<std::uint8_t> narrow_sides_;  // legal steps, tilings with up to 8 directions
  Grid<std::uint16_t> wide_sides_;   // the same for triangles
  std::array<std::array<Length, max_directions>, 2> lengths_ = {};
  std::array<std::array<StepMask, max_directions>, 2> masks_ = {};
  /// Squares and hexes: the legal steps by kind and by which of the 3 x 3 cells around are open.
  std::array<std::array<std::uint8_t, 512>, 2> table_ = {};
  EntryCost cheapest_ = blocked;
  std::size_t cheapest_cells_ = 0;
  EntryCost dearest_ = blocked;
  Length longest_step_ = 100;
  std::uint64_t revision_ = 0;
};

}  // namespace saunter
