#include "saunter/region/cut_off.hpp"

#include <bit>

#include "two_way.hpp"

namespace saunter {
namespace {

/// All cells that steps lead to from a start, or that lead to it.
template <bool backwards>
BitGrid flood(const CostGrid& costs, Cell start) {
  BitGrid seen(costs.size());
  std::vector<Cell> line;
  const auto take = [&](Cell cell) {
    if (seen.test(cell)) return;
    seen.set(cell);
    line.push_back(cell);
  };
  if (costs.open(start)) take(start);
  while (!line.empty()) {
    const Cell cell = line.back();
    line.pop_back();
    unsigned left = costs.moves(cell);
    if constexpr (backwards) left = moves_into(costs, cell);
    for (; left != 0; left &= left - 1) take(costs.tiling().neighbour(cell, Direction(std::countr_zero(left))));
  }
  return seen;
}

}  // namespace

CutOff cut_off_from(const CostGrid& costs, Cell start) {
  CutOff result;
  result.reached = flood<false>(costs, start);
  // Without stored steps every step can be taken both ways.
  result.returns = costs.has_sides() ? flood<true>(costs, start) : result.reached;
  const Size size = costs.size();
  for (std::int32_t row = 0; row < size.rows; ++row) {
    for (std::int32_t col = 0; col < size.cols; ++col) {
      const Cell cell{col, row};
      if (!costs.open(cell)) continue;
      if (!result.reached.test(cell)) {
        result.cut_off.push_back(cell);
      } else if (!result.returns.test(cell)) {
        result.no_return.push_back(cell);
      }
    }
  }
  return result;
}

}  // namespace saunter
