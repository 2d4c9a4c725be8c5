#include "saunter/threat/levels.hpp"

#include <algorithm>

#include "saunter/grid/area.hpp"

namespace saunter {

Levels levels_for_size(Tiling tiling, const Levels& levels, int size) {
  SAUNTER_EXPECT(size >= 1 && (size == 1 || tiling.shape() != Shape::triangle));
  if (size == 1) return levels;
  Levels largest(levels.size());
  std::vector<Cell> body;
  for (std::int32_t row = 0; row < levels.size().rows; ++row) {
    for (std::int32_t col = 0; col < levels.size().cols; ++col) {
      const Cell at{col, row};
      std::uint16_t most = 0;
      body_cells(tiling, at, size, body);
      for (const Cell cell : body) {
        if (levels.size().contains(cell)) most = std::max(most, levels[cell]);
      }
      largest[at] = most;
    }
  }
  return largest;
}

}  // namespace saunter
