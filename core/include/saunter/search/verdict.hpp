/// @file
/// Why an answer is "no", and where.
///
/// Units: none.
/// Errors: this is how a no is told.
/// Cost: O(1), text allocates.
/// Threads: any number, nothing is shared.
#pragma once

#include <string>
#include <string_view>

#include "saunter/grid/cell.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// The outcome of a query. Checked in this order.
enum class Reason : std::uint8_t {
  found,
  start_off_map,
  start_blocked,
  goal_off_map,
  goal_blocked,
  no_way,         ///< proven: there is none at any cost
  over_budget,    ///< none within the budget; there may be none at all
  stopped,        ///< the limit of expanded cells was used up first
  cost_overflow,  ///< there is a route, but its least cost does not fit
  not_asked       ///< of an answer that no question has been put to yet
};

/// "start-off-map", "no-way", ... , "found" and "not-asked".
[[nodiscard]] std::string_view reason_name(Reason reason);

/// An outcome and its place: the start or goal that can't be used, or the reached cell that seemed nearest to the goal.
struct Verdict {
  Reason reason = Reason::not_asked;
  Cell at;
  friend bool operator==(const Verdict&, const Verdict&) = default;
};

/// "goal-blocked at 12,4"; "found" alone.
[[nodiscard]] std::string to_string(const Verdict& verdict);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
