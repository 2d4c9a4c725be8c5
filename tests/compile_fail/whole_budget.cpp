// A bare number has no unit, whatever its type: 8 could be steps or hundredths.
#include "saunter/search/searcher.hpp"

using namespace saunter;

const RouteOptions options{
#ifdef MISUSE
    .budget = std::uint32_t{8}
#else
    .budget = 8_steps
#endif
};
