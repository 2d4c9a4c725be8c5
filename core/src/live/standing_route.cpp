#include "saunter/live/standing_route.hpp"

#include "standing_search.hpp"

namespace saunter::inline v0_2 {

std::string_view standing_name(Standing standing) {
  switch (standing) {
    case Standing::holds: return "holds";
    case Standing::better: return "better";
    case Standing::broken: return "broken";
  }
  return "";
}

StandingRoute::StandingRoute() : search_(std::make_unique<Search>()) {}
StandingRoute::~StandingRoute() = default;
StandingRoute::StandingRoute(StandingRoute&&) noexcept = default;
StandingRoute& StandingRoute::operator=(StandingRoute&&) noexcept = default;

void StandingRoute::begin_stepped(const CostGrid& costs, Cell from, Cell to) { search_->begin(costs, from, to); }
const RouteReport& StandingRoute::begin(const CostGrid& costs, Cell from, Cell to) & {
  begin_stepped(costs, from, to);
  run(std::numeric_limits<std::uint64_t>::max());
  return report();
}
void StandingRoute::stand_at(Cell cell) { search_->stand_at(cell); }
bool StandingRoute::notice(const CostGrid& costs) { return search_->notice(costs); }
bool StandingRoute::run(std::uint64_t places) { return search_->run(places); }
const RouteReport& StandingRoute::follow(const CostGrid& costs) & {
  if (!notice(costs)) run(std::numeric_limits<std::uint64_t>::max());
  return report();
}
bool StandingRoute::ended() const { return search_->ended(); }
const RouteReport& StandingRoute::report() const& { return search_->report; }
Reason StandingRoute::reason() const { return search_->reason; }
std::span<const Cell> StandingRoute::cells() const& { return search_->rest(); }
Cell StandingRoute::cell() const { return search_->from; }
Cell StandingRoute::goal() const { return search_->to; }
std::uint64_t StandingRoute::expanded() const { return search_->expanded; }
std::size_t StandingRoute::memory() const { return search_->memory(); }

}  // namespace saunter::inline v0_2
