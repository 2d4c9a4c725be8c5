/// @file
/// How the library treats misuse.
///
/// Two kinds of wrong arguments, two treatments (docs/misuse.md lists every call):
/// - What comes from *data* - files, command lines, cells a player clicked, numbers of things that may be gone - is
/// checked
///   in every build and answered: with a reason, an empty optional, false, or a stated value. Reading off the map is
///   always answered.
/// - A *broken promise* of the calling program (a grid of another size, options that contradict each other) stops a
///   checked build at once, with file and line. In other builds it does what the table says: never undefined behaviour
///   where the table names the call.
///
/// Checked are builds without NDEBUG and builds with SAUNTER_CHECKED defined; the installed library has a checked
/// variant (`saunter::core_checked`), which CMake takes for Debug builds. `on_broken_promise` sets what happens then. A
/// program may also define SAUNTER_EXPECT itself, before the first include and for the library's own build.
///
/// Units: none.
/// Errors: this is where errors of the caller are defined.
/// Cost: nothing in builds that do not check.
/// Threads: any number, nothing is shared.
#pragma once

#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {
/// Told what was promised, and where it was asked for. When it returns, the call goes on as an unchecked build's would.
using PromiseHandler = void (*)(const char* condition, const char* file, int line);
/// Sets what a broken promise does in checked builds: a message in the program's own log, a break in a debugger, an
/// exception. Null, and at first: it is told on standard error, and the program stops. From any thread. @return the one
/// before; null
PromiseHandler on_broken_promise(PromiseHandler handler);
/// What checked builds call.
void broken_promise(const char* condition, const char* file, int line);
}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter

#ifndef SAUNTER_EXPECT
#if !defined(NDEBUG) || defined(SAUNTER_CHECKED)
/// States a condition the caller promised.
#define SAUNTER_EXPECT(condition) \
  ((condition) ? static_cast<void>(0) : ::saunter::broken_promise(#condition, __FILE__, __LINE__))
#else
#define SAUNTER_EXPECT(condition) static_cast<void>(0)
#endif
#endif
