#include "turning_points.hpp"

#include <bit>
#include <cstdlib>

namespace saunter::inline v0_2::detail {
namespace {

constexpr auto margin = static_cast<std::int32_t>(BitGrid::margin);

/// The first clear bit of a row after a cell, as its column; margins are clear. @param last  no farther than this
std::int32_t first_clear_after(std::span<const std::uint64_t> row, std::int32_t col, std::int32_t last) {
  const std::size_t bit = static_cast<std::size_t>(col + 1 + margin);
  std::size_t word = bit / 64;
  std::uint64_t clear = ~row[word] & (~std::uint64_t{0} << (bit % 64));
  while (clear == 0) {
    if (static_cast<std::int32_t>(word * 64) > last + margin) return last + 1;
    clear = ~row[++word];
  }
  return static_cast<std::int32_t>(word * 64) + std::countr_zero(clear) - margin;
}
/// The same before a cell.
std::int32_t last_clear_before(std::span<const std::uint64_t> row, std::int32_t col, std::int32_t first) {
  const std::size_t bit = static_cast<std::size_t>(col - 1 + margin);
  std::size_t word = bit / 64;
  std::uint64_t clear = ~row[word] & (~std::uint64_t{0} >> (63 - bit % 64));
  while (clear == 0) {
    if (static_cast<std::int32_t>(word * 64) < first + margin) return first - 1;
    clear = ~row[--word];
  }
  return static_cast<std::int32_t>(word * 64) + 63 - std::countl_zero(clear) - margin;
}

/// Open cells with a blocked diagonal neighbour between two open ones, 64 at a time.
BitGrid bends(const BitGrid& open) {
  BitGrid found(open.size());
  for (std::int32_t row = 0; row < open.size().rows; ++row) {
    const auto here = open.row_words(row);
    const auto out = found.row_words(row);
    // Whether the cell to the left (right) is open, for each cell of a word.
    const auto left = [](std::span<const std::uint64_t> words, std::size_t i) {
      return words[i] << 1U | (i == 0 ? 0 : words[i - 1] >> 63U);
    };
    const auto right = [](std::span<const std::uint64_t> words, std::size_t i) {
      return words[i] >> 1U | (i + 1 == words.size() ? 0 : words[i + 1] << 63U);
    };
    for (const std::int32_t other : {row - 1, row + 1}) {
      if (other < 0 || other >= open.size().rows) continue;  // beyond the rim nothing can be walked round
      const auto beside = open.row_words(other);
      for (std::size_t i = 0; i < here.size(); ++i) {
        out[i] |= here[i] & beside[i] & ((left(here, i) & ~left(beside, i)) | (right(here, i) & ~right(beside, i)));
      }
    }
  }
  return found;
}

}  // namespace

TurningPoints::TurningPoints(const CostGrid& costs)
    : places_(bends(costs.open_cells())),
      free_(without(costs.open_cells(), places_.cells())),
      free_turned_({costs.size().rows, costs.size().cols}) {
  free_turned_.take_turned(free_, Rect::whole(costs.size()));
}

std::int32_t TurningPoints::run(Cell from, unsigned edge, std::int32_t most) const {
  const bool across = edge % 2 == 1;
  const std::int32_t at = across ? from.col : from.row;
  const auto line = across ? free_.row_words(from.row) : free_turned_.row_words(from.col);
  const std::int32_t length = across ? free_.size().cols : free_.size().rows;
  const bool up = edge == 1 || edge == 2;
  const std::int32_t end = up ? first_clear_after(line, at, std::min(length - 1, at + most))
                              : last_clear_before(line, at, std::max(0, at - most));
  return std::min(std::abs(end - at), most + 1);
}

bool TurningPoints::straight_way(const CostGrid& costs, Cell from, Cell to) {
  const Neighbourhood& hood = costs.tiling().neighbourhood();
  const std::int32_t cols = to.col - from.col;
  const std::int32_t rows = to.row - from.row;
  const unsigned diagonal = cols > 0 ? (rows < 0 ? 4U : 5U) : (rows > 0 ? 6U : 7U);
  Cell cell = from;
  for (std::int32_t left = std::min(std::abs(cols), std::abs(rows)); left > 0; --left) {
    if ((costs.moves_on_map(cell) >> diagonal & 1) == 0) return false;
    cell = cell + hood.offset[0][diagonal];
  }
  if (cell.row == to.row) {
    const auto line = costs.open_cells().row_words(cell.row);
    return to.col >= cell.col ? first_clear_after(line, cell.col, to.col) > to.col
                              : last_clear_before(line, cell.col, to.col) < to.col;
  }
  const auto line = costs.open_cells_turned().row_words(cell.col);
  return to.row >= cell.row ? first_clear_after(line, cell.row, to.row) > to.row
                            : last_clear_before(line, cell.row, to.row) < to.row;
}

}  // namespace saunter::inline v0_2::detail
