#include "saunter/walk/trail.hpp"

namespace saunter::inline v0 {

std::vector<Cell> Trail::cells() const {
  std::vector<Cell> cells;
  cells.reserve(steps_.size() + 1);
  for_each_cell([&](Cell cell) { cells.push_back(cell); });
  return cells;
}

/// From each cell on by its last exit: what lies between two visits is left out.
std::vector<Cell> Trail::without_loops() const {
  const Neighbourhood& hood = board_.tiling.neighbourhood();
  const auto next = [&](Cell cell, std::uint8_t exit) {
    return cell + hood.offset[static_cast<unsigned>(board_.tiling.kind(cell))][exit];
  };
  Grid<std::uint8_t> last_exit(board_.size);
  Cell last = from_;
  for (const std::uint8_t step : steps_) {
    last_exit.values()[board_.size.index(last).value()] = step;
    last = next(last, step);
  }
  std::vector<Cell> way = {from_};
  for (Cell cell = from_; cell != last;) {
    cell = next(cell, last_exit[cell]);
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

}  // namespace saunter::inline v0
