#include "saunter/threat/timed_route.hpp"

#include <algorithm>

#include "../search/goal_costs.hpp"
#include "../search/kernel/best_first.hpp"
#include "../search/kernel/changed_moves.hpp"
#include "../search/kernel/ends.hpp"
#include "../search/kernel/legal_steps.hpp"
#include "../search/kernel/queue.hpp"
#include "../search/kernel/tick_table.hpp"
#include "../search/question.hpp"
#include "saunter/grid/area.hpp"
#include "saunter/search/estimate.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

constexpr std::uint64_t last_tick = std::numeric_limits<std::uint32_t>::max() - 1;

}  // namespace

class TimedSearcher::Work {
 public:
  void run(const CostGrid& costs, const TimedDanger& danger, Cell from, Cell to, const TimedOptions& options,
           TimedRoute& route);

 private:
  static constexpr std::uint32_t no_state = ~std::uint32_t{0};
  struct Reached {
    Cell cell;
    std::uint32_t before = no_state;
    std::uint64_t tick = 0;
    Cost weighed = 0;
  };

  struct Queued {
    std::uint64_t total = 0;
    Cost weighed = 0;
    std::uint32_t state = 0;
    friend bool operator<(const Queued& a, const Queued& b) {
      if (a.total != b.total) return a.total < b.total;
      return a.weighed != b.weighed ? a.weighed > b.weighed : a.state > b.state;
    }
  };

  /// The ground while certain cells are shut.
  struct ShutGround {
    std::vector<EntryChange> shut;
    ChangedMoves moves;
  };

  [[nodiscard]] const ChangedMoves& ground_at(std::uint64_t tick);
  [[nodiscard]] std::uint16_t level(Cell cell, std::uint64_t tick);
  [[nodiscard]] bool never_bearable(Cell cell);
  void expand(std::uint32_t number);
  /// Whether the cell was reached for less at that tick, or one like it.
  [[nodiscard]] bool outdated(const Reached& state) {
    const auto phase = static_cast<std::uint32_t>(clock_.phase(state.tick));
    return *best_.find(costs_->size().index(state.cell).value(), phase) < state.weighed;
  }
  void begin_states(Cell from);
  void look_at_all_within_budget(Cell from);
  void reach(Cell cell, std::uint64_t tick, std::uint32_t before, std::uint64_t weighed);
  void write_way(std::uint32_t number, TimedRoute& route);

  const CostGrid* costs_ = nullptr;
  const TimedDanger* danger_ = nullptr;
  TimedOptions options_;
  Clock clock_;
  std::uint64_t bound_ = max_cost;
  bool beyond_bound_ = false;
  bool beyond_ticks_ = false;
  std::vector<std::uint32_t> ground_of_;  // by phase: one more than its number among the grounds; 0 = not looked up yet
  std::vector<ShutGround> grounds_;
  std::size_t ground_count_ = 0;
  std::vector<EntryChange> shut_;
  std::vector<Cell> body_;
  GoalCosts guide_;     // without danger, with nothing shut
  bool guided_ = true;  // false: all that is within the budget is looked at
  std::vector<Reached> states_;
  TickTable<Cost> best_;
  BinaryHeap<Queued> queue_;
};

/// Of a large mover the largest of the cells it covers.
std::uint16_t TimedSearcher::Work::level(Cell cell, std::uint64_t tick) {
  if (danger_ == nullptr) return 0;
  if (costs_->mover_size() <= 1) return danger_->level(cell, tick);
  body_cells(costs_->tiling(), cell, costs_->mover_size(), body_);
  return danger_->level(body_, tick);
}

