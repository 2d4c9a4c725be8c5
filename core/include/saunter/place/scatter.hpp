/// @file
/// Many units put down by chance and rules.
///
/// Units: chances in ten-thousandths, distances in edge steps.
/// Errors: what did not fit is counted by reason.
/// Cost: O(cells) and one fit for each cell tried.
/// Threads: one at a time; each thread its own.
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/place/fit.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// A kind of unit to scatter.
struct ScatterUnit {
  Footprint footprint = {};
  std::uint32_t weight = 1;  ///< how often it is chosen, beside the others; 0 = never
};

struct ScatterOptions {
  std::size_t most = 10;          ///< units at the most
  std::uint32_t chance = 10'000;  ///< that a cell is tried at all, in ten-thousandths
  int spacing = 0;                ///< so many edge steps at least lie free between two of them
  bool turned = false;            ///< by any turn; else as given
  bool mirrored = false;          ///< or not, as chance has it
  std::uint64_t seed = 1;
  /// Everything put down can still be got at from this cell in the end: `terms.mover` gets from it, and back, to a
  /// place beside one of its cells. What would spoil that for itself or another is refused as cuts-off. @pre
  /// terms.mover
  std::optional<Cell> reachable_from = {};
};

/// One that was put down.
struct Scattered {
  std::size_t unit = 0;  ///< its number in the list
  Pose pose = {};
  friend bool operator==(const Scattered&, const Scattered&) = default;
};

struct ScatterResult {
  std::vector<Scattered> placed = {};
  std::size_t tried = 0;      ///< cells that chance let through
  std::size_t passed_by = 0;  ///< cells that it did not
  std::size_t too_near = 0;   ///< tried, but too near to another one of them
  /// Tried, but did not fit; by the first reason, in the order of FitFault.
  std::array<std::size_t, fit_fault_count> refused = {};
};

/// Goes through all cells in an order drawn from the seed and puts down what fits, until there are enough. The same
/// seed gives the same units on every machine. Units put down are in each other's way, and count when it is asked
/// what is cut off.
///
/// @pre some unit has weight, else nothing is put down; with `keep_open` also `terms.mover`
/// @cost O(cells + cells tried x a question of fit); copies costs and makes regions where cells are to be kept open
[[nodiscard]] ScatterResult scatter(Fitter& fitter, const FitTerms& terms, std::span<const ScatterUnit> units,
                                    const ScatterOptions& options = {});

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
