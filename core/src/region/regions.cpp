#include "saunter/region/regions.hpp"

#include <bit>

namespace saunter {

Regions::Regions(const CostGrid& costs) : labels_(costs.size()) {
  const Size size = costs.size();
  const Neighbourhood& hood = costs.tiling().neighbourhood();
  std::vector<Cell> line;
  for (std::int32_t row = 0; row < size.rows; ++row) {
    for (std::int32_t col = 0; col < size.cols; ++col) {
      const Cell first{col, row};
      if (!costs.open(first) || labels_[first] != 0) continue;
      Region region{static_cast<std::uint32_t>(list_.size()) + 1, 0, Rect::of(first), first};
      line.assign(1, first);
      labels_[first] = region.id;
      for (std::size_t i = 0; i < line.size(); ++i) {
        const Cell at = line[i];
        region.box = region.box.joined(Rect::of(at));
        const auto kind = static_cast<unsigned>(costs.tiling().kind(at));
        for (unsigned left = costs.moves(at); left != 0; left &= left - 1) {
          const auto d = static_cast<unsigned>(std::countr_zero(left));
          const Cell next = at + hood.offset[kind][d];
          const unsigned from_next = costs.moves(next);
          if (labels_[next] != 0 || ((from_next >> hood.opposite[kind][d]) & 1U) == 0) continue;
          labels_[next] = region.id;
          line.push_back(next);
        }
      }
      region.cells = static_cast<std::uint32_t>(line.size());
      list_.push_back(region);
    }
  }
}

}  // namespace saunter
