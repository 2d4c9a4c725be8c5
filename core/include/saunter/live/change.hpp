/// @file
/// What an edit was refused for, and what a commit has changed.
///
/// Units: cells; commits counted from 1.
/// Errors: this is how a refused edit is told.
/// Cost: O(1) to read; lists grow.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <cstdint>
#include <span>
#include <string_view>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/place/occupancy.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Why an edit was refused.
enum class EditFault : std::uint8_t {
  none,
  off_map,
  no_such_kind,  ///< of terrain
  not_beside,    ///< cells that share no edge
  no_such_unit,
  standing,  ///< to be placed, but it stands already
  lifted,    ///< to be moved or lifted, but it does not stand
  occupied,  ///< by another unit in its layer
  no_such_threat,
  cannot_be,  ///< a threat whose fractions, facing or arc are none
  no_such_mover,
  out_of_range,  ///< a cost above 655.35
  baked          ///< a cost given to a grid that follows the map, or the map asked of a grid of the caller's own
};
/// "none", "off-map", "no-such-kind", ...
[[nodiscard]] std::string_view fault_name(EditFault fault);

/// Whether an edit was taken, else why not and where. A refused edit has changed nothing.
struct Edited {
  EditFault why = EditFault::none;
  Cell at = {};
  UnitId by = 0;  ///< occupied: who is there
  [[nodiscard]] explicit operator bool() const { return why == EditFault::none; }
};

/// What of a cell is another than before a commit; several at once.
enum class About : std::uint8_t {
  terrain = 1,
  height = 2,
  barrier = 4,       ///< a side that one can't leave it by
  occupant = 8,      ///< in any layer
  danger = 16,       ///< its level; told where danger was asked for
  for_a_while = 32,  ///< closed or made dearer for a while, or not any more
  cost = 64          ///< in a grid of the caller's own
};

struct ChangedCell {
  Cell cell;
  std::uint8_t about = 0;
  [[nodiscard]] bool is(About what) const { return (about & static_cast<std::uint8_t>(what)) != 0; }
  friend bool operator==(const ChangedCell&, const ChangedCell&) = default;
};

/// What one commit changed. Belongs to the live map and is overwritten by the next commit.
struct Change {
  std::uint64_t revision = 0;             ///< commits so far
  std::vector<ChangedCell> cells;         ///< in reading order
  std::vector<std::vector<Rect>> blocks;  ///< by mover: blocks that hold every cell whose cost or legal steps may be
                                          ///< others now; empty for movers whose grid nobody has asked for
  [[nodiscard]] bool empty() const { return cells.empty(); }
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
