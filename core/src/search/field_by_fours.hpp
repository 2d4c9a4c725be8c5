/// @file
/// Fields on squares and hexes, several neighbours of a cell at a time.
#pragma once

#include <array>
#include <vector>

#include "kernel/memory.hpp"
#include "saunter/grid/compiler.hpp"
#include "saunter/search/field.hpp"

namespace saunter::inline v0_2::detail {

/// Dijkstra's search from one source with the three rows of neighbours compared four cells at a time: padded distances
/// in which blocked cells can't be bettered, a word a cell with both step costs, buckets as wide as the cheapest step
/// (so that the order within one does not matter; Denardo and Fox 1979), and next steps found afterwards in one sweep
/// over the board. For boards whose legal steps follow from the open cells.
class FieldByFours {
 public:
  /// What the search goes by.
  enum class Counts : std::uint8_t {
    entries_there,  ///< a step costs by the cell it enters, away from the source
    entries_back,   ///< the same, towards the source
    steps           ///< every step counts 100
  };

  /// Whether it can make this field: instructions, tiling, and sums that fit.
  [[nodiscard]] static bool suits(const CostGrid& costs, Cost head_start, bool count_steps);

  /// Writes the costs and next steps of all cells. @return how many are reached @pre suits(); the source is open
  std::size_t run(const CostGrid& costs, Cell source, Cost head_start, Counts counts, Grid<Cost>& cost,
                  Grid<std::uint8_t>& next);
  [[nodiscard]] std::size_t memory() const;

 private:
  struct Four;
  struct Rows;
  struct Sweep;
  void lay_out(const CostGrid& costs, Counts counts);
  void fill_tables(const CostGrid& costs);
  void prefetch(std::uint32_t at, bool words) const;
  template <bool corners>
  [[nodiscard]] Rows sums_about(std::uint32_t at, std::int32_t own, Counts counts) const;
  template <bool corners>
  [[nodiscard]] unsigned legal(unsigned marked, const Rows& known, unsigned kind) const;
  template <bool corners>
  void settle(const CostGrid& costs, std::uint32_t source, Counts counts);
  template <bool corners>
  void settle_by_steps(const CostGrid& costs, std::uint32_t source);
  template <bool corners, Counts counts>
  std::size_t write(const CostGrid& costs, Grid<Cost>& cost, Grid<std::uint8_t>& next) const;

  std::int32_t stride_ = 0;
  unsigned first_kind_ = 0;
  std::vector<std::int32_t>
      distance_;                      // 0 blocked, `unseen_distance` not reached; the others `raised` higher than they are
  std::vector<std::uint32_t> words_;  // what entering costs across an edge; above that across a corner, or the kind
  std::vector<std::vector<std::uint32_t>> buckets_;
  std::vector<std::uint32_t> line_;
  std::array<std::uint16_t, 4096> allowed_ = {};  // by which of the 3 x 4 cells around are blocked: those to step to
  std::array<std::uint16_t, 2> around_ = {};      // hexes: the neighbours of a cell, by kind
};

}  // namespace saunter::inline v0_2::detail
