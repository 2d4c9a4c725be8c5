#include "way_table.hpp"

#include <algorithm>

#include "../search/kernel/legal_steps.hpp"

namespace saunter::inline v0_2::detail {

void WayTable::find_gates(const CostGrid& costs, std::span<const Cell> places, const Field& from_rally) {
  Cost farthest = 0;
  for (const Cell place : places) farthest = std::max(farthest, from_rally.cost(place));
  if (inside_.size() != costs.size()) inside_ = BitGrid(costs.size());
  gates_.clear();
  for (std::int32_t row = 0; row < costs.size().rows; ++row) {
    const auto cost = from_rally.costs().row(row);
    inside_.set_row(row, [&](std::int32_t col) { return cost[static_cast<std::size_t>(col)] <= farthest; });
  }
  inside_.for_each_set([&](Cell cell) {
    bool entered = false;
    for_each_next(costs.tiling(), moves_into(costs, cell), cell,
                  [&](Cell from) { entered = entered || !inside_.test(from); });
    if (entered) gates_.push_back(cell);
  });
}

void WayTable::sort_units(const CostGrid& costs, std::span<const Cell> units) {
  near_.clear();
  far_.clear();
  same_as_.resize(units.size());
  for (std::size_t unit = 0; unit < units.size(); ++unit) {
    const auto first = std::find(units.begin(), units.begin() + static_cast<std::ptrdiff_t>(unit), units[unit]);
    same_as_[unit] = static_cast<std::size_t>(first - units.begin());
    if (same_as_[unit] != unit || !costs.open(units[unit])) continue;
    (inside_.test(units[unit]) ? near_ : far_).push_back(unit);
  }
}

void WayTable::reach_from(const CostGrid& costs, Cell unit, std::span<const Cell> places, std::span<Cost> row) {
  const Source start{unit};
  searcher_.reach(costs, {&start, 1}, field_);
  for (std::size_t place = 0; place < places.size(); ++place) row[place] = field_.cost(places[place]);
}

void WayTable::go_by_gates(const CostGrid& costs, std::span<const Cell> units, std::span<const Cell> places,
                           std::span<Cost> out, std::size_t width) {
  to_gate_.resize(far_.size());
  from_gate_.resize(places.size());
  for (const Cell gate : gates_) {
    const Source at{gate};
    searcher_.field_to(costs, {&at, 1}, field_);
    for (std::size_t i = 0; i < far_.size(); ++i) to_gate_[i] = field_.cost(units[far_[i]]);
    searcher_.reach(costs, {&at, 1}, field_, {.until = places});
    for (std::size_t place = 0; place < places.size(); ++place) from_gate_[place] = field_.cost(places[place]);
    for (std::size_t i = 0; i < far_.size(); ++i) {
      if (to_gate_[i] == unreached) continue;
      const std::span<Cost> row = out.subspan(far_[i] * width, places.size());
      for (std::size_t place = 0; place < places.size(); ++place) {
        const std::uint64_t sum = std::uint64_t{to_gate_[i]} + from_gate_[place];
        if (sum < row[place]) row[place] = static_cast<Cost>(sum);  // what is not reached is no less
      }
    }
  }
}

void WayTable::measure(const CostGrid& costs, std::span<const Cell> units, std::span<const Cell> places,
                       const Field& from_rally, std::span<Cost> out, std::size_t width) {
  std::fill(out.begin(), out.end(), unreached);
  find_gates(costs, places, from_rally);
  sort_units(costs, units);
  // A gate takes a whole field and a small one, a unit a whole one.
  if (gates_.size() * 5 < far_.size() * 4) {
    go_by_gates(costs, units, places, out, width);
  } else {
    near_.insert(near_.end(), far_.begin(), far_.end());
  }
  for (const std::size_t unit : near_) reach_from(costs, units[unit], places, out.subspan(unit * width, places.size()));
  for (std::size_t unit = 0; unit < units.size(); ++unit) {
    if (same_as_[unit] == unit) continue;
    std::copy_n(out.begin() + static_cast<std::ptrdiff_t>(same_as_[unit] * width), width,
                out.begin() + static_cast<std::ptrdiff_t>(unit * width));
  }
}

}  // namespace saunter::inline v0_2::detail
