/// @file
/// Places of an index by what getting there costs.
#pragma once

#include "../kernel/queue.hpp"

namespace saunter::inline v0_2::detail {

/// Places that wait, the cheapest first, among equals the one of the lowest number: cost and place in one word each.
class CostHeap {
 public:
  void begin() { heap_.begin(); }
  [[nodiscard]] bool empty() const { return heap_.empty(); }
  /// @pre cost fits a Cost
  void enqueue(std::uint64_t cost, std::uint32_t place) { heap_.enqueue(cost << 32U | place); }
  struct Waiting {
    std::uint32_t place = 0;
    Cost cost = 0;
  };
  /// @pre !empty()
  Waiting dequeue() {
    const std::uint64_t word = heap_.dequeue();
    return {static_cast<std::uint32_t>(word), static_cast<Cost>(word >> 32U)};
  }
  [[nodiscard]] std::size_t memory() const { return heap_.memory(); }

 private:
  BinaryHeap<std::uint64_t> heap_;
};

}  // namespace saunter::inline v0_2::detail
