#include "index_query.hpp"

#include <algorithm>

namespace saunter::inline v0_2::detail {
namespace {

/// Core places a start leads to that are told apart; the others are looked for when they are needed. There are a few
/// dozen as a rule.
constexpr std::size_t most_ends = 65'535;

}  // namespace

void IndexQuery::Half::begin() {
  if (table.empty()) table.resize(1024);
  if (++query == 0) {
    std::fill(table.begin(), table.end(), Reached{});
    query = 1;
  }
  count = 0;
  heap.begin();
  core.clear();
  low.clear();
}

void IndexQuery::Half::grow() {
  std::vector<Reached> before(2 * table.size());
  before.swap(table);
  for (const Reached& entry : before) {
    if (entry.query != query) continue;
    std::size_t i = slot(entry.place);
    while (table[i].query == query) i = (i + 1) & (table.size() - 1);
    table[i] = entry;
  }
}

const IndexQuery::Reached* IndexQuery::Half::find(std::uint32_t place) const {
  for (std::size_t i = slot(place);; i = (i + 1) & (table.size() - 1)) {
    if (table[i].query != query) return nullptr;
    if (table[i].place == place) return &table[i];
  }
}

IndexQuery::Reached& IndexQuery::Half::at(std::uint32_t place) {
  if (2 * count >= table.size()) grow();
  std::size_t i = slot(place);
  for (; table[i].query == query; i = (i + 1) & (table.size() - 1)) {
    if (table[i].place == place) return table[i];
  }
  ++count;
  table[i] = {query, place, unreached, place, Index::none};
  return table[i];
}

/// Whether a way over a more important place, or between core places, leads to a place as cheaply: whatever lies behind
/// it is then found by that one (stall on demand; Geisberger and others 2008).
template <unsigned sides>
bool IndexQuery::led_past(const Index& index, const Half& half, std::uint32_t place, Cost cost, unsigned side) {
  const unsigned against = side == 0 ? IndexWay<sides>::back : IndexWay<sides>::there;
  for (const IndexWay<sides>& way : index.ways<sides>(place)) {
    if (way.cost[against] >= cost) continue;
    const Reached* const other = half.find(way.to);
    if (other != nullptr && std::uint64_t{other->cost} + way.cost[against] <= cost) return true;
  }
  return false;
}

/// Towards more important places; core places end it.
template <unsigned sides>
void IndexQuery::search(const Index& index, std::span<const Lead> leads, unsigned side) {
  Half& half = halves_[side];
  half.begin();
  const auto reach = [&](std::uint32_t place, std::uint64_t cost, std::uint32_t parent, std::uint32_t way) {
    if (cost > max_cost) return;
    Reached& entry = half.at(place);
    if (entry.cost <= cost) return;
    entry.cost = static_cast<Cost>(cost);
    entry.parent = parent;
    entry.way = way;
    if (place >= index.core) {
      half.heap.enqueue(cost, place);
    } else {
      half.core.push_back(cost << 32U | place);
    }
  };
  for (const Lead& lead : leads) reach(lead.place, lead.cost, lead.place, Index::none);
  const unsigned along = side == 0 ? IndexWay<sides>::there : IndexWay<sides>::back;
  while (!half.heap.empty()) {
    const auto [place, cost] = half.heap.dequeue();
    if (half.find(place)->cost != cost) continue;
    if (led_past<sides>(index, half, place, cost, side)) continue;
    half.low.push_back(place);
    std::uint32_t number = index.first[place];
    for (const IndexWay<sides>& way : index.ways<sides>(place)) {
      if (way.cost[along] != unreached) reach(way.to, std::uint64_t{cost} + way.cost[along], place, number);
      ++number;
    }
  }
  std::erase_if(half.core, [&](std::uint64_t end) {
    const auto place = static_cast<std::uint32_t>(end);
    const auto cost = static_cast<Cost>(end >> 32U);
    return half.find(place)->cost != cost || led_past<sides>(index, half, place, cost, side);
  });
  std::sort(half.core.begin(), half.core.end());
}

/// Notes what getting to each hub of the start costs.
void IndexQuery::spread(const Index& index) {
  if (from_hubs_.size() < index.core) from_hubs_.resize(index.core);
  if (++hubs_query_ == 0) {  // wrapped: old marks would look new
    std::fill(from_hubs_.begin(), from_hubs_.end(), FromHub{});
    hubs_query_ = 1;
  }
  const HubTable& table = index.hubs[0];
  const std::uint16_t now = hubs_query_;
  const std::vector<std::uint64_t>& ends = halves_[0].core;
  for (std::size_t number = 0; number < ends.size(); ++number) {
    const auto place = static_cast<std::uint32_t>(ends[number]);
    const auto cost = static_cast<Cost>(ends[number] >> 32U);
    // One of the ends before leads there as cheaply.
    if (from_hubs_[place].query == now && from_hubs_[place].cost <= cost) continue;
    for (std::uint32_t i = table.first[place]; i < table.first[place + 1]; ++i) {
      const HubCost hub = table.hubs[i];
      FromHub& known = from_hubs_[hub.hub];
      const std::uint64_t sum = std::uint64_t{cost} + hub.cost;
      if (sum > max_cost || (known.query == now && known.cost <= sum)) continue;
      known = {static_cast<Cost>(sum), now, static_cast<std::uint16_t>(std::min(number, most_ends))};
    }
  }
}

template <unsigned sides>
std::uint64_t IndexQuery::join(const Index& index) {
  best_ = std::uint64_t{max_cost} + 1;
  const Half& from = halves_[0];
  const Half& to = halves_[1];
  for (const std::uint32_t place : to.low) {
    const Reached* const other = from.find(place);
    if (other == nullptr) continue;
    const std::uint64_t sum = std::uint64_t{other->cost} + to.find(place)->cost;
    if (sum >= best_) continue;
    best_ = sum;
    meet_ = place;
    by_hub_ = false;
  }
  const HubTable& table = index.hubs[sides - 1];
  const std::uint16_t now = hubs_query_;
  for (const std::uint64_t end : to.core) {
    const auto place = static_cast<std::uint32_t>(end);
    const std::uint64_t cost = end >> 32U;
    if (cost >= best_) break;
    for (std::uint32_t i = table.first[place]; i < table.first[place + 1]; ++i) {
      const HubCost hub = table.hubs[i];
      const FromHub known = from_hubs_[hub.hub];
      if (known.query != now) continue;
      const std::uint64_t sum = cost + hub.cost + known.cost;
      if (sum >= best_) continue;
      best_ = sum;
      meet_ = hub.hub;
      by_hub_ = true;
      core_ends_ = {known.end, place};
    }
  }
  return best_;
}

void IndexQuery::begin_from(const Index& index, std::span<const Lead> from) {
  if (index.sides == 1) {
    search<1>(index, from, 0);
    spread(index);
  } else {
    search<2>(index, from, 0);
    spread(index);
  }
}

std::uint64_t IndexQuery::least_to(const Index& index, std::span<const Lead> to) {
  if (index.sides == 1) {
    search<1>(index, to, 1);
    return join<1>(index);
  }
  search<2>(index, to, 1);
  return join<2>(index);
}

std::uint64_t IndexQuery::least(const Index& index, std::span<const Lead> from, std::span<const Lead> to) {
  begin_from(index, from);
  return least_to(index, to);
}

void IndexQuery::make_half(const Index& index, std::span<const Lead> to, GoalHalf& out) {
  index.sides == 1 ? search<1>(index, to, 1) : search<2>(index, to, 1);
  const Half& half = halves_[1];
  const HubTable& table = index.hubs[index.sides - 1];
  out.low.clear();
  for (const std::uint32_t place : half.low) out.low.push_back({place, half.find(place)->cost});
  out.hubs.clear();
  for (const std::uint64_t end : half.core) {
    const auto place = static_cast<std::uint32_t>(end);
    for (std::uint32_t i = table.first[place]; i < table.first[place + 1]; ++i) {
      const std::uint64_t sum = (end >> 32U) + table.hubs[i].cost;
      if (sum <= max_cost) out.hubs.push_back({table.hubs[i].hub, static_cast<Cost>(sum)});
    }
  }
  std::sort(out.hubs.begin(), out.hubs.end(),
            [](HubCost a, HubCost b) { return a.hub != b.hub ? a.hub < b.hub : a.cost < b.cost; });
  const auto last = std::unique(out.hubs.begin(), out.hubs.end(), [](HubCost a, HubCost b) { return a.hub == b.hub; });
  out.hubs.erase(last, out.hubs.end());
}

std::uint64_t IndexQuery::least_cost(const GoalHalf& goal) const {
  std::uint64_t best = std::uint64_t{max_cost} + 1;
  for (const HubCost low : goal.low) {
    const Reached* const other = halves_[0].find(low.hub);
    if (other != nullptr) best = std::min(best, std::uint64_t{other->cost} + low.cost);
  }
  for (const HubCost hub : goal.hubs) {
    const FromHub known = from_hubs_[hub.hub];
    if (known.query == hubs_query_) best = std::min(best, std::uint64_t{known.cost} + hub.cost);
  }
  return best;
}

/// From a core place to a hub of its own (side 0), or from the hub to the place (side 1), a way at a time: hub lists
/// hold the first way of each.
template <unsigned sides>
struct IndexQuery::HubWalk {
  const Index& index;
  const HubTable& table;
  unsigned side;
  std::uint32_t place;
  std::uint32_t hub;
  double about = 0.5;

