#include "saunter/ground/glyph.hpp"

namespace saunter::inline v0_2 {

void append_glyph(std::string& text, char32_t glyph) {
  if (glyph > 0x10FFFF || (glyph >= 0xD800 && glyph < 0xE000)) glyph = U'?';
  const auto put = [&](unsigned byte) { text.push_back(static_cast<char>(byte)); };
  if (glyph < 0x80) {
    put(glyph);
  } else if (glyph < 0x800) {
    put(0xC0U | (glyph >> 6U));
    put(0x80U | (glyph & 0x3FU));
  } else if (glyph < 0x10000) {
    put(0xE0U | (glyph >> 12U));
    put(0x80U | ((glyph >> 6U) & 0x3FU));
    put(0x80U | (glyph & 0x3FU));
  } else {
    put(0xF0U | (glyph >> 18U));
    put(0x80U | ((glyph >> 12U) & 0x3FU));
    put(0x80U | ((glyph >> 6U) & 0x3FU));
    put(0x80U | (glyph & 0x3FU));
  }
}

}  // namespace saunter::inline v0_2
