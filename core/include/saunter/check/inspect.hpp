/// @file
/// Whether a finished path can be walked, and if not, everything that is wrong with it.
///
/// Units: lengths and costs in hundredths, steps counted from 0.
/// Errors: none thrown but for memory; what is wrong with the path is the answer.
/// Cost: O(cells) a path, more only at forbidden steps; allocates the list of problems.
/// Threads: any number, nothing is shared.
#pragma once

#include <optional>
#include <span>
#include <string_view>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/ground/bake.hpp"
#include "saunter/threat/schedule.hpp"
#include "saunter/threat/wary.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// What is wrong with a step, in the order in which it is looked for.
enum class PathFault : std::uint8_t {
  off_map,
  cannot_stand,  ///< "blocked": the mover cannot stand there: terrain, too narrow, a unit, or another path at the same
                 ///< time
  not_a_step,    ///< not a neighbour this mover steps to; the same cell again
  barrier,       ///< barriers alone forbid it
  height,        ///< barriers and height limits forbid it
  corner,        ///< what lies beside a corner forbids it, or the rim of the map
  threat         ///< the level there is above the limit
};
/// "off-map", "blocked", "not-a-step", ...
[[nodiscard]] std::string_view fault_name(PathFault fault);

/// What stands in the way, where it is known.
struct InTheWay {
  enum class Kind : std::uint8_t { nothing, unit, path };
  Kind kind = Kind::nothing;
  std::size_t number = 0;  ///< of the unit, or of the other way
  friend bool operator==(const InTheWay&, const InTheWay&) = default;
};

/// One thing wrong. Step 0 is standing on the first cell, step i the move into cell i.
struct PathProblem {
  std::size_t step = 0;
  Cell at;
  PathFault why = PathFault::off_map;
  InTheWay by = {};
  friend bool operator==(const PathProblem&, const PathProblem&) = default;
};

struct InspectOptions {
  const BitGrid* occupied = nullptr;  ///< what the cost grid was baked with
  /// Which unit covers each cell, from 1, 0 = none; for naming them. Same size as the map.
  const Grid<std::uint32_t>* units = nullptr;
  const Levels* levels = nullptr;  ///< danger of each place (see levels_for_size)
  /// Danger by ticks, in place of `levels`: that of the cells covered, a tick for each step. Of the map's board, else
  /// there is none.
  const TimedDanger* timed = nullptr;
  std::uint32_t tick = 0;                     ///< at which the unit stands on the first cell
  std::optional<std::uint16_t> highest = {};  ///< cells above this level are a problem (the first cell too)
  /// Paths of others that set out at the same time, a cell a step; who has arrived stays. Two in one cell and two that
  /// change places are a problem. Only cells are compared: for movers of size 1.
  std::span<const std::span<const Cell>> others = {};
  bool waiting = false;  ///< the same cell again is a tick of waiting, and costs nothing; else it is not a step
};

struct Inspection {
  std::vector<PathProblem> problems = {};  ///< at most one a step, in order
  /// Only where there are none:
  Exposure measure =
      {};  ///< cost, exposure, longest exposed stretch; by ticks, one of waiting counts as a step of 1.00
  std::optional<std::uint32_t> turns =
      {};  ///< changes of direction; not on triangles with 3 steps, where each step is one
  [[nodiscard]] bool ok() const { return problems.empty(); }
};

/// Checks every step of a path, from wherever it came, against the map and a mover, and goes on after a problem. A step
/// from a cell that is itself a problem is judged as if the mover stood there, on all covered cells that are on the
/// map. Cells off the map are fine to ask about.
///
/// @pre `costs` was baked from this map, mover and `options.occupied`; the path is not empty
/// @cost O(cells), and for a forbidden step O(cells of the mover)
[[nodiscard]] Inspection inspect_path(const Map& map, const Mover& mover, const CostGrid& costs,
                                      std::span<const Cell> cells, const InspectOptions& options = {});

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
