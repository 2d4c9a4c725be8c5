// A cell's number can't be handed over where a cell is meant.
#include "saunter/ground/cost_grid.hpp"

bool open(const saunter::CostGrid& costs, saunter::CellIndex index) {
#ifdef MISUSE
  return costs.open(index);
#else
  return costs.open(costs.size().cell(index));
#endif
}
