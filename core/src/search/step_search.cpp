#include "step_search.hpp"

#include <bit>

#include "../grid/even_out.hpp"
#include "guide.hpp"

namespace saunter {
namespace {

/// Squares without diagonals: corridors, mazes. The places a cell leads to are written without a branch that can't be
/// foretold: always three, of which the first so many count.
bool four_steps(const CostGrid& costs) { return costs.tiling().shape() == Shape::square && costs.rules().steps == 4; }

struct Fan {
  std::uint8_t count = 0;
  std::array<std::uint8_t, 4> direction = {};
};
constexpr std::array<Fan, 16> make_fans() {
  std::array<Fan, 16> fans = {};
  for (unsigned set = 0; set < 16; ++set) {
    for (std::uint8_t d = 0; d < 4; ++d) {
      if ((set >> d & 1U) != 0) fans[set].direction[fans[set].count++] = d;
    }
  }
  return fans;
}
constexpr std::array<Fan, 16> fans = make_fans();
constexpr std::uint32_t back_of(unsigned direction) { return (direction + 2) % 4; }

void prefetch(std::span<const std::uint8_t> bytes, std::uint32_t index) {
  if (index < bytes.size()) __builtin_prefetch(bytes.data() + index);
}

/// A stack or list of places whose memory is there before it is needed.
template <typename Place>
class Row {
 public:
  explicit Row(std::vector<Place>& memory) : memory_(memory) {}
  void make_room(std::size_t more) {
    if (count_ + more > memory_.size()) memory_.resize(2 * (count_ + more));
  }
  /// Adds a place for each of these directions. @pre make_room(4)
  void add(std::uint32_t cell, unsigned directions, const std::array<std::uint32_t, max_directions>& steps) {
    const Fan& fan = fans[directions];
    Place* const end = memory_.data() + count_;
    for (unsigned i = 0; i < 3; ++i) end[i] = {cell + steps[fan.direction[i]], back_of(fan.direction[i])};
    if (fan.count == 4) end[3] = {cell + steps[3], back_of(3)};  // only at the start
    count_ += fan.count;
  }
  [[nodiscard]] bool empty() const { return count_ == 0; }
  [[nodiscard]] std::size_t size() const { return count_; }
  Place take_last() { return memory_[--count_]; }
  [[nodiscard]] const Place& operator[](std::size_t i) const { return memory_[i]; }
  void clear() { count_ = 0; }
  /// Says how much of the memory counts.
  void keep(std::size_t count) { count_ = count; }
  /// Cuts the memory to what is in it.
  void cut() { memory_.resize(count_); }
  friend void swap(Row& a, Row& b) {
    std::swap(a.memory_, b.memory_);
    std::swap(a.count_, b.count_);
  }

