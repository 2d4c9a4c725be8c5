/// @file
/// Who may ask the server.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace saunter::page {

/// Checks that a request comes from the page itself.
class Guard {
 public:
  /// Makes a token of 128 random bits.
  Guard();
  void set_port(int port);
  [[nodiscard]] const std::string& token() const { return token_; }
  [[nodiscard]] std::string address() const { return "http://" + host_ + "/" + token_ + "/"; }

  /// What follows the token in a path: "", "style.css", "show"; nothing for another path or a wrong token.
  [[nodiscard]] std::optional<std::string_view> path_of(std::string_view path) const;
  /// Whether the Host is this machine's at our port, and Origin, where it is given, too.
  /// @param site  what the browser says of where the request began, "" when it says nothing
  [[nodiscard]] bool may_ask(std::string_view host, std::string_view origin, std::string_view site) const;

 private:
  [[nodiscard]] bool is_ours(std::string_view host) const { return host == host_ || host == by_name_; }
  std::string token_;
  std::string host_;
  std::string by_name_;
};

}  // namespace saunter::page
