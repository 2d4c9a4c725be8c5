/// @file
/// Text that people and terminals can be shown.
///
/// Units: bytes and code points.
/// Errors: bytes that are no UTF-8 are shown as such.
/// Cost: O(length), the text is allocated.
/// Threads: any number, nothing is shared.
#pragma once

#include <string>
#include <string_view>

#include "saunter/grid/visible.hpp"

namespace saunter::inline v0_2 {
namespace io SAUNTER_VISIBLE {

/// The text with everything a terminal would obey or a line would break at (control characters, line and paragraph
/// separators, text direction, broken UTF-8) replaced by `?`; line ends stay where `lines` says so.
[[nodiscard]] std::string printable(std::string_view text, bool lines = false);

/// The same in quotes, cut to a line's worth: what an error says was found.
[[nodiscard]] std::string shown(std::string_view text);

/// The deepest nesting of brackets in JSON, strings left aside: what is to be read is bounded by it first. O(text)
[[nodiscard]] int bracket_depth(std::string_view text);
/// Columns a character takes in a terminal: 0, 1 or 2 (utf8proc's tables).
[[nodiscard]] int columns_of(char32_t code_point);

/// How long a message may be, in bytes; longer ones are cut.
inline constexpr std::size_t longest_message = 600;

}  // namespace io SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
