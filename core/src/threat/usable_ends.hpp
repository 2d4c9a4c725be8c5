/// @file
/// What searches that weigh danger check first.
#pragma once

#include <optional>

#include "saunter/threat/wary.hpp"

namespace saunter {

inline constexpr std::uint32_t no_label = ~std::uint32_t{0};

/// Why a start or goal can't be used; `found` when both can.
inline Verdict unusable_end(const CostGrid& costs, const Levels& levels, std::optional<std::uint16_t> highest,
                            Cell from, Cell to) {
  const Size size = costs.size();
  if (!size.contains(from)) return {Reason::start_off_map, from};
  if (!costs.open(from)) return {Reason::start_blocked, from};
  if (!size.contains(to)) return {Reason::goal_off_map, to};
  if (!costs.open(to)) return {Reason::goal_blocked, to};
  if (from != to && highest && levels[to] > *highest) return {Reason::goal_blocked, to};
  return {Reason::found, to};
}

}  // namespace saunter
