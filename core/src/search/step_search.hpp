/// @file
/// Ways of fewest steps, and of least cost where every step costs the same: one byte a cell.
#pragma once

#include <array>
#include <optional>

#include "kernel/marks.hpp"
#include "question.hpp"

namespace saunter::inline v0_2::detail {

class Pause;

class StepSearch {
 public:
  /// Whether every step of this board costs the same, with what the question changes.
  [[nodiscard]] static bool one_step_cost(const CostGrid& costs, const Beyond* beyond = nullptr);

  /// Breadth first. The ending's cost counts steps; no bound is kept.
  Ending by_steps(const Question& question);
  /// A*, or Dijkstra's search (which is breadth first here). @pre one_step_cost(question.costs, question.beyond)
  Ending by_cost(const Question& question);
  /// The cells from a reached cell back to the start.
  void write_way_back(const Question& question, Cell from, std::vector<Cell>& out) const;
  [[nodiscard]] Cell nearest(const Question& question) const { return nearest_reached(question, marks_); }
  /// Whether a step leads out of all that was reached.
  [[nodiscard]] bool leads_out(const Question& question) const { return detail::leads_out(question, marks_); }
  [[nodiscard]] std::size_t memory() const {
    return marks_.memory() + bytes_of(lines_[0], lines_[1], lines_[2], lines_[3]);
  }

 private:
  static constexpr std::uint32_t from_nowhere = 15;
  struct State {
    std::uint32_t cell = 0;  // packed
    std::uint32_t back = 0;
  };

  /// Breadth first for at most so many steps; the ending's cost counts steps.
  Ending expand_by_levels(const Question& question, std::uint64_t most_steps);
  template <bool four, typename Ends>
  Ending expand_levels(const Question& question, std::uint64_t most_steps);
  Ending expand_by_totals(const Question& question);
  static std::optional<std::uint64_t> even_slack(const Question& question);
  template <typename Ends, typename Guide>
  Ending expand_totals(const Question& question, const Guide& guide);
  template <typename Ends>
  Ending expand_totals_of_four(const Question& question, std::uint64_t slack);
  /// Marks a state that was in the queue when the search ended: it counts as reached.
  void settle_rest(const Question& question, std::vector<State>& line);
  [[nodiscard]] bool take(const Question& question, const State& state, std::uint32_t index, Cell cell,
                          std::uint64_t cost, std::uint64_t estimate, Pause& pause, Ending& ending);

  [[nodiscard]] static std::uint8_t marked(std::uint32_t back) { return static_cast<std::uint8_t>(back + 1); }

  CellMarks<std::uint8_t> marks_;            // the direction back to where a cell was reached from, and 1
  std::array<std::vector<State>, 4> lines_;  // by level or total, in turn
};

}  // namespace saunter::inline v0_2::detail
