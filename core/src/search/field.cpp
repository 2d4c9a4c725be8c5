#include "saunter/search/field.hpp"

#include <algorithm>
#include <bit>

#include "field_search.hpp"

namespace saunter {
namespace {

constexpr std::uint32_t no_source = 0xFFFFFFFF;

template <typename T>
void reset(Grid<T>& grid, Size size, T value) {
  if (grid.size() != size) {
    grid = Grid<T>(size, value);
  } else {
    std::fill(grid.values().begin(), grid.values().end(), value);
  }
}

}  // namespace

void Field::way(Cell from, std::vector<Cell>& out) const {
  out.clear();
  if (!reached(from)) return;
  out.push_back(from);
  for (auto step = next(from); step; step = next(*step)) out.push_back(*step);
}

void FieldSearch::run(std::span<const Source> sources, const FieldOptions& options) {
  budgeted_ = options.budget.has_value();
  bound_ = options.budget.value_or(max_cost);
  prepare();
  for (std::size_t number = 0; number < sources.size(); ++number) add_source(sources[number], number);
  auto& waiting = scratch_.waiting;
  std::sort(waiting.begin(), waiting.end(), [](const auto& a, const auto& b) { return a.cost < b.cost; });
  BucketQueue& queue = scratch_.queue;
  queue.begin(std::max<Cost>(1, costs_.cheapest()), costs_.dearest_step());
  // Late sources enter when they come within the ring's reach.
  for (std::size_t next = 0; next < waiting.size() || !queue.empty();) {
    if (queue.empty()) queue.start_at(waiting[next].cost);
    while (next < waiting.size() && queue.fits(waiting[next].cost)) queue.push(waiting[next++]);
    const BucketQueue::Entry first = queue.pop();
    const Cell cell = unpack(first.cell);
    if (field_.cost_[cell] != first.cost) continue;  // an older, dearer entry
    scratch_.order.push_back(first.cell);
    relax_around(cell, first.cost);
  }
  field_.reached_ = scratch_.order.size();
  field_.overflowed_ = overflow_seen_ && leaves_cells_out();
  tell_directions(sources);
}

void FieldSearch::prepare() {
  field_.board_ = costs_.board();
  reset(field_.cost_, costs_.size(), unreached);
  reset(field_.next_, costs_.size(), Field::no_direction);
  reset(field_.source_, costs_.size(), no_source);
  field_.overflowed_ = false;
  field_.unused_.clear();
  scratch_.waiting.clear();
  scratch_.order.clear();
}

void FieldSearch::add_source(const Source& source, std::size_t number) {
  const bool on_map = costs_.size().contains(source.cell);
  if (!on_map || !costs_.open(source.cell)) {
    const bool goals = travel_ == Travel::to_sources;
    const Reason reason = on_map ? (goals ? Reason::goal_blocked : Reason::start_blocked)
                                 : (goals ? Reason::goal_off_map : Reason::start_off_map);
    field_.unused_.push_back({number, {reason, source.cell}});
    return;
  }
  Cost& known = field_.cost_[source.cell];
  if (source.head_start > bound_ || source.head_start >= known) return;
  known = source.head_start;
  scratch_.waiting.push_back({pack(source.cell), source.head_start});
}

template <typename Visitor>
void FieldSearch::for_each_step(Cell cell, Steps steps, Visitor&& visit) const {
  const CellIndex index = costs_.size().index(cell);
  const auto kind = static_cast<unsigned>(costs_.tiling().kind(cell));
  const bool arriving = steps == Steps::arriving;
  unsigned candidates = costs_.moves(cell);
  // Without barriers and height limits every step can be taken both ways.
  const bool ask_neighbours = arriving && costs_.has_sides();
  if (ask_neighbours) candidates = (1U << static_cast<unsigned>(costs_.rules().steps)) - 1;
  for (unsigned left = candidates; left != 0; left &= left - 1) {
    const auto d = static_cast<unsigned>(std::countr_zero(left));
    const Cell other = cell + hood_.offset[kind][d];
    if (ask_neighbours) {
      if (!costs_.open(other)) continue;
      const unsigned back = costs_.moves(other);
      if (((back >> hood_.opposite[kind][d]) & 1U) == 0) continue;
    }
    const CellIndex other_index = costs_.size().index(other);
    const EntryCost entered = costs_.entry(arriving ? index : other_index);
    visit(other, other_index, d,
          step_cost(costs_.step_length(static_cast<int>(kind), static_cast<Direction>(d)), entered));
  }
}

void FieldSearch::relax_around(Cell cell, Cost cost_here) {
  const Steps steps = travel_ == Travel::to_sources ? Steps::arriving : Steps::leaving;
  for_each_step(cell, steps, [&](Cell next, CellIndex other, unsigned, Cost step) {
    const std::uint64_t cost = std::uint64_t{cost_here} + step;
    if (cost > bound_) {
      overflow_seen_ = !budgeted_;
      return;
    }
    if (cost >= field_.cost_[other]) return;
    field_.cost_[other] = static_cast<Cost>(cost);
    scratch_.queue.push({pack(next), static_cast<Cost>(cost)});
  });
}

/// Whether a step leads from a reached cell to one that is not (asked only after a sum was too large for one way).
bool FieldSearch::leaves_cells_out() const {
  const Steps steps = travel_ == Travel::to_sources ? Steps::arriving : Steps::leaving;
  bool found = false;
  for (const std::uint32_t at : scratch_.order) {
    for_each_step(unpack(at), steps,
                  [&](Cell, CellIndex other, unsigned, Cost) { found = found || field_.cost_[other] == unreached; });
  }
  return found;
}

/// Next steps and sources, from the costs alone. What a cell leans on lies at least the cheapest step below it, so in
/// an earlier bucket: the order of settling will do.
void FieldSearch::tell_directions(std::span<const Source> sources) {
  for (std::size_t number = sources.size(); number-- > 0;) {
    const Source& source = sources[number];
    if (!costs_.open(source.cell) || field_.cost_[source.cell] != source.head_start) continue;
    field_.source_[source.cell] = static_cast<std::uint32_t>(number);
  }
  const Steps steps = travel_ == Travel::to_sources ? Steps::leaving : Steps::arriving;
  for (const std::uint32_t at : scratch_.order) {
    const Cell cell = unpack(at);
    const CellIndex index = costs_.size().index(cell);
    const bool is_source = field_.source_[index] != no_source;
    for_each_step(cell, steps, [&](Cell, CellIndex other, unsigned d, Cost step) {
      const Cost there = field_.cost_[other];
      if (there == unreached || std::uint64_t{there} + step != field_.cost_[index]) return;
      if (!is_source && field_.next_[index] == Field::no_direction) field_.next_[index] = static_cast<std::uint8_t>(d);
      field_.source_[index] = std::min(field_.source_[index], field_.source_[other]);
    });
  }
}

}  // namespace saunter
