#include "saunter/threat/front.hpp"

#include <algorithm>

#include "../search/kernel/best_first.hpp"
#include "../search/kernel/legal_steps.hpp"
#include "../search/kernel/pack.hpp"
#include "../search/kernel/queue.hpp"
#include "saunter/search/searcher.hpp"
#include "usable_ends.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

constexpr std::uint64_t never = ~std::uint64_t{0};

/// What each cell must still suffer at least on its route to the goal, level x length; found backwards.
std::vector<std::uint64_t> least_exposure(const CostGrid& costs, const Levels& levels,
                                          std::optional<std::uint16_t> highest, Cell goal) {
  const auto cols = static_cast<std::uint32_t>(costs.size().cols);
  const Neighbourhood& hood = costs.tiling().neighbourhood();
  const StepTable steps(costs.board());
  const std::span<const std::uint16_t> level = levels.values();
  std::vector<std::uint64_t> least(costs.size().cell_count(), never);
  std::vector<bool> settled(least.size(), false);
  LongRing queue;
  queue.begin();
  const auto index_of = [cols](std::uint32_t packed) { return (packed >> 16U) * cols + (packed & 0xFFFFU); };
  const auto reach = [&](std::uint32_t packed, std::uint32_t index, std::uint64_t sum) {
    if (least[index] <= sum) return;
    least[index] = sum;
    queue.enqueue({packed, 0, 0}, sum);
  };
  reach(pack(goal), index_of(pack(goal)), 0);
  const auto look = [&](const State& state) {
    const std::uint32_t index = index_of(state.cell);
    if (settled[index]) return Take::skip;  // the first time it comes is the least
    settled[index] = true;
    return Take::expand;
  };
  best_first(queue, look, [&](const State& state) {
    const std::uint32_t index = index_of(state.cell);
    if (highest && level[index] > *highest && state.cell != pack(goal)) return;  // left, but never entered
    const Cell cell = unpack(state.cell);
    const auto kind = static_cast<unsigned>(costs.tiling().kind(cell));
    for_each_direction(moves_into(costs, cell), [&](unsigned d) {
      const Length length = costs.step_length(hood.kind_after[kind][d], hood.opposite[kind][d]);
      reach(state.cell + steps.packed[kind][d], index + steps.index[kind][d],
            least[index] + std::uint64_t{level[index]} * length);
    });
  });
  return least;
}

/// A search with two sums, in the order of cost: a state is worth going on from only with less exposure than any
/// before it at its cell.
class FrontSearch {
 public:
  FrontSearch(const CostGrid& costs, const Levels& levels, Cell from, Cell to, const FrontOptions& options)
      : costs_(costs),
        levels_(levels),
        options_(options),
        most_labels_(std::max<std::size_t>(options.most_labels, 1)),
        budget_(options.budget.value_or(Hundredths(max_cost))),
        from_(costs.size().index(from).value()),
        to_(costs.size().index(to).value()),
        suffering_(least_exposure(costs, levels, options.highest, to)),
        least_(costs.size().cell_count(), never) {
    Searcher searcher;
    const Source goal{to};
    searcher.field_to(costs, std::span(&goal, 1), to_goal_);
  }

  void run(Front& front) {
    reach(from_, no_label, 0, 0);
    const auto look = [&](const Waiting& next) {
      if (!complete_) return Take::stop;
      const TwoSums& label = labels_[next.label];
      if (label.exposure >= least_[label.cell] || next.exposure >= least_[to_]) return Take::skip;
      least_[label.cell] = label.exposure;
      if (label.cell != to_) return Take::expand;
      front.routes.push_back(way_to(next.label));
      return Take::skip;
    };
    best_first(queue_, look, [&](const Waiting& next) { expand(next.label); });
    front.complete = complete_;
    front.labels = labels_.size();
  }

 private:
  struct TwoSums {
    std::uint32_t cell = 0;
    std::uint32_t before = no_label;
    std::uint64_t cost = 0;
    std::uint64_t exposure = 0;
  };
  struct Waiting {
    std::uint64_t cost = 0;  // of the whole route, at least; exposure too
    std::uint64_t exposure = 0;
    std::uint32_t label = 0;
    friend bool operator<(const Waiting& a, const Waiting& b) {
      if (a.cost != b.cost) return a.cost < b.cost;
      return a.exposure != b.exposure ? a.exposure < b.exposure : a.label > b.label;
    }
  };

