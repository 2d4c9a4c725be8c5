// A route lives in its searcher; asking a temporary searcher would leave it dangling.
#include "saunter/search/searcher.hpp"

saunter::Cost cost(const saunter::CostGrid& costs) {
#ifdef MISUSE
  return saunter::Searcher().route(costs, {0, 0}, {1, 1}).cost();
#else
  saunter::Searcher searcher;
  return searcher.route(costs, {0, 0}, {1, 1}).cost();
#endif
}
