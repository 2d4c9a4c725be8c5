#include "step_search.hpp"

#include <bit>
#include <optional>

#include "../grid/even_out.hpp"
#include "back_flood.hpp"
#include "guide.hpp"
#include "step_rows.hpp"

namespace saunter::inline v0_2::detail {
namespace {

/// A cell costs so little here that looking back from one beside each eight would be felt.
constexpr std::uint64_t cheap_steps = 128;

/// Squares without diagonals: corridors, mazes.
bool four_steps(const CostGrid& costs) { return costs.tiling().shape() == Shape::square && costs.rules().steps == 4; }

/// Notes that a search is at a goal, if it is one and none given earlier was found.
void note_arrival(std::size_t goal, Cell cell, std::uint64_t cost, Ending& ending) {
  if (goal >= ending.goal) return;
  ending.goal = goal;
  ending.at = cell;
  ending.cost = cost;
  ending.reason = Reason::found;
}

}  // namespace

bool StepSearch::one_step_cost(const CostGrid& costs, const Beyond* beyond) {
  if (costs.rules().steps != costs.tiling().edge_count() || costs.lowest_entry() != costs.highest_entry()) return false;
  return beyond == nullptr || beyond->keeps_one_cost(costs);
}

/// Counts a state as expanded; false when the limit is used up.
inline bool StepSearch::take(const Question& question, const State& state, std::uint32_t index, Cell cell,
                             std::uint64_t cost, std::uint64_t estimate, Pause& pause, Ending& ending) {
  if (pause.due(ending) && !pause.goes_on(ending, marks_)) {
    if (ending.goal != Goals::none) ending.reason = Reason::found;
    return false;
  }
  ++ending.expanded;
  marks_.expand(index);
  marks_.put(index, marked(state.back));
  if (question.trace != nullptr) {
    const Size size = question.costs.size();
    const bool first = state.back == from_nowhere;
    const Tiling tiling = question.costs.tiling();
    const CellIndex parent = size.index(first ? cell : tiling.neighbour(cell, Direction(state.back)));
    question.trace->push_back({CellIndex{index}, parent, static_cast<Cost>(cost), estimate});
  }
  return true;
}

void StepSearch::settle_rest(const Question& question, std::vector<State>& line) {
  for (const State& state : line) {
    const std::uint32_t index = question.costs.size().index(unpack(state.cell)).value();
    if (!marks_.knows(index)) marks_.put(index, marked(state.back));
  }
  line.clear();
}

Ending StepSearch::by_steps(const Question& question) {
  constexpr std::uint64_t no_limit = ~std::uint64_t{0};
  return expand_by_levels(question, no_limit);
}

Ending StepSearch::expand_by_levels(const Question& question, std::uint64_t most_steps) {
  const bool four = four_steps(question.costs);
  Ending ending;
  if (question.beyond != nullptr) {
    ending = four ? expand_levels<true, ManyEnds>(question, most_steps)
                  : expand_levels<false, ManyEnds>(question, most_steps);
  } else {
    ending =
        four ? expand_levels<true, OneEnd>(question, most_steps) : expand_levels<false, OneEnd>(question, most_steps);
  }
  even_out(lines_[0], lines_[1]);
  return ending;
}

/// The legal steps at a state, as the question has them.
template <bool four, typename Ends>
class LegalSteps {
 public:
  explicit LegalSteps(const Question& question)
      : costs_(question.costs), beyond_(question.beyond), stored_(costs_.stored_moves()) {}
  [[nodiscard]] unsigned at(Cell cell, std::uint32_t index) const {
    if constexpr (std::is_same_v<Ends, ManyEnds>) return beyond_->moves(costs_, cell);
    if constexpr (!four) return costs_.moves(cell);
    return stored_.empty() ? costs_.moves_by_table(cell) : stored_[index];
  }
  /// Tells that the steps at a cell are likely to be asked for.
  void fetch(std::uint32_t index) const { prefetch(stored_, index); }

