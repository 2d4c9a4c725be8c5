// How a query is answered that has no route.
#include <algorithm>
#include <optional>
#include <utility>

#include "route_search.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

template <typename Search>
void Searcher::RouteSearch::answer_no(const Question& question, const Search& search, const Ending& ending) {
  if (ending.shut && !options_.budget) {
    answer_nearest(question);
    return;
  }
  // A jump search has not seen every cell, nor one that leaves out dead ends.
  const bool leaves_out = question.beyond != nullptr && question.beyond->dead_ends != nullptr;
  const bool saw_all = !std::is_same_v<Search, JumpSearch> && !leaves_out && !ending.shut &&
                       ending.reason == Reason::no_way && !ending.cut;
  if (ending.reason == Reason::stopped || saw_all) {
    route_.verdict_ = {ending.reason, search.nearest(question)};
    if (options_.or_nearest) write_nearest(question, search);
  } else if (options_.budget) {
    answer_within(question, Reason::over_budget, *options_.budget);
  } else {
    answer_by_steps(question);
  }
}

/// A "no" by a look at everything the start can get to, whatever it costs.
void Searcher::RouteSearch::answer_by_steps(const Question& question) {
  Cell nearest;
  if (leads_to_goal(question, nearest)) {
    answer_within(question, Reason::cost_overflow, max_cost);
    return;
  }
  route_.verdict_ = {Reason::no_way, nearest};
  if (!options_.or_nearest) return;
  answer_within(question, Reason::no_way, max_cost);
  route_.verdict_.at = nearest;
}

/// A "no" that was proven from behind, or with goals that can't be arrived at: the nearest cell the start can get to.
/// Nearer ones are cut off, each proven by a search from the start to it, which gets there or costs the smaller side.
void Searcher::RouteSearch::answer_nearest(const Question& question) {
  constexpr int most_tries = 16;
  constexpr std::size_t most_goals = 8;
  if (question.beyond != nullptr && question.beyond->goals.counted().size() > most_goals)
    return answer_by_steps(question);
  int tries = 0;
  for (int within = 8;; within *= 2) {
    const bool all = list_near_cells(question, within);
    for (const auto& [heuristic, cell] : scratch_.near_cells) {
      if (scratch_.behind.knows(costs_.size().index(cell).value())) continue;
      const Ending ending = go_near(question, cell);
      if (ending.reason == Reason::found) return;
      // Sums that do not fit, or all the start can get to was seen: that is told by a look at it.
      if (!ending.shut || ++tries == most_tries) return answer_by_steps(question);
    }
    if (all) return answer_by_steps(question);
  }
}

/// Open cells that are not known to be cut off, those the verdict would rather name first: all that it would rather
/// name than any farther away than so many cells from all goals. @return whether these are all there are
bool Searcher::RouteSearch::list_near_cells(const Question& question, int within) {
  const Size size = costs_.size();
  const ChangedMoves* const ground = question.beyond != nullptr ? &question.beyond->ground : nullptr;
  const EntryCost lowest = ground != nullptr ? ground->lowest_entry() : costs_.lowest_entry();
  // A step leads at most so many columns aside, and counts at least the cheapest entry.
  const int aside = costs_.tiling().shape() == Shape::triangle ? 2 : 1;
  const std::uint64_t farther = static_cast<std::uint64_t>(within / aside) * lowest;
  auto& cells = scratch_.near_cells;
  cells.clear();
  bool all = true;
  const auto look_about = [&](Cell goal, const auto& heuristic) {
    const Rect box = Rect::of(goal).grown(within, size);
    all = all && box == Rect::whole(size);
    for (const Cell cell : box.cells()) {
      const bool open = ground != nullptr ? ground->open(cell) : costs_.open(cell);
      if (!open || scratch_.behind.knows(size.index(cell).value())) continue;
      if (const std::uint64_t far = heuristic(cell); far < farther || box == Rect::whole(size))
        cells.emplace_back(far, cell);
    }
  };
  if (question.beyond == nullptr) {
    look_about(question.to, Estimate(costs_, question.to));
  } else {
    const Goals& goals = question.beyond->goals;
    for (const Cell goal : goals.counted()) look_about(goal, [&](Cell cell) { return goals.heuristic(cell); });
  }
  std::sort(cells.begin(), cells.end());
  return all;
}

/// Looks for a way to a cell; where there is one, the cell is what the answer names.
Ending Searcher::RouteSearch::go_near(const Question& question, Cell cell) {
  Question near = question;
  near.to = cell;
  near.guided = true;
  near.bound = max_cost;
  near.limit = ~std::uint64_t{0};
  near.trace = nullptr;
  near.behind = &scratch_.behind;
  std::optional<Beyond> beyond;
  if (question.beyond != nullptr) {
    const ChangedMoves& ground = question.beyond->ground;
    scratch_.near_goal.begin_anew(costs_, ground, cell);
    beyond.emplace(Beyond{ground, scratch_.near_goal, question.beyond->changed});
    near.beyond = &*beyond;
  }
  scratch_.behind.begin_anew();
  const bool by_jumps = beyond ? JumpSearch::suits(costs_, *beyond) : JumpSearch::suits(costs_);
  Ending ended;
  search(near,
         route_.algorithm_ == Algorithm::bfs ? Algorithm::bfs
         : by_jumps                          ? Algorithm::jump
                                             : Algorithm::astar,
         [&](const auto& search, const Ending& ending) {
           ended = ending;
           if (ending.reason != Reason::found) return;
           route_.verdict_ = {Reason::no_way, cell};
           if (options_.or_nearest) write_nearest(near, search);
         });
  return ended;
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
  all.behind = nullptr;  // all of it is wanted
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
  by_steps.behind = nullptr;
  const bool leads = scratch_.by_steps.by_steps(by_steps).reason == Reason::found;
  nearest = scratch_.by_steps.nearest(by_steps);
  return leads;
}

template void Searcher::RouteSearch::answer_no(const Question&, const CostSearch&, const Ending&);
template void Searcher::RouteSearch::answer_no(const Question&, const StepSearch&, const Ending&);
template void Searcher::RouteSearch::answer_no(const Question&, const JumpSearch&, const Ending&);

}  // namespace saunter::inline v0_2
