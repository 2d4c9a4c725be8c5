/// @file
/// The loop that all best-first searches share.
#pragma once

#include <cstdint>

#include "saunter/grid/compiler.hpp"

namespace saunter::inline v0_2::detail {

/// What becomes of a state taken off the queue.
enum class Take : std::uint8_t {
  expand,
  skip,  ///< it was reached more cheaply since
  stop
};

/// Takes states off a queue, the least key first, until `look` says stop or none is left. What a search is made of is
/// passed in and compiled into the loop: a search pays for what it uses.
/// @param look    Take look(entry): is it out of date, is it the goal, is the limit used up?
/// @param expand  void expand(entry): enqueues the states it leads to
/// @return whether the queue ran empty
template <typename Queue, typename Look, typename Expand>
SAUNTER_INLINE inline bool best_first(Queue& queue, Look&& look, Expand&& expand) {
  while (!queue.empty()) {
    const auto entry = queue.dequeue();
    const Take take = look(entry);
    if (take == Take::skip) continue;
    if (take == Take::stop) return false;
    expand(entry);
  }
  return true;
}

}  // namespace saunter::inline v0_2::detail
