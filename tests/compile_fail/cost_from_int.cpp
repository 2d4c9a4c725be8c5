// A function that returns int could return 65536, which would have become "blocked".
#include "saunter/ground/cost_grid.hpp"

using namespace saunter;

CostGrid grid() {
#ifdef MISUSE
  return CostGrid({Tiling::square(), {2, 2}}, {}, [](Cell) { return 65'536; });
#else
  return CostGrid({Tiling::square(), {2, 2}}, {}, [](Cell) { return 1.5_steps; });
#endif
}
