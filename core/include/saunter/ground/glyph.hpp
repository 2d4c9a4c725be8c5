/// @file
/// Glyphs as text.
///
/// Units: one glyph, a Unicode code point.
/// Errors: what is no code point becomes ?.
/// Cost: O(1), the text grows.
/// Threads: any number, nothing is shared.
#pragma once

#include <string>

#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Appends a code point to a text as UTF-8; `?` for what is no code point.
void append_glyph(std::string& text, char32_t glyph);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