/// Ticks at which the same cells are shut share a ground.
const ChangedMoves& TimedSearcher::Work::ground_at(std::uint64_t tick) {
  // Phases in use lie close together: from the first tick on, or within one round.
  const std::uint64_t first =
      clock_.period == 0 ? options_.begin : std::min<std::uint64_t>(options_.begin, clock_.settled);
  const auto phase = static_cast<std::size_t>(options_.closures.empty() ? 0 : clock_.phase(tick) - first);
  if (phase >= ground_of_.size()) ground_of_.resize(phase + 1, 0);
  if (ground_of_[phase] != 0) return grounds_[ground_of_[phase] - 1].moves;
  shut_.clear();
  for (const Closure& closure : options_.closures) {
    if (closure.shut(tick)) shut_.push_back({closure.cell, blocked});
  }
  const auto same = [&](const ShutGround& ground) {
    return std::equal(ground.shut.begin(), ground.shut.end(), shut_.begin(), shut_.end(),
                      [](const EntryChange& a, const EntryChange& b) { return a.cell == b.cell; });
  };
  const auto end = grounds_.begin() + static_cast<std::ptrdiff_t>(ground_count_);
  const auto known = std::find_if(grounds_.begin(), end, same);
  const auto number = static_cast<std::size_t>(known - grounds_.begin());
  if (known == end) {
    if (number == grounds_.size()) grounds_.emplace_back();
    grounds_[number].shut.assign(shut_.begin(), shut_.end());
    grounds_[number].moves.begin(*costs_, grounds_[number].shut, ChangedMoves::Lookup::by_list);
    ++ground_count_;
  }
  ground_of_[phase] = static_cast<std::uint32_t>(number + 1);
  return grounds_[number].moves;
}

void TimedSearcher::Work::reach(Cell cell, std::uint64_t tick, std::uint32_t before, std::uint64_t weighed) {
  const CellIndex index = costs_->size().index(cell);
  const std::uint64_t total = weighed + (guided_ ? guide_.left(index) : 0);
  if (total > bound_) {
    beyond_bound_ = true;
    return;
  }
  if (tick - options_.begin > options_.most_ticks || tick > last_tick) {
    beyond_ticks_ = true;
    return;
  }
  bool fresh = false;
  const auto sum = static_cast<Cost>(weighed);
  const auto phase = static_cast<std::uint32_t>(clock_.phase(tick));
  Cost& best = best_.get(index.value(), phase, sum, fresh);
  if (!fresh && best <= sum) return;
  best = sum;
  states_.push_back({cell, before, tick, sum});
  queue_.enqueue({total, sum, static_cast<std::uint32_t>(states_.size() - 1)});
}

void TimedSearcher::Work::expand(std::uint32_t number) {
  const Reached state = states_[number];  // a copy: more are added
  const std::uint64_t then = state.tick + 1;
  const std::uint16_t highest = options_.highest.value_or(std::numeric_limits<std::uint16_t>::max());
  const std::uint64_t wary{Length{options_.wary}};
  const unsigned moves = ground_at(state.tick).moves(state.cell);
  const ChangedMoves& after = ground_at(then);
  const auto go = [&](Cell cell, Length length, EntryCost entry, std::uint64_t more) {
    if (!after.open(cell)) return;
    const std::uint16_t there = level(cell, then);
    if (there <= highest) reach(cell, then, number, state.weighed + weighed_step(length, entry, more + wary * there));
  };
  const auto kind = static_cast<unsigned>(costs_->tiling().kind(state.cell));
  const Neighbourhood& hood = costs_->tiling().neighbourhood();
  for_each_direction(moves, [&](unsigned d) {
    const Cell next = state.cell + hood.offset[kind][d];
    go(next, costs_->step_length(static_cast<int>(kind), static_cast<int>(d)), costs_->entry(next), 0);
  });
  go(state.cell, 100, 0, std::max<Length>(options_.waiting, 1));  // or waits
}

/// Whether a cell is shut or too dangerous at every tick from the first on. Rounds longer than a clock counts are not
/// looked through: the search tells then.
bool TimedSearcher::Work::never_bearable(Cell cell) {
  if (clock_.period == 0 || (!options_.highest && options_.closures.empty())) return false;
  const std::uint64_t last = std::max<std::uint64_t>(options_.begin, clock_.settled) + clock_.period;
  if (last - options_.begin > 2 * Clock::most_period) return false;
  const std::uint16_t highest = options_.highest.value_or(std::numeric_limits<std::uint16_t>::max());
  for (std::uint64_t tick = options_.begin; tick <= last; ++tick) {
    if (level(cell, tick) <= highest && (options_.closures.empty() || ground_at(tick).open(cell))) return false;
  }
  return true;
}

void TimedSearcher::Work::begin_states(Cell from) {
  states_.clear();
  best_.clear();
  queue_.begin();
  reach(from, options_.begin, no_state, 0);
}

/// Cells the budget lasts to may have been left out, as it does not last from there to the goal.
void TimedSearcher::Work::look_at_all_within_budget(Cell from) {
  guided_ = false;
  begin_states(from);
  const auto look = [&](const Queued& first) { return outdated(states_[first.state]) ? Take::skip : Take::expand; };
  (void)best_first(queue_, look, [&](const Queued& first) { expand(first.state); });
}

