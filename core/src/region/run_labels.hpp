/// @file
/// Labelling by stretches of open cells, 64 cells at a time.
#pragma once

#include <cstdint>
#include <vector>

#include "saunter/region/regions.hpp"

namespace saunter::inline v0_2::detail {

/// Joins stretches of rows by union-find (Rosenfeld and Pfaltz 1966 on runs; Rem's algorithm, in Dijkstra 1976). A
/// stretch is known by how many begin before it, so that nothing but its parent is kept: where two rows touch follows
/// from their words, and the numbers of both stretches from counting bits. For boards whose steps follow from the open
/// cells.
class RunLabels {
 public:
  /// Names each cell's region and lists them. All cells are written, open or not.
  /// @pre the names are of the grid's size
  void run(const CostGrid& costs, Grid<std::uint32_t>& names, std::vector<Region>& list);

 private:
  template <Shape shape, bool corners>
  void join_all(const CostGrid& costs);
  void join(std::uint32_t a, std::uint32_t b);
  void number();
  void write(const CostGrid& costs, Grid<std::uint32_t>& names, std::vector<Region>& list) const;

  std::vector<std::uint32_t> parents_;  // of each stretch, none later than itself; then the id of its region
  std::uint32_t regions_ = 0;
};

}  // namespace saunter::inline v0_2::detail

namespace saunter::inline v0_2 {

/// What regions are made in.
struct Regions::Making {
  detail::RunLabels runs;
  std::vector<Cell> line;  // cells of a flood
};

}  // namespace saunter::inline v0_2
