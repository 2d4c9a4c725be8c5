/// @file
/// What a query knows of each cell, in memory that is used again and costs only what is touched of it.
#pragma once

#include <algorithm>
#include <cstdint>
#include <cstring>
#include <span>

#include "ends.hpp"
#include "zeroed.hpp"

namespace saunter::inline v0_2::detail {

/// A number for each query, kept in the record of whatever the query has seen: what carries another is unseen. Nothing
/// an earlier query has left is trusted, whatever ended it.
class QueryNumber {
 public:
  /// A new query over so many records; clears them only when the numbers are used up. Records are plain structs with a
  /// member `query`, all zeros where there has been none.
  template <typename Record>
  void begin(Zeroed<Record>& records, std::size_t count) {
    if (records.size() < count) records.make(count);
    if (++number_ != 0) return;
    records.make(records.size());  // wrapped: old marks would look new
    number_ = 1;
  }
  [[nodiscard]] std::uint32_t now() const { return number_; }
  template <typename Record>
  [[nodiscard]] bool knows(const Record& record) const {
    return record.query == number_;
  }

 private:
  std::uint32_t number_ = 0;
};

/// A word for each cell, 0 until the query puts one there. The next query clears what this one has touched, by lines of
/// 64 cells: a short query on a large board costs what a short query costs, whatever came before and however it ended.
template <typename Word>
class CellMarks {
 public:
  void begin(Size size) {
    clear();
    const std::size_t cells = size.cell_count();
    if (words_.size() < cells) {
      words_.make(0);  // until both are there
      lines_.make(cells / line + 1);
      words_.make(cells);
    }
    size_ = size;
  }
  /// @pre the cell is one that has been expanded, or a step from one
  SAUNTER_INLINE void put(std::uint32_t index, Word word) {
    words_.data()[index] = word;
    lines_.data()[index / line] = true;
  }
  [[nodiscard]] Word operator[](std::uint32_t index) const { return words_.data()[index]; }
  /// To be called for each cell that is expanded, before what it leads to is put.
  void expand(std::uint32_t index) { expanded_.take(index); }
  [[nodiscard]] bool knows(std::uint32_t index) const { return words_[index] != 0; }
  /// Visits the cells that have a word, by number.
  template <typename Visit>
  void for_each(Visit&& visit) const {
    for_each_line([&](std::size_t at) {
      const auto first = static_cast<std::uint32_t>(at * line);
      const auto last = std::min(first + line, static_cast<std::uint32_t>(size_.cell_count()));
      for (std::uint32_t index = first; index < last; ++index) {
        if (words_.data()[index] != 0) visit(index);
      }
    });
  }
  /// The memory itself, for inner loops: what is written there is told by lines.
  [[nodiscard]] Word* words() { return words_.data(); }
  [[nodiscard]] std::span<const Word> all() const { return {words_.data(), words_.size()}; }
  [[nodiscard]] bool* lines() { return lines_.data(); }
  [[nodiscard]] std::size_t memory() const { return words_.memory() + lines_.memory(); }

  static constexpr std::uint32_t line = 64;

 private:
  template <typename Visit>
  void for_each_line(Visit&& visit) const {
    if (expanded_.first > expanded_.last) return;
    const Span touched = expanded_.with_neighbours(size_);
    const bool* const lines = lines_.data();
    const std::size_t end = touched.last / line + 1;
    for (std::size_t at = touched.first / line; at < end; ++at) {
      if (at % 8 == 0 && at + 8 <= end) {  // none of eight
        std::uint64_t eight = 0;
        std::memcpy(&eight, lines + at, sizeof eight);
        if (eight == 0) {
          at += 7;
          continue;
        }
      }
      if (lines[at]) visit(at);
    }
  }
  void clear() {
    for_each_line([&](std::size_t at) {
      const std::size_t first = at * line;
      std::fill_n(words_.data() + first, std::min<std::size_t>(line, words_.size() - first), Word{0});
      lines_.data()[at] = false;
    });
    expanded_ = {};
  }

  Zeroed<Word> words_;
  Zeroed<bool> lines_;  // which hold a word; no bytes, which could be part of anything for all the compiler knows
  Span expanded_;
  Size size_;
};

}  // namespace saunter::inline v0_2::detail
