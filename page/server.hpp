/// @file
/// The server of the page: on this machine only, for whoever knows its address.
#pragma once

#include <functional>
#include <memory>
#include <string>

namespace saunter::page {

/// Larger bodies are answered by 413.
inline constexpr std::size_t most_body_bytes = 32U << 20U;

struct Reply {
  int status = 200;
  std::string type = "application/json; charset=utf-8";
  std::string body;
};
/// Answers a question by its name ("show") and its body; may be called from several threads at once.
using Ask = std::function<Reply(const std::string& name, const std::string& body)>;

/// Serves the page's files and passes questions on. Everything else is refused: 403 for a wrong token, another Host,
/// another Origin, another path or method; 411 without a length, 415 for what is not plain JSON, 413 for a body that is
/// too large.
class Server {
 public:
  explicit Server(Ask ask);
  ~Server();
  Server(const Server&) = delete;
  Server& operator=(const Server&) = delete;

  /// Takes the port, or any free one for 0. @return whether it could be had
  [[nodiscard]] bool bind(int port);
  /// Answers until it is stopped.
  void run();
  /// Ends `run`, which another thread has begun or is about to begin.
  void stop();
  /// "http://127.0.0.1:4711/TOKEN/"; the token is made anew each time.
  [[nodiscard]] std::string address() const;

 private:
  struct Parts;
  std::unique_ptr<Parts> parts_;
};

}  // namespace saunter::page
