/// @file
/// Routes past several goals.
///
/// Units: costs in hundredths.
/// Errors: goals that can't be reached give a verdict.
/// Cost: a search a leg; for the best order a search for each pair of goals.
/// Threads: one at a time; each thread its own.
#pragma once

#include <span>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/search/searcher.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

enum class VisitOrder : std::uint8_t {
  given,  ///< in the order of the list
  best    ///< in the order that makes the whole route cheapest
};

/// So many goals are weighed in all orders.
inline constexpr std::size_t most_goals_proven = 12;

/// A route that visits every goal, or the reason why there is none.
struct Tour {
  Verdict verdict;
  std::vector<std::size_t> order;  ///< numbers of the goals as they are visited; empty when not found
  std::vector<Cell> cells;
  std::vector<std::size_t> stops;  ///< where in `cells` each of them is reached
  Cost cost = 0;
  std::uint64_t expanded = 0;              ///< over all searches
  Algorithm algorithm = Algorithm::astar;  ///< the one the legs were searched by
  /// Whether no other order is cheaper: up to 12 goals all orders are weighed (Bellman 1962; Held and Karp 1962),
  /// beyond that a good one is sought by insertion and exchange.
  bool best_proven = true;

  [[nodiscard]] bool found() const { return verdict.reason == Reason::found; }
};

/// Searches all legs and joins them. Start and goals are checked first, in the order given. With VisitOrder::best a leg
/// that does not exist rules out only the orders that need it; of orders of equal total the one that visits goals given
/// earlier first. A goal given twice is visited twice.
///
/// No tour: as for routes, of the first leg there is none for. For VisitOrder::best `no-way` when no order is left, at
/// the cell nearest to the first goal that the start alone does not lead to (at the first goal, when it leads to each);
/// `stopped` when a limit, or more than 12 goals, leave it open.
/// @param options  for each leg; a budget holds for the whole route. bfs: total steps are minimised
/// @pre no trace with VisitOrder::best, where it is left empty; a goal at least, else the tour stays where it is
/// @cost one search a leg; VisitOrder::best: n x n searches and up to n^2 x 2^n sums for n goals
[[nodiscard]] Tour tour(Searcher& searcher, const CostGrid& costs, Cell from, std::span<const Cell> goals,
                        VisitOrder order, const RouteOptions& options = {});

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
