/// @file
/// Random changes to a map in play.
#pragma once

#include <algorithm>

#include "random_maps.hpp"
#include "saunter/grid/area.hpp"
#include "saunter/search/field.hpp"

namespace saunter::test {

/// Changes terrain, heights, thin walls or occupied cells of one cell or a block of them, and brings the grid up to
/// date.
inline void random_change(Random& random, Map& map, BitGrid& occupied, const Mover& mover, CostGrid& costs) {
  const Cell middle = random.cell(map.size());
  const int spread = random.chance(70) ? 0 : random.whole(1, 3);
  const Rect block = Rect::of(middle).grown(spread, map.size());
  const int what = random.whole(0, map.has_barriers() ? 3 : 1);
  for (std::int32_t row = block.top; row < block.bottom; ++row) {
    for (std::int32_t col = block.left; col < block.right; ++col) {
      const Cell cell{col, row};
      if (what == 0) {
        map.set_terrain(cell, static_cast<TerrainId>(random.whole(0, static_cast<int>(map.kinds().size()) - 1)));
      } else if (what == 1) {
        occupied.set(cell, random.chance(40));
      } else if (what == 2) {
        map.set_closed(cell, Direction(random.whole(0, map.tiling().edge_count() - 1)), random.chance(50));
      } else {
        map.set_height(cell, static_cast<std::int16_t>(random.whole(-4, 4)));
      }
    }
  }
  rebake(costs, map, mover, block.grown(1, map.size()), &occupied);
}

/// The grid of a map on which cells of ground have been given other entry costs: by terrain of their own.
inline CostGrid bake_changed(const Map& map, const Mover& mover, std::span<const EntryChange> changes,
                             const BitGrid* occupied = nullptr) {
  std::vector<Terrain> kinds = map.kinds();
  for (const EntryChange& change : changes) {
    kinds.push_back({.name = "changed", .cost = static_cast<EntryCost>(Length{change.cost})});
  }
  Map changed(map.board(), kinds);
  for (const Cell cell : map.size().cells()) {
    changed.set_terrain(cell, map.terrain_at(cell));
    if (map.has_heights()) changed.set_height(cell, map.height_at(cell));
    for (Direction d{0}; d < map.tiling().edge_count(); ++d) changed.set_closed(cell, d, map.closed(cell, d));
  }
  BitGrid standing = occupied != nullptr ? *occupied : BitGrid(map.size());
  for (std::size_t i = 0; i < changes.size(); ++i) {
    changed.set_terrain(changes[i].cell, static_cast<TerrainId>(map.kinds().size() + i));
    standing.set(changes[i].cell, false);
  }
  return bake(changed, mover, &standing);
}

/// Whether a mover at a place stands beside a cell, by the law's words.
inline bool stands_beside(const CostGrid& costs, const Map& map, const Mover& mover, Cell place, Cell cell) {
  const Tiling tiling = map.tiling();
  if (mover.size == 1) {
    const Direction d = tiling.direction(place, cell);
    if (d < 0 || !costs.open(place)) return false;
    Map level(map.board(), {{.name = "shut", .cost = blocked}, {.name = "open"}});  // no heights
    for (const Cell at : map.size().cells()) {
      level.set_terrain(at, costs.open(at) || at == cell ? 1 : 0);
      for (Direction e{0}; e < tiling.edge_count(); ++e) level.set_closed(at, e, map.closed(at, e));
    }
    return holds(bake(level, {.rules = mover.rules}).moves(place), d);
  }
  std::vector<Cell> body;
  body_cells(tiling, place, mover.size, body);
  if (std::find(body.begin(), body.end(), cell) != body.end()) return false;
  return std::any_of(body.begin(), body.end(), [&](Cell part) {
    return tiling.edge_distance(part, cell) == 1 && !map.closed(part, tiling.direction(part, cell));
  });
}

/// The places of a mover that cover one of some cells, looked at one by one.
inline BitGrid places_on(const Board& board, int size, const BitGrid& cells) {
  BitGrid places(board.size);
  std::vector<Cell> body;
  for (const Cell place : board.size.cells()) {
    body_cells(board.tiling, place, size, body);
    places.set(place, std::any_of(body.begin(), body.end(), [&](Cell cell) { return cells.test(cell); }));
  }
  return places;
}

}  // namespace saunter::test
