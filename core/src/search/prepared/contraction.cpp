#include "contraction.hpp"

#include <algorithm>
#include <numeric>

namespace saunter::inline v0_2::detail {
namespace {

/// How much a place gains in importance by each place below it, beside the short cuts it would take in thousandths.
constexpr std::uint32_t level_weight = 120;
/// Places a search for other ways looks at, at most. Fewer would spare little and leave needless short cuts.
constexpr std::size_t most_settled = 500;

/// Spreads the bits of a number: among equally important places any order will do, but for that of their numbers.
constexpr std::uint32_t scattered(std::uint32_t number) {
  number ^= number >> 16U;
  number *= 0x7FEB'352DU;
  number ^= number >> 15U;
  number *= 0x846C'A68BU;
  return number ^ number >> 16U;
}

}  // namespace

template <unsigned sides>
void Contraction<sides>::begin(std::vector<Cell> places, Floor floor) {
  const std::size_t count = places.size();
  places_ = std::move(places);
  floor_ = floor;
  lists_.assign(count, {});
  keys_.assign(count, 0);
  lowest_.assign(count, 0);
  stale_.assign(count, 0);
  taken_.assign(count, 0);
  levels_.assign(count, 0);
  left_.resize(count);
  std::iota(left_.begin(), left_.end(), 0U);
}

template <unsigned sides>
void Contraction<sides>::add(std::uint32_t from, const IndexWay<sides>& way) {
  List& list = lists_[from];
  IndexWay<sides> added = way;
  for (std::uint32_t i = 0; i < list.count; ++i) {
    const IndexWay<sides>& known = pool_[list.begin + i];
    if (known.to != way.to) continue;
    for (unsigned side = 0; side < sides; ++side) {
      if (added.cost[side] < known.cost[side]) continue;
      added.cost[side] = known.cost[side];
      added.middle[side] = known.middle[side];
    }
    remove(list, i);
    break;
  }
  if (list.count == list.room) {
    const std::uint32_t room = std::max(4U, list.room + list.room / 2);
    const std::size_t begin = pool_.size();
    pool_.resize(begin + room);
    std::copy_n(pool_.data() + list.begin, list.count, pool_.data() + begin);
    list.begin = begin;
    list.room = room;
  }
  // The cheapest first: searches can leave the others.
  IndexWay<sides>* const ways = pool_.data() + list.begin;
  std::uint32_t at = list.count++;
  for (; at > 0 && ways[at - 1].cost[IndexWay<sides>::there] > added.cost[IndexWay<sides>::there]; --at)
    ways[at] = ways[at - 1];
  ways[at] = added;
}

template <unsigned sides>
void Contraction<sides>::remove(List& list, std::uint32_t at) {
  IndexWay<sides>* const ways = pool_.data() + list.begin;
  std::copy(ways + at + 1, ways + list.count, ways + at);
  --list.count;
}

/// Dijkstra's search from one neighbour of a place to others without going over it, until all are known to be reached
/// cheaply enough; given up after a few places, which costs a short cut too many at worst.
template <unsigned sides>
void Contraction<sides>::search_from(std::uint32_t source, std::uint32_t without, Bench& bench) const {
  bench.search += 2;
  if (bench.search == 0) {  // wrapped: old marks would look new
    std::fill(bench.marks.begin(), bench.marks.end(), typename Bench::Mark{});
    bench.search = 2;
  }
  const std::uint32_t reached = bench.search;
  const std::uint32_t not_yet = bench.search + 1;
  std::sort(bench.wanted.begin(), bench.wanted.end(), [](const auto& a, const auto& b) { return a.cost > b.cost; });
  auto costliest = bench.wanted.begin();
  std::uint64_t bound = costliest->cost;
  std::size_t open = bench.wanted.size();
  Cell low = places_[bench.wanted.front().place];
  Cell high = low;
  for (const auto& wanted : bench.wanted) {
    bench.marks[wanted.place] = {not_yet, static_cast<Cost>(wanted.cost + 1)};
    const Cell at = places_[wanted.place];
    low = {std::min(low.col, at.col), std::min(low.row, at.row)};
    high = {std::max(high.col, at.col), std::max(high.row, at.row)};
  }
  const auto outside = [](std::int32_t at, std::int32_t from, std::int32_t to) {
    return at < from ? from - at : at > to ? at - to : 0;
  };
  std::size_t settled_left = most_settled;
  bench.heap.begin();
  bench.heap.enqueue(0, source);
  bench.marks[source] = {reached, 0};
  while (!bench.heap.empty() && open > 0 && settled_left > 0) {
    const auto [place, cost] = bench.heap.dequeue();
    if (bench.marks[place].cost != cost) continue;
    --settled_left;
    for (const IndexWay<sides>& way : ways(place)) {
      const std::uint64_t sum = std::uint64_t{cost} + way.cost[IndexWay<sides>::there];
      if (sum > bound) break;
      if (way.to == without) continue;
      auto& mark = bench.marks[way.to];
      const bool wanted = mark.search == not_yet;
      if ((wanted || mark.search == reached) && mark.cost <= sum) continue;
      const Cell at = places_[way.to];
      if (sum + floor_(outside(at.col, low.col, high.col), outside(at.row, low.row, high.row)) > bound) continue;
      mark = {reached, static_cast<Cost>(sum)};
      if (wanted && --open > 0) {
        while (bench.marks[costliest->place].search == reached) ++costliest;
        bound = costliest->cost;
      }
      bench.heap.enqueue(sum, way.to);
    }
  }
}

/// Finds the short cuts that a place's going would take, and how much it matters then.
template <unsigned sides>
void Contraction<sides>::try_out(std::uint32_t place, Bench& bench, Trial& trial) const {
  trial.shortcuts.clear();
  const std::span<const IndexWay<sides>> around = ways(place);
  for (std::size_t i = 0; i < around.size(); ++i) {
    const IndexWay<sides>& first = around[i];
    if (first.cost[IndexWay<sides>::back] == unreached) continue;  // nothing comes from there
    bench.wanted.clear();
    for (std::size_t j = sides == 1 ? i + 1 : 0; j < around.size(); ++j) {
      if (j == i || around[j].cost[IndexWay<sides>::there] == unreached) continue;
      const std::uint64_t cost =
          std::uint64_t{first.cost[IndexWay<sides>::back]} + around[j].cost[IndexWay<sides>::there];
      if (cost <= max_cost) bench.wanted.push_back({around[j].to, cost});
    }
    if (bench.wanted.empty()) continue;
    search_from(first.to, place, bench);
    for (const auto& wanted : bench.wanted) {
      if (bench.marks[wanted.place].search == bench.search) continue;  // another way is as cheap
      IndexWay<sides> way{.to = wanted.place};
      way.cost.fill(unreached);
      way.cost[IndexWay<sides>::there] = static_cast<Cost>(wanted.cost);
      way.middle.fill(place);
      trial.shortcuts.push_back({first.to, way});
    }
  }
  trial.key = key_of(place, trial.shortcuts.size(), around.size());
}

template <unsigned sides>
std::uint64_t Contraction<sides>::key_of(std::uint32_t place, std::size_t shortcuts, std::size_t ways) const {
  const std::size_t pairs = sides == 1 ? shortcuts : shortcuts / 2;
  const std::uint64_t weight = (ways == 0 ? 0 : 1000 * pairs / ways) + std::uint64_t{level_weight} * levels_[place] +
                               20 * (pairs > ways ? pairs - ways : 0);
  return weight << 32U | scattered(place);
}

/// The least key within two ways of a place, its own left out.
template <unsigned sides>
std::uint64_t Contraction<sides>::lowest_of_others(std::uint32_t place) const {
  std::uint64_t lowest = ~std::uint64_t{0};
  for (const IndexWay<sides>& near : ways(place)) {
    lowest = std::min(lowest, keys_[near.to]);
    for (const IndexWay<sides>& far : ways(near.to)) {
      if (far.to != place) lowest = std::min(lowest, keys_[far.to]);
    }
  }
  return lowest;
}

template <unsigned sides>
void Contraction<sides>::take(std::uint32_t place, const Trial& trial) {
  taken_[place] = 1;
  for (const IndexWay<sides>& way : ways(place)) {
    List& list = lists_[way.to];
    for (std::uint32_t i = 0; i < list.count; ++i) {
      if (pool_[list.begin + i].to != place) continue;
      remove(list, i);
      break;
    }
    stale_[way.to] = 1;
    levels_[way.to] = std::max(levels_[way.to], static_cast<std::uint16_t>(levels_[place] + 1));
  }
  for (const Shortcut& shortcut : trial.shortcuts) {
    add(shortcut.from, shortcut.way);
    IndexWay<sides> other = shortcut.way;
    other.to = shortcut.from;
    std::swap(other.cost[IndexWay<sides>::there], other.cost[IndexWay<sides>::back]);
    add(shortcut.way.to, other);
  }
}

template <unsigned sides>
void Contraction<sides>::take_all() {
  for (std::size_t i = 0; i < picked_.size(); ++i) {
    const std::uint32_t place = picked_[i];
    if (stale_[place] != 0) {
      stale_[place] = 0;
      keys_[place] = trials_[i].key;
      if (keys_[place] > lowest_of_others(place)) continue;
    }
    take(place, trials_[i]);
  }
}

template <unsigned sides>
void Contraction<sides>::run_part(std::size_t last, const Workers& workers) {
  constexpr std::size_t at_a_time = 64;
  switch (part_) {
    case Part::first_trials:
      workers.for_each(next_, last, at_a_time, [&](std::size_t worker, std::size_t i) {
        try_out(left_[i], benches_[worker], first_trials_[worker]);
        keys_[left_[i]] = first_trials_[worker].key;
      });
      break;
    case Part::lowest_near:
      workers.for_each(next_, last, 16 * at_a_time, [&](std::size_t, std::size_t i) {
        std::uint64_t lowest = keys_[left_[i]];
        for (const IndexWay<sides>& way : ways(left_[i])) lowest = std::min(lowest, keys_[way.to]);
        lowest_[left_[i]] = lowest;
      });
      break;
    case Part::pick:
      for (std::size_t i = next_; i < last; ++i) {
        const std::uint32_t place = left_[i];
        const auto around = ways(place);
        const auto least = [&](const IndexWay<sides>& way) { return lowest_[way.to] == keys_[place]; };
        if (lowest_[place] == keys_[place] && std::all_of(around.begin(), around.end(), least))
          picked_.push_back(place);
      }
      break;
    case Part::trials:
      workers.for_each(next_, last, 4,
                       [&](std::size_t worker, std::size_t i) { try_out(picked_[i], benches_[worker], trials_[i]); });
      break;
  }
}

template <unsigned sides>
void Contraction<sides>::end_part() {
  next_ = 0;
  switch (part_) {
    case Part::first_trials: part_ = Part::lowest_near; break;
    case Part::lowest_near:
      part_ = Part::pick;
      picked_.clear();
      break;
    case Part::pick:
      part_ = Part::trials;
      if (trials_.size() < picked_.size()) trials_.resize(picked_.size());
      break;
    case Part::trials:
      take_all();
      std::erase_if(left_, [&](std::uint32_t place) { return taken_[place] != 0; });
      part_ = Part::lowest_near;
      break;
  }
}

template <unsigned sides>
bool Contraction<sides>::work(std::size_t amount, std::size_t until, const Workers& workers) {
  constexpr std::size_t looks = 16;  // a look at a place's neighbours is much less than a trial
  if (benches_.size() < workers.count()) {
    benches_.resize(workers.count());
    first_trials_.resize(workers.count());
    for (Bench& bench : benches_) bench.marks.resize(places_.size());
  }
  while (left_.size() > until || (part_ != Part::lowest_near && part_ != Part::first_trials)) {
    const bool trying = part_ == Part::first_trials || part_ == Part::trials;
    const std::size_t count = part_ == Part::trials ? picked_.size() : left_.size();
    const std::size_t last = std::min(count, next_ + amount * (trying ? 1 : looks));
    run_part(last, workers);
    const std::size_t used = (last - next_) / (trying ? 1 : looks) + 1;
    next_ = last;
    if (next_ == count) end_part();
    if (used >= amount) return false;
    amount -= used;
  }
  return true;
}

template <unsigned sides>
std::size_t Contraction<sides>::memory() const {
  return bytes_of(places_, lists_, pool_, keys_, lowest_, stale_, taken_, levels_, left_, picked_);
}

template class Contraction<1>;
template class Contraction<2>;

}  // namespace saunter::inline v0_2::detail
