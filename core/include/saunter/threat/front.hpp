/// @file
/// The trade-off between a short route and a safe one.
///
/// Units: costs and exposure in hundredths.
/// Errors: the verdict when there is no way or the bound was hit.
/// Cost: O(labels x log labels), up to 56 bytes a label.
/// Threads: any number, nothing is shared.
#pragma once

#include "saunter/grid/visible.hpp"
#include "saunter/threat/wary.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// One route of a trade-off: no other route is both as cheap and as little exposed.
struct TradeOff {
  Cost cost = 0;               ///< of travel, hundredths
  std::uint64_t exposure = 0;  ///< sum of level x length, hundredths
  std::vector<Cell> cells = {};
};

struct FrontOptions {
  std::optional<std::uint16_t> highest = {};  ///< as in Wariness
  std::optional<Hundredths> budget = {};      ///< of travel cost
  std::size_t most_labels = 4'000'000;        ///< states kept, 32 bytes each; at least 1, which 0 counts as
};

struct Front {
  Verdict verdict;
  /// From the cheapest route to the least exposed one; each costs more and is less exposed than the one before.
  std::vector<TradeOff> routes = {};
  /// False when the bound on labels was hit: the routes given are right, costlier ones may be missing.
  bool complete = true;
  std::size_t labels = 0;
};

/// All routes that are best for some total exposure: one for each pair of cost and exposure that no other route beats
/// in both (two-goal A* with a constant-time test of what is no better; Hernandez Ulloa et al. 2020). Two searches back
/// from the goal first tell what each state must still cost and suffer at least. The number of routes can be large; see
/// FrontOptions. Verdicts as for wary routes, with `stopped` when the bound on labels was hit before any route was
/// found.
/// @pre levels.size() == costs.size(). @cost O(labels x log labels); 16 bytes a cell and up to 56 a label, allocated
/// anew
[[nodiscard]] Front find_front(const CostGrid& costs, const Levels& levels, Cell from, Cell to,
                               const FrontOptions& options = {});

/// Of a front the route that weighs least to a unit (Exposure::weighed; among equals the cheapest): its number, or the
/// number of routes when there is none. O(cells of all routes)
[[nodiscard]] std::size_t least_weighed(const Front& front, const CostGrid& costs, const Levels& levels,
                                        const Wariness& care);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
