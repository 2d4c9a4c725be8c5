#include "jump_search.hpp"

#include <bit>

#include "canonical.hpp"
#include "guide.hpp"
#include "kernel/best_first.hpp"

namespace saunter::inline v0::detail {
namespace {

constexpr std::int32_t nothing = -1;

/// Scans one line of cells (a row, or a column of the turned grid) for the next state worth a stop: the goal, or a cell
/// beside which a wall ends.
class LineScan {
 public:
  LineScan(const BitGrid& open, std::int32_t line, std::int32_t goal_line, std::int32_t goal)
      : here_(open.row_words(line).data()),
        before_(open.row_words(line - 1).data()),
        after_(open.row_words(line + 1).data()),
        goal_(line == goal_line ? goal : nothing) {}

  /// The next stop at a larger number than `from`, or nothing where a wall comes first.
  [[nodiscard]] std::int32_t up(std::int32_t from) const {
    const std::size_t bit = static_cast<std::size_t>(from) + BitGrid::margin;
    std::uint64_t wanted = ~std::uint64_t{1} << (bit % 64);
    for (std::size_t word = bit / 64;; ++word) {
      const std::uint64_t carry_before = word == 0 ? 0 : before_[word - 1] >> 63U;
      const std::uint64_t carry_after = word == 0 ? 0 : after_[word - 1] >> 63U;
      // Beside the line a cell is open and the one before it is not: what lies there can't be reached earlier.
      const std::uint64_t ends = (before_[word] & ~(before_[word] << 1U | carry_before)) |
                                 (after_[word] & ~(after_[word] << 1U | carry_after));
      const std::uint64_t stops = (~here_[word] | ends) & wanted;
      if (stops != 0) {
        const auto at = static_cast<unsigned>(std::countr_zero(stops));
        const auto stop = static_cast<std::int32_t>(word * 64 + at) - margin;
        if (goal_ > from && goal_ < stop) return goal_;
        return (here_[word] >> at & 1U) != 0 ? stop : nothing;
      }
      wanted = ~std::uint64_t{0};
    }
  }
  /// The same towards smaller numbers.
  [[nodiscard]] std::int32_t down(std::int32_t from) const {
    const std::size_t bit = static_cast<std::size_t>(from) + BitGrid::margin;
    std::uint64_t wanted = (std::uint64_t{1} << (bit % 64)) - 1;
    for (std::size_t word = bit / 64;; --word) {
      const std::uint64_t carry_before = before_[word + 1] << 63U;
      const std::uint64_t carry_after = after_[word + 1] << 63U;
      const std::uint64_t ends = (before_[word] & ~(before_[word] >> 1U | carry_before)) |
                                 (after_[word] & ~(after_[word] >> 1U | carry_after));
      const std::uint64_t stops = (~here_[word] | ends) & wanted;
      if (stops != 0) {
        const auto at = 63U - static_cast<unsigned>(std::countl_zero(stops));
        const auto stop = static_cast<std::int32_t>(word * 64 + at) - margin;
        if (goal_ != nothing && goal_ < from && goal_ > stop) return goal_;
        return (here_[word] >> at & 1U) != 0 ? stop : nothing;
      }
      wanted = ~std::uint64_t{0};
    }
  }

 private:
  static constexpr auto margin = static_cast<std::int32_t>(BitGrid::margin);

  const std::uint64_t* here_;
  const std::uint64_t* before_;
  const std::uint64_t* after_;
  std::int32_t goal_;
};

/// Stops along the four edge directions.
class Scanner {
 public:
  Scanner(const CostGrid& costs, Cell goal)
      : rows_(costs.open_cells()), columns_(costs.open_cells_turned()), goal_(goal) {}

