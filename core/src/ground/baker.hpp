/// @file
/// What turns a map and a mover into a cost grid: entry costs first, then, where barriers or heights take part, the
/// legal steps of each place.
#pragma once

#include <array>

#include "saunter/ground/bake.hpp"
#include "sweep.hpp"

namespace saunter::inline v0 {

/// Computes blocks of a cost grid; the whole grid is one block, so a repair can't differ from a fresh bake.
class CostGrid::Baker {
 public:
  Baker(CostGrid& costs, const Map& map, const Mover& mover, const BitGrid* occupied);

  static CostGrid empty_grid(const Map& map, const Mover& mover) { return {map.board(), mover.rules}; }

  /// @return what it touched
  Rect bake(Rect anchors);
  void finish_all() { costs_.count_entries(); }
  /// Bakes a block again. When it throws, nothing has changed.
  Rect rebake(Rect anchors);
  /// How far a change can reach through the mover's body.
  [[nodiscard]] std::int32_t reach() const { return mover_.size == 1 ? 0 : mover_.size; }

 private:
  class Undo;

  // Entry costs (bake_entries.cpp).
  void set_entries(Rect anchors);
  void set_entries_of_one(Rect anchors);
  void set_entries_of_many(Rect anchors);
  void shut_occupied(EntryCost* entries, Rect anchors, std::int32_t row) const;
  void set_open_bits(const EntryCost* entries, Rect anchors, std::int32_t row);
  void shut_split_places(detail::Patch<std::uint16_t>& worst, const detail::Body& body) const;

  // Legal steps (bake_sides.cpp).
  void add_sides();
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
  Tiling tiling_;
  std::array<EntryCost, max_terrain_kinds> cost_by_kind_ = {};
  bool limited_ = false;
};

}  // namespace saunter::inline v0
