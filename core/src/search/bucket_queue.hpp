/// @file
/// A queue of cells by cost for searches whose steps cost at least so much and at most so much.
#pragma once

#include <array>
#include <bit>
#include <cstdint>
#include <vector>

#include "pack.hpp"
#include "saunter/ground/cost.hpp"

namespace saunter {

/// A cell that waits to be settled.
struct QueuedCell {
  std::uint32_t cell = 0;  ///< packed, see pack()
  Cost cost = 0;
};

/// Buckets in a ring (Dial 1969; Denardo and Fox 1979), taken last in first out; a bit mask finds the next full one.
/// Exact buckets (width 1) give entries in the order of their keys. Buckets as wide as the cheapest step do not, but
/// what is in the lowest of them can be settled in any order, since every step from it leads to a later one.
class BucketQueue {
 public:
  /// More buckets than these take more memory and time to sweep than a heap would.
  static constexpr std::uint64_t most_buckets = 1U << 16U;

  /// Empties it and sets the width of a bucket, at most this (>= 1). @param reach  how far a push can lie above the key
  /// taken last. @return false when that would take too many buckets: a heap is called for
  [[nodiscard]] bool begin(Cost width, std::uint64_t reach) {
    empty_full_buckets();
    count_ = 0;
    shift_ = static_cast<unsigned>(std::bit_width(width)) - 1;  // a power of two: a shift is cheaper than a division
    if (reach >> shift_ > most_buckets - 3) return false;
    const std::size_t wanted = std::bit_ceil(static_cast<std::size_t>(reach >> shift_) + 3);
    if (ring_.size() < wanted) ring_.resize(wanted);
    mask_ = wanted - 1;
    full_.assign((wanted + 63) / 64, 0);
    lowest_ = 0;
    return true;
  }
  [[nodiscard]] bool empty() const { return count_ == 0; }

  void push(QueuedCell entry) { push(entry, entry.cost); }
  void push(QueuedCell entry, std::uint64_t key) {
    const std::size_t slot = static_cast<std::size_t>(key >> shift_) & mask_;
    ring_[slot].push_back(entry);
    full_[slot / 64] |= std::uint64_t{1} << (slot % 64);
    ++count_;
  }

  /// An entry of the lowest bucket. @pre !empty(); nothing was pushed below what was taken last
  QueuedCell pop() {
    std::size_t slot = lowest_ & mask_;
    if (ring_[slot].empty()) slot = next_full(slot);
    const QueuedCell entry = ring_[slot].back();
    ring_[slot].pop_back();
    --count_;
    if (ring_[slot].empty()) full_[slot / 64] &= ~(std::uint64_t{1} << (slot % 64));
    return entry;
  }

  /// Starts at the bucket of this cost: the least that will be pushed. @pre empty()
  void start_at(Cost cost) { lowest_ = cost >> shift_; }
  /// Whether a cost lies within the ring now, counted from the lowest bucket.
  [[nodiscard]] bool fits(Cost cost) const { return (cost >> shift_) - lowest_ <= mask_; }

 private:
  /// What an ended search left behind; looks only where something is.
  void empty_full_buckets() {
    for (std::size_t word = 0; word < full_.size(); ++word) {
      for (std::uint64_t bits = full_[word]; bits != 0; bits &= bits - 1) {
        ring_[word * 64 + static_cast<std::size_t>(std::countr_zero(bits))].clear();
      }
    }
  }
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

  unsigned shift_ = 0;
  std::size_t mask_ = 0;
  std::vector<std::vector<QueuedCell>> ring_;
  std::vector<std::uint64_t> full_;
  std::uint64_t lowest_ = 0;
  std::size_t count_ = 0;
};

/// The same for steps of any cost: entries by the highest bit in which their key differs from the one taken last, which
/// none lies below (radix heap; Ahuja, Mehlhorn, Orlin, Tarjan 1990). Last in first out among equals.
template <typename Entry>
class RadixHeap {
 public:
  /// Empties it.
  void begin() {
    for (auto& list : lists_) list.clear();
    last_ = 0;
    count_ = 0;
  }
  [[nodiscard]] bool empty() const { return count_ == 0; }
  /// @pre no key taken yet is larger
  void push(std::uint64_t key, Entry entry) {
    lists_[static_cast<unsigned>(std::bit_width(key ^ last_))].push_back({key, entry});
    ++count_;
  }
  /// @pre !empty()
  Entry pop() {
    if (lists_[0].empty()) bring_down();
    const Entry entry = lists_[0].back().entry;
    lists_[0].pop_back();
    --count_;
    return entry;
  }

 private:
  struct Waiting {
    std::uint64_t key = 0;
    Entry entry;
  };
  void bring_down() {
    std::size_t i = 1;
    while (lists_[i].empty()) ++i;
    std::vector<Waiting>& all = lists_[i];
    std::uint64_t least = all.front().key;
    for (const Waiting& waiting : all) least = waiting.key < least ? waiting.key : least;
    last_ = least;
    for (const Waiting& waiting : all)
      lists_[static_cast<unsigned>(std::bit_width(waiting.key ^ last_))].push_back(waiting);
    all.clear();
  }

  std::array<std::vector<Waiting>, 65> lists_;
  std::uint64_t last_ = 0;
  std::size_t count_ = 0;
};

/// A radix heap that is asked like a BucketQueue.
class CellHeap {
 public:
  void begin() { heap_.begin(); }
  [[nodiscard]] bool empty() const { return heap_.empty(); }
  void push(QueuedCell entry) { heap_.push(entry.cost, entry); }
  QueuedCell pop() { return heap_.pop(); }
  void start_at(Cost /*cost*/) {}
  /// Whatever comes later may wait in it.
  [[nodiscard]] static bool fits(Cost /*cost*/) { return true; }

 private:
  RadixHeap<QueuedCell> heap_;
};

}  // namespace saunter
