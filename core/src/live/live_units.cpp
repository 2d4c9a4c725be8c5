// Edits of who stands where on a live map.
#include "world.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

UnitId LiveMap::add_unit(Footprint footprint, int layer, bool blocks, bool opaque) {
  world_->opaque_units.reserve(world_->units.unit_count() + 1);
  const UnitId id = world_->units.add(std::move(footprint), layer, blocks);
  if (id != 0) world_->opaque_units.push_back(opaque);
  return id;
}

Edited LiveMap::place(UnitId id, const Pose& pose) {
  if (!units().known(id)) return {EditFault::no_such_unit};
  if (units().unit(id).standing) return {EditFault::standing, units().unit(id).pose.at};
  return world_->stand(id, pose, &Occupancy::place);
}

Edited LiveMap::move(UnitId id, const Pose& pose) {
  if (!units().known(id)) return {EditFault::no_such_unit};
  if (!units().unit(id).standing) return {EditFault::lifted};
  return world_->stand(id, pose, &Occupancy::move);
}

Edited LiveMap::lift(UnitId id) {
  if (!units().known(id)) return {EditFault::no_such_unit};
  if (!units().unit(id).standing) return {EditFault::lifted};
  for (const Cell cell : units().unit(id).cells) world_->touch(cell);
  world_->units.lift(id);
  return {};
}

Edited LiveMap::move_all(std::span<const UnitMove> moves) {
  std::vector<Cell> cells;
  for (const UnitMove& move : moves) {
    if (!units().known(move.id)) return {EditFault::no_such_unit};
    if (!units().unit(move.id).standing) return {EditFault::lifted};
    cells_in_pose(board().tiling, units().unit(move.id).footprint, move.pose, cells);
    for (const Cell cell : cells) {
      if (!board().size.contains(cell)) return {EditFault::off_map, cell};
    }
  }
  // Touched first: what they cover now, and will.
  for (const UnitMove& move : moves) {
    cells_in_pose(board().tiling, units().unit(move.id).footprint, move.pose, cells);
    for (const Cell cell : units().unit(move.id).cells) world_->touch(cell);
    for (const Cell cell : cells) world_->touch(cell);
  }
  if (world_->units.move_all(moves)) return {};
  return {EditFault::occupied, moves.empty() ? Cell{} : moves.front().pose.at};
}

Edited LiveMap::remove_unit(UnitId id) {
  if (!units().known(id)) return {EditFault::no_such_unit};
  for (const Cell cell : units().unit(id).cells) world_->touch(cell);
  world_->units.remove(id);
  return {};
}

bool LiveMap::undo_units() {
  for (const Cell cell : units().changed()) world_->touch(cell);
  return world_->units.undo();
}

Edited LiveMap::keep_resident(UnitId id, bool resident) {
  return world_->units.keep(id, resident) ? Edited{} : Edited{EditFault::no_such_unit};
}

}  // namespace saunter::inline v0_2
