/// @file
/// Of all ways of least cost the one that looks best.
#pragma once

#include <algorithm>
#include <cstdlib>
#include <vector>

#include "kernel/legal_steps.hpp"
#include "kernel/changed_moves.hpp"

namespace saunter::inline v0_2::detail {

/// What a way is judged by among those of least cost.
struct Looks {
  std::uint32_t turns = ~std::uint32_t{0};
  std::uint64_t aside = ~std::uint64_t{0};  // sum of distances from the straight line, scaled
  std::uint8_t before = 0;                  // direction back from the cell before
  [[nodiscard]] bool none() const { return aside == ~std::uint64_t{0}; }
  friend bool operator<(const Looks& a, const Looks& b) {
    return a.turns != b.turns ? a.turns < b.turns : a.aside < b.aside;
  }
};

/// Memory that a natural way is found in. What an earlier one has left is cleared by its own list.
struct NaturalScratch {
  std::vector<std::uint32_t> position;  // among the ties, from 1; 0 elsewhere
  std::vector<std::uint32_t> ties;      // numbers of cells on ways of least cost
  std::vector<Looks> looks;             // of each tie, by the direction back it was arrived from
};

/// Finds it over what a search that has expanded all that ties has reached.
/// @tparam Reached  knows(index), cost(index) and starts(index): whether a way begins there
template <typename Reached>
class NaturalWay {
 public:
  NaturalWay(NaturalScratch& scratch, const CostGrid& costs, const ChangedMoves& ground, const Reached& reached)
      : scratch_(scratch),
        costs_(costs),
        ground_(ground),
        reached_(reached),
        tiling_(costs.tiling()),
        hood_(tiling_.neighbourhood()),
        size_(costs.size()),
        directions_(static_cast<unsigned>(costs.rules().steps)) {}

  /// Of all ways of least cost one with the fewest turns, then the least sum of distances from the straight line: over
  /// the cells on such ways, from the start on, the best way to arrive from each neighbour. The goal's end first.
  void write(Cell goal, std::vector<Cell>& out) {
    gather(goal);
    judge(goal);
    Cell cell = goal;
    unsigned back = 0;
    for (unsigned d = 1; d < directions_; ++d) {
      if (looks(goal, d) < looks(goal, back)) back = d;
    }
    for (;;) {
      out.push_back(cell);
      if (starts(cell)) break;
      const std::uint8_t back_before = looks(cell, back).before;
      cell = cell + hood_.offset[static_cast<unsigned>(tiling_.kind(cell))][back];
      back = back_before;
    }
  }

 private:
  static constexpr std::uint8_t from_nowhere = 15;
  /// A cell's centre in whole numbers, up to a stretch and a slant: both leave the order of distances from a line
  /// alone.
  struct Centre {
    std::int64_t x = 0;
    std::int64_t y = 0;
  };
  [[nodiscard]] Centre centre_of(Cell cell) const {
    if (tiling_.shape() == Shape::square) return {cell.col, cell.row};
    if (tiling_.shape() == Shape::triangle)
      return {cell.col, 3 * std::int64_t{cell.row} + (tiling_.kind(cell) == 0 ? 2 : 1)};
    const Axial axial = tiling_.to_axial(cell);
    return {axial.q, axial.r};
  }
  [[nodiscard]] std::uint32_t index(Cell cell) const { return size_.index(cell).value(); }
  [[nodiscard]] bool starts(Cell cell) const { return reached_.starts(index(cell)); }
  [[nodiscard]] Looks& looks(Cell cell, unsigned back) {
    return scratch_.looks[(scratch_.position[index(cell)] - std::size_t{1}) * directions_ + back];
  }

  /// Calls visit(cell before, direction back to it) for the steps that end a way of least cost to a cell. Directions
  /// back are told apart at one cell; directions of travel are not, where neighbours are of two kinds.
  template <typename Visit>
  void for_each_before(Cell cell, Visit&& visit) const {
    if (starts(cell)) return;
    const auto kind = static_cast<unsigned>(tiling_.kind(cell));
    const Cost cost = reached_.cost(index(cell));
    for (unsigned back = 0; back < directions_; ++back) {
      const Cell before = cell + hood_.offset[kind][back];
      if (!size_.contains(before) || !reached_.knows(index(before))) continue;
      const unsigned travel = hood_.opposite[kind][back];
      if ((unsigned{ground_.moves(before)} >> travel & 1U) == 0) continue;
      const Cost step =
          step_cost(costs_.step_length(tiling_.kind(before), static_cast<int>(travel)), ground_.entry(cell));
      if (std::uint64_t{reached_.cost(index(before))} + step == cost) visit(before, back);
    }
  }

  /// All cells on ways of least cost, from the start on.
  void gather(Cell goal) {
    auto& position = scratch_.position;
    auto& ties = scratch_.ties;
    for (const std::uint32_t tie : ties) position[tie] = 0;
    ties.clear();
    if (position.size() < size_.cell_count()) position.resize(size_.cell_count(), 0);
    const auto take = [&](Cell cell) {
      std::uint32_t& place = scratch_.position[index(cell)];
      if (place != 0) return;
      scratch_.ties.push_back(index(cell));
      place = 1;
    };
    take(goal);
    for (std::size_t i = 0; i < ties.size(); ++i)
      for_each_before(size_.cell(CellIndex{ties[i]}), [&](Cell before, unsigned) { take(before); });
    std::sort(ties.begin(), ties.end(), [&](std::uint32_t a, std::uint32_t b) {
      return reached_.cost(a) != reached_.cost(b) ? reached_.cost(a) < reached_.cost(b) : a < b;
    });
    for (std::size_t i = 0; i < ties.size(); ++i) position[ties[i]] = static_cast<std::uint32_t>(i + 1);
    scratch_.looks.assign(ties.size() * directions_, Looks{});
  }

  void judge(Cell goal) {
    const Centre a = centre_of(size_.cell(CellIndex{scratch_.ties.front()}));
    const Centre b = centre_of(goal);
    for (const std::uint32_t tie : scratch_.ties) {
      const Cell cell = size_.cell(CellIndex{tie});
      const Centre c = centre_of(cell);
      const auto aside = static_cast<std::uint64_t>(std::llabs((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)));
      for_each_before(cell, [&](Cell before, unsigned back) {
        Looks best = best_onward(before, back);
        best.aside += aside;
        looks(cell, back) = best;
      });
    }
  }
  /// The best way to a cell that is left against `back`.
  [[nodiscard]] Looks best_onward(Cell cell, unsigned back) {
    if (starts(cell)) return {0, 0, from_nowhere};
    const bool turns_tell = tiling_.shape() != Shape::triangle;  // straight ahead alternates there
    Looks best;
    for (unsigned d = 0; d < directions_; ++d) {
      Looks one = looks(cell, d);
      if (one.none()) continue;
      one.turns += turns_tell && d != back ? 1 : 0;
      one.before = static_cast<std::uint8_t>(d);
      if (one < best) best = one;
    }
    return best;
  }

  NaturalScratch& scratch_;
  const CostGrid& costs_;
  const ChangedMoves& ground_;
  const Reached& reached_;
  const Tiling tiling_;
  const Neighbourhood& hood_;
  const Size size_;
  const unsigned directions_;
};

}  // namespace saunter::inline v0_2::detail
