#include "saunter/ground/map.hpp"

#include <algorithm>
#include <utility>

namespace saunter::inline v0_2 {

Map::Map(Board board, std::vector<Terrain> kinds) : tiling_(board.tiling), kinds_(std::move(kinds)) {
  const bool sound = !kinds_.empty() && kinds_.size() <= max_terrain_kinds;
  SAUNTER_EXPECT(sound);
  if (sound) terrain_ = Grid<TerrainId>(board.size);
}

const Terrain& Map::kind(TerrainId id) const {
  static const Terrain nothing{.cost = blocked, .is_void = true, .breach = std::nullopt};
  if (kinds_.empty()) return nothing;
  return kinds_[std::min<std::size_t>(id, kinds_.size() - 1)];
}

std::optional<TerrainId> Map::find_kind(std::string_view name) const {
  for (std::size_t i = 0; i < kinds_.size(); ++i) {
    if (kinds_[i].name == name) return static_cast<TerrainId>(i);
  }
  return std::nullopt;
}

bool Map::set_terrain(Cell cell, TerrainId id) {
  if (!size().contains(cell) || id >= kinds_.size()) return false;
  terrain_[cell] = id;
  ++revision_;
  return true;
}

bool Map::set_all_terrain(Grid<TerrainId> terrain) {
  const auto ids = std::as_const(terrain).values();
  const bool known = std::all_of(ids.begin(), ids.end(), [&](TerrainId id) { return id < kinds_.size(); });
  if (terrain.size() != size() || !known) return false;
  terrain_ = std::move(terrain);
  ++revision_;
  return true;
}

bool Map::set_all_heights(Grid<std::int16_t> heights) {
  if (heights.size() != size()) return false;
  heights_ = std::move(heights);
  ++revision_;
  return true;
}

bool Map::set_all_closed(Grid<std::uint8_t> closed) {
  if (closed.size() != size()) return false;
  const auto edges = static_cast<std::uint8_t>((1U << static_cast<unsigned>(tiling().edge_count())) - 1);
  for (std::uint8_t& sides : closed.values()) sides &= edges;
  closed_ = std::move(closed);
  for (std::int32_t row = 0; row < size().rows; ++row) {
    for (std::int32_t col = 0; col < size().cols; ++col) {
      const bool on_rim = row == 0 || col == 0 || row + 1 == size().rows || col + 1 == size().cols;
      if (!on_rim) continue;
      const Cell cell{col, row};
      for (Direction d{0}; d < tiling().edge_count(); ++d) {
        if (size().contains(tiling().neighbour(cell, d))) continue;
        closed_[cell] = static_cast<std::uint8_t>(closed_[cell] & ~(1U << d.index()));
      }
    }
  }
  ++revision_;
  return true;
}

bool Map::set_height(Cell cell, std::int16_t height) {
  if (!size().contains(cell)) return false;
  if (heights_.empty()) heights_ = Grid<std::int16_t>(size());
  heights_[cell] = height;
  ++revision_;
  return true;
}

bool Map::set_closed(Cell from, Direction edge, bool closed) {
  if (edge < 0 || edge >= tiling().edge_count() || !size().contains(from)) return false;
  if (!size().contains(tiling().neighbour(from, edge))) return false;
  if (closed_.empty()) closed_ = Grid<std::uint8_t>(size());
  const auto bit = static_cast<unsigned>(1U << edge.index());
  const unsigned sides = closed_[from];
  closed_[from] = static_cast<std::uint8_t>(closed ? sides | bit : sides & ~bit);
  ++revision_;
  return true;
}

bool Map::add_barrier(Cell from, Direction edge) {
  if (!set_closed(from, edge)) return false;
  const Cell to = tiling().neighbour(from, edge);
  return set_closed(to, tiling().direction(to, from));
}

std::vector<std::size_t> cells_of_each_kind(const Map& map) {
  std::vector<std::size_t> count(map.kinds().size(), 0);
  for (const TerrainId id : map.terrain().values()) ++count[id];
  return count;
}

}  // namespace saunter::inline v0_2
