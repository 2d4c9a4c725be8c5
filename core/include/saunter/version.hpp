/// @file
/// Which Saunter this is.
///
/// Units: numbers from 0.
/// Errors: none.
/// Cost: O(1), no allocation.
/// Threads: any number, nothing is shared.
#pragma once

#include <string_view>

#include "saunter/grid/visible.hpp"

// The only place that says so: the build reads it from here. NOLINTBEGIN(modernize-macro-to-enum): for #if
#define SAUNTER_VERSION_MAJOR 0  // changes when something that worked no longer does (until 1.0: the next number)
#define SAUNTER_VERSION_MINOR 2  // changes when something is added
#define SAUNTER_VERSION_PATCH 0  // changes when something is mended
// NOLINTEND(modernize-macro-to-enum)
/// As one number that grows, for `#if`: 0.2.0 is 200, 1.2.3 is 10203.
#define SAUNTER_VERSION (SAUNTER_VERSION_MAJOR * 10000 + SAUNTER_VERSION_MINOR * 100 + SAUNTER_VERSION_PATCH)

namespace saunter {
// Named after the first two numbers (from 1.0 on the first), so that objects built with headers that do not go together
// do not link by accident. Write saunter::Route, never saunter::v0_2::Route.
inline namespace v0_2 SAUNTER_VISIBLE {

/// The version of the library that is linked, such as "0.2.0"; SAUNTER_VERSION is that of the headers. No errors, no
/// allocation, from any thread. O(1).
[[nodiscard]] std::string_view version();

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
