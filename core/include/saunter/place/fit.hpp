/// @file
/// Does it fit, and if not, every reason why.
#pragma once

#include <optional>
#include <string_view>

#include "saunter/place/occupancy.hpp"
#include "saunter/place/rule.hpp"
#include "saunter/search/changed_moves.hpp"
#include "saunter/threat/levels.hpp"

namespace saunter {

/// Why a thing can't be put somewhere, in the order in which reasons are listed.
enum class FitFault : std::uint8_t {
  off_map,
  ground,    ///< terrain it may not stand on, or too uneven
  barrier,   ///< one runs between two of its cells
  occupied,  ///< by another thing in its layer
  threat,    ///< a level above the limit
  rule,      ///< a rule says no
  cuts_off   ///< cells to be kept open would no longer reach each other
};
/// "off-map", "ground", "barrier", ...
[[nodiscard]] std::string_view fault_name(FitFault fault);

struct FitProblem {
  FitFault why = FitFault::off_map;
  Cell at;                     ///< the cell it is about; for rules the anchor
  ThingId by = 0;              ///< who is there
  std::string_view rule = {};  ///< which rule; lives as long as the terms
  friend bool operator==(const FitProblem&, const FitProblem&) = default;
};

/// What a thing has to respect. What is left out is not asked for; all but `map` may be.
struct FitTerms {
  const Map* map = nullptr;
  /// Ground is what this mover can enter by terrain; without one, terrain that can be entered and is not void.
  const Mover* mover = nullptr;
  /// If not empty: only these terrains, whatever they cost.
  std::span<const TerrainId> allowed = {};
  /// Largest difference of height under it.
  std::optional<std::int32_t> flatness = {};

  const Occupancy* things = nullptr;
  int layer = 0;
  ThingId self = 0;  ///< its own present cells are free to it

  const Levels* levels = nullptr;
  std::optional<std::uint16_t> highest = {};

  std::span<const Rule> rules = {};

  /// For `cuts_off`: these cells must go on reaching each other, as places of the mover of `costs` (a unit's own cell:
  /// it is not trapped); those that share a region with the first one now. `costs` and `regions` are those
  /// without the thing: lift it first.
  std::span<const Cell> keep_open = {};
  const CostGrid* costs = nullptr;
  int mover_size = 1;
  const Regions* regions = nullptr;
};

/// Answers questions about placing things; owns scratch memory, one per thread.
class Fitter {
 public:
  /// Everything that is wrong with a pose; empty = it fits. By reason, then in reading order. The map's own cells only
  /// are asked about what comes after `off_map`; rules and `cuts_off` only when all are on it. O(cells of the
  /// footprint), and what rules take; for cutting off see cut_off. Triangles: the anchor must point up as in the
  /// drawing, or the rule "points up" is named.
  [[nodiscard]] std::vector<FitProblem> problems(const FitTerms& terms, const Footprint& footprint, const Pose& pose);
  [[nodiscard]] bool fits(const FitTerms& terms, const Footprint& footprint, const Pose& pose) {
    return problems(terms, footprint, pose).empty();
  }

  /// All anchors at which it fits with this turn, at once: cells by rows of bits, 64 anchors at a time, and only what
  /// is left is asked about barriers, flatness, rules and cutting off. O(cells x cells of the footprint / 64) and that.
  [[nodiscard]] BitGrid spots(const FitTerms& terms, const Footprint& footprint, int turn = 0, bool mirrored = false);

  /// Of the cells to keep open those that share a region with the first now, and would not if these cells were blocked.
  /// When what is open about the blocked cells hangs together there, nothing can be cut off; else floods set out from
  /// its pieces by turns until they have met or all but one are closed in: O(cells of the smaller parts).
  /// @param blocks  the cells a thing would cover
  [[nodiscard]] std::vector<Cell> cut_off(const CostGrid& costs, int mover_size, const Regions& regions,
                                          std::span<const Cell> keep_open, std::span<const Cell> blocks);
  /// Questions about cutting off so far, and how many of them a look about the cells answered.
  [[nodiscard]] std::uint64_t cut_off_asked() const { return asked_; }
  [[nodiscard]] std::uint64_t cut_off_answered_nearby() const { return nearby_; }

 private:
  struct Flood {
    std::vector<Cell> line;
    std::size_t done = 0;
    std::size_t root = 0;
  };
  [[nodiscard]] unsigned both_ways(const CostGrid& costs, Cell cell) const;
  [[nodiscard]] bool marked(Cell cell) const { return marks_[cell] >> 24U == question_; }
  void find_pieces(const CostGrid& costs, std::span<const EntryChange> lost);
  void flood_pieces(const CostGrid& costs);
  [[nodiscard]] std::size_t root_of(std::size_t flood);

  const Regions* regions_ = nullptr;  // of the question
  std::uint32_t wanted_region_ = 0;
  ChangedMoves ground_;
  std::vector<EntryChange> lost_;
  std::vector<Cell> cells_;
  std::vector<Cell> body_;
  Grid<std::uint64_t> marks_;  // question and flood
  std::uint64_t question_ = 0;
  std::vector<Flood> floods_;
  std::uint64_t asked_ = 0;
  std::uint64_t nearby_ = 0;
};

/// The cells a single cell of a thing may cover by these terms: ground, occupancy, danger. O(cells).
[[nodiscard]] BitGrid free_cells(const FitTerms& terms);
/// All anchors for which every cell of the footprint is on the map and among `free`. O(cells x cells of the footprint /
/// 64)
[[nodiscard]] BitGrid spots_among(Tiling tiling, const BitGrid& free, const Footprint& footprint, int turn = 0,
                                  bool mirrored = false);

/// The spot nearest to a cell by straight distance, first in reading order among equals; nothing when there is none.
/// O(cells)
[[nodiscard]] std::optional<Cell> nearest_spot(Tiling tiling, const BitGrid& spots, Cell wished);
/// The spot cheapest to reach by a field (such as a reach from the wished cell); nothing when none is reached. O(cells)
[[nodiscard]] std::optional<Cell> cheapest_spot(const Field& field, const BitGrid& spots);
/// The spot with the highest score, the first among equals. The score is asked once for each spot in reading order.
template <typename Score>
[[nodiscard]] std::optional<Cell> best_spot(const BitGrid& spots, Score&& score) {
  std::optional<Cell> best;
  decltype(score(Cell{})) most{};
  for (std::uint32_t i = 0; i < spots.size().cell_count(); ++i) {
    const Cell cell = spots.size().cell(CellIndex{i});
    if (!spots.test(cell)) continue;
    const auto value = score(cell);
    if (!best || value > most) {
      best = cell;
      most = value;
    }
  }
  return best;
}

}  // namespace saunter
