#include "saunter/region/regions.hpp"

#include <algorithm>
#include <numeric>

#include "run_labels.hpp"

namespace saunter::inline v0_2 {
namespace {

/// Whether regions follow from open cells alone. A step across a corner that needs an open way round it joins nothing
/// that its way does not.
bool by_runs(const CostGrid& costs) {
  if (costs.has_sides()) return false;
  const bool corners_join = costs.rules().steps > costs.tiling().edge_count() && costs.rules().corners == Corners::free;
  return !corners_join || costs.tiling().shape() == Shape::square;
}

}  // namespace

Regions::Regions(const CostGrid& costs) {
  Making making;
  make(costs, making);
}

void Regions::make(const CostGrid& costs, Making& making) {
  labels_.set_stamp({});  // until they fit
  if (labels_.size() != costs.size()) labels_ = Labels(costs.size());
  labels_.set_proves_apart(true);
  if (by_runs(costs)) {
    making.runs.run(costs, labels_.names(), list_);
  } else {
    flood(costs, making.line);
  }
  labels_.numbers().resize(list_.size() + 1);
  std::iota(labels_.numbers().begin(), labels_.numbers().end(), 0U);
  labels_.set_stamp(costs.stamp());
}

/// Cell by cell, asking both ways of every step.
void Regions::flood(const CostGrid& costs, std::vector<Cell>& line) {
  const Size size = costs.size();
  const Neighbourhood& hood = costs.tiling().neighbourhood();
  Grid<std::uint32_t>& names = labels_.names();
  list_.clear();
  std::fill(names.values().begin(), names.values().end(), 0U);
  for (std::int32_t row = 0; row < size.rows; ++row) {
    for (std::int32_t col = 0; col < size.cols; ++col) {
      const Cell first{col, row};
      if (!costs.open(first) || names[first] != 0) continue;
      Region region{static_cast<std::uint32_t>(list_.size()) + 1, 0, Rect::of(first), first};
      line.assign(1, first);
      names[first] = region.id;
      for (std::size_t i = 0; i < line.size(); ++i) {
        const Cell at = line[i];
        region.box = region.box.joined(Rect::of(at));
        const auto kind = static_cast<unsigned>(costs.tiling().kind(at));
        for (const Direction d : directions(costs.moves(at))) {
          const Cell next = at + hood.offset[kind][d.index()];
          const bool both_ways = (unsigned{costs.moves(next)} >> hood.opposite[kind][d.index()] & 1U) != 0;
          if (!both_ways) labels_.set_proves_apart(false);
          if (names[next] != 0 || !both_ways) continue;
          names[next] = region.id;
          line.push_back(next);
        }
      }
      region.cells = static_cast<std::uint32_t>(line.size());
      list_.push_back(region);
    }
  }
}

const Region* Regions::largest() const {
  const auto most =
      std::max_element(list_.begin(), list_.end(), [](const Region& a, const Region& b) { return a.cells < b.cells; });
  return most == list_.end() ? nullptr : &*most;
}

}  // namespace saunter::inline v0_2
