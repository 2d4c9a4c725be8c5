// A query keeps what it is given by reference.
#include <vector>

#include "saunter/search/query.hpp"

std::vector<saunter::Source> starts();

saunter::Query query() {
#ifdef MISUSE
  return {.starts = starts()};
#else
  static const std::vector<saunter::Source> kept = starts();
  return {.starts = kept};
#endif
}
