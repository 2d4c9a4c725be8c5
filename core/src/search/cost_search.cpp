#include "cost_search.hpp"

#include <bit>

#include "back_flood.hpp"
#include "canonical.hpp"
#include "guide.hpp"
#include "kernel/best_first.hpp"

namespace saunter::inline v0_2::detail {
namespace {

Cost highest_step(const Question& question) {
  const CostGrid& costs = question.costs;
  return question.beyond != nullptr ? step_cost(costs.longest_step(), question.beyond->ground.highest_entry())
                                    : costs.highest_step();
}

}  // namespace

Ending CostSearch::run(const Question& question) {
  marks_.begin(question.costs.size());
  const Tiling tiling = question.costs.tiling();
  switch (tiling.shape()) {
    case Shape::square:
      return run_guided(question,
                        [](const Estimate& to, Cell goal, bool guided) { return SquareGuide(to, goal, guided); });
    case Shape::triangle:
      return run_guided(question, [](const Estimate& to, Cell, bool guided) { return TriangleGuide(to, guided); });
    case Shape::hex_pointy:
    case Shape::hex_flat: break;
  }
  return run_guided(
      question, [tiling](const Estimate& to, Cell goal, bool guided) { return HexGuide(tiling, to, goal, guided); });
}

template <typename MakeGuide>
Ending CostSearch::run_guided(const Question& question, MakeGuide&& make_guide) {
  using Guide = decltype(make_guide(std::declval<const Estimate&>(), question.to, true));
  if (question.beyond == nullptr) {
    const Estimate estimate(question.costs, question.to);
    return run_to<OneEnd>(question, make_guide(estimate, question.to, question.guided));
  }
  const Goals& goals = question.beyond->goals;
  if (goals.aims().size() == 1) {
    const Goals::Aim& aim = goals.aims().front();
    const Guide guide = make_guide(aim.estimate, aim.at, question.guided);
    return run_to<ManyEnds>(question, GuideWithin<Guide>(guide, goals));
  }
  const auto to_aim = [&](const Goals::Aim& aim) { return make_guide(aim.estimate, aim.at, true); };
  return run_to<ManyEnds>(question, GuideToAny<Guide>(goals, question.guided, to_aim));
}

template <typename Ends, typename Guide>
Ending CostSearch::run_to(const Question& question, const Guide& guide) {
  if (question.danger != nullptr) {
    long_ring_.begin();
    return expand_all<Price::weighed, Ends>(long_ring_, question, guide);
  }
  // An estimate changes by no more than the step costs.
  queues_.begin(2 * std::uint64_t{highest_step(question)}, true);
  return queues_.with_steady([&](auto& queue) {
    using Queue = std::remove_reference_t<decltype(queue)>;
    if constexpr (std::is_same_v<Queue, StateRing> && Guide::squares) {
      const bool one_cost =
          canonical(question.costs) && (question.beyond == nullptr || question.beyond->keeps_one_cost(question.costs));
      if (one_cost) return expand_all<Price::one, Ends>(queue, question, guide);
    }
    return expand_all<Price::entries, Ends>(queue, question, guide);
  });
}

namespace {

/// What every step of an expansion reads. Copies, kept at hand in the loop.
template <Price price, bool beyond>
struct Moves {
  static constexpr bool one_cost = price == Price::one;

  const Question& question;
  const CostGrid& costs = question.costs;
  const Size size = costs.size();
  const Tiling tiling = costs.tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  const StepTable steps{costs.board()};
  const EntryCost* const entries = costs.entries().data();
  const Danger danger = question.danger != nullptr ? *question.danger : Danger{};
  const std::array<Cost, Worthwhile::directions> fixed = fixed_costs(costs);  // on a board of one cost

