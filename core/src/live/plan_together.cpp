#include "saunter/live/plan_together.hpp"

#include <algorithm>
#include <numeric>
#include <unordered_map>

#include "../search/kernel/ends.hpp"
#include "../search/kernel/legal_steps.hpp"
#include "../search/kernel/queue.hpp"
#include "saunter/grid/dice.hpp"
#include "saunter/place/footprint.hpp"
#include "saunter/search/searcher.hpp"
#include "../search/kernel/tick_table.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

constexpr std::uint32_t no_tick = 0xFFFFFFFF;

/// Who is where when: cells at ticks, and where those who have arrived stay.
class Reservations {
 public:
  void begin(Size size) {
    size_ = size;
    at_.clear();
    if (used_until_.size() != size) {  // the last one: memory may run out between them
      rests_from_ = Grid<std::uint32_t>(size, no_tick);
      rests_ = Grid<std::uint32_t>(size);
      used_until_ = Grid<std::uint32_t>(size);
    } else {
      std::fill(rests_from_.values().begin(), rests_from_.values().end(), no_tick);
      std::fill(used_until_.values().begin(), used_until_.values().end(), 0U);
    }
    last_tick_ = 0;
  }
  /// @param who  from 1
  void take(Cell cell, std::uint32_t tick, std::uint32_t who) {
    bool fresh = false;
    at_.get(size_.index(cell).value(), tick, who, fresh) = who;
    used_until_[cell] = std::max(used_until_[cell], tick + 1);
    last_tick_ = std::max(last_tick_, tick);
  }
  void rest(Cell cell, std::uint32_t from, std::uint32_t who) {
    rests_from_[cell] = from;
    rests_[cell] = who;
  }
  /// 0 = nobody.
  [[nodiscard]] std::uint32_t who(Cell cell, std::uint32_t tick) {
    if (rests_from_[cell] <= tick) return rests_[cell];
    if (tick >= used_until_[cell]) return 0;
    const std::uint32_t* const found = at_.find(size_.index(cell).value(), tick);
    return found == nullptr ? 0 : *found;
  }
  /// The tick from which nobody passes a cell any more.
  [[nodiscard]] std::uint32_t used_until(Cell cell) const { return used_until_[cell]; }
  /// From the next tick on nobody moves any more.
  [[nodiscard]] std::uint32_t last_tick() const { return last_tick_; }

 private:
  Size size_;
  TickTable<std::uint32_t> at_;
  Grid<std::uint32_t> rests_from_;
  Grid<std::uint32_t> rests_;
  Grid<std::uint32_t> used_until_;
  std::uint32_t last_tick_ = 0;
};

/// What is left to each goal: true costs as far as the farthest member that goes there stands, a bound beyond. Fields
/// of as many goals are kept as memory is given for; the others are made again when they are wanted.
class Guides {
 public:
  void begin(const CostGrid& costs, std::span<const GroupMember> members) {
    costs_ = &costs;
    goals_.clear();
    number_of_.clear();
    std::unordered_map<std::uint64_t, std::size_t> known;
    for (const GroupMember& member : members) {
      const std::uint64_t place =
          std::uint64_t{static_cast<std::uint32_t>(member.to.col)} << 32U | static_cast<std::uint32_t>(member.to.row);
      const auto [found, fresh] = known.try_emplace(place, goals_.size());
      if (fresh) goals_.push_back({member.to, {}, none});
      goals_[found->second].starts.push_back(member.from);
      number_of_.push_back(found->second);
    }
    constexpr std::size_t most_bytes = 64U << 20U;
    const std::size_t bytes = 5 * std::max<std::size_t>(costs.size().cell_count(), 1);
    const std::size_t count = std::clamp<std::size_t>(most_bytes / bytes, 1, std::max<std::size_t>(goals_.size(), 1));
    slots_.resize(count);
    for (Slot& slot : slots_) slot.goal = none;
    next_ = 0;
  }
  /// Turns to the goal of a member.
  void turn_to(std::size_t member) {
    Goal& goal = goals_[number_of_[member]];
    if (goal.slot == none) {
      Slot& slot = slots_[next_];
      if (slot.goal != none) goals_[slot.goal].slot = none;
      slot.goal = none;  // should memory run out now
      const Source source{goal.cell};
      searcher_.field_to(*costs_, {&source, 1}, slot.field, {.until = goal.starts});
      const auto reached = [&](Cell start) { return slot.field.reached(start) || !costs_->open(start); };
      slot.beyond = unreached;  // all of it is known
      if (std::all_of(goal.starts.begin(), goal.starts.end(), reached)) {
        slot.beyond = 0;
        for (const Cell start : goal.starts) {
          if (slot.field.reached(start)) slot.beyond = std::max(slot.beyond, slot.field.cost(start));
        }
      }
      slot.goal = number_of_[member];
      goal.slot = next_;
      next_ = (next_ + 1) % slots_.size();
    }
    now_ = &slots_[goal.slot];
  }
  /// `unreached` where no way leads.
  [[nodiscard]] Cost left(Cell cell) const { return now_->field.reached(cell) ? now_->field.cost(cell) : now_->beyond; }

