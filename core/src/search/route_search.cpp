#include "route_search.hpp"

#include <algorithm>

#include "apart.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

bool Searcher::RouteSearch::suits(const Query& query, const RouteOptions& options) {
  const bool least_cost_or_steps = options.by != Algorithm::greedy && options.weight == 100;
  const bool plain_places = options.turn_cost == 0 && !options.natural;
  const bool from_one = query.starts.size() == 1 && query.starts.begin()->head_start == 0;
  const bool to_known = !query.until && !query.goals.empty();
  // What counts as nearest among the cells expanded, the fast searches can't tell.
  const bool nearest_of_all = !options.or_nearest || options.limit == std::numeric_limits<std::uint64_t>::max();
  return least_cost_or_steps && plain_places && from_one && to_known && nearest_of_all;
}

Question Searcher::RouteSearch::question(Cell from, Cell to) const {
  return {.costs = costs_,
          .from = from,
          .to = to,
          .guided = route_.algorithm_ != Algorithm::dijkstra,
          .bound = options_.budget.value_or(Hundredths(max_cost)),
          .limit = options_.limit,
          .trace = options_.trace};
}

void Searcher::RouteSearch::run(Cell from, Cell to) {
  route_.restart(chosen());
  route_.verdict_ = unusable_end(costs_, from, to);
  if (!route_.found()) return;
  if (const Labels* labels = labels_that_prove(costs_, options_);
      labels != nullptr && labels->at(from) != labels->at(to)) {
    route_.verdict_ = {Reason::no_way, nearest_of_group(costs_, *labels, from, to)};
    return;
  }
  const Question question = this->question(from, to);
  if (!look_up(question)) ask(question);
}

/// Answers from the caller's index. @return false where that can't tell @pre the ends can be used
bool Searcher::RouteSearch::look_up(const Question& question) {
  if (options_.prepared == nullptr || options_.trace != nullptr) return false;
  if (options_.limit != std::numeric_limits<std::uint64_t>::max()) return false;
  PreparedAnswer& answer = scratch_.prepared;
  if (!answer.find(*options_.prepared, costs_, question.from, question.to)) return false;
  if (question.beyond != nullptr && !answer.holds_on(costs_, question.beyond->ground)) return false;
  route_.algorithm_ = Algorithm::prepared;
  route_.expanded_ = answer.expanded();
  if (options_.budget && answer.cost() > *options_.budget) {
    answer_within(question, Reason::over_budget, *options_.budget);
    return true;
  }
  answer.write_cells(route_.cells_);
  route_.cost_ = answer.cost();
  route_.verdict_ = {Reason::found, question.to};
  return true;
}

bool Searcher::RouteSearch::run(const Query& query) {
  const Cell from = query.starts.begin()->cell;
  scratch_.ground.begin(costs_, options_.changes);
  const Verdict goals =
      scratch_.goals.begin(costs_, scratch_.ground, query.goals, std::max(0, query.within), query.beside);
  if (apart_by_labels(from)) return false;
  const bool leaps = options_.by == Algorithm::automatic || options_.by == Algorithm::jump;
  route_.restart(leaps ? Algorithm::astar : options_.by);
  if (!scratch_.ground.open(from)) {
    route_.verdict_ = {costs_.size().contains(from) ? Reason::start_blocked : Reason::start_off_map, from};
    return true;
  }
  route_.verdict_ = goals;
  // Without a goal that can be used there may still be a nearest cell to one that is blocked.
  const bool to_nearest = options_.or_nearest && goals.reason == Reason::goal_blocked;
  if (goals.reason != Reason::found && !to_nearest) return true;
  const bool strikes = route_.algorithm_ == Algorithm::dead_ends && !to_nearest;
  if (strikes) strike_dead_ends(from);
  const Beyond beyond{scratch_.ground, scratch_.goals, scratch_.ground.about(),
                      strikes ? &scratch_.dead_ends : nullptr};
  Question question = this->question(from, *query.goals.begin());
  // On the board as it is, at the one goal itself, nothing more is asked for.
  const bool to_one = !strikes && query.goals.size() == 1 && query.within <= 0 && !query.beside;
  if (!to_one || scratch_.ground.any() || to_nearest) question.beyond = &beyond;
  if (to_one && !to_nearest && look_up(question)) return true;
  if (to_nearest) question.guided = false;
  if (leaps && !to_nearest && JumpSearch::suits(costs_, beyond)) route_.algorithm_ = chosen();
  ask(question);
  if (to_nearest) route_.verdict_ = goals;
  return true;
}

void Searcher::RouteSearch::strike_dead_ends(Cell from) {
  scratch_.dead_ends.strike(costs_, scratch_.ground,
                            [&](Cell cell) { return cell == from || scratch_.goals.at(cell) != Goals::none; });
}

/// Whether the caller's labels say that no goal can be reached.
bool Searcher::RouteSearch::apart_by_labels(Cell from) const {
  const Labels* const labels = scratch_.ground.any() ? nullptr : labels_that_prove(costs_, options_);
  if (labels == nullptr || scratch_.goals.empty() || !costs_.open(from)) return false;
  return std::none_of(scratch_.goals.accepted().begin(), scratch_.goals.accepted().end(),
                      [&](const Goals::Accepted& goal) { return labels->at(from) == labels->at(goal.cell); });
}

Algorithm Searcher::RouteSearch::chosen() const {
  const bool jump = options_.by == Algorithm::jump || (options_.by == Algorithm::automatic && JumpSearch::pays(costs_));
  if (jump) return JumpSearch::suits(costs_) ? Algorithm::jump : Algorithm::astar;
  return options_.by == Algorithm::automatic ? Algorithm::astar : options_.by;
}

