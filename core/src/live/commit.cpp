// A commit: what has changed, and everything that follows the map.
#include <algorithm>
#include <tuple>

#include "world.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

/// Blocks of one commit: fewer than the changes a cost grid tells apart.
constexpr std::size_t most_blocks = 32;
/// A field whose work commits have cut short so often is finished in one turn, so that it does not wait for ever.
constexpr unsigned patience = 3;

constexpr std::uint8_t bit(About what) { return static_cast<std::uint8_t>(what); }

}  // namespace

/// The map as it was at the last commit, for as long as this lives: what is asked for between edits and their commit
/// follows the commits like all else.
class LiveMap::World::AsCommitted {
 public:
  explicit AsCommitted(World& world) : world_(world) { exchange(); }
  ~AsCommitted() { exchange(); }
  AsCommitted(const AsCommitted&) = delete;
  AsCommitted& operator=(const AsCommitted&) = delete;

 private:
  void exchange() {
    for (Before& then : world_.before) {
      if (!world_.added.empty()) std::swap(world_.added[then.cell], then.added);
      if (!world_.map.size().contains(then.cell)) continue;
      const Before now{.cell = then.cell,
                       .terrain = world_.map.terrain_at(then.cell),
                       .height = world_.map.height_at(then.cell),
                       .closed = world_.map.closed_sides(then.cell)};
      world_.map.set_terrain(then.cell, then.terrain);
      if (now.height != then.height) world_.map.set_height(then.cell, then.height);
      for (Direction d{0}; d < world_.board.tiling.edge_count(); ++d) {
        if (holds(now.closed, d) != holds(then.closed, d)) world_.map.set_closed(then.cell, d, holds(then.closed, d));
      }
      then.terrain = now.terrain;
      then.height = now.height;
      then.closed = now.closed;
    }
  }
  World& world_;
};

CostGrid& LiveMap::World::costs(MoverId mover) {
  Follower& follower = followers[mover];
  if (!follower.has_costs) {
    const AsCommitted committed(*this);
    follower.costs = bake(map, movers[mover], &obstacles, added.empty() ? nullptr : &added);
    follower.has_costs = true;
  }
  return follower.costs;
}

FieldId LiveMap::World::keep(MoverId mover, std::span<const Source> sources, const FieldOptions& options,
                             std::uint32_t priority, bool to_sources) {
  static const CostGrid nothing;
  const CostGrid& grid = known(mover) ? costs(mover) : nothing;
  field_numbers.make_room();
  const std::size_t id = vacant(fields);
  KeptField& kept = *fields[id];
  if (to_sources) {
    searcher.field_to(grid, sources, kept.field, options);
  } else {
    searcher.reach(grid, sources, kept.field, options);
  }
  looked_at += kept.field.reached_count();
  kept.mover = mover;
  kept.priority = priority;
  kept.begun = false;
  kept.cut_short = 0;
  kept.kept = known(mover);
  return FieldId(field_numbers.name(id));
}

std::uint8_t LiveMap::World::about(const Before& then) const {
  std::uint8_t what = 0;
  if (shut.test(then.cell) != then.shut) what |= bit(About::for_a_while);
  if (!added.empty() && added[then.cell] != then.added) what |= bit(About::for_a_while);
  if (!map.size().contains(then.cell)) return what;
  if (map.terrain_at(then.cell) != then.terrain) what |= bit(About::terrain);
  if (map.height_at(then.cell) != then.height) what |= bit(About::height);
  if (map.closed_sides(then.cell) != then.closed) what |= bit(About::barrier);
  for (int layer = 0; layer < units.layers(); ++layer) {
    if (units.at(then.cell, layer) != occupant(then, layer)) what |= bit(About::occupant);
  }
  return what;
}

void LiveMap::World::end_what_lapsed() {
  const std::uint64_t now = change.revision + 1;
  for (const Lapse& lapse : lapses) {
    if (lapse.at > now) continue;
    touch(lapse.cell);
    if (lapse.shut) {
      shut.set(lapse.cell, false);
    } else {
      added[lapse.cell] = 0;
    }
  }
  std::erase_if(lapses, [&](const Lapse& lapse) { return lapse.at <= now; });
}

