#include "saunter/sight/range.hpp"

#include <algorithm>
#include <limits>

#include "saunter/grid/whole_plane.hpp"

namespace saunter::inline v0_2 {

std::int64_t distance_squared(Tiling tiling, Cell a, Cell b) {
  const WholePlane plane(tiling);
  const WholePoint away = plane.centre(b) - plane.centre(a);
  constexpr std::int64_t fits = 1'400'000'000;  // 3 x^2 + y^2 stays below 2^63
  const bool near = away.x <= fits && away.x >= -fits && away.y <= fits && away.y >= -fits;
  return near ? plane.squared(away) : std::numeric_limits<std::int64_t>::max();
}

std::int64_t farthest_squared(Hundredths range, Hundredths part) {
  SAUNTER_EXPECT(part <= 100);
  // In ten-thousandths of a step; more than 32 bits is farther than any map is wide.
  const std::uint64_t share = std::min<Length>(part, 100);
  const std::uint64_t reach = std::min<std::uint64_t>(std::uint64_t{range} * share, 0xFFFF'FFFF);
  return static_cast<std::int64_t>(reach * reach / 100'000'000);
}

}  // namespace saunter::inline v0_2
