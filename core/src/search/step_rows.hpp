/// @file
/// The lists a step search works on, written without branches that can't be foretold.
#pragma once

#include <array>
#include <span>
#include <vector>

#include "saunter/grid/compiler.hpp"
#include "saunter/grid/tiling.hpp"

namespace saunter::inline v0_2::detail {

/// On squares without diagonals: the directions of a set one after another. The states a cell leads to are always
/// written three at a time, of which the first so many count.
struct Fan {
  std::uint8_t count = 0;
  std::array<std::uint8_t, 4> direction = {};
};
constexpr std::array<Fan, 16> make_fans() {
  std::array<Fan, 16> fans = {};
  for (unsigned set = 0; set < 16; ++set) {
    for (std::uint8_t d = 0; d < 4; ++d) {
      if ((set >> d & 1U) != 0) fans[set].direction[fans[set].count++] = d;
    }
  }
  return fans;
}
inline constexpr std::array<Fan, 16> fans = make_fans();
constexpr std::uint32_t back_of(unsigned direction) { return (direction + 2) % 4; }

inline void prefetch(std::span<const std::uint8_t> bytes, std::uint32_t index) {
  if (index < bytes.size()) SAUNTER_PREFETCH(bytes.data() + index);
}

/// A stack or list of states whose memory is there before it is needed.
template <typename State>
class Row {
 public:
  explicit Row(std::vector<State>& memory) : memory_(memory) {}
  void make_room(std::size_t more) {
    if (count_ + more > memory_.size()) memory_.resize(2 * (count_ + more));
  }
  /// Adds a state for each of these directions. @pre make_room(4)
  void add(std::uint32_t cell, unsigned directions, const std::array<std::uint32_t, max_directions>& steps) {
    const Fan& fan = fans[directions];
    State* const end = memory_.data() + count_;
    for (unsigned i = 0; i < 3; ++i) end[i] = {cell + steps[fan.direction[i]], back_of(fan.direction[i])};
    if (fan.count == 4) end[3] = {cell + steps[3], back_of(3)};  // only at the start
    count_ += fan.count;
  }
  /// Adds one. @pre make_room(1)
  void add(const State& state) { memory_[count_++] = state; }
  /// Holds one state and nothing else.
  void start_with(const State& state) {
    memory_.assign(1, state);
    count_ = 1;
  }
  [[nodiscard]] bool empty() const { return count_ == 0; }
  [[nodiscard]] std::size_t size() const { return count_; }
  State take_last() { return memory_[--count_]; }
  [[nodiscard]] const State& operator[](std::size_t i) const { return memory_[i]; }
  void clear() { count_ = 0; }
  /// Cuts the memory to what is in it.
  void cut() { memory_.resize(count_); }
  friend void swap(Row& a, Row& b) {
    std::swap(a.memory_, b.memory_);
    std::swap(a.count_, b.count_);
  }

 private:
  std::vector<State>& memory_;
  std::size_t count_ = 0;
};

}  // namespace saunter::inline v0_2::detail
