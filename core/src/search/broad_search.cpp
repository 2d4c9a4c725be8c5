#include "broad_search.hpp"

#include <algorithm>

#include "apart.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

bool least_cost(Algorithm by) { return by != Algorithm::bfs && by != Algorithm::greedy; }

}  // namespace

RouteOptions detail::made_sound(RouteOptions options, Tiling tiling) {
  const bool bfs = options.by == Algorithm::bfs;
  const bool greedy = options.by == Algorithm::greedy;
  const bool astar =
      options.by == Algorithm::astar || options.by == Algorithm::automatic || options.by == Algorithm::prepared;
  const bool turns = options.turn_cost > 0;
  const bool weighted = options.weight != 100;
  const auto drop_unless = [](bool sound, auto&& drop) {
    SAUNTER_EXPECT(sound);
    if (!sound) drop();
  };
  drop_unless(options.limit > 0, [&] { options.limit = 1; });
  drop_unless(!bfs || !options.budget, [&] { options.budget.reset(); });
  drop_unless(!turns || !(bfs || greedy || options.natural || tiling.shape() == Shape::triangle),
              [&] { options.turn_cost = {}; });
  drop_unless(!options.natural || !(bfs || greedy), [&] { options.natural = false; });
  drop_unless(!weighted || (astar && !options.natural), [&] { options.weight = 100_hundredths; });
  drop_unless(options.weight >= 100 && options.weight <= 10'000,
              [&] { options.weight = options.weight < 100 ? 100_hundredths : 100_steps; });
  drop_unless(!options.heading || (*options.heading >= 0 && *options.heading < tiling.direction_count()),
              [&] { options.heading.reset(); });
  if (options.by == Algorithm::prepared) {
    options.by = Algorithm::automatic;
  } else if (options.by != Algorithm::automatic) {
    options.prepared = nullptr;
  }
  return options;
}

void SteppedSearch::BroadSearch::begin(const CostGrid& costs, const Query& query, const RouteOptions& options) {
  ended_ = true;  // should this be cut short by an exception
  verdict_ = {};
  costs_ = &costs;
  options_ = options;
  by_ = options.by;
  until_ = query.until;
  within_ = std::max(0, query.within);
  beside_ = query.beside;
  given_goals_.assign(query.goals.begin(), query.goals.end());
  ground_.begin(costs, options.changes);
  changed_ = ground_.any();
  options_.changes = {};
  labels_ = nullptr;
  expanded_ = 0;
  enqueued_ = 0;
  cut_short_ = false;
  starts_.clear();
  start_numbers_.clear();
  headings_ = options_.turn_cost > 0 ? static_cast<unsigned>(costs.tiling().direction_count()) + 1 : 1;
  forget_search();
  const Verdict starts = take_starts(query.starts);
  const Verdict goals = take_goals();
  verdict_ = starts.reason != Reason::found ? starts : goals;
  // Without a goal that can be used there may still be a nearest cell to one that is blocked.
  const bool to_nearest = options_.or_nearest && goals.reason == Reason::goal_blocked;
  if (starts.reason != Reason::found || (goals.reason != Reason::found && !to_nearest)) return;
  labels_ = goals.reason == Reason::found ? apart_by_labels() : nullptr;
  if (labels_ != nullptr) {
    end(Reason::no_way);
    return;
  }
  ended_ = false;
  const bool hopeless = goals.reason != Reason::found;
  set_out(hopeless && options_.by != Algorithm::bfs ? Algorithm::dijkstra : options_.by);
}

/// Nothing has been reached, found or cut off.
void SteppedSearch::BroadSearch::forget_search() {
  touched_ = {};
  cut_ = false;
  found_goal_ = Goals::none;
  query_.begin(nodes_, costs_->size().cell_count() * headings_);
}

