#include "saunter/threat/cover.hpp"

#include <algorithm>

#include "../search/kernel/best_first.hpp"
#include "../search/kernel/queue.hpp"
#include "../search/question.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

std::vector<Cover> find_cover(const Field& reach, const Levels& levels, std::uint16_t highest) {
  const Size size = reach.board().size;
  SAUNTER_EXPECT(levels.size() == size);  // else cells without a level have level 0
  std::vector<Cover> found;
  for (const Cell cell : size.cells()) {
    const std::uint16_t level = levels[cell];
    if (reach.reached(cell) && level <= highest) found.push_back({cell, reach.cost(cell), level});
  }
  std::stable_sort(found.begin(), found.end(), [](const Cover& a, const Cover& b) { return a.cost < b.cost; });
  return found;
}

/// Dijkstra's search by weighed sums from the start outwards, as far as there is something to find.
class CoverFinder::Work {
 public:
  std::span<const Cover> find(const CostGrid& costs, const Levels& levels, Cell from, const CoverTerms& terms);
  void path(Cell to, std::vector<Cell>& out) const;

 private:
  static constexpr std::uint8_t from_nowhere = 15;
  void begin(const CostGrid& costs, Cell from);
  void expand(const State& state, const CostGrid& costs, const Levels& levels, const Wariness& care);
  void reach(std::uint32_t index, Cell cell, std::uint64_t sum, std::uint8_t back);

  Tiling tiling_;
  Cost bound_ = max_cost;
  Grid<Cost> sum_;
  Grid<std::uint8_t> back_;  // the direction to where it was reached from
  BitGrid settled_;
  std::vector<std::uint32_t> touched_;  // cleared by the next question
  LongRing queue_;
  std::vector<Cover> found_;
};

void CoverFinder::Work::begin(const CostGrid& costs, Cell from) {
  tiling_ = costs.tiling();
  found_.clear();
  if (sum_.size() != costs.size()) {
    back_ = Grid<std::uint8_t>(costs.size());
    settled_ = BitGrid(costs.size());
    sum_ = Grid<Cost>(costs.size(), unreached);  // last: its size says that all are there
  } else {
    for (const std::uint32_t index : touched_) {
      sum_[CellIndex{index}] = unreached;
      settled_.set(sum_.size().cell(CellIndex{index}), false);
    }
  }
  touched_.clear();
  queue_.begin();
  if (costs.open(from)) reach(costs.size().index(from).value(), from, 0, from_nowhere);
}

void CoverFinder::Work::reach(std::uint32_t index, Cell cell, std::uint64_t sum, std::uint8_t back) {
  Cost& known = sum_[CellIndex{index}];
  if (sum > bound_ || sum >= known) return;
  if (known == unreached) touched_.push_back(index);
  known = static_cast<Cost>(sum);
  back_[CellIndex{index}] = back;
  queue_.enqueue({pack(cell), known, back}, known);
}

void CoverFinder::Work::expand(const State& state, const CostGrid& costs, const Levels& levels, const Wariness& care) {
  const Cell cell = unpack(state.cell);
  const auto kind = static_cast<unsigned>(tiling_.kind(cell));
  const Neighbourhood& hood = tiling_.neighbourhood();
  for_each_direction(costs.moves(cell), [&](unsigned d) {
    const Cell next = cell + hood.offset[kind][d];
    const std::uint16_t level = levels[next];
    if (care.highest && level > *care.highest) return;
    const Length length = costs.step_length(static_cast<int>(kind), static_cast<int>(d));
    const std::uint64_t more = std::uint64_t{Length{care.wary}} * level;
    reach(costs.size().index(next).value(), next, state.cost + weighed_step(length, costs.entry(next), more),
          hood.opposite[kind][d]);
  });
}

std::span<const Cover> CoverFinder::Work::find(const CostGrid& costs, const Levels& levels, Cell from,
                                               const CoverTerms& terms) {
  SAUNTER_EXPECT(levels.size() == costs.size());
  bound_ = terms.budget ? Cost{*terms.budget} : max_cost;
  begin(costs, from);
  const Levels& hides = terms.hidden_from != nullptr ? *terms.hidden_from : levels;
  const std::size_t most = std::max<std::size_t>(terms.most, 1);
  const auto look = [&](const State& state) {
    const Cell cell = unpack(state.cell);
    if (settled_.test(cell)) return Take::skip;
    // All of one sum are looked at, since reading order decides among them.
    if (!terms.safest_first && found_.size() >= most && state.cost > found_.back().cost) return Take::stop;
    settled_.set(cell);
    const std::uint16_t level = std::as_const(hides)[cell];
    if (level <= terms.highest) found_.push_back({cell, state.cost, level});
    return Take::expand;
  };
  (void)best_first(queue_, look, [&](const State& state) { expand(state, costs, levels, terms.care); });
  std::sort(found_.begin(), found_.end(), [&](const Cover& a, const Cover& b) {
    if (terms.safest_first && a.level != b.level) return a.level < b.level;
    return a.cost != b.cost ? a.cost < b.cost : a.cell < b.cell;
  });
  if (found_.size() > most) found_.resize(most);
  return found_;
}

void CoverFinder::Work::path(Cell to, std::vector<Cell>& out) const {
  out.clear();
  if (!settled_.test(to)) return;
  out.push_back(to);
  for (std::uint8_t back = back_[to]; back != from_nowhere; back = back_[out.back()]) {
    out.push_back(tiling_.neighbour(out.back(), Direction(back)));
  }
  std::reverse(out.begin(), out.end());
}

CoverFinder::CoverFinder() : work_(std::make_unique<Work>()) {}
CoverFinder::~CoverFinder() = default;
CoverFinder::CoverFinder(CoverFinder&&) noexcept = default;
CoverFinder& CoverFinder::operator=(CoverFinder&&) noexcept = default;

std::span<const Cover> CoverFinder::find(const CostGrid& costs, const Levels& levels, Cell from,
                                         const CoverTerms& terms) & {
  return work_->find(costs, levels, from, terms);
}
void CoverFinder::path(Cell to, std::vector<Cell>& out) const { work_->path(to, out); }

}  // namespace saunter::inline v0_2
