#include "saunter/region/joins.hpp"

#include <algorithm>
#include <cstdlib>
#include <map>
#include <tuple>

#include "../search/kernel/best_first.hpp"
#include "../search/kernel/legal_steps.hpp"
#include "../search/kernel/queue.hpp"
#include "../search/kernel/union_find.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

constexpr std::uint64_t not_reached = ~std::uint64_t{0};

/// Growth from all regions at once: for each cell the cheapest breach that leads to it, from where, and by which cell.
class Growth {
 public:
  Growth(const Map& map, const Mover& mover, const CostGrid& costs, const Regions& regions, const BreachCosts& breach)
      : map_(map),
        mover_(mover),
        costs_(costs),
        regions_(regions),
        breach_(breach),
        cost_(map.size(), not_reached),
        region_(map.size(), 0),
        before_(map.size()) {}

  void run(std::uint32_t least_cells) {
    using Entry = std::tuple<std::uint64_t, std::uint32_t, Cell>;  // cost, region, cell: ties by number, then place
    BinaryHeap<Entry> queue;
    for_each_cell([&](Cell cell) {
      const std::uint32_t region = regions_.at(cell);
      if (region == 0 || regions_.list()[region - 1].cells < least_cells) return;
      cost_[cell] = 0;
      region_[cell] = region;
      before_[cell] = cell;
      queue.enqueue({0, region, cell});
    });
    const auto look = [&](const Entry& entry) {
      const auto& [cost, region, cell] = entry;
      return cost == cost_[cell] && region == region_[cell] ? Take::expand : Take::skip;
    };
    best_first(queue, look, [&](const Entry& entry) {
      const auto [cost, region, cell] = entry;
      for_each_step(cell, [&, cost = cost, region = region, cell = cell](Cell next) {
        const Cost opening = breach_.at(next);
        if (opening == BreachCosts::never_opened) return;
        const std::uint64_t sum = cost + opening;
        if (sum > cost_[next] || (sum == cost_[next] && region >= region_[next])) return;
        cost_[next] = sum;
        region_[next] = region;
        before_[next] = cell;
        queue.enqueue({sum, region, next});
      });
    });
  }

  /// Calls visit(a, b, cost) for each step between cells that belong to different regions.
  template <typename Visit>
  void for_each_meeting(Visit&& visit) const {
    for_each_cell([&](Cell cell) {
      if (cost_[cell] == not_reached) return;
      for_each_step(cell, [&](Cell next) {
        if (cost_[next] == not_reached || region_[cell] >= region_[next]) return;
        visit(cell, next, cost_[cell] + cost_[next]);
      });
    });
  }

  [[nodiscard]] std::uint32_t region(Cell cell) const { return region_[cell]; }
  /// Cells to open from a cell back to its region, this cell's end first.
  void opened(Cell cell, std::vector<Cell>& out) const {
    for (; before_[cell] != cell; cell = before_[cell]) {
      if (!costs_.open(cell)) out.push_back(cell);
    }
  }

 private:
  template <typename F>
  void for_each_cell(F&& f) const {
    for (std::int32_t row = 0; row < map_.size().rows; ++row) {
      for (std::int32_t col = 0; col < map_.size().cols; ++col) f(Cell{col, row});
    }
  }
  /// The steps a breach can take from a cell. All of them can be taken back.
  template <typename F>
  void for_each_step(Cell cell, F&& f) const {
    const Tiling tiling = map_.tiling();
    const Neighbourhood& hood = tiling.neighbourhood();
    const auto kind = static_cast<unsigned>(tiling.kind(cell));
    const unsigned legal = costs_.open(cell) ? two_way_moves(costs_, cell) : 0;
    for (unsigned d = 0; d < static_cast<unsigned>(costs_.rules().steps); ++d) {
      const Cell next = cell + hood.offset[kind][d];
      const bool edge = d < static_cast<unsigned>(hood.edges);
      if ((legal >> d & 1U) != 0 || (edge && map_.size().contains(next) && passable(cell, d, next))) f(next);
    }
  }
  /// Whether neither a barrier nor a height limit closes an edge in either direction.
  [[nodiscard]] bool passable(Cell cell, unsigned edge, Cell next) const {
    const auto kind = static_cast<unsigned>(map_.tiling().kind(cell));
    const unsigned back = map_.tiling().neighbourhood().opposite[kind][edge];
    if (map_.closed(cell, Direction(edge)) || map_.closed(next, Direction(back))) return false;
    const std::int32_t up = std::int32_t{map_.height_at(next)} - map_.height_at(cell);
    const auto fits = [](std::int32_t difference, const std::optional<std::int32_t>& limit) {
      return !limit || difference <= *limit;
    };
    // One way it is a climb, the other way a drop.
    return fits(std::abs(up), mover_.climb) && fits(std::abs(up), mover_.drop);
  }

