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
  if (to_nearest && !options_.budget && options_.trace == nullptr) {
    scratch_.behind.begin();
    answer_nearest(question);
    route_.verdict_ = goals;
    return true;
  }
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

void Searcher::RouteSearch::ask(Question question) {
  if (question.beyond == nullptr || !question.beyond->goals.empty()) question.behind = &scratch_.behind;
  scratch_.behind.begin();
  search(question, route_.algorithm_,
         [&](const auto& search, const Ending& ending) { finish(question, search, ending); });
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

/// The cost of the cells written.
std::uint64_t Searcher::RouteSearch::cost_of(const Question& question) const {
  return cost_of_steps(
      costs_, route_.cells_, [&](Cell cell) { return question.entry(cell); }, [](Direction) { return 0U; });
}

}  // namespace saunter::inline v0_2
