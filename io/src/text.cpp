#include "saunter/io/text.hpp"

#include <utf8proc.h>

#include "utf8.hpp"

namespace saunter::inline v0_2::io {
using namespace detail;

std::string printable(std::string_view text, bool lines) {
  std::string out;
  out.reserve(text.size());
  while (!text.empty()) {
    const std::string_view before = text;
    const auto code_point = take_code_point(text);
    if (!code_point) {
      out += '?';
      text.remove_prefix(1);
    } else if ((lines && *code_point == U'\n') || is_safe(*code_point)) {
      out += before.substr(0, before.size() - text.size());
    } else {
      out += *code_point < 0x20 ? ' ' : '?';
    }
  }
  return out;
}

std::string shown(std::string_view text) {
  constexpr std::size_t longest = 60;
  if (text.size() <= longest) return "\"" + printable(text) + "\"";
  // Not within a character.
  std::size_t end = longest;
  while (end > 0 && (static_cast<unsigned char>(text[end]) & 0xC0U) == 0x80) --end;
  return "\"" + printable(text.substr(0, end)) + "...\"";
}

int columns_of(char32_t code_point) { return utf8proc_charwidth(static_cast<utf8proc_int32_t>(code_point)); }

int bracket_depth(std::string_view text) {
  int depth = 0;
  int deepest = 0;
  bool in_text = false;
  for (std::size_t i = 0; i < text.size(); ++i) {
    if (in_text && text[i] == '\\') {
      ++i;
    } else if (text[i] == '"') {
      in_text = !in_text;
    } else if (!in_text && (text[i] == '[' || text[i] == '{')) {
      deepest = std::max(deepest, ++depth);
    } else if (!in_text && (text[i] == ']' || text[i] == '}')) {
      --depth;
    }
  }
  return deepest;
}

}  // namespace saunter::inline v0_2::io
