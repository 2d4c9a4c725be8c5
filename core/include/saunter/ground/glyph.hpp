/// @file
/// Glyphs as text.
#pragma once

#include <string>

namespace saunter {

/// Appends a code point to a text as UTF-8. @pre it is a valid code point, not a surrogate
void append_glyph(std::string& text, char32_t glyph);

}  // namespace saunter
