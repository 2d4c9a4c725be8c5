#include "saunter/search/field.hpp"

#include <algorithm>
#include <bit>

#include "../grid/even_out.hpp"
#include "field_search.hpp"
#include "kernel/best_first.hpp"
#include "kernel/legal_steps.hpp"
#include "saunter/grid/area.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

/// Makes a grid one of a single value, where it has others in a block alone.
template <typename T>
void reset(Grid<T>& grid, Size size, T value, Rect block) {
  if (grid.size() != size) {
    grid = Grid<T>(size, value);
    return;
  }
  for (std::int32_t row = block.top; row < block.bottom; ++row) {
    const auto values = grid.row(row).begin();
    std::fill(values + block.left, values + block.right, value);
  }
}

}  // namespace

void Field::path(Cell cell, std::vector<Cell>& out) const {
  out.clear();
  if (!reached(cell)) return;
  out.push_back(cell);
  for (auto step = next(cell); step; step = next(*step)) out.push_back(*step);
  if (!to_sources_) std::reverse(out.begin(), out.end());
}

/// Copies what was asked; from the field's own lists when it is made once more.
void Field::keep(std::span<const Source> sources, const FieldOptions& options, bool to_sources) {
  const auto copy = [](auto from, auto& to) {
    if (from.data() != to.data() || from.size() != to.size()) to.assign(from.begin(), from.end());
  };
  copy(sources, sources_);
  copy(options.changes, changes_);
  copy(options.until, until_);
  if (options.stops != nullptr && options.stops != &stops_) stops_ = *options.stops;
  has_stops_ = options.stops != nullptr;
  budget_ = options.budget;
  count_steps_ = options.count_steps;
  to_sources_ = to_sources;
}

/// Nothing is reached any more. What was is in known_ alone, also after an exception. @param known  what may be reached
void Field::clear(const CostGrid& costs, Rect known) {
  const Size size = costs.size();
  if (cost_.size() != size || next_.size() != size || size == Size{}) known_ = {};
  if (source_.size() != size || size == Size{}) named_ = {};
  reset(cost_, size, unreached, known_);
  reset(next_, size, no_direction, known_);
  tiling_ = costs.tiling();
  many_sources_ = sources_.size() > 1;
  if (many_sources_) {
    reset(source_, size, no_source, named_);
    named_ = known;
  }
  known_ = known;
  reached_ = 0;
}

