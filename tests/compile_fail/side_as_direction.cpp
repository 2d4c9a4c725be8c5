// Sides (of danger) and directions (of steps) are numbered differently.
#include "saunter/threat/side.hpp"

saunter::Cell beside(saunter::Tiling tiling, saunter::Side side) {
#ifdef MISUSE
  return tiling.neighbour({0, 0}, side);
#else
  return side == saunter::Side{0} ? tiling.neighbour({0, 0}, saunter::Direction{0}) : saunter::Cell{};
#endif
}