 private:
  static constexpr std::size_t none = ~std::size_t{0};
  struct Goal {
    Cell cell;
    std::vector<Cell> starts;
    std::size_t slot = none;
  };
  struct Slot {
    Field field;
    Cost beyond = 0;
    std::size_t goal = none;
  };
  const CostGrid* costs_ = nullptr;
  Searcher searcher_;
  std::vector<Goal> goals_;
  std::vector<std::size_t> number_of_;  // of each member's goal
  std::vector<Slot> slots_;
  std::size_t next_ = 0;
  const Slot* now_ = nullptr;
};

}  // namespace

class GroupPlanner::Work {
 public:
  GroupPlan plan(const CostGrid& costs, std::span<const GroupMember> members, const GroupOptions& options);

 private:
  struct State {
    Cell cell;
    std::uint32_t tick = 0;
    std::uint32_t before = no_tick;
    std::uint64_t cost = 0;
  };
  struct Waiting {
    std::uint64_t total = 0;
    std::uint64_t cost = 0;
    std::uint32_t state = 0;
    friend bool operator<(const Waiting& a, const Waiting& b) {
      if (a.total != b.total) return a.total < b.total;
      return a.cost != b.cost ? a.cost > b.cost : a.state > b.state;
    }
  };

  bool plan_in_order(GroupPlan& plan, bool to_the_end);
  bool find_way(std::size_t number, GroupPlan::Member& member, std::uint64_t& expanded);
  void reach(Cell cell, std::uint32_t tick, std::uint32_t before, std::uint64_t cost);
  [[nodiscard]] bool free_at(Cell cell, std::uint32_t tick);
  [[nodiscard]] bool can_step(Cell from, Cell to, std::uint32_t tick);
  [[nodiscard]] bool can_rest(Cell cell, std::uint32_t tick);
  void write_way(std::uint32_t state, GroupPlan::Member& member);
  void reserve(std::size_t number, const GroupPlan::Member& member);

  const CostGrid* costs_ = nullptr;
  std::span<const GroupMember> members_;
  GroupOptions options_;
  Footprint body_;
  Guides guides_;
  std::vector<std::size_t> order_;
  std::vector<Cost> alone_;  // what each member's way would cost without the others
  Reservations reservations_;
  std::vector<State> states_;
  TickTable<std::uint64_t> best_;  // least cost enqueued of a cell at a tick
  BinaryHeap<Waiting> queue_;
  std::vector<Cell> here_;
  std::vector<Cell> there_;
};

bool GroupPlanner::Work::free_at(Cell cell, std::uint32_t tick) {
  body_.cells_at(costs_->tiling(), cell, there_);
  return std::all_of(there_.begin(), there_.end(), [&](Cell part) { return reservations_.who(part, tick) == 0; });
}

