#include "utf8.hpp"

namespace saunter::io {

std::optional<char32_t> take_code_point(std::string_view& text) {
  if (text.empty()) return std::nullopt;
  const auto byte = [&](std::size_t i) { return static_cast<unsigned char>(text[i]); };
  const unsigned first = byte(0);
  std::size_t length = 1;
  char32_t value = first;
  if (first >= 0x80) {
    if (first >= 0xF0 && first <= 0xF4) {
      length = 4;
      value = first & 0x07U;
    } else if (first >= 0xE0 && first < 0xF0) {
      length = 3;
      value = first & 0x0FU;
    } else if (first >= 0xC2 && first < 0xE0) {
      length = 2;
      value = first & 0x1FU;
    } else {
      return std::nullopt;
    }
  }
  if (text.size() < length) return std::nullopt;
  for (std::size_t i = 1; i < length; ++i) {
    if ((byte(i) & 0xC0U) != 0x80) return std::nullopt;
    value = (value << 6U) | (byte(i) & 0x3FU);
  }
  const bool overlong = (length == 3 && value < 0x800) || (length == 4 && value < 0x10000);
  if (overlong || value > 0x10FFFF || (value >= 0xD800 && value < 0xE000)) return std::nullopt;
  text.remove_prefix(length);
  return value;
}

bool is_printable(char32_t c) {
  if (c < 0x20 || (c >= 0x7F && c < 0xA0) || c == 0xAD) return false;
  if (c >= 0x300 && c < 0x370) return false;                                       // combining marks
  if ((c >= 0x200B && c <= 0x200F) || (c >= 0x2028 && c <= 0x202E)) return false;  // joiners, separators, directions
  if (c >= 0x2060 && c <= 0x206F) return false;
  if (c >= 0x20D0 && c <= 0x20FF) return false;
  if (c >= 0xD800 && c < 0xE000) return false;
  if ((c >= 0xFE00 && c <= 0xFE0F) || (c >= 0xFE20 && c <= 0xFE2F) || c == 0xFEFF) return false;
  if (c >= 0xE000 && c < 0xF900) return false;  // private use: looks like anything
  return (c & 0xFFFE) != 0xFFFE && c < 0xE0000;
}

}  // namespace saunter::io
