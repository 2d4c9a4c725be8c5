/// @file
/// Numbers that name what somebody keeps, each kind a type of its own.
///
/// Units: counted from 1; 0 names nothing.
/// Errors: none: who is asked about a number it does not know answers as told there.
/// Cost: O(1), no allocation.
/// Threads: any number, nothing is shared.
#pragma once

#include <compare>
#include <cstdint>
#include <functional>

#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Names one of the things of a kind. Numbers count from 1 in the order given and never come back for another thing; one
/// kind's is not taken for another's. @tparam Kind  only tells kinds apart
template <typename Kind>
class Id {
 public:
  constexpr Id() = default;
  /// @param value  as told by value() before, out of a save file say
  constexpr explicit Id(std::uint32_t value) : value_(value) {}
  [[nodiscard]] constexpr std::uint32_t value() const { return value_; }
  /// Whether it names anything at all.
  constexpr explicit operator bool() const { return value_ != 0; }
  friend constexpr auto operator<=>(const Id&, const Id&) = default;

 private:
  std::uint32_t value_ = 0;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter

/// So that they can be keys.
template <typename Kind>
struct std::hash<saunter::Id<Kind>> {
  std::size_t operator()(saunter::Id<Kind> id) const noexcept { return std::hash<std::uint32_t>()(id.value()); }
};
