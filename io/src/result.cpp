#include "saunter/io/result.hpp"

#include "saunter/io/text.hpp"

namespace saunter::inline v0_2::io {

std::string Error::message() const {
  std::string text = file.size() <= longest_message / 2 ? file : "..." + file.substr(file.size() - longest_message / 2);
  if (line > 0) text += ":" + std::to_string(line);
  if (line > 0 && column > 0) text += ":" + std::to_string(column);
  text += ": found " + found;
  if (!expected.empty()) text += ", expected " + expected;
  text = printable(text);  // one line, and nothing a terminal would obey
  if (text.size() <= longest_message) return text;
  std::size_t end = longest_message;
  while (end > 0 && (static_cast<unsigned char>(text[end]) & 0xC0U) == 0x80) --end;
  return text.substr(0, end) + "...";
}

}  // namespace saunter::inline v0_2::io
