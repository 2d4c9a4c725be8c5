/// @file
/// What the ways of many units to many places cost.
#pragma once

#include <span>
#include <vector>

#include "saunter/search/searcher.hpp"

namespace saunter::inline v0_2::detail {

/// Least costs from each unit to each place. Where the places lie close together, whoever comes from outside passes one
/// of the few cells by which one gets in, the gates: then a field to each gate, and a reach from it, tell what a reach
/// for each unit would. Keeps its memory.
class WayTable {
 public:
  /// @param from_rally  a reach that holds every place; units farther than all of them come from outside
  /// @param out  a row of `places` and more for each unit; what is not reached is `unreached`. @pre it has room
  /// @param width  of a row
  void measure(const CostGrid& costs, std::span<const Cell> units, std::span<const Cell> places,
               const Field& from_rally, std::span<Cost> out, std::size_t width);

 private:
  void find_gates(const CostGrid& costs, std::span<const Cell> places, const Field& from_rally);
  void sort_units(const CostGrid& costs, std::span<const Cell> units);
  void reach_from(const CostGrid& costs, Cell unit, std::span<const Cell> places, std::span<Cost> row);
  void go_by_gates(const CostGrid& costs, std::span<const Cell> units, std::span<const Cell> places,
                   std::span<Cost> out, std::size_t width);

  Searcher searcher_;
  Field field_;
  BitGrid inside_;  // cells no farther from the rally cell than the farthest place
  std::vector<Cell> gates_;
  std::vector<std::size_t> near_;     // units inside, each cell once
  std::vector<std::size_t> far_;      // units outside, each cell once
  std::vector<std::size_t> same_as_;  // of each unit: the first in its cell
  std::vector<Cost> to_gate_;         // of one gate: from each unit outside
  std::vector<Cost> from_gate_;       // of one gate: to each place
};

}  // namespace saunter::inline v0_2::detail
