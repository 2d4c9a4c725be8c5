// How work on a field begins, and its face.
#include "saunter/search/stepped_field.hpp"

#include <algorithm>

#include "field_search.hpp"
#include "field_work.hpp"
#include "kernel/legal_steps.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

/// Fewer cells than these are never worth starting over for.
constexpr std::size_t few = 64;

}  // namespace

void SteppedField::Work::prepare(const CostGrid& costs, Field& field) {
  costs_ = &costs;
  field_ = &field;
  stamp_ = costs.stamp();
  bound_ = field.budget_.value_or(Hundredths(max_cost));
  wanted_ = bound_;
  ground_.begin(costs, field.sources_, field.options());
  limited_ = ground_.limited();
  gave_up_ = false;
  beyond_ = false;
  settled_ = 0;
  looked_at_ = 0;
  waiting_.clear();
  seeds_.clear();
  lost_.clear();
  touched_.clear();
  list_sources();
}

void SteppedField::Work::begin(const CostGrid& costs, std::span<const Source> sources, Field& field,
                               const FieldOptions& options, bool to_sources) {
  part_ = Part::none;
  field.stamp_ = {};
  field.keep(sources, options, to_sources);
  prepare(costs, field);
  begin_anew();
}

void SteppedField::Work::begin_anew() {
  Field& field = *field_;
  repairs_ = false;
  wanted_ = bound_;
  ground_.begin_waiting();
  field.clear(*costs_, within_bound(*costs_, ground_, field));
  beyond_ = false;
  waiting_.clear();
  seeds_.clear();
  lost_.clear();
  touched_.clear();
  for (const Place& place : places_) {
    const Source& source = field.sources_[place.number];
    if (source.head_start > bound_) continue;
    field.cost_[source.cell] = source.head_start;
    ++field.reached_;
    waiting_.push_back({pack(source.cell), source.head_start});
  }
  start(Part::settle);
}

void SteppedField::Work::begin_repair(const CostGrid& costs, Field& field) {
  part_ = Part::none;
  const Stamp since = field.stamp_;
  field.stamp_ = {};
  prepare(costs, field);
  repairs_ = true;
  // One that ended with the cells it waited for may have been cut short, also where none of them can be waited for now.
  const bool own = !limited_ && field.until_.empty() && field.cost_.size() == costs.size() &&
                   field.tiling_ == costs.tiling() && !field.overflowed_ &&
                   costs.for_each_change_since(since, [&](Rect block) { seed(block); });
  if (!own || seeds_.size() > few + costs.size().cell_count() / 4) {
    give_up();
    return;
  }
  field.known_ = field.known_.joined(within_bound(costs, ground_, field));
  if (field.many_sources_) field.named_ = field.known_;
  std::sort(seeds_.begin(), seeds_.end());
  seeds_.erase(std::unique(seeds_.begin(), seeds_.end()), seeds_.end());
  for (const std::uint32_t cell : seeds_) {
    const Cost known = field.cost_[unpack(cell)];
    if (known != unreached) waiting_.push_back({cell, known});
  }
  start(Part::lose);
  // A cell that is lost costs about four times what making it anew does (docs/performance.md).
  const std::size_t sixth = few + field.reached_ / 6;
  most_lost_ = resting_on_seeds(sixth) < sixth ? field.reached_ : few + field.reached_ / 16;
}

/// How many cells lead over seeds that have lost their own way, counted up to a limit: at most so many can be lost.
std::size_t SteppedField::Work::resting_on_seeds(std::size_t limit) {
  const Neighbourhood& hood = costs_->tiling().neighbourhood();
  std::vector<std::uint32_t>& open = touched_;
  for (const QueuedCell& seed : waiting_) {
    const Cell cell = unpack(seed.cell);
    const std::uint32_t index = costs_->size().index(cell).value();
    const unsigned d = next_step_[index];
    const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
    const bool leads = d != Field::no_direction && (supports(cell) >> d & 1U) != 0;
    const std::uint32_t other = leads ? index + steps_->index[kind][d] : index;
    if (!leads || known_[other] + std::uint64_t{step(kind, d, index, other)} != seed.cost) open.push_back(seed.cell);
  }
  std::size_t count = 0;
  for (; !open.empty() && count < limit; ++count) {
    const Cell cell = unpack(open.back());
    open.pop_back();
    const std::uint32_t index = costs_->size().index(cell).value();
    const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
    for_each_direction(leaners(cell), [&](unsigned d) {
      if (next_step_[index + steps_->index[kind][d]] != hood.opposite[kind][d]) return;
      open.push_back(pack(cell) + steps_->packed[kind][d]);
    });
  }
  open.clear();
  return count;
}

