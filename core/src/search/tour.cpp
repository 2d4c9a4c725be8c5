#include "saunter/search/tour.hpp"

#include <algorithm>
#include <numeric>

namespace saunter {
namespace {

constexpr std::size_t most_weighed = 12;

/// Costs between all stops; stop 0 is the start.
class Legs {
 public:
  explicit Legs(std::size_t stops) : stops_(stops), cost_(stops * stops, 0) {}
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

/// All orders at once: the least cost of visiting each set of goals, ending at each of them.
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
      rest[set * goals + at] = least;
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

}  // namespace

Tour tour(Searcher& searcher, const CostGrid& costs, Cell from, std::span<const Cell> goals, VisitOrder order,
          const RouteOptions& options) {
  SAUNTER_EXPECT(!goals.empty());
  SAUNTER_EXPECT(order == VisitOrder::given || options.trace == nullptr);
  Tour tour;
  RouteOptions leg = options;
  leg.budget = {};
  leg.or_nearest = false;
  const auto search = [&](Cell a, Cell b) -> const Route& {
    const Route& route = searcher.route(costs, a, b, leg);
    tour.expanded += route.expanded();
    if (!route.found() && tour.found()) tour.verdict = route.verdict();
    return route;
  };
  tour.order.resize(goals.size());
  std::iota(tour.order.begin(), tour.order.end(), std::size_t{0});
  if (order == VisitOrder::best) {
    Legs legs(goals.size() + 1);
    for (std::size_t a = 0; a <= goals.size() && tour.found(); ++a) {
      for (std::size_t b = 1; b <= goals.size() && tour.found(); ++b) {
        if (a != b) legs(a, b) = search(a == 0 ? from : goals[a - 1], goals[b - 1]).cost();
      }
    }
    if (tour.found()) {
      tour.best_proven = goals.size() <= most_weighed;
      tour.order = tour.best_proven ? best_order(legs) : good_order(legs);
    }
  }
  std::uint64_t sum = 0;
  Cell at = from;
  for (std::size_t i = 0; i < tour.order.size() && tour.found(); ++i) {
    const Cell to = goals[tour.order[i]];
    const Route& route = search(at, to);
    if (!route.found()) break;
    sum += route.cost();
    tour.cells.insert(tour.cells.end(), route.cells().begin() + (i == 0 ? 0 : 1), route.cells().end());
    tour.stops.push_back(tour.cells.size() - 1);
    at = to;
    const bool fits = sum <= max_cost;
    if (fits && sum <= options.budget.value_or(max_cost)) continue;
    tour.verdict = {fits ? Reason::over_budget : Reason::cost_overflow, to};
  }
  if (!tour.found()) {
    tour.order.clear();
    tour.cells.clear();
    tour.stops.clear();
    return tour;
  }
  tour.verdict.at = at;
  tour.cost = static_cast<Cost>(sum);
  return tour;
}

}  // namespace saunter
