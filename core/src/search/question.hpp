/// @file
/// What the searches behind `Searcher::route` are asked and how they answer.
#pragma once

#include <algorithm>

#include "pack.hpp"
#include "saunter/search/searcher.hpp"

namespace saunter {

/// One start, one goal, both usable (or a goal that can't be entered: the search then ends without it).
struct Question {
  const CostGrid& costs;
  Cell from;
  Cell to;
  bool guided = true;  ///< by the estimate; not in Dijkstra's search
  Cost bound = max_cost;
  std::uint64_t limit = 0;
  std::vector<Visit>* trace = nullptr;
};

/// How a search ended. The way itself is read from the search's marks afterwards.
struct Ending {
  Reason reason = Reason::no_way;
  std::uint64_t cost = 0;
  std::uint64_t expanded = 0;
  bool cut = false;  ///< places were left out because they lie beyond the bound
};

/// The first and last number of the cells expanded: what lies a row beyond them was not touched.
struct Span {
  std::uint32_t first = ~std::uint32_t{0};
  std::uint32_t last = 0;
  void take(std::uint32_t index) {
    first = index < first ? index : first;
    last = index > last ? index : last;
  }
  /// All cells that one step from the expanded ones can lead to.
  [[nodiscard]] Span with_neighbours(Size size) const {
    if (first > last) return {0, 0};
    const auto step = static_cast<std::uint32_t>(size.cols) + 2;  // triangles step two columns aside
    const auto end = static_cast<std::uint32_t>(size.cell_count());
    return {first > step ? first - step : 0, end - last > step ? last + step : end - 1};
  }
};

/// The cell with the least estimate to the goal among those a predicate on cell numbers names, first in reading order.
template <typename Reached>
Cell nearest_reached(const Question& question, Span touched, Reached&& reached) {
  const Estimate estimate(question.costs, question.to);
  const Size size = question.costs.size();
  const Span span = touched.with_neighbours(size);
  Cell nearest = question.from;
  std::uint64_t least = estimate(nearest);
  for (std::uint32_t index = span.first; index <= span.last; ++index) {
    if (!reached(index)) continue;
    const Cell cell = size.cell(CellIndex{index});
    const std::uint64_t here = estimate(cell);
    if (here < least || (here == least && cell < nearest)) {
      least = here;
      nearest = cell;
    }
  }
  return nearest;
}

}  // namespace saunter
