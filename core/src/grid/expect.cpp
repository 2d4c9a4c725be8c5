#include "saunter/grid/expect.hpp"

#include <cstdio>  // the one place of the core that says anything: a checked build's last words
#include <cstdlib>

namespace saunter::inline v0_2 {

// The header declares it in checked builds only.
// NOLINTNEXTLINE(readability-redundant-declaration)
[[noreturn]] void stop_at_broken_promise(const char* condition, const char* file, int line);
void stop_at_broken_promise(const char* condition, const char* file, int line) {
  (void)std::fprintf(stderr, "%s:%d: promised, but not kept: %s\n", file, line, condition);
  std::abort();
}

}  // namespace saunter::inline v0_2