  [[nodiscard]] static std::array<Cost, Worthwhile::directions> fixed_costs(const CostGrid& costs) {
    std::array<Cost, Worthwhile::directions> fixed = {};
    for (unsigned d = 0; one_cost && d < fixed.size(); ++d) {
      fixed[d] = step_cost(costs.step_length(0, static_cast<int>(d)), costs.lowest_entry());
    }
    return fixed;
  }
  [[nodiscard]] SAUNTER_INLINE bool changed(Cell cell) const {
    if constexpr (beyond) return question.beyond->changed.contains(cell);
    return false;
  }
  /// The directions worth taking from a cell.
  [[nodiscard]] SAUNTER_INLINE unsigned from(Cell cell, unsigned kind, std::uint8_t back, const Onward& onward) const {
    unsigned left = 0;
    if constexpr (beyond) {
      left = question.beyond->moves(costs, cell);
    } else {
      left = one_cost ? costs.moves_by_table(cell) : costs.moves(cell);
    }
    return one_cost ? worthwhile.of(left, back) : left & onward.of(kind, back);
  }
  /// Whether the cell is one that may be entered, for its danger.
  [[nodiscard]] SAUNTER_INLINE bool bearable(std::uint32_t next) const {
    if constexpr (price == Price::weighed) return danger.level[next] <= danger.highest;
    return true;
  }
  [[nodiscard]] SAUNTER_INLINE std::uint64_t cost(Cell cell, unsigned kind, unsigned d, std::uint32_t next,
                                                  bool near) const {
    if constexpr (one_cost) return fixed[d];
    const EntryCost entry = beyond && near ? question.beyond->ground.entry(cell + hood.offset[kind][d]) : entries[next];
    const Length length = costs.step_length(static_cast<int>(kind), static_cast<int>(d));
    if constexpr (price == Price::weighed) return weighed_step(length, entry, danger.wary * danger.level[next]);
    return step_cost(length, entry);
  }
  // Not a call: the copies would have to lie in memory, where what is written might be part of them.
  SAUNTER_INLINE void trace(const State& state, Cell cell, std::uint32_t index, std::uint64_t estimate) const {
    const auto kind = static_cast<unsigned>(tiling.kind(cell));
    const bool first = state.back == Worthwhile::at_start;
    const std::uint32_t parent = first ? index : index + steps.index[kind][state.back];
    question.trace->push_back({CellIndex{index}, CellIndex{parent}, state.cost, estimate});
  }
};

}  // namespace

template <Price price, typename Ends, typename Queue, typename Guide>
Ending CostSearch::expand_all(Queue& queue, const Question& question, const Guide& guide) {
  constexpr bool beyond = std::is_same_v<Ends, ManyEnds>;
  const Moves<price, beyond> moves{question};
  const Ends ends(question);
  onward_.prepare(moves.costs);
  const Onward onward = onward_;
  const std::uint64_t bound = question.bound;
  std::uint32_t* const known = marks_.words();  // copies the compiler can keep at hand
  bool* const lines = marks_.lines();
  Ending ending;
  Pause pause(question, 64);
  const auto reach = [&](std::uint32_t packed, std::uint32_t index, std::uint64_t cost, std::uint8_t back)
                         SAUNTER_INLINE {
                           const std::uint64_t total = cost + guide(packed);
                           if (total > bound) {
                             ending.cut = true;
                             return;
                           }
                           known[index] = marked(cost);
                           lines[index / marks_.line] = true;
                           queue.enqueue({packed, static_cast<Cost>(cost), back}, total);
                         };
  const auto look = [&](const State& state) SAUNTER_INLINE {
    const Cell cell = unpack(state.cell);
    const std::uint32_t index = moves.size.index(cell).value();
    if (known[index] != marked(state.cost)) return Take::skip;  // reached more cheaply since
    // Equals are looked at for a goal given earlier.
    if (beyond && ending.goal != Goals::none && state.cost + guide(state.cell) > ending.cost) return Take::stop;
    if (pause.due(ending) && !pause.goes_on(ending, marks_)) return Take::stop;
    ++ending.expanded;
    marks_.expand(index);
    if (question.trace != nullptr) moves.trace(state, cell, index, guide(state.cell));
    return arrives<beyond>(ending, ends.here(state.cell, cell), cell, state.cost) ? Take::stop : Take::expand;
  };
  const auto expand = [&](const State& state) SAUNTER_INLINE {
    const Cell cell = unpack(state.cell);
    const std::uint32_t index = moves.size.index(cell).value();
    const auto kind = static_cast<unsigned>(moves.tiling.kind(cell));
    const bool near = moves.changed(cell);
    for (unsigned left = moves.from(cell, kind, state.back, onward); left != 0; left &= left - 1) {
      const auto d = static_cast<unsigned>(std::countr_zero(left));
      const std::uint32_t next = index + moves.steps.index[kind][d];
      if (!moves.bearable(next)) continue;
      const std::uint64_t cost = std::uint64_t{state.cost} + moves.cost(cell, kind, d, next, near);
      if (cost > max_cost) {
        ending.cut = true;
        continue;
      }
      if (known[next] >= marked(cost)) continue;
      reach(state.cell + moves.steps.packed[kind][d], next, cost, moves.hood.opposite[kind][d]);
    }
  };
  const std::uint32_t start = moves.size.index(question.from).value();
  marks_.expand(start);
  reach(pack(question.from), start, 0, Worthwhile::at_start);
  best_first(queue, look, expand);
  if (ending.goal != Goals::none) ending.reason = Reason::found;
  return ending;
}

/// Every reached cell has a neighbour that is cheaper by exactly the step from there: costs only fall on the way. Goes
/// straight on where it can, which looks natural and costs nothing.
void CostSearch::write_way_back(const Question& question, Cell from, std::vector<Cell>& out) const {
  const CostGrid& costs = question.costs;
  const Size size = costs.size();
  const Neighbourhood& hood = costs.tiling().neighbourhood();
  const auto count = static_cast<unsigned>(costs.rules().steps);
  Cell cell = from;
  unsigned straight = 0;
  while (cell != question.from) {
    out.push_back(cell);
    const auto kind = static_cast<unsigned>(costs.tiling().kind(cell));
    const std::uint64_t cost = std::uint32_t{~marks_[size.index(cell).value()]};
    const auto leads_here = [&](unsigned d) {
      const Cell before = cell + hood.offset[kind][d];
      if (!size.contains(before)) return false;
      const std::uint32_t known = marks_[size.index(before).value()];
      const unsigned back = hood.opposite[kind][d];
      if (known == 0 || (question.moves(before) >> back & 1U) == 0) return false;
      const int before_kind = hood.kind_after[kind][d];
      const Length length = costs.step_length(before_kind, static_cast<int>(back));
      return std::uint64_t{~known} + question.step(length, cell) == cost;
    };
    unsigned d = straight;
    if (d >= count || !leads_here(d)) {
      for (d = 0; d < count && !leads_here(d);) ++d;
    }
    SAUNTER_EXPECT(d < count);
    cell = cell + hood.offset[kind][d];
    straight = d;
  }
  out.push_back(cell);
}

}  // namespace saunter::inline v0_2::detail
