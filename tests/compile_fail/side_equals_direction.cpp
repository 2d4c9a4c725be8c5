// The third side and the third direction are not the same.
#include "saunter/threat/side.hpp"

bool same(saunter::Side side, saunter::Direction direction) {
#ifdef MISUSE
  return side == direction;
#else
  return side == saunter::Side{2} && direction == saunter::Direction{2};
#endif
}
