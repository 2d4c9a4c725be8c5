/// @file
/// As much of HTTP/1.1 as the page speaks: one question a connection, nothing in pieces.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace saunter::page {

struct Reply {
  int status = 200;
  std::string type = "application/json; charset=utf-8";
  std::string body;
};
/// A refusal in words.
[[nodiscard]] inline Reply refusal(int status, std::string_view why) {
  return {status, "text/plain", std::string(why) + "\n"};
}

/// What stands before a body.
struct Head {
  std::string method;
  std::string path;
  std::vector<std::pair<std::string, std::string>> fields;  ///< names in small letters

  /// The value of a field, "" without it.
  [[nodiscard]] std::string_view field(std::string_view name) const;
  [[nodiscard]] std::size_t count(std::string_view name) const;
  /// Content-Length; nothing without one, or when it is none.
  [[nodiscard]] std::optional<std::uint64_t> length() const;
};

/// Reads a head without the empty line that ends it; nothing when it is none.
[[nodiscard]] std::optional<Head> parse_head(std::string_view text);

/// The bytes of an answer, after which the connection is closed.
[[nodiscard]] std::string bytes_of(const Reply& reply);

}  // namespace saunter::page
