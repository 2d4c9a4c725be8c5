#include "saunter/search/searcher.hpp"

#include <algorithm>
#include <bit>

#include "cost_search.hpp"
#include "field_search.hpp"
#include "jump_search.hpp"
#include "step_search.hpp"

namespace saunter {

struct Searcher::Scratch {
  CostSearch by_cost;
  StepSearch by_steps;
  JumpSearch by_jumps;
  std::vector<std::uint32_t> flood;  // packed cells, first in, first out
  BitGrid flooded;
  FieldScratch field;
};

/// One query under way.
class RouteSearch {
 public:
  RouteSearch(Searcher::Scratch& scratch, Route& route, const CostGrid& costs, Cell from, Cell to,
              const RouteOptions& options)
      : scratch_(scratch), route_(route), costs_(costs), options_(options), from_(from), to_(to) {}

  void run() {
    route_.cells_.clear();
    route_.cost_ = 0;
    route_.expanded_ = 0;
    route_.algorithm_ = options_.by;
    route_.verdict_ = unusable_end();
    if (!route_.found()) return;
    const Question question{.costs = costs_,
                            .from = from_,
                            .to = to_,
                            .guided = options_.by != Algorithm::dijkstra,
                            .bound = options_.budget.value_or(max_cost),
                            .limit = options_.limit,
                            .trace = options_.trace};
    if (options_.by == Algorithm::bfs) {
      finish(question, scratch_.by_steps, scratch_.by_steps.by_steps(question));
    } else if (options_.by == Algorithm::jump && JumpSearch::suits(costs_)) {
      finish(question, scratch_.by_jumps, scratch_.by_jumps.run(question));
    } else if (StepSearch::one_step_cost(costs_)) {
      finish(question, scratch_.by_steps, scratch_.by_steps.by_cost(question));
    } else {
      finish(question, scratch_.by_cost, scratch_.by_cost.run(question));
    }
  }

 private:
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
        cost = StepSearch::one_step_cost(costs_) ? ending.cost * costs_.cheapest() : cost_of_way();
      }
      if (cost > max_cost) reason = Reason::cost_overflow;
    } else if (reason == Reason::no_way && ending.cut) {
      reason = options_.budget ? Reason::over_budget : can_reach_goal() ? Reason::cost_overflow : Reason::no_way;
    }
    if (reason != Reason::found) {
      route_.cells_.clear();
      route_.verdict_ = {reason, search.nearest(question)};
      return;
    }
    route_.cost_ = static_cast<Cost>(cost);
    route_.verdict_ = {reason, to_};
  }

  /// Cost of the way found by steps, which was not added up on the way.
  [[nodiscard]] std::uint64_t cost_of_way() const {
    std::uint64_t sum = 0;
    for (std::size_t i = 1; i < route_.cells_.size(); ++i) {
      const Cell before = route_.cells_[i - 1];
      sum += costs_.cost_of_step(before, costs_.tiling().direction(before, route_.cells_[i]));
    }
    return sum;
  }

  /// Whether any way leads to the goal, whatever it costs.
  bool can_reach_goal() {
    auto& line = scratch_.flood;
    BitGrid& seen = scratch_.flooded;
    seen = BitGrid(costs_.size());
    line.assign(1, pack(from_));
    seen.set(from_);
    for (std::size_t i = 0; i < line.size() && !seen.test(to_); ++i) {
      const Cell cell = unpack(line[i]);
      for (unsigned left = costs_.moves(cell); left != 0; left &= left - 1) {
        const Cell next = costs_.tiling().neighbour(cell, std::countr_zero(left));
        if (seen.test(next)) continue;
        seen.set(next);
        line.push_back(pack(next));
      }
    }
    return seen.test(to_);
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

const Route& Searcher::route(const CostGrid& costs, Cell from, Cell to, const RouteOptions& options) & {
  SAUNTER_EXPECT(options.limit > 0);
  SAUNTER_EXPECT(options.by != Algorithm::bfs || !options.budget);
  RouteSearch(*scratch_, route_, costs, from, to, options).run();
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
