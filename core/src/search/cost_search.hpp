/// @file
/// Ways of least cost: A* and Dijkstra's search with four bytes a cell.
#pragma once

#include "kernel/marks.hpp"
#include "kernel/queue.hpp"
#include "onward.hpp"
#include "question.hpp"

namespace saunter::inline v0_2::detail {

/// By what steps are priced.
enum class Price : std::uint8_t {
  one,      ///< all entries cost the same, and only canonical steps are taken
  entries,  ///< by the cell entered
  weighed   ///< by that and its danger
};

class CostSearch {
 public:
  /// Searches. `found`, `stopped`, or `no_way` (see Ending::cut).
  Ending run(const Question& question);
  /// The cells from a reached cell back to the start.
  void write_way_back(const Question& question, Cell from, std::vector<Cell>& out) const;
  [[nodiscard]] Cell nearest(const Question& question) const { return nearest_reached(question, marks_); }
  /// Whether a step leads out of all that was reached.
  [[nodiscard]] bool leads_out(const Question& question) const { return detail::leads_out(question, marks_); }
  [[nodiscard]] std::size_t memory() const { return marks_.memory() + queues_.memory() + long_ring_.memory(); }

 private:
  /// What marks hold of a cell reached at this cost: more for less, never 0.
  [[nodiscard]] static std::uint32_t marked(std::uint64_t cost) { return ~static_cast<std::uint32_t>(cost); }

  template <typename MakeGuide>
  Ending run_guided(const Question& question, MakeGuide&& make_guide);
  template <typename Ends, typename Guide>
  Ending run_to(const Question& question, const Guide& guide);
  template <Price price, typename Ends, typename Queue, typename Guide>
  Ending expand_all(Queue& queue, const Question& question, const Guide& guide);

  CellMarks<std::uint32_t> marks_;
  StateQueues queues_;
  LongRing long_ring_;  // where nothing bounds what a step weighs
  Onward onward_;
};

}  // namespace saunter::inline v0_2::detail
