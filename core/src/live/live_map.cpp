#include "saunter/live/live_map.hpp"

#include <algorithm>
#include <utility>

#include "world.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

std::string_view fault_name(EditFault fault) {
  switch (fault) {
    case EditFault::none: return "none";
    case EditFault::off_map: return "off-map";
    case EditFault::no_such_kind: return "no-such-kind";
    case EditFault::not_beside: return "not-beside";
    case EditFault::no_such_unit: return "no-such-unit";
    case EditFault::standing: return "standing";
    case EditFault::lifted: return "lifted";
    case EditFault::occupied: return "occupied";
    case EditFault::no_such_threat: return "no-such-threat";
    case EditFault::cannot_be: return "cannot-be";
    case EditFault::no_such_mover: return "no-such-mover";
    case EditFault::out_of_range: return "out-of-range";
    case EditFault::baked: return "baked";
  }
  return "";
}

LiveMap::World::World(Map ground, std::vector<Mover> who, int layers)
    : board(ground.board()),
      map(std::move(ground)),
      movers(std::move(who)),
      units(board, layers),
      shut(board.size),
      obstacles(board.size),
      touched(board.size) {
  followers.resize(movers.size());
}

LiveMap::World::World(std::vector<CostGrid> grids)
    : board(grids.empty() ? Board{} : grids.front().board()),
      shut(board.size),
      obstacles(board.size),
      touched(board.size) {
  SAUNTER_EXPECT(!grids.empty());
  followers.resize(grids.size());
  for (std::size_t i = 0; i < grids.size(); ++i) {
    SAUNTER_EXPECT(grids[i].board() == board);
    followers[i].own = true;
    followers[i].has_costs = true;
    followers[i].costs = std::move(grids[i]);
  }
}

/// The pool and its latest snapshot hold each other.
LiveMap::World::~World() {
  std::shared_ptr<const Snapshot> last;
  const std::lock_guard lock(pool->mutex);
  last.swap(pool->latest);
}

void LiveMap::World::touch(Cell cell) {
  if (touched.test(cell)) return;
  Before now{.cell = cell, .shut = shut.test(cell), .occupants = occupants_before.size()};
  if (!added.empty()) now.added = added[cell];
  if (map.size().contains(cell)) {
    now.terrain = map.terrain_at(cell);
    now.height = map.height_at(cell);
    now.closed = map.closed_sides(cell);
    for (int layer = 0; layer < units.layers(); ++layer) occupants_before.push_back(units.at(cell, layer));
  }
  before.push_back(now);
  touched.set(cell);
}

/// Notes when what was done to a cell for a while ends, in place of what was noted before. @param commits  nothing or
/// 0: it does not
void LiveMap::World::let_lapse(Cell cell, bool is_shut, std::optional<std::uint64_t> commits) {
  const auto found = std::find_if(lapses.begin(), lapses.end(),
                                  [&](const Lapse& lapse) { return lapse.cell == cell && lapse.shut == is_shut; });
  const bool noted = found != lapses.end();
  if (commits.value_or(0) == 0) {
    if (noted) lapses.erase(found);
  } else if (noted) {
    found->at = change.revision + 1 + *commits;
  } else {
    lapses.push_back({change.revision + 1 + *commits, cell, is_shut});
  }
}

/// Why a unit can't stand so; the first cell in the order of its footprint.
Edited LiveMap::World::refuse_pose(UnitId id, const Pose& pose) const {
  std::vector<Cell> cells;
  cells_in_pose(board.tiling, units.unit(id).footprint, pose, cells);
  for (const Cell cell : cells) {
    if (!board.size.contains(cell)) return {EditFault::off_map, cell};
    const UnitId there = units.at(cell, units.unit(id).layer);
    if (there != 0 && there != id) return {EditFault::occupied, cell, there};
  }
  return {};
}

Edited LiveMap::World::stand(UnitId id, const Pose& pose, bool (Occupancy::*how)(UnitId, const Pose&)) {
  if (const Edited refused = refuse_pose(id, pose); !refused) return refused;
  std::vector<Cell> cells;
  cells_in_pose(board.tiling, units.unit(id).footprint, pose, cells);
  for (const Cell cell : units.unit(id).cells) touch(cell);
  for (const Cell cell : cells) touch(cell);
  (void)(units.*how)(id, pose);
  return {};
}

LiveMap::LiveMap(Map map, std::vector<Mover> movers, int layers)
    : world_(std::make_unique<World>(std::move(map), std::move(movers), layers)) {}
LiveMap::LiveMap(std::vector<CostGrid> grids) : world_(std::make_unique<World>(std::move(grids))) {}
LiveMap::~LiveMap() = default;
LiveMap::LiveMap(LiveMap&&) noexcept = default;
LiveMap& LiveMap::operator=(LiveMap&&) noexcept = default;

