// A bare number is no cell number; only a Size, or saying so, makes one.
#include "saunter/grid/grid.hpp"

int first(const saunter::Grid<int>& grid) {
#ifdef MISUSE
  return grid[0U];
#else
  return grid[saunter::CellIndex{0U}];
#endif
}
