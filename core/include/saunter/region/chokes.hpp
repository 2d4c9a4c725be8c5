/// @file
/// Cells whose loss splits a region.
///
/// Units: cells.
/// Errors: regions of another grid: see docs/misuse.md.
/// Cost: O(cells x directions), 16 bytes a cell.
/// Threads: any number, nothing is shared.
#pragma once

#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/region/regions.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// A place that holds its region together: were it impossible to stand on, the others would fall apart.
struct Choke {
  Cell cell;
  std::uint32_t region = 0;
  std::vector<std::uint32_t> sides;  ///< places in each part, the largest first; two at least
};

/// All chokes in reading order. What counts is the place, not the ground: for a large mover, its own cell.
///
/// Articulation points by depth-first search (Hopcroft and Tarjan 1973) without recursion, over steps that can be taken
/// both ways. A step across a corner that needs a way round it open both ways adds nothing to the steps across edges;
/// where it can add something, with `lenient` corners beside one-way edges, every suspect is proven by taking it away.
/// @pre regions.made_from(costs), else they are made anew. @cost O(cells x directions), 16 bytes a cell
[[nodiscard]] std::vector<Choke> find_chokes(const CostGrid& costs, const Regions& regions);

/// Chokes that are connected.
struct Corridor {
  std::vector<Cell> cells;  ///< in reading order
  std::uint32_t region = 0;
  std::uint32_t smaller_side = 0;  ///< the most places that lie beyond any of them, seen from the larger part
};

/// Chokes that touch, in one entry each: a corridor one cell wide is one thing to a person. Ordered by first cell.
[[nodiscard]] std::vector<Corridor> corridors(const CostGrid& costs, const std::vector<Choke>& chokes);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
