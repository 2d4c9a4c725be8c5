#include "saunter/sight/range.hpp"

#include <algorithm>

#include "saunter/grid/whole_plane.hpp"

namespace saunter {

std::int64_t distance_squared(Tiling tiling, Cell a, Cell b) {
  const WholePlane plane(tiling);
  const WholePoint d = plane.centre(b) - plane.centre(a);
  switch (plane.family()) {
    case CellShape::square: return (d.x * d.x + d.y * d.y) / 4;
    case CellShape::hex: return (3 * d.x * d.x + d.y * d.y) / 12;
    case CellShape::triangle: return (3 * d.x * d.x + d.y * d.y) / 4;
  }
  return 0;
}

std::int64_t farthest_squared(Length range, Length part) {
  SAUNTER_EXPECT(part <= 100);
  // In ten-thousandths of a step; more than 32 bits is farther than any map is wide.
  const std::uint64_t reach = std::min<std::uint64_t>(std::uint64_t{range} * part, 0xFFFF'FFFF);
  return static_cast<std::int64_t>(reach * reach / 100'000'000);
}

}  // namespace saunter
