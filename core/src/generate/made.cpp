#include "saunter/generate/made.hpp"

#include <algorithm>
#include <array>

namespace saunter::inline v0_2 {

std::size_t Made::open_count() const {
  const std::span<const Part> values = parts.values();
  return static_cast<std::size_t>(
      std::count_if(values.begin(), values.end(), [](Part part) { return part >= Part::floor; }));
}

Map to_map(const Made& made, std::vector<Terrain> kinds, const PartTerrains& terrains) {
  const std::size_t count = kinds.size();
  const std::array of_part = {terrains.beyond, terrains.wall, terrains.floor, terrains.door};
  for (const TerrainId id : of_part) {
    SAUNTER_EXPECT(id < count);
    if (id >= count) return {};
  }
  Map map({made.tiling, made.size()}, std::move(kinds));
  Grid<TerrainId> terrain(made.size());
  const std::span<const Part> parts = made.parts.values();
  std::transform(parts.begin(), parts.end(), terrain.values().begin(),
                 [&](Part part) { return of_part[static_cast<std::size_t>(part)]; });
  (void)map.set_all_terrain(std::move(terrain));
  if (!made.closed.empty()) (void)map.set_all_closed(made.closed);
  return map;
}

CostGrid to_costs(Made&& made, Hundredths entry) {
  SAUNTER_EXPECT(entry <= max_entry_cost);
  const auto open = static_cast<EntryCost>(std::min<Cost>(entry, max_entry_cost));
  Grid<EntryCost> entries(made.size());
  const std::span<const Part> parts = made.parts.values();
  std::transform(parts.begin(), parts.end(), entries.values().begin(),
                 [open](Part part) { return part >= Part::floor ? open : blocked; });
  Grid<std::uint8_t> steps = std::move(made.closed);
  for (std::uint8_t& set : steps.values()) set = static_cast<std::uint8_t>(~unsigned{set});
  const int edges = made.tiling.edge_count();
  return CostGrid::from_planes({made.tiling, made.size()}, {.steps = edges}, std::move(entries), std::move(steps));
}

Grid<Part> parts_of(Tiling tiling, const BitGrid& open) {
  Grid<Part> parts(open.size(), Part::beyond);
  for (const Cell cell : open.size().cells()) {
    if (!open.test(cell)) continue;
    parts[cell] = Part::floor;
    for (Direction d{0}; d < tiling.direction_count(); ++d) {
      const Cell next = tiling.neighbour(cell, d);
      if (open.size().contains(next) && !open.test(next)) parts[next] = Part::wall;
    }
  }
  return parts;
}

}  // namespace saunter::inline v0_2
