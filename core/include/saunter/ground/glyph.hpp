/// @file
/// Glyphs as text.
#pragma once

#include <string>

#include "saunter/grid/visible.hpp"

namespace saunter SAUNTER_VISIBLE {

/// Appends a code point to a text as UTF-8; `?` for what is no code point.
void append_glyph(std::string& text, char32_t glyph);

}  // namespace saunter SAUNTER_VISIBLE
