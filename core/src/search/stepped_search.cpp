#include "saunter/search/stepped_search.hpp"

#include "broad_search.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

struct SteppedSearch::Work {
  BroadSearch search;
  Route route;
  Stamp stamp;
  bool whole = false;  // begun, and no exception since
};

SteppedSearch::SteppedSearch() : work_(std::make_unique<Work>()) {}
SteppedSearch::~SteppedSearch() = default;
SteppedSearch::SteppedSearch(SteppedSearch&&) noexcept = default;
SteppedSearch& SteppedSearch::operator=(SteppedSearch&&) noexcept = default;

void SteppedSearch::begin(const CostGrid& costs, const Query& query, const RouteOptions& options) {
  work_->whole = false;
  work_->route = {};
  work_->stamp = costs.stamp();
  work_->search.begin(costs, query, made_sound(options, costs.tiling()));
  if (work_->search.ended()) work_->search.write(work_->route);
  work_->whole = true;
}

void SteppedSearch::begin(const CostGrid& costs, Cell from, Cell to, const RouteOptions& options) {
  const Source start{from};
  begin(costs, {.starts = std::span(&start, 1), .goals = std::span(&to, 1)}, options);
}

bool SteppedSearch::run(std::uint64_t states) {
  if (ended()) return true;
  SAUNTER_EXPECT(!stale());
  if (stale()) return true;
  work_->whole = false;
  const bool now_ended = work_->search.run(states);
  if (now_ended) work_->search.write(work_->route);
  work_->whole = true;
  return now_ended;
}

bool SteppedSearch::ended() const { return work_->whole && work_->search.ended(); }
bool SteppedSearch::stale() const { return !work_->whole || !work_->search.costs()->stamp().same(work_->stamp); }

const Route& SteppedSearch::route() const { return work_->route; }

void SteppedSearch::best_so_far(std::vector<Cell>& out) const {
  out.clear();
  if (!stale()) work_->search.write_best_so_far(out);
}

CellState SteppedSearch::state(Cell cell) const { return work_->search.state(cell); }
Cost SteppedSearch::cost(Cell cell) const { return work_->search.cost(cell); }
Cell SteppedSearch::parent(Cell cell) const { return work_->search.parent(cell); }
std::uint64_t SteppedSearch::estimate(Cell cell) const { return work_->search.estimate(cell); }
std::uint64_t SteppedSearch::expanded() const { return work_->search.expanded(); }

}  // namespace saunter::inline v0_2
