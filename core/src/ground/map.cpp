#include "saunter/ground/map.hpp"

#include <utility>

namespace saunter {

Map::Map(Board board, std::vector<Terrain> kinds) : board_(board), kinds_(std::move(kinds)), terrain_(board.size) {
  SAUNTER_EXPECT(!kinds_.empty() && kinds_.size() <= max_terrain_kinds);
}

std::optional<TerrainId> Map::find_kind(std::string_view name) const {
  for (std::size_t i = 0; i < kinds_.size(); ++i) {
    if (kinds_[i].name == name) return static_cast<TerrainId>(i);
  }
  return std::nullopt;
}

void Map::set_terrain(Cell cell, TerrainId id) {
  SAUNTER_EXPECT(id < kinds_.size());
  terrain_[cell] = id;
  ++revision_;
}

void Map::set_all_terrain(Grid<TerrainId> terrain) {
  SAUNTER_EXPECT(terrain.size() == size());
  terrain_ = std::move(terrain);
  ++revision_;
}

void Map::set_all_heights(Grid<std::int16_t> heights) {
  SAUNTER_EXPECT(heights.size() == size());
  heights_ = std::move(heights);
  ++revision_;
}

void Map::set_all_closed(Grid<std::uint8_t> closed) {
  SAUNTER_EXPECT(closed.size() == size());
  closed_ = std::move(closed);
  for (std::int32_t row = 0; row < size().rows; ++row) {
    for (std::int32_t col = 0; col < size().cols; ++col) {
      const bool on_rim = row == 0 || col == 0 || row + 1 == size().rows || col + 1 == size().cols;
      if (!on_rim) continue;
      const Cell cell{col, row};
      for (Direction d = 0; d < tiling().edge_count(); ++d) {
        if (size().contains(tiling().neighbour(cell, d))) continue;
        closed_[cell] = static_cast<std::uint8_t>(closed_[cell] & ~(1U << static_cast<unsigned>(d)));
      }
    }
  }
  ++revision_;
}

void Map::set_height(Cell cell, std::int16_t height) {
  if (heights_.empty()) heights_ = Grid<std::int16_t>(size());
  heights_[cell] = height;
  ++revision_;
}

void Map::set_closed(Cell from, Direction edge, bool closed) {
  SAUNTER_EXPECT(edge >= 0 && edge < tiling().edge_count());
  if (!size().contains(tiling().neighbour(from, edge))) return;
  if (closed_.empty()) closed_ = Grid<std::uint8_t>(size());
  const auto bit = static_cast<unsigned>(1U << static_cast<unsigned>(edge));
  const unsigned sides = closed_[from];
  closed_[from] = static_cast<std::uint8_t>(closed ? sides | bit : sides & ~bit);
  ++revision_;
}

void Map::add_barrier(Cell from, Direction edge) {
  const Cell to = tiling().neighbour(from, edge);
  if (!size().contains(to)) return;
  set_closed(from, edge);
  set_closed(to, tiling().direction(to, from));
}

}  // namespace saunter