void LiveMap::World::list_changes() {
  ground_cells.clear();
  for (const Before& then : before) {
    const std::uint8_t what = about(then);
    if (what == 0) continue;
    change.cells.push_back({then.cell, what});
    ground_cells.push_back(then.cell);
    obstacles.set(then.cell, units.blocking().test(then.cell) || shut.test(then.cell));
  }
}

/// Few blocks that hold the changed cells and little else: those of the smallest tiles that leave few enough.
void LiveMap::World::gather_blocks() {
  for (int tile = 8;; tile *= 2) {
    const auto place = [tile](Cell cell) { return std::tuple(cell.row / tile, cell.col / tile); };
    std::sort(ground_cells.begin(), ground_cells.end(), [&](Cell a, Cell b) {
      return std::tuple_cat(place(a), std::tuple(a)) < std::tuple_cat(place(b), std::tuple(b));
    });
    blocks.clear();
    for (std::size_t i = 0; i < ground_cells.size(); ++i) {
      if (i == 0 || place(ground_cells[i]) != place(ground_cells[i - 1])) blocks.emplace_back();
      blocks.back() = blocks.back().joined(Rect::of(ground_cells[i]));
    }
    if (blocks.size() <= most_blocks) return;
  }
}

void LiveMap::World::follow_map(MoverId mover) {
  Follower& follower = followers[mover];
  for (const Rect block : blocks) {
    const Rect changed =
        rebake(follower.costs, map, movers[mover], block, &obstacles, added.empty() ? nullptr : &added);
    if (follower.has_regions) update_regions(follower.regions, follower.costs, changed);
    change.blocks[mover].push_back(changed);
  }
}

void LiveMap::World::follow_caller(MoverId mover) {
  Follower& follower = followers[mover];
  // Of several costs told for a cell the last one counts: there and back is no change.
  auto& told = follower.told;
  std::sort(told.begin(), told.end(), [](const Follower::Told& a, const Follower::Told& b) {
    return a.cell != b.cell ? a.cell < b.cell : a.number < b.number;
  });
  for (std::size_t i = 0; i < told.size(); ++i) {
    const auto [cell, cost, number] = told[i];
    const bool later = i + 1 < told.size() && told[i + 1].cell == cell;
    if (later || follower.costs.ground_entry(cell) == cost) continue;
    const Stamp before_it = follower.costs.stamp();
    follower.costs.set_entry(cell, cost);
    const Rect changed = follower.costs.changed_since(before_it).value_or(Rect::whole(board.size));
    if (follower.has_regions) update_regions(follower.regions, follower.costs, changed);
    change.cells.push_back({cell, bit(About::cost)});
    change.blocks[mover].push_back(changed);
  }
  follower.told.clear();
}

void LiveMap::World::make_danger() {
  const AsCommitted committed(*this);
  BitGrid opaque(board.size);
  for (const Cell cell : map.size().cells()) opaque.set(cell, hides(cell));
  for (const Before& then : before) {
    opaque.set(then.cell, hides(then.cell, [&](int layer) { return occupant(then, layer); }));
  }
  sight = SightGrid(board, opaque);
  danger = ThreatField(board, void_terrain(map));
  for (Placed& placed : threats) {
    placed.id = placed.was_alive ? danger.add(sight, placed.committed) : ThreatField::no_threat;
  }
  levels_before = danger.levels();
  has_danger = true;
}

void LiveMap::World::look_again(Placed& placed) {
  if (danger.known(placed.id)) danger_blocks.push_back(danger.reach(danger.threat(placed.id)));
  if (placed.alive) danger_blocks.push_back(danger.reach(placed.threat));
  if (!placed.alive) {
    (void)danger.remove(placed.id);
    placed.id = ThreatField::no_threat;
  } else if (danger.known(placed.id)) {
    (void)danger.replace(placed.id, sight, placed.threat);
  } else {
    placed.id = danger.add(sight, placed.threat);
  }
  placed.commit();
}

void LiveMap::World::follow_danger() {
  danger_blocks.clear();
  if (!has_danger) {
    for (Placed& placed : threats) placed.commit();
    return;
  }
  for (const Before& then : before) {
    if (!map.size().contains(then.cell)) continue;
    const bool was_nowhere = map.kind(then.terrain).is_void;
    const bool nowhere = map.kind(map.terrain_at(then.cell)).is_void;
    if (hides(then.cell) == sight.opaque(then.cell) && nowhere == was_nowhere) continue;
    for (Placed& placed : threats) {  // first: should what follows be cut short, they still look again
      placed.changed = placed.changed || (placed.alive && danger.reach(placed.threat).contains(then.cell));
    }
    sight.set_opaque(then.cell, hides(then.cell));
    danger.set_nowhere(then.cell, nowhere);
  }
  for (Placed& placed : threats) {
    if (placed.changed) look_again(placed);
  }
  list_danger();
}

