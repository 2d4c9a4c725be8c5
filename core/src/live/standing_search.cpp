#include "standing_search.hpp"

#include <algorithm>
#include <utility>

#include "../search/kernel/ends.hpp"
#include "../search/kernel/legal_steps.hpp"
#include "../search/kernel/pack.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

/// Blocks of more cells than these are searched, not reasoned about.
constexpr std::uint64_t most_reasoned = 256;
constexpr std::size_t most_pending = 64;
/// A ring of more buckets than these takes more memory than a route is worth.
constexpr std::uint64_t most_buckets = 4096;

Rect stepped_around(const CostGrid& costs, Rect block) {
  return block.grown(costs.tiling().shape() == Shape::triangle ? 2 : 1, costs.size());
}

}  // namespace

void StandingRoute::Search::begin(const CostGrid& costs, Cell start, Cell goal) {
  from = start;
  to = goal;
  expanded = 0;
  report = {.standing = Standing::broken, .at = start};
  reason = Reason::not_asked;
  cells_.clear();
  passed_ = 0;
  stamp_ = {};
  working_ = false;
  (void)notice(costs);
}

/// Forgets all but the question.
void StandingRoute::Search::start_over() {
  stamp_ = {};  // until it is whole
  nodes_.begin_again(costs_->size());
  queue_.begin();
  pending_.clear();
  shift_ = 0;
  beyond_ = false;
  cheapest_ = costs_->lowest_entry();
  searched_from_ = from;
  to_unit_.emplace(costs_->tiling(), costs_->rules(), cheapest_, from);
  to_goal_.emplace(costs_->tiling(), costs_->rules(), cheapest_, to);
  const std::uint64_t rise = 2 * std::uint64_t{costs_->highest_step()};
  first_ = rise <= most_buckets;
  if (first_) first_queue_.begin(rise);
  if (costs_->size().contains(to)) {
    Node& goal = nodes_[to];
    goal.ahead = 0;
    enqueue(to, goal);
  }
  stamp_ = costs_->stamp();
}

/// Whether what is known is of this grid, and its estimates are still none too high.
bool StandingRoute::Search::soundly_begun(const CostGrid& costs) const {
  return stamp_.of_same(costs.stamp()) && (costs.lowest_entry() == blocked || costs.lowest_entry() >= cheapest_) &&
         cheapest_ != blocked && queue_.size() <= 4096 + 2 * std::size_t{costs.size().cell_count()};
}

StandingRoute::Search::Key StandingRoute::Search::key_of(Cell cell, const Node& node) const {
  const Cost least = std::min(node.settled, node.ahead);
  return {least + (*to_unit_)(cell) + shift_, least, pack(cell)};
}

void StandingRoute::Search::enqueue(Cell cell, const Node& node) {
  if (node.settled == node.ahead) return;
  const Key key = key_of(cell, node);
  if (first_) {
    first_queue_.enqueue({key.cell, key.cost, 0}, key.total);
  } else {
    queue_.enqueue(key);
  }
}

/// A first search is plain A*: totals only rise, and a place is settled once. @return false when its share is used up
bool StandingRoute::Search::run_first(std::uint64_t& places) {
  while (!first_queue_.empty() && costs_->open(from)) {
    if (nodes_.at(from).settled != unreached) break;
    if (places == 0) return false;
    const State taken = first_queue_.dequeue();
    const Cell cell = unpack(taken.cell);
    const Node node = nodes_.at(cell);
    if (node.settled != unreached || node.ahead != taken.cost) continue;  // out of date
    --places;
    expand(cell);
  }
  end_first();
  return true;
}

/// From here on keys may fall: what still waits goes to the heap.
void StandingRoute::Search::end_first() {
  if (!first_) return;
  first_ = false;
  while (!first_queue_.empty()) {
    const State taken = first_queue_.dequeue();
    const Node node = nodes_.at(unpack(taken.cell));
    if (node.ahead == taken.cost) enqueue(unpack(taken.cell), node);
  }
}

Cost StandingRoute::Search::step(unsigned kind, unsigned d, Cell into) const {
  return step_cost(costs_->step_length(static_cast<int>(kind), static_cast<int>(d)), costs_->entry(into));
}

/// What a cell's cost is by its neighbours' settled ones.
Cost StandingRoute::Search::least_ahead(Cell cell) {
  if (cell == to) return 0;
  const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
  const auto& offsets = costs_->tiling().neighbourhood().offset[kind];
  Cost least = unreached;
  for_each_direction(costs_->moves(cell), [&](unsigned d) {
    const Cell next = cell + offsets[d];
    const Cost settled = nodes_.at(next).settled;
    if (settled == unreached) return;
    const std::uint64_t cost = std::uint64_t{settled} + step(kind, d, next);
    beyond_ = beyond_ || cost > max_cost;
    if (cost < least) least = static_cast<Cost>(cost);
  });
  return least;
}

