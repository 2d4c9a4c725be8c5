#include "saunter/search/unstick.hpp"

#include <algorithm>

namespace saunter::inline v0_2 {
namespace {

/// A cell met on the way out.
struct Met {
  Cell cell;
  std::uint64_t cost = 0;
  std::size_t before = 0;  // its number
};

bool comes_first(const Met& a, const Met& b) {
  if (a.cell != b.cell) return a.cell < b.cell;
  return a.cost != b.cost ? a.cost < b.cost : a.before < b.before;
}

/// The cells one step further than those from number `first` on, each once, at its least cost.
void next_level(const CostGrid& costs, const BitGrid& seen, const std::vector<Met>& met, std::size_t first,
                std::vector<Met>& next) {
  const Neighbourhood& hood = costs.tiling().neighbourhood();
  next.clear();
  for (std::size_t i = first; i < met.size(); ++i) {
    const int kind = costs.tiling().kind(met[i].cell);
    for (unsigned d = 0; d < static_cast<unsigned>(costs.rules().steps); ++d) {
      const Cell cell = met[i].cell + hood.offset[static_cast<unsigned>(kind)][d];
      if (!costs.size().contains(cell) || seen.test(cell)) continue;
      const Length length = costs.step_length(kind, static_cast<int>(d));
      next.push_back({cell, met[i].cost + (costs.open(cell) ? step_cost(length, costs.entry(cell)) : length), i});
    }
  }
  std::sort(next.begin(), next.end(), comes_first);
  const auto same = [](const Met& a, const Met& b) { return a.cell == b.cell; };
  next.erase(std::unique(next.begin(), next.end(), same), next.end());
}

}  // namespace

std::optional<WayOut> unstick(const CostGrid& costs, Cell from) {
  if (!costs.size().contains(from)) return std::nullopt;
  if (costs.open(from)) return WayOut{{from}};
  BitGrid seen(costs.size());
  seen.set(from);
  std::vector<Met> met = {{from}};
  std::vector<Met> next;
  for (std::size_t first = 0; first < met.size();) {
    next_level(costs, seen, met, first, next);
    const Met* best = nullptr;
    for (const Met& out : next) {
      if (costs.open(out.cell) && (best == nullptr || out.cost < best->cost)) best = &out;
    }
    if (best != nullptr) {
      WayOut way{{best->cell}, 0, best->cost};
      for (std::size_t at = best->before;; at = met[at].before) {
        way.cells.push_back(met[at].cell);
        if (at == 0) break;
      }
      std::reverse(way.cells.begin(), way.cells.end());
      way.blocked = way.cells.size() - 1;
      return way;
    }
    first = met.size();
    for (const Met& further : next) seen.set(further.cell);
    met.insert(met.end(), next.begin(), next.end());
  }
  return std::nullopt;
}

}  // namespace saunter::inline v0_2
