#include "dead_ends.hpp"

#include <algorithm>

#include "legal_steps.hpp"

namespace saunter::inline v0::detail {
namespace {

/// The steps that arrive at a place join it too.
template <typename Sets>
void join_both_ways(const CostGrid& costs, Sets& joined) {
  const Size size = costs.size();
  const Tiling tiling = costs.tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  for (const Cell cell : size.cells()) {
    const auto kind = static_cast<unsigned>(tiling.kind(cell));
    for_each_direction(joined[size.index(cell).value()], [&](unsigned d) {
      auto& there = joined[size.index(cell + hood.offset[kind][d]).value()];
      there = static_cast<typename Sets::value_type>(there | 1U << hood.opposite[kind][d]);
    });
  }
}

}  // namespace

bool DeadEnds::join_up(const CostGrid& costs, const ChangedMoves& ground) {
  const Size size = costs.size();
  by_bytes_ = costs.tiling().direction_count() <= 8;
  const auto fill = [&](auto& joined) {
    using Set = typename std::remove_reference_t<decltype(joined)>::value_type;
    joined.resize(size.cell_count());
    const std::span<const std::uint8_t> stored = costs.stored_moves();
    if (!stored.empty() && !ground.any()) {
      std::copy(stored.begin(), stored.end(), joined.begin());
    } else {
      std::size_t next = 0;
      for (const Cell cell : size.cells()) joined[next++] = static_cast<Set>(ground.moves(cell));
    }
    // Without barriers and height limits every step has a way back.
    if (costs.has_sides()) join_both_ways(costs, joined);
  };
  if (by_bytes_) {
    fill(narrow_);
  } else {
    fill(wide_);
  }
  return by_bytes_;
}

}  // namespace saunter::inline v0::detail
