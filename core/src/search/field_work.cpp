#include "field_work.hpp"

#include <algorithm>

#include "field_search.hpp"
#include "kernel/legal_steps.hpp"
#include "kernel/pack.hpp"
#include "saunter/grid/area.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

void cheapest_first(std::vector<QueuedCell>& waiting) {
  std::sort(waiting.begin(), waiting.end(), [](const auto& a, const auto& b) { return a.cost < b.cost; });
}

}  // namespace

/// The directions of the neighbours a cell's cost can rest on.
unsigned SteppedField::Work::supports(Cell cell) const {
  if (!limited_) return field_->to_sources_ ? costs_->moves_on_map(cell) : moves_into(*costs_, cell);
  unsigned among = field_->to_sources_ ? ground_.leaving(cell) : ground_.arriving(cell);
  const auto& offsets = costs_->tiling().neighbourhood().offset[static_cast<unsigned>(costs_->tiling().kind(cell))];
  for_each_direction(among, [&](unsigned d) {
    if (ground_.is_stop(cell + offsets[d])) among &= ~(1U << d);
  });
  return among;
}
/// The directions of the neighbours whose cost can rest on a cell's.
unsigned SteppedField::Work::leaners(Cell cell) const {
  if (limited_) {
    if (ground_.is_stop(cell)) return 0;
    return field_->to_sources_ ? ground_.arriving(cell) : ground_.leaving(cell);
  }
  return field_->to_sources_ ? moves_into(*costs_, cell) : costs_->moves_on_map(cell);
}
void SteppedField::Work::take_in_hand() {
  known_ = field_->cost_.values().data();
  next_step_ = field_->next_.values().data();
  entries_ = costs_->entries().data();
  steps_.emplace(costs_->board());
  lengths_ = lengths_of(*costs_);
}

void SteppedField::Work::start(Part part) {
  take_in_hand();
  part_ = part;
  next_ = 0;
  fed_ = 0;
  cheapest_first(waiting_);
  const bool counts = field_->count_steps_;
  queues_.begin(counts ? 100 : std::max<Cost>(1, ground_.lowest_entry()), counts ? 100 : ground_.highest_step());
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
    if (taken.cost > wanted_) return;
    settled_ = std::max(settled_, taken.cost);
    if (limited_ && ground_.settles(cell, taken.cost)) wanted_ = std::min(wanted_, ground_.farthest());
    if (keeps_list) touched_.push_back(taken.cell);
    for_each_direction(leaners(cell), [&](unsigned d) {
      const std::uint32_t other = index + steps_->index[kind][d];
      const std::uint64_t cost = std::uint64_t{taken.cost} + step(kind, d, other, index);
      const std::uint8_t back = hood.opposite[kind][d];
      if (cost > known_[other]) return;
      if (cost > wanted_) {
        beyond_ = beyond_ || cost > bound_;
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
      if (wanted_ < bound_) field_->forget_beyond(wanted_);
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
  const bool overflows = beyond_ && !field.budget_;
  if (overflows && repairs_) {
    give_up();
    return;
  }
  field.overflowed_ = overflows && leaves_cells_out(*costs_, ground_, field.cost_, field.to_sources_);
  field.stamp_ = stamp_;
}

}  // namespace saunter::inline v0_2
