#include "saunter/ground/paint.hpp"

#include <algorithm>
#include <utility>

#include "saunter/grid/bit_grid.hpp"

namespace saunter::inline v0_2 {
namespace {

/// Terrain to come. Everything that takes memory happens while it is gathered; then nothing can fail, so a call that
/// throws has changed nothing.
class Brush {
 public:
  explicit Brush(Map& map) : map_(map) {}
  /// @pre no cell twice with different terrain
  void add(Cell cell, TerrainId id) {
    if (!map_.size().contains(cell) || id >= map_.kinds().size()) return;
    painted_.cells.push_back(cell);
    ids_.push_back(id);
  }
  Painted apply() {
    std::size_t kept = 0;
    for (std::size_t i = 0; i < painted_.cells.size(); ++i) {
      const Cell cell = painted_.cells[i];
      if (map_.terrain_at(cell) == ids_[i]) continue;
      (void)map_.set_terrain(cell, ids_[i]);
      painted_.cells[kept++] = cell;
      painted_.block = painted_.block.joined(Rect::of(cell));
    }
    painted_.cells.resize(kept);
    return std::move(painted_);
  }

 private:
  Map& map_;
  Painted painted_;
  std::vector<TerrainId> ids_;
};

Painted paint_all(Map& map, const std::vector<Cell>& cells, TerrainId id) {
  Brush brush(map);
  for (const Cell cell : cells) brush.add(cell, id);
  return brush.apply();
}

template <typename Inside>
Map shaped_map(Board board, std::vector<Terrain> kinds, TerrainId inside, TerrainId outside, Inside&& belongs) {
  Map map(board, std::move(kinds));
  for (std::int32_t row = 0; row < board.size.rows; ++row) {
    for (std::int32_t col = 0; col < board.size.cols; ++col) {
      map.set_terrain({col, row}, belongs(Cell{col, row}) ? inside : outside);
    }
  }
  return map;
}

}  // namespace

Painted paint_cell(Map& map, Cell cell, TerrainId id) { return paint_all(map, {cell}, id); }

Painted paint_line(Map& map, Cell from, Cell to, TerrainId id, LineKind kind) {
  std::vector<Cell> cells;
  line_of_cells(map.tiling(), from, to, cells, kind);
  return paint_all(map, cells, id);
}

Painted paint_rect(Map& map, Rect rect, TerrainId id) {
  Brush brush(map);
  const Rect on_map = rect.grown(0, map.size());
  for (std::int32_t row = on_map.top; row < on_map.bottom; ++row) {
    for (std::int32_t col = on_map.left; col < on_map.right; ++col) brush.add({col, row}, id);
  }
  return brush.apply();
}

Painted paint_disk(Map& map, Cell centre, int radius, TerrainId id) {
  std::vector<Cell> cells;
  disk_of_cells(map.tiling(), centre, radius, map.size(), cells);
  return paint_all(map, cells, id);
}

Painted paint_flood(Map& map, Cell start, TerrainId id) {
  if (!map.size().contains(start) || map.terrain_at(start) == id) return {};
  const TerrainId before = map.terrain_at(start);
  BitGrid seen(map.size());
  std::vector<Cell> cells = {start};
  seen.set(start);
  for (std::size_t i = 0; i < cells.size(); ++i) {
    for (Direction d{0}; d < map.tiling().edge_count(); ++d) {
      const Cell next = map.tiling().neighbour(cells[i], d);
      if (!map.size().contains(next) || map.terrain_at(next) != before || seen.test(next)) continue;
      seen.set(next);
      cells.push_back(next);
    }
  }
  return paint_all(map, cells, id);
}

Painted paint_stamp(Map& map, const Grid<TerrainId>& piece, Tiling piece_tiling, Cell at,
                    std::optional<TerrainId> leave_out) {
  const Tiling tiling = map.tiling();
  const bool fits = piece_tiling.shape() == tiling.shape() &&
                    (tiling.shape() != Shape::triangle || tiling.kind(at) == piece_tiling.kind({0, 0}));
  SAUNTER_EXPECT(fits);
  if (!fits) return {};
  Brush brush(map);
  for (std::int32_t row = 0; row < piece.size().rows; ++row) {
    for (std::int32_t col = 0; col < piece.size().cols; ++col) {
      const Cell part{col, row};
      if (leave_out && piece[part] == *leave_out) continue;
      Cell to = at + (part - Cell{});
      if (tiling.is_hex()) {
        const Axial from = piece_tiling.to_axial({0, 0});
        const Axial by = piece_tiling.to_axial(part);
        const Axial anchor = tiling.to_axial(at);
        const Cell moved = Cell{anchor.q, anchor.r} + (Cell{by.q, by.r} - Cell{from.q, from.r});
        to = tiling.from_axial({moved.col, moved.row});
      }
      brush.add(to, piece[part]);
    }
  }
  return brush.apply();
}

Map hexagon_map(HexTop top, int radius, std::vector<Terrain> kinds, TerrainId inside, TerrainId outside) {
  SAUNTER_EXPECT(radius >= 0);
  radius = std::max(radius, 0);
  const Board board{Tiling::hex(top, Shift::odd), {2 * radius + 1, 2 * radius + 1}};
  return shaped_map(board, std::move(kinds), inside, outside, [&](Cell cell) {
    return board.tiling.edge_distance({radius, radius}, cell) <= radius;
  });
}

Map triangle_map(int side, std::vector<Terrain> kinds, TerrainId inside, TerrainId outside) {
  SAUNTER_EXPECT(side >= 1);
  side = std::max(side, 1);
  // The tip stands in column side - 1 and must point up.
  const auto first = side % 2 == 1 ? FirstTriangle::up : FirstTriangle::down;
  const Board board{Tiling::triangle(first), {2 * side - 1, side}};
  return shaped_map(board, std::move(kinds), inside, outside, [&](Cell cell) {
    const int from_middle = cell.col < side ? side - 1 - cell.col : cell.col - side + 1;
    return from_middle <= cell.row;
  });
}

}  // namespace saunter::inline v0_2