/// Where cells may lie that are reached within a bound: no step costs less than the shortest into the cheapest cell.
Rect detail::within_bound(const CostGrid& costs, const FieldGround& ground, const Field& field) {
  const Size size = costs.size();
  if (!field.options().budget) return Rect::whole(size);
  const Cost bound = *field.options().budget;
  Length shortest = 100;
  for (int kind = 0; kind < 2; ++kind) {
    for (int d = 0; d < costs.rules().steps; ++d) shortest = std::min(shortest, costs.step_length(kind, d));
  }
  const Cost step = field.options().count_steps ? 100 : std::max<Cost>(1, step_cost(shortest, ground.lowest_entry()));
  const std::uint64_t aside = costs.tiling().shape() == Shape::triangle ? 2 : 1;
  Rect within;
  for (const Source& source : field.sources()) {
    if (!size.contains(source.cell) || source.head_start > bound) continue;
    const std::uint64_t steps = std::min<std::uint64_t>(aside * ((bound - Cost{source.head_start}) / step), 65'536);
    within = within.joined(Rect::of(source.cell).grown(static_cast<std::int32_t>(steps), size));
  }
  return within;
}

/// Cells of one bucket are settled in any order, and others wait: those that cost more than is wanted are taken out.
void Field::forget_beyond(Cost wanted) {
  reached_ = 0;
  for (std::int32_t row = known_.top; row < known_.bottom; ++row) {
    Cost* const costs = cost_.row(row).data();
    for (std::int32_t col = known_.left; col < known_.right; ++col) {
      if (costs[col] <= wanted) {
        ++reached_;
        continue;
      }
      costs[col] = unreached;
      next_.row(row).data()[col] = no_direction;
      if (many_sources_) source_.row(row).data()[col] = no_source;
    }
  }
}

/// Floods level by level from all reached cells at once, over a board with a rim of two cells: the fewest edge steps
/// between two cells of a map never lead further out.
void cells_in_range(const Field& field, int range, BitGrid& out) {
  const Board board = field.board();
  out = BitGrid(board.size);
  constexpr std::int32_t rim = 2;
  const Size with_rim{board.size.cols + 2 * rim,
                      board.size.rows + 2 * rim};  // of no board: it may be too large for one
  std::vector<bool> seen(static_cast<std::size_t>(with_rim.cols) * static_cast<std::size_t>(with_rim.rows));
  std::vector<Cell> level;
  std::vector<Cell> beyond;
  const auto take = [&](Cell cell, std::vector<Cell>& to) {
    const Cell shifted = cell + Offset{rim, rim};
    if (!with_rim.contains(shifted)) return;
    const std::size_t at = static_cast<std::size_t>(shifted.row) * static_cast<std::size_t>(with_rim.cols) +
                           static_cast<std::size_t>(shifted.col);
    if (seen[at]) return;
    seen[at] = true;
    to.push_back(cell);
    out.set(cell);
  };
  for (const Cell cell : board.size.cells()) {
    if (field.reached(cell) && range >= 0) take(cell, level);
  }
  for (int step = 0; step < range && !level.empty(); ++step) {
    beyond.clear();
    for (const Cell cell : level) {
      for (Direction d{0}; d < board.tiling.edge_count(); ++d) take(board.tiling.neighbour(cell, d), beyond);
    }
    std::swap(level, beyond);
  }
}

void Searcher::FieldSearch::run(std::span<const Source> sources, const FieldOptions& options) {
  budgeted_ = options.budget.has_value();
  bound_ = options.budget.value_or(Hundredths(max_cost));
  count_steps_ = options.count_steps;
  prepare(sources, options);
  for (std::size_t number = 0; number < sources.size(); ++number) add_source(sources[number], number);
  std::sort(scratch_.waiting.begin(), scratch_.waiting.end(),
            [](const auto& a, const auto& b) { return a.cost < b.cost; });
  scratch_.onward.prepare(costs_);
  const bool many = field_.many_sources_;
  const bool by_levels = count_steps_ && !many && scratch_.waiting.size() == 1 && !costs_.has_sides() &&
                         costs_.tiling().shape() != Shape::triangle;
  if (limited_) {
    many ? settle_limited<true>() : settle_limited<false>();
  } else if (settle_by_fours()) {
    // all told
  } else if (by_levels) {
    settle_by_levels();
  } else if (travel_ == Travel::from_sources) {
    many ? settle_all<Travel::from_sources, false, true>() : settle_all<Travel::from_sources, false, false>();
  } else if (costs_.has_sides()) {
    many ? settle_all<Travel::to_sources, true, true>() : settle_all<Travel::to_sources, true, false>();
  } else {
    many ? settle_all<Travel::to_sources, false, true>() : settle_all<Travel::to_sources, false, false>();
  }
  for (const Source& source : sources) {
    if (!costs_.size().contains(source.cell) || field_.cost_[source.cell] != source.head_start) continue;
    field_.next_[source.cell] = Field::no_direction;  // its own best, even where a way past another is as good
  }
  field_.overflowed_ =
      overflow_seen_ && leaves_cells_out(costs_, scratch_.ground, field_.cost_, travel_ == Travel::to_sources);
  field_.stamp_ = costs_.stamp();
}

bool Searcher::FieldSearch::settle_by_fours() {
  using Counts = FieldByFours::Counts;
  if (budgeted_ || field_.many_sources_ || scratch_.waiting.size() != 1) return false;
  const QueuedCell& source = scratch_.waiting.front();
  if (!FieldByFours::suits(costs_, source.cost, count_steps_)) return false;
  const Counts counts = count_steps_                      ? Counts::steps
                        : travel_ == Travel::from_sources ? Counts::entries_there
                                                          : Counts::entries_back;
  field_.reached_ = scratch_.fours.run(costs_, unpack(source.cell), source.cost, counts, field_.cost_, field_.next_);
  return true;
}

void Searcher::FieldSearch::prepare(std::span<const Source> sources, const FieldOptions& options) {
  field_.stamp_ = {};  // until it is whole
  field_.keep(sources, options, travel_ == Travel::to_sources);
  scratch_.ground.begin(costs_, field_.sources_, field_.options());
  limited_ = scratch_.ground.limited();
  field_.clear(costs_, within_bound(costs_, scratch_.ground, field_));
  field_.overflowed_ = false;
  field_.unused_.clear();
  scratch_.waiting.clear();
}

void Searcher::FieldSearch::add_source(const Source& source, std::size_t number) {
  const bool on_map = costs_.size().contains(source.cell);
  if (!on_map || !scratch_.ground.open(source.cell)) {
    const bool goals = travel_ == Travel::to_sources;
    const Reason reason = on_map ? (goals ? Reason::goal_blocked : Reason::start_blocked)
                                 : (goals ? Reason::goal_off_map : Reason::start_off_map);
    field_.unused_.push_back({number, {reason, source.cell}});
    return;
  }
  Cost& known = field_.cost_[source.cell];
  if (source.head_start > bound_ || source.head_start >= known) return;
  known = source.head_start;
  if (field_.many_sources_) field_.source_[source.cell] = static_cast<std::uint32_t>(number);
  scratch_.waiting.push_back({pack(source.cell), source.head_start});
}

template <Travel travel, bool asked, typename Visitor>
void Searcher::FieldSearch::for_each_step(Cell cell, unsigned kind, unsigned wanted, Visitor&& visit) const {
  if constexpr (!asked) {
    // What leaves can also arrive (or only what leaves is wanted).
    for_each_direction(costs_.moves_on_map(cell) & wanted, visit);
  } else {
    for (unsigned d = 0; d < static_cast<unsigned>(costs_.rules().steps); ++d) {
      const Cell other = cell + hood_.offset[kind][d];
      if (costs_.open(other) && (unsigned{costs_.moves_on_map(other)} >> hood_.opposite[kind][d] & 1U) != 0) visit(d);
    }
  }
}

/// Next steps and sources are told on the way: what a cell leans on lies at least the cheapest step below it, so in an
/// earlier bucket, and has been settled when the cell is.
template <Travel travel, bool asked, bool many>
void Searcher::FieldSearch::settle_all() {
  const Cost width = count_steps_ ? 100 : std::max<Cost>(1, costs_.lowest_entry());
  const std::uint64_t reach = count_steps_ ? 100 : costs_.highest_step();
  scratch_.queues.with(width, reach, [&](auto& queue) { settle_with<travel, asked, many>(queue); });
}

template <Travel travel, bool asked, bool many, typename Queue>
void Searcher::FieldSearch::settle_with(Queue& queue) {
  // Copies, because a byte written to `next` could be part of anything, for all the compiler knows.
  const StepTable steps(costs_.board());
  const Neighbourhood hood = hood_;
  const Onward onward = scratch_.onward;
  const Size size = costs_.size();
  const Tiling tiling = costs_.tiling();
  const Cost bound = bound_;
  const bool count_steps = count_steps_;
  const EntryCost* const entries = costs_.entries().data();
  Cost* const known = field_.cost_.values().data();
  std::uint8_t* const next = field_.next_.values().data();
  std::uint32_t* const sources = field_.source_.values().data();
  const StepLengths lengths = lengths_of(costs_);
  std::size_t reached = 0;
  bool beyond = false;
  std::size_t fed_in = 0;
  FedQueue<Queue> fed(queue, scratch_.waiting, fed_in);
  const auto look = [&](const QueuedCell& first) {
    if (known[size.index(unpack(first.cell)).value()] != first.cost) return Take::skip;
    ++reached;
    return Take::expand;
  };
  const auto expand = [&](const QueuedCell& first) {
    const Cell cell = unpack(first.cell);
    const std::uint32_t index = size.index(cell).value();
    const auto kind = static_cast<unsigned>(tiling.kind(cell));
    const EntryCost entered = entries[index];
    for_each_step<travel, asked>(cell, kind, onward.of(kind, next[index]), [&](unsigned d) {
      const std::uint32_t other = index + steps.index[kind][d];
      const std::uint8_t back = hood.opposite[kind][d];
      // Lengths are the same both ways.
      const Length length = lengths[kind][d];
      const EntryCost entry = travel == Travel::to_sources ? entered : entries[other];
      const Cost step = count_steps ? 100 : length == 100 ? entry : step_cost(length, entry);
      const std::uint64_t cost = std::uint64_t{first.cost} + step;
      if (cost > known[other]) return;
      if (cost > bound) {  // not reached; the sum may be as large as the sign for that
        beyond = true;
        return;
      }
      if (cost == known[other]) {
        next[other] = std::min(next[other], back);
        if constexpr (many) sources[other] = std::min(sources[other], sources[index]);
        return;
      }
      known[other] = static_cast<Cost>(cost);
      next[other] = back;
      if constexpr (many) sources[other] = sources[index];
      fed.enqueue({first.cell + steps.packed[kind][d], static_cast<Cost>(cost)});
    });
  };
  best_first(fed, look, expand);
  field_.reached_ = reached;
  overflow_seen_ = overflow_seen_ || (beyond && !budgeted_);
}

void BitLevels::begin(const CostGrid& costs) {
  to_reach = costs.open_cells();
  if (before.size() != costs.size()) {
    before = BitGrid(costs.size());
  } else {
    for (const std::uint32_t cell : last) before.set(unpack(cell), false);
  }
  last.clear();
  if (ready_ && tiling_ == costs.tiling()) return;
  ready_ = true;
  tiling_ = costs.tiling();
  const Neighbourhood& hood = tiling_.neighbourhood();
  for (unsigned kind = 0; kind < 2; ++kind) {
    for (unsigned around = 0; around < 512; ++around) {
      unsigned directions = 0;
      for (unsigned d = 0; d < static_cast<unsigned>(hood.directions); ++d) {
        const Offset by = hood.offset[kind][d];
        const auto bit = static_cast<unsigned>((by.rows + 1) * 3 + by.cols + 1);
        if ((around >> bit & 1U) != 0) directions |= 1U << d;
      }
      directions_[kind][around] = static_cast<std::uint8_t>(directions);
    }
  }
}

/// Breadth first, a cell enqueued once. What a cell leans on was reached the level before: its next step is the
/// first direction that leads there, found when the cell is expanded.
void Searcher::FieldSearch::settle_by_levels() {
  BitLevels& levels = scratch_.levels;
  levels.begin(costs_);
  const StepTable steps(costs_.board());
  const Size size = costs_.size();
  const Tiling tiling = costs_.tiling();
  Cost* const known = field_.cost_.values().data();
  std::uint8_t* const next = field_.next_.values().data();
  levels.level.assign(1, scratch_.waiting.front().cell);
  levels.to_reach.set(unpack(levels.level.front()), false);
  for (std::uint64_t cost = scratch_.waiting.front().cost; !levels.level.empty(); cost += 100) {
    const bool more = cost + 100 <= bound_;
    levels.beyond.clear();
    for (const std::uint32_t packed : levels.level) {
      const Cell cell = unpack(packed);
      const std::uint32_t index = size.index(cell).value();
      const auto kind = static_cast<unsigned>(tiling.kind(cell));
      const BitGrid::Spot spot = levels.before.spot(cell);
      const unsigned legal = costs_.moves_by_table(spot, kind);
      const unsigned from = legal & levels.towards(levels.before, spot, kind);
      next[index] = from != 0 ? static_cast<std::uint8_t>(std::countr_zero(from)) : Field::no_direction;
      unsigned onward = legal & levels.towards(levels.to_reach, spot, kind);
      if (!more) {
        overflow_seen_ = overflow_seen_ || (onward != 0 && !budgeted_);
        continue;
      }
      for (; onward != 0; onward &= onward - 1) {
        const auto d = static_cast<unsigned>(std::countr_zero(onward));
        const std::uint32_t other = packed + steps.packed[kind][d];
        levels.to_reach.set(unpack(other), false);
        known[index + steps.index[kind][d]] = static_cast<Cost>(cost + 100);
        levels.beyond.push_back(other);
      }
    }
    field_.reached_ += levels.level.size();
    for (const std::uint32_t cell : levels.last) levels.before.set(unpack(cell), false);
    for (const std::uint32_t cell : levels.level) levels.before.set(unpack(cell));
    std::swap(levels.last, levels.level);
    std::swap(levels.level, levels.beyond);
  }
  even_out(levels.last, levels.level, levels.beyond);
}

bool detail::leaves_cells_out(const CostGrid& costs, const FieldGround& ground, const Grid<Cost>& reached,
                              bool to_sources) {
  for (const Cell cell : costs.size().cells()) {
    if (reached[cell] == unreached || ground.is_stop(cell)) continue;
    bool found = false;
    for_each_next(costs.tiling(), to_sources ? ground.arriving(cell) : ground.leaving(cell), cell,
                  [&](Cell next) { found = found || reached[next] == unreached; });
    if (found) return true;
  }
  return false;
}

}  // namespace saunter::inline v0_2
