#include "broad_search.hpp"

#include <bit>
#include <cstdlib>

#include "apart.hpp"
#include "saunter/grid/area.hpp"

namespace saunter {
namespace {

constexpr std::size_t most_aims = 4;  // more are taken together: asking each would cost more than it saves

bool least_cost(Algorithm by) { return by != Algorithm::bfs && by != Algorithm::greedy; }

/// A cell's centre in whole numbers, up to a stretch and a slant: both leave the order of distances from a line alone.
struct Point {
  std::int64_t x = 0;
  std::int64_t y = 0;
};
Point centre_of(Tiling tiling, Cell cell) {
  if (tiling.shape() == Shape::square) return {cell.col, cell.row};
  if (tiling.shape() == Shape::triangle)
    return {cell.col, 3 * std::int64_t{cell.row} + (tiling.kind(cell) == 0 ? 2 : 1)};
  const Axial axial = tiling.to_axial(cell);
  return {axial.q, axial.r};
}

}  // namespace

void expect_sound([[maybe_unused]] const RouteOptions& options) {
  [[maybe_unused]] const bool bfs = options.by == Algorithm::bfs;
  [[maybe_unused]] const bool greedy = options.by == Algorithm::greedy;
  [[maybe_unused]] const bool astar = options.by == Algorithm::astar || options.by == Algorithm::automatic;
  SAUNTER_EXPECT(options.limit > 0);
  SAUNTER_EXPECT(!bfs || !options.budget);
  SAUNTER_EXPECT(options.turn_cost == 0 || !(bfs || greedy || options.natural));
  SAUNTER_EXPECT(!options.natural || !(bfs || greedy || options.weight != 100));
  SAUNTER_EXPECT(options.weight == 100 || (options.weight > 100 && options.weight <= 10'000 && astar));
}

void BroadSearch::begin(const CostGrid& costs, const Query& query, const RouteOptions& options) {
  for (const Accepted& accepted : accepted_) {
    if (accepted_cells_.size().contains(accepted.cell)) accepted_cells_.set(accepted.cell, false);
  }
  costs_ = &costs;
  options_ = options;
  until_ = query.until;
  within_ = query.within;
  beside_ = query.beside;
  goals_.assign(query.goals.begin(), query.goals.end());
  ground_.begin(costs, options.changes);
  changed_ = !options.changes.empty();
  options_.changes = {};
  labels_ = nullptr;
  expanded_ = 0;
  pushed_ = 0;
  cut_ = false;
  ended_ = false;
  found_goal_ = no_goal;
  touched_ = {};
  accepted_.clear();
  aims_.clear();
  starts_.clear();
  start_numbers_.clear();

  const Tiling tiling = costs.tiling();
  const bool turns_count = options_.turn_cost > 0;
  SAUNTER_EXPECT(!turns_count || tiling.shape() != Shape::triangle);
  headings_ = turns_count ? static_cast<unsigned>(tiling.direction_count()) + 1 : 1;
  const std::size_t states = costs.size().cell_count() * headings_;
  if (nodes_.size() < states) nodes_.resize(states);
  if (++query_ == 0) {  // wrapped: old marks would look new
    std::fill(nodes_.begin(), nodes_.end(), Node{});
    query_ = 1;
  }
  if (accepted_cells_.size() != costs.size()) accepted_cells_ = BitGrid(costs.size());

  const Verdict starts = take_starts(query.starts);
  const Verdict goals = take_goals();
  take_aims();
  verdict_ = starts.reason != Reason::found ? starts : goals;
  const bool hopeless = starts.reason != Reason::found || (goals.reason != Reason::found && !options_.or_nearest);
  if (hopeless) {
    ended_ = true;
    return;
  }
  labels_ = apart_by_labels();
  if (labels_ != nullptr) {
    end(Reason::no_way);
    return;
  }
  // An estimate changes by no more than the step costs; half a turn is the most.
  const std::uint64_t rise =
      2 * std::uint64_t{step_cost(costs.longest_step(), ground_.dearest())} + std::uint64_t{options_.turn_cost} * 4;
  bucketed_ = starts_.size() == 1 && least_cost(options_.by) && options_.weight == 100 && rise <= BucketLine::most_rise;
  if (bucketed_) {
    buckets_.begin(rise);
  } else {
    heap_.begin(rise);
  }
  for (const Source& start : starts_) {
    const Cost head_start = options_.by == Algorithm::bfs ? 0 : start.head_start;  // only steps count there
    reach(start.cell, start_heading(), head_start, from_nowhere, 0);
  }
}

/// The caller's labels if they say that no goal can be reached, else null.
const Labels* BroadSearch::apart_by_labels() const {
  const Labels* const labels = changed_ || until_ ? nullptr : labels_that_prove(*costs_, options_);
  if (labels == nullptr) return nullptr;
  for (const Source& start : starts_) {
    for (const Accepted& goal : accepted_) {
      if (labels->at(start.cell) == labels->at(goal.cell)) return nullptr;
    }
  }
  return labels;
}

Verdict BroadSearch::take_starts(std::span<const Source> starts) {
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
  return starts_.empty() ? first : Verdict{Reason::found, {}};
}

Verdict BroadSearch::take_goals() {
  const Tiling tiling = costs_->tiling();
  Verdict first{Reason::found, {}};
  for (std::size_t i = 0; i < goals_.size(); ++i) {
    const Cell goal = goals_[i];
    const std::size_t before = accepted_.size();
    const bool on_map = costs_->size().contains(goal);
    if (on_map && within_ > 0) {
      disk_of_cells(tiling, goal, within_, disk_);
      for (const Cell cell : disk_) {
        if (!beside_ || cell != goal) accept(cell, i);
      }
    } else if (on_map && beside_) {
      for (int d = 0; d < costs_->rules().steps; ++d) accept(tiling.neighbour(goal, d), i);
    } else if (on_map) {
      accept(goal, i);
    }
    if (accepted_.size() > before || first.reason != Reason::found) continue;
    first = {on_map ? Reason::goal_blocked : Reason::goal_off_map, goal};
  }
  std::sort(accepted_.begin(), accepted_.end(), [](const Accepted& a, const Accepted& b) { return a.cell < b.cell; });
  SAUNTER_EXPECT(!goals_.empty() || until_);
  return accepted_.empty() && !until_ ? first : Verdict{Reason::found, {}};
}

void BroadSearch::accept(Cell cell, std::size_t goal) {
  if (!ground_.open(cell) || accepted_cells_.test(cell)) return;
  accepted_cells_.set(cell);
  accepted_.push_back({cell, static_cast<std::uint32_t>(goal)});
}

void BroadSearch::take_aims() {
  const auto aim_at = [&](Cell cell) {
    aims_.push_back({Estimate(costs_->tiling(), costs_->rules(), ground_.cheapest(), cell), 0});
  };
  if (until_) return;
  if (goals_.size() <= most_aims) {
    for (const Cell goal : goals_) aim_at(goal);
    for (const Accepted& accepted : accepted_) {
      Aim& aim = aims_[accepted.goal];
      aim.slack = std::max(aim.slack, aim.estimate(accepted.cell));
    }
    return;
  }
  Cell low = goals_.front();
  Cell high = low;
  for (const Cell goal : goals_) {
    low = {std::min(low.col, goal.col), std::min(low.row, goal.row)};
    high = {std::max(high.col, goal.col), std::max(high.row, goal.row)};
  }
  aim_at({low.col + (high.col - low.col) / 2, low.row + (high.row - low.row) / 2});
  for (const Accepted& accepted : accepted_) {
    aims_[0].slack = std::max(aims_[0].slack, aims_[0].estimate(accepted.cell));
  }
}

std::uint64_t BroadSearch::estimate(Cell cell) const {
  if (aims_.empty()) return 0;
  std::uint64_t least = ~std::uint64_t{0};
  for (const Aim& aim : aims_) {
    const std::uint64_t to_aim = aim.estimate(cell);
    least = std::min(least, to_aim > aim.slack ? to_aim - aim.slack : 0);
  }
  return least;
}

std::size_t BroadSearch::accepted_goal(Cell cell) const {
  if (accepted_cells_.test(cell)) {
    const auto at = std::lower_bound(accepted_.begin(), accepted_.end(), cell,
                                     [](const Accepted& a, Cell wanted) { return a.cell < wanted; });
    return at->goal;
  }
  return until_ && until_(cell) ? goals_.size() : no_goal;
}

std::uint64_t BroadSearch::total(std::uint64_t cost, std::uint64_t estimate) const {
  switch (options_.by) {
    case Algorithm::dijkstra: return cost;
    case Algorithm::bfs: return 0;  // in the order put in line
    case Algorithm::greedy: return estimate;
    default: return cost + estimate * options_.weight / 100;
  }
}

std::uint64_t BroadSearch::turning(unsigned from, unsigned to) const {
  if (headings_ == 1 || from + 1 == headings_) return 0;
  // Squares: n e s w, then ne se sw nw, in eighths clockwise from n; hexes: in sixths.
  const bool square = headings_ == 9;
  const auto angle = [&](unsigned d) { return !square ? d : d < 4 ? 2 * d : 2 * (d - 4) + 1; };
  const unsigned full = headings_ - 1;
  const unsigned apart = (angle(to) + full - angle(from)) % full;
  return std::uint64_t{options_.turn_cost} * std::min(apart, full - apart);
}

unsigned BroadSearch::start_heading() const {
  if (headings_ == 1) return 0;
  return options_.heading ? static_cast<unsigned>(*options_.heading) : headings_ - 1;
}

void BroadSearch::reach(Cell cell, unsigned heading, std::uint64_t cost, unsigned back, unsigned heading_before) {
  const std::size_t state = state_of(cell, heading);
  Node& node = nodes_[state];
  const bool first_counts = back != from_nowhere && (options_.by == Algorithm::bfs || options_.by == Algorithm::greedy);
  if (node.query == query_ && (first_counts || node.cost <= cost)) return;
  const std::uint64_t ahead = estimate(cell);
  const bool bounded = options_.by != Algorithm::bfs;
  const bool sure = options_.by == Algorithm::dijkstra || options_.by == Algorithm::greedy;
  // The estimate never exceeds what remains, so it may be counted however the search is guided.
  const std::uint64_t at_least = cost + (sure ? 0 : ahead);
  bool beyond = false;
  if (bounded && at_least > options_.budget.value_or(max_cost)) {
    cut_ = true;
    if (back != from_nowhere) return;
    beyond = true;  // a unit is where it starts, though nowhere else within the bound
  }
  node = {query_, static_cast<Cost>(cost), static_cast<std::uint8_t>(back), static_cast<std::uint8_t>(heading_before),
          false};
  if (beyond) return;
  const Place place{pack(cell), static_cast<Cost>(cost), static_cast<std::uint8_t>(back)};
  const std::uint64_t key = total(cost, ahead);
  if (options_.by == Algorithm::bfs) {
    heap_.push(place, pushed_++);
  } else if (bucketed_) {
    buckets_.push(place, key);
  } else {
    heap_.push(place, key);
  }
}

bool BroadSearch::run(std::uint64_t places) {
  const Tiling tiling = costs_->tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  while (!ended_ && places > 0) {
    if (bucketed_ ? buckets_.empty() : heap_.empty()) {
      end(Reason::no_way);
      break;
    }
    const Place place = bucketed_ ? buckets_.pop() : heap_.pop();
    const Cell cell = unpack(place.cell);
    const auto kind = static_cast<unsigned>(tiling.kind(cell));
    const unsigned heading = headings_ == 1               ? 0
                             : place.back == from_nowhere ? start_heading()
                                                          : hood.opposite[kind][place.back];
    const std::size_t state = state_of(cell, heading);
    if (nodes_[state].cost != place.cost || nodes_[state].expanded) continue;  // reached more cheaply since
    if (found_goal_ != no_goal) {
      // Equals are looked at for a goal given earlier, or for a way that looks better.
      const std::uint64_t here = options_.by == Algorithm::bfs ? place.cost : total(place.cost, estimate(cell));
      if (here > found_cost_) {
        end(Reason::found);
        break;
      }
    }
    if (expanded_ == options_.limit) {
      end(found_goal_ == no_goal ? Reason::stopped : Reason::found);
      break;
    }
    ++expanded_;
    --places;
    nodes_[state].expanded = true;
    touched_.take(costs_->size().index(cell).value());
    if (options_.trace != nullptr) {
      const bool unguided = options_.by == Algorithm::dijkstra || options_.by == Algorithm::bfs;
      const Cell before = place.back == from_nowhere ? cell : cell + hood.offset[kind][place.back];
      options_.trace->push_back(
          {costs_->size().index(cell), costs_->size().index(before), place.cost, unguided ? 0 : estimate(cell)});
    }
    if (const std::size_t goal = accepted_goal(cell); goal < found_goal_) {
      found_goal_ = goal;
      found_state_ = state;
      found_cell_ = cell;
      found_cost_ = place.cost;
      const bool first_will_do = options_.by == Algorithm::greedy || options_.weight > 100;
      if (first_will_do || (goal == 0 && !options_.natural)) {
        end(Reason::found);
        break;
      }
    }
    for (unsigned left = ground_.moves(cell); left != 0; left &= left - 1) {
      const auto d = static_cast<unsigned>(std::countr_zero(left));
      const Cell next = cell + hood.offset[kind][d];
      const std::uint64_t step =
          options_.by == Algorithm::bfs
              ? 100
              : step_cost(costs_->step_length(static_cast<int>(kind), static_cast<int>(d)), ground_.entry(next)) +
                    turning(heading, d);
      reach(next, headings_ == 1 ? 0 : d, std::uint64_t{place.cost} + step, hood.opposite[kind][d], heading);
    }
  }
  return ended_;
}

void BroadSearch::end(Reason reason) {
  ended_ = true;
  if (reason == Reason::no_way && found_goal_ != no_goal) reason = Reason::found;
  if (verdict_.reason != Reason::found) return;  // no goal could be used: the way to the nearest cell was wanted
  if (reason == Reason::no_way && cut_) {
    reason = options_.budget ? Reason::over_budget : leads_to_goal() ? Reason::cost_overflow : Reason::no_way;
  }
  verdict_.reason = reason;
}

/// Whether any way leads to a goal, whatever it costs. Asked only after sums did not fit.
bool BroadSearch::leads_to_goal() const {
  BitGrid seen(costs_->size());
  std::vector<Cell> line;
  const auto reach = [&](Cell cell) {
    if (seen.test(cell)) return;
    seen.set(cell);
    line.push_back(cell);
  };
  for (const Source& start : starts_) reach(start.cell);
  for (std::size_t i = 0; i < line.size(); ++i) {
    if (accepted_goal(line[i]) != no_goal) return true;
    for (unsigned left = ground_.moves(line[i]); left != 0; left &= left - 1) {
      reach(costs_->tiling().neighbour(line[i], std::countr_zero(left)));
    }
  }
  return false;
}

void BroadSearch::write(Route& route) {
  SAUNTER_EXPECT(ended_);
  const bool chosen = options_.by == Algorithm::automatic || options_.by == Algorithm::jump;
  route.restart(chosen ? Algorithm::astar : options_.by);
  route.expanded_ = expanded_;
  route.verdict_ = verdict_;
  const bool found = verdict_.reason == Reason::found;
  if (!found && starts_.empty()) return;
  const Cell last = found ? found_cell_ : nearest();
  if (found) {
    route.goal_number_ = found_goal_;
    route.verdict_.at = last;
  } else {
    if (verdict_.reason >= Reason::no_way) route.verdict_.at = last;
    if (!options_.or_nearest) return;
    route.remaining_ = estimate(last);
  }
  if (found && options_.natural) {
    write_natural_way(last, route.cells_);
  } else {
    write_way(found ? found_state_ : best_state(last), last, route.cells_);
  }
  std::reverse(route.cells_.begin(), route.cells_.end());
  std::size_t best = no_goal;
  for (std::size_t i = 0; i < starts_.size(); ++i) {
    if (starts_[i].cell != route.cells_.front()) continue;
    if (best == no_goal || starts_[i].head_start < starts_[best].head_start) best = i;
  }
  route.start_number_ = start_numbers_[best];
  // Summed up: a search that was weighted or cut short may know a cheaper way to a cell than it has passed on yet.
  std::uint64_t cost = starts_[best].head_start + cost_of(route.cells_);
  if (cost > max_cost) {
    route.verdict_ = {Reason::cost_overflow, nearest()};
    route.cells_.clear();
    cost = 0;
  }
  route.cost_ = static_cast<Cost>(cost);
}

void BroadSearch::write_way(std::size_t state, Cell cell, std::vector<Cell>& out) const {
  const Neighbourhood& hood = costs_->tiling().neighbourhood();
  for (;;) {
    out.push_back(cell);
    const Node& node = nodes_[state];
    if (node.back == from_nowhere) return;
    cell = cell + hood.offset[static_cast<unsigned>(costs_->tiling().kind(cell))][node.back];
    state = state_of(cell, node.heading);
  }
}

/// Of all ways of least cost one with the fewest turns, then the least sum of distances from the straight line: over
/// the cells on such ways, from the start on, the best way to arrive in each direction.
void BroadSearch::write_natural_way(Cell goal, std::vector<Cell>& out) {
  const Tiling tiling = costs_->tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  const Size size = costs_->size();
  const auto directions = static_cast<unsigned>(costs_->rules().steps);
  const bool turns_tell = tiling.shape() != Shape::triangle;  // straight ahead alternates there
  const auto cost_at = [&](Cell cell) { return nodes_[size.index(cell).value()].cost; };
  const auto from_start = [&](Cell cell) { return nodes_[size.index(cell).value()].back == from_nowhere; };
  /// Calls visit(cell before, direction of travel) for the steps that end a way of least cost to a cell.
  const auto for_each_before = [&](Cell cell, auto&& visit) {
    if (from_start(cell)) return;
    const auto kind = static_cast<unsigned>(tiling.kind(cell));
    for (unsigned d = 0; d < directions; ++d) {
      const Cell before = cell + hood.offset[kind][d];
      if (!size.contains(before) || !knows(size.index(before).value())) continue;
      const unsigned travel = hood.opposite[kind][d];
      if ((unsigned{ground_.moves(before)} >> travel & 1U) == 0) continue;
      const Cost step =
          step_cost(costs_->step_length(tiling.kind(before), static_cast<int>(travel)), ground_.entry(cell));
      if (std::uint64_t{cost_at(before)} + step == cost_at(cell)) visit(before, travel);
    }
  };
  if (position_.size() < size.cell_count()) position_.resize(size.cell_count(), 0);
  const auto position = [&](Cell cell) -> std::uint32_t& { return position_[size.index(cell).value()]; };
  ties_.assign(1, goal);
  position(goal) = 1;
  for (std::size_t i = 0; i < ties_.size(); ++i) {
    for_each_before(ties_[i], [&](Cell before, unsigned) {
      if (position(before) != 0) return;
      position(before) = 1;
      ties_.push_back(before);
    });
  }
  std::sort(ties_.begin(), ties_.end(),
            [&](Cell a, Cell b) { return cost_at(a) != cost_at(b) ? cost_at(a) < cost_at(b) : a < b; });
  for (std::size_t i = 0; i < ties_.size(); ++i) position(ties_[i]) = static_cast<std::uint32_t>(i);

  const Point a = centre_of(tiling, ties_.front());
  const Point b = centre_of(tiling, goal);
  looks_.assign(ties_.size() * directions, Looks{});
  const auto looks = [&](Cell cell, unsigned d) -> Looks& { return looks_[position(cell) * directions + d]; };
  for (const Cell cell : ties_) {
    const Point c = centre_of(tiling, cell);
    const auto aside = static_cast<std::uint64_t>(std::llabs((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)));
    for_each_before(cell, [&](Cell before, unsigned travel) {
      Looks best;
      if (from_start(before)) {
        best = {0, 0, from_nowhere};
      } else {
        for (unsigned d = 0; d < directions; ++d) {
          Looks one = looks(before, d);
          if (one.aside == ~std::uint64_t{0}) continue;
          one.turns += turns_tell && d != travel ? 1 : 0;
          one.before = static_cast<std::uint8_t>(d);
          if (one < best) best = one;
        }
      }
      best.aside += aside;
      looks(cell, travel) = best;
    });
  }
  Cell cell = goal;
  unsigned travel = 0;
  for (unsigned d = 1; d < directions; ++d) {
    if (looks(goal, d) < looks(goal, travel)) travel = d;
  }
  for (;;) {
    out.push_back(cell);
    if (from_start(cell)) break;
    const std::uint8_t travel_before = looks(cell, travel).before;
    Cell before = cell;
    for_each_before(cell, [&](Cell candidate, unsigned d) {
      if (d == travel) before = candidate;
    });
    cell = before;
    travel = travel_before;
  }
  for (const Cell tie : ties_) position(tie) = 0;
}

std::uint64_t BroadSearch::cost_of(std::span<const Cell> way) const {
  const Tiling tiling = costs_->tiling();
  std::uint64_t sum = 0;
  unsigned heading = start_heading();
  for (std::size_t i = 1; i < way.size(); ++i) {
    const Direction d = tiling.direction(way[i - 1], way[i]);
    sum += step_cost(costs_->step_length(tiling.kind(way[i - 1]), d), ground_.entry(way[i]));
    sum += turning(heading, static_cast<unsigned>(d));
    heading = static_cast<unsigned>(d);
  }
  return sum;
}

std::size_t BroadSearch::best_state(Cell cell) const {
  std::size_t best = no_state;
  for (unsigned heading = 0; heading < headings_; ++heading) {
    const std::size_t state = state_of(cell, heading);
    if (knows(state) && (best == no_state || nodes_[state].cost < nodes_[best].cost)) best = state;
  }
  return best;
}

CellState BroadSearch::state(Cell cell) const {
  bool seen = false;
  for (unsigned heading = 0; heading < headings_; ++heading) {
    const std::size_t state = state_of(cell, heading);
    if (!knows(state)) continue;
    if (nodes_[state].expanded) return CellState::closed;
    seen = true;
  }
  return seen ? CellState::open : CellState::unseen;
}

Cost BroadSearch::cost(Cell cell) const { return nodes_[best_state(cell)].cost; }

Cell BroadSearch::parent(Cell cell) const {
  const Node& node = nodes_[best_state(cell)];
  if (node.back == from_nowhere) return cell;
  const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
  return cell + costs_->tiling().neighbourhood().offset[kind][node.back];
}

Cell BroadSearch::nearest() const {
  const Size size = costs_->size();
  const Span span = touched_.with_neighbours(size);
  Cell nearest = starts_.front().cell;
  std::uint64_t least = estimate(nearest);
  const auto look = [&](Cell cell) {
    const std::uint64_t here = estimate(cell);
    if (here < least || (here == least && cell < nearest)) {
      least = here;
      nearest = cell;
    }
  };
  for (const Source& start : starts_) look(start.cell);
  if (labels_ != nullptr) {  // what a search would have seen
    for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
      const auto of_group = [&](const Source& start) { return labels_->at(start.cell) == labels_->at(CellIndex{i}); };
      if (std::any_of(starts_.begin(), starts_.end(), of_group)) look(size.cell(CellIndex{i}));
    }
    return nearest;
  }
  for (std::uint32_t index = span.first; index <= span.last; ++index) {
    const Cell cell = size.cell(CellIndex{index});
    if (best_state(cell) != no_state) look(cell);
  }
  return nearest;
}

}  // namespace saunter
