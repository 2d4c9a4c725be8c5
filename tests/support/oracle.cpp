#include "oracle.hpp"

#include <algorithm>
#include <cmath>

namespace saunter::test {
namespace {

constexpr double close = 1e-6;

}  // namespace

std::vector<Cell> GroundOracle::touching(Cell cell) const {
  std::vector<Cell> found;
  for (int row = -2; row <= 2; ++row) {
    for (int col = -3; col <= 3; ++col) {
      const Cell other{cell.col + col, cell.row + row};
      if (other == cell || !map_.size().contains(other)) continue;
      const auto a = frame_.corners(cell);
      const auto b = frame_.corners(other);
      const bool touches = std::any_of(a.begin(), a.end(), [&](const auto& p) {
        return std::any_of(b.begin(), b.end(), [&](const auto& q) { return length(p - q) < close; });
      });
      if (touches) found.push_back(other);
    }
  }
  return found;
}

bool GroundOracle::share_edge(Cell a, Cell b) const { return std::abs(distance(a, b) - 1) < close; }

bool GroundOracle::uses(Cell from, Cell to) const {
  const int steps = mover_.rules.steps == 0 ? default_steps(map_.tiling()) : mover_.rules.steps;
  return share_edge(from, to) || steps == 8 || steps == 12;
}

std::vector<Cell> GroundOracle::body(Cell at) const {
  std::vector<Cell> cells;
  if (mover_.size == 1) return {at};
  const int reach = mover_.size - 1;
  for (int row = at.row - reach - 1; row <= at.row + reach + 1; ++row) {
    for (int col = at.col - reach - 1; col <= at.col + reach + 1; ++col) {
      const Cell cell{col, row};
      if (map_.tiling().shape() == Shape::square) {
        if (col >= at.col && col <= at.col + reach && row >= at.row && row <= at.row + reach) cells.push_back(cell);
      } else {
        // Hexes within n - 1 steps: inside a hexagon, so no projection on the three step directions exceeds n - 1.
        const Point away = frame_.centre(cell) - frame_.centre(at);
        bool inside = true;
        for (Direction d{0}; d < 6; ++d) {
          const Point across = frame_.centre(map_.tiling().neighbour(at, d)) - frame_.centre(at);
          const Point next = frame_.centre(map_.tiling().neighbour(at, Direction((d + 1) % 6))) - frame_.centre(at);
          // Outward normal of the side between two step directions, scaled so that a step on either side counts 1.
          const Point outward = (across + next) / 1.5;
          inside = inside && dot(away, outward) < reach + 0.5;
        }
        if (inside) cells.push_back(cell);
      }
    }
  }
  return cells;
}

EntryCost GroundOracle::entry(Cell at) const {
  EntryCost worst = 1;
  const auto covered = body(at);
  for (const Cell cell : covered) {
    if (!map_.size().contains(cell)) return blocked;
    if (occupied_ != nullptr && occupied_->test(cell)) return blocked;
    const TerrainId id = map_.terrain_at(cell);
    const EntryCost cost = mover_.cost_on(id, map_.kind(id));
    if (cost == blocked) return blocked;
    worst = std::max(worst, cost);
  }
  for (const Cell a : covered) {
    for (const Cell b : covered) {
      if (a < b && share_edge(a, b) && barrier(a, b) && barrier(b, a)) return blocked;
    }
  }
  return worst;
}

bool GroundOracle::barrier(Cell from, Cell to) const { return map_.closed(from, map_.tiling().direction(from, to)); }

bool GroundOracle::level(Cell from, Cell to) const {
  const int rise = map_.height_at(to) - map_.height_at(from);
  return !(mover_.climb && rise > *mover_.climb) && !(mover_.drop && -rise > *mover_.drop);
}

/// Where a covered cell goes when the mover steps: the same way in the world, found by its centre.
Cell GroundOracle::moved(Cell part, Cell from, Cell to) const {
  if (map_.tiling().shape() == Shape::triangle) return to;
  return frame_.cell_at(frame_.centre(part) + frame_.centre(to) - frame_.centre(from));
}

bool GroundOracle::body_step_unbarred(Cell from, Cell to) const {
  for (const Cell part : body(from)) {
    const Cell next = moved(part, from, to);
    if (!map_.size().contains(part) || !map_.size().contains(next) || barrier(part, next)) return false;
  }
  return true;
}

bool GroundOracle::body_step_level(Cell from, Cell to) const {
  for (const Cell part : body(from)) {
    const Cell next = moved(part, from, to);
    if (!map_.size().contains(part) || !map_.size().contains(next) || !level(part, next)) return false;
  }
  return true;
}

std::vector<std::vector<Cell>> GroundOracle::ways(Cell from, Cell to) const {
  // The corner both touch, then every cell round it by angle (also off the map).
  Point corner = Point{};
  for (const auto& p : frame_.corners(from)) {
    for (const auto& q : frame_.corners(to)) {
      if (length(p - q) < close) corner = p;
    }
  }
  std::vector<std::pair<double, Cell>> round;
  for (int row = -2; row <= 2; ++row) {
    for (int col = -3; col <= 3; ++col) {
      const Cell cell{from.col + col, from.row + row};
      for (const auto& p : frame_.corners(cell)) {
        if (length(p - corner) > close) continue;
        const Point away = frame_.centre(cell) - corner;
        round.emplace_back(std::atan2(away.y, away.x), cell);
      }
    }
  }
  std::sort(round.begin(), round.end());
  const auto start = std::find_if(round.begin(), round.end(), [&](const auto& r) { return r.second == from; });
  std::rotate(round.begin(), start, round.end());
  std::vector<std::vector<Cell>> both(2);
  bool past = false;
  for (std::size_t i = 1; i < round.size(); ++i) {
    if (round[i].second == to) {
      past = true;
    } else if (past) {
      both[1].insert(both[1].begin(), round[i].second);
    } else {
      both[0].push_back(round[i].second);
    }
  }
  return both;
}

bool GroundOracle::way_open(Cell from, const std::vector<Cell>& way, Cell to) const {
  Cell at = from;
  for (const Cell next : way) {
    if (!stands(next) || !body_step_unbarred(at, next) || !body_step_level(at, next)) return false;
    at = next;
  }
  return body_step_unbarred(at, to) && body_step_level(at, to);
}

bool GroundOracle::way_unbarred(Cell from, const std::vector<Cell>& way, Cell to) const {
  Cell at = from;
  for (const Cell next : way) {
    if (!map_.size().contains(next) || !body_step_unbarred(at, next)) return false;
    at = next;
  }
  return body_step_unbarred(at, to);
}

bool GroundOracle::legal(Cell from, Cell to) const {
  if (!uses(from, to) || !stands(from) || !stands(to) || !body_step_level(from, to)) return false;
  if (share_edge(from, to)) return body_step_unbarred(from, to);
  const auto round = ways(from, to);
  if (mover_.rules.corners == Corners::free) {
    return way_unbarred(from, round[0], to) || way_unbarred(from, round[1], to);
  }
  const bool first = way_open(from, round[0], to);
  const bool second = way_open(from, round[1], to);
  return mover_.rules.corners == Corners::strict ? first && second : first || second;
}

std::uint64_t GroundOracle::step_cost(Cell from, Cell to) const {
  std::uint64_t length = 100;
  if (!share_edge(from, to)) {
    if (map_.tiling().shape() == Shape::square) {
      length = mover_.rules.diagonal;
    } else {
      length = distance(from, to) > 1.9 ? 200 : 173;
    }
  }
  return (length * entry(to) + 50) / 100;
}

std::vector<std::uint64_t> least_costs(const CostGrid& costs, Cell from, bool fewest_steps) {
  const Size size = costs.size();
  struct Step {
    std::uint32_t from;
    std::uint32_t to;
    std::uint64_t cost;
  };
  std::vector<Step> steps;
  for (int row = 0; row < size.rows; ++row) {
    for (int col = 0; col < size.cols; ++col) {
      const Cell cell{col, row};
      for (Direction d{0}; d < costs.tiling().direction_count(); ++d) {
        if (((costs.moves(cell) >> d) & 1U) == 0) continue;
        const Cell next = costs.tiling().neighbour(cell, d);
        steps.push_back(
            {size.index(cell).value(), size.index(next).value(), fewest_steps ? 1 : costs.cost_of_step(cell, d)});
      }
    }
  }
  std::vector<std::uint64_t> least(size.cell_count(), never);
  least[size.index(from).value()] = 0;
  const auto relax = [&](const Step& step) {
    if (least[step.from] == never || least[step.from] + step.cost >= least[step.to]) return false;
    least[step.to] = least[step.from] + step.cost;
    return true;
  };
  for (bool changed = true; changed;) {  // forth and back: few rounds are needed
    changed = false;
    for (std::size_t i = 0; i < steps.size(); ++i) changed = relax(steps[i]) || changed;
    for (std::size_t i = steps.size(); i-- > 0;) changed = relax(steps[i]) || changed;
  }
  return least;
}

std::vector<std::uint64_t> least_costs_with_turns(const CostGrid& costs, Cell from, std::optional<Direction> heading,
                                                  std::uint64_t step_factor,
                                                  const std::function<std::uint64_t(Direction, Direction)>& turn) {
  const Size size = costs.size();
  const auto none = static_cast<std::size_t>(costs.tiling().direction_count());
  const std::size_t headings = none + 1;
  std::vector<std::uint64_t> least(size.cell_count() * headings, never);
  least[size.index(from).value() * headings + (heading ? static_cast<std::size_t>(*heading) : none)] = 0;
  for (bool changed = true; changed;) {
    changed = false;
    for (std::size_t state = 0; state < least.size(); ++state) {
      if (least[state] == never) continue;
      const Cell cell = size.cell(CellIndex{static_cast<std::uint32_t>(state / headings)});
      const std::size_t facing = state % headings;
      for (Direction d{0}; d < costs.tiling().direction_count(); ++d) {
        if (((costs.moves(cell) >> d) & 1U) == 0) continue;
        std::uint64_t sum = least[state] + step_factor * costs.cost_of_step(cell, d);
        if (facing != none) sum += turn(static_cast<Direction>(facing), d);
        std::uint64_t& there =
            least[size.index(costs.tiling().neighbour(cell, d)).value() * headings + static_cast<std::size_t>(d)];
        if (sum >= there) continue;
        there = sum;
        changed = true;
      }
    }
  }
  std::vector<std::uint64_t> by_cell(size.cell_count(), never);
  for (std::size_t state = 0; state < least.size(); ++state) {
    by_cell[state / headings] = std::min(by_cell[state / headings], least[state]);
  }
  return by_cell;
}

}  // namespace saunter::test
