/// @file
/// The files of the page and the demo maps, embedded in the program.
#pragma once

#include <span>
#include <string_view>

namespace saunter::page {

struct Embedded {
  const char* name;
  std::span<const unsigned char> bytes;
};
/// All of them, as they lie in page/web and demo.
[[nodiscard]] std::span<const Embedded> embedded_files();

/// The bytes of one; empty when there is none of that name.
[[nodiscard]] std::string_view embedded_file(std::string_view name);
/// What a browser is told it is; empty for files that are not for browsers.
[[nodiscard]] std::string_view media_type(std::string_view name);

}  // namespace saunter::page
