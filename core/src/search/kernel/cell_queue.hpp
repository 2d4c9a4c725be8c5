/// @file
/// Queues of cells that wait to be settled.
#pragma once

#include <span>

#include "queue.hpp"

namespace saunter::inline v0_2::detail {

/// A cell that waits to be settled.
struct QueuedCell {
  std::uint32_t cell = 0;  ///< packed, see pack()
  Cost cost = 0;
};

/// Buckets in a ring (Dial 1969; Denardo and Fox 1979), taken last in first out; a bit mask finds the next full one.
/// Exact buckets (width 1) give entries in the order of their keys. Buckets as wide as the cheapest step do not, but
/// what is in the lowest of them can be settled in any order, since every step from it leads to a later one.
class CellRing {
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

  void enqueue(QueuedCell entry) { enqueue(entry, entry.cost); }
  void enqueue(QueuedCell entry, std::uint64_t key) {
    const std::size_t slot = static_cast<std::size_t>(key >> shift_) & mask_;
    ring_[slot].push_back(entry);
    full_[slot / 64] |= std::uint64_t{1} << (slot % 64);
    ++count_;
  }

  /// An entry of the lowest bucket. @pre !empty(); nothing was pushed below what was taken last
  QueuedCell dequeue() {
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
  [[nodiscard]] std::size_t memory() const {
    std::size_t bytes = bytes_of(ring_, full_);
    for (const auto& bucket : ring_) bytes += bytes_of(bucket);
    return bytes;
  }
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

/// A radix heap that is asked like a CellRing.
class CellHeap {
 public:
  void begin() { heap_.begin(); }
  [[nodiscard]] bool empty() const { return heap_.empty(); }
  void enqueue(QueuedCell entry) { heap_.enqueue(entry.cost, entry); }
  QueuedCell dequeue() { return heap_.dequeue(); }
  [[nodiscard]] std::size_t memory() const { return heap_.memory(); }
  void start_at(Cost /*cost*/) {}
  /// Whatever comes later may wait in it.
  [[nodiscard]] static bool fits(Cost /*cost*/) { return true; }

 private:
  RadixHeap<QueuedCell> heap_;
};

/// The same choice for cells.
class CellQueues {
 public:
  /// Empties the queue that suits. @param width  see CellRing::begin
  void begin(Cost width, std::uint64_t reach) {
    ring_suits_ = ring_.begin(width, reach);
    if (!ring_suits_) heap_.begin();
  }
  /// Calls settle(queue) with the one that was begun.
  template <typename Settle>
  auto go_on(Settle&& settle) {
    return ring_suits_ ? settle(ring_) : settle(heap_);
  }
  /// Both: with an empty queue.
  template <typename Settle>
  void with(Cost width, std::uint64_t reach, Settle&& settle) {
    begin(width, reach);
    go_on(settle);
  }
  [[nodiscard]] std::size_t memory() const { return ring_.memory() + heap_.memory(); }

 private:
  bool ring_suits_ = true;
  CellRing ring_;
  CellHeap heap_;
};

/// A queue into which cells with a head start enter when they come within its reach.
template <typename Queue>
class FedQueue {
 public:
  /// @param waiting  the cheapest first  @param fed  how many of them have entered; kept up
  FedQueue(Queue& queue, std::span<const QueuedCell> waiting, std::size_t& fed)
      : queue_(queue), waiting_(waiting), fed_(fed) {}
  [[nodiscard]] bool empty() const { return fed_ == waiting_.size() && queue_.empty(); }
  void enqueue(QueuedCell entry) { queue_.enqueue(entry); }
  QueuedCell dequeue() {
    if (fed_ < waiting_.size()) feed();
    return queue_.dequeue();
  }

 private:
  void feed() {
    if (queue_.empty()) queue_.start_at(waiting_[fed_].cost);
    while (fed_ < waiting_.size() && queue_.fits(waiting_[fed_].cost)) queue_.enqueue(waiting_[fed_++]);
  }
  Queue& queue_;
  std::span<const QueuedCell> waiting_;
  std::size_t& fed_;
};

}  // namespace saunter::inline v0_2::detail
