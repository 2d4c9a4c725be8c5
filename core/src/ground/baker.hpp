/// @file
/// What turns a map and a mover into a cost grid: entry costs first, then, where barriers or heights take part, the
/// legal steps of each place.
#pragma once

#include <algorithm>
#include <array>
#include <vector>

#include "saunter/ground/bake.hpp"
#include "sweep.hpp"

namespace saunter::inline v0_2 {

/// Computes blocks of a cost grid; the whole grid is one block, so a repair can't differ from a fresh bake.
class CostGrid::Baker {
 public:
  Baker(CostGrid& costs, const Map& map, const Mover& mover, const BitGrid* occupied, const Grid<EntryCost>* added);

  static CostGrid empty_grid(const Map& map, const Mover& mover) {
    CostGrid costs(map.board(), mover.rules);
    costs.mover_size_ = mover.size;
    if (mover.size > 1) costs.ground_ = Grid<EntryCost>(map.size());
    return costs;
  }

  /// @return what it touched
  Rect bake(Rect anchors);
  void finish_all() { costs_.count_entries(); }
  /// A block as it was.
  struct Kept {
    struct Place {
      EntryCost entry = blocked;
      EntryCost ground = blocked;
      bool split = false;
    };
    struct Steps {
      DirectionSet legal = 0;
      DirectionSet unbarred = 0;
      std::uint8_t walls = 0;
    };
    std::vector<Place> places;
    std::vector<Steps> steps;
  };
  /// Bakes a block again. When it throws, nothing has changed. @param kept  scratch
  Rect rebake(Rect anchors, Kept& kept);
  /// How far a change can reach through the mover's body.
  [[nodiscard]] std::int32_t reach() const { return mover_.size == 1 ? 0 : mover_.size; }

 private:
  class Undo;

  // Entry costs (bake_entries.cpp).
  [[nodiscard]] EntryCost cost_at(Cell cell, TerrainId kind) const {
    const EntryCost cost = cost_by_kind_[kind];
    if (added_ == nullptr || cost == blocked) return cost;
    return static_cast<EntryCost>(std::min<std::uint32_t>(std::uint32_t{cost} + (*added_)[cell], max_entry_cost));
  }
  void make_room(Rect anchors);
  void set_entries(Rect anchors);
  void set_entries_of_one(Rect anchors);
  void set_entries_of_many(Rect anchors);
  void shut_occupied(EntryCost* entries, Rect anchors, std::int32_t row) const;
  void set_open_bits(const EntryCost* entries, Rect anchors, std::int32_t row);
  void find_split_places(Rect anchors, const detail::Body& body);

  // Legal steps (bake_sides.cpp).
  void add_sides();
  void set_walls(Rect block);
  static void write_row(Sides& sides, detail::Run run, const DirectionSet* sets);
  void set_sides(Rect anchors);
  void set_sides_of_band(Rect anchors);
  void set_level(detail::Patch<DirectionSet>& level) const;
  void move_to_anchors(detail::Patch<DirectionSet>& patch, const detail::Body& body) const;
  [[nodiscard]] detail::Patch<DirectionSet> open_neighbours(Rect rect) const;
  void combine_steps(Rect anchors, const detail::Patch<DirectionSet>& unbarred,
                     const detail::Patch<DirectionSet>& level, const detail::Patch<DirectionSet>& open);

  CostGrid& costs_;
  const Map& map_;
  const Mover& mover_;
  const BitGrid* occupied_;
  const Grid<EntryCost>* added_;
  Tiling tiling_;
  std::array<EntryCost, max_terrain_kinds> cost_by_kind_ = {};
  bool limited_ = false;
};

}  // namespace saunter::inline v0_2
