/// @file
/// The little of UTF-8 that map drawings need.
#pragma once

#include <optional>
#include <string_view>

namespace saunter::inline v0_2::io::detail {

/// Takes the first code point off the text; nothing when the text does not begin with valid UTF-8 or is empty.
std::optional<char32_t> take_code_point(std::string_view& text);
/// Whether a terminal shows it and does nothing else: no control characters, no separators of lines and paragraphs,
/// nothing that turns the direction of text.
bool is_safe(char32_t code_point);
/// Whether it is drawn as one visible character of its own: safe, assigned, no mark that combines with another (by the
/// tables of utf8proc). A plain space counts.
bool is_printable(char32_t code_point);

}  // namespace saunter::inline v0_2::io::detail
