/// @file
/// The search one would write first, to measure ours against.
#pragma once

#include <algorithm>
#include <functional>
#include <queue>
#include <vector>

#include "saunter/ground/cost_grid.hpp"

namespace saunter::bench {

/// The first version a good programmer writes, over flat arrays of its own.
class Textbook {
 public:
  explicit Textbook(const CostGrid& costs)
      : costs_(costs),
        entry_(costs.entries().begin(), costs.entries().end()),
        cost_(entry_.size(), unreached),
        parent_(entry_.size()),
        closed_(entry_.size(), 0) {}

  Cost route(Cell from, Cell to, bool guided) {
    for (const std::uint32_t at : touched_) {
      cost_[at] = unreached;
      closed_[at] = 0;
    }
    touched_.clear();
    const auto estimate = [&](Cell c) -> std::uint64_t {
      if (!guided) return 0;
      const auto cols = static_cast<std::uint64_t>(std::abs(c.col - to.col));
      const auto rows = static_cast<std::uint64_t>(std::abs(c.row - to.row));
      if (costs_.rules().steps == 4) return 100 * (cols + rows);
      return 141 * std::min(cols, rows) + 100 * (std::max(cols, rows) - std::min(cols, rows));
    };
    using Entry = std::pair<std::uint64_t, std::uint32_t>;
    std::priority_queue<Entry, std::vector<Entry>, std::greater<>> open;
    const Size size = costs_.size();
    const std::uint32_t start = size.index(from).value();
    cost_[start] = 0;
    touched_.push_back(start);
    open.push({estimate(from), start});
    while (!open.empty()) {
      const std::uint32_t at = open.top().second;
      open.pop();
      if (closed_[at] != 0) continue;
      closed_[at] = 1;
      const Cell cell = size.cell(CellIndex{at});
      if (cell == to) return cost_[at];
      for (Direction d{0}; d < costs_.rules().steps; ++d) {
        if (costs_.has_sides() && (costs_.moves(cell) >> d & 1) == 0) continue;  // a wall between cells
        const Cell next = costs_.tiling().neighbour(cell, d);
        if (!size.contains(next)) continue;
        const std::uint32_t index = size.index(next).value();
        if (entry_[index] == 0) continue;
        if (costs_.tiling().shape() == Shape::square && d >= 4) {  // no cutting corners
          if (entry_[size.index({next.col, cell.row}).value()] == 0 ||
              entry_[size.index({cell.col, next.row}).value()] == 0)
            continue;
        }
        const Cost cost =
            cost_[at] + step_cost(d >= 4 && costs_.tiling().shape() == Shape::square ? 141 : 100, entry_[index]);
        if (closed_[index] != 0 || cost >= cost_[index]) continue;
        if (cost_[index] == unreached) touched_.push_back(index);
        cost_[index] = cost;
        parent_[index] = at;
        open.push({cost + estimate(next), index});
      }
    }
    return unreached;
  }

 private:
  const CostGrid& costs_;
  std::vector<EntryCost> entry_;
  std::vector<Cost> cost_;
  std::vector<std::uint32_t> parent_;
  std::vector<std::uint8_t> closed_;
  std::vector<std::uint32_t> touched_;
};

/// What a good programmer writes in a day: the same with a ring of buckets, one for each cost, in place of the heap.
class PlainRing {
 public:
  explicit PlainRing(const CostGrid& costs)
      : costs_(costs),
        buckets_(std::size_t{2} * costs.highest_step() + 2),
        cost_(costs.size().cell_count(), unreached),
        parent_(cost_.size()) {}

  Cost route(Cell from, Cell to, bool guided) {
    for (const std::uint32_t at : touched_) cost_[at] = unreached;
    touched_.clear();
    for (auto& bucket : buckets_) bucket.clear();
    const bool square = costs_.tiling().shape() == Shape::square;
    const auto estimate = [&](Cell c) -> std::size_t {
      if (!guided) return 0;
      const auto cols = static_cast<std::size_t>(std::abs(c.col - to.col));
      const auto rows = static_cast<std::size_t>(std::abs(c.row - to.row));
      if (costs_.rules().steps == 4) return 100 * (cols + rows);
      return 141 * std::min(cols, rows) + 100 * (std::max(cols, rows) - std::min(cols, rows));
    };
    const Size size = costs_.size();
    const std::uint32_t start = size.index(from).value();
    cost_[start] = 0;
    touched_.push_back(start);
    std::size_t total = estimate(from);
    buckets_[total % buckets_.size()].push_back(start);
    for (std::size_t waiting = 1; waiting > 0; ++total) {
      auto& bucket = buckets_[total % buckets_.size()];
      while (!bucket.empty()) {
        const std::uint32_t at = bucket.back();
        bucket.pop_back();
        --waiting;
        const Cell cell = size.cell(CellIndex{at});
        if (cost_[at] + estimate(cell) != total) continue;
        if (cell == to) return cost_[at];
        for (Direction d{0}; d < costs_.rules().steps; ++d) {
          const Cell next = costs_.tiling().neighbour(cell, d);
          if (!size.contains(next) || costs_.entry(next) == blocked) continue;
          if (square && d >= 4) {  // no cutting corners
            if (costs_.entry(Cell{next.col, cell.row}) == blocked || costs_.entry(Cell{cell.col, next.row}) == blocked)
              continue;
          }
          const std::uint32_t index = size.index(next).value();
          const Cost cost = cost_[at] + step_cost(square && d >= 4 ? 141 : 100, costs_.entry(next));
          if (cost >= cost_[index]) continue;
          if (cost_[index] == unreached) touched_.push_back(index);
          cost_[index] = cost;
          parent_[index] = at;
          buckets_[(cost + estimate(next)) % buckets_.size()].push_back(index);
          ++waiting;
        }
      }
    }
    return unreached;
  }

 private:
  const CostGrid& costs_;
  std::vector<std::vector<std::uint32_t>> buckets_;
  std::vector<Cost> cost_;
  std::vector<std::uint32_t> parent_;
  std::vector<std::uint32_t> touched_;
};

}  // namespace saunter::bench
