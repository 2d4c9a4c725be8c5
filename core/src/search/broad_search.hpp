/// @file
/// The search for everything beyond one start, one goal and the board as it is.
#pragma once

#include <vector>

#include "kernel/best_first.hpp"
#include "kernel/dead_ends.hpp"
#include "kernel/ends.hpp"
#include "kernel/marks.hpp"
#include "kernel/queue.hpp"
#include "natural_way.hpp"
#include "saunter/search/stepped_search.hpp"

namespace saunter::inline v0_2 {

namespace detail {
/// The options as they are, or without what contradicts (see RouteOptions); stops a checked build where something does.
[[nodiscard]] RouteOptions made_sound(RouteOptions options, Tiling tiling);
}  // namespace detail

/// A search under way, or ended. Every query starts it anew; its memory is used again.
///
/// A place is a cell, or with turn costs a cell and the direction it was entered in.
///
/// Nothing an earlier query has left is trusted: marks carry the number of their query, and lists of what was marked
/// are written before the marks, so that the next query can clear them even after an exception.
class SteppedSearch::BroadSearch {
 public:
  /// @pre options made sound
  void begin(const CostGrid& costs, const Query& query, const RouteOptions& options);
  /// Expands at most so many places. True when the search has ended.
  bool run(std::uint64_t places);
  [[nodiscard]] bool ended() const { return ended_; }
  /// Writes the answer. @pre ended()
  void write(Route& route);
  /// The way to the expanded cell with the least heuristic. @pre it has begun
  void write_best_so_far(std::vector<Cell>& out) const;

  [[nodiscard]] CellState state(Cell cell) const;
  /// Least cost known and where it was reached from. @pre state(cell) != unseen
  [[nodiscard]] Cost cost(Cell cell) const;
  [[nodiscard]] Cell parent(Cell cell) const;
  [[nodiscard]] std::uint64_t estimate(Cell cell) const;
  [[nodiscard]] std::uint64_t expanded() const { return expanded_; }
  [[nodiscard]] std::size_t memory() const {
    return nodes_.memory() + detail::bytes_of(natural_.position, natural_.ties, natural_.looks) + queues_.memory() +
           ground_.memory() + goals_.memory() + dead_ends_.memory();
  }
  [[nodiscard]] const CostGrid* costs() const { return costs_; }

 private:
  struct Node {
    std::uint32_t query = 0;
    Cost cost = 0;
    std::uint8_t back = 0;     // direction back to the cell before; from_nowhere at a start
    std::uint8_t heading = 0;  // with turn costs: the direction in which the cell before was entered
    bool expanded = false;
  };
  /// What is known of cells where a state is a cell.
  struct Reached {
    const BroadSearch& search;
    [[nodiscard]] bool knows(std::uint32_t index) const { return search.knows(index); }
    [[nodiscard]] Cost cost(std::uint32_t index) const { return search.nodes_[index].cost; }
    [[nodiscard]] bool starts(std::uint32_t index) const { return search.nodes_[index].back == from_nowhere; }
  };

  [[nodiscard]] Verdict take_starts(std::span<const Source> starts);
  [[nodiscard]] Verdict take_goals();
  [[nodiscard]] const Labels* apart_by_labels() const;
  /// Sets out from the starts, by a search that may be another than the one asked for.
  void forget_search();
  void set_out(Algorithm by);
  void strike_dead_ends();
  /// The goal that a cell counts for, one the caller's test names after all given; or Goals::none.
  [[nodiscard]] std::size_t goal_at(Cell cell) const;
  template <typename Queue>
  void run_with(Queue& queue, std::uint64_t& places);
  [[nodiscard]] detail::Take look_at(const detail::State& place);
  void expand(const detail::State& place);
  [[nodiscard]] unsigned heading_of(const detail::State& place, unsigned kind) const;
  void trace(const detail::State& place, Cell cell, unsigned kind);
  bool arrive(std::size_t goal, std::size_t state, Cell cell, Cost cost);
  void reach(Cell cell, unsigned heading, std::uint64_t cost, unsigned back, unsigned heading_before);
  void end(Reason reason);
  [[nodiscard]] std::uint64_t total(std::uint64_t cost, std::uint64_t estimate) const;
  [[nodiscard]] unsigned start_heading() const;
  [[nodiscard]] bool leads_to_goal(Cell& nearest) const;
  [[nodiscard]] std::uint64_t turning(unsigned from, unsigned to) const;
  [[nodiscard]] std::size_t state_of(Cell cell, unsigned heading) const {
    return std::size_t{costs_->size().index(cell).value()} * headings_ + heading;
  }
  [[nodiscard]] bool knows(std::size_t state) const { return query_.knows(nodes_[state]); }
  /// The cheapest known state of a cell, or none.
  [[nodiscard]] std::size_t best_state(Cell cell) const;
  template <typename Among>
  [[nodiscard]] Cell nearest(Among&& among) const;
  [[nodiscard]] Cell nearest_by_labels() const;
  /// Searches again for the least costs of all cells within the budget, or only as far as one.
  void survey(Algorithm by, const Cell* to);
  void find_place_of_no();
  void write_nearest(Route& route);
  void write_way(std::size_t state, Cell cell, std::vector<Cell>& out) const;
  void write_cost(Route& route);
  [[nodiscard]] std::uint64_t cost_of(std::span<const Cell> way) const;

  static constexpr std::size_t no_state = ~std::size_t{0};
  static constexpr std::uint8_t from_nowhere = 15;

  const CostGrid* costs_ = nullptr;
  RouteOptions options_;
  Algorithm by_ = Algorithm::astar;  // the search under way
  CellTest until_;
  int within_ = 0;
  bool beside_ = false;
  bool changed_ = false;            // other entry costs for this query
  const Labels* labels_ = nullptr;  // that proved the query hopeless
  std::vector<Cell> given_goals_;
  detail::Goals goals_;
  detail::ChangedMoves ground_;
  detail::DeadEnds dead_ends_;  // of a search that strikes them off
  detail::Zeroed<Node> nodes_;
  detail::QueryNumber query_;
  unsigned headings_ = 1;
  detail::StateQueues queues_;
  std::vector<Source> starts_;
  std::vector<std::uint32_t> start_numbers_;
  detail::Span touched_;
  std::uint64_t expanded_ = 0;
  std::uint64_t enqueued_ = 0;
  bool cut_ = false;        // places were left out because they lie beyond the budget
  bool cut_short_ = false;  // the limit was used up
  bool ended_ = true;
  Verdict verdict_;
  std::size_t found_state_ = no_state;
  std::size_t found_goal_ = detail::Goals::none;
  Cell found_cell_;
  std::uint64_t found_cost_ = 0;
  detail::NaturalScratch natural_;
};

}  // namespace saunter::inline v0_2
