#include "saunter/search/searcher.hpp"

#include "broad_search.hpp"
#include "field_search.hpp"
#include "route_search.hpp"

namespace saunter {

struct Searcher::Scratch {
  detail::RouteScratch route;
  BroadSearch broad;
  detail::FieldScratch field;
};

Searcher::Searcher() : scratch_(std::make_unique<Scratch>()) {}
Searcher::~Searcher() = default;
Searcher::Searcher(Searcher&&) noexcept = default;
Searcher& Searcher::operator=(Searcher&&) noexcept = default;

const Route& Searcher::route(const CostGrid& costs, Cell from, Cell to, const RouteOptions& wanted) & {
  const RouteOptions options = made_sound(wanted, costs.tiling());
  const Source start{from};
  const Query query{.starts = std::span(&start, 1), .goals = std::span(&to, 1)};
  const bool plain = options.changes.empty() && !options.or_nearest && RouteSearch::suits(query, options);
  if (!plain) return route(costs, query, options);
  route_.restart(options.by);  // not-asked, should an exception cut the search short
  RouteSearch(scratch_->route, route_, costs, options).run(from, to);
  return route_;
}

const Route& Searcher::route(const CostGrid& costs, const Query& query, const RouteOptions& wanted) & {
  const RouteOptions options = made_sound(wanted, costs.tiling());
  route_.restart(options.by);
  if (RouteSearch::suits(query, options) && RouteSearch(scratch_->route, route_, costs, options).run(query))
    return route_;
  BroadSearch& search = scratch_->broad;
  search.begin(costs, query, options);
  search.run(std::numeric_limits<std::uint64_t>::max());
  search.write(route_);
  return route_;
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

}  // namespace saunter
