/// @file
/// A queue of cells by cost for searches whose steps cost at least so much and at most so much.
#pragma once

#include <bit>
#include <cstdint>
#include <vector>

#include "saunter/ground/cost.hpp"

namespace saunter {

/// Buckets in a ring, each as wide as the cheapest step: what is in the lowest one can be settled in any order, since
/// every step from it leads to a later one (Dial 1969; Denardo and Fox 1979). A bit mask finds the next full bucket.
class BucketQueue {
 public:
  struct Entry {
    std::uint32_t cell = 0;
    Cost cost = 0;
  };

  /// Empties it and sets the width. @param cheapest, dearest  bounds of what one step can cost; cheapest >= 1
  void begin(Cost cheapest, Cost dearest) {
    width_ = cheapest;
    const std::size_t wanted = std::bit_ceil(std::size_t{dearest / cheapest} + 3);
    if (ring_.size() < wanted) ring_.resize(wanted);
    mask_ = wanted - 1;
    for (auto& bucket : ring_) bucket.clear();
    full_.assign((wanted + 63) / 64, 0);
    lowest_ = 0;
    count_ = 0;
  }
  [[nodiscard]] bool empty() const { return count_ == 0; }

  void push(Entry entry) {
    const std::size_t slot = (entry.cost / width_) & mask_;
    ring_[slot].push_back(entry);
    full_[slot / 64] |= std::uint64_t{1} << (slot % 64);
    ++count_;
  }

  /// An entry of the lowest bucket. @pre !empty(); nothing was pushed below what was taken last
  Entry pop() {
    std::size_t slot = lowest_ & mask_;
    if (ring_[slot].empty()) slot = next_full(slot);
    const Entry entry = ring_[slot].back();
    ring_[slot].pop_back();
    --count_;
    if (ring_[slot].empty()) full_[slot / 64] &= ~(std::uint64_t{1} << (slot % 64));
    return entry;
  }

  /// Starts at the bucket of this cost: the least that will be pushed. @pre empty()
  void start_at(Cost cost) { lowest_ = cost / width_; }
  /// Whether a cost lies within the ring now, counted from the lowest bucket.
  [[nodiscard]] bool fits(Cost cost) const { return cost / width_ - lowest_ <= mask_; }

 private:
  std::size_t next_full(std::size_t slot) {
    std::size_t word = slot / 64;
    std::uint64_t bits = full_[word] & (~std::uint64_t{0} << (slot % 64));
    while (bits == 0) {
      word = word + 1 == full_.size() ? 0 : word + 1;
      bits = full_[word];
    }
    const std::size_t found = word * 64 + static_cast<std::size_t>(std::countr_zero(bits));
    lowest_ += (found - slot) & mask_;
    return found;
  }

  Cost width_ = 1;
  std::size_t mask_ = 0;
  std::vector<std::vector<Entry>> ring_;
  std::vector<std::uint64_t> full_;
  std::uint64_t lowest_ = 0;
  std::size_t count_ = 0;
};

}  // namespace saunter
