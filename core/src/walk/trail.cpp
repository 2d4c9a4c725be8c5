#include "saunter/walk/trail.hpp"

#include "../search/kernel/pack.hpp"

namespace saunter::inline v0_2 {

std::vector<Cell> Trail::cells() const {
  std::vector<Cell> cells;
  cells.reserve(steps_.size() + 1);
  for_each_cell([&](Cell cell) { cells.push_back(cell); });
  return cells;
}

/// From each cell on by its last exit: what lies between two visits is left out. Cells go by number: one addition a
/// step, which on squares waits for nothing.
std::vector<Cell> Trail::without_loops() const {
  const Neighbourhood& hood = board_.tiling.neighbourhood();
  const detail::StepTable by(board_);
  Grid<std::uint8_t> last_exit(board_.size);
  const std::span<std::uint8_t> exits = last_exit.values();
  const std::uint32_t start = exits.empty() ? 0 : board_.size.index(from_).value();
  std::uint32_t last = start;
  if (board_.tiling.shape() == Shape::square) {
    for (const std::uint8_t step : steps_) {
      exits[last] = step;
      last += by.index[0][step];
    }
  } else {
    auto kind = static_cast<unsigned>(board_.tiling.kind(from_));
    for (const std::uint8_t step : steps_) {
      exits[last] = step;
      last += by.index[kind][step];
      kind = hood.kind_after[kind][step];
    }
  }
  std::vector<Cell> way = {from_};
  Cell cell = from_;
  for (std::uint32_t index = start; index != last;) {
    const auto kind = static_cast<unsigned>(board_.tiling.kind(cell));
    const std::uint8_t step = exits[index];
    index += by.index[kind][step];
    cell = cell + hood.offset[kind][step];
    way.push_back(cell);
  }
  return way;
}

Grid<std::uint32_t> Trail::counts() const {
  Grid<std::uint32_t> counts(board_.size);
  for_each_cell([&](Cell cell) {
    if (board_.size.contains(cell)) ++counts[cell];
  });
  return counts;
}

}  // namespace saunter::inline v0_2
