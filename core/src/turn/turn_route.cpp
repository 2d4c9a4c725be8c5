#include "saunter/turn/turn_route.hpp"

#include <algorithm>

#include "../search/goal_costs.hpp"
#include "../search/kernel/beside.hpp"
#include "../search/kernel/best_first.hpp"
#include "../search/kernel/changed_moves.hpp"
#include "../search/kernel/ends.hpp"
#include "../search/kernel/legal_steps.hpp"
#include "../search/kernel/queue.hpp"
#include "saunter/search/estimate.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

class TurnSearcher::Work {
 public:
  void run(const CostGrid& costs, Cell from, Cell to, const TurnTerms& terms, std::uint64_t limit, TurnRoute& route);

 private:
  static constexpr std::uint32_t no_state = ~std::uint32_t{0};

  /// A way to a cell: in which turn it arrives, what it has spent then, in all and in that turn.
  struct Reached {
    std::uint32_t cell = 0;  // its number
    std::uint32_t before = no_state;
    std::uint32_t beside = no_state;  // the next of the same cell
    std::uint32_t turn = 1;
    Cost spent = 0;
    Cost in_turn = 0;
  };

  /// Fewest turns first, then least spent, both with what must still come.
  struct Queued {
    std::uint64_t turns = 0;
    std::uint64_t spent = 0;
    Cost in_turn = 0;
    std::uint32_t state = 0;
    friend bool operator<(const Queued& a, const Queued& b) {
      if (a.turns != b.turns) return a.turns < b.turns;
      if (a.spent != b.spent) return a.spent < b.spent;
      return a.in_turn != b.in_turn ? a.in_turn < b.in_turn : a.state > b.state;
    }
  };

  [[nodiscard]] bool is_stop(Cell cell) const { return cell != from_ && stops_ != nullptr && stops_->test(cell); }
  [[nodiscard]] bool is_passed(Cell cell) const { return passed_ != nullptr && passed_->test(cell); }
  void expand(std::uint32_t number);
  void step(std::uint32_t number, Cell next, Cost cost);
  void reach(const Reached& state);
  [[nodiscard]] bool is_bettered(const Reached& state) const;
  [[nodiscard]] bool is_bettered_since(std::uint32_t number) const;
  [[nodiscard]] bool betters(const Reached& a, const Reached& b) const;
  void write_way(std::uint32_t number, TurnRoute& route) const;

  const CostGrid* costs_ = nullptr;
  const BitGrid* stops_ = nullptr;   // places of the mover
  const BitGrid* passed_ = nullptr;  // the same
  BitGrid own_stops_;
  BitGrid own_passed_;
  Cost points_ = 0;
  Cell from_;
  bool cut_ = false;  // a sum did not fit
  ChangedMoves ground_;
  std::vector<Reached> states_;
  std::vector<std::uint32_t> first_;  // of each cell; only cells with a state are cleared
  std::vector<std::uint32_t> touched_;
  BinaryHeap<Queued> queue_;
  GoalCosts guide_;
};

/// Whether a way on from b is never better than the same way on from a. Where a turn may end, an earlier turn can end
/// at once and begin anew with nothing spent.
bool TurnSearcher::Work::betters(const Reached& a, const Reached& b) const {
  if (a.turn == b.turn) return a.spent <= b.spent && a.in_turn <= b.in_turn;
  if (a.turn > b.turn || is_passed(costs_->size().cell(CellIndex{b.cell}))) return false;
  return a.turn + 1 < b.turn || a.spent <= b.spent;
}

bool TurnSearcher::Work::is_bettered(const Reached& state) const {
  for (std::uint32_t at = first_[state.cell]; at != no_state; at = states_[at].beside) {
    if (betters(states_[at], state)) return true;
  }
  return false;
}

/// Whether one that came later betters a state.
bool TurnSearcher::Work::is_bettered_since(std::uint32_t number) const {
  const Reached& state = states_[number];
  for (std::uint32_t at = first_[state.cell]; at != number; at = states_[at].beside) {
    if (betters(states_[at], state)) return true;
  }
  return false;
}

void TurnSearcher::Work::reach(const Reached& state) {
  if (is_bettered(state)) return;
  const auto number = static_cast<std::uint32_t>(states_.size());
  if (first_[state.cell] == no_state) touched_.push_back(state.cell);
  states_.push_back(state);
  states_.back().beside = first_[state.cell];
  first_[state.cell] = number;
  const std::uint64_t left = guide_.left(CellIndex{state.cell});
  const std::uint64_t points = std::max<Cost>(points_, 1);
  const std::uint64_t spent_in_turns = state.in_turn + left;
  const std::uint64_t more = spent_in_turns <= points ? 0 : (spent_in_turns - 1) / points;
  queue_.enqueue({state.turn + more, state.spent + left, state.in_turn, number});
}