const Map& LiveMap::map() const { return world_->map; }
const Occupancy& LiveMap::units() const { return world_->units; }
const std::vector<Mover>& LiveMap::movers() const { return world_->movers; }
Board LiveMap::board() const { return world_->board; }
std::uint64_t LiveMap::revision() const { return world_->change.revision; }
std::uint64_t LiveMap::looked_at() const { return world_->looked_at; }

Edited LiveMap::set_terrain(Cell cell, TerrainId id) {
  if (!map().size().contains(cell)) return {EditFault::off_map, cell};
  if (id >= map().kinds().size()) return {EditFault::no_such_kind, cell};
  world_->touch(cell);
  world_->map.set_terrain(cell, id);
  return {};
}

Edited LiveMap::set_height(Cell cell, std::int16_t height) {
  if (!map().size().contains(cell)) return {EditFault::off_map, cell};
  world_->touch(cell);
  world_->map.set_height(cell, height);
  return {};
}

Edited LiveMap::close_way(Cell from, Cell to, bool closed) {
  if (!map().size().contains(from)) return {EditFault::off_map, from};
  if (!map().size().contains(to)) return {EditFault::off_map, to};
  const Direction d = map().tiling().direction(from, to);
  if (d < 0 || d >= map().tiling().edge_count()) return {EditFault::not_beside, to};
  world_->touch(from);
  world_->map.set_closed(from, d, closed);
  return {};
}

Edited LiveMap::close_edge(Cell a, Cell b, bool closed) {
  if (const Edited edited = close_way(a, b, closed); !edited) return edited;
  return close_way(b, a, closed);
}

std::optional<ThreatNumber> LiveMap::add_threat(const Threat& threat) {
  if (!ThreatField::can_be(board(), threat)) return std::nullopt;
  std::vector<World::Placed>& all = world_->threats;
  world_->threat_numbers.make_room();
  std::size_t id = 0;
  while (id < all.size() && (all[id].alive || all[id].changed)) ++id;
  if (id == all.size()) all.emplace_back();
  all[id].threat = threat;
  all[id].alive = true;
  all[id].changed = true;
  return ThreatNumber(world_->threat_numbers.name(id));
}

Edited LiveMap::change_threat(ThreatNumber id, const Threat& threat) {
  World::Placed* const placed = world_->placed(id);
  if (placed == nullptr) return {EditFault::no_such_threat};
  if (!board().size.contains(threat.at)) return {EditFault::off_map, threat.at};
  if (!ThreatField::can_be(board(), threat)) return {EditFault::cannot_be, threat.at};
  placed->threat = threat;
  placed->changed = true;
  return {};
}

Edited LiveMap::remove_threat(ThreatNumber id) {
  World::Placed* const placed = world_->placed(id);
  if (placed == nullptr) return {EditFault::no_such_threat};
  placed->alive = false;
  placed->changed = true;
  world_->threat_numbers.forget(id.value());
  return {};
}

const Threat& LiveMap::threat(ThreatNumber id) const {
  static const Threat nobody{.levels = {}};
  const World::Placed* const placed = world_->placed(id);
  return placed != nullptr ? placed->threat : nobody;
}

std::size_t LiveMap::threat_count() const {
  return static_cast<std::size_t>(std::count_if(world_->threats.begin(), world_->threats.end(),
                                                [](const World::Placed& placed) { return placed.alive; }));
}

Edited LiveMap::close_for(Cell cell, std::optional<std::uint64_t> commits) {
  if (world_->map.kinds().empty()) return {EditFault::baked, cell};
  if (!board().size.contains(cell)) return {EditFault::off_map, cell};
  world_->touch(cell);
  world_->let_lapse(cell, true, commits);
  world_->shut.set(cell, commits != 0U);
  return {};
}

Edited LiveMap::add_cost(Cell cell, Hundredths more, std::optional<std::uint64_t> commits) {
  if (world_->map.kinds().empty()) return {EditFault::baked, cell};
  if (!board().size.contains(cell)) return {EditFault::off_map, cell};
  if (more > max_entry_cost) return {EditFault::out_of_range, cell};
  if (world_->added.empty()) world_->added = Grid<EntryCost>(board().size);
  world_->touch(cell);
  world_->let_lapse(cell, false, commits);
  world_->added[cell] = commits == 0U ? EntryCost{0} : static_cast<EntryCost>(more);
  return {};
}

Edited LiveMap::set_cost(MoverId grid, Cell cell, Hundredths cost) {
  if (!world_->known(grid)) return {EditFault::no_such_mover, cell};
  World::Follower& follower = world_->followers[grid];
  if (!follower.own) return {EditFault::baked, cell};
  if (!board().size.contains(cell)) return {EditFault::off_map, cell};
  if (cost > max_entry_cost) return {EditFault::out_of_range, cell};
  follower.told.push_back({cell, cost, follower.told.size()});
  return {};
}

