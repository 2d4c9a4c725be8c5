/// @file
/// A map in play: the one place where it is changed, and everything that follows it.
///
/// Units: costs in hundredths, cells; commits counted.
/// Errors: an edit that can't be made is refused with its reason and changes nothing.
/// Cost: an edit O(1) or O(cells of its unit); a commit what its followers take, each only for what changed.
/// Threads: one at a time; snapshots are read by any number, while commits run.
#pragma once

#include <memory>
#include <optional>
#include <span>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/ground/map.hpp"
#include "saunter/live/change.hpp"
#include "saunter/live/id.hpp"
#include "saunter/live/shares.hpp"
#include "saunter/live/snapshot.hpp"
#include "saunter/live/standing_route.hpp"
#include "saunter/place/occupancy.hpp"
#include "saunter/region/regions.hpp"
#include "saunter/search/field.hpp"
#include "saunter/threat/threat_field.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

using MoverId = std::size_t;
using ThreatNumber = Id<Threat>;
using FieldId = Id<Field>;
using RouteId = Id<StandingRoute>;

/// A map, its movers, the units on it and those who watch it. Edits are collected; `commit` lets them take effect
/// together on all that was asked for: each mover's cost grid, its regions, danger, fields and standing routes. What
/// nobody has asked for costs nothing. After a commit everything equals what would be made anew from the map as it is.
///
/// ```cpp
/// saunter::LiveMap live(std::move(map), {crab});
/// const saunter::Source rally{rally_point};
/// const saunter::FieldId field = live.keep_field(0, {&rally, 1});
/// live.set_terrain({12, 4}, rubble);                         // any number of edits
/// for (const auto& changed : live.commit().cells) redraw(changed.cell);
/// const auto step = live.field(field).next(unit);            // never out of date
/// ```
/// `map()` and `units()` show an edit at once; all that follows them changes with `commit`. Memory: what its parts
/// take, and 2 bits a cell; 4 bytes more with danger. When memory runs out in a commit, the next one finishes what it
/// left.
class LiveMap {
 public:
  /// @param layers  of units, see Occupancy
  LiveMap(Map map, std::vector<Mover> movers, int layers = 1);
  /// Without a map: grids of the caller's own numbers, all of one board; see `set_cost`. @pre at least one
  explicit LiveMap(std::vector<CostGrid> grids);
  ~LiveMap();
  LiveMap(LiveMap&&) noexcept;
  LiveMap& operator=(LiveMap&&) noexcept;

  [[nodiscard]] const Map& map() const;
  [[nodiscard]] const Occupancy& units() const;
  [[nodiscard]] const std::vector<Mover>& movers() const;
  [[nodiscard]] Board board() const;
  /// Commits so far.
  [[nodiscard]] std::uint64_t revision() const;

  // Edits. Each is taken or refused at once, and takes effect with the next commit.
  Edited set_terrain(Cell cell, TerrainId id);
  Edited set_height(Cell cell, std::int16_t height);
  /// The way from one cell to one beside it across an edge.
  Edited close_way(Cell from, Cell to, bool closed = true);
  /// Both ways.
  Edited close_edge(Cell a, Cell b, bool closed = true);
  /// Makes a unit known, lifted. 0 when it has no cell or there is no such layer.
  UnitId add_unit(Footprint footprint, int layer = 0, bool blocks = true, bool opaque = false);
  Edited place(UnitId id, const Pose& pose);
  Edited lift(UnitId id);
  Edited move(UnitId id, const Pose& pose);
  /// Several at once, also into each other's places: all or none (see Occupancy::move_all).
  Edited move_all(std::span<const UnitMove> moves);
  /// Lifts a unit and forgets it: its number is never given again.
  Edited remove_unit(UnitId id);
  /// Takes the last change of who stands where back, once. False when there is none.
  bool undo_units();
  /// Makes a unit a resident, for whom ways are to be kept open, or one no more (see Occupancy::residents).
  Edited keep_resident(UnitId id, bool resident = true);
  /// @return its number; nothing when it can't be (see ThreatField::can_be)
  std::optional<ThreatNumber> add_threat(const Threat& threat);
  /// Another place, facing or anything else.
  Edited change_threat(ThreatNumber id, const Threat& threat);
  Edited remove_threat(ThreatNumber id);
  /// Nobody can enter the cell for a while: until so many commits have followed the one it takes effect with, or for
  /// good (nothing) until it is opened (0).
  Edited close_for(Cell cell, std::optional<std::uint64_t> commits = {});
  /// Entering it costs more for a while; 0 = nothing more. Where nobody can enter it changes nothing.
  Edited add_cost(Cell cell, Hundredths more, std::optional<std::uint64_t> commits = {});
  /// A cell of a grid of the caller's own: what its arrays say now.
  Edited set_cost(MoverId grid, Cell cell, Hundredths cost);
  /// The same for all cells that the caller's arrays changed in: cost_of(cell) is asked once for each.
  template <typename CostOf>
  Edited tell_changed(MoverId grid, std::span<const Cell> cells, CostOf&& cost_of) {
    for (const Cell cell : cells) {
      if (const Edited edited = set_cost(grid, cell, cost_of(cell)); !edited) return edited;
    }
    return {};
  }

