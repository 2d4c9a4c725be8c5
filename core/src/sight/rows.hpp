/// @file
/// Rows of cells along every axis of a tiling.
#pragma once

#include "saunter/grid/cell.hpp"
#include "saunter/grid/whole_plane.hpp"

namespace saunter::inline v0_2::detail {

/// How rows of cells lie across an axis of the plane. Across axis 0 they are the map's own rows (flat hexes: columns);
/// the others follow by turning the plane.
class Rows {
 public:
  explicit Rows(CellShape family) : family_(family) {}

  [[nodiscard]] int axes() const { return family_ == CellShape::square ? 2 : 3; }
  /// A point's place along the rows of an axis (x) and across them (y).
  [[nodiscard]] WholePoint turned(int axis, WholePoint p) const {
    if (axis == 0) return p;
    if (family_ == CellShape::square) return {p.y, p.x};
    if (axis == 1) return {(p.y - p.x) / 2, (3 * p.x + p.y) / 2};
    return {(p.x + p.y) / 2, (3 * p.x - p.y) / 2};
  }
  [[nodiscard]] WholePoint turned_back(int axis, WholePoint p) const {
    if (axis == 0) return p;
    if (family_ == CellShape::square) return {p.y, p.x};
    if (axis == 1) return {(p.y - p.x) / 2, (p.y + 3 * p.x) / 2};
    return {(p.x + p.y) / 2, (3 * p.x - p.y) / 2};
  }
  /// The number of the row with centres so far across, and back. Triangles: those of one strip whose centres are nearer
  /// its start come first.
  [[nodiscard]] std::int64_t row(std::int64_t across) const {
    if (family_ == CellShape::square) return across >> 1;
    const std::int64_t strip = WholePlane::third(across);
    return family_ == CellShape::hex ? strip : 2 * strip + (across - 3 * strip - 1);
  }
  [[nodiscard]] std::int64_t across(std::int64_t row) const {
    if (family_ == CellShape::square) return 2 * row;
    if (family_ == CellShape::hex) return 3 * row;
    return 3 * (row >> 1) + 1 + (row & 1);
  }
  /// Cells of a row are 2 apart; whether they stand at odd places.
  [[nodiscard]] std::int64_t odd(std::int64_t row) const {
    if (family_ == CellShape::square) return 0;
    if (family_ == CellShape::hex) return row & 1;
    return (row & 1) != 0 ? (row >> 1) & 1 : ((row >> 1) + 1) & 1;
  }
  /// Row and place in it.
  [[nodiscard]] Cell spot(int axis, WholePoint centre) const {
    const WholePoint p = turned(axis, centre);
    return {static_cast<std::int32_t>(p.x >> 1), static_cast<std::int32_t>(row(p.y))};
  }

 private:
  CellShape family_;
};

}  // namespace saunter::inline v0_2::detail
