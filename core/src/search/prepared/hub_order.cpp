#include "hub_order.hpp"

#include <algorithm>
#include <numeric>

namespace saunter::inline v0_2::detail {
namespace {

/// A round ends with so many trees of so many places together, or with more places than are worth their memory. The
/// more, the surer the choice and the longer it takes.
constexpr std::size_t least_trees = 512;
constexpr std::size_t least_places = 2'000'000;
constexpr std::size_t most_places = 16'000'000;
constexpr std::size_t trees_at_a_time = 16;
/// A tree tells about so few hubs; and hubs chosen at least.
constexpr std::size_t trees_a_hub = 1;
constexpr std::size_t least_hubs = 64;

}  // namespace

template <unsigned sides>
void HubOrder<sides>::begin(std::size_t places) {
  chosen_.assign(places, 0);
  score_.assign(places, 0);
  order_.reserve(places);
  grown_.resize(trees_at_a_time);
}

template <unsigned sides>
bool HubOrder<sides>::work(const Core<sides>& core, std::size_t amount, const Workers& workers) {
  if (benches_.size() < workers.count()) benches_.resize(workers.count());
  while (part_ != Part::done && amount > 0) {
    if (order_.size() == core.count()) {
      part_ = Part::done;
    } else if (part_ == Part::grow) {
      const std::size_t before = nodes_.size();
      grow_some(core, workers);
      amount -= std::min(amount, nodes_.size() - before + 1);
      const bool enough = nodes_.size() >= least_places && next_root_ >= least_trees;
      if (next_root_ >= others_.size() || enough || nodes_.size() >= most_places) begin_choosing();
    } else {
      std::pop_heap(heap_.begin(), heap_.end());
      const auto place = static_cast<std::uint32_t>(heap_.back());
      const std::uint64_t score = heap_.back() >> 32U;
      if (score != score_[place]) {  // scores only fall
        heap_.back() = score_[place] << 32U | place;
        std::push_heap(heap_.begin(), heap_.end());
        continue;
      }
      heap_.pop_back();
      --amount;
      order_.push_back(place);
      chosen_[place] = 1;
      cover(place);
      if (order_.size() < choose_until_) continue;
      nodes_.clear();
      others_.clear();
      part_ = Part::grow;
    }
  }
  return part_ == Part::done;
}

/// Trees from the next few roots, which are spread over all places whatever their number.
template <unsigned sides>
void HubOrder<sides>::grow_some(const Core<sides>& core, const Workers& workers) {
  if (others_.empty()) {
    for (std::uint32_t place = 0; place < core.count(); ++place) {
      if (chosen_[place] == 0) others_.push_back(place);
    }
    // Places lie along a space-filling curve; steps by the golden section meet all parts of it early.
    std::vector<std::uint32_t> spread;
    spread.reserve(others_.size());
    auto step = static_cast<std::size_t>(static_cast<double>(others_.size()) * 0.6180339887);
    while (std::gcd(step, others_.size()) != 1) ++step;
    for (std::size_t i = 0, at = 0; i < others_.size(); ++i, at = (at + step) % others_.size())
      spread.push_back(others_[at]);
    others_ = std::move(spread);
    next_root_ = 0;
  }
  const std::size_t last = std::min(others_.size(), next_root_ + trees_at_a_time);
  workers.for_each(next_root_, last, 1, [&](std::size_t worker, std::size_t i) {
    grow(core, others_[i], benches_[worker], grown_[i - next_root_]);
  });
  for (std::size_t i = next_root_; i < last; ++i) {
    const auto at = static_cast<std::uint32_t>(nodes_.size());
    for (Node node : grown_[i - next_root_]) {
      node.parent += at;
      nodes_.push_back(node);
    }
  }
  next_root_ = last;
}

/// Dijkstra's search until every place left leads over a hub.
template <unsigned sides>
void HubOrder<sides>::grow(const Core<sides>& core, std::uint32_t root, Bench& bench, std::vector<Node>& tree) const {
  if (bench.marks.size() < core.count()) {
    bench.marks.resize(core.count());
    bench.parent.resize(core.count());
    bench.next.resize(core.count());
  }
  bench.settled.clear();
  bench.touched.assign(1, root);
  bench.heap.begin();
  bench.heap.enqueue(0, root);
  bench.marks[root] = {0, false};
  std::size_t open = 1;  // places waiting that no hub covers
  while (open > 0) {
    const auto [place, cost] = bench.heap.dequeue();
    const auto [known, covered] = bench.marks[place];
    if (known != cost) continue;
    if (!covered) {
      bench.settled.push_back(place);
      --open;
    }
    for (const IndexWay<sides>& way : core.of(place)) {
      const std::uint64_t sum = std::uint64_t{cost} + way.cost[IndexWay<sides>::there];
      auto& mark = bench.marks[way.to];
      if (sum > mark.cost || sum > max_cost) continue;
      const bool now_covered = covered || chosen_[way.to] != 0;
      if (sum == mark.cost) {
        if (now_covered && !mark.covered) {
          mark.covered = true;
          --open;
        }
        continue;
      }
      if (mark.cost == unreached) {
        bench.touched.push_back(way.to);
        if (!now_covered) ++open;
      } else if (mark.covered != now_covered) {
        now_covered ? --open : ++open;
      }
      mark = {static_cast<Cost>(sum), now_covered};
      bench.parent[way.to] = place;
      bench.heap.enqueue(sum, way.to);
    }
  }
  for (const std::uint32_t place : bench.touched) bench.marks[place] = {};
  lay_out(bench, tree);
}

/// Sizes from the leaves up, then positions from the root down.
template <unsigned sides>
void HubOrder<sides>::lay_out(Bench& bench, std::vector<Node>& tree) {
  const std::size_t count = bench.settled.size();
  tree.resize(count);
  for (const std::uint32_t place : bench.settled) bench.next[place] = 1;
  for (std::size_t i = count; i-- > 1;) bench.next[bench.parent[bench.settled[i]]] += bench.next[bench.settled[i]];
  for (std::size_t i = 0; i < count; ++i) {
    const std::uint32_t place = bench.settled[i];
    const std::uint32_t size = bench.next[place];
    std::uint32_t at = 0;
    std::uint32_t parent = 0;
    if (i > 0) {  // a parent that was laid out holds the position at which its next branch begins
      std::uint32_t& free = bench.next[bench.parent[place]];
      at = free;
      free += size;
      parent = bench.parent[place];
    }
    bench.next[place] = at + 1;
    tree[at] = {place, parent, size, size};
  }
  // Parents by position.
  for (std::size_t at = 0; at < count; ++at) bench.next[tree[at].place] = static_cast<std::uint32_t>(at);
  for (std::size_t at = 1; at < count; ++at) tree[at].parent = bench.next[tree[at].parent];
}

template <unsigned sides>
void HubOrder<sides>::begin_choosing() {
  std::fill(score_.begin(), score_.end(), 0);
  first_at_.assign(score_.size() + 1, 0);
  for (const Node& node : nodes_) {
    score_[node.place] += node.size;
    ++first_at_[node.place + 1];
  }
  for (std::size_t i = 1; i < first_at_.size(); ++i) first_at_[i] += first_at_[i - 1];
  at_.resize(nodes_.size());
  std::vector<std::size_t> next(first_at_.begin(), first_at_.end() - 1);
  for (std::uint32_t at = 0; at < nodes_.size(); ++at) at_[next[nodes_[at].place]++] = at;
  heap_.clear();
  for (const std::uint32_t place : others_) heap_.push_back(score_[place] << 32U | place);
  std::make_heap(heap_.begin(), heap_.end());
  choose_until_ = std::min(score_.size(), order_.size() + std::max(least_hubs, next_root_ / trees_a_hub));
  part_ = Part::choose;
}

/// Takes the branch of a place out of every tree.
template <unsigned sides>
void HubOrder<sides>::cover(std::uint32_t place) {
  for (std::size_t i = first_at_[place]; i < first_at_[place + 1]; ++i) {
    const std::uint32_t at = at_[i];
    const std::uint32_t gone = nodes_[at].below;
    if (gone == 0) continue;
    for (std::uint32_t up = at; nodes_[up].parent != up;) {
      up = nodes_[up].parent;
      nodes_[up].below -= gone;
      score_[nodes_[up].place] -= gone;
    }
    const std::uint32_t end = at + nodes_[at].size;
    for (std::uint32_t j = at; j < end;) {
      Node& node = nodes_[j];
      if (node.below == 0) {
        j += node.size;  // covered earlier
        continue;
      }
      score_[node.place] -= node.below;
      node.below = 0;
      ++j;
    }
  }
}

template <unsigned sides>
std::size_t HubOrder<sides>::memory() const {
  return bytes_of(order_, others_, nodes_, first_at_, at_, score_, heap_);
}

template class HubOrder<1>;
template class HubOrder<2>;

}  // namespace saunter::inline v0_2::detail
