#include "prepared_answer.hpp"

#include <algorithm>

#include "../kernel/legal_steps.hpp"
#include "saunter/search/estimate.hpp"

namespace saunter::inline v0_2::detail {
namespace {

constexpr std::uint64_t no_cost = ~std::uint64_t{0};

}  // namespace

const PreparedMap* PreparedAnswer::unchanged(const Prepared& prepared, const CostGrid& costs) {
  const bool all_as_it_was = PreparedAccess::dearer(prepared).empty() && PreparedAccess::cheaper(prepared).empty();
  return prepared.follows(costs) && all_as_it_was ? PreparedAccess::map(prepared) : nullptr;
}

bool PreparedAnswer::find(const Prepared& prepared, const CostGrid& costs, Cell from, Cell to) {
  if (!prepared.follows(costs)) return false;
  map_ = PreparedAccess::map(prepared);
  from_ = from;
  to_ = to;
  written_ = false;
  through_portals_ = false;
  looked_through_ = false;
  const bool both_known = map_->base.open(from) && map_->base.open(to);
  cost_ = both_known ? ways_.least(*map_, from, to) : no_cost;
  std::size_t near = 0;
  Cell through;
  for (const Cell cell : PreparedAccess::cheaper(prepared)) {
    if (!better_through(costs, cell, cost_)) continue;
    if (++near > 1) return false;
    through = cell;
  }
  if (near > 0) look_through(costs, through);
  if (cost_ > max_cost) return false;
  return (PreparedAccess::dearer(prepared).empty() && PreparedAccess::cheaper(prepared).empty()) || walk_again(costs);
}

/// Whether a way over a cell, or past its corner, could be cheaper, as far as the estimate tells.
bool PreparedAnswer::better_through(const CostGrid& costs, Cell cheaper, std::uint64_t than) const {
  if (than > max_cost) return true;
  const Tiling tiling = costs.tiling();
  const Estimate to_cell(costs, cheaper);
  const Estimate to_goal(costs, to_);
  std::uint64_t aside = 0;
  for (Direction d{0}; d < tiling.direction_count(); ++d)
    aside = std::max(aside, to_cell(tiling.neighbour(cheaper, d)));
  return to_cell(from_) + to_goal(cheaper) < than + 2 * aside;
}

/// The least over the old ways from the start to the cell's surroundings, the steps there as they are now, and the old
/// ways from there to the goal.
void PreparedAnswer::look_through(const CostGrid& costs, Cell cheaper) {
  looked_through_ = true;
  portals_.clear();
  const PreparedMap& map = *map_;
  const auto add = [&](Cell cell) {
    if (costs.open(cell)) portals_.push_back({cell, no_cost, portals_.size(), false});
  };
  add(cheaper);
  for (Direction d{0}; d < costs.tiling().direction_count(); ++d) add(costs.tiling().neighbour(cheaper, d));
  const bool start_known = map.base.open(from_);
  if (start_known) ways_.begin_from(map, from_);
  for (Portal& portal : portals_) {
    if (portal.cell == from_) portal.from_start = 0;
    if (!start_known || !map.base.open(portal.cell)) continue;
    const std::uint64_t there = ways_.least_to(map, portal.cell);
    if (there <= max_cost) portal.from_start = there;
  }
  settle_portals(costs);
  for (std::size_t i = 0; i < portals_.size(); ++i) {
    const Portal& portal = portals_[i];
    if (portal.from_start == no_cost) continue;
    std::uint64_t rest = no_cost;
    if (portal.cell == to_)
      rest = 0;
    else if (map.base.open(portal.cell) && map.base.open(to_))
      rest = ways_.least(map, portal.cell, to_);
    if (rest > max_cost || portal.from_start + rest >= cost_) continue;
    cost_ = portal.from_start + rest;
    last_portal_ = i;
    through_portals_ = true;
  }
}

void PreparedAnswer::settle_portals(const CostGrid& costs) {
  const Tiling tiling = costs.tiling();
  for (;;) {
    Portal* least = nullptr;
    for (Portal& portal : portals_) {
      if (!portal.settled && portal.from_start != no_cost &&
          (least == nullptr || portal.from_start < least->from_start))
        least = &portal;
    }
    if (least == nullptr) return;
    least->settled = true;
    for_each_direction(costs.moves(least->cell), [&](unsigned d) {
      const Cell next = tiling.neighbour(least->cell, Direction(d));
      const std::uint64_t cost = least->from_start + costs.cost_of_step(least->cell, Direction(d));
      for (Portal& portal : portals_) {
        if (portal.cell != next || portal.from_start <= cost) continue;
        portal.from_start = cost;
        portal.before = static_cast<std::size_t>(least - portals_.data());
      }
    });
  }
}

void PreparedAnswer::write_cells(std::vector<Cell>& out) {
  if (written_) {
    out.assign(cells_.begin(), cells_.end());
    return;
  }
  if (!through_portals_) {
    if (looked_through_) (void)ways_.least(*map_, from_, to_);  // other questions came between
    ways_.write_cells(*map_, out);
    return;
  }
  // From the last portal back to the one the old board leads to.
  part_.clear();
  std::size_t at = last_portal_;
  for (; portals_[at].before != at; at = portals_[at].before) part_.push_back(portals_[at].cell);
  const Cell first = portals_[at].cell;
  if (first == from_) {
    out.assign(1, first);
  } else {
    (void)ways_.least(*map_, from_, first);
    ways_.write_cells(*map_, out);
  }
  out.insert(out.end(), part_.rbegin(), part_.rend());
  const Cell last = portals_[last_portal_].cell;
  if (last == to_) return;
  (void)ways_.least(*map_, last, to_);
  ways_.write_cells(*map_, part_);
  out.insert(out.end(), part_.begin() + 1, part_.end());
}

/// Whether the way is legal now and costs what it should.
template <typename Moves, typename Entry>
bool PreparedAnswer::walk(const CostGrid& costs, const Moves& moves, const Entry& entry) {
  if (!written_) write_cells(cells_);
  written_ = true;
  std::uint64_t sum = 0;
  const Tiling tiling = costs.tiling();
  for (std::size_t i = 1; i < cells_.size(); ++i) {
    const Direction d = tiling.direction(cells_[i - 1], cells_[i]);
    if (d < 0 || !holds(moves(cells_[i - 1]), d)) return false;
    sum += step_cost(costs.step_length(tiling.kind(cells_[i - 1]), d), entry(cells_[i]));
  }
  return sum == cost_;
}

bool PreparedAnswer::walk_again(const CostGrid& costs) {
  return walk(
      costs, [&](Cell cell) { return costs.moves(cell); }, [&](Cell cell) { return costs.entry(cell); });
}

bool PreparedAnswer::holds_on(const CostGrid& costs, const ChangedMoves& ground) {
  bool dearer = true;
  ground.for_each([&](Cell cell, EntryCost cost) {
    const EntryCost before = costs.entry(cell);
    dearer = dearer && (cost == blocked || (before != blocked && cost >= before));
  });
  return dearer &&
         walk(
             costs, [&](Cell cell) { return ground.moves(cell); }, [&](Cell cell) { return ground.entry(cell); });
}

void PreparedAnswer::begin_legs() {
  parts_.begin(map_->base.tiling());
  if (through_portals_ && !written_) {
    write_cells(cells_);
    written_ = true;
  }
  if (!written_) ways_.begin_legs(*map_);
}

std::optional<Leg> PreparedAnswer::next_leg() {
  if (!written_) return ways_.next_leg(*map_);
  return parts_.next(cells_);
}

std::size_t PreparedAnswer::memory() const { return ways_.memory() + bytes_of(portals_, cells_, part_); }

}  // namespace saunter::inline v0_2::detail
