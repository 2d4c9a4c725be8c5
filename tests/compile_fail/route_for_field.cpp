// A route's number is no field's.
#include "saunter/live/live_map.hpp"

void drop(saunter::LiveMap& live, saunter::RouteId route) {
#ifdef MISUSE
  live.drop_field(route);
#else
  live.drop_route(route);
#endif
}
