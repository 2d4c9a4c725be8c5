/// @file
/// What becomes of a path once it is found: does it still hold, and which of its cells matter.
///
/// Units: costs in hundredths.
/// Errors: a path that can't be walked gives nothing, or is given back.
/// Cost: O(cells); lists grow.
/// Threads: any number, nothing is shared.
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/search/query.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

class Searcher;

/// The cost of walking these cells in hundredths, or nothing when one of the steps is not legal (any more). A path
/// found earlier still holds when this gives its cost; that a better one has opened, only a new search can tell. An
/// empty path and a single cell that can be stood on cost 0. O(cells)
/// @param changes  as in RouteOptions, here and below
[[nodiscard]] std::optional<std::uint64_t> cost_of_path(const CostGrid& costs, std::span<const Cell> cells,
                                                        std::span<const EntryChange> changes = {});

/// Whether a unit can go straight from one cell's centre to another's: every cell whose inside the line crosses can be
/// entered from the one before (through a corner: by a legal corner step). A line that runs along the edge between two
/// cells counts as not free. Decided in whole numbers. O(length)
[[nodiscard]] bool straight_line_free(const CostGrid& costs, Cell from, Cell to,
                                      std::span<const EntryChange> changes = {});

/// The cells at which a path has to bend. Between two of them in turn a unit can go straight (`straight_line_free`,
/// over no costlier ground than the cells replaced) and could also walk cell by cell at no greater cost than the cells
/// replaced. First and last cell are kept. Every leg is tried to its end up to 64 cells, further in leaps.
/// @pre cost_of_path(costs, cells), else the cells are given back as they are
/// @param out  cleared first. @cost O(cells x (64 + log of the longest leg)), a few numbers a cell of scratch
void straighten(const CostGrid& costs, std::span<const Cell> cells, std::vector<Cell>& out,
                std::span<const EntryChange> changes = {});

/// A leg without a way: the path goes on from its end.
struct MissingLeg {
  std::size_t place = 0;  ///< of its end in the path; the cell before is where it sets out
  Verdict why;
};

/// Every cell along way points: the points themselves where each is a legal step's neighbour of the one before, else
/// joined by cheapest paths.
/// @param waiting  a point given again is a tick of waiting there, and stays; else it is given once
/// @param missing  where to list all legs without a way; null: the first ends it, `out` then ends where it sets out
/// @return found, or why there is no way from one point to the next, the first if there are several
/// @param out  cleared first. @cost one route for each pair of points, none where they are steps
[[nodiscard]] Verdict path_by_way_points(Searcher& searcher, const CostGrid& costs, std::span<const Cell> points,
                                         std::vector<Cell>& out, bool waiting = false,
                                         std::vector<MissingLeg>* missing = nullptr);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