  /// The next stop in an edge direction, if there is one; its distance in steps comes with it.
  struct Stop {
    Cell cell;
    std::uint32_t steps = 0;
  };
  [[nodiscard]] Stop next(Cell from, unsigned direction) const {
    const bool across = direction % 2 == 1;
    const LineScan scan =
        across ? LineScan(rows_, from.row, goal_.row, goal_.col) : LineScan(columns_, from.col, goal_.col, goal_.row);
    const std::int32_t at = across ? from.col : from.row;
    const bool up = direction == 1 || direction == 2;  // east, south
    const std::int32_t stop = up ? scan.up(at) : scan.down(at);
    if (stop == nothing) return {};
    return {across ? Cell{stop, from.row} : Cell{from.col, stop}, static_cast<std::uint32_t>(std::abs(stop - at))};
  }
  [[nodiscard]] bool open(Cell cell) const {
    const auto bit = static_cast<std::size_t>(cell.col) + BitGrid::margin;
    return (rows_.row_words(cell.row)[bit / 64] >> (bit % 64) & 1U) != 0;
  }

 private:
  const BitGrid& rows_;
  const BitGrid& columns_;
  Cell goal_;
};

/// Where a state leads to: the stops along its rows, columns and diagonals.
class Jumps {
 public:
  Jumps(const CostGrid& costs, Cell goal)
      : costs_(costs),
        hood_(costs.tiling().neighbourhood()),
        scanner_(costs, goal),
        goal_(goal),
        edge_(costs.lowest_entry()),
        diagonal_(step_cost(costs.rules().diagonal, costs.lowest_entry())) {}

  /// @param reach  void reach(cell, cost, direction back)
  template <typename Reach>
  void from(const State& state, Reach&& reach) const {
    const Cell cell = unpack(state.cell);
    const unsigned wanted = worthwhile.of(costs_.moves_by_table(cell), state.back);
    for (unsigned d = 0; d < 4; ++d) {
      if ((wanted >> d & 1U) != 0) go_along(cell, state.cost, d, reach);
    }
    for (unsigned d = 0; d < 4; ++d) {
      if ((wanted >> (4 + d) & 1U) != 0) go_across(cell, state.cost, d, reach);
    }
  }

 private:
  template <typename Reach>
  void go_along(Cell from, std::uint64_t cost, unsigned direction, Reach& reach) const {
    const Scanner::Stop stop = scanner_.next(from, direction);
    if (stop.steps > 0) reach(stop.cell, cost + edge_ * stop.steps, (direction + 2) % 4);
  }
  /// Along the diagonal between the edge directions d and d + 1.
  template <typename Reach>
  void go_across(Cell from, std::uint64_t cost, unsigned d, Reach& reach) const {
    const Offset by = hood_.offset[0][4 + d];
    for (Cell at = from + by;; at = at + by) {
      cost += diagonal_;
      if (at == goal_) reach(at, cost, 4 + (d + 2) % 4);
      go_along(at, cost, d, reach);
      go_along(at, cost, (d + 1) % 4, reach);
      const Cell ahead = at + by;
      if (!scanner_.open({ahead.col, at.row}) || !scanner_.open({at.col, ahead.row}) || !scanner_.open(ahead)) break;
    }
  }

