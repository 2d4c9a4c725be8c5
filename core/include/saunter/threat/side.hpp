/// @file
/// From which side: directions as a person or a compass names them.
///
/// Units: sides by number from 0, clockwise; facings and arcs in whole degrees clockwise from north.
/// Errors: names that are none give -1.
/// Cost: O(1), no allocation.
/// Threads: any number, nothing is shared.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "saunter/grid/tiling.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

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

/// The whole degrees, clockwise from north, at which a side is centred.
[[nodiscard]] constexpr int degrees_of(Tiling tiling, Side side) {
  if (!tiling.is_hex()) return side * 45;
  return side * 60 + (tiling.shape() == Shape::hex_pointy ? 30 : 0);
}

/// Where something looks: a side, or any whole degrees.
class Facing {
 public:
  constexpr Facing(Side side) : number_(side) {}  // NOLINT(google-explicit-constructor): a side is a facing
  /// @param degrees  clockwise from north; beyond 0..359 they count round
  [[nodiscard]] static constexpr Facing from_degrees(int degrees) {
    Facing facing{Side(((degrees % 360) + 360) % 360)};
    facing.by_degrees_ = true;
    return facing;
  }
  /// The side it was made from, unless it was made from degrees.
  [[nodiscard]] constexpr std::optional<Side> side() const {
    return by_degrees_ ? std::nullopt : std::optional<Side>(Side(number_));
  }
  /// Whether there is such a facing.
  [[nodiscard]] constexpr bool exists(Tiling tiling) const {
    return number_ >= 0 && number_ < (by_degrees_ ? 360 : side_count(tiling));
  }
  /// Clockwise from north. @pre exists(tiling)
  [[nodiscard]] constexpr int in_degrees(Tiling tiling) const {
    return by_degrees_ ? number_ : degrees_of(tiling, Side(number_));
  }
  friend constexpr bool operator==(Facing, Facing) = default;

 private:
  int number_ = 0;
  bool by_degrees_ = false;
};
/// "ne", or "135"; "" for what is no side.
[[nodiscard]] std::string facing_name(Tiling tiling, Facing facing);

/// A field of view: whole angle `arc` about a facing.
class Arc {
 public:
  /// Everything.
  Arc() = default;
  /// @pre 1 <= degrees <= 360 about a facing there is, else everything
  Arc(Tiling tiling, Facing facing, int degrees);
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

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
