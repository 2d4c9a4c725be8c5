#include "saunter/place/footprint.hpp"

#include <algorithm>

namespace saunter::inline v0_2 {
namespace {

Offset turned_once(Tiling tiling, Offset part) {
  const std::int32_t up = wrapping_subtract(0, part.rows);
  return tiling.is_hex() ? Offset{up, wrapping_add(part.cols, part.rows)} : Offset{up, part.cols};
}

Offset mirrored_part(Tiling tiling, Offset part) {
  const std::int32_t left = wrapping_subtract(0, part.cols);
  switch (tiling.shape()) {
    case Shape::hex_pointy: return {wrapping_subtract(left, part.rows), part.rows};
    case Shape::hex_flat: return {left, wrapping_add(part.rows, part.cols)};
    default: return {left, part.rows};
  }
}

/// Turns from 0 to full_turn - 1.
int turns_left(Tiling tiling, int turns) {
  SAUNTER_EXPECT(turns >= 0 && (tiling.shape() != Shape::triangle || turns == 0));
  const int full = full_turn(tiling);
  return (turns % full + full) % full;
}

Cell cell_of(Tiling tiling, Cell anchor, Offset part) {
  if (!tiling.is_hex()) return anchor + part;
  const Axial at = tiling.to_axial(anchor);
  return tiling.from_axial({wrapping_add(at.q, part.cols), wrapping_add(at.r, part.rows)});
}

}  // namespace

Footprint::Footprint(std::vector<Offset> parts) : parts_(std::move(parts)) {
  const auto before = [](Offset a, Offset b) { return a.rows != b.rows ? a.rows < b.rows : a.cols < b.cols; };
  std::vector<Offset> sorted = parts_;
  std::sort(sorted.begin(), sorted.end(), before);
  const bool each_once = std::adjacent_find(sorted.begin(), sorted.end()) == sorted.end();
  SAUNTER_EXPECT(each_once);
  if (each_once) return;
  sorted.erase(std::unique(sorted.begin(), sorted.end()), sorted.end());
  parts_ = std::move(sorted);
}

Footprint Footprint::of_size(Tiling tiling, int size) {
  std::vector<Cell> body;
  body_cells(tiling, {0, 0}, size, body);
  std::vector<Offset> parts;
  for (const Cell cell : body) {
    const Axial axial = tiling.is_hex() ? tiling.to_axial(cell) : Axial{cell.col, cell.row};
    const Axial origin = tiling.is_hex() ? tiling.to_axial({0, 0}) : Axial{};
    parts.push_back({axial.q - origin.q, axial.r - origin.r});
  }
  Footprint made(std::move(parts));
  made.either_way_up_ = true;
  return made;
}

Footprint Footprint::turned(Tiling tiling, int turns) const {
  Footprint turned = *this;
  for (int i = turns_left(tiling, turns); i > 0; --i) {
    for (Offset& part : turned.parts_) part = turned_once(tiling, part);
  }
  return turned;
}

Footprint Footprint::mirrored(Tiling tiling) const {
  Footprint mirrored = *this;
  for (Offset& part : mirrored.parts_) part = mirrored_part(tiling, part);
  return mirrored;
}

void Footprint::cells_at(Tiling tiling, Cell anchor, std::vector<Cell>& out) const {
  cells_in_pose(tiling, *this, {anchor}, out);
}

void cells_in_pose(Tiling tiling, const Footprint& footprint, const Pose& pose, std::vector<Cell>& out) {
  const int turns = turns_left(tiling, pose.turn);
  out.clear();
  for (Offset part : footprint.parts()) {
    if (pose.mirrored) part = mirrored_part(tiling, part);
    for (int i = 0; i < turns; ++i) part = turned_once(tiling, part);
    out.push_back(cell_of(tiling, pose.at, part));
  }
}

}  // namespace saunter::inline v0_2
