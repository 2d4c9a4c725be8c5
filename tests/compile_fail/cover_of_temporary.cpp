// Covers live in their finder.
#include "saunter/threat/cover.hpp"

std::size_t count(const saunter::CostGrid& costs, const saunter::Levels& levels) {
#ifdef MISUSE
  return saunter::CoverFinder().find(costs, levels, {0, 0}).size();
#else
  saunter::CoverFinder finder;
  return finder.find(costs, levels, {0, 0}).size();
#endif
}
