/// @file
/// Memory that runs out at every place in turn.
#pragma once

#include <catch2/catch.hpp>
#include <new>

#include "support/failing_memory.hpp"

namespace saunter::test {

/// Calls `work` again and again, the n-th allocation failing, n rising, until it gets through; `after` looks at what is
/// left each time it did not. @return how often memory ran out
template <typename Work, typename After>
std::size_t run_out_everywhere(Work&& work, After&& after) {
  for (std::size_t n = 0;; ++n) {
    failing_memory::fail_after(n);
    bool through = false;
    try {
      work();
      through = true;
    } catch (const std::bad_alloc&) {
    }
    failing_memory::never_fail();
    if (through) return n;
    after();
    REQUIRE(n < 100'000);
  }
}

}  // namespace saunter::test
