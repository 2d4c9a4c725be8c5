#include "page/http.hpp"

#include <algorithm>
#include <charconv>

namespace saunter::page {
namespace {

std::string_view words_for(int status) {
  switch (status) {
    case 200: return "OK";
    case 400: return "Bad Request";
    case 403: return "Forbidden";
    case 408: return "Request Timeout";
    case 411: return "Length Required";
    case 413: return "Content Too Large";
    case 415: return "Unsupported Media Type";
    case 431: return "Request Header Fields Too Large";
    default: return "Internal Server Error";
  }
}

std::string_view trimmed(std::string_view text) {
  while (!text.empty() && (text.front() == ' ' || text.front() == '\t')) text.remove_prefix(1);
  while (!text.empty() && (text.back() == ' ' || text.back() == '\t')) text.remove_suffix(1);
  return text;
}

}  // namespace

std::string_view Head::field(std::string_view name) const {
  const auto found = std::find_if(fields.begin(), fields.end(), [&](const auto& field) { return field.first == name; });
  return found == fields.end() ? std::string_view() : std::string_view(found->second);
}

std::size_t Head::count(std::string_view name) const {
  return static_cast<std::size_t>(
      std::count_if(fields.begin(), fields.end(), [&](const auto& field) { return field.first == name; }));
}

std::optional<std::uint64_t> Head::length() const {
  const std::string_view text = field("content-length");
  std::uint64_t length = 0;
  const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), length);
  const bool whole = !text.empty() && error == std::errc{} && end == text.data() + text.size();
  return whole && count("content-length") == 1 ? std::optional(length) : std::nullopt;
}

std::optional<Head> parse_head(std::string_view text) {
  Head head;
  for (bool first = true; !text.empty() || first; first = false) {
    const std::size_t end = text.find("\r\n");
    const std::string_view line = text.substr(0, end);
    text.remove_prefix(end == std::string_view::npos ? text.size() : end + 2);
    if (std::any_of(line.begin(), line.end(), [](char c) { return c == '\0' || c == '\r' || c == '\n'; })) return {};
    if (first) {
      const std::size_t method = line.find(' ');
      const std::size_t path = method == std::string_view::npos ? method : line.find(' ', method + 1);
      if (path == std::string_view::npos || !line.substr(path + 1).starts_with("HTTP/1.")) return {};
      head.method = line.substr(0, method);
      head.path = line.substr(method + 1, path - method - 1);
      continue;
    }
    const std::size_t colon = line.find(':');
    if (colon == std::string_view::npos || colon == 0 || line.front() == ' ' || line.front() == '\t') return {};
    std::string name(line.substr(0, colon));
    for (char& c : name) c = c >= 'A' && c <= 'Z' ? static_cast<char>(c - 'A' + 'a') : c;
    head.fields.emplace_back(std::move(name), trimmed(line.substr(colon + 1)));
  }
  return head;
}

std::string bytes_of(const Reply& reply) {
  // Nothing from elsewhere is loaded, no other page shows ours or reads from it, nothing is kept.
  constexpr std::string_view safe =
      "Connection: close\r\n"
      "Content-Security-Policy: default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data: blob:; "
      "connect-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'\r\n"
      "X-Content-Type-Options: nosniff\r\n"
      "Referrer-Policy: no-referrer\r\n"
      "Cross-Origin-Resource-Policy: same-origin\r\n"
      "Cache-Control: no-store\r\n\r\n";
  std::string bytes = "HTTP/1.1 " + std::to_string(reply.status) + " " + std::string(words_for(reply.status)) +
                      "\r\nContent-Type: " + reply.type + "\r\nContent-Length: " + std::to_string(reply.body.size()) +
                      "\r\n";
  bytes += safe;
  bytes += reply.body;
  return bytes;
}

}  // namespace saunter::page
