#include "saunter/search/searcher.hpp"

#include "broad_search.hpp"
#include "field_search.hpp"
#include "route_search.hpp"

namespace saunter::inline v0 {
using namespace detail;

struct Searcher::Scratch {
  RouteScratch route;
  SteppedSearch::BroadSearch broad;
  FieldScratch field;
};

Searcher::Searcher() : scratch_(std::make_unique<Scratch>()) {}
Searcher::~Searcher() = default;
Searcher::Searcher(Searcher&&) noexcept = default;
Searcher& Searcher::operator=(Searcher&&) noexcept = default;

const Route& Searcher::route(const CostGrid& costs, Cell from, Cell to, const RouteOptions& options) & {
  const RouteOptions sound = made_sound(options, costs.tiling());
  const Source start{from};
  const Query query{.starts = std::span(&start, 1), .goals = std::span(&to, 1)};
  const bool plain = sound.by != Algorithm::dead_ends && sound.changes.empty() && !sound.or_nearest &&
                     RouteSearch::suits(query, sound);
  if (!plain) return route(costs, query, sound);
  route_.restart(sound.by);  // not-asked, should an exception cut the search short
  RouteSearch(scratch_->route, route_, costs, sound).run(from, to);
  return route_;
}

const Route& Searcher::route(const CostGrid& costs, const Query& query, const RouteOptions& options) & {
  const RouteOptions sound = made_sound(options, costs.tiling());
  route_.restart(sound.by);
  if (RouteSearch::suits(query, sound) && RouteSearch(scratch_->route, route_, costs, sound).run(query)) return route_;
  SteppedSearch::BroadSearch& search = scratch_->broad;
  search.begin(costs, query, sound);
  search.run(std::numeric_limits<std::uint64_t>::max());
  search.write(route_);
  return route_;
}

std::size_t Searcher::memory() const {
  return scratch_->route.memory() + scratch_->broad.memory() + scratch_->field.memory() + bytes_of(route_.cells_);
}

void Searcher::field_to(const CostGrid& costs, std::span<const Source> goals, Field& out, const FieldOptions& options) {
  FieldSearch(scratch_->field, out, costs, Travel::to_sources).run(goals, options);
}

Field Searcher::field_to(const CostGrid& costs, std::span<const Source> goals, const FieldOptions& options) {
  Field field;
  field_to(costs, goals, field, options);
  return field;
}

void Searcher::reach(const CostGrid& costs, std::span<const Source> starts, Field& out, const FieldOptions& options) {
  FieldSearch(scratch_->field, out, costs, Travel::from_sources).run(starts, options);
}

Field Searcher::reach(const CostGrid& costs, Cell start, const FieldOptions& options) {
  Field field;
  const Source source{start};
  reach(costs, std::span(&source, 1), field, options);
  return field;
}

}  // namespace saunter::inline v0