 private:
  const CostGrid& costs_;
  const Beyond* beyond_;
  std::span<const std::uint8_t> stored_;
};

/// One level after the other. On squares without diagonals the states a cell leads to are written by a table.
template <bool four, typename Ends>
Ending StepSearch::expand_levels(const Question& question, std::uint64_t most_steps) {
  const Size size = question.costs.size();
  const Tiling tiling = question.costs.tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  const StepTable steps(question.costs.board());
  const Ends ends(question);
  const LegalSteps<four, Ends> legal(question);
  marks_.begin(size);
  Row<State> level(lines_[0]);
  Row<State> beyond(lines_[1]);
  level.start_with({pack(question.from), from_nowhere});
  Ending ending;
  Pause pause(question, cheap_steps);
  for (std::uint64_t step = 0; !level.empty() && ending.goal == Goals::none; ++step) {
    ending.cut = step > most_steps;
    if (ending.cut) break;
    beyond.clear();
    beyond.make_room((four ? 3 : static_cast<std::size_t>(question.costs.rules().steps)) * level.size() + 4);
    for (std::size_t i = 0; i < level.size(); ++i) {
      const State state = level[i];
      const Cell cell = unpack(state.cell);
      const std::uint32_t index = size.index(cell).value();
      if (marks_.knows(index)) continue;
      const bool taken = take(question, state, index, cell, 100 * step, 0, pause, ending);
      if (taken) note_arrival(ends.here(state.cell, cell), cell, step, ending);
      if (!taken || ending.goal == 0) {
        level.cut();
        beyond.cut();
        settle_rest(question, lines_[0]);
        if (step < most_steps) settle_rest(question, lines_[1]);
        return ending;
      }
      const unsigned left = legal.at(cell, index);
      if constexpr (four) {
        const unsigned onward = left & ~(1U << state.back);
        beyond.add(state.cell, onward, steps.packed[0]);
        const std::uint32_t next = index + steps.index[0][fans[onward].direction[0]];  // mostly the only one
        prefetch(marks_.all(), next);
        legal.fetch(next);
      } else {
        const auto kind = static_cast<unsigned>(tiling.kind(cell));
        for_each_direction(left, [&](unsigned d) {
          if (marks_.knows(index + steps.index[kind][d])) return;
          beyond.add({state.cell + steps.packed[kind][d], hood.opposite[kind][d]});
        });
      }
    }
    swap(level, beyond);
  }
  return ending;
}

Ending StepSearch::by_cost(const Question& question) {
  SAUNTER_EXPECT(one_step_cost(question.costs, question.beyond));
  const std::uint64_t each = std::max<Cost>(1, question.costs.lowest_entry());
  if (!question.guided) {
    Ending ending = expand_by_levels(question, question.bound / each);
    ending.cost *= each;
    return ending;
  }
  const Ending ending = expand_by_totals(question);
  even_out(lines_[0], lines_[1]);
  // Only some totals need four lines: where none has, the other two take no room.
  if (lines_[2].capacity() + lines_[3].capacity() > 0) even_out(lines_[0], lines_[1], lines_[2], lines_[3]);
  return ending;
}

/// How far from its only goal the question may arrive, in steps, when that is as far from every side: from wherever one
/// comes, the first cell that counts as arrived is just so far away. Nothing where that does not hold.
std::optional<std::uint64_t> StepSearch::even_slack(const Question& question) {
  const Goals& goals = question.beyond->goals;
  if (goals.given() != 1 || goals.empty()) return std::nullopt;
  const Tiling tiling = question.costs.tiling();
  std::int64_t slack = 0;
  for (const Goals::Accepted& accepted : goals.accepted())
    slack = std::max(slack, tiling.edge_distance(accepted.cell, question.to));
  if (tiling.edge_distance(question.from, question.to) < slack) return std::nullopt;
  return static_cast<std::uint64_t>(slack);
}

Ending StepSearch::expand_by_totals(const Question& question) {
  const CostGrid& costs = question.costs;
  const Tiling tiling = costs.tiling();
  const StepRules by_edges{.steps = tiling.edge_count()};
  const auto with_guide = [&](auto&& make) {  // counts steps, not cost
    if (question.beyond == nullptr) {
      const Estimate edges(tiling, by_edges, 1, question.to);
      return expand_totals<OneEnd>(question, make(edges, question.to));
    }
    const Goals& goals = question.beyond->goals;
    if (goals.aims().size() == 1) {
      const Estimate edges(tiling, by_edges, 1, goals.aims().front().at);
      const auto guide = make(edges, goals.aims().front().at);
      return expand_totals<ManyEnds>(question, GuideWithin<std::remove_const_t<decltype(guide)>>(guide, goals));
    }
    std::array<std::optional<Estimate>, Goals::most_aims> edges;  // one for each aim, which guides refer to
    std::size_t next = 0;
    const auto to_aim = [&](const Goals::Aim& aim) {
      edges[next].emplace(tiling, by_edges, EntryCost{1}, aim.at);
      return make(*edges[next++], aim.at);
    };
    using Guide = decltype(make(*edges[0], question.to));
    return expand_totals<ManyEnds>(question, GuideToAny<Guide>(goals, true, to_aim));
  };
  if (tiling.shape() == Shape::triangle)
    return with_guide([](const Estimate& edges, Cell) { return TriangleGuide(edges, true); });
  if (tiling.is_hex())
    return with_guide([&](const Estimate& edges, Cell to) { return HexGuide(tiling, edges, to, true); });
  if (question.beyond == nullptr) return expand_totals_of_four<OneEnd>(question, 0);
  if (const auto slack = even_slack(question)) return expand_totals_of_four<ManyEnds>(question, *slack);
  return with_guide([](const Estimate& edges, Cell to) { return SquareGuide(edges, to, true); });
}

/// Totals, counted in steps, rise by 0 to 2: three stacks in turn are the whole queue. A cell counts as reached when it
/// is taken, first by the least total, so no cost is kept: it is the total less the estimate.
template <typename Ends, typename Guide>
Ending StepSearch::expand_totals(const Question& question, const Guide& guide) {
  const Size size = question.costs.size();
  const Tiling tiling = question.costs.tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  const StepTable steps(question.costs.board());
  const Ends ends(question);
  const LegalSteps<false, Ends> legal(question);
  const std::uint64_t each = std::max<Cost>(1, question.costs.lowest_entry());
  const std::uint64_t bound = question.bound / each;
  marks_.begin(size);
  for (auto& line : lines_) line.clear();
  Ending ending;
  Pause pause(question, cheap_steps);
  std::uint64_t total = guide(pack(question.from));
  ending.cut = total > bound;
  if (ending.cut) return ending;
  lines_[total & 3U].push_back({pack(question.from), from_nowhere});
  for (unsigned empty_in_a_row = 0; empty_in_a_row < 3 && ending.goal == Goals::none; ++total) {
    auto& line = lines_[total & 3U];
    empty_in_a_row = line.empty() ? empty_in_a_row + 1 : 0;
    while (!line.empty()) {
      const State state = line.back();
      line.pop_back();
      const Cell cell = unpack(state.cell);
      const std::uint32_t index = size.index(cell).value();
      if (marks_.knows(index)) continue;
      const std::uint64_t estimate = guide(state.cell);
      const std::uint64_t cost = (total - estimate) * each;
      const bool taken = take(question, state, index, cell, cost, estimate * each, pause, ending);
      if (taken) note_arrival(ends.here(state.cell, cell), cell, cost, ending);
      if (!taken || ending.goal == 0) {
        for (auto& rest : lines_) settle_rest(question, rest);
        return ending;
      }
      const auto kind = static_cast<unsigned>(tiling.kind(cell));
      for_each_direction(legal.at(cell, index), [&](unsigned d) {
        if (marks_.knows(index + steps.index[kind][d])) return;
        const std::uint32_t next = state.cell + steps.packed[kind][d];
        const std::uint64_t next_total = total + 1 + guide(next) - estimate;
        if (next_total > bound) {
          ending.cut = true;
        } else {
          lines_[next_total & 3U].push_back({next, hood.opposite[kind][d]});
        }
      });
    }
  }
  return ending;
}

/// The same on squares without diagonals towards one cell, where a total rises by 0 or by 2: two stacks.
/// @param slack  so many steps before that cell the way may end
template <typename Ends>
Ending StepSearch::expand_totals_of_four(const Question& question, std::uint64_t slack) {
  const Size size = question.costs.size();
  const StepTable steps(question.costs.board());
  const Ends ends(question);
  const LegalSteps<true, Ends> legal(question);
  const std::uint64_t each = std::max<Cost>(1, question.costs.lowest_entry());
  const std::uint64_t bound = question.bound / each + slack;
  const auto estimate = [to = question.to](Cell cell) {
    return static_cast<std::uint64_t>(std::abs(cell.col - to.col)) +
           static_cast<std::uint64_t>(std::abs(cell.row - to.row));
  };
  marks_.begin(size);
  Row<State> now(lines_[0]);
  Row<State> later(lines_[1]);
  Ending ending;
  Pause pause(question, cheap_steps);
  std::uint64_t total = estimate(question.from);
  ending.cut = total > bound;
  if (ending.cut) return ending;
  now.start_with({pack(question.from), from_nowhere});
  for (; !now.empty(); total += 2) {
    const bool last = total + 2 > bound;
    while (!now.empty()) {
      const State state = now.take_last();
      const Cell cell = unpack(state.cell);
      const std::uint32_t index = size.index(cell).value();
      if (marks_.knows(index)) continue;
      const std::uint64_t remaining = estimate(cell);
      const std::uint64_t ahead = remaining > slack ? remaining - slack : 0;
      const std::uint64_t cost = (total - remaining) * each;
      const bool taken = take(question, state, index, cell, cost, ahead * each, pause, ending);
      if (taken) note_arrival(ends.here(state.cell, cell), cell, cost, ending);
      if (!taken || ending.goal == 0) {
        now.cut();
        later.cut();
        settle_rest(question, lines_[0]);
        if (!last) settle_rest(question, lines_[1]);
        return ending;
      }
      const unsigned onward = legal.at(cell, index) & ~(1U << state.back);
      const unsigned nearer = (cell.row > question.to.row ? 1U : 0U) | (cell.col < question.to.col ? 2U : 0U) |
                              (cell.row < question.to.row ? 4U : 0U) | (cell.col > question.to.col ? 8U : 0U);
      now.make_room(4);
      later.make_room(4);
      // The rows beside are likely to be needed next.
      for (const unsigned d : {0U, 2U}) {
        const std::uint32_t beside = index + steps.index[0][d];
        prefetch(marks_.all(), beside);
        legal.fetch(beside);
      }
      later.add(state.cell, onward & ~nearer, steps.packed[0]);
      now.add(state.cell, onward & nearer, steps.packed[0]);
    }
    ending.cut = last && !later.empty();
    if (ending.cut) break;
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
    cell = cell + hood.offset[static_cast<unsigned>(tiling.kind(cell))][marks_[size.index(cell).value()] - 1U];
    out.push_back(cell);
  }
}

}  // namespace saunter::inline v0_2::detail
