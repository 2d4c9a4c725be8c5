/// @file
/// Cell centres and corners as whole numbers, so that lines between them can be judged exactly.
///
/// Units: whole numbers that stretch the plane, see WholePoint; squared distances in edge steps.
/// Errors: none within 2^29 cells of 0,0.
/// Cost: O(1), no allocation.
/// Threads: any number, nothing is shared.
#pragma once

#include <array>
#include <span>

#include "saunter/grid/tiling.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// A point of the plane, stretched so that all centres and corners are whole: squares by 2; hexes and triangles so that
/// the true square of a length is proportional to 3 x^2 + y^2. Flat hexes have x and y swapped and are then pointy.
struct WholePoint {
  std::int64_t x = 0;
  std::int64_t y = 0;
  friend constexpr bool operator==(WholePoint, WholePoint) = default;
};
constexpr WholePoint operator+(WholePoint a, WholePoint b) { return {a.x + b.x, a.y + b.y}; }
constexpr WholePoint operator-(WholePoint a, WholePoint b) { return {a.x - b.x, a.y - b.y}; }
constexpr WholePoint operator*(std::int64_t k, WholePoint p) { return {k * p.x, k * p.y}; }
/// Positive when b lies clockwise of a on the screen.
constexpr std::int64_t cross(WholePoint a, WholePoint b) { return a.x * b.y - a.y * b.x; }

enum class CellShape : std::uint8_t { square, hex, triangle };

/// The whole numbers of a tiling.
class WholePlane {
 public:
  explicit WholePlane(Tiling tiling)
      : tiling_(tiling),
        family_(tiling.shape() == Shape::square ? CellShape::square
                : tiling.is_hex()               ? CellShape::hex
                                                : CellShape::triangle),
        swapped_(tiling.shape() == Shape::hex_flat),
        flip_(family_ == CellShape::triangle && tiling.first() == FirstTriangle::down ? 1 : 0) {
    if (tiling.is_hex()) push_ = tiling.shift() == Shift::even ? -1 : 1;
  }

  [[nodiscard]] CellShape family() const { return family_; }
  [[nodiscard]] WholePoint centre(Cell cell) const {
    const std::int64_t col = swapped_ ? cell.row : cell.col;
    const std::int64_t row = swapped_ ? cell.col : cell.row;
    if (family_ == CellShape::square) return {2 * col, 2 * row};
    if (family_ == CellShape::hex) return {2 * col + push_ * (row & 1), 3 * row};
    return {col + flip_, 3 * row + (tiling_.kind(cell) == 0 ? 2 : 1)};
  }
  /// The cell with this centre. @pre there is one
  [[nodiscard]] Cell cell(WholePoint centre) const {
    if (family_ == CellShape::square) return make(centre.x >> 1, centre.y >> 1);
    const std::int64_t row = third(centre.y);
    if (family_ == CellShape::hex) return make((centre.x - push_ * (row & 1)) >> 1, row);
    return make(centre.x - flip_, row);
  }
  /// Whether a cell of the endless board has its centre here.
  [[nodiscard]] bool is_centre(WholePoint p) const {
    if (family_ == CellShape::square) return ((p.x | p.y) & 1) == 0;
    const std::int64_t row = third(p.y);
    const std::int64_t rest = p.y - 3 * row;
    if (family_ == CellShape::hex) return rest == 0 && ((p.x ^ row) & 1) == 0;
    // Triangles that point up have their centre two thirds down the row.
    return rest != 0 && ((p.x + row) & 1) == (rest == 2 ? 0 : 1);
  }
  /// The square of a distance of two centres in edge steps: a whole number.
  [[nodiscard]] std::int64_t squared(WholePoint d) const {
    if (family_ == CellShape::square) return (d.x * d.x + d.y * d.y) / 4;
    return (3 * d.x * d.x + d.y * d.y) / (family_ == CellShape::hex ? 12 : 4);
  }
  /// The corners of a cell as seen from its centre, clockwise; of a triangle that points up (else times -1).
  [[nodiscard]] std::span<const WholePoint> corners() const {
    static constexpr std::array<WholePoint, 4> of_square = {{{-1, -1}, {1, -1}, {1, 1}, {-1, 1}}};
    static constexpr std::array<WholePoint, 6> of_hex = {{{0, -2}, {1, -1}, {1, 1}, {0, 2}, {-1, 1}, {-1, -1}}};
    static constexpr std::array<WholePoint, 3> of_triangle = {{{0, -2}, {1, 1}, {-1, 1}}};
    if (family_ == CellShape::square) return of_square;
    if (family_ == CellShape::hex) return of_hex;
    return of_triangle;
  }
  /// Whether the triangle with this centre points up.
  [[nodiscard]] static bool points_up(WholePoint centre) { return centre.y - 3 * third(centre.y) == 2; }

  /// Divided by 3, rounded down.
  static std::int64_t third(std::int64_t y) { return y >= 0 ? y / 3 : -((2 - y) / 3); }

 private:
  [[nodiscard]] Cell make(std::int64_t col, std::int64_t row) const {
    const auto c = static_cast<std::int32_t>(col);
    const auto r = static_cast<std::int32_t>(row);
    return swapped_ ? Cell{r, c} : Cell{c, r};
  }

  Tiling tiling_;
  CellShape family_;
  bool swapped_;
  std::int64_t flip_;
  std::int64_t push_ = 0;  // of odd hex rows, half a cell to the right or left
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
