#include "broad_search.hpp"

#include <bit>
#include <cstdlib>
#include <utility>

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

RouteOptions made_sound(RouteOptions options, Tiling tiling) {
  const bool bfs = options.by == Algorithm::bfs;
  const bool greedy = options.by == Algorithm::greedy;
  const bool astar = options.by == Algorithm::astar || options.by == Algorithm::automatic;
  const bool turns = options.turn_cost > 0;
  const bool weighted = options.weight != 100;
  const auto drop_unless = [](bool sound, auto&& drop) {
    SAUNTER_EXPECT(sound);
    if (!sound) drop();
  };
  drop_unless(options.limit > 0, [&] { options.limit = 1; });
  drop_unless(!bfs || !options.budget, [&] { options.budget.reset(); });
  drop_unless(!turns || !(bfs || greedy || options.natural || tiling.shape() == Shape::triangle),
              [&] { options.turn_cost = {}; });
  drop_unless(!options.natural || !(bfs || greedy), [&] { options.natural = false; });
  drop_unless(!weighted || (astar && !options.natural), [&] { options.weight = 100_hundredths; });
  drop_unless(options.weight >= 100 && options.weight <= 10'000,
              [&] { options.weight = options.weight < 100 ? 100_hundredths : 100_steps; });
  drop_unless(!options.heading || (*options.heading >= 0 && *options.heading < tiling.direction_count()),
              [&] { options.heading.reset(); });
  return options;
}

void BroadSearch::clear_accepted() {
  for (const Accepted& accepted : accepted_) accepted_cells_.set(accepted.cell, false);
  accepted_.clear();
}

void BroadSearch::begin(const CostGrid& costs, const Query& query, const RouteOptions& options) {
  ended_ = true;  // should this be cut short by an exception
  verdict_ = {};
  clear_accepted();
  costs_ = &costs;
  options_ = options;
  until_ = query.until;
  within_ = std::max(0, query.within);
  beside_ = query.beside;
  goals_.assign(query.goals.begin(), query.goals.end());
  ground_.begin(costs, options.changes);
  changed_ = ground_.any();
  options_.changes = {};
  labels_ = nullptr;
  expanded_ = 0;
  pushed_ = 0;
  cut_short_ = false;
  aims_.clear();
  heuristics_.clear();
  starts_.clear();
  start_numbers_.clear();
  headings_ = options_.turn_cost > 0 ? static_cast<unsigned>(costs.tiling().direction_count()) + 1 : 1;
  const std::size_t states = costs.size().cell_count() * headings_;
  if (nodes_.size() < states) nodes_.resize(states);
  forget_search();
  if (accepted_cells_.size() != costs.size()) accepted_cells_ = BitGrid(costs.size());

  const Verdict starts = take_starts(query.starts);
  const Verdict goals = take_goals();
  take_aims();
  verdict_ = starts.reason != Reason::found ? starts : goals;
  // Without a goal that can be used there may still be a nearest cell to one that is blocked.
  const bool to_nearest = options_.or_nearest && goals.reason == Reason::goal_blocked;
  if (starts.reason != Reason::found || (goals.reason != Reason::found && !to_nearest)) return;
  labels_ = goals.reason == Reason::found ? apart_by_labels() : nullptr;
  if (labels_ != nullptr) {
    end(Reason::no_way);
    return;
  }
  ended_ = false;
  const bool hopeless = goals.reason != Reason::found;
  set_out(hopeless && options_.by != Algorithm::bfs ? Algorithm::dijkstra : options_.by);
}

/// Nothing has been reached, found or cut off.
void BroadSearch::forget_search() {
  touched_ = {};
  cut_ = false;
  found_goal_ = no_goal;
  if (++query_ != 0) return;
  std::fill(nodes_.begin(), nodes_.end(), Node{});  // wrapped: old marks would look new
  query_ = 1;
}

