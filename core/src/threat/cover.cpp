#include "saunter/threat/cover.hpp"

#include <algorithm>

namespace saunter::inline v0 {

std::vector<Cover> find_cover(const Field& reach, const Levels& levels, std::uint16_t highest) {
  const Size size = reach.board().size;
  SAUNTER_EXPECT(levels.size() == size);  // else cells without a level have level 0
  std::vector<Cover> found;
  for (const Cell cell : size.cells()) {
    if (reach.reached(cell) && levels[cell] <= highest) found.push_back({cell, reach.cost(cell)});
  }
  std::stable_sort(found.begin(), found.end(), [](const Cover& a, const Cover& b) { return a.cost < b.cost; });
  return found;
}

}  // namespace saunter::inline v0
