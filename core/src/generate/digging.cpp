#include "digging.hpp"

#include <algorithm>

#include "saunter/grid/area.hpp"

namespace saunter::inline v0_2::detail {

Digging::Digging(Board board, int width, Hundredths fresh)
    : board_(board),
      width_(width),
      fresh_(static_cast<EntryCost>(std::clamp<std::uint32_t>(fresh, 100, max_entry_cost))),
      open_(board.size) {}

void Digging::dig(Cell place, std::vector<Cell>& dug) {
  for (std::int32_t row = place.row; row < place.row + width_; ++row) {
    for (std::int32_t col = place.col; col < place.col + width_; ++col) {
      if (open_.test({col, row})) continue;
      open_.set({col, row});
      dug.push_back({col, row});
      if (costs_made_) dug_since_.push_back({col, row});
    }
  }
}

bool Digging::all_fit(std::span<const Cell> places) const {
  return std::all_of(places.begin(), places.end(), [&](Cell place) { return fits(place); });
}

/// A place costs a step where all of it is dug, else what fresh ground costs.
EntryCost Digging::cost_of(Cell place) const {
  if (!fits(place)) return blocked;
  for (std::int32_t row = place.row; row < place.row + width_; ++row) {
    for (std::int32_t col = place.col; col < place.col + width_; ++col) {
      if (!open_.test({col, row})) return fresh_;
    }
  }
  return 100;
}

void Digging::cheapest(Cell from, Cell to, std::vector<Cell>& out) {
  if (!costs_made_) {
    costs_ = CostGrid(board_, {.steps = board_.tiling.edge_count()}, [&](Cell place) { return cost_of(place); });
    costs_made_ = true;
  }
  for (const Cell cell : dug_since_) {
    for (std::int32_t row = cell.row - width_ + 1; row <= cell.row; ++row) {
      for (std::int32_t col = cell.col - width_ + 1; col <= cell.col; ++col) {
        const Cell place{col, row};
        if (fits(place)) (void)costs_.set_entry(place, cost_of(place));
      }
    }
  }
  dug_since_.clear();
  const Route& route = searcher_.route(costs_, from, to);
  out.assign(route.cells().begin(), route.cells().end());
}

void Digging::path(CorridorShape shape, Cell from, Cell to, Dice& dice, std::vector<Cell>& out) {
  if (shape == CorridorShape::straight) {
    line_of_cells(board_.tiling, from, to, out, LineKind::edges);
  } else if (shape == CorridorShape::dog_leg) {
    const Cell bend = dice.pick(2) == 0 ? Cell{to.col, from.row} : Cell{from.col, to.row};
    std::vector<Cell> second;
    line_of_cells(board_.tiling, from, bend, out, LineKind::edges);
    line_of_cells(board_.tiling, bend, to, second, LineKind::edges);
    out.insert(out.end(), second.begin() + 1, second.end());
  }
  // Lines over hexes and triangles weave from side to side: one along the rim may leave what can be dug.
  if (shape == CorridorShape::cheapest || !all_fit(out)) cheapest(from, to, out);
}

}  // namespace saunter::inline v0_2::detail