  void reach(std::uint32_t cell, std::uint32_t before, std::uint64_t cost, std::uint64_t exposure) {
    const Cost remaining = to_goal_.cost(costs_.size().cell(CellIndex{cell}));
    if (remaining == unreached || suffering_[cell] == never) return;
    const std::uint64_t exposure_in_all = exposure + suffering_[cell];
    if (exposure >= least_[cell] || exposure_in_all >= least_[to_]) return;
    if (cost + remaining > budget_) return;
    complete_ = complete_ && labels_.size() < most_labels_;
    if (!complete_) return;
    queue_.enqueue({cost + remaining, exposure_in_all, static_cast<std::uint32_t>(labels_.size())});
    labels_.push_back({cell, before, cost, exposure});
  }

  void expand(std::uint32_t number) {
    const TwoSums label = labels_[number];  // a copy: more are taken
    const Cell cell = costs_.size().cell(CellIndex{label.cell});
    const int kind = costs_.tiling().kind(cell);
    for_each_direction(costs_.moves(cell), [&](unsigned d) {
      const Cell there = cell + costs_.tiling().neighbourhood().offset[static_cast<unsigned>(kind)][d];
      const std::uint16_t level = levels_[there];
      if (options_.highest && level > *options_.highest) return;
      const Length length = costs_.step_length(kind, static_cast<int>(d));
      reach(costs_.size().index(there).value(), number, label.cost + step_cost(length, costs_.entry(there)),
            label.exposure + std::uint64_t{level} * length);
    });
  }

  [[nodiscard]] TradeOff way_to(std::uint32_t number) const {
    TradeOff way{static_cast<Cost>(labels_[number].cost), labels_[number].exposure, {}};
    for (; number != no_label; number = labels_[number].before)
      way.cells.push_back(costs_.size().cell(CellIndex{labels_[number].cell}));
    std::reverse(way.cells.begin(), way.cells.end());
    return way;
  }

  const CostGrid& costs_;
  const Levels& levels_;
  const FrontOptions& options_;
  const std::size_t most_labels_;
  const Cost budget_;
  const std::uint32_t from_;
  const std::uint32_t to_;
  const std::vector<std::uint64_t> suffering_;
  Field to_goal_;
  std::vector<std::uint64_t> least_;
  std::vector<TwoSums> labels_;
  BinaryHeap<Waiting> queue_;
  bool complete_ = true;
};

}  // namespace

Front find_front(const CostGrid& costs, const Levels& levels, Cell from, Cell to, const FrontOptions& options) {
  SAUNTER_EXPECT(levels.size() == costs.size() && options.most_labels > 0);
  if (levels.size() != costs.size()) return find_front(costs, levels_of_size(levels, costs.size()), from, to, options);
  Front front;
  front.verdict = unusable_end(costs, levels, options.highest, from, to);
  if (front.verdict.reason != Reason::found) return front;
  FrontSearch(costs, levels, from, to, options).run(front);
  if (!front.routes.empty()) return front;
  // Why there is none, and how near one came, a search for the cheapest route tells.
  WarySearcher wary;
  const WaryOptions plain{.care = {.wary = {}, .highest = options.highest}, .budget = options.budget};
  const Verdict& verdict = wary.route(costs, levels, from, to, plain).verdict();
  front.verdict = front.complete || verdict.reason != Reason::found ? verdict : Verdict{Reason::stopped, from};
  return front;
}

std::size_t least_weighed(const Front& front, const CostGrid& costs, const Levels& levels, const Wariness& care) {
  std::size_t best = front.routes.size();
  std::uint64_t least = 0;
  for (std::size_t i = 0; i < front.routes.size(); ++i) {
    const std::uint64_t weighed = exposure_of(costs, levels, front.routes[i].cells, care).weighed;
    if (best != front.routes.size() && weighed >= least) continue;
    best = i;
    least = weighed;
  }
  return best;
}

}  // namespace saunter::inline v0_2