/// Whether the place is free at the next tick, and nobody comes from it to here meanwhile.
bool GroupPlanner::Work::can_step(Cell from, Cell to, std::uint32_t tick) {
  if (!free_at(to, tick + 1)) return false;
  if (from == to) return true;
  body_.cells_at(costs_->tiling(), from, here_);
  return std::all_of(there_.begin(), there_.end(), [&](Cell part) {
    const std::uint32_t other = reservations_.who(part, tick);
    return other == 0 || std::none_of(here_.begin(), here_.end(),
                                      [&](Cell mine) { return reservations_.who(mine, tick + 1) == other; });
  });
}

bool GroupPlanner::Work::can_rest(Cell cell, std::uint32_t tick) {
  body_.cells_at(costs_->tiling(), cell, there_);
  return std::all_of(there_.begin(), there_.end(), [&](Cell part) {
    return reservations_.who(part, no_tick - 1) == 0 && reservations_.used_until(part) <= tick;
  });
}

/// Once all others have come to rest a tick is like any other.
void GroupPlanner::Work::reach(Cell cell, std::uint32_t tick, std::uint32_t before, std::uint64_t cost) {
  const std::uint64_t left = guides_.left(cell);
  if (left == unreached || cost + left > max_cost) return;
  const std::uint32_t phase = std::min(tick, reservations_.last_tick() + 1);
  bool fresh = false;
  std::uint64_t& best = best_.get(costs_->size().index(cell).value(), phase, cost, fresh);
  if (!fresh && best <= cost) return;
  best = cost;
  states_.push_back({cell, tick, before, cost});
  queue_.enqueue({cost + left, cost, static_cast<std::uint32_t>(states_.size() - 1)});
}

bool GroupPlanner::Work::find_way(std::size_t number, GroupPlan::Member& member, std::uint64_t& expanded) {
  const GroupMember& asked = members_[number];
  guides_.turn_to(number);
  states_.clear();
  best_.clear();
  queue_.begin();
  member.reason = Reason::no_way;
  if (alone_[number] == unreached) return false;
  member.reason = Reason::stopped;
  if (!free_at(asked.from, 0)) return false;
  reach(asked.from, 0, no_tick, 0);
  const std::uint64_t wait = std::max<Length>(options_.waiting, 1);
  for (std::uint64_t taken = 0; !queue_.empty();) {
    const Waiting first = queue_.dequeue();
    const State state = states_[first.state];
    const std::uint32_t phase = std::min(state.tick, reservations_.last_tick() + 1);
    if (*best_.find(costs_->size().index(state.cell).value(), phase) < state.cost) continue;
    if (taken++ == options_.limit) return false;
    ++expanded;
    if (state.cell == asked.to && can_rest(state.cell, state.tick)) {
      write_way(first.state, member);
      return true;
    }
    if (can_step(state.cell, state.cell, state.tick)) reach(state.cell, state.tick + 1, first.state, state.cost + wait);
    const auto kind = static_cast<unsigned>(costs_->tiling().kind(state.cell));
    const auto& offsets = costs_->tiling().neighbourhood().offset[kind];
    for_each_direction(costs_->moves(state.cell), [&](unsigned d) {
      const Cell next = state.cell + offsets[d];
      if (!can_step(state.cell, next, state.tick)) return;
      reach(next, state.tick + 1, first.state,
            state.cost + costs_->cost_of_step(state.cell, Direction(static_cast<int>(d))));
    });
  }
  return false;
}

void GroupPlanner::Work::write_way(std::uint32_t state, GroupPlan::Member& member) {
  member.reason = Reason::found;
  for (std::uint32_t at = state; at != no_tick; at = states_[at].before) member.cells.push_back(states_[at].cell);
  std::reverse(member.cells.begin(), member.cells.end());
  for (std::size_t i = 1; i < member.cells.size(); ++i) {
    if (member.cells[i] == member.cells[i - 1]) {
      ++member.waits;
    } else {
      member.cost +=
          costs_->cost_of_step(member.cells[i - 1], costs_->tiling().direction(member.cells[i - 1], member.cells[i]));
    }
  }
}

