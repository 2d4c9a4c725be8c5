#include "saunter/threat/levels.hpp"

#include "../ground/body_most.hpp"

namespace saunter::inline v0_2 {

Levels levels_for_size(Tiling tiling, const Levels& levels, int size) {
  SAUNTER_EXPECT(size >= 1 && (size == 1 || tiling.shape() != Shape::triangle));
  if (size <= 1 || tiling.shape() == Shape::triangle || levels.empty()) return levels;
  return detail::most_under_body(tiling, levels, size);
}

}  // namespace saunter::inline v0_2
