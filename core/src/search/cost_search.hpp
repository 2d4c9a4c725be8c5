/// @file
/// Ways of least cost: A* and Dijkstra's search with four bytes a cell.
#pragma once

#include "line.hpp"
#include "onward.hpp"
#include "question.hpp"

namespace saunter {

/// A number for each cell, valid for one query: the query's mark above the cost, marks counting down, so one comparison
/// tells "not seen in this query, or dearer than this". Clears its memory only when the marks are used up.
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

 private:
  static constexpr Word unused = static_cast<Word>(~Word{0});
  static constexpr std::uint64_t last_mark = unused >> cost_bits;

  std::vector<Word> words_;
  std::uint64_t mark_ = 0;
};

class CostSearch {
 public:
  /// Searches. `found`, `stopped`, or `no_way` (see Ending::cut).
  Ending run(const Question& question);
  /// The cells from the goal (or any reached cell) back to the start.
  void write_way_back(const Question& question, Cell from, std::vector<Cell>& out) const;
  [[nodiscard]] Cell nearest(const Question& question) const;

 private:
  using Narrow = CostMarks<std::uint32_t, 24>;
  using Wide = CostMarks<std::uint64_t, 32>;
  /// Tells that costs do not fit the narrow marks; the search begins again with wide ones.
  static constexpr Reason too_dear = Reason::cost_overflow;

  template <typename Marks>
  Ending run_with(Marks& marks, const Question& question);
  template <typename Marks, typename Guide>
  Ending run_guided(Marks& marks, const Question& question, const Guide& guide);
  template <bool one_cost, typename Marks, typename Line, typename Guide>
  Ending expand_all(Marks& marks, Line& line, const Question& question, const Guide& guide);
  template <typename Marks>
  void walk_back(const Marks& marks, const Question& question, Cell from, std::vector<Cell>& out) const;

  Narrow narrow_;
  Wide wide_;
  BucketLine buckets_;
  HeapLine heap_;
  Onward onward_;
  Span touched_;
  bool used_wide_ = false;
};

}  // namespace saunter
