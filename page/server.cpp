#include "page/server.hpp"

#include <httplib.h>

#include <atomic>
#include <chrono>
#include <thread>

#include "page/files.hpp"
#include "page/guard.hpp"

namespace saunter::page {
namespace {

using httplib::Request;
using httplib::Response;
using Handled = httplib::Server::HandlerResponse;

void refuse(Response& response, int status, const char* why) {
  response.status = status;
  response.set_content(std::string(why) + "\n", "text/plain");
}

/// Nothing from elsewhere is loaded, no other page shows ours or reads from it, nothing is kept.
const httplib::Headers& safe_headers() {
  static const httplib::Headers headers = {
      {"Content-Security-Policy",
       "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data: blob:; connect-src 'self'; "
       "base-uri 'none'; form-action 'none'; frame-ancestors 'none'"},
      {"X-Content-Type-Options", "nosniff"},
      {"Referrer-Policy", "no-referrer"},
      {"Cross-Origin-Resource-Policy", "same-origin"},
      {"Cache-Control", "no-store"}};
  return headers;
}

}  // namespace

struct Server::Parts {
  httplib::Server http;
  Guard guard;
  Ask ask;
  std::atomic<bool> ended = false;

  /// Who asks is judged before a byte of the body is read.
  Handled judge(const Request& request, Response& response) const {
    const bool known = request.method == "GET" || request.method == "POST";
    if (!known || !guard.path_of(request.path) || request.get_header_value_count("Host") != 1 ||
        !guard.may_ask(request.get_header_value("Host"), request.get_header_value("Origin"),
                       request.get_header_value("Sec-Fetch-Site"))) {
      refuse(response, 403, "not for you");
      return Handled::Handled;
    }
    if (request.method == "GET") return Handled::Unhandled;
    const bool json = request.get_header_value("Content-Type").starts_with("application/json");
    if (!request.has_header("Content-Length")) {
      refuse(response, 411, "found no Content-Length, expected one");
    } else if (!json || request.has_header("Content-Encoding")) {  // what is packed small may be large
      refuse(response, 415, "expected plain JSON");
    } else {
      return Handled::Unhandled;
    }
    return Handled::Handled;
  }

  void give_file(const Request& request, Response& response) const {
    const std::string_view rest = guard.path_of(request.path).value();  // it was judged
    const std::string_view name = rest.empty() ? "index.html" : rest;
    const std::string_view type = media_type(name);
    const std::string_view bytes = embedded_file(name);
    if (type.empty() || bytes.empty()) return refuse(response, 403, "no such file");
    response.set_content(bytes.data(), bytes.size(), std::string(type));
  }

  void pass_on(const Request& request, Response& response) const {
    const Reply reply = ask(std::string(guard.path_of(request.path).value()), request.body);
    response.status = reply.status;
    response.set_content(reply.body, reply.type);
  }
};

Server::Server(Ask ask) : parts_(std::make_unique<Parts>()) {
  Parts& parts = *parts_;
  parts.ask = std::move(ask);
  httplib::Server& http = parts.http;
  constexpr std::size_t threads = 4;
  constexpr time_t seconds = 10;
  http.new_task_queue = [] { return new httplib::ThreadPool(threads); };  // NOLINT: the server deletes it
  http.set_payload_max_length(most_body_bytes);
  http.set_keep_alive_max_count(1);  // what is left of a refused body is not taken for a request
  http.set_read_timeout(seconds);
  http.set_write_timeout(seconds);
  // Two servers on one port would take each other's questions.
  http.set_socket_options([](socket_t socket) {
    const int yes = 1;
    (void)setsockopt(socket, SOL_SOCKET, SO_REUSEADDR, &yes, sizeof yes);
  });
  http.set_default_headers(safe_headers());
  http.set_pre_routing_handler([&parts](const Request& in, Response& out) { return parts.judge(in, out); });
  http.Get(".*", [&parts](const Request& in, Response& out) { parts.give_file(in, out); });
  http.Post(".*", [&parts](const Request& in, Response& out) { parts.pass_on(in, out); });
  http.set_exception_handler([](const Request&, Response& out, std::exception_ptr) {  // NOLINT: its signature
    refuse(out, 500, "found what should not happen, expected an answer");
  });
}

Server::~Server() = default;

bool Server::bind(int port) {
  const int bound = port == 0 ? parts_->http.bind_to_any_port("127.0.0.1")
                              : (parts_->http.bind_to_port("127.0.0.1", port) ? port : -1);
  if (bound <= 0) return false;
  parts_->guard.set_port(bound);
  return true;
}

void Server::run() {
  (void)parts_->http.listen_after_bind();
  parts_->ended = true;
}

void Server::stop() {
  // A server that does not listen yet would not hear it.
  while (!parts_->http.is_running() && !parts_->ended) std::this_thread::sleep_for(std::chrono::milliseconds(1));
  parts_->http.stop();
}

std::string Server::address() const { return parts_->guard.address(); }

}  // namespace saunter::page