void BroadSearch::set_out(Algorithm by) {
  by_ = by;
  forget_search();
  // An estimate changes by no more than the step costs; half a turn is the most.
  const std::uint64_t rise =
      2 * std::uint64_t{step_cost(costs_->longest_step(), ground_.dearest())} + std::uint64_t{options_.turn_cost} * 4;
  const bool steady = options_.weight == 100 || by_ == Algorithm::dijkstra;
  bucketed_ = starts_.size() == 1 && least_cost(by_) && steady && rise <= BucketLine::most_rise;
  if (bucketed_) {
    buckets_.begin(rise);
  } else {
    heap_.begin(rise);
  }
  for (const Source& start : starts_) {
    const Cost head_start = by_ == Algorithm::bfs ? 0 : Cost{start.head_start};  // only steps count there
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
  if (starts.empty()) return {Reason::start_off_map, {}};
  return starts_.empty() ? first : Verdict{Reason::found, {}};
}

Verdict BroadSearch::take_goals() {
  const Tiling tiling = costs_->tiling();
  Verdict first{Reason::found, {}};
  const auto count_towards = [&](Cell goal) {
    heuristics_.emplace_back(tiling, costs_->rules(), ground_.cheapest(), goal);
  };
  for (std::size_t i = 0; i < goals_.size(); ++i) {
    const Cell goal = goals_[i];
    const bool on_map = costs_->size().contains(goal);
    bool usable = false;
    if (on_map && within_ > 0) {
      disk_of_cells(tiling, goal, within_, costs_->size(), disk_);
      for (const Cell cell : disk_) {
        if (!beside_ || cell != goal) usable |= accept(cell, i);
      }
    } else if (on_map && beside_) {
      for (Direction d{0}; d < costs_->rules().steps; ++d) usable |= accept(tiling.neighbour(goal, d), i);
    } else if (on_map) {
      usable = accept(goal, i);
    }
    if (usable) count_towards(goal);
    if (usable || first.reason != Reason::found) continue;
    first = {on_map ? Reason::goal_blocked : Reason::goal_off_map, goal};
  }
  std::sort(accepted_.begin(), accepted_.end(), [](const Accepted& a, const Accepted& b) { return a.cell < b.cell; });
  SAUNTER_EXPECT(!goals_.empty() || until_);
  if (goals_.empty() && !until_) return {Reason::goal_off_map, {}};
  if (!accepted_.empty() || until_) return {Reason::found, {}};
  for (const Cell goal : goals_) {
    if (costs_->size().contains(goal)) count_towards(goal);
  }
  return first;
}

/// @return whether one can arrive there
bool BroadSearch::accept(Cell cell, std::size_t goal) {
  if (!ground_.open(cell)) return false;
  if (accepted_cells_.test(cell)) return true;
  accepted_.push_back({cell, static_cast<std::uint32_t>(goal)});  // first: this list is what clears the marks
  accepted_cells_.set(cell);
  return true;
}

void BroadSearch::take_aims() {
  const auto aim_at = [&](Cell cell) {
    aims_.push_back({Estimate(costs_->tiling(), costs_->rules(), ground_.cheapest(), cell), 0});
  };
  if (until_ || accepted_.empty()) return;
  if (goals_.size() <= most_aims) {
    for (const Cell goal : goals_) aim_at(goal);
    for (const Accepted& accepted : accepted_) {
      Aim& aim = aims_[accepted.goal];
      aim.slack = std::max(aim.slack, aim.estimate(accepted.cell));
    }
    return;
  }
  Cell low = accepted_.front().cell;
  Cell high = low;
  for (const Accepted& accepted : accepted_) {
    low = {std::min(low.col, accepted.cell.col), std::min(low.row, accepted.cell.row)};
    high = {std::max(high.col, accepted.cell.col), std::max(high.row, accepted.cell.row)};
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
  switch (by_) {
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
  const bool first_counts = back != from_nowhere && (by_ == Algorithm::bfs || by_ == Algorithm::greedy);
  if (node.query == query_ && (first_counts || node.cost <= cost)) return;
  const std::uint64_t ahead = estimate(cell);
  const bool bounded = by_ != Algorithm::bfs;
  const bool sure = by_ == Algorithm::dijkstra || by_ == Algorithm::greedy;
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
  if (by_ == Algorithm::bfs) {
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
      if (by_ == Algorithm::greedy && cut_ && found_goal_ == no_goal) {
        set_out(Algorithm::astar);  // what took too dear a way may have a cheaper one
        continue;
      }
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
      const std::uint64_t here = by_ == Algorithm::bfs ? place.cost : total(place.cost, estimate(cell));
      if (here > found_cost_) {
        end(Reason::found);
        break;
      }
    }
    if (expanded_ == options_.limit) {
      cut_short_ = true;
      end(found_goal_ == no_goal ? Reason::stopped : Reason::found);
      break;
    }
    ++expanded_;
    --places;
    nodes_[state].expanded = true;
    touched_.take(costs_->size().index(cell).value());
    if (options_.trace != nullptr) {
      const bool unguided = by_ == Algorithm::dijkstra || by_ == Algorithm::bfs;
      const Cell before = place.back == from_nowhere ? cell : cell + hood.offset[kind][place.back];
      options_.trace->push_back(
          {costs_->size().index(cell), costs_->size().index(before), place.cost, unguided ? 0 : estimate(cell)});
    }
    if (const std::size_t goal = accepted_goal(cell); goal < found_goal_) {
      found_goal_ = goal;
      found_state_ = state;
      found_cell_ = cell;
      found_cost_ = place.cost;
      const bool first_will_do = by_ == Algorithm::greedy || (options_.weight > 100 && by_ != Algorithm::dijkstra);
      if (first_will_do || (goal == 0 && !options_.natural)) {
        end(Reason::found);
        break;
      }
    }
    for (unsigned left = ground_.moves(cell); left != 0; left &= left - 1) {
      const auto d = static_cast<unsigned>(std::countr_zero(left));
      const Cell next = cell + hood.offset[kind][d];
      const std::uint64_t step =
          by_ == Algorithm::bfs
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
    reason = options_.budget ? Reason::over_budget : Reason::cost_overflow;  // or none at all, see find_place_of_no()
  }
  verdict_.reason = reason;
}

/// Whether any way leads to a goal, whatever it costs. Asked only after sums did not fit.
/// @param nearest  the cell nearest to a goal among all that the starts can get to
bool BroadSearch::leads_to_goal(Cell& nearest) const {
  BitGrid seen(costs_->size());
  std::vector<Cell> line;
  const auto take = [&](Cell cell) {
    if (seen.test(cell)) return;
    seen.set(cell);
    line.push_back(cell);
  };
  for (const Source& start : starts_) take(start.cell);
  for (std::size_t i = 0; i < line.size(); ++i) {
    if (accepted_goal(line[i]) != no_goal) return true;
    for (unsigned left = ground_.moves(line[i]); left != 0; left &= left - 1) {
      take(costs_->tiling().neighbour(line[i], Direction(std::countr_zero(left))));
    }
  }
  nearest = *std::min_element(line.begin(), line.end(), [&](Cell a, Cell b) {
    const std::uint64_t to_a = heuristic(a);
    const std::uint64_t to_b = heuristic(b);
    return to_a != to_b ? to_a < to_b : a < b;
  });
  return false;
}

void BroadSearch::survey(Algorithm by, const Cell* to) {
  clear_accepted();
  until_ = {};
  aims_.clear();
  if (to != nullptr) {
    (void)accept(*to, 0);
    aims_.push_back({Estimate(costs_->tiling(), costs_->rules(), ground_.cheapest(), *to), 0});
  }
  // What was asked for has been answered: these places are neither counted nor limited.
  const std::uint64_t expanded = std::exchange(expanded_, 0);
  options_.limit = std::numeric_limits<std::uint64_t>::max();
  options_.trace = nullptr;
  options_.natural = false;
  options_.weight = 100_hundredths;
  const Verdict verdict = std::exchange(verdict_, Verdict{Reason::found, {}});
  ended_ = false;
  set_out(by);
  (void)run(std::numeric_limits<std::uint64_t>::max());
  verdict_ = verdict;
  expanded_ = expanded;
}

/// Where the verdict points to, and whether what did not fit leads anywhere at all.
void BroadSearch::find_place_of_no() {
  const auto known = [&](Cell cell) { return best_state(cell) != no_state; };
  if (labels_ != nullptr) {
    verdict_.at = nearest_by_labels();
    return;
  }
  if (verdict_.reason == Reason::no_way || verdict_.reason == Reason::stopped) {
    verdict_.at = nearest(known);
    return;
  }
  if (verdict_.reason == Reason::cost_overflow && cut_) {
    Cell of_all;
    if (!leads_to_goal(of_all)) {
      verdict_ = {Reason::no_way, of_all};
      return;
    }
  }
  // All whose least cost fits; a search that was guided, or took the first way, has not seen them.
  if (by_ != Algorithm::dijkstra) survey(Algorithm::dijkstra, nullptr);
  verdict_.at = nearest(known);
}

/// The way of least cost to the nearest cell.
void BroadSearch::write_nearest(Route& route) {
  const bool bfs = options_.by == Algorithm::bfs;
  Cell last;
  if (cut_short_) {
    last = nearest([&](Cell cell) { return state(cell) == CellState::closed; });
    const bool least = bfs || by_ == Algorithm::dijkstra || (by_ != Algorithm::greedy && options_.weight == 100);
    if (!least) survey(Algorithm::astar, &last);
  } else {
    const bool complete = by_ == Algorithm::dijkstra || (bfs && by_ == Algorithm::bfs) ||
                          (by_ != Algorithm::greedy && by_ != Algorithm::bfs && !cut_);
    if (!complete) survey(bfs ? Algorithm::bfs : Algorithm::dijkstra, nullptr);
    last = nearest([&](Cell cell) { return best_state(cell) != no_state; });
  }
  route.remaining_ = heuristic(last);
  write_way(best_state(last), last, route.cells_);
  std::reverse(route.cells_.begin(), route.cells_.end());
  write_cost(route);
}

void BroadSearch::write(Route& route) {
  SAUNTER_EXPECT(ended_);
  const bool chosen = options_.by == Algorithm::automatic || options_.by == Algorithm::jump;
  route.restart(chosen ? Algorithm::astar : options_.by);
  route.expanded_ = expanded_;
  const bool found = verdict_.reason == Reason::found;
  if (found) {
    if (options_.natural) {
      write_natural_way(found_cell_, route.cells_);
    } else {
      write_way(found_state_, found_cell_, route.cells_);
    }
    std::reverse(route.cells_.begin(), route.cells_.end());
    write_cost(route);
    if (!route.cells_.empty()) {
      route.goal_number_ = found_goal_;
      route.natural_ = options_.natural && !cut_short_;
      route.verdict_ = {Reason::found, found_cell_};
      return;
    }
    verdict_ = {Reason::cost_overflow, {}};  // of a way that others are cheaper than
    cut_ = false;
    survey(Algorithm::dijkstra, nullptr);
  }
  if (starts_.empty()) {
    route.verdict_ = verdict_;
    return;
  }
  const bool bad_goal = verdict_.reason == Reason::goal_blocked || verdict_.reason == Reason::goal_off_map;
  if (!bad_goal) find_place_of_no();
  if (options_.or_nearest && verdict_.reason != Reason::goal_off_map) write_nearest(route);
  route.verdict_ = verdict_;
}

/// Takes the cost of the cells written, or takes them away again where it does not fit.
void BroadSearch::write_cost(Route& route) {
  std::size_t best = no_goal;
  for (std::size_t i = 0; i < starts_.size(); ++i) {
    if (starts_[i].cell != route.cells_.front()) continue;
    if (best == no_goal || starts_[i].head_start < starts_[best].head_start) best = i;
  }
  route.start_number_ = start_numbers_[best];
  // Summed up: a search that was weighted or cut short may know a cheaper way to a cell than it has passed on yet.
  const std::uint64_t cost = starts_[best].head_start + cost_of(route.cells_);
  if (cost > max_cost) {
    route.cells_.clear();
    return;
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
/// the cells on such ways, from the start on, the best way to arrive from each neighbour.
void BroadSearch::write_natural_way(Cell goal, std::vector<Cell>& out) {
  const Tiling tiling = costs_->tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  const Size size = costs_->size();
  const auto directions = static_cast<unsigned>(costs_->rules().steps);
  const bool turns_tell = tiling.shape() != Shape::triangle;  // straight ahead alternates there
  const auto cost_at = [&](Cell cell) { return nodes_[size.index(cell).value()].cost; };
  const auto from_start = [&](Cell cell) { return nodes_[size.index(cell).value()].back == from_nowhere; };
  // Calls visit(cell before, direction back to it) for the steps that end a way of least cost to a cell. Directions
  // back are told apart at one cell; directions of travel are not, where neighbours are of two kinds.
  const auto for_each_before = [&](Cell cell, auto&& visit) {
    if (from_start(cell)) return;
    const auto kind = static_cast<unsigned>(tiling.kind(cell));
    for (unsigned back = 0; back < directions; ++back) {
      const Cell before = cell + hood.offset[kind][back];
      if (!size.contains(before) || !knows(size.index(before).value())) continue;
      const unsigned travel = hood.opposite[kind][back];
      if ((unsigned{ground_.moves(before)} >> travel & 1U) == 0) continue;
      const Cost step =
          step_cost(costs_->step_length(tiling.kind(before), static_cast<int>(travel)), ground_.entry(cell));
      if (std::uint64_t{cost_at(before)} + step == cost_at(cell)) visit(before, back);
    }
  };
  // What an earlier way has left is cleared by its own list.
  for (const std::uint32_t tie : ties_) position_[tie] = 0;
  ties_.clear();
  if (position_.size() < size.cell_count()) position_.resize(size.cell_count(), 0);
  const auto take = [&](Cell cell) {
    const std::uint32_t index = size.index(cell).value();
    if (position_[index] != 0) return;
    ties_.push_back(index);
    position_[index] = 1;
  };
  take(goal);
  for (std::size_t i = 0; i < ties_.size(); ++i) {
    for_each_before(size.cell(CellIndex{ties_[i]}), [&](Cell before, unsigned) { take(before); });
  }
  std::sort(ties_.begin(), ties_.end(), [&](std::uint32_t a, std::uint32_t b) {
    return nodes_[a].cost != nodes_[b].cost ? nodes_[a].cost < nodes_[b].cost : a < b;
  });
  for (std::size_t i = 0; i < ties_.size(); ++i) position_[ties_[i]] = static_cast<std::uint32_t>(i + 1);

  const Point a = centre_of(tiling, size.cell(CellIndex{ties_.front()}));
  const Point b = centre_of(tiling, goal);
  looks_.assign(ties_.size() * directions, Looks{});
  const auto looks = [&](Cell cell, unsigned back) -> Looks& {
    return looks_[(position_[size.index(cell).value()] - std::size_t{1}) * directions + back];
  };
  for (const std::uint32_t tie : ties_) {
    const Cell cell = size.cell(CellIndex{tie});
    const Point c = centre_of(tiling, cell);
    const auto aside = static_cast<std::uint64_t>(std::llabs((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)));
    for_each_before(cell, [&](Cell before, unsigned back) {
      Looks best;
      if (from_start(before)) {
        best = {0, 0, from_nowhere};
      } else {
        for (unsigned d = 0; d < directions; ++d) {
          Looks one = looks(before, d);
          if (one.aside == ~std::uint64_t{0}) continue;
          one.turns += turns_tell && d != back ? 1 : 0;
          one.before = static_cast<std::uint8_t>(d);
          if (one < best) best = one;
        }
      }
      best.aside += aside;
      looks(cell, back) = best;
    });
  }
  Cell cell = goal;
  unsigned back = 0;
  for (unsigned d = 1; d < directions; ++d) {
    if (looks(goal, d) < looks(goal, back)) back = d;
  }
  for (;;) {
    out.push_back(cell);
    if (from_start(cell)) break;
    const std::uint8_t back_before = looks(cell, back).before;
    cell = cell + hood.offset[static_cast<unsigned>(tiling.kind(cell))][back];
    back = back_before;
  }
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
  if (costs_ == nullptr || !costs_->size().contains(cell)) return CellState::unseen;
  bool seen = false;
  for (unsigned heading = 0; heading < headings_; ++heading) {
    const std::size_t state = state_of(cell, heading);
    if (!knows(state)) continue;
    if (nodes_[state].expanded) return CellState::closed;
    seen = true;
  }
  return seen ? CellState::open : CellState::unseen;
}

Cost BroadSearch::cost(Cell cell) const {
  return state(cell) == CellState::unseen ? unreached : nodes_[best_state(cell)].cost;
}

Cell BroadSearch::parent(Cell cell) const {
  if (state(cell) == CellState::unseen) return cell;
  const Node& node = nodes_[best_state(cell)];
  if (node.back == from_nowhere) return cell;
  const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
  return cell + costs_->tiling().neighbourhood().offset[kind][node.back];
}

std::uint64_t BroadSearch::heuristic(Cell cell) const {
  if (heuristics_.empty()) return 0;  // nothing is known of where the goals lie
  std::uint64_t least = ~std::uint64_t{0};
  for (const Estimate& to_goal : heuristics_) least = std::min(least, to_goal(cell));
  return least;
}

/// The cell with the least heuristic among those the search has seen that a test names, first in reading order; the
/// starts count.
template <typename Among>
Cell BroadSearch::nearest(Among&& among) const {
  const Size size = costs_->size();
  const Span span = touched_.with_neighbours(size);
  Cell nearest = starts_.front().cell;
  std::uint64_t least = heuristic(nearest);
  const auto look = [&](Cell cell) {
    const std::uint64_t here = heuristic(cell);
    if (here < least || (here == least && cell < nearest)) {
      least = here;
      nearest = cell;
    }
  };
  for (const Source& start : starts_) look(start.cell);
  for (std::uint32_t index = span.first; index <= span.last; ++index) {
    const Cell cell = size.cell(CellIndex{index});
    if (among(cell)) look(cell);
  }
  return nearest;
}

/// What a search of everything the starts can get to would name.
Cell BroadSearch::nearest_by_labels() const {
  const Size size = costs_->size();
  Cell nearest = starts_.front().cell;
  std::uint64_t least = ~std::uint64_t{0};
  for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
    const auto of_group = [&](const Source& start) { return labels_->at(start.cell) == labels_->at(CellIndex{i}); };
    if (!std::any_of(starts_.begin(), starts_.end(), of_group)) continue;
    const std::uint64_t here = heuristic(size.cell(CellIndex{i}));
    if (here >= least) continue;
    least = here;
    nearest = size.cell(CellIndex{i});
  }
  return nearest;
}

}  // namespace saunter