void StandingRoute::Search::look_again(Cell cell) {
  const Cost ahead = least_ahead(cell);
  if (nodes_.at(cell).ahead == ahead) return;
  Node& node = nodes_[cell];
  node.ahead = ahead;
  enqueue(cell, node);
}

void StandingRoute::Search::take_in_changes() {
  const Stamp whole = std::exchange(stamp_, {});  // should it be cut short
  end_first();
  for (const Rect block : pending_) {
    for (const Cell cell : stepped_around(*costs_, block).cells()) look_again(cell);
  }
  pending_.clear();
  stamp_ = whole;
}

/// Nothing that a block holds can be on a way that costs less.
bool StandingRoute::Search::too_far(Rect block, const Estimate& to_unit, std::uint64_t cost) const {
  block = stepped_around(*costs_, block);
  if (block.cell_count() > most_reasoned) return false;
  const auto cells = block.cells();
  return std::all_of(cells.begin(), cells.end(), [&](Cell cell) { return to_unit(cell) + (*to_goal_)(cell) >= cost; });
}

bool StandingRoute::Search::touches_route(Rect block) const {
  block = stepped_around(*costs_, block);
  return block.meets(box_) && std::any_of(cells_.begin() + static_cast<std::ptrdiff_t>(passed_), cells_.end(),
                                          [&](Cell cell) { return block.contains(cell); });
}

StandingRoute::Search::Walked StandingRoute::Search::walk(std::span<const Cell> cells) const {
  Walked walked;
  const Tiling tiling = costs_->tiling();
  if (!cells.empty() && !costs_->open(cells.front())) return {.legal = false, .step = 0};
  for (std::size_t i = 1; i < cells.size(); ++i) {
    const Direction d = tiling.direction(cells[i - 1], cells[i]);
    if (d < 0 || !holds(costs_->moves(cells[i - 1]), d)) return {.legal = false, .step = i};
    walked.cost += costs_->cost_of_step(cells[i - 1], d);
  }
  return walked;
}

void StandingRoute::Search::stand_at(Cell cell) {
  if (cell == from) return;
  from = cell;
  moved_ = true;
  const auto begin = cells_.begin() + static_cast<std::ptrdiff_t>(passed_);
  const auto steps = static_cast<std::size_t>(std::find(begin, cells_.end(), cell) - begin);
  report.cost = cost_after(steps);
  passed_ += steps;
}

/// What is left of the route's cost so many steps on; nothing where that is off the route, or its steps are others now.
std::optional<Cost> StandingRoute::Search::cost_after(std::size_t steps) const {
  if (steps >= rest().size() || !report.cost) return std::nullopt;
  const Walked walked = walk(rest().first(steps + 1));
  if (!walked.legal || walked.cost > *report.cost) return std::nullopt;
  return *report.cost - static_cast<Cost>(walked.cost);
}

/// @return whether nothing needs to be searched: then the report is made
bool StandingRoute::Search::notice(const CostGrid& costs) {
  const bool same = soundly_begun(costs);
  costs_ = &costs;
  if (!same) {
    working_ = true;
    searched_ = true;
    start_over();
    return false;
  }
  if (proven_to_hold()) return true;
  working_ = true;
  searched_ = true;
  if (from != searched_from_) {
    shift_ += (*to_unit_)(from);
    to_unit_.emplace(costs_->tiling(), costs_->rules(), cheapest_, from);
    searched_from_ = from;
  }
  take_in_changes();
  return false;
}

/// Takes note of what has changed, and looks whether the route still stands without a search.
bool StandingRoute::Search::proven_to_hold() {
  const std::size_t known = pending_.size();
  costs_->for_each_change_since(stamp_, [&](Rect block) { pending_.push_back(block); });
  stamp_ = costs_->stamp();
  if (working_ || rest().empty() || reason != Reason::found) return false;
  for (std::size_t i = known; i < pending_.size(); ++i) {
    if (touches_route(pending_[i])) return false;
  }
  if (moved_) before_ = walk(rest());
  if (!before_.legal) return false;
  const Estimate to_unit(costs_->tiling(), costs_->rules(), cheapest_, from);
  for (std::size_t i = known; i < pending_.size(); ++i) {
    if (!too_far(pending_[i], to_unit, before_.cost)) return false;
  }
  moved_ = false;
  report = {.standing = Standing::holds, .at = from, .cost = static_cast<Cost>(before_.cost)};
  if (pending_.size() > most_pending) take_in_changes();
  return true;
}

/// A neighbour's cost by way of a cell whose settled cost has become another.
void StandingRoute::Search::offer(Cell leaner, Cost cost_of_step, Cost settled, Cost before) {
  if (leaner == to) return;
  const Cost ahead = nodes_.at(leaner).ahead;
  if (settled != unreached) {
    const std::uint64_t cost = std::uint64_t{settled} + cost_of_step;
    if (cost > max_cost) {
      beyond_ = true;
    } else if (cost < ahead) {
      Node& node = nodes_[leaner];
      node.ahead = static_cast<Cost>(cost);
      enqueue(leaner, node);
    }
  } else if (ahead == std::uint64_t{before} + cost_of_step) {
    look_again(leaner);
  }
}

