/// @file
/// How the plane is cut into cells: squares, hexes (two ways up, two shifts) and triangles.
///
/// Units: directions by number from 0, clockwise from north; lengths in hundredths of an edge step.
/// Errors: directions there are none of give the cell itself or -1, as each call says.
/// Cost: O(1), no allocation.
/// Threads: any number, nothing is shared.
#pragma once

#include <array>
#include <bit>
#include <concepts>
#include <cstddef>
#include <cstdint>
#include <string_view>

#include "saunter/grid/cell.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

enum class Shape : std::uint8_t { square, hex_pointy, hex_flat, triangle };
/// Which way a hex points: pointy has a corner at the top and shifted rows, flat an edge at the top and shifted
/// columns.
enum class HexTop : std::uint8_t { pointy, flat };
/// Which rows (pointy) or columns (flat) are pushed half a cell right (down).
enum class Shift : std::uint8_t { odd, even };
/// Orientation of the triangle at (0,0); the others alternate along rows and columns.
enum class FirstTriangle : std::uint8_t { up, down };

/// A number of its own kind: it reads as an int, but is never made from one unasked, nor from a number of another kind.
template <typename Kind>
class Numbered {
 public:
  constexpr Numbered() = default;
  template <std::integral Number>
  constexpr explicit Numbered(Number value) : value_(static_cast<int>(value)) {}
  constexpr operator int() const { return value_; }  // NOLINT(google-explicit-constructor): reading is harmless
  /// As a place in a table. @pre not negative
  [[nodiscard]] constexpr unsigned index() const { return static_cast<unsigned>(value_); }
  /// The bits of a set from this number on.
  template <std::integral Set>
  friend constexpr unsigned operator>>(Set set, Numbered number) {
    return static_cast<unsigned>(set) >> static_cast<unsigned>(number.value_);
  }
  constexpr Numbered& operator++() {
    ++value_;
    return *this;
  }

 private:
  int value_ = 0;
};

/// Numbers of two kinds have nothing to be compared by.
template <typename One, typename Other>
  requires(!std::same_as<One, Other>)
bool operator==(Numbered<One>, Numbered<Other>) = delete;

/// A direction of travel: its place in the fixed neighbour order of the tiling (clockwise from north, neighbours across
/// an edge first, then those that share only a corner). 0 .. direction_count() - 1; -1 where there is none.
using Direction = Numbered<struct DirectionKind>;

/// A set of directions: bit d is direction d.
using DirectionSet = std::uint16_t;

[[nodiscard]] constexpr bool holds(unsigned set, Direction direction) { return (set >> direction.index() & 1U) != 0; }

/// The directions of a set, in order: `for (const Direction d : directions(costs.moves(cell)))`.
class DirectionRange {
 public:
  class Iterator {
   public:
    using value_type = Direction;
    using difference_type = std::ptrdiff_t;
    constexpr Iterator() = default;
    constexpr explicit Iterator(unsigned left) : left_(left) {}
    constexpr Direction operator*() const { return Direction(std::countr_zero(left_)); }
    constexpr Iterator& operator++() {
      left_ &= left_ - 1;
      return *this;
    }
    constexpr Iterator operator++(int) {
      const Iterator before = *this;
      ++*this;
      return before;
    }
    friend constexpr bool operator==(Iterator a, Iterator b) = default;

   private:
    unsigned left_ = 0;
  };
  constexpr explicit DirectionRange(unsigned set) : set_(set) {}
  [[nodiscard]] constexpr Iterator begin() const { return Iterator(set_); }
  [[nodiscard]] static constexpr Iterator end() { return Iterator(); }

 private:
  unsigned set_;
};
[[nodiscard]] constexpr DirectionRange directions(unsigned set) { return DirectionRange(set); }

inline constexpr int max_directions = 12;

/// A length or a factor in hundredths: 1.41 is 141.
using Length = std::uint32_t;

/// One way round a corner: the edge steps that lead from a cell to its corner neighbour past one side of the corner.
struct CornerWay {
  std::uint8_t count = 0;                  ///< 2 on squares; 2, 3 or 4 on triangles
  std::array<std::uint8_t, 4> steps = {};  ///< edge directions, each seen from the cell it starts in
};

/// Everything about a cell's neighbours that depends only on the shape and on the cell's kind (see Tiling::kind).
struct Neighbourhood {
  int edges = 0;       ///< neighbours across an edge: 4, 6 or 3
  int directions = 0;  ///< all neighbours: 8, 6 or 12
  std::array<std::array<Offset, max_directions>, 2> offset = {};
  std::array<std::array<Length, max_directions>, 2> length = {};            ///< hundredths; 100 across an edge
  std::array<std::array<std::uint8_t, max_directions>, 2> opposite = {};    ///< the way back, seen from the neighbour
  std::array<std::array<std::uint8_t, max_directions>, 2> kind_after = {};  ///< the neighbour's kind
  std::array<std::array<std::array<CornerWay, 2>, max_directions>, 2> ways = {};  ///< only for corner directions
};

/// A cell of a hex map on two of the three axes 120 degrees apart (the third is -q - r).
/// Pointy: q east, r south-east. Flat: q south-east, r south.
struct Axial {
  std::int32_t q = 0;
  std::int32_t r = 0;
  friend constexpr bool operator==(Axial, Axial) = default;
};

