/// @file
/// The server of the page: on this machine only, for whoever knows its address.
#pragma once

#include <functional>
#include <memory>
#include <string>

#include "page/http.hpp"

namespace saunter::page {

/// Answers a question by its name ("show") and its body, in a process of its own: nothing it changes stays.
using Ask = std::function<Reply(const std::string& name, const std::string& body)>;

/// Serves the page's files and passes questions on. Everything else is refused: 403 for a wrong token, another Host,
/// another Origin, another path or method; 411 without a length, 415 for what is not plain JSON, 413 for a body and 431
/// for a head that is too large, 400 for what is no request.
class Server {
 public:
  explicit Server(Ask ask);
  ~Server();
  Server(const Server&) = delete;
  Server& operator=(const Server&) = delete;

  /// Takes the port, or any free one for 0. @return whether it could be had
  [[nodiscard]] bool bind(int port);
  /// Answers until it is stopped; questions that are being answered then are ended.
  void run();
  /// Ends `run`, which has begun or is about to begin. From any thread, and from a signal's handler.
  void stop();
  /// "http://127.0.0.1:4711/TOKEN/"; the token is made anew each time.
  [[nodiscard]] std::string address() const;

 private:
  struct Parts;
  std::unique_ptr<Parts> parts_;
};

}  // namespace saunter::page
