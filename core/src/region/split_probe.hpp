/// @file
/// What falls apart when places are lost.
#pragma once

#include <span>
#include <vector>

#include "../search/kernel/changed_moves.hpp"
#include "saunter/region/regions.hpp"
#include "turn_floods.hpp"

namespace saunter::inline v0_2::detail {

/// Which places would still be connected if some could not be stood on any more. Owns scratch memory, one per thread.
///
/// When what is open about the lost places is connected there, nothing falls apart; else floods set out from its
/// pieces (see TurnFloods). O(cells about the lost places + cells of the smaller parts)
class SplitProbe {
 public:
  /// Asks anew. @param lost  places, each once; off the map or blocked ones are fine
  /// @param wanted  numbers of the regions that matter; others are not looked at
  /// @pre `regions` were made from `costs` as they are
  void begin(const CostGrid& costs, const Regions& regions, std::span<const Cell> lost,
             std::span<const std::uint32_t> wanted);
  /// Whether no wanted region fell into several pieces about the lost places, which a look about them has told.
  [[nodiscard]] bool whole() const { return whole_; }
  /// Whether a place can still be stood on.
  [[nodiscard]] bool open(Cell place) const { return ground_.open(place); }
  /// The part a place belongs to afterwards: equal for places that are connected. @pre open(place), of a wanted region
  [[nodiscard]] std::uint64_t part(Cell place);

 private:
  [[nodiscard]] unsigned both_ways(Cell cell) const;
  [[nodiscard]] bool marked(Cell cell) const { return std::as_const(marks_)[cell] >> 24U == question_; }
  void mark(Cell cell, std::uint32_t flood);
  void find_pieces(Rect window, std::span<const std::uint32_t> wanted);
  bool look_beyond(std::uint32_t flood, Cell cell);

  const CostGrid* costs_ = nullptr;
  const Regions* regions_ = nullptr;
  ChangedMoves ground_;
  std::vector<EntryChange> lost_;
  Rect about_lost_;            // where steps may differ from those of the grid
  Grid<std::uint64_t> marks_;  // question and flood
  std::uint64_t question_ = 0;
  TurnFloods floods_;
  std::vector<std::uint32_t> region_of_;  // of each flood
  std::vector<std::uint32_t> pieces_;     // of one region
  bool whole_ = true;
};

}  // namespace saunter::inline v0_2::detail