void TimedSearcher::Work::run(const CostGrid& costs, const TimedDanger& danger, Cell from, Cell to,
                              const TimedOptions& options, TimedRoute& route) {
  SAUNTER_EXPECT(danger.threat_count() == 0 || danger.board() == costs.board());
  costs_ = &costs;
  danger_ = danger.board() == costs.board() ? &danger : nullptr;
  options_ = options;
  clock_ = danger_ == nullptr ? Clock{} : danger.clock();
  for (const Closure& closure : options.closures) {
    const bool for_good = closure.until == std::numeric_limits<std::uint32_t>::max();
    clock_.join(for_good ? closure.from : closure.until, closure.repeat);
  }
  bound_ = options.budget ? std::uint64_t{Length{*options.budget}} : max_cost;
  beyond_bound_ = false;
  beyond_ticks_ = false;
  ground_of_.clear();
  ground_count_ = 0;
  guided_ = true;
  route.verdict_ = unusable_end(
      costs.size(), from, to, [&](Cell cell) { return ground_at(options.begin).open(cell); },
      [&](Cell cell) { return costs.open(cell); });
  if (route.found() && from != to && never_bearable(to)) route.verdict_ = {Reason::goal_blocked, to};
  if (!route.found()) return;
  const Estimate estimate(costs, to);
  guide_.begin(costs, from, to);
  begin_states(from);
  const std::uint64_t most = std::max<std::uint64_t>(options.limit, 1);
  std::uint32_t arrived = no_state;
  bool stopped = false;
  const auto look = [&](const Queued& first) {
    const Reached& state = states_[first.state];
    if (outdated(state)) return Take::skip;
    stopped = route.expanded_ == most;
    if (stopped) return Take::stop;
    ++route.expanded_;
    if (state.cell != to) return Take::expand;
    arrived = first.state;
    return Take::stop;
  };
  (void)best_first(queue_, look, [&](const Queued& first) { expand(first.state); });
  if (arrived != no_state) {
    write_way(arrived, route);
    return;
  }
  const bool too_dear = beyond_bound_ && options.budget.has_value();
  const bool cut_short = stopped || beyond_ticks_;
  if (too_dear && !cut_short) look_at_all_within_budget(from);
  Nearest nearest(from, estimate(from));
  for (const Reached& state : states_) nearest.look(state.cell, estimate(state.cell));
  const Reason without = too_dear ? Reason::over_budget : beyond_bound_ ? Reason::cost_overflow : Reason::no_way;
  route.verdict_ = {cut_short ? Reason::stopped : without, nearest.cell()};
}

void TimedSearcher::Work::write_way(std::uint32_t number, TimedRoute& route) {
  route.weighed_ = states_[number].weighed;
  for (std::uint32_t at = number; at != no_state; at = states_[at].before) {
    const Reached& state = states_[at];
    route.cells_.push_back(state.cell);
    if (state.before == no_state) break;
    const Cell before = states_[state.before].cell;
    const bool waits = before == state.cell;
    const Tiling tiling = costs_->tiling();
    const Length length = waits ? 100 : costs_->step_length(tiling.kind(before), tiling.direction(before, state.cell));
    route.waits_ += waits ? 1U : 0U;
    route.cost_ += waits ? 0 : step_cost(length, costs_->entry(state.cell));
    route.exposure_ += std::uint64_t{length} * level(state.cell, state.tick);
  }
  std::reverse(route.cells_.begin(), route.cells_.end());
}

TimedSearcher::TimedSearcher() : work_(std::make_unique<Work>()) {}
TimedSearcher::~TimedSearcher() = default;
TimedSearcher::TimedSearcher(TimedSearcher&&) noexcept = default;
TimedSearcher& TimedSearcher::operator=(TimedSearcher&&) noexcept = default;

const TimedRoute& TimedSearcher::route(const CostGrid& costs, const TimedDanger& danger, Cell from, Cell to,
                                       const TimedOptions& options) & {
  route_.verdict_ = {};
  route_.cells_.clear();
  route_.waits_ = 0;
  route_.cost_ = 0;
  route_.exposure_ = 0;
  route_.weighed_ = 0;
  route_.expanded_ = 0;
  work_->run(costs, danger, from, to, options, route_);
  return route_;
}

}  // namespace saunter::inline v0_2