  HubWalk(const Index& of_index, unsigned of_side, std::uint32_t from, std::uint32_t to_hub)
      : index(of_index), table(of_index.hubs[sides == 1 ? 0 : of_side]), side(of_side), place(from), hub(to_hub) {}
  [[nodiscard]] bool arrived() const { return place == hub; }
  void go_on(std::vector<Stretch>& out) {
    const std::uint32_t at = table.find(place, hub, about);
    const std::uint32_t begin = table.first[place];
    about = static_cast<double>(at - begin) / (table.first[place + 1] - begin);
    const IndexWay<sides>& way = index.ways<sides>(place)[table.way[at]];
    out.push_back(index.stretch<sides>(place, way, side != 0));
    SAUNTER_PREFETCH(index.text.data() + out.back().how);  // it is written out when all stretches are known
    place = way.to;
  }
};

template <unsigned sides>
void IndexQuery::write(const Index& index, std::vector<Stretch>& out) {
  const auto* const ways = reinterpret_cast<const IndexWay<sides>*>(index.way_words.data());
  // From the meeting place to the goal, from the goal's end on; then turned round: the last stretch first.
  const std::array<std::uint32_t, 2> meet =
      by_hub_ ? std::array{core_start(index), core_ends_[1]} : std::array{meet_, meet_};
  out.clear();
  const auto write_half = [&](unsigned side) {
    for (std::uint32_t place = meet[side];;) {
      const Reached& at = *halves_[side].find(place);
      if (at.parent == place) {
        ends_[side] = place;
        return;
      }
      out.push_back(index.stretch<sides>(at.parent, ways[at.way], side != 0));
      place = at.parent;
    }
  };
  write_half(1);
  std::reverse(out.begin(), out.end());
  if (by_hub_) {
    // By turns: each waits for memory most of the time.
    HubWalk<sides> to_goal(index, 1, meet[1], meet_);
    HubWalk<sides> from_start(index, 0, meet[0], meet_);
    first_half_.clear();
    while (!to_goal.arrived() || !from_start.arrived()) {
      if (!to_goal.arrived()) to_goal.go_on(out);
      if (!from_start.arrived()) from_start.go_on(first_half_);
    }
    out.insert(out.end(), first_half_.rbegin(), first_half_.rend());
  }
  write_half(0);
}

/// The start's core place whose hub the two halves met at.
std::uint32_t IndexQuery::core_start(const Index& index) const {
  const std::vector<std::uint64_t>& ends = halves_[0].core;
  const HubTable& table = index.hubs[0];
  for (std::size_t i = core_ends_[0]; i < ends.size(); ++i) {
    const auto place = static_cast<std::uint32_t>(ends[i]);
    const std::uint32_t at = table.find(place, meet_, 0.5);
    const bool listed = at < table.first[place + 1] && table.hubs[at].hub == meet_;
    if (listed && (ends[i] >> 32U) + table.hubs[at].cost == from_hubs_[meet_].cost) return place;
  }
  return meet_;
}

void IndexQuery::write_stretches(const Index& index, std::vector<Stretch>& out) {
  index.sides == 1 ? write<1>(index, out) : write<2>(index, out);
}

std::size_t IndexQuery::memory() const {
  std::size_t bytes = bytes_of(from_hubs_, first_half_);
  for (const Half& half : halves_) bytes += bytes_of(half.table, half.core, half.low) + half.heap.memory();
  return bytes;
}

}  // namespace saunter::inline v0_2::detail
