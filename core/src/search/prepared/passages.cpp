#include "passages.hpp"

#include "../kernel/legal_steps.hpp"

namespace saunter::inline v0_2::detail {
namespace {

/// Cells with exactly two ways on, both of which can be gone both ways.
BitGrid inside_passages(const CostGrid& costs) {
  BitGrid inside(costs.size());
  for (const Cell cell : costs.size().cells()) {
    const unsigned moves = costs.moves_on_map(cell);
    if (std::popcount(moves) == 2 && (!costs.has_sides() || moves_into(costs, cell) == moves)) inside.set(cell);
  }
  return inside;
}

/// Takes one cell in so many out of every passage that is longer, and of every circle.
void cut_long_ones(const CostGrid& costs, BitGrid& inside) {
  const Tiling tiling = costs.tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  BitGrid seen(costs.size());
  const auto follow = [&](Cell cell, unsigned direction) {
    for (int steps = 1;; ++steps) {
      const auto kind = static_cast<unsigned>(tiling.kind(cell));
      const unsigned back = hood.opposite[kind][direction];
      cell = cell + hood.offset[kind][direction];
      if (!inside.test(cell) || seen.test(cell)) return;
      seen.set(cell);
      if (steps % Passages::most_steps == 0) inside.set(cell, false);
      direction = static_cast<unsigned>(std::countr_zero(costs.moves_on_map(cell) & ~(1U << back)));
    }
  };
  for (const Cell cell : costs.size().cells()) {
    if (!costs.open(cell) || inside.test(cell) || seen.test(cell)) continue;
    for_each_direction(costs.moves_on_map(cell), [&](unsigned d) { follow(cell, d); });
  }
  // What is left are circles that no other way meets.
  for (const Cell cell : costs.size().cells()) {
    if (!inside.test(cell) || seen.test(cell)) continue;
    inside.set(cell, false);
    for_each_direction(costs.moves_on_map(cell), [&](unsigned d) { follow(cell, d); });
  }
}

}  // namespace

Passages::Passages(const CostGrid& costs) {
  BitGrid inside = inside_passages(costs);
  cut_long_ones(costs, inside);
  places_ = PlaceSet(without(costs.open_cells(), inside));
}

}  // namespace saunter::inline v0_2::detail
