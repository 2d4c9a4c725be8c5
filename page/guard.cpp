#include "page/guard.hpp"

#include <random>

namespace saunter::page {
namespace {

std::string random_token() {
  std::random_device device;  // the system's own source of chance
  constexpr std::string_view digits = "0123456789abcdef";
  std::string token;
  for (int i = 0; i < 4; ++i) {
    std::uint32_t word = device();
    for (int k = 0; k < 8; ++k, word >>= 4U) token += digits[word & 15U];
  }
  return token;
}

/// Takes as long whatever differs.
bool same(std::string_view a, std::string_view b) {
  if (a.size() != b.size()) return false;
  unsigned differ = 0;
  for (std::size_t i = 0; i < a.size(); ++i) {
    differ |= static_cast<unsigned>(static_cast<unsigned char>(a[i]) ^ static_cast<unsigned char>(b[i]));
  }
  return differ == 0;
}

}  // namespace

Guard::Guard() : token_(random_token()) {}

void Guard::set_port(int port) {
  host_ = "127.0.0.1:" + std::to_string(port);
  by_name_ = "localhost:" + std::to_string(port);
}

std::optional<std::string_view> Guard::path_of(std::string_view path) const {
  if (path.size() < token_.size() + 2 || path.front() != '/' || path[token_.size() + 1] != '/') return std::nullopt;
  if (!same(path.substr(1, token_.size()), token_)) return std::nullopt;
  return path.substr(token_.size() + 2);
}

bool Guard::may_ask(std::string_view host, std::string_view origin, std::string_view site) const {
  if (!is_ours(host)) return false;
  if (!site.empty() && site != "same-origin" && site != "none") return false;
  if (origin.empty()) return true;
  constexpr std::string_view scheme = "http://";
  return origin.starts_with(scheme) && is_ours(origin.substr(scheme.size()));
}

}  // namespace saunter::page
