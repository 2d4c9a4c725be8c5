/// @file
/// The little of UTF-8 that map drawings need.
#pragma once

#include <optional>
#include <string_view>

namespace saunter::io {

/// Takes the first code point off the text; nothing when the text does not begin with valid UTF-8 or is empty.
std::optional<char32_t> take_code_point(std::string_view& text);
/// Whether a code point is drawn as one visible character of its own: no control characters, no combining marks of the
/// common blocks, no surrogates or other non-characters. A plain space counts.
bool is_printable(char32_t code_point);

}  // namespace saunter::io
