/// @file
/// Memory that changes hands.
#pragma once

#include <algorithm>

namespace saunter::inline v0_2::detail {

/// Gives every one of these lists the room of the largest. Lists that a search swaps as it goes end up in each other's
/// place: only so does asking the same again take no memory.
template <typename... Lists>
void even_out(Lists&... lists) {
  const std::size_t room = std::max({lists.capacity()...});
  (lists.reserve(room), ...);
}

}  // namespace saunter::inline v0_2::detail
