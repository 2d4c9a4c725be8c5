#include "look_up.hpp"

#include <algorithm>

#include "scratch.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

Cost Searcher::LookUp::cost(Cell from, Cell to) {
  Scratch& scratch = *searcher_.scratch_;
  scratch.look_up.reading = false;
  scratch.look_up.by_index =
      costs_.open(from) && costs_.open(to) && scratch.route.prepared.find(prepared_, costs_, from, to);
  if (scratch.look_up.by_index) return scratch.route.prepared.cost();
  const Route& route = searcher_.route(costs_, from, to);
  return route.found() ? route.cost() : unreached;
}

Cost Searcher::LookUp::begin_legs(Cell from, Cell to) {
  Scratch& scratch = *searcher_.scratch_;
  const Cost least = cost(from, to);
  if (scratch.look_up.by_index) scratch.route.prepared.begin_legs();
  scratch.look_up.straight.begin(costs_.tiling());
  scratch.look_up.keeper = PreparedAccess::keeper(prepared_);
  scratch.look_up.reading = true;
  return least;
}

/// What a goal's half of a question comes to is worked out once for all starts, while nothing has changed since the map
/// was prepared.
void Searcher::LookUp::table(std::span<const Cell> from, std::span<const Cell> goals, std::span<Cost> out) {
  SAUNTER_EXPECT(out.size() >= from.size() * goals.size());
  Scratch& scratch = *searcher_.scratch_;
  scratch.look_up.reading = false;
  const PreparedMap* const map = PreparedAnswer::unchanged(prepared_, costs_);
  PreparedWays& ways = scratch.route.prepared.ways();
  std::vector<PreparedGoal>& halves = scratch.look_up.goals;
  if (map != nullptr) {
    if (halves.size() < goals.size()) halves.resize(goals.size());
    for (std::size_t i = 0; i < goals.size(); ++i) {
      if (costs_.open(goals[i])) ways.prepare_goal(*map, goals[i], halves[i]);
    }
  }
  std::size_t next = 0;
  for (const Cell start : from) {
    const bool looks_up = map != nullptr && costs_.open(start);
    if (looks_up) ways.begin_from(*map, start);
    for (std::size_t i = 0; i < goals.size() && next < out.size(); ++i, ++next) {
      std::uint64_t cost = unreached;
      if (looks_up && costs_.open(goals[i])) cost = ways.least_to(*map, halves[i]);
      const bool told = looks_up && (!costs_.open(goals[i]) || cost <= max_cost);
      out[next] = told ? static_cast<Cost>(cost) : this->cost(start, goals[i]);
      if (looks_up && !told) ways.begin_from(*map, start);  // that was another question
    }
  }
}

void Searcher::LookUp::nearest(Cell from, std::span<const Cell> goals, std::size_t most, std::vector<NearGoal>& out) {
  std::vector<Cost>& row = searcher_.scratch_->look_up.row;
  row.assign(goals.size(), unreached);
  table(std::span(&from, 1), goals, row);
  out.clear();
  for (std::size_t i = 0; i < goals.size(); ++i) {
    if (row[i] != unreached) out.push_back({i, row[i]});
  }
  const auto before = [](const NearGoal& a, const NearGoal& b) {
    return a.cost != b.cost ? a.cost < b.cost : a.goal < b.goal;
  };
  const auto kept = static_cast<std::ptrdiff_t>(std::min(most, out.size()));
  std::partial_sort(out.begin(), out.begin() + kept, out.end(), before);
  out.resize(static_cast<std::size_t>(kept));
}

}  // namespace saunter::inline v0_2
