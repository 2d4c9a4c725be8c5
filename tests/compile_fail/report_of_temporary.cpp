// A standing route's report lives in it.
#include "saunter/live/standing_route.hpp"

saunter::Standing standing(const saunter::CostGrid& costs) {
#ifdef MISUSE
  return saunter::StandingRoute().begin(costs, {0, 0}, {1, 1}).standing;
#else
  saunter::StandingRoute route;
  return route.begin(costs, {0, 0}, {1, 1}).standing;
#endif
}
