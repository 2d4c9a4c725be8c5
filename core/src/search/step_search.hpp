/// @file
/// Ways of fewest steps, and of least cost where every step costs the same: one byte a cell.
#pragma once

#include <array>

#include "question.hpp"

namespace saunter {

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

 private:
  std::vector<std::uint8_t> bytes_;
  std::uint8_t mark_ = 0;
};

class StepSearch {
 public:
  /// Whether every step of this board costs the same.
  [[nodiscard]] static bool one_step_cost(const CostGrid& costs);

  /// Breadth first. The ending's cost counts steps; no bound is kept.
  Ending by_steps(const Question& question);
  /// A*, or Dijkstra's search (which is breadth first here). @pre one_step_cost(question.costs)
  Ending by_cost(const Question& question);
  /// The cells from the goal (or any reached cell) back to the start.
  void write_way_back(const Question& question, Cell from, std::vector<Cell>& out) const;
  [[nodiscard]] Cell nearest(const Question& question) const;

 private:
  static constexpr std::uint32_t from_nowhere = 15;
  struct Place {
    std::uint32_t cell = 0;  // packed
    std::uint32_t back = 0;
  };

  /// Breadth first for at most so many steps; the ending's cost counts steps.
  Ending expand_by_levels(const Question& question, std::uint64_t most_steps);
  Ending expand_levels(const Question& question, std::uint64_t most_steps);
  Ending expand_levels_of_four(const Question& question, std::uint64_t most_steps);
  Ending expand_by_totals(const Question& question);
  template <typename Guide>
  Ending expand_totals(const Question& question, const Guide& guide);
  Ending expand_totals_of_four(const Question& question);
  /// Marks a place that was in line when the search ended: it counts as reached.
  void settle_rest(const Question& question, std::vector<Place>& line);
  [[nodiscard]] bool take(const Question& question, const Place& place, std::uint32_t index, Cell cell,
                          std::uint64_t cost, std::uint64_t estimate, Ending& ending);

  BackMarks marks_;
  Span touched_;
  std::array<std::vector<Place>, 4> lines_;  // by level or total, in turn
};

}  // namespace saunter
