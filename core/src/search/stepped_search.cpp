#include "saunter/search/stepped_search.hpp"

#include "broad_search.hpp"

namespace saunter {

struct SteppedSearch::Work {
  BroadSearch search;
  Route route;
  std::uint64_t revision = 0;
  bool written = false;
};

SteppedSearch::SteppedSearch() : work_(std::make_unique<Work>()) {}
SteppedSearch::~SteppedSearch() = default;
SteppedSearch::SteppedSearch(SteppedSearch&&) noexcept = default;
SteppedSearch& SteppedSearch::operator=(SteppedSearch&&) noexcept = default;

void SteppedSearch::begin(const CostGrid& costs, const Query& query, const RouteOptions& options) {
  expect_sound(options);
  work_->revision = costs.revision();
  work_->search.begin(costs, query, options);
  if (work_->search.ended()) work_->search.write(work_->route);
}

void SteppedSearch::begin(const CostGrid& costs, Cell from, Cell to, const RouteOptions& options) {
  const Source start{from};
  begin(costs, {.starts = std::span(&start, 1), .goals = std::span(&to, 1)}, options);
}

bool SteppedSearch::run(std::uint64_t places) {
  SAUNTER_EXPECT(!stale());
  if (ended()) return true;
  const bool now_ended = work_->search.run(places);
  if (now_ended) work_->search.write(work_->route);
  return now_ended;
}

bool SteppedSearch::ended() const { return work_->search.ended(); }
bool SteppedSearch::stale() const { return work_->search.costs().revision() != work_->revision; }

const Route& SteppedSearch::route() const {
  SAUNTER_EXPECT(ended());
  return work_->route;
}

CellState SteppedSearch::state(Cell cell) const { return work_->search.state(cell); }
Cost SteppedSearch::cost(Cell cell) const {
  SAUNTER_EXPECT(state(cell) != CellState::unseen);
  return work_->search.cost(cell);
}
Cell SteppedSearch::parent(Cell cell) const {
  SAUNTER_EXPECT(state(cell) != CellState::unseen);
  return work_->search.parent(cell);
}
std::uint64_t SteppedSearch::estimate(Cell cell) const { return work_->search.estimate(cell); }
std::uint64_t SteppedSearch::expanded() const { return work_->search.expanded(); }

}  // namespace saunter
