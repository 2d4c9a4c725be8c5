#include "saunter/search/tour.hpp"

#include <algorithm>
#include <numeric>
#include <utility>

#include "kernel/changed_moves.hpp"

namespace saunter::inline v0_2 {
namespace {

constexpr std::size_t most_weighed = most_goals_proven;
/// Of a leg that does not exist: more than any tour of legs that do.
constexpr std::uint64_t no_leg = std::uint64_t{1} << 56U;

/// What the legs between all stops add to what is minimised; stop 0 is the start.
class Legs {
 public:
  explicit Legs(std::size_t stops) : stops_(stops), cost_(stops * stops, no_leg) {}
  [[nodiscard]] std::uint64_t& operator()(std::size_t from, std::size_t to) { return cost_[from * stops_ + to]; }
  [[nodiscard]] std::uint64_t operator()(std::size_t from, std::size_t to) const { return cost_[from * stops_ + to]; }
  [[nodiscard]] std::size_t goals() const { return stops_ - 1; }
  [[nodiscard]] std::uint64_t length(const std::vector<std::size_t>& order) const {
    std::uint64_t sum = 0;
    std::size_t at = 0;
    for (const std::size_t goal : order) {
      sum += (*this)(at, goal + 1);
      at = goal + 1;
    }
    return sum;
  }

 private:
  std::size_t stops_;
  std::vector<std::uint64_t> cost_;
};

/// All orders at once: the least cost of visiting each set of goals, ending at each of them. Sums with a missing leg
/// stay larger than all others, so an order that needs none is found wherever there is one.
std::vector<std::size_t> best_order(const Legs& legs) {
  const std::size_t goals = legs.goals();
  const std::size_t sets = std::size_t{1} << goals;
  // rest[set][at]: least cost of visiting the others when `set` has been visited and goal `at` was the last.
  std::vector<std::uint64_t> rest(sets * goals, 0);
  for (std::size_t set = sets - 1; set-- > 1;) {
    for (std::size_t at = 0; at < goals; ++at) {
      std::uint64_t least = ~std::uint64_t{0};
      for (std::size_t next = 0; next < goals; ++next) {
        if ((set >> next & 1U) != 0) continue;
        least = std::min(least, legs(at + 1, next + 1) + rest[(set | std::size_t{1} << next) * goals + next]);
      }
      rest[set * goals + at] = std::min(least, no_leg);
    }
  }
  std::vector<std::size_t> order;
  std::size_t set = 0;
  for (std::size_t at = 0; order.size() < goals;) {
    std::size_t best = goals;
    std::uint64_t least = ~std::uint64_t{0};
    for (std::size_t next = 0; next < goals; ++next) {
      if ((set >> next & 1U) != 0) continue;
      const std::uint64_t sum = legs(at, next + 1) + rest[(set | std::size_t{1} << next) * goals + next];
      if (sum < least) {
        least = sum;
        best = next;
      }
    }
    order.push_back(best);
    set |= std::size_t{1} << best;
    at = best + 1;
  }
  return order;
}

/// Each goal where it costs least, then goals moved and stretches turned round while that helps.
std::vector<std::size_t> good_order(const Legs& legs) {
  std::vector<std::size_t> order;
  for (std::size_t goal = 0; goal < legs.goals(); ++goal) {
    std::vector<std::size_t> best;
    for (std::size_t place = 0; place <= order.size(); ++place) {
      std::vector<std::size_t> tried = order;
      tried.insert(tried.begin() + static_cast<std::ptrdiff_t>(place), goal);
      if (best.empty() || legs.length(tried) < legs.length(best)) best = tried;
    }
    order = best;
  }
  for (bool better = true; better;) {
    better = false;
    for (std::size_t i = 0; i < order.size(); ++i) {
      for (std::size_t j = i + 1; j < order.size(); ++j) {
        const auto first = order.begin() + static_cast<std::ptrdiff_t>(i);
        const auto last = order.begin() + static_cast<std::ptrdiff_t>(j) + 1;
        const std::uint64_t before = legs.length(order);
        std::reverse(first, last);
        if (legs.length(order) < before) {
          better = true;
          continue;
        }
        std::reverse(first, last);
        std::rotate(first, first + 1, last);
        if (legs.length(order) < before) {
          better = true;
          continue;
        }
        std::rotate(first, last - 1, last);
      }
    }
  }
  return order;
}

/// One tour under way.
class TourSearch {
 public:
  TourSearch(Searcher& searcher, const CostGrid& costs, Cell from, std::span<const Cell> goals,
             const RouteOptions& options)
      : searcher_(searcher), costs_(costs), from_(from), goals_(goals), leg_(options), budget_(options.budget) {
    leg_.budget = {};
    leg_.or_nearest = false;
    tour_.verdict = {Reason::found, from};
  }

