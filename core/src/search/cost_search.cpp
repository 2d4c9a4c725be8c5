#include "cost_search.hpp"

#include <bit>

#include "canonical.hpp"
#include "guide.hpp"

namespace saunter {
Ending CostSearch::run(const Question& question) {
  used_wide_ = question.costs.dearest_step() > Narrow::most_cost / 2;
  if (!used_wide_) {
    const Ending ending = run_with(narrow_, question);
    if (ending.reason != too_dear) return ending;
    used_wide_ = true;
  }
  return run_with(wide_, question);
}

template <typename Marks>
Ending CostSearch::run_with(Marks& marks, const Question& question) {
  const std::size_t traced = question.trace == nullptr ? 0 : question.trace->size();
  marks.begin(question.costs.size().cell_count());
  touched_ = {};
  const Tiling tiling = question.costs.tiling();
  const Estimate estimate(question.costs, question.to);
  const Ending ending = [&] {
    switch (tiling.shape()) {
      case Shape::square: return run_guided(marks, question, SquareGuide(estimate, question.to, question.guided));
      case Shape::triangle: return run_guided(marks, question, TriangleGuide(estimate, question.guided));
      case Shape::hex_pointy:
      case Shape::hex_flat: break;
    }
    return run_guided(marks, question, HexGuide(tiling, estimate, question.to, question.guided));
  }();
  if (ending.reason == too_dear && question.trace != nullptr) question.trace->resize(traced);
  return ending;
}

template <typename Marks, typename Guide>
Ending CostSearch::run_guided(Marks& marks, const Question& question, const Guide& guide) {
  // An estimate changes by no more than the step costs.
  const std::uint64_t rise = 2 * std::uint64_t{question.costs.dearest_step()};
  if (rise > BucketLine::most_rise) {
    heap_.begin(rise);
    return expand_all<false>(marks, heap_, question, guide);
  }
  buckets_.begin(rise);
  if constexpr (std::is_same_v<Guide, SquareGuide>) {
    if (canonical(question.costs)) return expand_all<true>(marks, buckets_, question, guide);
  }
  return expand_all<false>(marks, buckets_, question, guide);
}

template <bool one_cost, typename Marks, typename Line, typename Guide>
Ending CostSearch::expand_all(Marks& marks, Line& line, const Question& question, const Guide& guide) {
  const CostGrid& costs = question.costs;
  const Size size = costs.size();
  const Tiling tiling = costs.tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  const StepTable steps(costs.board());
  onward_.prepare(costs);
  const Onward onward = onward_;
  std::array<Cost, Worthwhile::directions> fixed = {};  // step costs on a board of one cost
  if constexpr (one_cost) {
    for (unsigned d = 0; d < fixed.size(); ++d)
      fixed[d] = step_cost(costs.step_length(0, static_cast<int>(d)), costs.cheapest());
  }
  const std::uint64_t bound = question.bound;
  // From a dearer place a step could lead beyond what the marks hold.
  const std::uint64_t fitting = Marks::most_cost < max_cost ? Marks::most_cost - costs.dearest_step() : max_cost;
  const EntryCost* const entries = costs.entries().data();
  const std::uint32_t goal = pack(question.to);
  using Word = typename Marks::Value;
  Word* const known = marks.words();
  const auto mark = marks.marked(0);  // a copy the compiler can keep at hand
  Ending ending;
  const auto reach = [&](std::uint32_t packed, std::uint32_t index, std::uint64_t cost, std::uint8_t back) {
    const std::uint64_t total = cost + guide(packed);
    if (total > bound) {
      ending.cut = true;
      return;
    }
    known[index] = static_cast<Word>(mark | cost);
    line.push({packed, static_cast<Cost>(cost), back}, total);
  };
  const std::uint32_t start = size.index(question.from).value();
  touched_.take(start);
  reach(pack(question.from), start, 0, Worthwhile::at_start);
  while (!line.empty()) {
    const Place place = line.pop();
    const Cell cell = unpack(place.cell);
    const std::uint32_t index = size.index(cell).value();
    if (known[index] != (mark | place.cost)) continue;  // reached more cheaply since
    if (ending.expanded == question.limit) {
      ending.reason = Reason::stopped;
      return ending;
    }
    ++ending.expanded;
    touched_.take(index);
    const auto kind = static_cast<unsigned>(tiling.kind(cell));
    if (question.trace != nullptr) {
      const bool first = place.back == Worthwhile::at_start;
      const std::uint32_t parent = first ? index : index + steps.index[kind][place.back];
      question.trace->push_back({CellIndex{index}, CellIndex{parent}, place.cost, guide(place.cell)});
    }
    if (place.cell == goal) {
      ending.reason = Reason::found;
      ending.cost = place.cost;
      return ending;
    }
    if (place.cost > fitting) {
      ending.reason = too_dear;
      return ending;
    }
    unsigned left = one_cost ? worthwhile.of(costs.moves_by_table(cell), place.back)
                             : costs.moves(cell) & onward.of(kind, place.back);
    for (; left != 0; left &= left - 1) {
      const auto d = static_cast<unsigned>(std::countr_zero(left));
      const std::uint32_t next = index + steps.index[kind][d];
      Cost step = 0;
      if constexpr (one_cost) {
        step = fixed[d];
      } else {
        step = step_cost(costs.step_length(static_cast<int>(kind), static_cast<int>(d)), entries[next]);
      }
      const std::uint64_t cost = std::uint64_t{place.cost} + step;
      if (cost > max_cost) {
        ending.cut = true;
        continue;
      }
      if (known[next] <= (mark | cost)) continue;
      reach(place.cell + steps.packed[kind][d], next, cost, hood.opposite[kind][d]);
    }
  }
  return ending;
}

void CostSearch::write_way_back(const Question& question, Cell from, std::vector<Cell>& out) const {
  if (used_wide_) {
    walk_back(wide_, question, from, out);
  } else {
    walk_back(narrow_, question, from, out);
  }
}

/// Every reached cell has a neighbour that is cheaper by exactly the step from there: costs only fall on the way. Goes
/// straight on where it can, which looks natural and costs nothing.
template <typename Marks>
void CostSearch::walk_back(const Marks& marks, const Question& question, Cell from, std::vector<Cell>& out) const {
  const CostGrid& costs = question.costs;
  const Size size = costs.size();
  const Neighbourhood& hood = costs.tiling().neighbourhood();
  const auto count = static_cast<unsigned>(costs.rules().steps);
  Cell cell = from;
  unsigned straight = 0;
  while (cell != question.from) {
    out.push_back(cell);
    const auto kind = static_cast<unsigned>(costs.tiling().kind(cell));
    const std::uint64_t cost = marks.cost(size.index(cell).value());
    const auto leads_here = [&](unsigned d) {
      const Cell before = cell + hood.offset[kind][d];
      if (!size.contains(before)) return false;
      const CellIndex index = size.index(before);
      const unsigned back = hood.opposite[kind][d];
      if (!marks.knows(index.value()) || (costs.moves(before) >> back & 1U) == 0) return false;
      const int before_kind = hood.kind_after[kind][d];
      return marks.cost(index.value()) +
                 step_cost(costs.step_length(before_kind, static_cast<int>(back)), costs.entry(cell)) ==
             cost;
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

Cell CostSearch::nearest(const Question& question) const {
  return nearest_reached(question, touched_,
                         [&](std::uint32_t index) { return used_wide_ ? wide_.knows(index) : narrow_.knows(index); });
}

}  // namespace saunter
