/// @file
/// A scripted run: timed edits, and units that go where they are sent, tick by tick.
///
/// Units: ticks from 0; costs in hundredths.
/// Errors: edits that would cover a unit that goes are refused and listed.
/// Cost: what edits and plans take; each tick O(units that go) more.
/// Threads: one at a time; each thread its own.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/live/live_map.hpp"
#include "saunter/threat/wary.hpp"
#include "saunter/threat/schedule.hpp"
#include "saunter/walk/walker.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Cells get another terrain.
struct PaintEdit {
  TerrainId terrain = 0;
  std::vector<Cell> cells;
};
/// The edge between two cells is closed, or opened.
struct EdgeEdit {
  Cell first;
  Cell second;
  bool open = false;
  bool one_way = false;  ///< closing: only first to second stays open; opening: only first to second is opened
};
/// A unit of the map is put somewhere (from wherever it is), or lifted.
struct UnitEdit {
  UnitId unit = 0;
  std::optional<Cell> at = {};  ///< nothing: lifted
};
/// A threat stands elsewhere or looks elsewhere.
struct ThreatEdit {
  ThreatNumber threat = {};
  std::optional<Cell> at = {};
  std::optional<Facing> facing = {};
};

struct PlayEdit {
  std::uint32_t tick = 0;
  std::variant<PaintEdit, EdgeEdit, UnitEdit, ThreatEdit> what = {};
};

/// How a unit that goes finds its way.
enum class GoPlan : std::uint8_t { route, wary, field, walker };

struct Go {
  std::string name = {};
  MoverId mover = 0;
  Cell from = {};
  Cell to = {};
  std::uint32_t tick = 0;  ///< when it sets out
  GoPlan plan = GoPlan::route;
  WalkerKind walker = WalkerKind::explore;
  Wariness care = {};
  std::uint64_t seed = 0;
  bool leaves = false;  ///< whether it leaves the board when it arrives
};

/// A threat that keeps a schedule. A post that begins is an edit of its tick, made before those of the script: one of
/// the same tick about the same threat has the last word, until the next post begins.
struct PlaySchedule {
  ThreatNumber threat = {};
  Schedule schedule = {};
};

struct PlayScript {
  std::uint32_t ticks = 0;
  std::vector<PlayEdit> edits = {};  ///< those of one tick in the order in which they are made
  std::vector<Go> units = {};        ///< in the order in which they step
  std::vector<PlaySchedule> schedules = {};
};

/// An edit that was not made.
struct RefusedEdit {
  std::size_t edit = 0;  ///< its place in the script
  Edited why = {};
  std::optional<std::size_t> covers = {};  ///< the unit that goes which it would have covered
};

/// What has become of a unit's plan at a tick with edits.
struct PlayEvent {
  std::size_t unit = 0;
  Standing what = Standing::holds;
  std::optional<Cell> at = {};             ///< broken: the cell of the first illegal step
  std::optional<std::uint64_t> cost = {};  ///< least cost (wary: weighed) from where it stands
};

struct PlayTick {
  std::vector<Cell> changed = {};
  std::vector<RefusedEdit> refused = {};
  std::vector<PlayEvent> events = {};
};

/// How a unit that goes has fared so far.
struct Gone {
  std::vector<Cell> path = {};  ///< its cell at first, then after each of its ticks; ends where it arrived
  std::optional<std::uint32_t> arrived = {};  ///< the tick of its last step
  std::uint64_t cost = 0;                     ///< of the steps taken; waiting is free
  bool standing = false;                      ///< on the board
};

/// Runs a script on a live map, whose units and threats the edits name. The edits of a tick are made together, then
/// every unit in turn takes at most one step; what stands in its way it waits for, and goes round in the next tick if
/// it can. Deterministic.
class Play {
 public:
  /// @param live  must outlive the run and be changed by nobody else
  Play(LiveMap& live, PlayScript script);
  ~Play();
  Play(Play&&) noexcept;
  Play& operator=(Play&&) noexcept;

  /// Whether all ticks are over, or all units have arrived and no edit is left.
  [[nodiscard]] bool ended() const;
  /// Runs the next tick. @pre !ended(), else nothing is done @return what happened; it stays until the next tick
  const PlayTick& step();
  /// Ticks run so far.
  [[nodiscard]] std::uint32_t tick() const;
  [[nodiscard]] const std::vector<Gone>& units() const;
  [[nodiscard]] const PlayScript& script() const;
  [[nodiscard]] bool all_arrived() const;
  /// Places expanded for plans, and how many searches made anew in their place would have expanded.
  [[nodiscard]] std::uint64_t expanded() const;
  [[nodiscard]] std::uint64_t fresh_expanded() const;

 private:
  class Run;
  std::unique_ptr<Run> run_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
