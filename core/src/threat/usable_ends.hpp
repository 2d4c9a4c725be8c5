/// @file
/// What searches that weigh danger check first.
#pragma once

#include <optional>

#include "../search/kernel/ends.hpp"
#include "saunter/threat/wary.hpp"

namespace saunter::inline v0_2::detail {

inline constexpr std::uint32_t no_label = ~std::uint32_t{0};

/// Why a start or goal can't be used; `found` when both can.
inline Verdict unusable_end(const CostGrid& costs, const Levels& levels, std::optional<std::uint16_t> highest,
                            Cell from, Cell to) {
  const Verdict ends = unusable_end(costs, from, to);
  const bool too_hot = ends.reason == Reason::found && from != to && highest && levels[to] > *highest;
  return too_hot ? Verdict{Reason::goal_blocked, to} : ends;
}

/// Levels of another size, brought to this one; cells without a level have level 0.
inline Levels levels_of_size(const Levels& levels, Size size) {
  Levels fitting(size);
  for (const Cell cell : size.cells()) fitting[cell] = levels[cell];
  return fitting;
}

}  // namespace saunter::inline v0_2::detail