  Tour run(VisitOrder order) {
    SAUNTER_EXPECT(!goals_.empty());
    SAUNTER_EXPECT(order == VisitOrder::given || leg_.trace == nullptr);
    if (order == VisitOrder::best) leg_.trace = nullptr;
    tour_.order.resize(goals_.size());
    std::iota(tour_.order.begin(), tour_.order.end(), std::size_t{0});
    check_ends();
    if (tour_.found() && order == VisitOrder::best) find_order();
    if (tour_.found()) walk();
    if (!tour_.found()) {
      tour_.order.clear();
      tour_.cells.clear();
      tour_.stops.clear();
    }
    return std::move(tour_);
  }

 private:
  /// The start, then every goal in the order given, before any leg.
  void check_ends() {
    detail::ChangedMoves ground;
    ground.begin(costs_, leg_.changes, detail::ChangedMoves::Lookup::by_list);
    const auto refuse = [&](Cell cell, Reason off_map, Reason shut) {
      if (!tour_.found()) return;
      if (!costs_.size().contains(cell))
        tour_.verdict = {off_map, cell};
      else if (!ground.open(cell))
        tour_.verdict = {shut, cell};
    };
    refuse(from_, Reason::start_off_map, Reason::start_blocked);
    for (const Cell goal : goals_) refuse(goal, Reason::goal_off_map, Reason::goal_blocked);
  }

  const Route& search(Cell a, Cell b) {
    const Route& route = searcher_.route(costs_, a, b, leg_);
    tour_.expanded += route.expanded();
    tour_.algorithm = route.algorithm();
    return route;
  }

  void find_order() {
    Legs legs(goals_.size() + 1);
    std::optional<Verdict> no_way;   // to the first goal that the start does not lead to
    std::optional<Verdict> stopped;  // where the limit left it open
    for (std::size_t a = 0; a <= goals_.size(); ++a) {
      for (std::size_t b = 1; b <= goals_.size(); ++b) {
        if (a == b) continue;
        const Route& route = search(a == 0 ? from_ : goals_[a - 1], goals_[b - 1]);
        const Reason reason = route.verdict().reason;
        if (route.found()) {
          legs(a, b) = leg_.by == Algorithm::bfs ? route.steps() : route.cost();
        } else if (reason == Reason::cost_overflow) {
          legs(a, b) = std::uint64_t{max_cost} + 1;  // there, but too dear for any tour
        } else if (reason == Reason::stopped) {
          if (!stopped) stopped = route.verdict();
        } else if (a == 0 && !no_way) {
          no_way = route.verdict();
        }
      }
    }
    tour_.best_proven = goals_.size() <= most_weighed && !stopped;
    tour_.order = goals_.size() <= most_weighed ? best_order(legs) : good_order(legs);
    if (legs.length(tour_.order) < no_leg) return;
    // No order is left; beyond what is weighed exhaustively there may be one all the same.
    if (stopped || goals_.size() > most_weighed) {
      tour_.verdict = stopped.value_or(Verdict{Reason::stopped, from_});
    } else {
      tour_.verdict = no_way.value_or(Verdict{Reason::no_way, goals_.front()});
    }
  }

  /// Goes from stop to stop; each leg may cost what the budget has left.
  void walk() {
    std::uint64_t sum = 0;
    Cell at = from_;
    for (std::size_t i = 0; i < tour_.order.size(); ++i) {
      const Cell to = goals_[tour_.order[i]];
      if (budget_) leg_.budget = Hundredths(static_cast<Cost>(*budget_ - sum));
      const Route& route = search(at, to);
      if (!route.found()) {
        tour_.verdict = route.verdict();
        return;
      }
      sum += route.cost();
      if (sum > max_cost) {
        tour_.verdict = {Reason::cost_overflow, at};
        return;
      }
      tour_.cells.insert(tour_.cells.end(), route.cells().begin() + (i == 0 ? 0 : 1), route.cells().end());
      tour_.stops.push_back(tour_.cells.size() - 1);
      at = to;
    }
    tour_.verdict.at = at;
    tour_.cost = static_cast<Cost>(sum);
  }

  Searcher& searcher_;
  const CostGrid& costs_;
  Cell from_;
  std::span<const Cell> goals_;
  RouteOptions leg_;
  std::optional<Hundredths> budget_;
  Tour tour_;
};

}  // namespace

Tour tour(Searcher& searcher, const CostGrid& costs, Cell from, std::span<const Cell> goals, VisitOrder order,
          const RouteOptions& options) {
  return TourSearch(searcher, costs, from, goals, options).run(order);
}

}  // namespace saunter::inline v0_2
