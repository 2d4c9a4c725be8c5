/// @file
/// Does it fit, and if not, every reason why.
///
/// Units: cells; heights in the map's units, costs in hundredths.
/// Errors: every reason why not, in a fixed order; broken promises as docs/misuse.md says.
/// Cost: see each call; scratch is kept.
/// Threads: one at a time; each thread its own.
#pragma once

#include <memory>
#include <optional>
#include <string_view>

#include "saunter/grid/borrowed.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/place/occupancy.hpp"
#include "saunter/place/rule.hpp"
#include "saunter/region/regions.hpp"
#include "saunter/threat/levels.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Why a unit can't be put somewhere, in the order in which reasons are listed.
enum class FitFault : std::uint8_t {
  off_map,
  ground,    ///< terrain it may not stand on, or too uneven
  barrier,   ///< one runs between two of its cells
  occupied,  ///< by another unit in its layer
  threat,    ///< a level above the limit
  rule,      ///< a rule says no
  covers,    ///< a cell to be kept open lies under it
  cuts_off   ///< cells to be kept open would no longer reach each other
};
inline constexpr std::size_t fit_fault_count = 8;
/// "off-map", "ground", "barrier", ...
[[nodiscard]] std::string_view fault_name(FitFault fault);

struct FitProblem {
  FitFault why = FitFault::off_map;
  Cell at;        ///< the cell it is about; for rules the anchor; for cuts-off the cell to be kept open
  UnitId by = 0;  ///< who is there
  std::optional<Cell> apart_from =
      {};                           ///< cuts-off: the first cell to be kept open that it would no longer be joined to
  std::optional<Cell> across = {};  ///< barrier: the other covered cell it lies between
  std::string_view rule = {};       ///< which rule; lives as long as the terms
  friend bool operator==(const FitProblem&, const FitProblem&) = default;
};

/// What a unit has to respect. What is left out is not asked for; all but `map` may be. Without a map nothing fits.
struct FitTerms {
  const Map* map = nullptr;
  /// Ground is what this mover can enter by terrain; without one, terrain that can be entered and is not void.
  const Mover* mover = nullptr;
  /// If not empty: only these terrains, whatever they cost.
  Borrowed<TerrainId> allowed = {};
  /// Largest difference of height under it.
  std::optional<std::int32_t> flatness = {};

  const Occupancy* units = nullptr;
  int layer = 0;
  UnitId self = 0;  ///< its own present cells are free to it

  const Levels* levels = nullptr;
  std::optional<std::uint16_t> highest = {};

  Borrowed<Rule> rules = {};

  /// For `covers` and `cuts_off`: these cells must go on reaching each other for `mover`. A cell's places are itself
  /// when the mover can stand there, else the places beside it (see Query::beside) where it can (whoever stands there
  /// as a unit is kept too); two cells are joined when a place of one shares a region with a place of the other. A cell
  /// given twice counts once. `costs` and `regions` are the mover's without the unit: lift it first. @pre mover, costs
  /// and regions are given, and regions.made_from(*costs); else nothing is asked
  Borrowed<Cell> keep_open = {};
  const CostGrid* costs = nullptr;
  const Regions* regions = nullptr;
};

/// One of several questions about the same terms.
struct FitQuestion {
  const Footprint* footprint = nullptr;  ///< null fits nowhere: `off-map`
  Pose pose = {};
};

/// Answers questions about placing units; owns scratch memory, one per thread.
class Fitter {
 public:
  Fitter();
  ~Fitter();
  Fitter(Fitter&&) noexcept;
  Fitter& operator=(Fitter&&) noexcept;

  /// Everything that is wrong with a pose; empty = it fits. By reason, then in reading order, of cells to be kept open
  /// in the order given. The map's own cells only are asked about what comes after `off_map`; rules and what is kept
  /// open only when all are on it. O(cells of the footprint x log), and what rules take; for cutting off also
  /// O(cells of the parts that come apart, all but the largest). Triangles: the anchor must point up as in the drawing,
  /// or the rule "points up" is named.
  [[nodiscard]] std::vector<FitProblem> problems(const FitTerms& terms, const Footprint& footprint, const Pose& pose);
  [[nodiscard]] bool fits(const FitTerms& terms, const Footprint& footprint, const Pose& pose) {
    return problems(terms, footprint, pose).empty();
  }

  /// The first thing wrong with each of several poses, nothing where it fits; each by itself, as if the others were not
  /// asked about. @param out  made anew, one for each question
  void first_problems(const FitTerms& terms, std::span<const FitQuestion> questions,
                      std::vector<std::optional<FitProblem>>& out);

  /// All anchors at which it fits with this turn, at once: cells and barriers by rows of bits, 64 anchors at a time;
  /// only what is left is asked about flatness and rules. Cutting off is asked only where the unit would touch a way
  /// that now joins the cells to be kept open. O(cells x cells of the footprint / 64) and that.
  [[nodiscard]] BitGrid spots(const FitTerms& terms, const Footprint& footprint, int turn = 0, bool mirrored = false);

  /// Questions about cutting off so far, and how many of them a look about the cells answered.
  [[nodiscard]] std::uint64_t cut_off_asked() const;
  [[nodiscard]] std::uint64_t cut_off_answered_nearby() const;

 private:
  struct Scratch;
  std::unique_ptr<Scratch> scratch_;
};

/// The cells a single cell of a unit may cover by these terms: ground, occupancy, danger. O(cells).
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
  for (const Cell cell : spots.size().cells()) {
    if (!spots.test(cell)) continue;
    const auto value = score(cell);
    if (!best || value > most) {
      best = cell;
      most = value;
    }
  }
  return best;
}

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
