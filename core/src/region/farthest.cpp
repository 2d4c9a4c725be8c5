#include "saunter/region/farthest.hpp"

#include <bit>

#include "../search/kernel/legal_steps.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

/// The reached cell of a region (0: of any) that costs the most, first in reading order.
Farthest highest_of(const Field& field, const Regions* regions, std::uint32_t region) {
  Farthest best;
  bool any = false;
  const Size size = field.board().size;
  for (std::int32_t row = 0; row < size.rows; ++row) {
    for (std::int32_t col = 0; col < size.cols; ++col) {
      const Cell cell{col, row};
      if (!field.reached(cell) || (regions != nullptr && regions->at(cell) != region)) continue;
      if (any && field.cost(cell) <= best.cost) continue;
      best = {cell, field.cost(cell)};
      any = true;
    }
  }
  return best;
}

/// Whether between any two cells of a region there is one way only, which can be walked in both directions.
bool is_tree(const CostGrid& costs, const Regions& regions, const Region& region) {
  std::uint64_t ends = 0;  // each step is counted at both of its ends
  for (std::int32_t row = region.box.top; row < region.box.bottom; ++row) {
    for (std::int32_t col = region.box.left; col < region.box.right; ++col) {
      const Cell cell{col, row};
      if (regions.at(cell) != region.id) continue;
      const unsigned both = two_way_moves(costs, cell);
      if (both != costs.moves(cell)) return false;
      ends += static_cast<std::uint64_t>(std::popcount(both));
    }
  }
  return ends == 2 * (std::uint64_t{region.cells} - 1);
}

}  // namespace

std::optional<Farthest> farthest_from(Searcher& searcher, const CostGrid& costs, Cell start) {
  if (!costs.open(start)) return std::nullopt;
  return highest_of(searcher.reach(costs, start), nullptr, 0);
}

std::optional<FarPair> farthest_apart(Searcher& searcher, const CostGrid& costs, const Regions& regions,
                                      std::uint32_t region) {
  SAUNTER_EXPECT(regions.made_from(costs));
  if (region < 1 || region > regions.list().size() || !regions.made_from(costs)) return std::nullopt;
  const Region& part = regions.list()[region - 1];
  Field field;
  const auto costliest = [&](Cell cell, bool to_cell) {
    const Source source{cell};
    if (to_cell) {
      searcher.field_to(costs, std::span(&source, 1), field);
    } else {
      searcher.reach(costs, std::span(&source, 1), field);
    }
    return highest_of(field, &regions, region);
  };
  const Cell one_end = costliest(part.first, false).cell;
  const Cell other_end = costliest(one_end, false).cell;
  FarPair best{one_end, one_end, 0, is_tree(costs, regions, part)};
  // Entering costs, leaving does not: which start makes the way to an end costliest is a question of its own.
  for (const Cell end : {one_end, other_end}) {
    const Farthest start = costliest(end, true);
    if (start.cost > best.cost) best = {start.cell, end, start.cost, best.exact};
  }
  return best;
}

}  // namespace saunter::inline v0_2
