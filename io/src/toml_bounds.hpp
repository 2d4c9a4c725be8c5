/// @file
/// Bounds that TOML must keep before it is parsed.
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "saunter/io/result.hpp"

namespace saunter::inline v0_2::io::detail {

/// A dotted key or a table's name has at most so many parts, brackets are at most so deep: the parser and what it makes
/// call themselves once for each.
inline constexpr int most_key_parts = 32;
inline constexpr int most_bracket_depth = 32;

/// The first place where a bound is broken.
[[nodiscard]] std::optional<Error> broken_bound(std::string_view text, const std::string& name);

}  // namespace saunter::inline v0_2::io::detail
