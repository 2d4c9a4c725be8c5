#include "saunter/threat/weighed_ground.hpp"

#include "../search/kernel/legal_steps.hpp"

namespace saunter::inline v0_2 {

std::optional<CostGrid> weighed_ground(const CostGrid& costs, const Levels& levels, const Wariness& care) {
  const Size size = costs.size();
  SAUNTER_EXPECT(levels.size() == size);
  if (care.linger > 0) return std::nullopt;
  bool any_shunned = false;
  Grid<EntryCost> entries(size);
  for (const Cell cell : size.cells()) {
    const EntryCost entry = costs.entry(cell);
    if (entry == blocked) continue;
    const std::uint16_t level = levels[cell];
    const bool shunned = care.highest && level > *care.highest;
    any_shunned = any_shunned || shunned;
    const std::uint64_t weighed = entry + (shunned ? 0 : std::uint64_t{Length{care.wary}} * level);
    if (weighed > max_entry_cost) return std::nullopt;
    entries[cell] = static_cast<EntryCost>(weighed);
  }
  if (!any_shunned && !costs.has_sides())
    return CostGrid::from_planes(costs.board(), costs.rules(), std::move(entries));
  const Neighbourhood& hood = costs.tiling().neighbourhood();
  Grid<DirectionSet> steps(size);
  for (const Cell cell : size.cells()) {
    const unsigned legal = costs.moves(cell);
    const auto kind = static_cast<unsigned>(costs.tiling().kind(cell));
    unsigned taken = legal;
    detail::for_each_direction(any_shunned ? legal : 0, [&](unsigned d) {
      if (levels[cell + hood.offset[kind][d]] > *care.highest) taken &= ~(1U << d);
    });
    steps[cell] = static_cast<DirectionSet>(taken);
  }
  return CostGrid::from_planes(costs.board(), costs.rules(), std::move(entries), std::move(steps),
                               PlaneCorners::as_given);
}

}  // namespace saunter::inline v0_2
