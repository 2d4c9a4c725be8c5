#include "hub_lists.hpp"

#include <algorithm>

namespace saunter::inline v0_2::detail {

template <unsigned sides>
void HubLists<sides>::begin(const Core<sides>& core, const std::vector<std::uint32_t>& order) {
  const std::size_t count = core.count();
  std::vector<std::uint32_t> number(count);
  for (std::uint32_t i = 0; i < count; ++i) number[order[i]] = i;
  core_.first.assign(1, 0);
  core_.ways.reserve(core.ways.size());
  for (const std::uint32_t place : order) {
    for (IndexWay<sides> way : core.of(place)) {
      way.to = number[way.to];
      core_.ways.push_back(way);
    }
    core_.first.push_back(core_.ways.size());
  }
  for (auto& lists : lists_) lists.resize(count);
}

/// Where the hub is got to from (side 0), or where it leads (side 1; with one side both are the same).
template <unsigned sides>
void HubLists<sides>::search(std::uint32_t hub, unsigned side, Bench& bench, std::vector<Found>& found) const {
  // Ways are gone against their direction to find who leads to the hub.
  const unsigned along = sides == 1 ? 0 : 1 - side;
  const std::vector<Hub>& own = lists_[sides - 1 - side][hub];
  found.clear();
  for (const Hub& entry : own) bench.from_hub[entry.hub] = entry.cost;
  bench.heap.begin();
  bench.heap.enqueue(0, hub);
  bench.touched.assign(1, hub);
  bench.cost[hub] = 0;
  bench.towards[hub] = hub;
  while (!bench.heap.empty()) {
    const auto [place, cost] = bench.heap.dequeue();
    if (bench.cost[place] != cost) continue;
    bool known = false;
    for (const Hub& entry : lists_[side][place]) {
      const Cost rest = bench.from_hub[entry.hub];
      if (rest == unreached || std::uint64_t{entry.cost} + rest > cost) continue;
      known = true;
      break;
    }
    if (known) continue;
    const auto ways = core_.of(place);
    const auto first = std::find_if(ways.begin(), ways.end(),
                                    [&](const IndexWay<sides>& way) { return way.to == bench.towards[place]; });
    found.push_back({place, {hub, cost, static_cast<std::uint16_t>(place == hub ? 0 : first - ways.begin())}});
    for (const IndexWay<sides>& way : ways) {
      if (way.to < hub || way.cost[along] == unreached) continue;
      const std::uint64_t sum = std::uint64_t{cost} + way.cost[along];
      if (sum >= bench.cost[way.to]) continue;
      if (bench.cost[way.to] == unreached) bench.touched.push_back(way.to);
      bench.cost[way.to] = static_cast<Cost>(sum);
      bench.towards[way.to] = place;
      bench.heap.enqueue(sum, way.to);
    }
  }
  for (const std::uint32_t place : bench.touched) bench.cost[place] = unreached;
  for (const Hub& entry : own) bench.from_hub[entry.hub] = unreached;
}

template <unsigned sides>
void HubLists<sides>::keep(const std::vector<Found>& found, unsigned side, std::uint32_t first_of_turn) {
  if (found.empty()) return;
  const std::uint32_t hub = found.front().hub.hub;
  const std::vector<Hub>& own = lists_[sides - 1 - side][hub];
  const auto of_turn = [&](const std::vector<Hub>& list) {
    return std::find_if(list.begin(), list.end(), [&](const Hub& entry) { return entry.hub >= first_of_turn; });
  };
  const std::vector<Hub> own_of_turn(of_turn(own), own.end());
  for (const Found& entry : found) {
    std::vector<Hub>& list = lists_[side][entry.place];
    bool known = false;
    if (!own_of_turn.empty() && entry.place != hub) {
      for (std::size_t i = list.size(); i-- > 0 && list[i].hub >= first_of_turn && !known;) {
        for (const Hub& other : own_of_turn) {
          known = known || (other.hub == list[i].hub && std::uint64_t{other.cost} + list[i].cost <= entry.hub.cost);
        }
      }
    }
    if (known) continue;
    list.push_back(entry.hub);
  }
}

template <unsigned sides>
bool HubLists<sides>::work(std::size_t amount, const Workers& workers) {
  const std::size_t count = core_.count();
  if (benches_.size() < workers.count()) {
    benches_.resize(workers.count());
    for (Bench& bench : benches_) {
      bench.cost.assign(count, unreached);
      bench.towards.assign(count, 0);
      bench.from_hub.assign(count, unreached);
    }
  }
  std::size_t done = 0;
  while (next_ < count && done < amount) {
    const std::uint32_t first = next_;
    // The first hubs cover most of the graph, each alone; later ones little of each other's.
    const auto turn = static_cast<std::uint32_t>(std::clamp<std::size_t>(first / 8, 1, 64));
    const std::uint32_t last = std::min<std::uint32_t>(static_cast<std::uint32_t>(count), first + turn);
    found_.resize(std::max<std::size_t>(found_.size(), std::size_t{turn} * sides));
    workers.for_each(0, (last - first) * sides, 1, [&](std::size_t worker, std::size_t i) {
      search(first + static_cast<std::uint32_t>(i / sides), static_cast<unsigned>(i % sides), benches_[worker],
             found_[i]);
    });
    for (std::size_t i = 0; i < (last - first) * sides; ++i) {
      keep(found_[i], static_cast<unsigned>(i % sides), first);
      done += found_[i].size();
    }
    next_ = last;
  }
  return next_ == count;
}

template class HubLists<1>;
template class HubLists<2>;

}  // namespace saunter::inline v0_2::detail
