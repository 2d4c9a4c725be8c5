/// @file
/// Values by cell and tick.
#pragma once

#include <algorithm>
#include <cstdint>
#include <vector>

namespace saunter::inline v0_2::detail {

/// A table with open places (linear probing; Knuth 1973), emptied in no time: entries of an earlier use do not count.
template <typename Value>
class TickTable {
 public:
  void clear() {
    if (++use_ == 0) {
      for (Entry& entry : entries_) entry.use = 0;
      use_ = 1;
    }
    count_ = 0;
  }
  [[nodiscard]] Value* find(std::uint32_t cell, std::uint32_t tick) {
    if (entries_.empty()) return nullptr;
    Entry& entry = entries_[place(cell, tick)];
    return entry.use == use_ ? &entry.value : nullptr;
  }
  /// The value of a cell at a tick; `fresh` tells whether it was made now, as given.
  Value& get(std::uint32_t cell, std::uint32_t tick, const Value& made, bool& fresh) {
    if (2 * (count_ + 1) > entries_.size()) grow();
    Entry& entry = entries_[place(cell, tick)];
    fresh = entry.use != use_;
    if (fresh) {
      entry = {cell, tick, use_, made};
      ++count_;
    }
    return entry.value;
  }

 private:
  struct Entry {
    std::uint32_t cell = 0;
    std::uint32_t tick = 0;
    std::uint32_t use = 0;
    Value value = {};
  };
  [[nodiscard]] std::size_t place(std::uint32_t cell, std::uint32_t tick) const {
    const std::uint64_t key = (std::uint64_t{tick} << 32U | cell) * 0x9E3779B97F4A7C15U;
    std::size_t at = static_cast<std::size_t>(key >> 20U) & (entries_.size() - 1);
    while (entries_[at].use == use_ && (entries_[at].cell != cell || entries_[at].tick != tick)) {
      at = (at + 1) & (entries_.size() - 1);
    }
    return at;
  }
  void grow() {
    std::vector<Entry> before(std::max<std::size_t>(1024, entries_.size() * 2));
    before.swap(entries_);
    for (const Entry& entry : before) {
      if (entry.use == use_) entries_[place(entry.cell, entry.tick)] = entry;
    }
  }

  std::vector<Entry> entries_;
  std::uint32_t use_ = 1;
  std::size_t count_ = 0;
};

}  // namespace saunter::inline v0_2::detail
