// Bytes as the head of a request to the page. What is taken for one has its parts within the bytes, and a length that
// is one number or none.
#include <cstdint>
#include <cstdlib>
#include <string_view>

#include "page/guard.hpp"
#include "page/http.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  const std::string_view text(reinterpret_cast<const char*>(data), size);
  const auto head = saunter::page::parse_head(text);
  if (!head) return 0;
  std::size_t bytes = head->method.size() + head->path.size();
  for (const auto& [name, value] : head->fields) bytes += name.size() + value.size();
  if (bytes > size || head->method.find('\n') != std::string::npos) std::abort();
  for (const auto& [name, value] : head->fields) {
    if (value.find_first_of("\r\n") != std::string::npos || name.empty()) std::abort();
  }
  if (head->length() && head->count("content-length") != 1) std::abort();
  const saunter::page::Guard guard;
  if (guard.path_of(head->path) && head->path.find(guard.token()) != 1) std::abort();
  (void)guard.may_ask(head->field("host"), head->field("origin"), head->field("sec-fetch-site"));
  return 0;
}
