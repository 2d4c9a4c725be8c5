#include "saunter/threat/front.hpp"

#include <algorithm>
#include <bit>

#include "saunter/search/searcher.hpp"
#include "usable_ends.hpp"

namespace saunter {
namespace {

/// A place of a search with two sums.
struct TwoSums {
  std::uint32_t cell = 0;
  std::uint32_t before = no_label;
  std::uint64_t cost = 0;
  std::uint64_t exposure = 0;
};

/// What each cell must still suffer at least on its way to the goal, level x length; found backwards.
class LeastExposure {
 public:
  static constexpr std::uint64_t never = ~std::uint64_t{0};

  LeastExposure(const CostGrid& costs, const Levels& levels, std::optional<std::uint16_t> highest, Cell goal)
      : least_(costs.size().cell_count(), never) {
    struct Place {
      std::uint64_t sum = 0;
      std::uint32_t cell = 0;
      bool operator<(const Place& other) const { return sum > other.sum; }
    };
    const Size size = costs.size();
    const Neighbourhood& hood = costs.tiling().neighbourhood();
    std::vector<Place> heap = {{0, size.index(goal).value()}};
    least_[heap[0].cell] = 0;
    while (!heap.empty()) {
      std::pop_heap(heap.begin(), heap.end());
      const Place place = heap.back();
      heap.pop_back();
      if (least_[place.cell] != place.sum) continue;
      const Cell cell = size.cell(CellIndex{place.cell});
      const std::uint16_t level = levels[cell];
      if (highest && level > *highest && cell != goal) continue;  // left, but never entered
      const auto kind = static_cast<unsigned>(costs.tiling().kind(cell));
      for (unsigned d = 0; d < static_cast<unsigned>(costs.rules().steps); ++d) {
        const Cell before = cell + hood.offset[kind][d];
        const auto back = static_cast<unsigned>(hood.opposite[kind][d]);
        if (!costs.open(before) || (unsigned{costs.moves(before)} >> back & 1U) == 0) continue;
        const Length length = costs.step_length(costs.tiling().kind(before), static_cast<int>(back));
        const std::uint64_t sum = place.sum + std::uint64_t{level} * length;
        std::uint64_t& known = least_[size.index(before).value()];
        if (known <= sum) continue;
        known = sum;
        heap.push_back({sum, size.index(before).value()});
        std::push_heap(heap.begin(), heap.end());
      }
    }
  }
  [[nodiscard]] std::uint64_t at(std::uint32_t cell) const { return least_[cell]; }

 private:
  std::vector<std::uint64_t> least_;
};

}  // namespace

Front find_front(const CostGrid& costs, const Levels& levels, Cell from, Cell to, const FrontOptions& options) {
  SAUNTER_EXPECT(levels.size() == costs.size() && options.most_labels > 0);
  const std::size_t most_labels = std::max<std::size_t>(options.most_labels, 1);
  Front front;
  front.verdict = unusable_end(costs, levels, options.highest, from, to);
  if (front.verdict.reason != Reason::found) return front;

  Searcher searcher;
  const Source goal{to};
  const Field to_goal = searcher.field_to(costs, std::span(&goal, 1));
  const LeastExposure suffering(costs, levels, options.highest, to);
  const Size size = costs.size();
  const Neighbourhood& hood = costs.tiling().neighbourhood();

  struct Waiting {
    std::uint64_t cost = 0;
    std::uint64_t exposure = 0;
    std::uint32_t label = 0;
    bool operator<(const Waiting& other) const {
      if (cost != other.cost) return cost > other.cost;
      return exposure != other.exposure ? exposure > other.exposure : label < other.label;
    }
  };
  std::vector<TwoSums> labels;
  std::vector<Waiting> line;
  // In the order of cost, a place is worth going on from only with less exposure than any before it at its cell.
  std::vector<std::uint64_t> least(size.cell_count(), ~std::uint64_t{0});
  const std::uint32_t end = size.index(to).value();
  const Cost budget = options.budget.value_or(max_cost);
  const auto reach = [&](std::uint32_t cell, std::uint32_t before, std::uint64_t cost, std::uint64_t exposure) {
    const Cost remaining = to_goal.cost(size.cell(CellIndex{cell}));
    if (remaining == unreached || suffering.at(cell) == LeastExposure::never) return;
    const std::uint64_t exposure_in_all = exposure + suffering.at(cell);
    if (exposure >= least[cell] || exposure_in_all >= least[end]) return;
    if (cost + remaining > budget) return;
    if (labels.size() == most_labels) {
      front.complete = false;
      return;
    }
    line.push_back({cost + remaining, exposure_in_all, static_cast<std::uint32_t>(labels.size())});
    std::push_heap(line.begin(), line.end());
    labels.push_back({cell, before, cost, exposure});
  };
  reach(size.index(from).value(), no_label, 0, 0);
  while (!line.empty() && front.complete) {
    std::pop_heap(line.begin(), line.end());
    const Waiting next = line.back();
    line.pop_back();
    const TwoSums label = labels[next.label];
    if (label.exposure >= least[label.cell] || next.exposure >= least[end]) continue;
    least[label.cell] = label.exposure;
    if (label.cell == end) {
      TradeOff way{static_cast<Cost>(label.cost), label.exposure, {}};
      for (std::uint32_t at = next.label; at != no_label; at = labels[at].before) {
        way.cells.push_back(size.cell(CellIndex{labels[at].cell}));
      }
      std::reverse(way.cells.begin(), way.cells.end());
      front.ways.push_back(std::move(way));
      continue;
    }
    const Cell cell = size.cell(CellIndex{label.cell});
    const int kind = costs.tiling().kind(cell);
    for (unsigned left = costs.moves(cell); left != 0; left &= left - 1) {
      const int d = std::countr_zero(left);
      const Cell there = cell + hood.offset[static_cast<unsigned>(kind)][static_cast<unsigned>(d)];
      const std::uint16_t level = levels[there];
      if (options.highest && level > *options.highest) continue;
      const Length length = costs.step_length(kind, d);
      reach(size.index(there).value(), next.label, label.cost + step_cost(length, costs.entry(there)),
            label.exposure + std::uint64_t{level} * length);
    }
  }
  front.labels = labels.size();
  if (!front.ways.empty()) return front;
  // Why there is none, and how near one came, a search for the cheapest way tells.
  WarySearcher wary;
  WaryOptions plain{.care = {.wary = {}, .highest = options.highest}, .budget = options.budget};
  const Verdict& verdict = wary.route(costs, levels, from, to, plain).verdict();
  front.verdict = front.complete || verdict.reason != Reason::found ? verdict : Verdict{Reason::stopped, from};
  return front;
}

std::size_t least_weighed(const Front& front, const CostGrid& costs, const Levels& levels, const Wariness& care) {
  std::size_t best = front.ways.size();
  std::uint64_t least = 0;
  for (std::size_t i = 0; i < front.ways.size(); ++i) {
    const std::uint64_t weighed = exposure_of(costs, levels, front.ways[i].cells, care).weighed;
    if (best != front.ways.size() && weighed >= least) continue;
    best = i;
    least = weighed;
  }
  return best;
}

}  // namespace saunter