/// The same with the third axis written out: q + r + s is 0.
struct Cube {
  std::int32_t q = 0;
  std::int32_t r = 0;
  std::int32_t s = 0;
  friend constexpr bool operator==(Cube, Cube) = default;
};
constexpr Cube to_cube(Axial axial) { return {axial.q, axial.r, -axial.q - axial.r}; }
constexpr Axial to_axial(Cube cube) { return {cube.q, cube.r}; }

/// A tiling of the plane. A small value; pass it by value. Every function is O(1), works at negative coordinates and
/// allocates nothing.
class Tiling {
 public:
  /// Squares, the default.
  constexpr Tiling() = default;
  [[nodiscard]] static constexpr Tiling square() { return {}; }
  [[nodiscard]] static constexpr Tiling hex(HexTop top, Shift shift) {
    return {top == HexTop::pointy ? Shape::hex_pointy : Shape::hex_flat, shift == Shift::even};
  }
  [[nodiscard]] static constexpr Tiling triangle(FirstTriangle first) {
    return {Shape::triangle, first == FirstTriangle::down};
  }

  [[nodiscard]] constexpr Shape shape() const { return shape_; }
  [[nodiscard]] constexpr bool is_hex() const { return shape_ == Shape::hex_pointy || shape_ == Shape::hex_flat; }
  /// Hex maps only. @pre is_hex()
  [[nodiscard]] constexpr Shift shift() const { return flipped_ ? Shift::even : Shift::odd; }
  /// Triangle maps only. @pre shape() == Shape::triangle
  [[nodiscard]] constexpr FirstTriangle first() const { return flipped_ ? FirstTriangle::down : FirstTriangle::up; }

  /// Neighbours across an edge: 4, 6, 3. They are directions 0 .. edge_count() - 1.
  [[nodiscard]] int edge_count() const { return neighbourhood().edges; }
  /// All neighbours: 8, 6, 12.
  [[nodiscard]] int direction_count() const { return neighbourhood().directions; }

  /// Which of the two neighbour tables a cell uses: 1 in a shifted hex row or column, 1 for a triangle that points
  /// down, else 0.
  [[nodiscard]] constexpr int kind(Cell cell) const {
    int parity = 0;
    switch (shape_) {
      case Shape::square: return 0;
      case Shape::hex_pointy: parity = cell.row; break;
      case Shape::hex_flat: parity = cell.col; break;
      // Not a sum: only the lowest bit matters, and a sum could overflow at the ends of the number range.
      case Shape::triangle: parity = cell.col ^ cell.row; break;
    }
    return (parity & 1) ^ (flipped_ ? 1 : 0);
  }

  /// The table of neighbours for this shape, for loops that must not look it up again for each cell.
  [[nodiscard]] const Neighbourhood& neighbourhood() const;

  /// The neighbour of `cell` in a direction. @pre 0 <= direction < direction_count(); else the cell itself
  [[nodiscard]] Cell neighbour(Cell cell, Direction direction) const {
    if (direction < 0 || direction >= direction_count()) return not_a_direction(cell);
    return cell + neighbourhood().offset[static_cast<unsigned>(kind(cell))][static_cast<unsigned>(direction)];
  }
  /// The direction that leads from `from` to `to`, or -1 when they are not neighbours (or equal).
  [[nodiscard]] Direction direction(Cell from, Cell to) const;
  /// Length of a step in a direction, in hundredths of an edge step: 100, 141 (square diagonal), 173 or 200; 0 when
  /// there is no such direction.
  [[nodiscard]] Length step_length(Cell from, Direction direction) const {
    if (direction < 0 || direction >= direction_count()) return 0;
    return neighbourhood().length[static_cast<unsigned>(kind(from))][static_cast<unsigned>(direction)];
  }
  /// Lower-case compass name of a direction from a cell: "n", "ne", "e", ... Corner neighbours of triangles at odd
  /// angles get three letters ("nne"). "" when there is no such direction.
  [[nodiscard]] std::string_view direction_name(Cell from, Direction direction) const;

  /// Fewest edge steps between two cells on an open board.
  [[nodiscard]] std::int64_t edge_distance(Cell a, Cell b) const;

  /// Strips of a triangle map: the strips between parallel edge lines that the cell lies in, along the rows and along
  /// the two slanted directions. An edge step changes exactly one of the three by one. @pre shape() == Shape::triangle
  [[nodiscard]] std::array<std::int64_t, 3> strips(Cell cell) const;
  /// The triangle in three strips. @pre they cross in one: strips(from_strips(l)) == l
  [[nodiscard]] Cell from_strips(const std::array<std::int64_t, 3>& strips) const;

  /// Axes of a hex map, which wrap round at the ends of the number range; each undoes the other for every cell.
  /// @pre is_hex()
  [[nodiscard]] Axial to_axial(Cell cell) const;
  [[nodiscard]] Cell from_axial(Axial axial) const;

  friend constexpr bool operator==(Tiling, Tiling) = default;

 private:
  constexpr Tiling(Shape shape, bool flipped) : shape_(shape), flipped_(flipped) {}
  static Cell not_a_direction(Cell cell) {
    [[maybe_unused]] constexpr bool direction_of_this_tiling = false;
    SAUNTER_EXPECT(direction_of_this_tiling);
    return cell;
  }

  Shape shape_ = Shape::square;
  bool flipped_ = false;  // hex: even lines are shifted; triangle: (0,0) points down
};

/// A tiling and a size: the board that maps, cost grids and searches agree on.
struct Board {
  Tiling tiling;
  Size size;
  friend constexpr bool operator==(const Board&, const Board&) = default;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