  const CostGrid& costs_;
  const Neighbourhood& hood_;
  const Scanner scanner_;
  const Cell goal_;
  const std::uint64_t edge_;
  const std::uint64_t diagonal_;
};

}  // namespace

bool JumpSearch::suits(const CostGrid& costs) { return canonical(costs); }

bool JumpSearch::pays(const CostGrid& costs) {
  if (!suits(costs)) return false;
  constexpr std::uint32_t sampled_rows = 32;
  constexpr std::uint32_t golden = 40'503;   // of 65,536: spreads the rows without falling in step with walls
  constexpr std::size_t cells_a_stop = 200;  // measured: with fewer, A* wins
  const BitGrid& open = costs.open_cells();
  std::size_t cells = 0;
  std::size_t stops = 0;
  for (std::uint32_t i = 1; i <= sampled_rows; ++i) {
    const std::uint32_t share = i * golden % 65'536;
    const auto row = static_cast<std::int32_t>(share * static_cast<std::uint32_t>(costs.size().rows) >> 16U);
    const std::span<const std::uint64_t> here = open.row_words(row);
    const std::span<const std::uint64_t> below = open.row_words(row + 1);
    for (std::size_t word = 0; word < here.size(); ++word) {
      cells += static_cast<std::size_t>(std::popcount(here[word]));
      // Open below where the cell before has a wall below: where a scan along this row would stop.
      const std::uint64_t ends = here[word] & (here[word] << 1U) & below[word] & ~(below[word] << 1U);
      stops += static_cast<std::size_t>(std::popcount(ends));
    }
  }
  return stops * cells_a_stop < cells;
}

Ending JumpSearch::run(const Question& question) {
  SAUNTER_EXPECT(suits(question.costs));
  const CostGrid& costs = question.costs;
  const Size size = costs.size();
  const Estimate estimate(costs, question.to);
  const SquareGuide guide(estimate, question.to, question.guided);
  query_.begin(nodes_, size.cell_count());
  queue_.begin();
  touched_ = {};
  Ending ending;
  const auto reach = [&](Cell cell, std::uint64_t cost, unsigned back, std::uint32_t parent) {
    const std::uint32_t index = size.index(cell).value();
    Node& node = nodes_[index];
    if (query_.knows(node) && node.cost <= cost) return;
    const std::uint64_t total = cost + guide(pack(cell));
    if (total > question.bound) {
      ending.cut = true;
      return;
    }
    touched_.take(index);
    node = {query_.now(), static_cast<Cost>(cost), parent};
    queue_.enqueue({pack(cell), static_cast<Cost>(cost), static_cast<std::uint8_t>(back)}, total);
  };
  const auto look = [&](const State& state) {
    const Cell cell = unpack(state.cell);
    const CellIndex index = size.index(cell);
    const Node& node = nodes_[index.value()];
    if (node.cost != state.cost) return Take::skip;  // reached more cheaply since
    if (ending.expanded == question.limit) {
      ending.reason = Reason::stopped;
      return Take::stop;
    }
    ++ending.expanded;
    if (question.trace != nullptr) {
      question.trace->push_back({index, size.index(unpack(node.parent)), state.cost, guide(state.cell)});
    }
    if (cell != question.to) return Take::expand;
    ending.reason = Reason::found;
    ending.cost = state.cost;
    ending.at = cell;
    return Take::stop;
  };
  const Jumps jumps(costs, question.to);
  const auto expand = [&](const State& state) {
    jumps.from(state, [&](Cell cell, std::uint64_t cost, unsigned back) { reach(cell, cost, back, state.cell); });
  };
  reach(question.from, 0, Worthwhile::at_start, pack(question.from));
  best_first(queue_, look, expand);
  return ending;
}

/// Between two states in the queue a way goes diagonally first, then straight.
void JumpSearch::write_way_back(const Question& question, Cell from, std::vector<Cell>& out) const {
  const Size size = question.costs.size();
  Cell cell = from;
  while (cell != question.from) {
    const Cell parent = unpack(nodes_[size.index(cell).value()].parent);
    while (cell != parent) {
      out.push_back(cell);
      const Offset left = parent - cell;
      const std::int32_t diagonals = std::min(std::abs(left.cols), std::abs(left.rows));
      const auto sign = [](std::int32_t value) { return value > 0 ? 1 : value < 0 ? -1 : 0; };
      // Backwards: the straight part comes first.
      const bool straight_cols = std::abs(left.cols) > diagonals;
      const bool straight_rows = std::abs(left.rows) > diagonals;
      cell = cell + Offset{straight_rows ? 0 : sign(left.cols), straight_cols ? 0 : sign(left.rows)};
    }
  }
  out.push_back(cell);
}

Cell JumpSearch::nearest(const Question& question) const {
  return nearest_reached(question, touched_, [&](std::uint32_t index) { return query_.knows(nodes_[index]); });
}

}  // namespace saunter::inline v0::detail
