#include "saunter/region/cut_off.hpp"

#include "../search/kernel/flood.hpp"
#include "../search/kernel/legal_steps.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

/// All cells that steps lead to from a start, or that lead to it.
template <bool backwards>
BitGrid all_about(const CostGrid& costs, Cell start) {
  BitGrid seen(costs.size());
  if (!costs.open(start)) return seen;
  std::vector<Cell> line = {start};
  seen.set(start);
  const auto mark = [&](Cell cell) {
    if (seen.test(cell)) return false;
    seen.set(cell);
    return true;
  };
  flood(line, mark, [&](Cell cell, const auto& take) {
    for_each_next(costs.tiling(), backwards ? moves_into(costs, cell) : unsigned{costs.moves(cell)}, cell, take);
    return true;
  });
  return seen;
}

}  // namespace

CutOff cut_off_from(const CostGrid& costs, Cell start) {
  CutOff result;
  result.reached = all_about<false>(costs, start);
  // Without stored steps every step can be taken both ways.
  result.returns = costs.has_sides() ? all_about<true>(costs, start) : result.reached;
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

}  // namespace saunter::inline v0_2
