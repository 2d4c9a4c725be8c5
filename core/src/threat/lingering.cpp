#include "lingering.hpp"

#include "../search/guide.hpp"
#include "../search/kernel/best_first.hpp"
#include "usable_ends.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

WarySearcher::Lingering::Lingering(Memory& memory, WaryRoute& route, const WaryQuestion& asked)
    : memory_(memory),
      route_(route),
      asked_(asked),
      costs_(asked.costs),
      estimate_(asked.costs, asked.to),
      scale_(asked.options.care),
      table_(asked.costs.board()),
      entry_(asked.costs.entries()),
      level_(asked.levels.values()),
      cols_(static_cast<std::uint32_t>(asked.costs.size().cols)),
      goal_(pack(asked.to)),
      bound_(asked.bound()),
      highest_(asked.options.care.highest.value_or(std::numeric_limits<std::uint16_t>::max())) {}

void WarySearcher::Lingering::run() {
  if (run_dry()) end_without(asked_.reason(cut_));
}

/// @return whether it saw all there is, and answered nothing
bool WarySearcher::Lingering::run_dry() {
  memory_.labels.clear();
  expanded_ = {};
  memory_.queue.begin();
  memory_.query.begin(memory_.marks, costs_.size().cell_count());
  const Tiling tiling = costs_.tiling();
  if (tiling.shape() == Shape::square) return run_dry(SquareGuide(estimate_, asked_.to, !surveys_));
  if (tiling.shape() == Shape::triangle) return run_dry(TriangleGuide(estimate_, !surveys_));
  return run_dry(HexGuide(tiling, estimate_, asked_.to, !surveys_));
}

template <typename Guide>
bool WarySearcher::Lingering::run_dry(const Guide& guide) {
  reach(pack(asked_.from), index_of(pack(asked_.from)), no_label, 0,
        std::min(asked_.options.exposed_before, most_in_a_row), guide);
  const auto look = [&](const State& state) {
    const Label& label = memory_.labels[state.cell];
    const std::uint32_t index = index_of(label.cell);
    Mark& mark = memory_.marks[index];
    if (mark.expanded <= label.run) return Take::skip;  // a place no worse was expanded before, for no more
    if (!surveys_ && route_.expanded_ == asked_.options.limit) {
      end_without(Reason::stopped);
      return Take::stop;
    }
    mark.expanded = label.run;
    expanded_.take(index);
    if (surveys_) return Take::expand;
    ++route_.expanded_;
    if (label.cell != goal_) return Take::expand;
    write_way(state.cell);
    return Take::stop;
  };
  return best_first(memory_.queue, look, [&](const State& state) { expand(state.cell, guide); });
}

template <typename Guide>
void WarySearcher::Lingering::expand(std::uint32_t number, const Guide& guide) {
  const Label label = memory_.labels[number];  // a copy: more are taken
  const Cell cell = unpack(label.cell);
  const auto kind = static_cast<unsigned>(costs_.tiling().kind(cell));
  const std::uint32_t index = index_of(label.cell);
  for_each_direction(costs_.moves_on_map(cell), [&](unsigned d) {
    const std::uint32_t next = index + table_.index[kind][d];
    const Mark& mark = memory_.marks[next];
    if (memory_.query.knows(mark) && mark.expanded == 0) return;  // nothing can be better
    const std::uint16_t level = level_[next];
    if (level > highest_) return;
    const unsigned run = run_after(label.run, level);
    const Length length = costs_.step_length(static_cast<int>(kind), static_cast<int>(d));
    reach(label.cell + table_.packed[kind][d], next, number, label.cost + scale_(length, entry_[next], level, run), run,
          guide);
  });
}

template <typename Guide>
SAUNTER_INLINE inline void WarySearcher::Lingering::reach(std::uint32_t packed, std::uint32_t index,
                                                          std::uint32_t before, std::uint64_t cost, unsigned run,
                                                          const Guide& guide) {
  Mark& mark = memory_.marks[index];
  const bool known = memory_.query.knows(mark);
  if (known && (mark.expanded <= run || (mark.best <= cost && mark.run <= run))) return;
  const std::uint64_t total = cost + guide(packed);
  const bool fits = total <= bound_;
  cut_ = cut_ || !fits;
  if (!fits && before != no_label) return;  // a unit is where it starts, though nowhere else within the bound
  const auto sum = static_cast<Cost>(cost);
  if (!known) {
    mark = {memory_.query.now(), sum, static_cast<std::uint8_t>(run), 255};
  } else if (sum <= mark.best && run <= mark.run) {
    mark.best = sum;
    mark.run = static_cast<std::uint8_t>(run);
  }
  if (!fits) return;
  const auto number = static_cast<std::uint32_t>(memory_.labels.size());
  memory_.labels.push_back({packed, before, sum, static_cast<std::uint8_t>(run)});
  memory_.queue.enqueue({number, sum, 0}, total);
}

void WarySearcher::Lingering::write_way(std::uint32_t number) {
  for (std::uint32_t at = number; at != no_label; at = memory_.labels[at].before) {
    route_.cells_.push_back(unpack(memory_.labels[at].cell));
  }
  std::reverse(route_.cells_.begin(), route_.cells_.end());
}

/// A "no", at the cell nearest to the goal: of all the start can get to, or of all whose least sum fits, which a search
/// that was guided has not seen.
void WarySearcher::Lingering::end_without(Reason reason) {
  if (reason == Reason::cost_overflow) {
    if (const std::optional<Cell> nearest = asked_.nearest_when_apart()) {
      route_.verdict_ = {Reason::no_way, *nearest};
      return;
    }
  }
  if (reason == Reason::over_budget || reason == Reason::cost_overflow) survey();
  const auto knows = [&](std::uint32_t index) { return memory_.query.knows(memory_.marks[index]); };
  const ReachedCells<decltype(knows)> reached{costs_.size(), expanded_, knows};
  const bool more =
      reason != Reason::over_budget || leads_out(
                                           costs_, reached, [&](Cell cell) { return costs_.moves_on_map(cell); },
                                           [&](std::uint32_t index) { return level_[index] <= highest_; });
  route_.verdict_ = {more ? reason : Reason::no_way,
                     nearest_reached(costs_.size(), asked_.from, reached, estimate_).cell()};
}

/// Expands all that the budget allows, unguided.
void WarySearcher::Lingering::survey() {
  surveys_ = true;
  cut_ = false;
  (void)run_dry();
}

}  // namespace saunter::inline v0_2