void StandingRoute::Search::expand(Cell cell) {
  ++expanded;
  Node& node = nodes_[cell];
  const Cost before = node.settled;
  node.settled = node.settled > node.ahead ? node.ahead : unreached;
  const Cost settled = node.settled;
  enqueue(cell, node);
  const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
  const auto& offsets = costs_->tiling().neighbourhood().offset[kind];
  for_each_direction(moves_into(*costs_, cell),
                     [&](unsigned d) { offer(cell + offsets[d], step(kind, d, cell), settled, before); });
}

bool StandingRoute::Search::run(std::uint64_t places) {
  if (!working_) return true;
  if (!stamp_.same(costs_->stamp())) (void)notice(*costs_);
  const Stamp whole = std::exchange(stamp_, {});  // should it be cut short
  if (first_ && !run_first(places)) {
    stamp_ = whole;
    return false;
  }
  while (!queue_.empty() && costs_->open(from)) {
    const Node start = nodes_.at(from);
    const Key top = queue_.top();
    if (start.settled == start.ahead && start.ahead != unreached && !(top < key_of(from, start))) break;
    if (places == 0) {
      stamp_ = whole;
      return false;
    }
    queue_.dequeue();
    const Cell cell = unpack(top.cell);
    const Node node = nodes_.at(cell);
    if (node.settled == node.ahead || top.cost != std::min(node.settled, node.ahead)) continue;  // out of date
    const Key key = key_of(cell, node);
    if (top < key) {
      queue_.enqueue(key);
      continue;
    }
    --places;
    expand(cell);
  }
  conclude();
  stamp_ = whole;
  return true;
}

void StandingRoute::Search::write_route() {
  cells_.clear();
  passed_ = 0;
  box_ = {};
  Cost left = nodes_.at(from).ahead;
  if (reason != Reason::found) return;
  for (Cell cell = from;;) {
    cells_.push_back(cell);
    box_ = box_.joined(Rect::of(cell));
    if (cell == to) return;
    const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
    const auto& offsets = costs_->tiling().neighbourhood().offset[kind];
    for (unsigned moves = costs_->moves(cell);; moves &= moves - 1) {
      SAUNTER_EXPECT(moves != 0);
      if (moves == 0) return;
      const auto d = static_cast<unsigned>(std::countr_zero(moves));
      const Cell next = cell + offsets[d];
      const Cost settled = nodes_.at(next).settled;
      if (settled == unreached || std::uint64_t{settled} + step(kind, d, next) != left) continue;
      left = settled;
      cell = next;
      break;
    }
  }
}

/// Whether there is a way at all, at whatever cost.
bool StandingRoute::Search::leads_to_goal() const {
  Nearest nearest(from, (*to_goal_)(from));
  const auto onward = [&](Cell cell, const auto& take) {
    for_each_next(costs_->tiling(), costs_->moves(cell), cell, take);
  };
  return leads_to(
      costs_->size(), std::span<const Cell>(&from, 1), onward, [&](Cell cell) { return cell == to; }, *to_goal_,
      nearest);
}

/// The search has ended: what has become of the route.
void StandingRoute::Search::conclude() {
  const Size size = costs_->size();
  const Cost least = size.contains(to) && costs_->open(from) ? nodes_.at(from).ahead : unreached;
  reason = !size.contains(from)         ? Reason::start_off_map
           : !costs_->open(from)        ? Reason::start_blocked
           : !size.contains(to)         ? Reason::goal_off_map
           : !costs_->open(to)          ? Reason::goal_blocked
           : least != unreached         ? Reason::found
           : beyond_ && leads_to_goal() ? Reason::cost_overflow
                                        : Reason::no_way;
  // As it is now: the unit may have stepped on, or aside, since the search began.
  const bool had_route = !rest().empty();
  const Walked before = walk(rest());
  before_ = before;
  const bool intact = had_route && before.legal && reason == Reason::found && before.cost <= max_cost;
  report = {.standing = Standing::holds, .at = from, .searched = searched_};
  if (reason == Reason::found) report.cost = least;
  if (had_route && !intact) {
    report.standing = Standing::broken;
    report.step = before.step;
    report.at = rest()[before.step];
  } else if (!had_route) {
    report.standing = reason == Reason::found ? Standing::better : Standing::broken;
  } else if (least < before.cost) {
    report.standing = Standing::better;
    report.saved = static_cast<Cost>(before.cost - least);
  }
  if (report.standing != Standing::holds) {
    write_route();
    before_ = {.cost = least};
  }
  moved_ = false;
  working_ = false;
  searched_ = false;
}

std::size_t StandingRoute::Search::memory() const {
  return nodes_.bytes() + queue_.memory() + first_queue_.memory() + bytes_of(pending_, cells_);
}

}  // namespace saunter::inline v0_2
