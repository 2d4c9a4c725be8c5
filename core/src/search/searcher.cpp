#include "saunter/search/searcher.hpp"

#include <algorithm>
#include <bit>

#include "apart.hpp"
#include "broad_search.hpp"
#include "cost_search.hpp"
#include "field_search.hpp"
#include "jump_search.hpp"
#include "saunter/search/way.hpp"
#include "step_search.hpp"

namespace saunter {

struct Searcher::Scratch {
  CostSearch by_cost;
  StepSearch by_steps;
  JumpSearch by_jumps;
  BroadSearch broad;
  FieldScratch field;
};

namespace {

/// Whether a query needs nothing but the plain searches.
bool plain(const RouteOptions& options) {
  return options.by != Algorithm::greedy && options.weight == 100 && options.changes.empty() &&
         options.turn_cost == 0 && !options.natural && !options.or_nearest;
}

}  // namespace

/// One plain query under way.
class RouteSearch {
 public:
  RouteSearch(Searcher::Scratch& scratch, Route& route, const CostGrid& costs, Cell from, Cell to,
              const RouteOptions& options)
      : scratch_(scratch), route_(route), costs_(costs), options_(options), from_(from), to_(to) {}

  void run() {
    route_.restart(chosen());
    route_.verdict_ = unusable_end();
    if (!route_.found()) return;
    if (const Labels* labels = labels_that_prove(costs_, options_);
        labels != nullptr && labels->at(from_) != labels->at(to_)) {
      route_.verdict_ = {Reason::no_way, nearest_of_group(costs_, *labels, from_, to_)};
      return;
    }
    const Question question{.costs = costs_,
                            .from = from_,
                            .to = to_,
                            .guided = route_.algorithm_ != Algorithm::dijkstra,
                            .bound = options_.budget.value_or(max_cost),
                            .limit = options_.limit,
                            .trace = options_.trace};
    if (route_.algorithm_ == Algorithm::bfs) {
      finish(question, scratch_.by_steps, scratch_.by_steps.by_steps(question));
    } else if (route_.algorithm_ == Algorithm::jump) {
      finish(question, scratch_.by_jumps, scratch_.by_jumps.run(question));
    } else if (StepSearch::one_step_cost(costs_)) {
      finish(question, scratch_.by_steps, scratch_.by_steps.by_cost(question));
    } else {
      finish(question, scratch_.by_cost, scratch_.by_cost.run(question));
    }
  }

 private:
  [[nodiscard]] Algorithm chosen() const {
    const bool jump =
        options_.by == Algorithm::jump || (options_.by == Algorithm::automatic && JumpSearch::pays(costs_));
    if (jump) return JumpSearch::suits(costs_) ? Algorithm::jump : Algorithm::astar;
    return options_.by == Algorithm::automatic ? Algorithm::astar : options_.by;
  }

  [[nodiscard]] Verdict unusable_end() const {
    const Size size = costs_.size();
    if (!size.contains(from_)) return {Reason::start_off_map, from_};
    if (!costs_.open(from_)) return {Reason::start_blocked, from_};
    if (!size.contains(to_)) return {Reason::goal_off_map, to_};
    if (!costs_.open(to_)) return {Reason::goal_blocked, to_};
    return {Reason::found, to_};
  }

