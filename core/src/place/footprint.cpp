#include "saunter/place/footprint.hpp"

namespace saunter {
namespace {

Offset turned_once(Tiling tiling, Offset part) {
  return tiling.is_hex() ? Offset{-part.rows, part.cols + part.rows} : Offset{-part.rows, part.cols};
}

Offset mirrored_part(Tiling tiling, Offset part) {
  switch (tiling.shape()) {
    case Shape::hex_pointy: return {-part.cols - part.rows, part.rows};
    case Shape::hex_flat: return {-part.cols, part.rows + part.cols};
    default: return {-part.cols, part.rows};
  }
}

Cell cell_of(Tiling tiling, Cell anchor, Offset part) {
  if (!tiling.is_hex()) return anchor + part;
  const Axial at = tiling.to_axial(anchor);
  return tiling.from_axial({at.q + part.cols, at.r + part.rows});
}

}  // namespace

Footprint Footprint::turned(Tiling tiling, int turns) const {
  SAUNTER_EXPECT(turns >= 0 && (tiling.shape() != Shape::triangle || turns == 0));
  Footprint turned = *this;
  for (int i = 0; i < turns % full_turn(tiling); ++i) {
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
  SAUNTER_EXPECT(pose.turn >= 0 && pose.turn < full_turn(tiling));
  out.clear();
  for (Offset part : footprint.parts()) {
    if (pose.mirrored) part = mirrored_part(tiling, part);
    for (int i = 0; i < pose.turn; ++i) part = turned_once(tiling, part);
    out.push_back(cell_of(tiling, pose.at, part));
  }
}

}  // namespace saunter
