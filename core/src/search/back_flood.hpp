/// @file
/// Looking back from the goals beside a search, so that a "no" costs the smaller side.
#pragma once

#include <algorithm>
#include <vector>

#include "kernel/marks.hpp"
#include "question.hpp"

namespace saunter::inline v0_2::detail {

/// Cells that lead to the goals of a question, found backwards a little at a time. When there are no more of them and
/// the search has reached none, there is no way, and none of them can be got to.
class BackFlood {
 public:
  /// Forgets what led to earlier goals. Takes no memory before it is needed.
  void begin() {
    fresh_ = true;
    begin_anew();
  }
  /// Looks back from other goals as well. @pre all earlier ones were shut
  void begin_anew() {
    begun_ = false;
    met_ = false;
  }
  /// Whether a cell is among those found.
  [[nodiscard]] bool knows(std::uint32_t index) const { return !fresh_ && marks_.knows(index); }
  /// Whether there is nothing more to be proven: a cell that the search has reached leads to a goal.
  [[nodiscard]] bool met() const { return met_; }
  /// How many cells have been looked back from.
  [[nodiscard]] std::size_t count() const { return next_; }
  [[nodiscard]] std::size_t memory() const { return marks_.memory() + bytes_of(list_); }

  /// Looks back from so many cells more. @param reached  whether the search has reached a cell, by its number
  /// @return whether the goals are cut off from it
  template <typename Reached>
  [[nodiscard]] bool shut(const Question& question, std::size_t cells, const Reached& reached) {
    const Size size = question.costs.size();
    const auto take = [&](Cell cell) {
      const std::uint32_t index = size.index(cell).value();
      if (marks_.knows(index)) return;
      met_ = met_ || cell == question.from || reached.knows(index);
      list_.push_back(pack(cell));  // first: memory may run out
      marks_.put(index, 1);
    };
    if (fresh_) {
      marks_.begin(size);
      list_.clear();
      next_ = 0;
      fresh_ = false;
    }
    if (!begun_) {
      const auto begin_at = [&](Cell goal) {
        marks_.expand(size.index(goal).value());
        take(goal);
      };
      if (question.beyond == nullptr) {
        begin_at(question.to);
      } else {
        for (const Goals::Accepted& goal : question.beyond->goals.accepted()) begin_at(goal.cell);
      }
      begun_ = true;
    }
    for (; cells > 0 && next_ < list_.size() && !met_; --cells) {
      const Cell cell = unpack(list_[next_++]);
      marks_.expand(size.index(cell).value());
      const unsigned into = question.beyond == nullptr ? moves_into(question.costs, cell)
                                                       : moves_into(question.costs, question.beyond->ground, cell);
      for_each_next(question.costs.tiling(), into, cell, take);
    }
    return !met_ && next_ == list_.size();
  }

 private:
  CellMarks<std::uint8_t> marks_;
  std::vector<std::uint32_t> list_;  // packed
  std::size_t next_ = 0;
  bool fresh_ = true;
  bool begun_ = false;
  bool met_ = false;
};

/// When a search looks up from its work: at its limit, and now and then to look back from the goals. What is asked of
/// each cell is one comparison.
class Pause {
 public:
  /// @param often  cells expanded for each eight looked back from, at first
  Pause(const Question& question, std::uint64_t often) : question_(question), often_(often) {
    at_ = question.behind == nullptr ? question.limit : std::min(question.limit, often);
  }
  [[nodiscard]] bool due(const Ending& ending) const { return ending.expanded == at_; }
  /// @return whether the search goes on; else the ending says why not
  template <typename Reached>
  [[nodiscard]] bool goes_on(Ending& ending, const Reached& reached) {
    if (ending.expanded == question_.limit) {
      ending.reason = Reason::stopped;
      return false;
    }
    BackFlood& behind = *question_.behind;
    ending.shut = behind.shut(question_, at_a_time, reached);
    if (ending.shut) return false;
    const std::uint64_t next = ending.expanded + (behind.count() < at_first ? often_ : 16 * often_);
    at_ = behind.met() ? question_.limit : std::min(question_.limit, next);
    return true;
  }

 private:
  static constexpr std::size_t at_a_time = 8;
  static constexpr std::size_t at_first = 512;

  const Question& question_;
  std::uint64_t often_;
  std::uint64_t at_ = 0;
};

}  // namespace saunter::inline v0_2::detail