  /// Makes a search's ending the answer.
  template <typename Search>
  void finish(const Question& question, const Search& search, const Ending& ending) {
    route_.expanded_ = ending.expanded;
    std::uint64_t cost = ending.cost;
    Reason reason = ending.reason;
    if (reason == Reason::found) {
      search.write_way_back(question, to_, route_.cells_);
      std::reverse(route_.cells_.begin(), route_.cells_.end());
      if (options_.by == Algorithm::bfs) {
        cost =
            StepSearch::one_step_cost(costs_) ? ending.cost * costs_.cheapest() : *cost_of_way(costs_, route_.cells_);
      }
      if (cost <= max_cost) {
        route_.cost_ = static_cast<Cost>(cost);
        return;
      }
      reason = Reason::cost_overflow;
    }
    route_.cells_.clear();
    if (reason == Reason::stopped || (reason == Reason::no_way && !ending.cut && !std::is_same_v<Search, JumpSearch>)) {
      route_.verdict_ = {reason, search.nearest(question)};
    } else if (reason == Reason::no_way && ending.cut && options_.budget) {
      route_.verdict_ = {Reason::over_budget, nearest_that_fits(*options_.budget)};
    } else if (reason == Reason::cost_overflow) {
      route_.verdict_ = {reason, nearest_that_fits(max_cost)};
    } else {
      // What there is without regard to cost (a jump search has not seen every cell).
      const Question by_steps{.costs = costs_, .from = from_, .to = to_, .limit = ~std::uint64_t{0}};
      if (scratch_.by_steps.by_steps(by_steps).reason == Reason::found) {
        route_.verdict_ = {Reason::cost_overflow, nearest_that_fits(max_cost)};
      } else {
        route_.verdict_ = {Reason::no_way, scratch_.by_steps.nearest(by_steps)};
      }
    }
  }

  /// The cell nearest to the goal among all whose least cost is within a bound, however the search was guided.
  [[nodiscard]] Cell nearest_that_fits(Cost bound) {
    const Question all{
        .costs = costs_, .from = from_, .to = to_, .guided = false, .bound = bound, .limit = ~std::uint64_t{0}};
    if (StepSearch::one_step_cost(costs_)) {
      (void)scratch_.by_steps.by_cost(all);
      return scratch_.by_steps.nearest(all);
    }
    (void)scratch_.by_cost.run(all);
    return scratch_.by_cost.nearest(all);
  }

  Searcher::Scratch& scratch_;
  Route& route_;
  const CostGrid& costs_;
  const RouteOptions& options_;
  const Cell from_;
  const Cell to_;
};

Searcher::Searcher() : scratch_(std::make_unique<Scratch>()) {}
Searcher::~Searcher() = default;
Searcher::Searcher(Searcher&&) noexcept = default;
Searcher& Searcher::operator=(Searcher&&) noexcept = default;

const Route& Searcher::route(const CostGrid& costs, Cell from, Cell to, const RouteOptions& wanted) & {
  const RouteOptions options = made_sound(wanted, costs.tiling());
  route_.restart(options.by);  // not-asked, should an exception cut the search short
  if (plain(options)) {
    RouteSearch(*scratch_, route_, costs, from, to, options).run();
    return route_;
  }
  const Source start{from};
  return route(costs, {.starts = std::span(&start, 1), .goals = std::span(&to, 1)}, options);
}

const Route& Searcher::route(const CostGrid& costs, const Query& query, const RouteOptions& options) & {
  route_.restart(options.by);
  BroadSearch& search = scratch_->broad;
  search.begin(costs, query, made_sound(options, costs.tiling()));
  search.run(std::numeric_limits<std::uint64_t>::max());
  search.write(route_);
  return route_;
}

void Searcher::field_to(const CostGrid& costs, std::span<const Source> goals, Field& out, const FieldOptions& options) {
  FieldSearch(scratch_->field, out, costs, Travel::to_sources).run(goals, options);
}

Field Searcher::field_to(const CostGrid& costs, std::span<const Source> goals, const FieldOptions& options) {
  Field field;
  field_to(costs, goals, field, options);
  return field;
}

void Searcher::reach(const CostGrid& costs, std::span<const Source> starts, Field& out, const FieldOptions& options) {
  FieldSearch(scratch_->field, out, costs, Travel::from_sources).run(starts, options);
}

Field Searcher::reach(const CostGrid& costs, Cell start, const FieldOptions& options) {
  Field field;
  const Source source{start};
  reach(costs, std::span(&source, 1), field, options);
  return field;
}

}  // namespace saunter
