#include "saunter/place/footprint.hpp"

namespace saunter {

Footprint Footprint::turned(Tiling tiling, int turns) const {
  SAUNTER_EXPECT(turns >= 0 && (tiling.shape() != Shape::triangle || turns == 0));
  Footprint turned = *this;
  for (int i = 0; i < turns % full_turn(tiling); ++i) {
    for (Offset& part : turned.parts_) {
      part = tiling.is_hex() ? Offset{-part.rows, part.cols + part.rows} : Offset{-part.rows, part.cols};
    }
  }
  return turned;
}

void Footprint::cells_at(Tiling tiling, Cell anchor, std::vector<Cell>& out) const {
  out.clear();
  for (const Offset part : parts_) {
    if (tiling.is_hex()) {
      const Axial at = tiling.to_axial(anchor);
      out.push_back(tiling.from_axial({at.q + part.cols, at.r + part.rows}));
    } else {
      out.push_back(anchor + part);
    }
  }
}

}  // namespace saunter
