#include "saunter/io/result.hpp"

namespace saunter::io {

std::string Error::message() const {
  std::string text = file;
  if (line > 0) text += ":" + std::to_string(line);
  if (line > 0 && column > 0) text += ":" + std::to_string(column);
  text += ": found " + found;
  if (!expected.empty()) text += ", expected " + expected;
  for (char& c : text) {
    if (static_cast<unsigned char>(c) < 0x20 || c == 0x7F) c = ' ';  // one line, and nothing a terminal would obey
  }
  return text;
}

}  // namespace saunter::io
