#include "page/files.hpp"

namespace saunter::page {

std::string_view embedded_file(std::string_view name) {
  for (const Embedded& file : embedded_files()) {
    // NOLINTNEXTLINE(cppcoreguidelines-pro-type-reinterpret-cast): bytes are characters here
    if (name == file.name) return {reinterpret_cast<const char*>(file.bytes.data()), file.bytes.size()};
  }
  return {};
}

std::string_view media_type(std::string_view name) {
  if (name.ends_with(".html")) return "text/html; charset=utf-8";
  if (name.ends_with(".css")) return "text/css; charset=utf-8";
  if (name.ends_with(".js")) return "text/javascript; charset=utf-8";
  return {};
}

}  // namespace saunter::page
