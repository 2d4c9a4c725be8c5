/// @file
/// From which side: directions as a person or a compass names them.
///
/// Units: sides by number from 0, clockwise; arcs in whole degrees.
/// Errors: names that are none give -1.
/// Cost: O(1), no allocation.
/// Threads: any number, nothing is shared.
#pragma once

#include <string_view>
#include <vector>

#include "saunter/grid/tiling.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0 SAUNTER_VISIBLE {

/// A side of a cell, clockwise from north. Squares and triangles have 8 of 45 degrees, centred on n, ne, ...; hexes 6
/// of 60 degrees, centred on the neighbours.
using Side = Numbered<struct SideKind>;

[[nodiscard]] constexpr int side_count(Tiling tiling) { return tiling.is_hex() ? 6 : 8; }
/// "n", "ne", ... ; "" for what is no side.
[[nodiscard]] std::string_view side_name(Tiling tiling, Side side);
/// The side of that name, or -1.
[[nodiscard]] Side side_named(Tiling tiling, std::string_view name);
/// The side of one cell on which another lies, by the true direction of the centres. Exactly between two it is the
/// clockwise one. O(1). @pre the cells differ
[[nodiscard]] Side side_towards(Tiling tiling, Cell from, Cell to);

/// A field of view: whole angle `arc` about a side.
class Arc {
 public:
  /// Everything.
  Arc() = default;
  /// @pre 1 <= degrees <= 360 about one of the sides, else everything
  Arc(Tiling tiling, Side facing, int degrees);
  /// Whether a cell lies within the arc as seen from another, the rim included; the own cell always does. O(1).
  /// Exact on rims that pass through cells; others are kept to a part in 2^42.
  [[nodiscard]] bool holds(Cell from, Cell to) const;

 private:
  struct Ray {
    std::int64_t x = 0;
    std::int64_t y = 0;
  };
  static Ray rim(Tiling tiling, int half_degrees);

  Tiling tiling_;
  bool whole_ = true;
  bool wide_ = false;  // more than half of all directions
  Ray first_;          // anticlockwise rim
  Ray last_;
};

}  // namespace v0 SAUNTER_VISIBLE
}  // namespace saunter
