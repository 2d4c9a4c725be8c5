/// @file
/// What falls apart when places are lost.
#pragma once

#include <span>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/region/regions.hpp"
#include "saunter/search/changed_moves.hpp"

namespace saunter SAUNTER_VISIBLE {

/// Which places would still hang together if some could not be stood on any more. Owns scratch memory, one per thread.
///
/// When what is open about the lost places hangs together there, nothing falls apart; else floods set out from its
/// pieces by turns until all of a region have met, or all but one are closed in (the idea of Even and Shiloach 1981:
/// search from both sides at once, stop with the smaller). O(cells about the lost places + cells of the smaller parts)
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
  /// The part a place belongs to afterwards: equal for places that hang together. @pre open(place), of a wanted region
  [[nodiscard]] std::uint64_t part(Cell place);

 private:
  struct Flood {
    std::vector<Cell> line;
    std::size_t done = 0;
    std::size_t root = 0;
    std::uint32_t region = 0;
    [[nodiscard]] bool ended() const { return done == line.size(); }
  };
  [[nodiscard]] unsigned both_ways(Cell cell) const;
  [[nodiscard]] bool marked(Cell cell) const { return std::as_const(marks_)[cell] >> 24U == question_; }
  void mark(Cell cell, std::size_t flood);
  void find_pieces(Rect window, std::span<const std::uint32_t> wanted);
  void flood_pieces();
  [[nodiscard]] bool undecided(std::size_t flood);
  [[nodiscard]] std::size_t root_of(std::size_t flood);

  const CostGrid* costs_ = nullptr;
  const Regions* regions_ = nullptr;
  ChangedMoves ground_;
  std::vector<EntryChange> lost_;
  Rect about_lost_;            // where steps may differ from those of the grid
  Grid<std::uint64_t> marks_;  // question and flood
  std::uint64_t question_ = 0;
  std::vector<Flood> floods_;
  std::size_t count_ = 0;  // floods of this question
  bool whole_ = true;
};

}  // namespace saunter SAUNTER_VISIBLE