 private:
  std::vector<Place>& memory_;
  std::size_t count_ = 0;
};

}  // namespace

bool StepSearch::one_step_cost(const CostGrid& costs) {
  return costs.rules().steps == costs.tiling().edge_count() && costs.cheapest() == costs.dearest();
}

/// Counts a place as expanded; false when the limit is used up.
inline bool StepSearch::take(const Question& question, const Place& place, std::uint32_t index, Cell cell,
                             std::uint64_t cost, std::uint64_t estimate, Ending& ending) {
  if (ending.expanded == question.limit) {
    ending.reason = Reason::stopped;
    return false;
  }
  ++ending.expanded;
  marks_.set(index, place.back);
  touched_.take(index);
  if (question.trace != nullptr) {
    const Size size = question.costs.size();
    const bool first = place.back == from_nowhere;
    const Tiling tiling = question.costs.tiling();
    const CellIndex parent = size.index(first ? cell : tiling.neighbour(cell, Direction(place.back)));
    question.trace->push_back({CellIndex{index}, parent, static_cast<Cost>(cost), estimate});
  }
  return true;
}

void StepSearch::settle_rest(const Question& question, std::vector<Place>& line) {
  for (const Place& place : line) {
    const std::uint32_t index = question.costs.size().index(unpack(place.cell)).value();
    if (!marks_.knows(index)) marks_.set(index, place.back);
  }
  line.clear();
}

Ending StepSearch::by_steps(const Question& question) {
  constexpr std::uint64_t no_limit = ~std::uint64_t{0};
  return expand_by_levels(question, no_limit);
}

Ending StepSearch::expand_by_levels(const Question& question, std::uint64_t most_steps) {
  const Ending ending =
      four_steps(question.costs) ? expand_levels_of_four(question, most_steps) : expand_levels(question, most_steps);
  even_out(lines_[0], lines_[1]);
  return ending;
}

Ending StepSearch::expand_levels(const Question& question, std::uint64_t most_steps) {
  const CostGrid& costs = question.costs;
  const Size size = costs.size();
  const Tiling tiling = costs.tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  const StepTable steps(costs.board());
  const std::uint32_t goal = pack(question.to);
  marks_.begin(size.cell_count());
  touched_ = {};
  std::vector<Place>& level = lines_[0];
  std::vector<Place>& beyond = lines_[1];
  level.assign(1, {pack(question.from), from_nowhere});
  Ending ending;
  for (std::uint64_t step = 0; !level.empty(); ++step) {
    if (step > most_steps) {
      ending.cut = true;
      break;
    }
    beyond.clear();
    for (const Place& place : level) {
      const Cell cell = unpack(place.cell);
      const std::uint32_t index = size.index(cell).value();
      if (marks_.knows(index)) continue;
      const bool taken = take(question, place, index, cell, 100 * step, 0, ending);
      if (!taken || place.cell == goal) {
        if (taken) ending.reason = Reason::found;
        ending.cost = step;
        settle_rest(question, level);
        if (step < most_steps) settle_rest(question, beyond);
        return ending;
      }
      const auto kind = static_cast<unsigned>(tiling.kind(cell));
      for (unsigned left = costs.moves(cell); left != 0; left &= left - 1) {
        const auto d = static_cast<unsigned>(std::countr_zero(left));
        if (marks_.knows(index + steps.index[kind][d])) continue;
        beyond.push_back({place.cell + steps.packed[kind][d], hood.opposite[kind][d]});
      }
    }
    std::swap(level, beyond);
  }
  return ending;
}

Ending StepSearch::expand_levels_of_four(const Question& question, std::uint64_t most_steps) {
  const CostGrid& costs = question.costs;
  const Size size = costs.size();
  const StepTable steps(costs.board());
  const std::uint32_t goal = pack(question.to);
  const std::span<const std::uint8_t> stored = costs.stored_moves();
  marks_.begin(size.cell_count());
  touched_ = {};
  Row<Place> level(lines_[0]);
  Row<Place> beyond(lines_[1]);
  lines_[0].assign(1, {pack(question.from), from_nowhere});
  level.keep(1);
  Ending ending;
  for (std::uint64_t step = 0; !level.empty(); ++step) {
    if (step > most_steps) {
      ending.cut = true;
      break;
    }
    beyond.clear();
    beyond.make_room(3 * level.size() + 4);
    for (std::size_t i = 0; i < level.size(); ++i) {
      const Place place = level[i];
      const Cell cell = unpack(place.cell);
      const std::uint32_t index = size.index(cell).value();
      if (marks_.knows(index)) continue;
      const bool taken = take(question, place, index, cell, 100 * step, 0, ending);
      if (!taken || place.cell == goal) {
        if (taken) ending.reason = Reason::found;
        ending.cost = step;
        level.cut();
        beyond.cut();
        settle_rest(question, lines_[0]);
        if (step < most_steps) settle_rest(question, lines_[1]);
        return ending;
      }
      const unsigned legal = stored.empty() ? costs.moves_by_table(cell) : stored[index];
      const unsigned onward = legal & ~(1U << place.back);
      beyond.add(place.cell, onward, steps.packed[0]);
      const std::uint32_t next = index + steps.index[0][fans[onward].direction[0]];  // mostly the only one
      prefetch(marks_.bytes(), next);
      prefetch(stored, next);
    }
    swap(level, beyond);
  }
  return ending;
}

Ending StepSearch::by_cost(const Question& question) {
  SAUNTER_EXPECT(one_step_cost(question.costs));
  const std::uint64_t each = std::max<Cost>(1, question.costs.cheapest());
  if (!question.guided) {
    Ending ending = expand_by_levels(question, question.bound / each);
    ending.cost *= each;
    return ending;
  }
  const Ending ending = expand_by_totals(question);
  if (four_steps(question.costs)) {
    even_out(lines_[0], lines_[1]);
  } else {
    even_out(lines_[0], lines_[1], lines_[2], lines_[3]);
  }
  return ending;
}

Ending StepSearch::expand_by_totals(const Question& question) {
  if (four_steps(question.costs)) return expand_totals_of_four(question);
  const Tiling tiling = question.costs.tiling();
  const Estimate edges(tiling, {.steps = tiling.edge_count()}, 1, question.to);  // counts steps, not cost
  if (tiling.shape() == Shape::triangle) return expand_totals(question, TriangleGuide(edges, true));
  return expand_totals(question, HexGuide(tiling, edges, question.to, true));
}

/// Totals, counted in steps, rise by 0 to 2: three stacks in turn are the whole queue. A cell counts as reached when it
/// is taken, first by the least total, so no cost is kept: it is the total less the estimate.
template <typename Guide>
Ending StepSearch::expand_totals(const Question& question, const Guide& guide) {
  const CostGrid& costs = question.costs;
  const Size size = costs.size();
  const Tiling tiling = costs.tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  const StepTable steps(costs.board());
  const std::uint32_t goal = pack(question.to);
  const std::uint64_t each = std::max<Cost>(1, costs.cheapest());
  const std::uint64_t bound = question.bound / each;
  marks_.begin(size.cell_count());
  touched_ = {};
  for (auto& line : lines_) line.clear();
  Ending ending;
  std::uint64_t total = guide(pack(question.from));
  if (total > bound) {
    ending.cut = true;
    return ending;
  }
  lines_[total & 3U].push_back({pack(question.from), from_nowhere});
  for (unsigned empty_in_a_row = 0; empty_in_a_row < 3; ++total) {
    auto& line = lines_[total & 3U];
    empty_in_a_row = line.empty() ? empty_in_a_row + 1 : 0;
    while (!line.empty()) {
      const Place place = line.back();
      line.pop_back();
      const Cell cell = unpack(place.cell);
      const std::uint32_t index = size.index(cell).value();
      if (marks_.knows(index)) continue;
      const std::uint64_t estimate = guide(place.cell);
      const bool taken = take(question, place, index, cell, (total - estimate) * each, estimate * each, ending);
      if (!taken || place.cell == goal) {
        if (taken) {
          ending.reason = Reason::found;
          ending.cost = (total - estimate) * each;
        }
        for (auto& rest : lines_) settle_rest(question, rest);
        return ending;
      }
      const auto kind = static_cast<unsigned>(tiling.kind(cell));
      for (unsigned left = costs.moves(cell); left != 0; left &= left - 1) {
        const auto d = static_cast<unsigned>(std::countr_zero(left));
        if (marks_.knows(index + steps.index[kind][d])) continue;
        const std::uint32_t next = place.cell + steps.packed[kind][d];
        const std::uint64_t next_total = total + 1 + guide(next) - estimate;
        if (next_total > bound) {
          ending.cut = true;
          continue;
        }
        lines_[next_total & 3U].push_back({next, hood.opposite[kind][d]});
      }
    }
  }
  return ending;
}

/// The same on squares without diagonals, where a total rises by 0 or by 2: two stacks.
Ending StepSearch::expand_totals_of_four(const Question& question) {
  const CostGrid& costs = question.costs;
  const Size size = costs.size();
  const StepTable steps(costs.board());
  const std::uint32_t goal = pack(question.to);
  const std::span<const std::uint8_t> stored = costs.stored_moves();
  const std::uint64_t each = std::max<Cost>(1, costs.cheapest());
  const std::uint64_t bound = question.bound / each;
  const auto estimate = [&](Cell cell) {
    return static_cast<std::uint64_t>(std::abs(cell.col - question.to.col) + std::abs(cell.row - question.to.row));
  };
  marks_.begin(size.cell_count());
  touched_ = {};
  Row<Place> now(lines_[0]);
  Row<Place> later(lines_[1]);
  Ending ending;
  ending.cut = estimate(question.from) > bound;
  if (ending.cut) return ending;
  lines_[0].assign(1, {pack(question.from), from_nowhere});
  now.keep(1);
  std::uint64_t total = estimate(question.from);
  for (; !now.empty(); total += 2) {
    const bool last = total + 2 > bound;
    while (!now.empty()) {
      const Place place = now.take_last();
      const Cell cell = unpack(place.cell);
      const std::uint32_t index = size.index(cell).value();
      if (marks_.knows(index)) continue;
      const std::uint64_t remaining = estimate(cell);
      const bool taken = take(question, place, index, cell, (total - remaining) * each, remaining * each, ending);
      if (!taken || place.cell == goal) {
        if (taken) ending.reason = Reason::found;
        ending.cost = (total - remaining) * each;
        now.cut();
        later.cut();
        settle_rest(question, lines_[0]);
        if (!last) settle_rest(question, lines_[1]);
        return ending;
      }
      const unsigned legal = (stored.empty() ? costs.moves_by_table(cell) : stored[index]) & ~(1U << place.back);
      const unsigned nearer = (cell.row > question.to.row ? 1U : 0U) | (cell.col < question.to.col ? 2U : 0U) |
                              (cell.row < question.to.row ? 4U : 0U) | (cell.col > question.to.col ? 8U : 0U);
      now.make_room(4);
      later.make_room(4);
      // The rows beside are likely to be needed next.
      const std::uint32_t above = index + steps.index[0][0];
      const std::uint32_t below = index + steps.index[0][2];
      prefetch(marks_.bytes(), above);
      prefetch(marks_.bytes(), below);
      prefetch(stored, above);
      prefetch(stored, below);
      later.add(place.cell, legal & ~nearer, steps.packed[0]);
      now.add(place.cell, legal & nearer, steps.packed[0]);
    }
    if (last && !later.empty()) {
      ending.cut = true;
      break;
    }
    swap(now, later);
  }
  return ending;
}

void StepSearch::write_way_back(const Question& question, Cell from, std::vector<Cell>& out) const {
  const Size size = question.costs.size();
  const Tiling tiling = question.costs.tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  out.push_back(from);
  for (Cell cell = from; cell != question.from;) {
    cell = cell + hood.offset[static_cast<unsigned>(tiling.kind(cell))][marks_.back(size.index(cell).value())];
    out.push_back(cell);
  }
}

Cell StepSearch::nearest(const Question& question) const {
  return nearest_reached(question, touched_, [&](std::uint32_t index) { return marks_.knows(index); });
}

}  // namespace saunter
