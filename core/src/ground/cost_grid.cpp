#include "saunter/ground/cost_grid.hpp"

#include <algorithm>
#include <utility>

namespace saunter {
namespace {

constexpr int window_cols = 5;  // two cells left and right of the middle one: triangles reach that far

constexpr std::uint16_t window_bit(Offset o) {
  return static_cast<std::uint16_t>(1U << static_cast<unsigned>((o.rows + 1) * window_cols + o.cols + 2));
}

std::uint32_t window(const BitGrid& bits, Cell cell) {
  return bits.five_around({cell.col, cell.row - 1}) | (bits.five_around(cell) << 5U) |
         (bits.five_around({cell.col, cell.row + 1}) << 10U);
}

/// Which cells of the window are on the map.
std::uint32_t window_on_map(Size size, Cell cell) {
  std::uint32_t bits = 0;
  for (std::int32_t row = -1; row <= 1; ++row) {
    for (std::int32_t col = -2; col <= 2; ++col) {
      if (size.contains(cell + Offset{col, row})) bits |= window_bit({col, row});
    }
  }
  return bits;
}

}  // namespace

CostGrid::CostGrid(Board board, StepRules rules) : board_(board), rules_(rules), entry_(board.size), open_(board.size) {
  SAUNTER_EXPECT(!mover_problem(board.tiling, Mover{.rules = rules}));
  if (rules_.steps == 0) rules_.steps = default_steps(board.tiling);
  if (rules_.steps == 8) open_turned_ = BitGrid({board.size.rows, board.size.cols});
  const Neighbourhood& hood = board.tiling.neighbourhood();
  lengths_ = hood.length;
  for (unsigned kind = 0; kind < 2; ++kind) {
    for (unsigned d = 0; d < static_cast<unsigned>(hood.directions); ++d) {
      masks_[kind][d].target = window_bit(hood.offset[kind][d]);
      if (d < static_cast<unsigned>(hood.edges)) continue;
      if (board.tiling.shape() == Shape::square) lengths_[kind][d] = rules_.diagonal;
      for (unsigned side = 0; side < 2; ++side) {
        const CornerWay& way = hood.ways[kind][d][side];
        Offset at;
        unsigned at_kind = kind;
        for (unsigned i = 0; i + 1 < way.count; ++i) {
          at = at + hood.offset[at_kind][way.steps[i]];
          at_kind = hood.kind_after[at_kind][way.steps[i]];
          masks_[kind][d].beside[side] |= window_bit(at);
        }
      }
    }
  }
  for (unsigned d = 0; d < static_cast<unsigned>(rules_.steps); ++d) {
    longest_step_ = std::max({longest_step_, lengths_[0][d], lengths_[1][d]});
  }
  if (board.tiling.shape() != Shape::triangle) fill_table();
}

CostGrid::CostGrid(Board board, StepRules rules, std::span<const EntryCost> costs)
    : CostGrid(board, rules, [&](Cell cell) { return costs[board.size.index(cell).value()]; }) {
  SAUNTER_EXPECT(costs.size() == board.size.cell_count());
}

CostGrid::CostGrid(Board board, StepRules rules, std::span<const std::uint8_t> whole_steps)
    : CostGrid(board, rules, [&](Cell cell) { return whole_steps[board.size.index(cell).value()] * 100U; }) {
  SAUNTER_EXPECT(whole_steps.size() == board.size.cell_count());
}

/// @param around  open cells of the 5 x 3 window  @param on_map  which of them are on the map
DirectionSet CostGrid::legal_within(unsigned kind, std::uint32_t around, std::uint32_t on_map) const {
  if ((around & window_bit({0, 0})) == 0) return 0;
  const auto& masks = masks_[kind];
  const auto edges = static_cast<unsigned>(tiling().edge_count());
  const std::uint32_t beside = rules_.corners == Corners::free ? on_map : around;
  unsigned legal = 0;
  for (unsigned d = 0; d < static_cast<unsigned>(rules_.steps); ++d) {
    if ((around & masks[d].target) == 0) continue;
    if (d >= edges) {
      const bool first = (beside & masks[d].beside[0]) == masks[d].beside[0];
      const bool second = (beside & masks[d].beside[1]) == masks[d].beside[1];
      if (rules_.corners == Corners::strict ? !(first && second) : !(first || second)) continue;
    }
    legal |= 1U << d;
  }
  return static_cast<DirectionSet>(legal);
}

void CostGrid::fill_table() {
  // On squares a way round a corner never leaves the map when its end is on it.
  constexpr std::uint32_t everywhere = ~std::uint32_t{0};
  for (unsigned kind = 0; kind < 2; ++kind) {
    for (std::uint32_t open = 0; open < 512; ++open) {
      const std::uint32_t around = ((open & 7U) << 1U) | (((open >> 3U) & 7U) << 6U) | ((open >> 6U) << 11U);
      table_[kind][open] = static_cast<std::uint8_t>(legal_within(kind, around, everywhere));
    }
  }
}

DirectionSet CostGrid::triangle_moves(Cell cell) const {
  return legal_within(static_cast<unsigned>(tiling().kind(cell)), window(open_, cell),
                      rules_.corners == Corners::free ? window_on_map(size(), cell) : 0);
}

void CostGrid::find_cheapest() {
  // Blocked cells wrap to the largest value, so one minimum serves; a row at a time, while it is in the cache.
  std::uint16_t lowest = max_entry_cost;
  cheapest_cells_ = 0;
  for (std::int32_t row = 0; row < size().rows; ++row) {
    const std::span<const EntryCost> costs = std::as_const(entry_).row(row);
    std::uint16_t lowest_here = max_entry_cost;
    EntryCost highest_here = blocked;
    for (const EntryCost cost : costs) {
      lowest_here = std::min(lowest_here, static_cast<std::uint16_t>(cost - 1U));
      highest_here = std::max(highest_here, cost);
    }
    dearest_ = std::max(dearest_, highest_here);
    if (lowest_here > lowest || lowest_here == max_entry_cost) continue;
    if (lowest_here < lowest) cheapest_cells_ = 0;
    lowest = lowest_here;
    const auto cost = static_cast<EntryCost>(lowest + 1U);
    cheapest_cells_ += static_cast<std::size_t>(std::count(costs.begin(), costs.end(), cost));
  }
  cheapest_ = static_cast<EntryCost>(lowest + 1U);
}

void CostGrid::set_entry(Cell cell, EntryCost cost) {
  SAUNTER_EXPECT(!has_sides());
  const EntryCost before = entry_[cell];
  if (before == cost) return;
  entry_[cell] = cost;
  open_.set(cell, cost != blocked);
  if (open_turned_.size().cols > 0) open_turned_.set({cell.row, cell.col}, cost != blocked);
  ++revision_;
  drop_cheapest(before);
  take_cheapest(cost);
  if (cheapest_cells_ == 0) find_cheapest();
}

bool operator==(const CostGrid& a, const CostGrid& b) {
  if (a.board_ != b.board_ || a.rules_ != b.rules_ || a.entry_ != b.entry_ || a.cheapest_ != b.cheapest_) return false;
  if (!a.has_sides() && !b.has_sides()) return true;  // then the rules and entries decide
  for (std::int32_t row = 0; row < a.size().rows; ++row) {
    for (std::int32_t col = 0; col < a.size().cols; ++col) {
      if (a.moves({col, row}) != b.moves({col, row})) return false;
    }
  }
  return true;
}

}  // namespace saunter
