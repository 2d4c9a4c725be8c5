#include "support/failing_memory.hpp"

#include <atomic>
#include <cstdlib>
#include <limits>
#include <new>

namespace {

constexpr std::size_t without_end = std::numeric_limits<std::size_t>::max();
std::atomic<std::size_t> left{without_end};
std::atomic<std::size_t> count{0};
std::atomic<long> pieces{0};
std::atomic<std::size_t> most{0};

void* take(std::size_t size, std::size_t alignment) {
  if (left != without_end) {
    if (left == 0) throw std::bad_alloc();
    --left;
  }
  const std::size_t wanted = size > 0 ? size : 1;
  if (wanted > most) most = wanted;
  void* const memory = alignment <= alignof(std::max_align_t)
                           ? std::malloc(wanted)
                           : std::aligned_alloc(alignment, (wanted + alignment - 1) / alignment * alignment);
  if (memory == nullptr) throw std::bad_alloc();
  ++count;
  ++pieces;
  return memory;
}
void give_back(void* memory) noexcept {
  if (memory != nullptr) --pieces;
  std::free(memory);
}

}  // namespace

namespace saunter::test::failing_memory {
void fail_after(std::size_t allocations) { left = allocations; }
void never_fail() { left = without_end; }
long held() { return pieces; }
std::size_t taken() { return count; }
std::size_t largest() { return most; }
void forget_largest() { most = 0; }
}  // namespace saunter::test::failing_memory

// The core's zeroed memory does not come from operator new; the linker leads its calls here (--wrap).
extern "C" {
void* __real__ZN7saunter4v0_26detail13zeroed_memoryEm(std::size_t bytes);
void __real__ZN7saunter4v0_26detail11free_zeroedEPvm(void* memory, std::size_t bytes);
void* __wrap__ZN7saunter4v0_26detail13zeroed_memoryEm(std::size_t bytes) {
  give_back(take(bytes, 0));  // counted, or refused
  void* const memory = __real__ZN7saunter4v0_26detail13zeroed_memoryEm(bytes);
  ++pieces;
  return memory;
}
void __wrap__ZN7saunter4v0_26detail11free_zeroedEPvm(void* memory, std::size_t bytes) {
  if (memory != nullptr) --pieces;
  __real__ZN7saunter4v0_26detail11free_zeroedEPvm(memory, bytes);
}
}

void* operator new(std::size_t size) { return take(size, 0); }
void* operator new(std::size_t size, std::align_val_t alignment) {
  return take(size, static_cast<std::size_t>(alignment));
}
void operator delete(void* memory) noexcept { give_back(memory); }
void operator delete(void* memory, std::size_t) noexcept { give_back(memory); }
void operator delete(void* memory, std::align_val_t) noexcept { give_back(memory); }
void operator delete(void* memory, std::size_t, std::align_val_t) noexcept { give_back(memory); }
