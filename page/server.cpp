#include "page/server.hpp"

#include "page/files.hpp"
#include "page/gate.hpp"
#include "page/guard.hpp"

namespace saunter::page {
namespace {

Reply file_named(std::string_view name) {
  const std::string_view file = name.empty() ? "index.html" : name;
  const std::string_view type = media_type(file);
  const std::string_view bytes = embedded_file(file);
  if (type.empty() || bytes.empty()) return refusal(403, "no such file");
  return {200, std::string(type), std::string(bytes)};
}

}  // namespace

struct Server::Parts {
  explicit Parts(Ask answers)
      : ask(std::move(answers)),
        gate([this](const Head& head) { return judge(head); },
             [this](const Head& head, const std::string& body) { return answer(head, body); }) {}

  /// Who asks is judged before a byte of the body is read.
  [[nodiscard]] std::optional<Reply> judge(const Head& head) const {
    const bool known = head.method == "GET" || head.method == "POST";
    const auto path = guard.path_of(head.path);
    // A browser that opens the page itself may come from anywhere: from a file, say. It knows the token.
    const bool opens_page = head.method == "GET" && path && path->empty() && head.field("sec-fetch-mode") == "navigate";
    const std::string_view site = opens_page ? std::string_view() : head.field("sec-fetch-site");
    if (!known || !path || head.count("host") != 1 || !guard.may_ask(head.field("host"), head.field("origin"), site)) {
      return refusal(403, "not for you");
    }
    if (head.method == "GET") return std::nullopt;
    if (head.count("content-length") == 0 || head.count("transfer-encoding") != 0) {
      return refusal(411, "found no Content-Length, expected one");
    }
    if (!head.length()) return refusal(400, "found no whole number as Content-Length, expected one");
    if (*head.length() > most_body_bytes) return refusal(413, "found more than 32 MB, expected less");
    // What is packed small may be large.
    const bool json = head.field("content-type").starts_with("application/json");
    if (!json || head.count("content-encoding") != 0) return refusal(415, "expected plain JSON");
    return std::nullopt;
  }

  [[nodiscard]] Reply answer(const Head& head, const std::string& body) const {
    const std::string_view name = guard.path_of(head.path).value();  // it was judged
    if (head.method == "GET") return file_named(name);
    try {
      return ask(std::string(name), body);
    } catch (...) {
      return refusal(500, "found what should not happen, expected an answer");
    }
  }

  Guard guard;
  Ask ask;
  Gate gate;
};

Server::Server(Ask ask) : parts_(std::make_unique<Parts>(std::move(ask))) {}
Server::~Server() = default;

bool Server::bind(int port) {
  const std::optional<int> bound = parts_->gate.bind(port);
  if (bound) parts_->guard.set_port(*bound);
  return bound.has_value();
}

void Server::run() { parts_->gate.run(); }
void Server::stop() { parts_->gate.stop(); }
std::string Server::address() const { return parts_->guard.address(); }

}  // namespace saunter::page