void SteppedSearch::BroadSearch::set_out(Algorithm by) {
  // Of goals that only a test knows nothing can be struck off.
  by_ = by == Algorithm::dead_ends && until_ ? Algorithm::astar : by;
  forget_search();
  if (by_ == Algorithm::dead_ends) strike_dead_ends();
  // An estimate changes by no more than the step costs; half a turn is the most.
  const std::uint64_t rise = 2 * std::uint64_t{step_cost(costs_->longest_step(), ground_.highest_entry())} +
                             std::uint64_t{options_.turn_cost} * 4;
  const bool steady =
      by_ == Algorithm::bfs || by_ == Algorithm::dijkstra || (least_cost(by_) && options_.weight == 100);
  const bool any_rise = by_ == Algorithm::bfs || starts_.size() > 1;
  queues_.begin(any_rise ? ~std::uint64_t{0} : rise, steady);
  for (const Source& start : starts_) {
    touched_.take(costs_->size().index(start.cell).value());
    const Cost head_start = by_ == Algorithm::bfs ? 0 : Cost{start.head_start};  // only steps count there
    reach(start.cell, start_heading(), head_start, from_nowhere, 0);
  }
}

void SteppedSearch::BroadSearch::strike_dead_ends() {
  std::vector<Cell> starts;
  starts.reserve(starts_.size());
  for (const Source& start : starts_) starts.push_back(start.cell);
  std::sort(starts.begin(), starts.end());
  dead_ends_.strike(*costs_, ground_, [&](Cell cell) {
    return goals_.at(cell) != Goals::none || std::binary_search(starts.begin(), starts.end(), cell);
  });
}

/// The caller's labels if they say that no goal can be reached, else null.
const Labels* SteppedSearch::BroadSearch::apart_by_labels() const {
  const Labels* const labels = changed_ || until_ ? nullptr : labels_that_prove(*costs_, options_);
  if (labels == nullptr) return nullptr;
  for (const Source& start : starts_) {
    for (const Goals::Accepted& goal : goals_.accepted()) {
      if (labels->at(start.cell) == labels->at(goal.cell)) return nullptr;
    }
  }
  return labels;
}

Verdict SteppedSearch::BroadSearch::take_starts(std::span<const Source> starts) {
  Verdict first{Reason::found, {}};
  for (std::size_t i = 0; i < starts.size(); ++i) {
    const Cell cell = starts[i].cell;
    if (ground_.open(cell)) {
      starts_.push_back(starts[i]);
      start_numbers_.push_back(static_cast<std::uint32_t>(i));
      continue;
    }
    if (first.reason != Reason::found) continue;
    first = {costs_->size().contains(cell) ? Reason::start_blocked : Reason::start_off_map, cell};
  }
  SAUNTER_EXPECT(!starts.empty());
  if (starts.empty()) return {Reason::start_off_map, {}};
  return starts_.empty() ? first : Verdict{Reason::found, {}};
}

Verdict SteppedSearch::BroadSearch::take_goals() {
  const Verdict verdict = goals_.begin(*costs_, ground_, given_goals_, within_, beside_, static_cast<bool>(until_));
  SAUNTER_EXPECT(!given_goals_.empty() || until_);
  if (until_) return {Reason::found, {}};
  return given_goals_.empty() ? Verdict{Reason::goal_off_map, {}} : verdict;
}

std::uint64_t SteppedSearch::BroadSearch::estimate(Cell cell) const { return goals_.estimate(cell); }

std::size_t SteppedSearch::BroadSearch::goal_at(Cell cell) const {
  if (const std::size_t goal = goals_.at(cell); goal != Goals::none) return goal;
  return until_ && until_(cell) ? goals_.given() : Goals::none;
}

std::uint64_t SteppedSearch::BroadSearch::total(std::uint64_t cost, std::uint64_t estimate) const {
  switch (by_) {
    case Algorithm::dijkstra: return cost;
    case Algorithm::bfs: return 0;  // in the order enqueued
    case Algorithm::greedy: return estimate;
    default: return cost + estimate * options_.weight / 100;
  }
}

std::uint64_t SteppedSearch::BroadSearch::turning(unsigned from, unsigned to) const {
  if (headings_ == 1 || from + 1 == headings_) return 0;
  // Squares: n e s w, then ne se sw nw, in eighths clockwise from n; hexes: in sixths.
  const bool square = headings_ == 9;
  const auto angle = [&](unsigned d) { return !square ? d : d < 4 ? 2 * d : 2 * (d - 4) + 1; };
  const unsigned full = headings_ - 1;
  const unsigned apart = (angle(to) + full - angle(from)) % full;
  return std::uint64_t{options_.turn_cost} * std::min(apart, full - apart);
}