void GroupPlanner::Work::reserve(std::size_t number, const GroupPlan::Member& member) {
  const auto who = static_cast<std::uint32_t>(number + 1);
  for (std::uint32_t tick = 0; tick < member.cells.size(); ++tick) {
    body_.cells_at(costs_->tiling(), member.cells[tick], here_);
    for (const Cell part : here_) {
      reservations_.take(part, tick, who);
      if (tick + 1 == member.cells.size()) reservations_.rest(part, tick, who);
    }
  }
}

/// @param to_the_end  plan for the others too when one finds no way
/// @return whether none was in another's way; else the first that found none stands at the front of the order
bool GroupPlanner::Work::plan_in_order(GroupPlan& plan, bool to_the_end) {
  reservations_.begin(costs_->size());
  plan.members.assign(members_.size(), {});
  std::optional<std::size_t> failed;
  for (std::size_t place = 0; place < order_.size(); ++place) {
    const std::size_t number = order_[place];
    GroupPlan::Member& member = plan.members[number];
    const Verdict ends = unusable_end(*costs_, members_[number].from, members_[number].to);
    if (ends.reason != Reason::found) {
      member.reason = ends.reason;
    } else if (find_way(number, member, plan.expanded)) {
      reserve(number, member);
    } else if (!failed && member.reason == Reason::stopped) {
      failed = place;
      if (!to_the_end) break;
    }
  }
  plan.complete = std::all_of(plan.members.begin(), plan.members.end(),
                              [](const GroupPlan::Member& member) { return member.reason == Reason::found; });
  if (failed)
    std::rotate(order_.begin(), order_.begin() + static_cast<std::ptrdiff_t>(*failed),
                order_.begin() + static_cast<std::ptrdiff_t>(*failed) + 1);
  return !failed.has_value();
}

GroupPlan GroupPlanner::Work::plan(const CostGrid& costs, std::span<const GroupMember> members,
                                   const GroupOptions& options) {
  costs_ = &costs;
  members_ = members;
  options_ = options;
  body_ = Footprint::of_size(costs.tiling(), costs.mover_size());
  guides_.begin(costs, members);
  alone_.clear();
  for (std::size_t i = 0; i < members.size(); ++i) {
    guides_.turn_to(i);
    alone_.push_back(costs.open(members[i].from) ? guides_.left(members[i].from) : unreached);
  }
  order_.resize(members.size());
  std::iota(order_.begin(), order_.end(), std::size_t{0});
  std::stable_sort(order_.begin(), order_.end(), [&](std::size_t a, std::size_t b) { return alone_[a] > alone_[b]; });
  Dice dice(options.seed);
  const std::uint32_t tries = std::max<std::uint32_t>(options.tries, 1);
  GroupPlan plan;
  for (plan.tries = 1;; ++plan.tries) {
    if (plan_in_order(plan, plan.tries == tries) || plan.tries == tries) return plan;
    for (std::size_t i = order_.size(); i-- > 2;) {  // all behind the one that failed
      std::swap(order_[i], order_[1 + dice.below(static_cast<std::uint32_t>(i))]);
    }
  }
}

GroupPlanner::GroupPlanner() : work_(std::make_unique<Work>()) {}
GroupPlanner::~GroupPlanner() = default;
GroupPlanner::GroupPlanner(GroupPlanner&&) noexcept = default;
GroupPlanner& GroupPlanner::operator=(GroupPlanner&&) noexcept = default;

GroupPlan GroupPlanner::plan(const CostGrid& costs, std::span<const GroupMember> members, const GroupOptions& options) {
  return work_->plan(costs, members, options);
}

}  // namespace saunter::inline v0_2
