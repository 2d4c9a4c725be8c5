#include "zeroed.hpp"

#include <cstdlib>
#include <new>

#if __has_include(<sys/mman.h>) && !defined(__EMSCRIPTEN__) && !defined(__wasi__)
#include <sys/mman.h>
#define SAUNTER_PAGES 1
#endif

namespace saunter::inline v0_2::detail {
namespace {

[[noreturn]] void out_of_memory() {
#ifdef __cpp_exceptions
  throw std::bad_alloc();
#else
  std::abort();
#endif
}

#ifdef SAUNTER_PAGES
/// Some allocators clear memory that had been used before byte by byte; the system's pages are zeros when touched.
constexpr std::size_t whole_pages = std::size_t{1} << 16U;
#endif

}  // namespace

void* zeroed_memory(std::size_t bytes) {
#ifdef SAUNTER_PAGES
  if (bytes >= whole_pages) {
    void* const pages = mmap(nullptr, bytes, PROT_READ | PROT_WRITE, MAP_PRIVATE | MAP_ANONYMOUS, -1, 0);
    if (pages == MAP_FAILED) out_of_memory();
    return pages;
  }
#endif
  void* const memory = std::calloc(bytes, 1);
  if (memory == nullptr) out_of_memory();
  return memory;
}

void free_zeroed(void* memory, std::size_t bytes) {
#ifdef SAUNTER_PAGES
  if (bytes >= whole_pages) {
    munmap(memory, bytes);
    return;
  }
#endif
  (void)bytes;
  std::free(memory);
}

}  // namespace saunter::inline v0_2::detail
