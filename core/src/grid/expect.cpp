#include "saunter/grid/expect.hpp"

#include <atomic>
#include <cstdio>  // the one place of the core that says anything: a checked build's last words
#include <cstdlib>

namespace saunter::inline v0_2 {

namespace {

std::atomic<PromiseHandler> handler_of_program = nullptr;

}  // namespace

PromiseHandler on_broken_promise(PromiseHandler handler) { return handler_of_program.exchange(handler); }

void broken_promise(const char* condition, const char* file, int line) {
  if (const PromiseHandler handler = handler_of_program) {
    handler(condition, file, line);
    return;
  }
  (void)std::fprintf(stderr, "%s:%d: promised, but not kept: %s\n", file, line, condition);
  std::abort();
}

}  // namespace saunter::inline v0_2
