#include "saunter/sight/range.hpp"

#include <algorithm>

#include "saunter/grid/whole_plane.hpp"

namespace saunter {

std::int64_t distance_squared(Tiling tiling, Cell a, Cell b) {
  const WholePlane plane(tiling);
  return plane.squared(plane.centre(b) - plane.centre(a));
}

std::int64_t farthest_squared(Length range, Length part) {
  SAUNTER_EXPECT(part <= 100);
  // In ten-thousandths of a step; more than 32 bits is farther than any map is wide.
  const std::uint64_t reach = std::min<std::uint64_t>(std::uint64_t{range} * part, 0xFFFF'FFFF);
  return static_cast<std::int64_t>(reach * reach / 100'000'000);
}

}  // namespace saunter
