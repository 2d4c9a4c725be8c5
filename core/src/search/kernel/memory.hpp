/// @file
/// Counting the memory that searches keep.
#pragma once

#include <cstddef>
#include <vector>

namespace saunter::inline v0_2::detail {

/// Bytes that lists hold on to, used or not.
template <typename... Values>
[[nodiscard]] std::size_t bytes_of(const std::vector<Values>&... lists) {
  return (std::size_t{0} + ... + (lists.capacity() * sizeof(Values)));
}

}  // namespace saunter::inline v0_2::detail