void Searcher::RouteSearch::ask(const Question& question) {
  if (route_.algorithm_ == Algorithm::bfs) {
    finish(question, scratch_.by_steps, scratch_.by_steps.by_steps(question));
  } else if (route_.algorithm_ == Algorithm::jump) {
    finish(question, scratch_.by_jumps, scratch_.by_jumps.run(question));
  } else if (StepSearch::one_step_cost(costs_, question.beyond)) {
    finish(question, scratch_.by_steps, scratch_.by_steps.by_cost(question));
  } else {
    finish(question, scratch_.by_cost, scratch_.by_cost.run(question));
  }
}

template <typename Search>
void Searcher::RouteSearch::finish(const Question& question, const Search& search, const Ending& ending) {
  route_.expanded_ = ending.expanded;
  if (ending.reason == Reason::found) {
    search.write_way_back(question, ending.at, route_.cells_);
    std::reverse(route_.cells_.begin(), route_.cells_.end());
    std::uint64_t cost = ending.cost;
    if (route_.algorithm_ == Algorithm::bfs) {  // counts steps: where they cost the same the route need not be walked
      cost = StepSearch::one_step_cost(costs_, question.beyond) ? cost * costs_.lowest_entry() : cost_of(question);
    }
    if (cost <= max_cost) {
      route_.cost_ = static_cast<Cost>(cost);
      route_.goal_number_ = question.beyond != nullptr ? ending.goal : 0;
      route_.verdict_ = {Reason::found, ending.at};
      return;
    }
    route_.cells_.clear();
    answer_within(question, Reason::cost_overflow, max_cost);
    return;
  }
  answer_no(question, search, ending);
}

template <typename Search>
void Searcher::RouteSearch::answer_no(const Question& question, const Search& search, const Ending& ending) {
  // A jump search has not seen every cell, nor one that leaves out dead ends.
  const bool leaves_out = question.beyond != nullptr && question.beyond->dead_ends != nullptr;
  const bool saw_all =
      !std::is_same_v<Search, JumpSearch> && !leaves_out && ending.reason == Reason::no_way && !ending.cut;
  if (ending.reason == Reason::stopped || saw_all) {
    route_.verdict_ = {ending.reason, search.nearest(question)};
    if (options_.or_nearest) write_nearest(question, search);
  } else if (options_.budget) {
    answer_within(question, Reason::over_budget, *options_.budget);
  } else if (Cell nearest; leads_to_goal(question, nearest)) {
    answer_within(question, Reason::cost_overflow, max_cost);
  } else {
    route_.verdict_ = {Reason::no_way, nearest};
    if (!options_.or_nearest) return;
    answer_within(question, Reason::no_way, options_.budget.value_or(Hundredths(max_cost)));
    route_.verdict_.at = nearest;
  }
}

namespace {

/// What a question has beyond one goal, dead ends included again.
std::optional<Beyond> without_striking(const Question& question) {
  if (question.beyond == nullptr) return std::nullopt;
  return Beyond{question.beyond->ground, question.beyond->goals, question.beyond->changed};
}

}  // namespace

/// A "no" at the cell nearest to the goal among all whose least cost is within a bound, however the search was guided.
void Searcher::RouteSearch::answer_within(const Question& question, Reason reason, Cost bound) {
  Question all = question;
  const std::optional<Beyond> beyond = without_striking(question);
  if (beyond) all.beyond = &*beyond;
  all.guided = false;
  all.bound = bound;
  all.limit = ~std::uint64_t{0};
  all.trace = nullptr;
  const auto answer = [&](auto& search) {
    // Guided searches leave out what does not lead there within the budget, and cells costlier ways came to first.
    const bool all_of_it = reason == Reason::over_budget && !search.leads_out(all);
    route_.verdict_ = {all_of_it ? Reason::no_way : reason, search.nearest(all)};
    if (options_.or_nearest) write_nearest(all, search);
  };
  if (StepSearch::one_step_cost(costs_, question.beyond)) {
    (void)scratch_.by_steps.by_cost(all);
    answer(scratch_.by_steps);
  } else {
    (void)scratch_.by_cost.run(all);
    answer(scratch_.by_cost);
  }
}

/// The route to the nearest cell, which the verdict names.
template <typename Search>
void Searcher::RouteSearch::write_nearest(const Question& question, const Search& search) {
  const Cell last = route_.verdict_.at;
  route_.remaining_ = scratch_.goals.heuristic(last);
  search.write_way_back(question, last, route_.cells_);
  std::reverse(route_.cells_.begin(), route_.cells_.end());
  const std::uint64_t cost = cost_of(question);
  if (cost > max_cost) {
    route_.cells_.clear();
  } else {
    route_.cost_ = static_cast<Cost>(cost);
  }
}

/// Whether any route leads to a goal, whatever it costs. @param nearest  the nearest to one of all that can be got to
bool Searcher::RouteSearch::leads_to_goal(const Question& question, Cell& nearest) {
  Question by_steps = question;
  const std::optional<Beyond> beyond = without_striking(question);
  if (beyond) by_steps.beyond = &*beyond;
  by_steps.limit = ~std::uint64_t{0};
  by_steps.trace = nullptr;
  const bool leads = scratch_.by_steps.by_steps(by_steps).reason == Reason::found;
  nearest = scratch_.by_steps.nearest(by_steps);
  return leads;
}

/// The cost of the cells written.
std::uint64_t Searcher::RouteSearch::cost_of(const Question& question) const {
  return cost_of_steps(
      costs_, route_.cells_, [&](Cell cell) { return question.entry(cell); }, [](Direction) { return 0U; });
}

}  // namespace saunter::inline v0_2
