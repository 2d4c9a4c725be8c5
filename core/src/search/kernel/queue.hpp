/// @file
/// The queues of all searches: rings of buckets while the keys rise by little, heaps behind them.
#pragma once

#include <algorithm>
#include <array>
#include <bit>
#include <cstdint>
#include <functional>
#include <vector>

#include "memory.hpp"
#include "pack.hpp"
#include "saunter/grid/compiler.hpp"
#include "saunter/grid/expect.hpp"
#include "saunter/ground/cost.hpp"

namespace saunter::inline v0_2::detail {

/// A state that waits to be expanded.
struct State {
  std::uint32_t cell = 0;  ///< packed, or whatever number the search gives its states
  Cost cost = 0;
  std::uint8_t back = 0;  ///< direction back to where it was reached from; 15 = from nowhere
};

/// Places by total, the least first; among equals the one enqueued last. For totals that rise by a bounded amount:
/// exact buckets in a ring (Dial 1969) with a bit for each full one, lists of states from one pool. Takes no more
/// memory once the most states at a time have waited.
class StateRing {
 public:
  /// More buckets than these are not worth their while.
  static constexpr std::uint64_t most_rise = 60'000;

  /// Empties it. @param rise  how far a total enqueued can lie above the one taken last, which it is never below
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

  SAUNTER_INLINE void enqueue(State state, std::uint64_t total) {
    ++count_;
    const std::size_t slot = static_cast<std::size_t>(total) & mask_;
    std::uint64_t& word = full_[slot / 64];
    const std::uint64_t bit = std::uint64_t{1} << (slot % 64);
    const std::uint32_t below = (word & bit) != 0 ? heads_[slot] : none;
    word |= bit;
    const std::uint32_t next_and_back = below << 4U | state.back;
    const std::uint32_t at = free_;
    if (at != none) {
      heads_[slot] = at;
      Link& link = pool_[at];
      free_ = link.next();
      // Field by field: a copy by way of the stack waits there for its parts.
      link.cell = state.cell;
      link.cost = state.cost;
      link.next_and_back = next_and_back;
    } else {
      if (pool_.empty()) slot_ = slot;  // the first of all
      heads_[slot] = static_cast<std::uint32_t>(pool_.size());
      pool_.push_back({state.cell, state.cost, next_and_back});
    }
  }

  /// Goes on to the total that comes next. @return by how much it rises @pre !empty()
  std::uint64_t advance() {
    if ((full_[slot_ / 64] >> (slot_ % 64) & 1U) != 0) return 0;
    const std::size_t before = slot_;
    slot_ = next_full();
    return (slot_ - before) & mask_;
  }
  /// Goes on to a total. @pre none that waits lies below it
  void advance_to(std::uint64_t total) { slot_ = static_cast<std::size_t>(total) & mask_; }
  /// Whether no more states can wait.
  [[nodiscard]] bool full() const { return count_ >= none - 1; }

  /// @pre !empty()
  SAUNTER_INLINE State dequeue() {
    --count_;
    if ((full_[slot_ / 64] >> (slot_ % 64) & 1U) == 0) slot_ = next_full();
    const std::uint32_t at = heads_[slot_];
    Link& link = pool_[at];
    const State state{link.cell, link.cost, static_cast<std::uint8_t>(link.next_and_back & 15U)};
    heads_[slot_] = link.next();
    if (link.next() == none) full_[slot_ / 64] &= ~(std::uint64_t{1} << (slot_ % 64));
    link.next_and_back = free_ << 4U;
    free_ = at;
    return state;
  }
  [[nodiscard]] std::size_t memory() const { return bytes_of(heads_, full_, pool_); }

 private:
  static constexpr std::uint32_t none = 0x0FFFFFFF;
  /// A state in the pool and the one below it in its bucket (or in the list of free ones).
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

/// Entries by the order of their own comparison, for keys that neither rise only nor fit in one number: a binary heap.
/// `operator<` of an entry says that it comes first.
template <typename Entry>
class BinaryHeap {
 public:
  void begin() { entries_.clear(); }
  [[nodiscard]] bool empty() const { return entries_.empty(); }
  [[nodiscard]] std::size_t size() const { return entries_.size(); }
  /// @pre !empty()
  [[nodiscard]] const Entry& top() const { return entries_.front(); }
  void enqueue(const Entry& entry) {
    entries_.push_back(entry);
    std::push_heap(entries_.begin(), entries_.end(), comes_later);
  }
  /// @pre !empty()
  Entry dequeue() {
    std::pop_heap(entries_.begin(), entries_.end(), comes_later);
    const Entry entry = entries_.back();
    entries_.pop_back();
    return entry;
  }
  [[nodiscard]] std::size_t memory() const { return bytes_of(entries_); }