unsigned SteppedSearch::BroadSearch::start_heading() const {
  if (headings_ == 1) return 0;
  return options_.heading ? static_cast<unsigned>(*options_.heading) : headings_ - 1;
}

void SteppedSearch::BroadSearch::reach(Cell cell, unsigned heading, std::uint64_t cost, unsigned back,
                                       unsigned heading_before) {
  const std::size_t state = state_of(cell, heading);
  Node& node = nodes_[state];
  const bool first_counts = back != from_nowhere && (by_ == Algorithm::bfs || by_ == Algorithm::greedy);
  if (query_.knows(node) && (first_counts || node.cost <= cost)) return;
  const std::uint64_t ahead = estimate(cell);
  const bool bounded = by_ != Algorithm::bfs;
  const bool sure = by_ == Algorithm::dijkstra || by_ == Algorithm::greedy;
  // The estimate never exceeds what remains, so it may be counted however the search is guided.
  const std::uint64_t at_least = cost + (sure ? 0 : ahead);
  bool beyond = false;
  if (bounded && at_least > options_.budget.value_or(Hundredths(max_cost))) {
    cut_ = true;
    if (back != from_nowhere) return;
    beyond = true;  // a unit is where it starts, though nowhere else within the bound
  }
  node = {query_.now(), static_cast<Cost>(cost), static_cast<std::uint8_t>(back),
          static_cast<std::uint8_t>(heading_before), false};
  if (beyond) return;
  const State place{pack(cell), static_cast<Cost>(cost), static_cast<std::uint8_t>(back)};
  const std::uint64_t key = total(cost, ahead);
  queues_.with([&](auto& queue) { queue.enqueue(place, by_ == Algorithm::bfs ? enqueued_++ : key); });
}

namespace {

/// A queue that counts as empty when a portion of places has been taken.
template <typename Queue>
struct Portion {
  Queue& queue;
  const std::uint64_t& places;
  [[nodiscard]] bool empty() const { return places == 0 || queue.empty(); }
  State dequeue() { return queue.dequeue(); }
};

}  // namespace

bool SteppedSearch::BroadSearch::run(std::uint64_t places) {
  while (!ended_ && places > 0) {
    queues_.with([&](auto& queue) { run_with(queue, places); });
    if (ended_ || places == 0) break;
    // The queue is empty.
    if (by_ == Algorithm::greedy && cut_ && found_goal_ == Goals::none) {
      set_out(Algorithm::astar);  // what took too dear a route may have a cheaper one
    } else {
      end(Reason::no_way);
    }
  }
  return ended_;
}

template <typename Queue>
void SteppedSearch::BroadSearch::run_with(Queue& queue, std::uint64_t& places) {
  Portion<Queue> portion{queue, places};
  best_first(
      portion, [&](const State& place) { return look_at(place); },
      [&](const State& place) {
        --places;
        expand(place);
      });
}

unsigned SteppedSearch::BroadSearch::heading_of(const State& place, unsigned kind) const {
  if (headings_ == 1) return 0;
  return place.back == from_nowhere ? start_heading() : costs_->tiling().neighbourhood().opposite[kind][place.back];
}

/// Whether a place is worth expanding; counts it then, and looks whether one arrives there.
Take SteppedSearch::BroadSearch::look_at(const State& place) {
  const Cell cell = unpack(place.cell);
  const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
  const std::size_t state = state_of(cell, heading_of(place, kind));
  if (nodes_[state].cost != place.cost || nodes_[state].expanded) return Take::skip;  // reached more cheaply since
  if (found_goal_ != Goals::none) {
    // Equals are looked at for a goal given earlier, or for a route that looks better.
    const std::uint64_t here = by_ == Algorithm::bfs ? place.cost : total(place.cost, estimate(cell));
    if (here > found_cost_) {
      end(Reason::found);
      return Take::stop;
    }
  }
  if (expanded_ == options_.limit) {
    cut_short_ = true;
    end(found_goal_ == Goals::none ? Reason::stopped : Reason::found);
    return Take::stop;
  }
  ++expanded_;
  nodes_[state].expanded = true;
  touched_.take(costs_->size().index(cell).value());
  if (options_.trace != nullptr) trace(place, cell, kind);
  return arrive(goal_at(cell), state, cell, place.cost) ? Take::stop : Take::expand;
}

