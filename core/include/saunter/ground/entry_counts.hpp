/// @file
/// How many cells have each entry cost.
///
/// Units: entry costs in hundredths.
/// Errors: none but for memory.
/// Cost: O(1) a cell, 1 KB for each 256 costs in use.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <array>
#include <bit>
#include <cstdint>
#include <span>
#include <utility>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Counts of entry costs that can tell the least and the largest at any time. Counts lie in pages of 256 costs, taken
/// when a cost of a page first appears: 1 KB for each.
class EntryCounts {
 public:
  EntryCounts() = default;
  EntryCounts(const EntryCounts&) = default;
  EntryCounts(EntryCounts&& other) noexcept { swap(other); }
  EntryCounts& operator=(const EntryCounts&) = delete;
  EntryCounts& operator=(EntryCounts&& other) noexcept {
    EntryCounts taken(std::move(other));
    swap(taken);
    return *this;
  }
  ~EntryCounts() = default;

  /// O(1), except that it may take a page. `blocked` is not counted.
  void add(EntryCost cost) {
    if (cost == blocked) return;
    Page& page = make_page(cost >> 8U);
    const unsigned at = cost & 255U;
    ++page.count[at];
    page.used[at / 64] |= std::uint64_t{1} << (at % 64);
    used_[cost >> 14U] |= std::uint64_t{1} << (cost >> 8U & 63U);
  }
  /// O(1). @pre it was added
  void remove(EntryCost cost) {
    if (cost == blocked) return;
    Page& page = pages_[page_of_[cost >> 8U] - 1U];
    const unsigned at = cost & 255U;
    if (--page.count[at] != 0) return;
    page.used[at / 64] &= ~(std::uint64_t{1} << (at % 64));
    if ((page.used[0] | page.used[1] | page.used[2] | page.used[3]) != 0) return;
    used_[cost >> 14U] &= ~(std::uint64_t{1} << (cost >> 8U & 63U));
  }
  /// Adds all of a row. About a nanosecond each.
  void add_all(std::span<const EntryCost> costs) {
    // Equal neighbours are counted together: maps are made of stretches.
    for (std::size_t i = 0; i < costs.size();) {
      const EntryCost cost = costs[i];
      std::size_t end = i + 1;
      while (end < costs.size() && costs[end] == cost) ++end;
      if (cost != blocked) {
        add(cost);
        pages_[page_of_[cost >> 8U] - 1U].count[cost & 255U] += static_cast<std::uint32_t>(end - i - 1);
      }
      i = end;
    }
  }
  void clear() {
    for (Page& page : pages_) page = {};
    used_ = {};
  }
  /// Takes the page of a cost, so that add() for it takes no memory.
  void make_room(EntryCost cost) {
    if (cost != blocked) (void)make_page(cost >> 8U);
  }

  [[nodiscard]] std::uint32_t count(EntryCost cost) const {
    const unsigned page = page_of_[cost >> 8U];
    return page == 0 || cost == blocked ? 0 : pages_[page - 1U].count[cost & 255U];
  }
  /// The least cost that is larger than this one; `blocked` when there is none. O(1).
  [[nodiscard]] EntryCost next_above(EntryCost cost) const {
    if (cost == max_entry_cost) return blocked;
    const unsigned from = cost + 1U;
    const unsigned page = from >> 8U;
    if (page_of_[page] != 0) {
      const unsigned at = first_from(pages_[page_of_[page] - 1U].used, from & 255U);
      if (at < 256) return static_cast<EntryCost>(page << 8U | at);
    }
    const unsigned next = page == 255 ? 256 : first_from(used_, page + 1);
    if (next == 256) return blocked;
    return static_cast<EntryCost>(next << 8U | first_from(pages_[page_of_[next] - 1U].used, 0));
  }
  [[nodiscard]] EntryCost least() const { return next_above(blocked); }
  /// `blocked` when there is none. O(1).
  [[nodiscard]] EntryCost largest() const {
    const unsigned page = last_of(used_);
    if (page == 256) return blocked;
    return static_cast<EntryCost>(page << 8U | last_of(pages_[page_of_[page] - 1U].used));
  }

 private:
  using Bits = std::array<std::uint64_t, 4>;
  struct Page {
    std::array<std::uint32_t, 256> count = {};
    Bits used = {};
  };
  void swap(EntryCounts& other) noexcept {
    pages_.swap(other.pages_);
    std::swap(page_of_, other.page_of_);
    std::swap(used_, other.used_);
  }
  Page& make_page(unsigned page) {
    if (page_of_[page] == 0) {
      pages_.emplace_back();
      page_of_[page] = static_cast<std::uint16_t>(pages_.size());
    }
    return pages_[page_of_[page] - 1U];
  }
  /// The first set bit from one on, 256 when there is none.
  [[nodiscard]] static unsigned first_from(const Bits& bits, unsigned from) {
    std::uint64_t word = bits[from / 64] & ~std::uint64_t{0} << (from % 64);
    for (unsigned i = from / 64;;) {
      if (word != 0) return i * 64 + static_cast<unsigned>(std::countr_zero(word));
      if (++i == 4) return 256;
      word = bits[i];
    }
  }
  [[nodiscard]] static unsigned last_of(const Bits& bits) {
    for (unsigned i = 4; i-- > 0;) {
      if (bits[i] != 0) return i * 64 + 63U - static_cast<unsigned>(std::countl_zero(bits[i]));
    }
    return 256;
  }

  std::vector<Page> pages_;
  std::array<std::uint16_t, 256> page_of_ = {};  // number of each page from 1; 0 = not taken
  Bits used_ = {};                               // pages with any count
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
