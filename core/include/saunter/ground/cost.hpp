/// @file
/// Costs: whole numbers of hundredths, so that every machine adds and compares them alike.
///
/// Units: hundredths of a step.
/// Errors: text that is no decimal is not read; sums that do not fit are told by the searches.
/// Cost: O(1), text allocates.
/// Threads: any number, nothing is shared.
#pragma once

#include <cstdint>
#include <string>

#include "saunter/grid/tiling.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// What it costs to enter a cell by an edge step, in hundredths of a step: 1.25 is 125. 0 means "cannot be entered".
using EntryCost = std::uint16_t;

/// A sum of step costs in hundredths.
using Cost = std::uint32_t;

inline constexpr EntryCost blocked = 0;
inline constexpr EntryCost max_entry_cost = 65'535;
inline constexpr Length min_diagonal = 100;
inline constexpr Length max_diagonal = 65'535;
/// The largest sum that can be stored; a route that costs more is reported as cost-overflow, never wrapped.
inline constexpr Cost max_cost = 4'294'967'294;
/// Stands for "not reached" in tables of costs.
inline constexpr Cost unreached = 4'294'967'295;

/// Cost of a step of some length into a cell: length x entry cost, rounded half up to a hundredth.
constexpr Cost step_cost(Length length, EntryCost entry) {
  return static_cast<Cost>((std::uint64_t{length} * entry + 50) / 100);
}

/// Hundredths as people write them: 125 -> "1.25", 1250 -> "12.5", 300 -> "3", -5 -> "-0.05".
[[nodiscard]] std::string to_decimal(std::int64_t hundredths);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
