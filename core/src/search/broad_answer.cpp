// What a broad search answers once it has ended, and what it knows of cells on the route.
#include "broad_search.hpp"

#include <algorithm>
#include <utility>

#include "kernel/legal_steps.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

void SteppedSearch::BroadSearch::survey(Algorithm by, const Cell* to) {
  until_ = {};
  goals_.begin_anew(*costs_, ground_, to != nullptr ? std::optional(*to) : std::nullopt);
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
void SteppedSearch::BroadSearch::find_place_of_no() {
  const auto known = [&](Cell cell) { return best_state(cell) != no_state; };
  if (labels_ != nullptr) {
    verdict_.at = nearest_by_labels();
    return;
  }
  if (verdict_.reason == Reason::no_way && by_ == Algorithm::dead_ends) {  // it has left cells out
    (void)leads_to_goal(verdict_.at);
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
  // All whose least cost fits; a search that was guided, or took the first route, has not seen them.
  if (by_ != Algorithm::dijkstra) survey(Algorithm::dijkstra, nullptr);
  verdict_.at = nearest(known);
  if (verdict_.reason != Reason::over_budget) return;
  const auto among = [&](std::uint32_t index) { return known(costs_->size().cell(CellIndex{index})); };
  const bool more = leads_out(
      *costs_, ReachedCells<decltype(among)>{costs_->size(), touched_, among},
      [&](Cell cell) { return ground_.moves(cell); }, [](std::uint32_t) { return true; });
  if (!more) verdict_.reason = Reason::no_way;
}

void SteppedSearch::BroadSearch::write_best_so_far(std::vector<Cell>& out) const {
  out.clear();
  if (starts_.empty()) return;
  const Cell last = nearest([&](Cell cell) { return state(cell) == CellState::closed; });
  const std::size_t known = best_state(last);
  if (known == no_state) return;
  write_way(known, last, out);
  std::reverse(out.begin(), out.end());
}

/// The route of least cost to the nearest cell.
void SteppedSearch::BroadSearch::write_nearest(Route& route) {
  const bool bfs = options_.by == Algorithm::bfs;
  Cell last;
  if (cut_short_) {
    last = nearest([&](Cell cell) { return state(cell) == CellState::closed; });
    const bool least = bfs || by_ == Algorithm::dijkstra || (by_ != Algorithm::greedy && options_.weight == 100);
    if (!least) survey(Algorithm::astar, &last);
  } else {
    const bool complete = by_ == Algorithm::dijkstra || (bfs && by_ == Algorithm::bfs) ||
                          (by_ != Algorithm::greedy && by_ != Algorithm::bfs && by_ != Algorithm::dead_ends && !cut_);
    if (!complete) survey(bfs ? Algorithm::bfs : Algorithm::dijkstra, nullptr);
    last = nearest([&](Cell cell) { return best_state(cell) != no_state; });
  }
  route.remaining_ = goals_.heuristic(last);
  write_way(best_state(last), last, route.cells_);
  std::reverse(route.cells_.begin(), route.cells_.end());
  write_cost(route);
}

void SteppedSearch::BroadSearch::write(Route& route) {
  SAUNTER_EXPECT(ended_);
  const bool by_test = options_.by == Algorithm::dead_ends && until_;
  const bool chosen = options_.by == Algorithm::automatic || options_.by == Algorithm::jump || by_test;
  route.restart(chosen ? Algorithm::astar : options_.by);
  route.expanded_ = expanded_;
  const bool found = verdict_.reason == Reason::found;
  if (found) {
    if (options_.natural) {
      const Reached reached{*this};
      NaturalWay<Reached>(natural_, *costs_, ground_, reached).write(found_cell_, route.cells_);
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
    verdict_ = {Reason::cost_overflow, {}};  // of a route that others are cheaper than
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
void SteppedSearch::BroadSearch::write_cost(Route& route) {
  std::size_t best = Goals::none;
  for (std::size_t i = 0; i < starts_.size(); ++i) {
    if (starts_[i].cell != route.cells_.front()) continue;
    if (best == Goals::none || starts_[i].head_start < starts_[best].head_start) best = i;
  }
  route.start_number_ = start_numbers_[best];
  // Summed up: a search that was weighted or cut short may know a cheaper route to a cell than it has passed on yet.
  const std::uint64_t cost = starts_[best].head_start + cost_of(route.cells_);
  if (cost > max_cost) {
    route.cells_.clear();
    return;
  }
  route.cost_ = static_cast<Cost>(cost);
}

void SteppedSearch::BroadSearch::write_way(std::size_t state, Cell cell, std::vector<Cell>& out) const {
  const Neighbourhood& hood = costs_->tiling().neighbourhood();
  for (;;) {
    out.push_back(cell);
    const Node& node = nodes_[state];
    if (node.back == from_nowhere) return;
    cell = cell + hood.offset[static_cast<unsigned>(costs_->tiling().kind(cell))][node.back];
    state = state_of(cell, node.heading);
  }
}

std::uint64_t SteppedSearch::BroadSearch::cost_of(std::span<const Cell> way) const {
  unsigned heading = start_heading();
  return cost_of_steps(
      *costs_, way, [&](Cell cell) { return ground_.entry(cell); },
      [&](Direction d) { return turning(std::exchange(heading, static_cast<unsigned>(d)), static_cast<unsigned>(d)); });
}

std::size_t SteppedSearch::BroadSearch::best_state(Cell cell) const {
  std::size_t best = no_state;
  for (unsigned heading = 0; heading < headings_; ++heading) {
    const std::size_t state = state_of(cell, heading);
    if (knows(state) && (best == no_state || nodes_[state].cost < nodes_[best].cost)) best = state;
  }
  return best;
}

CellState SteppedSearch::BroadSearch::state(Cell cell) const {
  if (costs_ == nullptr || !costs_->size().contains(cell)) return CellState::unseen;
  if (state_of(cell, headings_) > nodes_.size()) return CellState::unseen;  // the grid is another now
  bool seen = false;
  for (unsigned heading = 0; heading < headings_; ++heading) {
    const std::size_t state = state_of(cell, heading);
    if (!knows(state)) continue;
    if (nodes_[state].expanded) return CellState::closed;
    seen = true;
  }
  return seen ? CellState::open : CellState::unseen;
}

Cost SteppedSearch::BroadSearch::cost(Cell cell) const {
  return state(cell) == CellState::unseen ? unreached : nodes_[best_state(cell)].cost;
}

Cell SteppedSearch::BroadSearch::parent(Cell cell) const {
  if (state(cell) == CellState::unseen) return cell;
  const Node& node = nodes_[best_state(cell)];
  if (node.back == from_nowhere) return cell;
  const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
  return cell + costs_->tiling().neighbourhood().offset[kind][node.back];
}

/// The cell with the least heuristic among those the search has seen that a test names, first in reading order; the
/// starts count.
template <typename Among>
Cell SteppedSearch::BroadSearch::nearest(Among&& among) const {
  const Size size = costs_->size();
  const auto heuristic = [&](Cell cell) { return goals_.heuristic(cell); };
  const auto known = [&](std::uint32_t index) { return among(size.cell(CellIndex{index})); };
  const ReachedCells<decltype(known)> reached{size, touched_, known};
  Nearest nearest = nearest_reached(size, starts_.front().cell, reached, heuristic);
  for (const Source& start : starts_) nearest.look(start.cell, heuristic(start.cell));
  return nearest.cell();
}

/// What a search of everything the starts can get to would name.
Cell SteppedSearch::BroadSearch::nearest_by_labels() const {
  const Size size = costs_->size();
  Nearest nearest(starts_.front().cell, ~std::uint64_t{0});
  for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
    const auto of_group = [&](const Source& start) { return labels_->at(start.cell) == labels_->at(CellIndex{i}); };
    if (!std::any_of(starts_.begin(), starts_.end(), of_group)) continue;
    nearest.look(size.cell(CellIndex{i}), goals_.heuristic(size.cell(CellIndex{i})));
  }
  return nearest.cell();
}

}  // namespace saunter::inline v0_2
