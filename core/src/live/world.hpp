/// @file
/// What a live map owns and what follows it.
#pragma once

#include <algorithm>

#include <memory>
#include <mutex>
#include <utility>
#include <vector>

#include "saunter/ground/bake.hpp"
#include "saunter/live/live_map.hpp"
#include "saunter/search/searcher.hpp"
#include "saunter/search/stepped_field.hpp"

namespace saunter::inline v0_2 {

namespace detail {

/// Snapshots that nobody holds, to be used again. Outlives the live map while one is held.
struct SnapshotPool {
  std::mutex mutex;
  std::vector<std::unique_ptr<Snapshot>> free;
  std::size_t count = 0;  // of all there are
  std::shared_ptr<const Snapshot> latest;
};

/// Which slot a number names: numbers count from 1 and never come back, slots are used again.
class Numbers {
 public:
  static constexpr std::size_t none = ~std::size_t{0};
  /// Before the slot is used: it may run out of memory.
  void make_room() {
    if (kept_.size() == kept_.capacity()) kept_.reserve(2 * kept_.size() + 8);
  }
  /// @pre make_room()
  std::uint32_t name(std::size_t slot) {
    kept_.push_back({++last_, static_cast<std::uint32_t>(slot)});
    return last_;
  }
  [[nodiscard]] std::size_t slot(std::uint32_t number) const {
    const auto at = find(number);
    return at != kept_.end() && at->number == number ? at->slot : none;
  }
  void forget(std::uint32_t number) {
    const auto at = find(number);
    if (at != kept_.end() && at->number == number) kept_.erase(at);
  }

 private:
  struct Named {
    std::uint32_t number = 0;
    std::uint32_t slot = 0;
  };
  [[nodiscard]] std::vector<Named>::const_iterator find(std::uint32_t number) const {
    return std::lower_bound(kept_.begin(), kept_.end(), number,
                            [](const Named& named, std::uint32_t wanted) { return named.number < wanted; });
  }
  std::vector<Named> kept_;  // in the order of their numbers
  std::uint32_t last_ = 0;
};


/// The place of one that nobody keeps, made where there is none.
template <typename Kept>
std::size_t vacant(std::vector<std::unique_ptr<Kept>>& list) {
  std::size_t id = 0;
  while (id < list.size() && list[id]->kept) ++id;
  if (id == list.size()) list.push_back(std::make_unique<Kept>());
  return id;
}

/// Numbers of routes and fields in one list of those that wait.
inline constexpr std::uint32_t route_mark = 1U << 31U;

}  // namespace detail

class LiveMap::World {
 public:
  World(Map map, std::vector<Mover> movers, int layers);
  explicit World(std::vector<CostGrid> grids);
  ~World();
  World(const World&) = delete;
  World& operator=(const World&) = delete;

  struct Follower {    // one mover's
    bool own = false;  // a grid of the caller's own numbers
    bool has_costs = false;
    bool has_regions = false;
    bool has_levels = false;
    CostGrid costs;
    Regions regions;
    Levels levels;  // movers larger than a cell
    /// A cost told between commits.
    struct Told {
      Cell cell;
      Hundredths cost;
      std::size_t number = 0;  // of those since the last commit
    };
    std::vector<Told> told;
  };
  struct KeptField {
    MoverId mover = 0;
    bool kept = false;
    bool begun = false;
    unsigned cut_short = 0;  // how often a commit came before its work had ended
    std::uint32_t priority = 1;
    Field field;
    SteppedField work;
  };
  struct KeptRoute {
    MoverId mover = 0;
    bool kept = false;
    std::uint32_t priority = 1;
    StandingRoute route;
  };
  struct Placed {
    Threat threat{.levels = {}};
    bool alive = false;
    bool changed = false;  // since the last commit; as it was then:
    Threat committed{.levels = {}};
    bool was_alive = false;
    ThreatField::ThreatId id = ThreatField::no_threat;

    void commit() {
      if (changed && alive) committed = threat;
      was_alive = alive;
      changed = false;
    }
  };
  struct Lapse {
    std::uint64_t at = 0;  // the commit that undoes it
    Cell cell;
    bool shut = false;  // else made dearer
  };