void SteppedSearch::BroadSearch::trace(const State& place, Cell cell, unsigned kind) {
  const bool unguided = by_ == Algorithm::dijkstra || by_ == Algorithm::bfs;
  const Cell before =
      place.back == from_nowhere ? cell : cell + costs_->tiling().neighbourhood().offset[kind][place.back];
  options_.trace->push_back(
      {costs_->size().index(cell), costs_->size().index(before), place.cost, unguided ? 0 : estimate(cell)});
}

/// @return whether that ends the search
bool SteppedSearch::BroadSearch::arrive(std::size_t goal, std::size_t state, Cell cell, Cost cost) {
  if (goal >= found_goal_) return false;
  found_goal_ = goal;
  found_state_ = state;
  found_cell_ = cell;
  found_cost_ = cost;
  const bool first_will_do = by_ == Algorithm::greedy || (options_.weight > 100 && by_ != Algorithm::dijkstra);
  if (!first_will_do && (goal != 0 || options_.natural)) return false;
  end(Reason::found);
  return true;
}

void SteppedSearch::BroadSearch::expand(const State& place) {
  const Neighbourhood& hood = costs_->tiling().neighbourhood();
  const Cell cell = unpack(place.cell);
  const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
  const unsigned heading = heading_of(place, kind);
  unsigned legal = ground_.moves(cell);
  if (by_ == Algorithm::dead_ends) legal &= dead_ends_.left(costs_->size().index(cell).value());
  for_each_direction(legal, [&](unsigned d) {
    const Cell next = cell + hood.offset[kind][d];
    const std::uint64_t step =
        by_ == Algorithm::bfs
            ? 100
            : step_cost(costs_->step_length(static_cast<int>(kind), static_cast<int>(d)), ground_.entry(next)) +
                  turning(heading, d);
    reach(next, headings_ == 1 ? 0 : d, std::uint64_t{place.cost} + step, hood.opposite[kind][d], heading);
  });
}

void SteppedSearch::BroadSearch::end(Reason reason) {
  ended_ = true;
  if (reason == Reason::no_way && found_goal_ != Goals::none) reason = Reason::found;
  if (verdict_.reason != Reason::found) return;  // no goal could be used: the route to the nearest cell was wanted
  const bool left_out = cut_ || (by_ == Algorithm::dead_ends && options_.budget);
  if (reason == Reason::no_way && left_out) {
    reason = options_.budget ? Reason::over_budget : Reason::cost_overflow;  // or none at all, see find_place_of_no()
  }
  verdict_.reason = reason;
}

/// Whether any route leads to a goal, whatever it costs. Asked only after sums did not fit.
/// @param nearest  the cell nearest to a goal among all that the starts can get to
bool SteppedSearch::BroadSearch::leads_to_goal(Cell& nearest) const {
  std::vector<Cell> starts;
  starts.reserve(starts_.size());
  for (const Source& start : starts_) starts.push_back(start.cell);
  const auto heuristic = [&](Cell cell) { return goals_.heuristic(cell); };
  Nearest of_all(starts.front(), heuristic(starts.front()));
  const auto onward = [&](Cell cell, const auto& take) {
    for_each_next(costs_->tiling(), ground_.moves(cell), cell, take);
  };
  const auto arrives = [&](Cell cell) { return goal_at(cell) != Goals::none; };
  const bool leads = leads_to(costs_->size(), std::span<const Cell>(starts), onward, arrives, heuristic, of_all);
  nearest = of_all.cell();
  return leads;
}

}  // namespace saunter::inline v0_2