const Change& LiveMap::commit(bool work_now) {
  const Change& change = world_->commit();
  world_->queue_followers();
  if (work_now) (void)work(Shares::everything);
  return change;
}

bool LiveMap::work(std::uint64_t places) {
  return world_->waiting.run(places,
                             [&](std::uint32_t number, std::uint64_t share) { return world_->turn(number, share); });
}
bool LiveMap::waits(FieldId id) const {
  const std::size_t slot = world_->field_numbers.slot(id.value());
  return slot != Numbers::none && world_->waiting.waits(static_cast<std::uint32_t>(slot));
}
bool LiveMap::route_waits(RouteId id) const {
  const std::size_t slot = world_->route_numbers.slot(id.value());
  return slot != Numbers::none && world_->waiting.waits(static_cast<std::uint32_t>(slot) | route_mark);
}

const CostGrid& LiveMap::costs(MoverId mover) {
  static const CostGrid nothing;
  return world_->known(mover) ? world_->costs(mover) : nothing;
}

const Regions& LiveMap::regions(MoverId mover) {
  static const Regions nothing;
  if (!world_->known(mover)) return nothing;
  World::Follower& follower = world_->followers[mover];
  if (!follower.has_regions) {
    follower.regions = Regions(world_->costs(mover));
    follower.has_regions = true;
  }
  return follower.regions;
}

const ThreatField& LiveMap::danger() {
  if (!world_->has_danger) world_->make_danger();
  return world_->danger;
}

const Levels& LiveMap::levels(MoverId mover) {
  const Levels& all = danger().levels();
  if (mover >= movers().size() || movers()[mover].size == 1) return all;
  World::Follower& follower = world_->followers[mover];
  if (!follower.has_levels) {
    follower.levels = levels_for_size(board().tiling, all, movers()[mover].size);
    follower.has_levels = true;
  }
  return follower.levels;
}

FieldId LiveMap::keep_field(MoverId mover, std::span<const Source> goals, const FieldOptions& options,
                            std::uint32_t priority) {
  return world_->keep(mover, goals, options, priority, true);
}
FieldId LiveMap::keep_reach(MoverId mover, std::span<const Source> starts, const FieldOptions& options,
                            std::uint32_t priority) {
  return world_->keep(mover, starts, options, priority, false);
}
const Field& LiveMap::field(FieldId id) const {
  static const Field nothing;
  const std::size_t slot = world_->field_numbers.slot(id.value());
  return slot != Numbers::none && world_->fields[slot]->kept ? world_->fields[slot]->field : nothing;
}
void LiveMap::drop_field(FieldId id) {
  const std::size_t slot = world_->field_numbers.slot(id.value());
  if (slot == Numbers::none) return;
  world_->fields[slot]->kept = false;
  world_->waiting.remove(static_cast<std::uint32_t>(slot));
  world_->field_numbers.forget(id.value());
}

RouteId LiveMap::keep_route(MoverId mover, Cell from, Cell to, std::uint32_t priority) {
  world_->route_numbers.make_room();
  const std::size_t slot = vacant(world_->routes);
  World::KeptRoute& kept = *world_->routes[slot];
  kept.route.begin(costs(mover), from, to);
  world_->looked_at += kept.route.expanded();
  kept.mover = mover;
  kept.priority = priority;
  kept.kept = true;
  return RouteId(world_->route_numbers.name(slot));
}
void LiveMap::stand_at(RouteId id, Cell cell) {
  if (World::KeptRoute* const kept = world_->kept_route(id)) kept->route.stand_at(cell);
}
const RouteReport& LiveMap::follow(RouteId id) {
  if (!route(id).found() && route(id).reason() == Reason::not_asked) return route(id).report();
  World::KeptRoute& kept = *world_->kept_route(id);
  const std::uint64_t before = kept.route.expanded();
  kept.route.follow(costs(kept.mover));
  world_->looked_at += kept.route.expanded() - before;
  return kept.route.report();
}
const StandingRoute& LiveMap::route(RouteId id) const {
  static const StandingRoute nothing;
  const World::KeptRoute* const kept = world_->kept_route(id);
  return kept != nullptr ? kept->route : nothing;
}
void LiveMap::drop_route(RouteId id) {
  const std::size_t slot = world_->route_numbers.slot(id.value());
  if (slot == Numbers::none) return;
  world_->routes[slot]->kept = false;
  world_->waiting.remove(static_cast<std::uint32_t>(slot) | route_mark);
  world_->route_numbers.forget(id.value());
}

std::shared_ptr<const Snapshot> LiveMap::publish() { return world_->publish(); }
std::shared_ptr<const Snapshot> LiveMap::latest() const {
  const std::lock_guard lock(world_->pool->mutex);
  return world_->pool->latest;
}

}  // namespace saunter::inline v0_2
