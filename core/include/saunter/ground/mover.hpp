/// @file
/// Who moves: how a unit steps, how large it is and what each terrain costs it.
///
/// Units: lengths and costs in hundredths, heights in the map's units, size in cells across.
/// Errors: mover_problem tells what is wrong in words.
/// Cost: O(1); a list of costs.
/// Threads: any number, nothing is shared.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/ground/map.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// When a step across a corner is legal. A corner has two ways round it, over the cells beside the step.
enum class Corners : std::uint8_t {
  strict,   ///< both ways must be open: nothing is brushed
  lenient,  ///< one open way is enough
  free      ///< the cells beside do not matter; only barriers on both ways stop the step
};

/// How a mover steps from cell to cell; all that a cost grid needs to know of it.
struct StepRules {
  int steps = 0;  ///< directions used: 4 or 8, 6, 3 or 12; 0 = the tiling's usual 8, 6, 3
  Corners corners = Corners::strict;
  Length diagonal = 141;  ///< length of a square diagonal, hundredths, 100 .. 65,535; other tilings ignore it
  friend constexpr bool operator==(const StepRules&, const StepRules&) = default;
};

inline constexpr int max_mover_size = 255;

/// A kind of unit.
struct Mover {
  std::string name = {};
  StepRules rules = {};
  int size = 1;                            ///< squares: n x n, the cell is the top left; hexes: all within n - 1 steps
  std::optional<std::int32_t> climb = {};  ///< largest rise of a step, in units of height; nothing = no limit
  std::optional<std::int32_t> drop = {};   ///< largest fall of a step
  /// Entry cost by terrain id; nothing = the terrain's own. Shorter than the list of kinds is fine.
  std::vector<std::optional<EntryCost>> costs = {};

  /// Entry cost of a terrain for this mover, `blocked` for void.
  [[nodiscard]] EntryCost cost_on(TerrainId id, const Terrain& terrain) const {
    if (terrain.is_void) return blocked;
    if (id < costs.size() && costs[id]) return *costs[id];
    return terrain.cost;
  }
};

/// The usual number of directions of a tiling: 8, 6, 3.
[[nodiscard]] int default_steps(Tiling tiling);
/// What is wrong with a mover for a tiling, in words ("steps must be 4 or 8"), or nothing. Checks steps, diagonal,
/// size, climb and drop, in this order.
[[nodiscard]] std::optional<std::string_view> mover_problem(Tiling tiling, const Mover& mover);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
