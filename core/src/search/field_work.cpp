#include "field_work.hpp"

#include <algorithm>

#include "field_search.hpp"
#include "kernel/legal_steps.hpp"
#include "kernel/pack.hpp"
#include "saunter/grid/area.hpp"

namespace saunter::inline v0 {
using namespace detail;
namespace {

constexpr std::uint32_t no_source = 0xFFFFFFFF;
/// Fewer cells than these are never worth starting over for.
constexpr std::size_t few = 64;

void cheapest_first(std::vector<QueuedCell>& waiting) {
  std::sort(waiting.begin(), waiting.end(), [](const auto& a, const auto& b) { return a.cost < b.cost; });
}

}  // namespace

void SteppedField::Work::prepare(const CostGrid& costs, Field& field) {
  costs_ = &costs;
  field_ = &field;
  stamp_ = costs.stamp();
  bound_ = field.options_.budget.value_or(max_cost);
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
  if (sources.data() != field.sources_.data()) field.sources_.assign(sources.begin(), sources.end());
  field.options_ = options;
  field.to_sources_ = to_sources;
  prepare(costs, field);
  begin_anew();
}

void SteppedField::Work::begin_anew() {
  Field& field = *field_;
  const Size size = costs_->size();
  const auto clear = [&](auto& grid, auto value) {
    if (grid.size() != size) grid = std::remove_reference_t<decltype(grid)>(size);
    std::fill(grid.values().begin(), grid.values().end(), value);
  };
  repairs_ = false;
  field.tiling_ = costs_->tiling();
  clear(field.cost_, unreached);
  clear(field.next_, Field::no_direction);
  field.many_sources_ = field.sources_.size() > 1;
  if (field.many_sources_) clear(field.source_, no_source);
  field.reached_ = 0;
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
  const bool own = field.cost_.size() == costs.size() && field.tiling_ == costs.tiling() && !field.overflowed_ &&
                   costs.for_each_change_since(since, [&](Rect block) { seed(block); });
  if (!own || seeds_.size() > few + costs.size().cell_count() / 4) {
    give_up();
    return;
  }
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
    if (on_map && costs_->open(cell)) {
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

/// The directions of the neighbours a cell's cost can rest on.
unsigned SteppedField::Work::supports(Cell cell) const {
  return field_->to_sources_ ? costs_->moves_on_map(cell) : moves_into(*costs_, cell);
}
/// The directions of the neighbours whose cost can rest on a cell's.
unsigned SteppedField::Work::leaners(Cell cell) const {
  return field_->to_sources_ ? moves_into(*costs_, cell) : costs_->moves_on_map(cell);
}
void SteppedField::Work::take_in_hand() {
  known_ = field_->cost_.values().data();
  next_step_ = field_->next_.values().data();
  entries_ = costs_->entries().data();
  steps_.emplace(costs_->board());
  for (unsigned kind = 0; kind < 2; ++kind) {
    for (unsigned d = 0; d < max_directions; ++d) {
      lengths_[kind][d] = costs_->step_length(static_cast<int>(kind), static_cast<int>(d));
    }
  }
}

void SteppedField::Work::start(Part part) {
  take_in_hand();
  part_ = part;
  next_ = 0;
  fed_ = 0;
  cheapest_first(waiting_);
  const bool counts = field_->options_.count_steps;
  queues_.begin(counts ? 100 : std::max<Cost>(1, costs_->lowest_entry()), counts ? 100 : costs_->highest_step());
}

/// Takes cells off the queue while there are any and the call's share lasts. @return whether none is left
template <typename Queue, typename Look>
bool SteppedField::Work::take_cells(Queue& queue, std::uint64_t& cells, Look&& look) {
  FedQueue<Queue> fed(queue, waiting_, fed_);
  while (!fed.empty()) {
    if (cells == 0) return false;
    const QueuedCell taken = fed.dequeue();
    const std::uint32_t index = costs_->size().index(unpack(taken.cell)).value();
    if (known_[index] != taken.cost) continue;
    --cells;
    ++looked_at_;
    look(fed, taken, index);
    if (part_ == Part::none || too_much()) return true;
  }
  return true;
}

/// Whether something that was not lost still adds up to a cell's cost; its next step is set anew then.
bool SteppedField::Work::still_leans(const QueuedCell& taken, std::uint32_t index) {
  const Cell cell = unpack(taken.cell);
  if (!costs_->open(cell)) return false;
  const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
  for (unsigned left = supports(cell); left != 0; left &= left - 1) {
    const auto d = static_cast<unsigned>(std::countr_zero(left));
    const std::uint32_t other = index + steps_->index[kind][d];
    if (known_[other] >= taken.cost || known_[other] + step(kind, d, index, other) != taken.cost) continue;
    next_step_[index] = static_cast<std::uint8_t>(d);
    return true;
  }
  const Source* const source = source_at(index);
  return source != nullptr && source->head_start == taken.cost;
}

/// What a cell leans on costs less, so it has been looked at before: a cell that is still supported stays.
template <typename Queue>
bool SteppedField::Work::lose(Queue& queue, std::uint64_t& cells) {
  const Neighbourhood& hood = costs_->tiling().neighbourhood();
  return take_cells(queue, cells, [&](auto& fed, const QueuedCell& taken, std::uint32_t index) {
    if (still_leans(taken, index)) return;
    const Cell cell = unpack(taken.cell);
    const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
    known_[index] = unreached;
    next_step_[index] = Field::no_direction;
    --field_->reached_;
    lost_.push_back(taken.cell);
    if (!costs_->open(cell)) return;  // those beside it are seeds
    for_each_direction(leaners(cell), [&](unsigned d) {
      const std::uint32_t other = index + steps_->index[kind][d];
      if (next_step_[other] != hood.opposite[kind][d]) return;
      const Cost known = known_[other];
      // One whose step costs another now is a seed, and waits already.
      if (known == std::uint64_t{taken.cost} + step(kind, d, other, index)) {
        fed.enqueue({taken.cell + steps_->packed[kind][d], known});
      }
    });
  });
}

SteppedField::Work::Offer SteppedField::Work::best_offer(Cell cell, std::uint32_t index) {
  const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
  Offer best;
  for_each_direction(supports(cell), [&](unsigned d) {
    const std::uint32_t other = index + steps_->index[kind][d];
    if (known_[other] == unreached) return;
    const std::uint64_t cost = std::uint64_t{known_[other]} + step(kind, d, index, other);
    if (cost > bound_) {
      beyond_ = true;
    } else if (cost < best.cost) {
      best = {cost, static_cast<std::uint8_t>(d)};
    }
  });
  const Source* const source = source_at(index);
  if (source != nullptr && source->head_start <= bound_ && source->head_start <= best.cost) {
    best = {source->head_start, Field::no_direction};
  }
  return best;
}

bool SteppedField::Work::pull(std::uint64_t& cells) {
  const std::size_t count = seeds_.size() + lost_.size();
  for (; next_ < count; ++next_) {
    if (cells == 0) return false;
    --cells;
    ++looked_at_;
    const std::uint32_t packed = next_ < seeds_.size() ? seeds_[next_] : lost_[next_ - seeds_.size()];
    const Cell cell = unpack(packed);
    if (!costs_->open(cell)) continue;
    const std::uint32_t index = costs_->size().index(cell).value();
    const Offer best = best_offer(cell, index);
    if (best.cost >= known_[index]) continue;
    if (known_[index] == unreached) ++field_->reached_;
    known_[index] = static_cast<Cost>(best.cost);
    next_step_[index] = best.direction;
    waiting_.push_back({packed, known_[index]});
  }
  return true;
}

template <typename Queue>
bool SteppedField::Work::settle(Queue& queue, std::uint64_t& cells) {
  const Neighbourhood& hood = costs_->tiling().neighbourhood();
  const bool keeps_list = repairs_ || field_->many_sources_;
  return take_cells(queue, cells, [&](auto& fed, const QueuedCell& taken, std::uint32_t index) {
    const Cell cell = unpack(taken.cell);
    const auto kind = static_cast<unsigned>(costs_->tiling().kind(cell));
    settled_ = std::max(settled_, taken.cost);
    if (keeps_list) touched_.push_back(taken.cell);
    for_each_direction(leaners(cell), [&](unsigned d) {
      const std::uint32_t other = index + steps_->index[kind][d];
      const std::uint64_t cost = std::uint64_t{taken.cost} + step(kind, d, other, index);
      const std::uint8_t back = hood.opposite[kind][d];
      if (cost > known_[other]) return;
      if (cost > bound_) {
        beyond_ = true;
        return;
      }
      if (cost == known_[other]) {
        next_step_[other] = std::min(next_step_[other], back);
        return;
      }
      if (known_[other] == unreached) ++field_->reached_;
      known_[other] = static_cast<Cost>(cost);
      next_step_[other] = back;
      fed.enqueue({taken.cell + steps_->packed[kind][d], static_cast<Cost>(cost)});
    });
  });
}

/// All whose number may be another: what changed, and what leans on it.
void SteppedField::Work::begin_naming() {
  Field& field = *field_;
  const Neighbourhood& hood = field.tiling_.neighbourhood();
  waiting_.clear();
  const auto look_at = [&](Cell cell) {
    const Cost known = field.cost_[cell];
    if (known == unreached) {
      field.source_[cell] = no_source;
    } else {
      waiting_.push_back({pack(cell), known});
    }
  };
  for (const auto* const list : {&seeds_, &lost_, &touched_}) {
    for (const std::uint32_t packed : *list) {
      const Cell cell = unpack(packed);
      look_at(cell);
      if (!repairs_ || !costs_->open(cell)) continue;
      const auto kind = static_cast<unsigned>(field.tiling_.kind(cell));
      for_each_direction(leaners(cell), [&](unsigned d) { look_at(cell + hood.offset[kind][d]); });
    }
  }
  start(Part::name);
}

template <typename Queue>
bool SteppedField::Work::name(Queue& queue, std::uint64_t& cells) {
  Field& field = *field_;
  const Neighbourhood& hood = field.tiling_.neighbourhood();
  return take_cells(queue, cells, [&](auto& fed, const QueuedCell& taken, std::uint32_t index) {
    const Cell cell = unpack(taken.cell);
    const auto kind = static_cast<unsigned>(field.tiling_.kind(cell));
    const Source* const source = source_at(index);
    std::uint32_t lowest = source != nullptr && source->head_start == taken.cost
                               ? static_cast<std::uint32_t>(source - field.sources_.data())
                               : no_source;
    for_each_direction(supports(cell), [&](unsigned d) {
      const std::uint32_t other = field.cost_.size().index(cell + hood.offset[kind][d]).value();
      const std::uint64_t known = field.cost_[CellIndex{other}];
      if (known + step(kind, d, index, other) == taken.cost) lowest = std::min(lowest, field.source_[CellIndex{other}]);
    });
    if (field.source_[CellIndex{index}] == lowest) return;
    field.source_[CellIndex{index}] = lowest;
    for_each_direction(leaners(cell), [&](unsigned d) {
      const Cell leaner = cell + hood.offset[kind][d];
      const std::uint32_t other = field.cost_.size().index(leaner).value();
      const Cost known = field.cost_[CellIndex{other}];
      if (known == std::uint64_t{taken.cost} + step(kind, d, other, index)) fed.enqueue({pack(leaner), known});
    });
  });
}

bool SteppedField::Work::run(std::uint64_t cells) {
  while (part_ != Part::none && !stale()) {
    const bool whole = queues_.go_on([&](auto& queue) {
      switch (part_) {
        case Part::lose: return lose(queue, cells);
        case Part::pull: return pull(cells);
        case Part::settle: return settle(queue, cells);
        case Part::name: return name(queue, cells);
        case Part::none: break;
      }
      return true;
    });
    if (!whole) return false;
    end_part();
  }
  return true;
}

void SteppedField::Work::end_part() {
  if (too_much() && part_ != Part::name) {
    give_up();
    return;
  }
  switch (part_) {
    case Part::lose:
      waiting_.clear();
      next_ = 0;
      part_ = Part::pull;
      break;
    case Part::pull: start(Part::settle); break;
    case Part::settle:
      if (field_->many_sources_) {
        begin_naming();
        break;
      }
      [[fallthrough]];
    case Part::name:
    case Part::none: finish(); break;
  }
}

void SteppedField::Work::give_up() {
  gave_up_ = true;
  part_ = Part::none;
  if (makes_anew) begin_anew();
}

void SteppedField::Work::finish() {
  Field& field = *field_;
  for (const Place& place : places_) {  // its own best, even where a way past another is as good
    const Source& source = field.sources_[place.number];
    if (field.cost_[source.cell] == source.head_start) field.next_[source.cell] = Field::no_direction;
  }
  part_ = Part::none;
  const bool overflows = beyond_ && !field.options_.budget;
  if (overflows && repairs_) {
    give_up();
    return;
  }
  field.overflowed_ = overflows && leaves_cells_out(*costs_, field.cost_, field.to_sources_);
  field.stamp_ = stamp_;
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

}  // namespace saunter::inline v0
