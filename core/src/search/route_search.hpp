/// @file
/// Queries that the fast searches can answer: one start, no turns, nothing unknown about the goals.
#pragma once

#include "back_flood.hpp"
#include "cost_search.hpp"
#include "jump_search.hpp"
#include "prepared/prepared_answer.hpp"
#include "saunter/search/searcher.hpp"
#include "step_search.hpp"

namespace saunter::inline v0_2 {
namespace detail {

/// Memory of the fast searches, kept between queries.
struct RouteScratch {
  CostSearch by_cost;
  StepSearch by_steps;
  JumpSearch by_jumps;
  ChangedMoves ground;
  DeadEnds dead_ends;
  Goals goals;
  BackFlood behind;
  Goals near_goal;                                         // a cell that a "no" may name
  std::vector<std::pair<std::uint64_t, Cell>> near_cells;  // all of them, by what the verdict goes by
  PreparedAnswer prepared;

  [[nodiscard]] std::size_t memory() const {
    return by_cost.memory() + by_steps.memory() + by_jumps.memory() + ground.memory() + dead_ends.memory() +
           goals.memory() + behind.memory() + near_goal.memory() + bytes_of(near_cells) + prepared.memory();
  }
};

}  // namespace detail

/// One such query under way.
class Searcher::RouteSearch {
 public:
  RouteSearch(detail::RouteScratch& scratch, Route& route, const CostGrid& costs, const RouteOptions& options)
      : scratch_(scratch), route_(route), costs_(costs), options_(options) {}

  /// Whether a query is one of them, as far as its words tell.
  [[nodiscard]] static bool suits(const Query& query, const RouteOptions& options);

  /// From one cell to another on the board as it is. @pre no changes, not `or_nearest`
  void run(Cell from, Cell to);
  /// @return false, and nothing is answered, where the caller's labels tell more @pre suits(query, options)
  [[nodiscard]] bool run(const Query& query);

 private:
  [[nodiscard]] detail::Question question(Cell from, Cell to) const;
  [[nodiscard]] Algorithm chosen() const;
  [[nodiscard]] bool apart_by_labels(Cell from) const;
  [[nodiscard]] bool look_up(const detail::Question& question);
  /// Asks the search that suits and makes its ending the answer.
  void ask(detail::Question question);
  /// Lets the search that suits look for the goals: use(search, ending).
  template <typename Use>
  void search(const detail::Question& question, Algorithm by, Use&& use);
  void strike_dead_ends(Cell from);
  template <typename Search>
  void finish(const detail::Question& question, const Search& search, const detail::Ending& ending);
  template <typename Search>
  void answer_no(const detail::Question& question, const Search& search, const detail::Ending& ending);
  template <typename Search>
  void write_nearest(const detail::Question& question, const Search& search);
  void answer_within(const detail::Question& question, Reason reason, Cost bound);
  void answer_by_steps(const detail::Question& question);
  void answer_nearest(const detail::Question& question);
  [[nodiscard]] bool list_near_cells(const detail::Question& question, int within);
  detail::Ending go_near(const detail::Question& question, Cell cell);
  [[nodiscard]] bool leads_to_goal(const detail::Question& question, Cell& nearest);
  [[nodiscard]] std::uint64_t cost_of(const detail::Question& question) const;

  detail::RouteScratch& scratch_;
  Route& route_;
  const CostGrid& costs_;
  const RouteOptions& options_;
};

template <typename Use>
void Searcher::RouteSearch::search(const detail::Question& question, Algorithm by, Use&& use) {
  detail::StepSearch& by_steps = scratch_.by_steps;
  if (by == Algorithm::bfs) {
    use(by_steps, by_steps.by_steps(question));
  } else if (by == Algorithm::jump) {
    use(scratch_.by_jumps, scratch_.by_jumps.run(question));
  } else if (detail::StepSearch::one_step_cost(costs_, question.beyond)) {
    use(by_steps, by_steps.by_cost(question));
  } else {
    use(scratch_.by_cost, scratch_.by_cost.run(question));
  }
}

}  // namespace saunter::inline v0_2
