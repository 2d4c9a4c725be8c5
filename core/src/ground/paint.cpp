#include "saunter/ground/paint.hpp"

#include <utility>

namespace saunter {
namespace {

void add(Painted& painted, Map& map, Cell cell, TerrainId id) {
  if (!map.size().contains(cell) || map.terrain_at(cell) == id) return;
  map.set_terrain(cell, id);
  painted.cells.push_back(cell);
  painted.block = painted.block.joined(Rect::of(cell));
}

Painted paint_all(Map& map, const std::vector<Cell>& cells, TerrainId id) {
  Painted painted;
  for (const Cell cell : cells) add(painted, map, cell, id);
  return painted;
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
  Painted painted;
  const Rect on_map = rect.grown(0, map.size());
  for (std::int32_t row = on_map.top; row < on_map.bottom; ++row) {
    for (std::int32_t col = on_map.left; col < on_map.right; ++col) add(painted, map, {col, row}, id);
  }
  return painted;
}

Painted paint_disk(Map& map, Cell centre, int radius, TerrainId id) {
  std::vector<Cell> cells;
  disk_of_cells(map.tiling(), centre, radius, cells);
  return paint_all(map, cells, id);
}

Painted paint_flood(Map& map, Cell start, TerrainId id) {
  Painted painted;
  if (!map.size().contains(start) || map.terrain_at(start) == id) return painted;
  const TerrainId before = map.terrain_at(start);
  add(painted, map, start, id);
  // A painted cell no longer has the old terrain, so the list of changed cells is also the mark of where we have been.
  for (std::size_t i = 0; i < painted.cells.size(); ++i) {
    const Cell at = painted.cells[i];
    for (Direction d = 0; d < map.tiling().edge_count(); ++d) {
      const Cell next = map.tiling().neighbour(at, d);
      if (map.size().contains(next) && map.terrain_at(next) == before) add(painted, map, next, id);
    }
  }
  return painted;
}

Painted paint_stamp(Map& map, const Grid<TerrainId>& piece, Tiling piece_tiling, Cell at,
                    std::optional<TerrainId> leave_out) {
  const Tiling tiling = map.tiling();
  SAUNTER_EXPECT(piece_tiling.shape() == tiling.shape());
  SAUNTER_EXPECT(tiling.shape() != Shape::triangle || tiling.kind(at) == piece_tiling.kind({0, 0}));
  Painted painted;
  for (std::int32_t row = 0; row < piece.size().rows; ++row) {
    for (std::int32_t col = 0; col < piece.size().cols; ++col) {
      const Cell part{col, row};
      if (leave_out && piece[part] == *leave_out) continue;
      Cell to = at + (part - Cell{});
      if (tiling.is_hex()) {
        const Axial from = piece_tiling.to_axial({0, 0});
        const Axial by = piece_tiling.to_axial(part);
        const Axial anchor = tiling.to_axial(at);
        to = tiling.from_axial({anchor.q + by.q - from.q, anchor.r + by.r - from.r});
      }
      add(painted, map, to, piece[part]);
    }
  }
  return painted;
}

Map hexagon_map(HexTop top, int radius, std::vector<Terrain> kinds, TerrainId inside, TerrainId outside) {
  SAUNTER_EXPECT(radius >= 0);
  const Board board{Tiling::hex(top, Shift::odd), {2 * radius + 1, 2 * radius + 1}};
  return shaped_map(board, std::move(kinds), inside, outside, [&](Cell cell) {
    return board.tiling.edge_distance({radius, radius}, cell) <= radius;
  });
}

Map triangle_map(int side, std::vector<Terrain> kinds, TerrainId inside, TerrainId outside) {
  SAUNTER_EXPECT(side >= 1);
  // The tip stands in column side - 1 and must point up.
  const auto first = side % 2 == 1 ? FirstTriangle::up : FirstTriangle::down;
  const Board board{Tiling::triangle(first), {2 * side - 1, side}};
  return shaped_map(board, std::move(kinds), inside, outside, [&](Cell cell) {
    const int from_middle = cell.col < side ? side - 1 - cell.col : cell.col - side + 1;
    return from_middle <= cell.row;
  });
}

}  // namespace saunter
