#include "saunter/search/searcher.hpp"

#include "scratch.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

Searcher::Searcher() : scratch_(std::make_unique<Scratch>()) {}
Searcher::~Searcher() = default;
Searcher::Searcher(Searcher&&) noexcept = default;
Searcher& Searcher::operator=(Searcher&&) noexcept = default;

const Route& Searcher::route(const CostGrid& costs, Cell from, Cell to, const RouteOptions& options) & {
  scratch_->look_up.reading = false;
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
  scratch_->look_up.reading = false;
  const RouteOptions sound = made_sound(options, costs.tiling());
  route_.restart(sound.by);
  if (RouteSearch::suits(query, sound) && RouteSearch(scratch_->route, route_, costs, sound).run(query)) return route_;
  SteppedSearch::BroadSearch& search = scratch_->broad;
  search.begin(costs, query, sound);
  search.run(std::numeric_limits<std::uint64_t>::max());
  search.write(route_);
  return route_;
}

Cost Searcher::cost(const CostGrid& costs, Cell from, Cell to, const Prepared& prepared) {
  return LookUp(*this, costs, prepared).cost(from, to);
}

Cost Searcher::begin_legs(const CostGrid& costs, Cell from, Cell to, const Prepared& prepared) {
  return LookUp(*this, costs, prepared).begin_legs(from, to);
}

std::optional<Leg> Searcher::next_leg() {
  if (!scratch_->look_up.reading) return std::nullopt;
  if (scratch_->look_up.by_index) return scratch_->route.prepared.next_leg();
  return scratch_->look_up.straight.next(route_.cells());
}

void Searcher::cost_table(const CostGrid& costs, std::span<const Cell> from, std::span<const Cell> goals,
                          std::span<Cost> out, const Prepared& prepared) {
  LookUp(*this, costs, prepared).table(from, goals, out);
}

void Searcher::nearest_goals(const CostGrid& costs, Cell from, std::span<const Cell> goals, std::size_t most,
                             std::vector<NearGoal>& out, const Prepared& prepared) {
  LookUp(*this, costs, prepared).nearest(from, goals, most, out);
}

std::size_t Searcher::memory() const {
  return scratch_->route.memory() + scratch_->broad.memory() + scratch_->field.memory() + scratch_->repair.memory() +
         scratch_->look_up.memory() + bytes_of(route_.cells_);
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

std::size_t Searcher::repair(const CostGrid& costs, Field& field) {
  SteppedField::Work& work = scratch_->repair;
  work.makes_anew = false;
  work.begin_repair(costs, field);
  work.run(std::numeric_limits<std::uint64_t>::max());
  if (!work.gave_up()) return static_cast<std::size_t>(work.looked_at());
  FieldSearch(scratch_->field, field, costs, field.to_sources_ ? Travel::to_sources : Travel::from_sources)
      .run(field.sources_, field.options());
  return static_cast<std::size_t>(work.looked_at()) + field.reached_;
}

}  // namespace saunter::inline v0_2