void LiveMap::World::list_danger() {
  const Levels& levels = danger.levels();
  for (const Rect block : danger_blocks) {
    bool differs = false;
    for (const Cell cell : block.cells()) {
      if (levels[cell] == levels_before[cell]) continue;
      differs = true;
      levels_before[cell] = levels[cell];
      change.cells.push_back({cell, bit(About::danger)});
    }
    for (MoverId mover = 0; differs && mover < followers.size(); ++mover) {
      if (followers[mover].has_levels) refresh_levels(mover, block);
    }
  }
}

/// The largest level under a large mover, for every place whose body meets a block.
void LiveMap::World::refresh_levels(MoverId mover, Rect block) {
  const Footprint body = Footprint::of_size(board.tiling, movers[mover].size);
  std::vector<Cell> cells;
  for (const Cell cell : block.grown(movers[mover].size, board.size).cells()) {
    body.cells_at(board.tiling, cell, cells);
    std::uint16_t most = 0;
    for (const Cell part : cells) most = std::max(most, danger.level(part));
    followers[mover].levels[cell] = most;
  }
}

const Change& LiveMap::World::commit() {
  change.cells.clear();
  change.blocks.resize(followers.size());
  for (std::vector<Rect>& list : change.blocks) list.clear();
  end_what_lapsed();
  list_changes();
  gather_blocks();
  for (MoverId mover = 0; mover < followers.size(); ++mover) {
    if (!followers[mover].has_costs) continue;
    followers[mover].own ? follow_caller(mover) : follow_map(mover);
  }
  follow_danger();
  std::sort(change.cells.begin(), change.cells.end(),
            [](const ChangedCell& a, const ChangedCell& b) { return a.cell < b.cell; });
  std::size_t kept = 0;
  for (const ChangedCell& changed : change.cells) {
    if (kept > 0 && change.cells[kept - 1].cell == changed.cell) {
      change.cells[kept - 1].about |= changed.about;
    } else {
      change.cells[kept++] = changed;
    }
  }
  change.cells.resize(kept);
  remember();
  for (const Before& then : before) touched.set(then.cell, false);
  before.clear();
  occupants_before.clear();
  ++change.revision;
  return change;
}

void LiveMap::World::queue_followers() {
  for (std::size_t id = 0; id < fields.size(); ++id) {
    KeptField& kept = *fields[id];
    if (!kept.kept || kept.field.made_from(followers[kept.mover].costs)) continue;
    waiting.add(static_cast<std::uint32_t>(id), kept.priority);
  }
  for (std::size_t id = 0; id < routes.size(); ++id) {
    KeptRoute& kept = *routes[id];
    if (!kept.kept || !known(kept.mover) || kept.route.notice(followers[kept.mover].costs)) continue;
    waiting.add(static_cast<std::uint32_t>(id) | route_mark, kept.priority);
  }
}

bool LiveMap::World::turn(std::uint32_t number, std::uint64_t places) {
  if ((number & route_mark) != 0) {
    StandingRoute& route = routes[number & ~route_mark]->route;
    const std::uint64_t before_turn = route.expanded();
    const bool ended = route.run(places);
    looked_at += route.expanded() - before_turn;
    return ended;
  }
  KeptField& kept = *fields[number];
  const CostGrid& grid = followers[kept.mover].costs;
  if (kept.begun && kept.work.stale()) ++kept.cut_short;
  if (places > Shares::everything / 2 || kept.cut_short >= patience) {  // all at once, the faster way
    looked_at += searcher.repair(grid, kept.field);
  } else {
    if (!kept.begun || kept.work.stale()) kept.work.begin_repair(grid, kept.field);
    kept.begun = true;
    const std::uint64_t before_turn = kept.work.looked_at();
    const bool ended = kept.work.run(places);
    looked_at += kept.work.looked_at() - before_turn;
    if (!ended) return false;
  }
  kept.begun = false;
  kept.cut_short = 0;
  return true;
}

}  // namespace saunter::inline v0_2
