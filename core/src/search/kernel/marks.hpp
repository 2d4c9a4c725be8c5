/// @file
/// What a query knows of each cell, in memory that is used again and hardly ever cleared.
#pragma once

#include <algorithm>
#include <cstdint>
#include <span>
#include <vector>

#include "memory.hpp"

namespace saunter::inline v0_2::detail {

/// A number for each query, kept in the record of whatever the query has seen: what carries another is unseen. Nothing
/// an earlier query has left is trusted, whatever ended it.
class QueryNumber {
 public:
  /// A new query over so many records; clears them only when the numbers are used up. Records are plain structs with a
  /// member `query`, 0 where there has been none.
  template <typename Record>
  void begin(std::vector<Record>& records, std::size_t count) {
    if (records.size() < count) records.resize(count);
    if (++number_ != 0) return;
    std::fill(records.begin(), records.end(), Record{});  // wrapped: old marks would look new
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

/// A number for each cell, valid for one query: the query's mark above the cost, marks counting down, so one comparison
/// tells "not seen in this query, or costlier than this". Clears its memory only when the marks are used up.
template <typename Word, unsigned cost_bits>
class CostMarks {
 public:
  using Value = Word;
  static constexpr std::uint64_t most_cost = (std::uint64_t{1} << cost_bits) - 1;

  void begin(std::size_t cells) {
    if (words_.size() < cells) {
      words_.assign(cells, unused);
      mark_ = last_mark;
    } else if (mark_ == 0) {
      std::fill(words_.begin(), words_.end(), unused);
      mark_ = last_mark;
    }
    --mark_;
  }
  /// What a cell reached at this cost holds.
  [[nodiscard]] Word marked(std::uint64_t cost) const { return static_cast<Word>(mark_ << cost_bits | cost); }
  [[nodiscard]] Word* words() { return words_.data(); }
  [[nodiscard]] const Word* words() const { return words_.data(); }
  [[nodiscard]] bool knows(std::uint32_t index) const { return words_[index] >> cost_bits == mark_; }
  [[nodiscard]] std::uint64_t cost(std::uint32_t index) const { return words_[index] & most_cost; }
  [[nodiscard]] std::size_t memory() const { return bytes_of(words_); }

 private:
  static constexpr Word unused = static_cast<Word>(~Word{0});
  static constexpr std::uint64_t last_mark = unused >> cost_bits;

  std::vector<Word> words_;
  std::uint64_t mark_ = 0;
};

/// For each cell whether it was seen in this query and the direction back to where it was reached from, in one byte.
/// Clears its memory every 15 queries.
class BackMarks {
 public:
  void begin(std::size_t cells) {
    if (bytes_.size() < cells) {
      bytes_.assign(cells, 0);
      mark_ = 0;
    }
    mark_ += 16;
    if (mark_ == 0) {
      std::fill(bytes_.begin(), bytes_.end(), std::uint8_t{0});
      mark_ = 16;
    }
  }
  [[nodiscard]] bool knows(std::uint32_t index) const { return (bytes_[index] & 0xF0U) == mark_; }
  void set(std::uint32_t index, std::uint32_t back) { bytes_[index] = static_cast<std::uint8_t>(mark_ | back); }
  [[nodiscard]] std::span<const std::uint8_t> bytes() const { return bytes_; }
  [[nodiscard]] unsigned back(std::uint32_t index) const { return bytes_[index] & 15U; }
  [[nodiscard]] std::size_t memory() const { return bytes_of(bytes_); }

 private:
  std::vector<std::uint8_t> bytes_;
  std::uint8_t mark_ = 0;
};

}  // namespace saunter::inline v0_2::detail
