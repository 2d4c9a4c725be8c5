#include "jump_search.hpp"

#include <algorithm>
#include <bit>

#include "back_flood.hpp"
#include "canonical.hpp"
#include "guide.hpp"
#include "kernel/best_first.hpp"

namespace saunter::inline v0_2::detail {
namespace {

constexpr std::int32_t nothing = -1;

/// How far a line of cells is open.
struct LineStop {
  std::int32_t at = 0;  // the first wall, or an open cell before it that is worth a stop
  bool open = false;
};

/// Scans one line of cells (a row, or a column of the turned grid) for the next cell beside which a wall ends.
class LineScan {
 public:
  LineScan(const BitGrid& open, std::int32_t line)
      : here_(open.row_words(line).data()),
        before_(open.row_words(line - 1).data()),
        after_(open.row_words(line + 1).data()) {}

  /// The next stop at a larger number than `from`.
  [[nodiscard]] LineStop up(std::int32_t from) const {
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
        return {static_cast<std::int32_t>(word * 64 + at) - margin, (here_[word] >> at & 1U) != 0};
      }
      wanted = ~std::uint64_t{0};
    }
  }
  /// The same towards smaller numbers.
  [[nodiscard]] LineStop down(std::int32_t from) const {
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
        return {static_cast<std::int32_t>(word * 64 + at) - margin, (here_[word] >> at & 1U) != 0};
      }
      wanted = ~std::uint64_t{0};
    }
  }

 private:
  static constexpr auto margin = static_cast<std::int32_t>(BitGrid::margin);

  const std::uint64_t* here_;
  const std::uint64_t* before_;
  const std::uint64_t* after_;
};

/// Where a way may end, looked for along lines: one cell.
class OneAlong {
 public:
  explicit OneAlong(Cell at) : at_(at) {}
  /// The nearest end on a line (a row where `across`, else a column) strictly between two places, or nothing.
  [[nodiscard]] std::int32_t between(bool across, std::int32_t line, std::int32_t from, std::int32_t to) const {
    const std::int32_t place = across ? at_.col : at_.row;
    const bool on_line = (across ? at_.row : at_.col) == line;
    return on_line && (from < place) == (place < to) && from != place && to != place ? place : nothing;
  }
  [[nodiscard]] bool is(Cell cell) const { return cell == at_; }

 private:
  Cell at_;
};
/// A few.
class FewAlong {
 public:
  explicit FewAlong(const Goals& goals) {
    for (const Goals::Accepted& accepted : goals.accepted()) {
      ends_[count_++] = accepted.cell;
      box_ = box_.joined(Rect::of(accepted.cell));
    }
  }
  [[nodiscard]] std::int32_t between(bool across, std::int32_t line, std::int32_t from, std::int32_t to) const {
    if (across ? line < box_.top || line >= box_.bottom : line < box_.left || line >= box_.right) return nothing;
    std::int32_t nearest = nothing;
    for (const Cell end : ends()) {
      const std::int32_t place = OneAlong(end).between(across, line, from, to);
      if (place != nothing && (nearest == nothing || std::abs(place - from) < std::abs(nearest - from)))
        nearest = place;
    }
    return nearest;
  }
  [[nodiscard]] bool is(Cell cell) const {
    return box_.contains(cell) && std::find(ends().begin(), ends().end(), cell) != ends().end();
  }

 private:
  [[nodiscard]] std::span<const Cell> ends() const { return std::span(ends_).first(count_); }

  std::array<Cell, JumpSearch::most_ends> ends_ = {};
  std::size_t count_ = 0;
  Rect box_;
};

/// Stops along the four edge directions.
template <typename Along>
class Scanner {
 public:
  Scanner(const JumpGround& ground, const Along& along)
      : rows_(ground.rows()), columns_(ground.columns()), along_(along) {}

  /// The next stop in an edge direction, if there is one; its distance in steps comes with it.
  struct Stop {
    Cell cell;
    std::uint32_t steps = 0;
  };
  [[nodiscard]] Stop next(Cell from, unsigned direction) const {
    const bool across = direction % 2 == 1;
    const std::int32_t line = across ? from.row : from.col;
    const std::int32_t at = across ? from.col : from.row;
    const LineScan scan(across ? rows_ : columns_, line);
    const bool up = direction == 1 || direction == 2;  // east, south
    const LineStop stop = up ? scan.up(at) : scan.down(at);
    const std::int32_t end = along_.between(across, line, at, stop.at);
    if (end == nothing && !stop.open) return {};
    const std::int32_t place = end != nothing ? end : stop.at;
    return {across ? Cell{place, line} : Cell{line, place}, static_cast<std::uint32_t>(std::abs(place - at))};
  }
  [[nodiscard]] bool open(Cell cell) const {
    const auto bit = static_cast<std::size_t>(cell.col) + BitGrid::margin;
    return (rows_.row_words(cell.row)[bit / 64] >> (bit % 64) & 1U) != 0;
  }

 private:
  const BitGrid& rows_;
  const BitGrid& columns_;
  const Along& along_;
};

