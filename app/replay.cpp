#include "replay.hpp"

#include <algorithm>

#include "page/standalone.hpp"
#include "saunter/io/text.hpp"

namespace saunter::app {
namespace {

/// When cells were first seen, or seen at a lower cost.
class Opened {
 public:
  explicit Opened(Size size) : best_(size) {}
  void see(std::size_t at, Cell cell, std::uint64_t cost) {
    if (best_[cell] != 0 && best_[cell] <= cost + 1) return;
    best_[cell] = cost + 1;
    at_.push_back(at);
    cells_.push_back(best_.size().index(cell).value());
    costs_.push_back(cost);
  }
  [[nodiscard]] Json json() && {
    return {{"at", std::move(at_)}, {"cells", std::move(cells_)}, {"costs", std::move(costs_)}};
  }

 private:
  Grid<std::uint64_t> best_;  // one more than the cost; 0: not seen
  Json at_ = Json::array();
  Json cells_ = Json::array();
  Json costs_ = Json::array();
};

/// Every legal neighbour of the cells checked.
Json all_opened(const CostGrid& costs, std::span<const Visit> visits, bool counts_steps) {
  Opened opened(costs.size());
  for (std::size_t i = 0; i < visits.size(); ++i) {
    const Cell from = costs.size().cell(visits[i].cell);
    if (visits[i].parent == visits[i].cell) opened.see(i, from, visits[i].cost);
    const DirectionSet moves = costs.moves(from);
    for (Direction d{0}; d < costs.tiling().direction_count(); ++d) {
      if (!holds(moves, d)) continue;
      const Cost step = counts_steps ? Cost{100} : costs.cost_of_step(from, d);
      opened.see(i, costs.tiling().neighbour(from, d), std::uint64_t{visits[i].cost} + step);
    }
  }
  return std::move(opened).json();
}

/// Of a search that skips cells: those it came back to, from when the cell they were reached from was checked.
Json later_checked(Size size, std::span<const Visit> visits) {
  Grid<std::uint32_t> first(size);  // one more than the number of a cell's first visit
  for (std::size_t i = 0; i < visits.size(); ++i) {
    std::uint32_t& number = first[size.cell(visits[i].cell)];
    if (number == 0) number = static_cast<std::uint32_t>(i + 1);
  }
  std::vector<std::pair<std::uint32_t, std::size_t>> seen;  // at which visit, which visit comes of it
  for (std::size_t i = 0; i < visits.size(); ++i) {
    const std::uint32_t parent = first[size.cell(visits[i].parent)];
    seen.emplace_back(parent == 0 ? static_cast<std::uint32_t>(i) : std::min(parent - 1, static_cast<std::uint32_t>(i)),
                      i);
  }
  std::sort(seen.begin(), seen.end());
  Opened opened(size);
  for (const auto& [at, visit] : seen) opened.see(at, size.cell(visits[visit].cell), visits[visit].cost);
  return std::move(opened).json();
}

}  // namespace

Json search_replay(const CostGrid& costs, std::span<const Visit> visits, Algorithm by, bool as_it_is) {
  const bool opens_neighbours =
      by == Algorithm::astar || by == Algorithm::dijkstra || by == Algorithm::bfs || by == Algorithm::greedy;
  const std::size_t count = visits.size();
  visits = visits.first(std::min(count, most_steps_shown));
  Json cells = Json::array();
  Json sums = Json::array();
  Json estimates = Json::array();
  Json parents = Json::array();
  for (const Visit& visit : visits) {
    cells.push_back(visit.cell.value());
    sums.push_back(visit.cost);
    estimates.push_back(visit.estimate);
    parents.push_back(visit.parent.value());
  }
  return {{"count", count},
          {"visits",
           {{"cells", std::move(cells)},
            {"costs", std::move(sums)},
            {"estimates", std::move(estimates)},
            {"parents", std::move(parents)}}},
          {"opened", opens_neighbours && as_it_is ? all_opened(costs, visits, by == Algorithm::bfs)
                                                  : later_checked(costs.size(), visits)}};
}

Json walk_replay(Size size, std::span<const Cell> cells) {
  Json trail = Json::array();
  for (const Cell cell : cells.first(std::min(cells.size(), most_steps_shown))) {
    trail.push_back(size.index(cell).value());
  }
  return {{"count", cells.size()}, {"trail", std::move(trail)}};
}

std::string page_of(const Answer& answer) {
  if (answer.scene.is_null()) throw Refused{"--page: there is nothing to show"};
  const Json data = {{"scene", answer.scene},
                     {"answer", answer.json},
                     {"replay", answer.replay},
                     {"text", io::printable(answer.text, true)}};
  return page::standalone(dumped(data));
}

}  // namespace saunter::app
