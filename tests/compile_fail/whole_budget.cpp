// A bare number has no unit: 8 could be steps or hundredths.
#include "saunter/search/searcher.hpp"

using namespace saunter;

const RouteOptions options{
#ifdef MISUSE
    .budget = 8
#else
    .budget = 8_steps
#endif
};
