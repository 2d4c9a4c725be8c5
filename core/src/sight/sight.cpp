#include "saunter/sight/sight.hpp"

#include <array>
#include <algorithm>
#include <bit>
#include <limits>
#include <numeric>

#include "rows.hpp"
#include "saunter/grid/whole_plane.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

/// What lies beside a line on each side at one point.
struct Beside {
  std::array<bool, 2> opaque = {};
  std::array<bool, 2> off_map = {};
  Cell at;  // one that is opaque
  [[nodiscard]] bool shut() const {
    const bool any = opaque[0] || opaque[1];
    return any && (opaque[0] || off_map[0]) && (opaque[1] || off_map[1]);
  }
};

}  // namespace

SightGrid::SightGrid(Board board) : SightGrid(board, BitGrid(board.size)) {}

SightGrid::SightGrid(Board board, const BitGrid& opaque) : tiling_(board.tiling), opaque_(opaque) {
  SAUNTER_EXPECT(opaque.size() == board.size);
  if (opaque.size() != board.size) {
    opaque_ = BitGrid(board.size);
    for (const Cell cell : size().cells()) {
      opaque_.set(cell, opaque.test(cell));
    }
  }
  const WholePlane plane(board.tiling);
  const Rows rows(plane.family());
  const Size size = opaque_.size();
  if (size.cell_count() == 0) return;
  for (int axis = 0; axis < rows.axes(); ++axis) {
    Cell least{std::numeric_limits<std::int32_t>::max(), std::numeric_limits<std::int32_t>::max()};
    Cell most{std::numeric_limits<std::int32_t>::min(), std::numeric_limits<std::int32_t>::min()};
    const auto take = [&](Cell cell) {
      const Cell spot = rows.spot(axis, plane.centre(cell));
      least = {std::min(least.col, spot.col), std::min(least.row, spot.row)};
      most = {std::max(most.col, spot.col), std::max(most.row, spot.row)};
    };
    for (std::int32_t col = 0; col < size.cols; ++col) {
      for (const std::int32_t row : {0, size.rows - 1}) take({col, row});
    }
    for (std::int32_t row = 0; row < size.rows; ++row) {
      for (const std::int32_t col : {0, size.cols - 1}) take({col, row});
    }
    const auto number = static_cast<std::size_t>(axis);
    origin_[number] = least;
    clear_[number] = BitGrid::of_lines({most.col - least.col + 1, most.row - least.row + 1});
    for (std::int32_t row = 0; row < size.rows; ++row) {
      for (std::int32_t col = 0; col < size.cols; ++col) {
        if (opaque_.test({col, row})) continue;
        const Cell spot = rows.spot(axis, plane.centre({col, row}));
        clear_[number].set({spot.col - least.col, spot.row - least.row});
      }
    }
  }
}

void SightGrid::set_opaque(Cell cell, bool opaque) {
  if (!size().contains(cell) || opaque_.test(cell) == opaque) return;
  ++revision_;
  opaque_.set(cell, opaque);
  const WholePlane plane(tiling_);
  const Rows rows(plane.family());
  for (int axis = 0; axis < rows.axes(); ++axis) {
    const auto number = static_cast<std::size_t>(axis);
    const Cell spot = rows.spot(axis, plane.centre(cell));
    clear_[number].set({spot.col - origin_[number].col, spot.row - origin_[number].row}, !opaque);
  }
}

namespace {
BitGrid cells_of_terrain(const Map& map, bool Terrain::*property) {
  BitGrid cells(map.size());
  for (std::uint32_t i = 0; i < map.size().cell_count(); ++i) {
    if (map.kind(map.terrain()[CellIndex{i}]).*property) cells.set(map.size().cell(CellIndex{i}));
  }
  return cells;
}
}  // namespace

BitGrid opaque_terrain(const Map& map) { return cells_of_terrain(map, &Terrain::opaque); }
BitGrid void_terrain(const Map& map) { return cells_of_terrain(map, &Terrain::is_void); }