  // live_map.cpp: edits.
  /// What a cell was like at the last commit.
  struct Before {
    Cell cell;
    TerrainId terrain = 0;
    std::int16_t height = 0;
    DirectionSet closed = 0;
    bool shut = false;
    EntryCost added = 0;
    std::size_t occupants = 0;  // where those of all layers begin in `occupants_before`
  };
  /// To be called before anything of a cell is changed.
  void touch(Cell cell);
  void let_lapse(Cell cell, bool is_shut, std::optional<std::uint64_t> commits);
  [[nodiscard]] Edited refuse_pose(UnitId id, const Pose& pose) const;
  Edited stand(UnitId id, const Pose& pose, bool (Occupancy::*how)(UnitId, const Pose&));

  // commit.cpp
  const Change& commit();
  void end_what_lapsed();
  void list_changes();
  void gather_blocks();
  void follow_map(MoverId mover);
  void follow_caller(MoverId mover);
  void follow_danger();
  void look_again(Placed& placed);
  void list_danger();
  void refresh_levels(MoverId mover, Rect block);
  void make_danger();
  class AsCommitted;
  /// Lets fields and routes take in the change: at once, or when their turn comes.
  void queue_followers();
  bool turn(std::uint32_t number, std::uint64_t places);
  [[nodiscard]] std::uint8_t about(const Before& before) const;
  /// Whether a cell's terrain hides, or one of the units that occupant(layer) names.
  template <typename Occupant>
  [[nodiscard]] bool hides(Cell cell, Occupant&& occupant) const {
    bool hidden = map.kind(map.terrain_at(cell)).opaque;
    for (int layer = 0; layer < units.layers() && !hidden; ++layer) {
      const UnitId id = occupant(layer);
      hidden = id != 0 && opaque_units[id - 1];
    }
    return hidden;
  }
  [[nodiscard]] bool hides(Cell cell) const {
    return hides(cell, [&](int layer) { return units.at(cell, layer); });
  }
  /// Who was on a cell at the last commit.
  [[nodiscard]] UnitId occupant(const Before& then, int layer) const {
    return occupants_before[then.occupants + static_cast<std::size_t>(layer)];
  }

  // snapshot.cpp
  std::shared_ptr<const Snapshot> publish();
  void bring_up_to_date(Snapshot& snapshot);
  void remember();

  void copy_part(Snapshot::Part& part, const Follower& follower) const;
  CostGrid& costs(MoverId mover);
  FieldId keep(MoverId mover, std::span<const Source> sources, const FieldOptions& options, std::uint32_t priority,
               bool to_sources);
  /// Null when it is not known.
  [[nodiscard]] Placed* placed(ThreatNumber id) {
    const std::size_t slot = threat_numbers.slot(id.value());
    return slot != detail::Numbers::none ? &threats[slot] : nullptr;
  }
  [[nodiscard]] KeptRoute* kept_route(RouteId id) {
    const std::size_t slot = route_numbers.slot(id.value());
    return slot != detail::Numbers::none && routes[slot]->kept ? routes[slot].get() : nullptr;
  }
  [[nodiscard]] bool known(MoverId mover) const { return mover < followers.size(); }

  Board board;
  Map map;
  std::vector<Mover> movers;
  Occupancy units;
  std::vector<bool> opaque_units;  // by id - 1
  BitGrid shut;                    // closed for a while
  Grid<EntryCost> added;           // empty until the first
  BitGrid obstacles;               // under units in the way, or closed for a while, at the last commit
  std::vector<Lapse> lapses;
  std::vector<Placed> threats;

  std::vector<Before> before;
  std::vector<UnitId> occupants_before;
  BitGrid touched;

  Change change;
  std::vector<Rect> blocks;  // of this commit, for grids that follow the map
  std::vector<Rect> danger_blocks;
  std::vector<Cell> ground_cells;
  Rebaker rebake;
  RegionsUpdater update_regions;
  Searcher searcher;
  std::vector<Follower> followers;
  bool has_danger = false;
  SightGrid sight;
  ThreatField danger;
  Levels levels_before;
  std::vector<std::unique_ptr<KeptField>> fields;  // they stay where they are
  std::vector<std::unique_ptr<KeptRoute>> routes;
  detail::Numbers field_numbers;
  detail::Numbers route_numbers;
  detail::Numbers threat_numbers;
  Shares waiting;
  std::uint64_t looked_at = 0;

  /// What the last commits changed, for snapshots that have fallen behind.
  struct Past {
    std::uint64_t revision = 0;
    std::vector<std::vector<Rect>> blocks;
    std::vector<Rect> danger;
  };
  static constexpr std::size_t most_past = 64;
  std::vector<Past> past;  // a ring by revision
  std::shared_ptr<detail::SnapshotPool> pool = std::make_shared<detail::SnapshotPool>();
};

}  // namespace saunter::inline v0_2
