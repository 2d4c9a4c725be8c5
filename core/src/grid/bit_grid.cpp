#include "saunter/grid/bit_grid.hpp"

#include <array>

namespace saunter::inline v0_2 {
namespace {

/// Swaps rows and columns of 64 x 64 bits: first halves, then quarters of them, ...
void turn(std::array<std::uint64_t, 64>& rows) {
  std::uint64_t low_half = 0x00000000FFFFFFFFULL;
  for (unsigned width = 32; width != 0; width /= 2, low_half ^= low_half << width) {
    for (unsigned row = 0; row < 64; row = (row + width + 1) & ~width) {
      const std::uint64_t swap = ((rows[row] >> width) ^ rows[row + width]) & low_half;
      rows[row] ^= swap << width;
      rows[row + width] ^= swap;
    }
  }
}

}  // namespace

void BitGrid::take_turned(const BitGrid& other, Rect block) {
  SAUNTER_EXPECT(size_ == (Size{other.size_.rows, other.size_.cols}));
  if (block.empty()) return;
  // Blocks begin at bit 0 of a word in both grids: two cells before a multiple of 64.
  constexpr auto before = static_cast<std::int32_t>(margin);
  std::array<std::uint64_t, 64> bits = {};
  for (std::int32_t down = (block.top + before) / 64; down <= (block.bottom - 1 + before) / 64; ++down) {
    for (std::int32_t across = (block.left + before) / 64; across <= (block.right - 1 + before) / 64; ++across) {
      for (std::int32_t i = 0; i < 64; ++i) {
        const std::int32_t row = down * 64 - before + i;
        const bool on_map = row >= 0 && row < other.size_.rows;
        bits[static_cast<std::size_t>(i)] = on_map ? other.row_words(row)[static_cast<std::size_t>(across)] : 0;
      }
      turn(bits);
      for (std::int32_t i = 0; i < 64; ++i) {
        const std::int32_t row = across * 64 - before + i;
        if (row < 0 || row >= size_.rows) continue;
        row_words(row)[static_cast<std::size_t>(down)] = bits[static_cast<std::size_t>(i)];
      }
    }
  }
}

}  // namespace saunter::inline v0_2
