#include "saunter/threat/cover.hpp"

#include <algorithm>

namespace saunter {

std::vector<Cover> find_cover(const Field& reach, const Levels& levels, std::uint16_t highest) {
  const Size size = reach.board().size;
  SAUNTER_EXPECT(levels.size() == size);  // else cells without a level have level 0
  std::vector<Cover> found;
  for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
    const Cell cell = size.cell(CellIndex{i});
    if (reach.reached(cell) && levels[cell] <= highest) found.push_back({cell, reach.cost(cell)});
  }
  std::stable_sort(found.begin(), found.end(), [](const Cover& a, const Cover& b) { return a.cost < b.cost; });
  return found;
}

}  // namespace saunter
