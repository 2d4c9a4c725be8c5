/// @file
/// Lists that belong to the caller.
///
/// Units: none of its own.
/// Errors: a list that would not outlive the call does not compile.
/// Cost: O(1), no allocation.
/// Threads: any number, nothing is shared.
#pragma once

#include <concepts>
#include <ranges>
#include <span>
#include <type_traits>

#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// A view of a list that the caller keeps: an array, a vector with a name, a span. A list that ends with the statement
/// (a temporary vector) does not compile. Reads like a span.
template <typename T>
class Borrowed : public std::span<const T> {
 public:
  constexpr Borrowed() = default;
  /// So many from an address on: `{&start, 1}`.
  constexpr Borrowed(const T* first, std::size_t count) : std::span<const T>(first, count) {}
  template <std::ranges::contiguous_range List>
    requires(!std::derived_from<std::remove_cvref_t<List>, Borrowed> &&
             std::same_as<std::ranges::range_value_t<List>, T> &&
             (std::is_lvalue_reference_v<List> || std::ranges::borrowed_range<List>))
  constexpr Borrowed(List&& list)  // NOLINT(google-explicit-constructor, bugprone-forwarding-reference-overload)
      : std::span<const T>(list) {}
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
