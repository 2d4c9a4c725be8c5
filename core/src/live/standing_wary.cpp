#include "standing_wary.hpp"

#include <algorithm>

namespace saunter::inline v0_2::detail {

void StandingWary::stepped(Cell cell, std::uint16_t level) {
  const bool on_route = cells().size() > 1 && cells()[1] == cell;
  from_ = cell;
  exposed_ = level == 0 ? 0 : std::min(exposed_ + 1, 8U);
  passed_ = on_route ? passed_ + 1 : 0;
  if (!on_route) cells_.clear();
}

std::optional<Cell> StandingWary::first_illegal(const CostGrid& costs, const Levels& levels) const {
  const auto rest = cells();
  if (!costs.open(from_)) return from_;
  for (std::size_t i = 1; i < rest.size(); ++i) {
    const Direction d = costs.tiling().direction(rest[i - 1], rest[i]);
    const bool legal = d >= 0 && holds(costs.moves(rest[i - 1]), d);
    if (!legal || (care_.highest && levels[rest[i]] > *care_.highest)) return rest[i];
  }
  return std::nullopt;
}

StandingWary::Report StandingWary::follow(WarySearcher& searcher, const CostGrid& costs, const Levels& levels) {
  const bool had_route = !cells().empty();
  const std::optional<Cell> illegal = had_route ? first_illegal(costs, levels) : std::nullopt;
  const WaryRoute& fresh = searcher.route(costs, levels, from_, to_, {.care = care_, .exposed_before = exposed_});
  expanded_ += fresh.expanded();
  Report report;
  if (fresh.found()) report.weighed = fresh.measure().weighed;
  if (!had_route || illegal) {
    const bool found_at_last = !had_route && fresh.found();
    report.standing = found_at_last ? Standing::better : Standing::broken;
    if (!found_at_last) report.at = illegal.value_or(from_);
  } else {
    const std::uint64_t mine = exposure_of(costs, levels, cells(), care_, exposed_).weighed;
    if (!fresh.found() || mine <= fresh.measure().weighed) return report;
    report.standing = Standing::better;
  }
  cells_.assign(fresh.cells().begin(), fresh.cells().end());
  passed_ = 0;
  return report;
}

}  // namespace saunter::inline v0_2::detail
