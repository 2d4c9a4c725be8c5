// A cell can't be handed over where a cell's number is meant.
#include "saunter/grid/cell.hpp"

saunter::Cell where(saunter::Size size, saunter::Cell cell) {
#ifdef MISUSE
  return size.cell(cell);
#else
  return size.cell(size.index(cell));
#endif
}
