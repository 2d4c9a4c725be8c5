// Fields on ground that differs from the grid's, and no further than is wanted.
#include <algorithm>

#include "field_search.hpp"
#include "kernel/best_first.hpp"

namespace saunter::inline v0 {
using namespace detail;

void Searcher::FieldSearch::keep_what_is_wanted(Cost wanted) {
  (void)FieldGround::forget_beyond(wanted, field_.cost_, field_.next_, field_.source_, field_.many_sources_);
  const auto costs = field_.cost_.values();
  field_.reached_ = costs.size() - static_cast<std::size_t>(std::count(costs.begin(), costs.end(), unreached));
}

/// As settle_with(). Once all that is waited for is settled, what costs more is not expanded, and forgotten at the end.
template <bool many, typename Queue>
void Searcher::FieldSearch::settle_limited_with(Queue& queue) {
  FieldGround& ground = scratch_.ground;
  const StepTable steps(costs_.board());
  const Neighbourhood hood = hood_;
  const Onward onward = scratch_.onward;
  const Size size = costs_.size();
  const Tiling tiling = costs_.tiling();
  const bool to_sources = travel_ == Travel::to_sources;
  Cost wanted = bound_;
  Cost* const known = field_.cost_.values().data();
  std::uint8_t* const next = field_.next_.values().data();
  std::uint32_t* const sources = field_.source_.values().data();
  const StepLengths lengths = lengths_of(costs_);
  std::size_t reached = 0;
  bool beyond = false;
  std::size_t fed_in = 0;
  FedQueue<Queue> fed(queue, scratch_.waiting, fed_in);
  const auto look = [&](const QueuedCell& first) {
    const Cell cell = unpack(first.cell);
    const std::uint32_t index = size.index(cell).value();
    if (known[index] != first.cost) return Take::skip;
    if (first.cost > wanted) return Take::skip;
    ++reached;
    if (ground.settles(cell, first.cost)) wanted = std::min(wanted, ground.farthest());
    return ground.is_stop(cell) ? Take::skip : Take::expand;
  };
  const auto expand = [&](const QueuedCell& first) {
    const Cell cell = unpack(first.cell);
    const std::uint32_t index = size.index(cell).value();
    const auto kind = static_cast<unsigned>(tiling.kind(cell));
    const EntryCost entered = ground.entry(cell);
    const unsigned legal = to_sources ? ground.arriving(cell) : ground.leaving(cell);
    for_each_direction(legal & onward.of(kind, next[index]), [&](unsigned d) {
      const std::uint32_t other = index + steps.index[kind][d];
      const std::uint8_t back = hood.opposite[kind][d];
      const EntryCost entry = to_sources ? entered : ground.entry(cell + hood.offset[kind][d]);
      const std::uint64_t cost = std::uint64_t{first.cost} + (count_steps_ ? 100 : step_cost(lengths[kind][d], entry));
      if (cost > known[other]) return;
      if (cost > wanted) {
        beyond = beyond || cost > bound_;
        return;
      }
      if (cost == known[other]) {
        next[other] = std::min(next[other], back);
        if constexpr (many) sources[other] = std::min(sources[other], sources[index]);
        return;
      }
      known[other] = static_cast<Cost>(cost);
      next[other] = back;
      if constexpr (many) sources[other] = sources[index];
      fed.enqueue({first.cell + steps.packed[kind][d], static_cast<Cost>(cost)});
    });
  };
  best_first(fed, look, expand);
  field_.reached_ = reached;
  if (wanted < bound_) keep_what_is_wanted(wanted);
  overflow_seen_ = overflow_seen_ || (beyond && !budgeted_);
}

template <bool many>
void Searcher::FieldSearch::settle_limited() {
  const FieldGround& ground = scratch_.ground;
  const Cost width = count_steps_ ? 100 : std::max<Cost>(1, ground.lowest_entry());
  const std::uint64_t reach = count_steps_ ? 100 : ground.highest_step();
  scratch_.queues.with(width, reach, [&](auto& queue) { settle_limited_with<many>(queue); });
}

template void Searcher::FieldSearch::settle_limited<false>();
template void Searcher::FieldSearch::settle_limited<true>();

}  // namespace saunter::inline v0
