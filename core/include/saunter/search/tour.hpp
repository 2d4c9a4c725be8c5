/// @file
/// Ways past several goals.
#pragma once

#include <span>
#include <vector>

#include "saunter/search/searcher.hpp"

namespace saunter {

enum class VisitOrder : std::uint8_t {
  given,  ///< in the order of the list
  best    ///< in the order that makes the whole way cheapest
};

/// A way that visits every goal, or the reason why there is none.
struct Tour {
  Verdict verdict;                 ///< of the first leg without a way
  std::vector<std::size_t> order;  ///< numbers of the goals as they are visited; empty when not found
  std::vector<Cell> cells;
  std::vector<std::size_t> stops;  ///< where in `cells` each of them is reached
  Cost cost = 0;
  std::uint64_t expanded = 0;  ///< over all searches
  /// Whether no other order is cheaper: up to 12 goals all orders are weighed (Bellman 1962; Held and Karp 1962),
  /// beyond that a good one is sought by insertion and exchange.
  bool best_proven = true;

  [[nodiscard]] bool found() const { return verdict.reason == Reason::found; }
};

/// Searches all legs and joins them. Among orders of equal cost the one that visits goals given earlier first.
/// @param options  for each leg; a budget holds for the whole way
/// @pre no trace with VisitOrder::best; a goal at least
/// @cost one search a leg; VisitOrder::best: n x n searches and up to n^2 x 2^n sums for n goals
[[nodiscard]] Tour tour(Searcher& searcher, const CostGrid& costs, Cell from, std::span<const Cell> goals,
                        VisitOrder order, const RouteOptions& options = {});

}  // namespace saunter