  const Map& map_;
  const Mover& mover_;
  const CostGrid& costs_;
  const Regions& regions_;
  const BreachCosts& breach_;
  Grid<std::uint64_t> cost_;
  Grid<std::uint32_t> region_;
  Grid<Cell> before_;
};

}  // namespace

BreachCosts::BreachCosts(const Map& map, const CostGrid& costs, const BitGrid* occupied) : costs_(map.size(), 0) {
  for (std::int32_t row = 0; row < map.size().rows; ++row) {
    for (std::int32_t col = 0; col < map.size().cols; ++col) {
      const Cell cell{col, row};
      if (costs.open(cell)) continue;
      const Terrain& kind = map.kind(map.terrain_at(cell));
      const bool shut = kind.is_void || !kind.breach || (occupied != nullptr && occupied->test(cell));
      costs_[cell] = shut ? never_opened : *kind.breach;
    }
  }
}

JoinPlan plan_joins(const Map& map, const Mover& mover, const CostGrid& costs, const Regions& regions,
                    const BreachCosts& breach, const JoinOptions& options) {
  const bool of_this_map = costs.board() == map.board() && regions.made_from(costs);
  SAUNTER_EXPECT(mover.size == 1 && of_this_map);
  if (mover.size != 1 || !of_this_map) return {};
  Growth growth(map, mover, costs, regions, breach);
  growth.run(options.least_cells);
  // The cheapest meeting of each two regions; for equal costs the first in reading order.
  struct Meeting {
    std::uint64_t cost = not_reached;
    Cell a;
    Cell b;
  };
  std::map<std::pair<std::uint32_t, std::uint32_t>, Meeting> meetings;
  growth.for_each_meeting([&](Cell a, Cell b, std::uint64_t cost) {
    Meeting& best = meetings[{growth.region(a), growth.region(b)}];
    if (std::tie(cost, a, b) < std::tie(best.cost, best.a, best.b)) best = {cost, a, b};
  });
  std::vector<Join> candidates;
  for (const auto& [pair, meeting] : meetings) {
    Join join{pair.first, pair.second, meeting.cost, {}};
    growth.opened(meeting.a, join.opens);
    std::reverse(join.opens.begin(), join.opens.end());
    growth.opened(meeting.b, join.opens);
    candidates.push_back(std::move(join));
  }
  std::stable_sort(candidates.begin(), candidates.end(), [](const Join& a, const Join& b) { return a.cost < b.cost; });

  JoinPlan plan;
  UnionFind joined(regions.list().size() + 1);
  for (Join& candidate : candidates) {
    if (!joined.join(candidate.from, candidate.to)) {
      if (plan.extra.size() < options.extra) plan.extra.push_back(std::move(candidate));
      continue;
    }
    plan.cost += candidate.cost;
    plan.joins.push_back(std::move(candidate));
  }
  std::uint32_t main = 0;
  for (const Region& region : regions.list()) {
    if (region.cells < options.least_cells) continue;
    if (main == 0) main = joined.root(region.id);
    if (joined.root(region.id) != main) plan.apart.push_back(region.id);
  }
  return plan;
}

}  // namespace saunter::inline v0_2
