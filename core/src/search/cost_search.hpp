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
  [[nodiscard]] Cell nearest(const Question& question) const;
  [[nodiscard]] std::size_t memory() const {
    return narrow_.memory() + wide_.memory() + queues_.memory() + long_ring_.memory();
  }

 private:
  using Narrow = CostMarks<std::uint32_t, 24>;
  using Wide = CostMarks<std::uint64_t, 32>;

  template <typename Marks>
  Ending run_with(Marks& marks, const Question& question);
  template <typename Marks, typename MakeGuide>
  Ending run_guided(Marks& marks, const Question& question, MakeGuide&& make_guide);
  template <typename Ends, typename Marks, typename Guide>
  Ending run_to(Marks& marks, const Question& question, const Guide& guide);
  template <Price price, typename Ends, typename Marks, typename Queue, typename Guide>
  Ending expand_all(Marks& marks, Queue& queue, const Question& question, const Guide& guide);
  template <typename Marks>
  void walk_back(const Marks& marks, const Question& question, Cell from, std::vector<Cell>& out) const;

  Narrow narrow_;
  Wide wide_;
  StateQueues queues_;
  LongRing long_ring_;  // where nothing bounds what a step weighs
  Onward onward_;
  Span touched_;
  bool used_wide_ = false;
};

}  // namespace saunter::inline v0_2::detail