/// Whether making the field anew has become cheaper than going on.
bool SteppedField::Work::too_much() const {
  return repairs_ && (lost_.size() > most_lost_ || touched_.size() > lost_.size() + few + field_->reached_ / 16);
}

/// Cells whose own steps, or those into them, may have become others: steps look two columns far on triangles.
void SteppedField::Work::seed(Rect block) {
  const std::int32_t reach = costs_->tiling().shape() == Shape::triangle ? 2 : 1;
  const Rect all = block.grown(reach, costs_->size());
  if (seeds_.size() > costs_->size().cell_count() / 4 + few) return;
  if (all.cell_count() > costs_->size().cell_count() / 2 + few) {  // too many to list: made anew
    seeds_.resize(costs_->size().cell_count() / 4 + few + 1);
    return;
  }
  for (const Cell cell : all.cells()) seeds_.push_back(pack(cell));
}

void SteppedField::Work::list_sources() {
  Field& field = *field_;
  places_.clear();
  field.unused_.clear();
  for (std::size_t number = 0; number < field.sources_.size(); ++number) {
    const Cell cell = field.sources_[number].cell;
    const bool on_map = costs_->size().contains(cell);
    if (on_map && ground_.open(cell)) {
      places_.push_back({costs_->size().index(cell).value(), static_cast<std::uint32_t>(number)});
      continue;
    }
    const Reason reason = on_map ? (field.to_sources_ ? Reason::goal_blocked : Reason::start_blocked)
                                 : (field.to_sources_ ? Reason::goal_off_map : Reason::start_off_map);
    field.unused_.push_back({number, {reason, cell}});
  }
  std::sort(places_.begin(), places_.end(), [&](const Place& a, const Place& b) {
    if (a.index != b.index) return a.index < b.index;
    const Cost first = field.sources_[a.number].head_start;
    const Cost second = field.sources_[b.number].head_start;
    return first != second ? first < second : a.number < b.number;
  });
  const auto same = [](const Place& a, const Place& b) { return a.index == b.index; };
  places_.erase(std::unique(places_.begin(), places_.end(), same), places_.end());
}

const Source* SteppedField::Work::source_at(std::uint32_t index) const {
  const auto found = std::lower_bound(places_.begin(), places_.end(), index,
                                      [](const Place& place, std::uint32_t wanted) { return place.index < wanted; });
  return found == places_.end() || found->index != index ? nullptr : &field_->sources_[found->number];
}

std::size_t SteppedField::Work::memory() const {
  return queues_.memory() + bytes_of(waiting_, seeds_, lost_, touched_, places_);
}

SteppedField::SteppedField() : work_(std::make_unique<Work>()) {}
SteppedField::~SteppedField() = default;
SteppedField::SteppedField(SteppedField&&) noexcept = default;
SteppedField& SteppedField::operator=(SteppedField&&) noexcept = default;

void SteppedField::begin_field_to(const CostGrid& costs, std::span<const Source> goals, Field& out,
                                  const FieldOptions& options) {
  work_->begin(costs, goals, out, options, true);
}
void SteppedField::begin_reach(const CostGrid& costs, std::span<const Source> starts, Field& out,
                               const FieldOptions& options) {
  work_->begin(costs, starts, out, options, false);
}
void SteppedField::begin_repair(const CostGrid& costs, Field& field) { work_->begin_repair(costs, field); }
bool SteppedField::run(std::uint64_t cells) { return work_->run(cells); }
bool SteppedField::ended() const { return work_->ended(); }
bool SteppedField::stale() const { return work_->stale(); }
std::uint64_t SteppedField::looked_at() const { return work_->looked_at(); }
Cost SteppedField::settled() const { return work_->settled(); }
std::size_t SteppedField::memory() const { return work_->memory(); }

}  // namespace saunter::inline v0_2
