/// @file
/// A quick "no" from a caller's labels.
#pragma once

#include <algorithm>

#include "kernel/ends.hpp"
#include "saunter/search/query.hpp"

namespace saunter::inline v0_2::detail {

/// The caller's labels if they prove anything for this query, else null: they must describe the grid as it is. With a
/// budget it matters how far that lasts, which they don't tell.
inline const Labels* labels_that_prove(const CostGrid& costs, const RouteOptions& options) {
  const Labels* const labels = options.labels;
  const bool of_use = labels != nullptr && labels->proves_apart() && labels->stamp().same(costs.stamp()) &&
                      options.changes.empty() && !options.or_nearest && !options.budget;
  return of_use ? labels : nullptr;
}

/// The cell of `from`'s group with the least estimate to a goal, first in reading order: what a search that has seen
/// the whole group would name. Looks at rings about the goal until no farther cell can win.
inline Cell nearest_of_group(const CostGrid& costs, const Labels& labels, Cell from, Cell to) {
  const Size size = costs.size();
  const Estimate estimate(costs, to);
  const std::uint32_t group = labels.at(from);
  // A step leads at most so many columns aside, and counts at least the cheapest entry.
  const std::int32_t reach = costs.tiling().shape() == Shape::triangle ? 2 : 1;
  Nearest nearest(from, estimate(from));
  const auto look = [&](Cell cell) {
    if (labels.at(cell) == group) nearest.look(cell, estimate(cell));
  };
  for (std::int32_t ring = 0; static_cast<std::uint64_t>(ring / reach) * costs.lowest_entry() <= nearest.heuristic();
       ++ring) {
    const Rect outer = Rect{to.col - ring, to.row - ring, to.col + ring + 1, to.row + ring + 1}.grown(0, size);
    const std::int32_t top = to.row - ring;
    const std::int32_t bottom = to.row + ring;
    for (std::int32_t row = outer.top; row < outer.bottom; ++row) {
      if (row == top || row == bottom) {
        for (std::int32_t col = outer.left; col < outer.right; ++col) look({col, row});
        continue;
      }
      if (to.col - ring >= 0) look({to.col - ring, row});
      if (to.col + ring < size.cols) look({to.col + ring, row});
    }
    if (outer == Rect::whole(size)) break;
  }
  return nearest.cell();
}

}  // namespace saunter::inline v0_2::detail
