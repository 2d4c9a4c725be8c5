/// @file
/// A live map beside everything made anew, and random edits to it.
#pragma once

#include <vector>

#include "random_maps.hpp"
#include "saunter/live/live_map.hpp"
#include "saunter/search/searcher.hpp"

namespace saunter::test {

inline Threat random_threat(Random& random, const Board& board) {
  Threat threat{.at = random.cell(board.size), .range = random.hundredths(0, 900)};
  threat.levels = {{random.hundredths(1, 60), static_cast<std::uint16_t>(random.whole(1, 9))},
                   {100_hundredths, static_cast<std::uint16_t>(random.whole(0, 3))}};
  threat.needs_sight = random.chance(60);
  if (random.chance(50)) {
    threat.facing = Side(random.whole(0, side_count(board.tiling) - 1));
    threat.arc = random.whole(1, 360);
  }
  return threat;
}

/// A live map with all kinds of movers, units, threats, fields and routes, and what is known of it from outside.
struct LiveGround {
  LiveMap live;
  std::vector<UnitId> units;
  std::vector<bool> opaque;
  std::vector<ThreatNumber> threats;
  std::vector<FieldId> fields;
  std::vector<RouteId> routes;
  BitGrid shut;
  Grid<EntryCost> added;
};

inline LiveGround random_live_ground(Random& random, int most) {
  const Tiling tiling = random.one_of(all_tilings());
  Map map = random_map(random, tiling, random_size(random, most));
  std::vector<Terrain> kinds = map.kinds();
  for (Terrain& kind : kinds) kind.opaque = random.chance(30);
  Map painted(map.board(), kinds);
  painted.set_all_terrain(map.terrain());
  if (random.chance(60)) add_random_edges(random, painted);
  const Size size = map.size();
  std::vector<Mover> movers;
  for (int i = random.whole(1, 3); i > 0; --i) movers.push_back(random_mover(random, tiling));
  for (Mover& mover : movers) mover.size = std::min(mover.size, 3);
  LiveGround made{LiveMap(std::move(painted), movers, 2), {}, {}, {}, {}, {}, BitGrid(size), Grid<EntryCost>(size)};
  for (int i = random.whole(0, 4); i > 0; --i) {
    made.opaque.push_back(random.chance(40));
    const int layer = random.whole(0, 1);
    const bool blocks = random.chance(80);
    made.units.push_back(made.live.add_unit(Footprint({{0, 0}, {1, 0}}), layer, blocks, made.opaque.back()));
  }
  for (MoverId mover = 0; mover < movers.size(); ++mover) {
    (void)made.live.costs(mover);
    if (random.chance(70)) (void)made.live.regions(mover);
    if (random.chance(70)) (void)made.live.levels(mover);
    const Source source{random.cell(size)};
    if (random.chance(70)) made.fields.push_back(made.live.keep_field(mover, {&source, 1}));
    if (random.chance(40)) made.fields.push_back(made.live.keep_reach(mover, {&source, 1}, {.budget = 900_hundredths}));
    if (random.chance(70)) {
      const Cell from = random.cell(size);
      made.routes.push_back(made.live.keep_route(mover, from, random.cell(size)));
    }
  }
  return made;
}

/// One edit of any kind, often one that must be refused.
inline void random_edit(Random& random, LiveGround& ground) {
  LiveMap& live = ground.live;
  const Size size = live.board().size;
  const Cell cell{random.whole(-1, size.cols), random.whole(-1, size.rows)};
  const bool yes = random.chance(50);
  const auto other_way = [&] {
    return live.board().tiling.neighbour(cell, Direction(random.whole(0, live.board().tiling.edge_count() - 1)));
  };
  const auto any_unit = [&] { return ground.units.empty() ? UnitId{7} : random.one_of(ground.units); };
  switch (random.whole(0, 10)) {
    case 0:
    case 1:
    case 2:
      (void)live.set_terrain(cell,
                             static_cast<TerrainId>(random.whole(0, static_cast<int>(live.map().kinds().size()))));
      break;
    case 3: (void)live.set_height(cell, static_cast<std::int16_t>(random.whole(-4, 4))); break;
    case 4: (void)live.close_way(cell, other_way(), yes); break;
    case 5: (void)live.close_edge(cell, other_way(), yes); break;
    case 6: {
      const UnitId unit = any_unit();
      const Pose pose{cell, live.board().tiling.shape() == Shape::triangle ? 0 : random.whole(0, 3)};
      if (random.chance(20)) {
        const UnitMove both[] = {{unit, pose}, {any_unit(), {{cell.col, cell.row + 1}, 0}}};
        (void)live.move_all(both);
        if (random.chance(40)) (void)live.undo_units();
        break;
      }
      if (live.units().unit(unit).standing && random.chance(40)) {
        (void)live.lift(unit);
      } else {
        (void)(live.units().unit(unit).standing ? live.move(unit, pose) : live.place(unit, pose));
      }
      break;
    }
    case 7:
      if (const auto id = live.add_threat(random_threat(random, live.board()))) ground.threats.push_back(*id);
      break;
    case 8:
      if (ground.threats.empty()) break;
      if (random.chance(30)) {
        (void)live.remove_threat(random.one_of(ground.threats));
      } else {
        const ThreatNumber changed = random.one_of(ground.threats);
        (void)live.change_threat(changed, random_threat(random, live.board()));
      }
      break;
    case 9: {
      const bool shut = random.chance(50);
      if (live.close_for(cell, shut ? std::optional<std::uint64_t>() : 0)) ground.shut.set(cell, shut);
      break;
    }
    default: {
      const auto more = static_cast<EntryCost>(random.chance(50) ? 0 : random.whole(0, 700));
      if (live.add_cost(cell, more)) ground.added[cell] = more;
    }
  }
}

/// What makes everything anew from the map as it is.
struct Anew {
  explicit Anew(const LiveGround& ground) : map(ground.live.map()), occupied(map.size()) {
    BitGrid opaque = opaque_terrain(map);
    for (const Cell cell : map.size().cells()) {
      occupied.set(cell, ground.live.units().blocking().test(cell) || ground.shut.test(cell));
      for (std::size_t i = 0; i < ground.units.size(); ++i) {
        const auto& cells = ground.live.units().unit(ground.units[i]).cells;
        if (ground.opaque[i] && std::find(cells.begin(), cells.end(), cell) != cells.end()) opaque.set(cell);
      }
    }
    sight = SightGrid(map.board(), opaque);
    danger = ThreatField(map.board(), void_terrain(map));
    for (const ThreatNumber id : ground.threats) {
      if (!ground.live.threat(id).levels.empty()) (void)danger.add(sight, ground.live.threat(id));
    }
  }
  const Map& map;
  BitGrid occupied;
  SightGrid sight;
  ThreatField danger;
};

}  // namespace saunter::test
