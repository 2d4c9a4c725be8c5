/// @file
/// The places a search has in line to expand.
#pragma once

#include <algorithm>
#include <bit>
#include <cstdint>
#include <vector>

#include "pack.hpp"
#include "saunter/ground/cost.hpp"

namespace saunter {

/// A place in line to be expanded.
struct Place {
  std::uint32_t cell = 0;  ///< packed, or whatever number the search gives its states
  Cost cost = 0;
  std::uint8_t back = 0;  ///< direction back to where it was reached from; 15 = from nowhere
};

/// Places by total, the least first; among equals the one put in line last. For totals that rise by a bounded amount:
/// exact buckets in a ring (Dial 1969) with a bit for each full one, lists of places from one pool. Takes no more
/// memory once the most places at a time have been in line.
class BucketLine {
 public:
  /// More buckets than these are not worth their while.
  static constexpr std::uint64_t most_rise = 60'000;

  /// Empties it. @param rise  how far a total put in line can lie above the one taken last, which it is never below
  void begin(std::uint64_t rise) {
    SAUNTER_EXPECT(rise <= most_rise);
    count_ = 0;
    pool_.clear();
    free_ = none;
    const std::size_t wanted = std::bit_ceil(static_cast<std::size_t>(rise + 2));
    if (heads_.size() < wanted) heads_.resize(wanted);
    full_.assign((wanted + 63) / 64, 0);
    mask_ = wanted - 1;
    slot_ = 0;
  }
  [[nodiscard]] bool empty() const { return count_ == 0; }

  void push(Place place, std::uint64_t total) {
    ++count_;
    const std::size_t slot = static_cast<std::size_t>(total) & mask_;
    std::uint64_t& word = full_[slot / 64];
    const std::uint64_t bit = std::uint64_t{1} << (slot % 64);
    const std::uint32_t below = (word & bit) != 0 ? heads_[slot] : none;
    word |= bit;
    const Link link{place.cell, place.cost, below << 4U | place.back};
    const std::uint32_t at = free_;
    if (at != none) {
      heads_[slot] = at;
      free_ = pool_[at].next();
      pool_[at] = link;
    } else {
      if (pool_.empty()) slot_ = slot;  // the first of all
      heads_[slot] = static_cast<std::uint32_t>(pool_.size());
      pool_.push_back(link);
    }
  }

  /// @pre !empty()
  Place pop() {
    --count_;
    if ((full_[slot_ / 64] >> (slot_ % 64) & 1U) == 0) slot_ = next_full();
    const std::uint32_t at = heads_[slot_];
    Link& link = pool_[at];
    const Place place{link.cell, link.cost, static_cast<std::uint8_t>(link.next_and_back & 15U)};
    heads_[slot_] = link.next();
    if (link.next() == none) full_[slot_ / 64] &= ~(std::uint64_t{1} << (slot_ % 64));
    link.next_and_back = free_ << 4U;
    free_ = at;
    return place;
  }

 private:
  static constexpr std::uint32_t none = 0x0FFFFFFF;
  /// A place in the pool and the one below it in its bucket (or in the list of free ones).
  struct Link {
    std::uint32_t cell = 0;
    Cost cost = 0;
    std::uint32_t next_and_back = 0;
    [[nodiscard]] std::uint32_t next() const { return next_and_back >> 4U; }
  };
  [[nodiscard]] std::size_t next_full() const {
    std::size_t word = slot_ / 64;
    std::uint64_t bits = full_[word] & (~std::uint64_t{0} << (slot_ % 64));
    while (bits == 0) {
      word = word + 1 == full_.size() ? 0 : word + 1;
      bits = full_[word];
    }
    return word * 64 + static_cast<std::size_t>(std::countr_zero(bits));
  }

  std::size_t count_ = 0;
  std::size_t mask_ = 0;
  std::size_t slot_ = 0;  // of the total taken last
  std::uint32_t free_ = none;
  std::vector<std::uint32_t> heads_;
  std::vector<std::uint64_t> full_;
  std::vector<Link> pool_;
};

/// The same order for totals that rise by any amount, or drop: a binary heap.
class HeapLine {
 public:
  void begin(std::uint64_t /*rise*/) {
    heap_.clear();
    number_ = 0;
  }
  [[nodiscard]] bool empty() const { return heap_.empty(); }
  void push(Place place, std::uint64_t total) {
    heap_.push_back({total, number_++, place});
    std::push_heap(heap_.begin(), heap_.end(), goes_after);
  }
  /// @pre !empty()
  Place pop() {
    std::pop_heap(heap_.begin(), heap_.end(), goes_after);
    const Place place = heap_.back().place;
    heap_.pop_back();
    return place;
  }

 private:
  struct Waiting {
    std::uint64_t total = 0;
    std::uint64_t number = 0;
    Place place;
  };
  static bool goes_after(const Waiting& a, const Waiting& b) {
    return a.total != b.total ? a.total > b.total : a.number < b.number;
  }

  std::vector<Waiting> heap_;
  std::uint64_t number_ = 0;
};

}  // namespace saunter
