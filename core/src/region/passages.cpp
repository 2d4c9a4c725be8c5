#include "saunter/region/passages.hpp"

#include <algorithm>

#include "saunter/ground/bake.hpp"
#include "saunter/region/regions.hpp"

namespace saunter::inline v0_2 {

std::vector<Passage> passages(const Map& map, Mover mover, int largest_size, const BitGrid* occupied) {
  std::vector<Passage> list;
  if (map.tiling().shape() == Shape::triangle) largest_size = std::min(largest_size, 1);
  for (mover.size = 1; mover.size <= largest_size; ++mover.size) {
    const CostGrid costs = bake(map, mover, occupied);
    const Regions regions(costs);
    const Region* const largest = regions.largest();
    if (largest == nullptr) break;
    list.push_back({mover.size, costs.open_cells().count(), regions.list().size(), largest->cells});
  }
  return list;
}

}  // namespace saunter::inline v0_2
