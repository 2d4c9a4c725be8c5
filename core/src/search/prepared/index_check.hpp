/// @file
/// Whether an index that came from outside can be followed.
#pragma once

#include "prepared_map.hpp"

namespace saunter::inline v0_2::detail {

/// Believes nothing but the board: every number lies within its range, every way is one of the board or ends up in such
/// ways, all costs add up, and every hub is got to. Whether the hubs are enough, a checksum must tell. O(bytes)
[[nodiscard]] bool sound(const PreparedMap& map);

}  // namespace saunter::inline v0_2::detail
