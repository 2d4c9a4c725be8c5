#include "saunter/ground/clearance.hpp"

#include <algorithm>

#include "body_most.hpp"

namespace saunter::inline v0_2 {
namespace {

Grid<std::uint8_t> on_squares(const CostGrid& costs) {
  const Size size = costs.size();
  Grid<std::uint8_t> largest(size);
  // A square of side n stands on three of side n - 1: to its right, below, and diagonally below.
  for (std::int32_t row = size.rows - 1; row >= 0; --row) {
    for (std::int32_t col = size.cols - 1; col >= 0; --col) {
      const Cell cell{col, row};
      if (!costs.open(cell)) continue;
      const bool on_rim = col + 1 == size.cols || row + 1 == size.rows;
      const unsigned below =
          on_rim
              ? 0U
              : std::min({largest[Cell{col + 1, row}], largest[Cell{col, row + 1}], largest[Cell{col + 1, row + 1}]});
      largest[cell] = static_cast<std::uint8_t>(std::min(below + 1, unsigned{max_mover_size}));
    }
  }
  return largest;
}

Grid<std::uint8_t> on_hexes(const CostGrid& costs) {
  const Size size = costs.size();
  const Tiling tiling = costs.tiling();
  Grid<std::uint8_t> largest(size);
  std::vector<Cell> line;
  // Cells beside a blocked one or the rim first, then inwards.
  for (std::int32_t row = 0; row < size.rows; ++row) {
    for (std::int32_t col = 0; col < size.cols; ++col) {
      const Cell cell{col, row};
      if (!costs.open(cell)) continue;
      for (Direction d{0}; d < tiling.edge_count(); ++d) {
        if (costs.open(tiling.neighbour(cell, d))) continue;
        largest[cell] = 1;
        line.push_back(cell);
        break;
      }
    }
  }
  for (std::size_t i = 0; i < line.size(); ++i) {
    const unsigned next_size = std::min(largest[line[i]] + 1U, unsigned{max_mover_size});
    for (Direction d{0}; d < tiling.edge_count(); ++d) {
      const Cell next = tiling.neighbour(line[i], d);
      if (!costs.open(next) || largest[next] != 0) continue;
      largest[next] = static_cast<std::uint8_t>(next_size);
      line.push_back(next);
    }
  }
  return largest;
}

}  // namespace

Grid<std::uint8_t> clearance(const CostGrid& one_cell) {
  if (one_cell.tiling().shape() == Shape::square) return on_squares(one_cell);
  if (one_cell.tiling().is_hex()) return on_hexes(one_cell);
  Grid<std::uint8_t> largest(one_cell.size());
  for (std::uint32_t i = 0; i < one_cell.size().cell_count(); ++i) {
    largest[CellIndex{i}] = one_cell.entry(CellIndex{i}) != blocked ? 1 : 0;
  }
  return largest;
}

BitGrid places_over(Tiling tiling, const BitGrid& cells, int size) {
  SAUNTER_EXPECT(size >= 1 && (size == 1 || tiling.shape() != Shape::triangle));
  const Size board = cells.size();
  if (size <= 1 || tiling.shape() == Shape::triangle || board.cell_count() == 0) return cells;
  Grid<std::uint8_t> marked(board);
  cells.for_each_set([&](Cell cell) { marked[cell] = 1; });
  const Grid<std::uint8_t> most = detail::most_under_body(tiling, marked, size);
  BitGrid places(board);
  for (std::int32_t row = 0; row < board.rows; ++row) {
    const auto values = most.row(row);
    places.set_row(row, [&](std::int32_t col) { return values[static_cast<std::size_t>(col)] != 0; });
  }
  return places;
}

}  // namespace saunter::inline v0_2
