// A rule keeps the grid it looks at by reference.
#include "saunter/place/rule.hpp"

using namespace saunter;

BitGrid walls();

bool lies_against() {
#ifdef MISUSE
  const Rule rule = against(Tiling::square(), walls());
#else
  const BitGrid cells = walls();
  const Rule rule = against(Tiling::square(), cells);
#endif
  return rule.holds({});
}