namespace {

/// Squares: which side of the cell the line leaves by follows from one number (a line drawn by its error term).
std::optional<Cell> hidden_on_squares(const BitGrid& opaque, Cell a, Cell b) {
  const std::int64_t wide = std::abs(b.col - a.col);
  const std::int64_t high = std::abs(b.row - a.row);
  const Offset across{b.col > a.col ? 1 : -1, 0};
  const Offset along{0, b.row > a.row ? 1 : -1};
  std::int64_t error = high - wide;  // of the corner ahead: above, on or below the line
  for (Cell at = a;;) {
    if (error == 0) {
      if (opaque.test(at + across) && opaque.test(at + along)) return at + across;
      at = at + across + along;
      error += 2 * (high - wide);
    } else if (error < 0) {
      at = at + across;
      error += 2 * high;
    } else {
      at = at + along;
      error -= 2 * wide;
    }
    if (at == b) return std::nullopt;
    if (opaque.test(at)) return at;
  }
}

}  // namespace

/// Hexes and triangles: from cell to cell, out through an edge, through a corner into the cell opposite, or (hexes)
/// along the edge between two cells.
std::optional<Cell> hidden_by(const SightGrid& grid, Cell a, Cell b) {
  if (!grid.size().contains(a)) return a;
  if (!grid.size().contains(b)) return b;
  if (a == b) return std::nullopt;
  const WholePlane plane(grid.board().tiling);
  if (plane.family() == CellShape::square) return hidden_on_squares(grid.opaque_cells(), a, b);
  const bool triangles = plane.family() == CellShape::triangle;
  const std::span<const WholePoint> corners = plane.corners();
  const WholePoint start = plane.centre(a);
  const WholePoint end = plane.centre(b);
  const WholePoint line = end - start;
  std::array<std::int64_t, 6> side = {};  // of each corner, as seen from a centre on the line
  for (std::size_t i = 0; i < corners.size(); ++i) side[i] = cross(line, corners[i]);
  const auto look_beside = [&](Beside& beside, WholePoint centre) {
    const Cell cell = plane.cell(centre);
    const unsigned which = cross(line, centre - start) > 0 ? 1 : 0;
    if (!grid.size().contains(cell)) {
      beside.off_map[which] = true;
    } else if (grid.opaque(cell)) {
      beside.opaque[which] = true;
      beside.at = cell;
    }
  };
  for (WholePoint at = start;;) {
    const std::int64_t turn = triangles && !WholePlane::points_up(at) ? -1 : 1;
    const std::int64_t base = cross(line, at - start);
    const auto corner = [&](std::size_t i) { return turn * corners[i % corners.size()]; };
    const auto side_of = [&](std::size_t i) { return base + turn * side[i % corners.size()]; };
    // Clockwise, the line leaves where the corners change from one side to the other.
    std::size_t i = 0;
    while (!(side_of(i) < 0 && side_of(i + 1) >= 0)) ++i;
    if (side_of(i + 1) > 0) {
      at = at + corner(i) + corner(i + 1);
    } else {
      const WholePoint out = corner(i + 1);
      Beside beside;
      if (triangles) {
        for (const WholePoint r : {WholePoint{0, 2}, WholePoint{-1, -1}, WholePoint{1, -1}, WholePoint{0, -2},
                                   WholePoint{1, 1}, WholePoint{-1, 1}}) {
          if (r != out && r != -1 * out) look_beside(beside, at + out + r);
        }
        at = at + 2 * out;
      } else if (base == 0) {
        look_beside(beside, at + corner(i) + out);
        look_beside(beside, at + out + corner(i + 2));
        at = at + 3 * out;
      } else {
        at = cross(line, out) > 0 ? at + corner(i) + out : at + out + corner(i + 2);
      }
      if (beside.shut()) return beside.at;
    }
    if (at == end) return std::nullopt;
    const Cell cell = plane.cell(at);
    if (grid.size().contains(cell) && grid.opaque(cell)) return cell;
  }
}

}  // namespace saunter::inline v0_2