  /// Lets all edits take effect. @param work  false: fields and routes wait for `work`
  /// @return what has changed; it stays until the next commit. After warm-up it allocates nothing for movers of size 1
  /// without barriers and heights, while no list grows and no regions start over
  const Change& commit(bool work = true);

  /// Goes on with fields and routes that wait, so many cells or places in all: each has its share in turn, by priority,
  /// and none starves. @return whether nothing waits any more
  bool work(std::uint64_t places);
  [[nodiscard]] bool waits(FieldId id) const;
  [[nodiscard]] bool route_waits(RouteId id) const;

  // What follows. The first question for a part makes it; from then on commits keep it up to date.
  [[nodiscard]] const CostGrid& costs(MoverId mover);
  [[nodiscard]] const Regions& regions(MoverId mover);
  [[nodiscard]] const ThreatField& danger();
  /// Danger for a mover's body: the largest of the cells it covers.
  [[nodiscard]] const Levels& levels(MoverId mover);
  /// A threat's own properties. One without levels when it is not known.
  [[nodiscard]] const Threat& threat(ThreatNumber id) const;
  [[nodiscard]] std::size_t threat_count() const;

  /// Keeps a field to goals (or a reach from starts). @param priority  its part of a frame's work, at least 1
  FieldId keep_field(MoverId mover, std::span<const Source> goals, const FieldOptions& options = {},
                     std::uint32_t priority = 1);
  FieldId keep_reach(MoverId mover, std::span<const Source> starts, const FieldOptions& options = {},
                     std::uint32_t priority = 1);
  /// While it waits it is made_from no grid. Empty when it is not known.
  [[nodiscard]] const Field& field(FieldId id) const;
  void drop_field(FieldId id);

  /// Keeps a route of least cost. Commits renew its report.
  RouteId keep_route(MoverId mover, Cell from, Cell to, std::uint32_t priority = 1);
  /// Its unit stands elsewhere now.
  void stand_at(RouteId id, Cell cell);
  /// Renews its report between commits: when its unit has left it.
  const RouteReport& follow(RouteId id);
  [[nodiscard]] const StandingRoute& route(RouteId id) const;
  void drop_route(RouteId id);

  /// Makes what was asked for so far readable on other threads, as it is now: see Snapshot. O(what changed since a
  /// snapshot that nobody holds any more was made), or a copy of it all where every one is held.
  std::shared_ptr<const Snapshot> publish();
  /// What was published last; null before. From any thread, at any time, without waiting for a commit.
  [[nodiscard]] std::shared_ptr<const Snapshot> latest() const;

  /// Cells and places looked at by all followers since it was made: what a commit's repairs took.
  [[nodiscard]] std::uint64_t looked_at() const;

 private:
  class World;
  std::unique_ptr<World> world_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
