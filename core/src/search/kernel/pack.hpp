/// @file
/// Cells in 32 bits.
#pragma once

#include <array>
#include <cstdint>

#include "saunter/grid/tiling.hpp"

namespace saunter::inline v0_2::detail {

/// A cell of a map in 32 bits: no side of a map is longer than 65,535. Saves a division at each turn.
inline std::uint32_t pack(Cell cell) {
  return (static_cast<std::uint32_t>(cell.row) << 16U) | static_cast<std::uint32_t>(cell.col);
}
inline Cell unpack(std::uint32_t packed) {
  return {static_cast<std::int32_t>(packed & 0xFFFFU), static_cast<std::int32_t>(packed >> 16U)};
}

/// What to add to a cell's number and to its packed form for a step from it, by kind and direction. Legal steps stay on
/// the map, so the sums (modulo 2^32) are right.
struct StepTable {
  std::array<std::array<std::uint32_t, max_directions>, 2> index = {};
  std::array<std::array<std::uint32_t, max_directions>, 2> packed = {};

  explicit StepTable(const Board& board) {
    const Neighbourhood& hood = board.tiling.neighbourhood();
    for (unsigned kind = 0; kind < 2; ++kind) {
      for (unsigned d = 0; d < static_cast<unsigned>(hood.directions); ++d) {
        const Offset by = hood.offset[kind][d];
        index[kind][d] = static_cast<std::uint32_t>(by.rows * board.size.cols + by.cols);
        packed[kind][d] = (static_cast<std::uint32_t>(by.rows) << 16U) + static_cast<std::uint32_t>(by.cols);
      }
    }
  }
};

}  // namespace saunter::inline v0_2::detail