void TurnSearcher::Work::step(std::uint32_t number, Cell next, Cost cost) {
  const Reached at = states_[number];  // a copy: more are added
  const Cell cell = costs_->size().cell(CellIndex{at.cell});
  const std::uint64_t spent = std::uint64_t{at.spent} + cost;
  if (cost > points_) return;
  if (spent > max_cost) {
    cut_ = true;
    return;
  }
  const bool over = is_passed(next);
  if (over && is_stop(next)) return;  // its turn would have to end where it may not
  Reached to{costs_->size().index(next).value(), number,           no_state, at.turn,
             static_cast<Cost>(spent),           at.in_turn + cost};
  const bool fits = std::uint64_t{at.in_turn} + cost <= points_;
  if (fits && !is_stop(cell)) reach(to);
  // To begin a new turn early pays only where the turn could end too soon beyond.
  if (is_passed(cell) || (fits && !over && !is_stop(cell)) || at.in_turn == 0) return;
  ++to.turn;
  to.in_turn = cost;
  reach(to);
}

void TurnSearcher::Work::expand(std::uint32_t number) {
  const Cell cell = costs_->size().cell(CellIndex{states_[number].cell});
  const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
  const Neighbourhood& hood = costs_->tiling().neighbourhood();
  for_each_direction(ground_.moves(cell), [&](unsigned d) {
    const Cell next = cell + hood.offset[kind][d];
    const Length length = costs_->step_length(static_cast<int>(kind), static_cast<int>(d));
    step(number, next, step_cost(length, ground_.entry(next)));
  });
}

void TurnSearcher::Work::run(const CostGrid& costs, Cell from, Cell to, const TurnTerms& terms, std::uint64_t limit,
                             TurnRoute& route) {
  costs_ = &costs;
  stops_ = as_places(costs, terms.stops, own_stops_);
  passed_ = as_places(costs, terms.passed, own_passed_);
  points_ = terms.points ? Cost{*terms.points} : max_cost;
  from_ = from;
  cut_ = false;
  ground_.begin(costs, terms.changes);
  for (const std::uint32_t cell : touched_) {
    if (cell < first_.size()) first_[cell] = no_state;
  }
  touched_.clear();
  states_.clear();
  queue_.begin();
  route.verdict_ = unusable_end(
      costs.size(), from, to, [&](Cell cell) { return ground_.open(cell); },
      [&](Cell cell) { return ground_.open(cell) && (cell == from || !is_passed(cell)); });
  if (!route.found()) return;
  if (first_.size() < costs.size().cell_count()) first_.resize(costs.size().cell_count(), no_state);
  const Estimate estimate(costs.tiling(), costs.rules(), ground_.lowest_entry(), to);
  guide_.begin(costs, from, to, terms.changes);
  reach({costs.size().index(from).value()});
  const std::uint32_t goal = costs.size().index(to).value();
  const std::uint64_t most = std::max<std::uint64_t>(limit, 1);
  std::uint32_t arrived = no_state;
  Queued arrival;
  bool stopped = false;
  (void)best_first(
      queue_,
      [&](const Queued& first) {
        // Ways as good as the first that arrived may have less in the last turn.
        if (arrived != no_state && (first.turns != arrival.turns || first.spent != arrival.spent)) return Take::stop;
        if (is_bettered_since(first.state)) return Take::skip;
        if (arrived == no_state && route.expanded_ == most) {
          stopped = true;
          return Take::stop;
        }
        ++route.expanded_;
        if (states_[first.state].cell != goal) return Take::expand;
        if (arrived == no_state || states_[first.state].in_turn < states_[arrived].in_turn) arrived = first.state;
        arrival = first;
        return Take::skip;
      },
      [&](const Queued& first) { expand(first.state); });
  if (arrived != no_state) {
    write_way(arrived, route);
    return;
  }
  Nearest nearest(from, estimate(from));
  for (const std::uint32_t cell : touched_) {
    const Cell seen = costs.size().cell(CellIndex{cell});
    nearest.look(seen, estimate(seen));
  }
  route.verdict_ = {stopped ? Reason::stopped : cut_ ? Reason::cost_overflow : Reason::no_way, nearest.cell()};
}

void TurnSearcher::Work::write_way(std::uint32_t number, TurnRoute& route) const {
  route.cost_ = states_[number].spent;
  route.last_turn_ = states_[number].in_turn;
  for (std::uint32_t at = number; at != no_state; at = states_[at].before) {
    route.cells_.push_back(costs_->size().cell(CellIndex{states_[at].cell}));
  }
  std::reverse(route.cells_.begin(), route.cells_.end());
  auto place = static_cast<std::uint32_t>(route.cells_.size() - 1);
  if (place == 0) return;
  for (std::uint32_t at = number; states_[at].before != no_state; at = states_[at].before, --place) {
    if (at == number) route.ends_.push_back(place);
    if (states_[at].turn != states_[states_[at].before].turn) route.ends_.push_back(place - 1);
  }
  std::reverse(route.ends_.begin(), route.ends_.end());
}

TurnSearcher::TurnSearcher() : work_(std::make_unique<Work>()) {}
TurnSearcher::~TurnSearcher() = default;
TurnSearcher::TurnSearcher(TurnSearcher&&) noexcept = default;
TurnSearcher& TurnSearcher::operator=(TurnSearcher&&) noexcept = default;

const TurnRoute& TurnSearcher::route(const CostGrid& costs, Cell from, Cell to, const TurnTerms& terms,
                                     std::uint64_t limit) & {
  route_.verdict_ = {};
  route_.cells_.clear();
  route_.ends_.clear();
  route_.cost_ = 0;
  route_.last_turn_ = 0;
  route_.expanded_ = 0;
  work_->run(costs, from, to, terms, limit, route_);
  return route_;
}

}  // namespace saunter::inline v0_2
