/// @file
/// What lies together: everything that steps lead to.
#pragma once

#include <vector>

namespace saunter::inline v0_2::detail {

/// Visits all that can be got to from what is in `line`, each once, in the order in which it was found.
/// @param line   where to begin, marked already; afterwards all that was found
/// @param visit  bool visit(place, take): calls take(next) for each place it leads to; false ends the flood
/// @param mark   bool mark(place): whether it is new and wanted, from now on marked
/// @return whether it was not ended
template <typename State, typename Mark, typename Visit>
bool flood(std::vector<State>& line, Mark&& mark, Visit&& visit) {
  for (std::size_t i = 0; i < line.size(); ++i) {
    const State place = line[i];
    const auto take = [&](State next) {
      if (mark(next)) line.push_back(next);
    };
    if (!visit(place, take)) return false;
  }
  return true;
}

}  // namespace saunter::inline v0_2::detail
