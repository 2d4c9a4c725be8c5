/// @file
/// How the library treats a caller's broken promise (an index off the grid, a profile that does not fit its tiling).
///
/// Input from outside - files, command lines, start and goal cells of a query - is never checked this way: it gets an
/// answer with a reason. A broken promise is a bug in the calling program; builds with assertions stop at it.
#pragma once

#include <cassert>

/// States a condition the caller promised. Checked unless NDEBUG is defined; costs nothing otherwise.
#define SAUNTER_EXPECT(condition) assert(condition)
