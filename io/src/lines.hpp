/// @file
/// Text taken line by line, as every editor writes it.
#pragma once

#include <string>
#include <string_view>

namespace saunter::inline v0_2::io::detail {

/// The text without the byte order mark that some editors put before it.
std::string_view without_mark(std::string_view text);
/// Takes the first line off the text, without its end (a line feed, with or without a carriage return before it). A
/// line end at the very end of the text begins no further line. @return false when nothing was left
bool take_line(std::string_view& text, std::string_view& line);
/// The text without a byte order mark and with line feeds alone as line ends.
std::string plain_text(std::string_view text);

}  // namespace saunter::inline v0_2::io::detail
