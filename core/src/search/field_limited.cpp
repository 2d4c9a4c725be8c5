// Fields on ground that differs from the grid's, and no further than is wanted.
#include <algorithm>

#include "field_search.hpp"
#include "kernel/best_first.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

namespace {

/// What is known of cells so far.
struct Known {
  Cost* cost;
  std::uint8_t* next;
  std::uint32_t* source;

  /// Offers a cell a cost by way of another. @return whether it is less than was known
  template <bool many>
  SAUNTER_INLINE bool offer(std::uint32_t cell, Cost sum, std::uint8_t back, std::uint32_t by) const {
    if (sum == cost[cell]) {
      next[cell] = std::min(next[cell], back);
      if constexpr (many) source[cell] = std::min(source[cell], source[by]);
      return false;
    }
    cost[cell] = sum;
    next[cell] = back;
    if constexpr (many) source[cell] = source[by];
    return true;
  }
};

}  // namespace

/// As settle_with(). Once all that is waited for is settled, what costs more is not expanded, and forgotten at the end.
template <bool many, bool changed, typename Queue>
void Searcher::FieldSearch::settle_limited_with(Queue& queue) {
  FieldGround& ground = scratch_.ground;
  const StepTable steps(costs_.board());
  const Neighbourhood hood = hood_;
  const Onward onward = scratch_.onward;
  const Size size = costs_.size();
  const Tiling tiling = costs_.tiling();
  const bool to_sources = travel_ == Travel::to_sources;
  const bool count_steps = count_steps_;
  const Cost bound = bound_;
  const EntryCost* const entries = costs_.entries().data();
  Cost wanted = bound_;
  const Known known{field_.cost_.values().data(), field_.next_.values().data(), field_.source_.values().data()};
  const StepLengths lengths = lengths_of(costs_);
  std::size_t reached = 0;
  bool beyond = false;
  std::size_t fed_in = 0;
  FedQueue<Queue> fed(queue, scratch_.waiting, fed_in);
  const auto look = [&](const QueuedCell& first) {
    const Cell cell = unpack(first.cell);
    const std::uint32_t index = size.index(cell).value();
    if (known.cost[index] != first.cost || first.cost > wanted) return Take::skip;
    ++reached;
    if (ground.settles(cell, first.cost)) wanted = std::min(wanted, ground.farthest());
    return ground.is_stop(cell) ? Take::skip : Take::expand;
  };
  const auto expand = [&](const QueuedCell& first) {
    const Cell cell = unpack(first.cell);
    const std::uint32_t index = size.index(cell).value();
    const auto kind = static_cast<unsigned>(tiling.kind(cell));
    const EntryCost entered = changed ? ground.entry(cell) : entries[index];
    const unsigned legal = changed ? (to_sources ? ground.arriving(cell) : ground.leaving(cell))
                                   : (to_sources ? moves_into(costs_, cell) : costs_.moves_on_map(cell));
    for_each_direction(legal & onward.of(kind, known.next[index]), [&](unsigned d) {
      const std::uint32_t other = index + steps.index[kind][d];
      const EntryCost entry = to_sources ? entered
                              : changed  ? ground.entry(cell + hood.offset[kind][d])
                                         : entries[other];
      const Length length = lengths[kind][d];
      const Cost step = count_steps ? 100 : length == 100 ? entry : step_cost(length, entry);
      const std::uint64_t cost = std::uint64_t{first.cost} + step;
      if (cost > known.cost[other]) return;
      if (cost > wanted) {
        beyond = beyond || cost > bound;
        return;
      }
      const auto sum = static_cast<Cost>(cost);
      if (known.template offer<many>(other, sum, hood.opposite[kind][d], index)) {
        fed.enqueue({first.cell + steps.packed[kind][d], sum});
      }
    });
  };
  best_first(fed, look, expand);
  field_.reached_ = reached;
  if (wanted < bound_) field_.forget_beyond(wanted);
  overflow_seen_ = overflow_seen_ || (beyond && !budgeted_);
}

template <bool many>
void Searcher::FieldSearch::settle_limited() {
  const FieldGround& ground = scratch_.ground;
  const Cost width = count_steps_ ? 100 : std::max<Cost>(1, ground.lowest_entry());
  const std::uint64_t reach = count_steps_ ? 100 : ground.highest_step();
  scratch_.queues.with(width, reach, [&](auto& queue) {
    ground.changed() ? settle_limited_with<many, true>(queue) : settle_limited_with<many, false>(queue);
  });
}

template void Searcher::FieldSearch::settle_limited<false>();
template void Searcher::FieldSearch::settle_limited<true>();

}  // namespace saunter::inline v0_2
