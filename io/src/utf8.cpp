#include "utf8.hpp"

#include <utf8proc.h>

#include "saunter/io/text.hpp"

namespace saunter::inline v0_2::io::detail {

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

bool is_safe(char32_t c) {
  switch (utf8proc_category(static_cast<utf8proc_int32_t>(c))) {
    case UTF8PROC_CATEGORY_CC:  // control characters
    case UTF8PROC_CATEGORY_CF:  // what joins, splits and turns text, the soft hyphen
    case UTF8PROC_CATEGORY_CS:
    case UTF8PROC_CATEGORY_ZL:
    case UTF8PROC_CATEGORY_ZP: return false;
    default: return true;
  }
}

bool is_printable(char32_t c) {
  switch (utf8proc_category(static_cast<utf8proc_int32_t>(c))) {
    case UTF8PROC_CATEGORY_CN:  // not assigned
    case UTF8PROC_CATEGORY_CO:  // private use: looks like anything
    case UTF8PROC_CATEGORY_MN:  // marks are drawn on the character before
    case UTF8PROC_CATEGORY_MC:
    case UTF8PROC_CATEGORY_ME: return false;
    default: return is_safe(c) && columns_of(c) >= 1;
  }
}

}  // namespace saunter::inline v0_2::io::detail