 private:
  static bool comes_later(const Entry& a, const Entry& b) { return b < a; }
  std::vector<Entry> entries_;
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
  void enqueue(std::uint64_t key, Entry entry) {
    lists_[static_cast<unsigned>(std::bit_width(key ^ last_))].push_back({key, entry});
    ++count_;
  }
  /// @pre !empty()
  Entry dequeue() {
    if (lists_[0].empty()) bring_down();
    const Entry entry = lists_[0].back().entry;
    lists_[0].pop_back();
    --count_;
    return entry;
  }
  [[nodiscard]] std::size_t memory() const {
    std::size_t bytes = 0;
    for (const auto& list : lists_) bytes += bytes_of(list);
    return bytes;
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

/// The order of a StateRing for totals that rise by any amount.
class StateHeap {
 public:
  void begin() { heap_.begin(); }
  [[nodiscard]] bool empty() const { return heap_.empty(); }
  void enqueue(State state, std::uint64_t total) { heap_.enqueue(total, state); }
  State dequeue() { return heap_.dequeue(); }
  [[nodiscard]] std::size_t memory() const { return heap_.memory(); }

 private:
  RadixHeap<State> heap_;
};

/// A state in a heap: by total, and the later of two first.
struct NumberedState {
  std::uint64_t total = 0;
  std::uint64_t number = 0;
  State state;
  friend bool operator<(const NumberedState& a, const NumberedState& b) {
    return a.total != b.total ? a.total < b.total : a.number > b.number;
  }
};

/// The same order for totals that may fall below what was taken last.
class LooseHeap {
 public:
  void begin() {
    heap_.begin();
    number_ = 0;
  }
  [[nodiscard]] bool empty() const { return heap_.empty(); }
  void enqueue(State state, std::uint64_t total) { heap_.enqueue({total, number_++, state}); }
  State dequeue() { return heap_.dequeue().state; }
  [[nodiscard]] std::size_t memory() const { return heap_.memory(); }

 private:
  BinaryHeap<NumberedState> heap_;
  std::uint64_t number_ = 0;
};

/// The order of a StateRing for totals of which most rise by little: those too far ahead for its buckets wait in a
/// heap. They are older than whatever is in the ring at the same total, so the order stays the same.
class LongRing {
 public:
  void begin() {
    ring_.begin(usual_rise);
    far_.begin();
    number_ = 0;
    fresh_ = true;
  }
  [[nodiscard]] bool empty() const { return ring_.empty() && far_.empty(); }
  /// @pre no total taken yet is larger
  SAUNTER_INLINE void enqueue(State state, std::uint64_t total) {
    if (fresh_) begin_at(total);
    if (total - last_ <= usual_rise && !ring_.full()) {
      ring_.enqueue(state, total);
    } else {
      far_.enqueue({total, number_++, state});
    }
  }
  /// @pre !empty()
  SAUNTER_INLINE State dequeue() {
    if (!far_.empty() && comes_first()) {
      last_ = far_.top().total;
      ring_.advance_to(last_);
      return far_.dequeue().state;
    }
    last_ += ring_.advance();
    return ring_.dequeue();
  }
  [[nodiscard]] std::size_t memory() const { return ring_.memory() + far_.memory(); }

 private:
  static constexpr std::uint64_t usual_rise = 8000;  // 32 KB of buckets

  void begin_at(std::uint64_t total) {
    fresh_ = false;
    last_ = total;
    ring_.advance_to(total);
  }
  /// Whether what waits in the heap comes before all of the ring.
  [[nodiscard]] bool comes_first() {
    if (ring_.empty()) return true;
    last_ += ring_.advance();
    return far_.top().total < last_;
  }

  StateRing ring_;
  BinaryHeap<NumberedState> far_;
  std::uint64_t number_ = 0;
  std::uint64_t last_ = 0;  // no total that waits lies below it
  bool fresh_ = true;
};

/// Chooses a queue for states: a ring where it has room for how far totals rise, else a heap.
class StateQueues {
 public:
  enum class Kind : std::uint8_t { ring, heap, loose };

  /// Empties the queue that suits. @param rise  how far a total can lie above the one taken last
  /// @param steady  no total lies below the one taken last
  void begin(std::uint64_t rise, bool steady) {
    kind_ = !steady ? Kind::loose : rise <= StateRing::most_rise ? Kind::ring : Kind::heap;
    if (kind_ == Kind::ring) ring_.begin(rise);
    if (kind_ == Kind::heap) heap_.begin();
    if (kind_ == Kind::loose) loose_.begin();
  }
  /// Calls search(queue) with the one chosen, so that it is compiled into the search.
  template <typename Search>
  auto with(Search&& search) {
    return kind_ == Kind::loose ? search(loose_) : with_steady(search);
  }
  /// The same for searches that are never loose.
  template <typename Search>
  auto with_steady(Search&& search) {
    return kind_ == Kind::heap ? search(heap_) : search(ring_);
  }
  [[nodiscard]] Kind kind() const { return kind_; }
  [[nodiscard]] std::size_t memory() const { return ring_.memory() + heap_.memory() + loose_.memory(); }

 private:
  Kind kind_ = Kind::ring;
  StateRing ring_;
  StateHeap heap_;
  LooseHeap loose_;
};

}  // namespace saunter::inline v0_2::detail
