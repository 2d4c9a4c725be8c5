/// @file
/// One set of terms, made ready for questions about many poses.
#pragma once

#include <array>
#include <vector>

#include "../region/split_probe.hpp"
#include "saunter/place/fit.hpp"

namespace saunter::inline v0_2::detail {

inline constexpr std::int32_t far_away = 1 << 20;  // from any cell of any map

/// What terms say about single cells.
class CellTerms {
 public:
  explicit CellTerms(const FitTerms& terms);
  [[nodiscard]] bool ground(Cell cell) const { return ground_of(map_.terrain_at(cell)); }
  [[nodiscard]] bool ground_of(TerrainId id) const { return ground_[id]; }
  [[nodiscard]] UnitId occupied(Cell cell) const {
    if (terms_.units == nullptr) return 0;
    const UnitId there = terms_.units->at(cell, terms_.layer);
    return there == terms_.self ? 0 : there;
  }
  [[nodiscard]] bool hot(Cell cell) const {
    return terms_.levels != nullptr && terms_.highest && (*terms_.levels)[cell] > *terms_.highest;
  }

 private:
  const FitTerms& terms_;
  const Map& map_;
  std::array<bool, max_terrain_kinds> ground_ = {};
};

/// Memory that questions about placing work in, kept between them.
struct FitScratch {
  std::vector<Cell> cells;  // of the pose asked about, in reading order
  std::vector<Cell> body;
  std::vector<Cell> lost;
  SplitProbe probe;
  std::uint64_t asked = 0;
  std::uint64_t nearby = 0;
};

/// Questions about one set of terms: what does not depend on the pose is made once.
class Placement {
 public:
  Placement(FitScratch& scratch, const FitTerms& terms);

  /// What single cells, barriers and the ground under the whole unit say. @return whether all of it is on the map
  bool look_at_cells(const Footprint& footprint, const Pose& pose, std::vector<FitProblem>& found);
  void look_at_flatness(std::vector<FitProblem>& found) const;
  void look_at_rules(const Pose& pose, std::vector<FitProblem>& found) const;
  /// Which cells to be kept open lie under the unit or are cut off by it.
  void look_at_kept(std::vector<FitProblem>& found);
  /// The cells on ways that now join the cells to be kept open, and those cells themselves: a unit that touches none
  /// of them cuts nothing off. The ways go round `avoided` as far as they can.
  [[nodiscard]] BitGrid witnesses(const BitGrid& avoided);
  [[nodiscard]] bool keeps() const { return !kept_.empty(); }
  [[nodiscard]] Tiling tiling() const { return tiling_; }

 private:
  void look_at_barriers(std::vector<FitProblem>& found) const;
  /// Places whose body would meet the unit.
  void find_lost();
  template <typename Open>
  [[nodiscard]] std::vector<Cell> places_of(Cell cell, Open&& open) const;
  [[nodiscard]] bool joined_now(std::size_t a, std::size_t b) const;
  [[nodiscard]] std::vector<Cell> places_in(std::uint32_t region) const;
  void mark_ways(std::uint32_t region, const BitGrid& avoided, BitGrid& touched);
  void mark_body(Cell place, BitGrid& touched);
  void mark_beside(Cell from, unsigned d, BitGrid& touched);

  FitScratch& scratch_;
  const FitTerms& terms_;
  const Map& map_;
  const Tiling tiling_;
  const CellTerms cell_terms_;
  std::vector<Cell> kept_;                 // each once
  std::vector<std::vector<Cell>> places_;  // of each, as it is now
  std::vector<std::uint32_t> wanted_;      // regions of those
  std::vector<std::uint32_t> looked_at_;   // and of the cells beside
};

}  // namespace saunter::inline v0_2::detail

namespace saunter::inline v0_2 {
struct Fitter::Scratch : detail::FitScratch {};
}  // namespace saunter::inline v0_2
