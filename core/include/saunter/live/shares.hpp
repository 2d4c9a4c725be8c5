/// @file
/// A frame's work shared among many that want some of it.
///
/// Units: whatever the work is counted in.
/// Errors: none.
/// Cost: O(1) a turn.
/// Threads: one at a time; each thread its own.
#pragma once

#include <algorithm>
#include <cstdint>
#include <vector>

#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Gives those that wait their turns, in a ring: each turn is a quantum times its priority, what a frame cuts short
/// goes on in the next, and nobody gets a second turn before all others have had one. So with a total priority of P
/// nobody who waits stays without work for longer than P quanta: none starves.
class Shares {
 public:
  static constexpr std::uint64_t quantum = 64;
  /// An amount without an end: everybody is handed all of it.
  static constexpr std::uint64_t everything = ~std::uint64_t{0};

  /// @param number  of the caller's own; @param priority  at least 1. Who waits already keeps its place.
  void add(std::uint32_t number, std::uint32_t priority) {
    const auto same = [&](const Waiting& waiting) { return waiting.number == number; };
    if (std::any_of(ring_.begin(), ring_.end(), same)) return;
    ring_.push_back({number, std::max<std::uint32_t>(priority, 1), 0});
  }
  void remove(std::uint32_t number) {
    for (std::size_t i = 0; i < ring_.size(); ++i) {
      if (ring_[i].number == number) {
        erase(i);
        return;
      }
    }
  }
  [[nodiscard]] bool waits(std::uint32_t number) const {
    return std::any_of(ring_.begin(), ring_.end(), [&](const Waiting& waiting) { return waiting.number == number; });
  }
  [[nodiscard]] bool empty() const { return ring_.empty(); }
  [[nodiscard]] std::size_t size() const { return ring_.size(); }

  /// Hands out so much work. @param turn  bool turn(number, amount): does at most so much; whether it has ended
  /// @return whether nobody waits any more
  template <typename Turn>
  bool run(std::uint64_t amount, Turn&& turn) {
    while (amount > 0 && !ring_.empty()) {
      next_ = next_ < ring_.size() ? next_ : 0;
      Waiting& waiting = ring_[next_];
      if (waiting.left == 0) waiting.left = quantum * waiting.priority;
      const bool all = amount == everything;
      const std::uint64_t share = all ? everything : std::min(amount, waiting.left);
      if (!all) amount -= share;
      waiting.left = all ? 0 : waiting.left - share;
      const bool over = waiting.left == 0;
      if (turn(waiting.number, share)) {
        erase(next_);
      } else if (over) {
        ++next_;
      }
    }
    return ring_.empty();
  }

 private:
  struct Waiting {
    std::uint32_t number = 0;
    std::uint32_t priority = 1;
    std::uint64_t left = 0;  // of its turn
  };
  void erase(std::size_t at) {
    ring_.erase(ring_.begin() + static_cast<std::ptrdiff_t>(at));
    if (at < next_) --next_;
  }

  std::vector<Waiting> ring_;
  std::size_t next_ = 0;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
