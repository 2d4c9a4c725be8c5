/// @file
/// An allocator that runs out when it is told to, in programs that link failing_memory.cpp.
#pragma once

#include <cstddef>

namespace saunter::test::failing_memory {

/// The next so many allocations succeed; all after them throw std::bad_alloc.
void fail_after(std::size_t allocations);
void never_fail();
/// Pieces of memory taken and not given back; allocations so far.
long held();
std::size_t taken();
/// The largest piece since it was last forgotten, bytes.
std::size_t largest();
void forget_largest();

}  // namespace saunter::test::failing_memory