/// Where a state leads to: the stops along its rows, columns and diagonals.
template <typename Along>
class Jumps {
 public:
  Jumps(const CostGrid& costs, const JumpGround& ground, const Along& along)
      : costs_(costs),
        open_(ground.rows()),
        hood_(costs.tiling().neighbourhood()),
        scanner_(ground, along),
        along_(along),
        edge_(costs.lowest_entry()),
        diagonal_(step_cost(costs.rules().diagonal, costs.lowest_entry())) {}

  /// @param reach  void reach(cell, cost, direction back)
  template <typename Reach>
  void from(const State& state, Reach&& reach) const {
    const Cell cell = unpack(state.cell);
    const unsigned wanted = worthwhile.of(costs_.moves_by_table(open_, cell), state.back);
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
    const auto stop = scanner_.next(from, direction);
    if (stop.steps > 0) reach(stop.cell, cost + edge_ * stop.steps, (direction + 2) % 4);
  }
  /// Along the diagonal between the edge directions d and d + 1.
  template <typename Reach>
  void go_across(Cell from, std::uint64_t cost, unsigned d, Reach& reach) const {
    const Offset by = hood_.offset[0][4 + d];
    for (Cell at = from + by;; at = at + by) {
      cost += diagonal_;
      if (along_.is(at)) reach(at, cost, 4 + (d + 2) % 4);
      go_along(at, cost, d, reach);
      go_along(at, cost, (d + 1) % 4, reach);
      const Cell ahead = at + by;
      if (!scanner_.open({ahead.col, at.row}) || !scanner_.open({at.col, ahead.row}) || !scanner_.open(ahead)) break;
    }
  }

  const CostGrid& costs_;
  const BitGrid& open_;
  const Neighbourhood& hood_;
  const Scanner<Along> scanner_;
  const Along& along_;
  const std::uint64_t edge_;
  const std::uint64_t diagonal_;
};

}  // namespace

bool JumpSearch::suits(const CostGrid& costs) { return canonical(costs); }

bool JumpSearch::suits(const CostGrid& costs, const Beyond& beyond) {
  return suits(costs) && beyond.keeps_one_cost(costs) && beyond.dead_ends == nullptr && !beyond.goals.empty() &&
         beyond.goals.accepted().size() <= most_ends;
}

/// Measured on some forty kinds of maps (docs/performance.md): at a single blocked cell two walls end for each line
/// that ends, along a long wall one.
bool JumpSearch::pays(const CostGrid& costs) {
  if (!suits(costs)) return false;
  const CostGrid::LineCounts& lines = costs.line_counts();
  return 10 * lines.stops < 12 * lines.walls ||
         (10 * lines.stops < 16 * lines.walls && 9 * lines.stops < 2 * lines.cells);
}

Ending JumpSearch::run(const Question& question) {
  SAUNTER_EXPECT(suits(question.costs));
  ground_.begin(question.costs, question.beyond != nullptr ? &question.beyond->ground : nullptr);
  if (question.beyond == nullptr) {
    const Estimate estimate(question.costs, question.to);
    return run_to<OneEnd>(question, OneAlong(question.to), SquareGuide(estimate, question.to, question.guided));
  }
  const Goals& goals = question.beyond->goals;
  const auto to_aim = [](const Goals::Aim& aim) { return SquareGuide(aim.estimate, aim.at, true); };
  const FewAlong along(goals);
  if (question.guided && goals.aims().size() == 1) {
    return run_to<ManyEnds>(question, along, GuideWithin<SquareGuide>(to_aim(goals.aims().front()), goals));
  }
  return run_to<ManyEnds>(question, along, GuideToAny<SquareGuide>(goals, question.guided, to_aim));
}

template <typename Ends, typename Along, typename Guide>
Ending JumpSearch::run_to(const Question& question, const Along& along, const Guide& guide) {
  constexpr bool beyond = std::is_same_v<Ends, ManyEnds>;
  const CostGrid& costs = question.costs;
  const Size size = costs.size();
  const Ends ends(question);
  query_.begin(nodes_, size.cell_count());
  queue_.begin();
  touched_ = {};
  Ending ending;
  Pause pause(question, 16);  // each looks at many cells
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
    // Equals are looked at for a goal given earlier.
    if (beyond && ending.goal != Goals::none && state.cost + guide(state.cell) > ending.cost) return Take::stop;
    if (pause.due(ending) && !pause.goes_on(ending, *this)) return Take::stop;
    ++ending.expanded;
    if (question.trace != nullptr) {
      question.trace->push_back({index, size.index(unpack(node.parent)), state.cost, guide(state.cell)});
    }
    return arrives<beyond>(ending, ends.here(state.cell, cell), cell, state.cost) ? Take::stop : Take::expand;
  };
  const Jumps jumps(costs, ground_, along);
  const auto expand = [&](const State& state) {
    jumps.from(state, [&](Cell cell, std::uint64_t cost, unsigned back) { reach(cell, cost, back, state.cell); });
  };
  reach(question.from, 0, Worthwhile::at_start, pack(question.from));
  best_first(queue_, look, expand);
  if (ending.goal != Goals::none) ending.reason = Reason::found;
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

Cell JumpSearch::nearest(const Question& question) const { return nearest_reached(question, *this); }

}  // namespace saunter::inline v0_2::detail
