/// @file
/// The door of the page's server: connections, whole requests, and the processes that answer them.
#pragma once

#include <sys/types.h>

#include <chrono>
#include <functional>
#include <list>
#include <optional>
#include <string>

#include "page/http.hpp"

namespace saunter::page {

/// Larger bodies are answered by 413.
inline constexpr std::size_t most_body_bytes = 32U << 20U;

/// Reads requests of many connections side by side in one thread that never waits for any of them, within bounds on
/// what a head may take, what all bodies together may, how long each may take and how many there may be; when there are
/// too many, the one that has waited longest for its head makes room. A whole question is answered by a process of its
/// own, at most four at a time: one that runs out of memory takes nobody along, and one whose asker is gone is ended.
class Gate {
 public:
  /// Judges a head before anything more is read: what to refuse it with.
  using Judge = std::function<std::optional<Reply>(const Head&)>;
  /// The answer; questions with a body are answered in a process of their own.
  using Answer = std::function<Reply(const Head&, const std::string& body)>;

  Gate(Judge judge, Answer answer);
  ~Gate();
  Gate(const Gate&) = delete;
  Gate& operator=(const Gate&) = delete;

  /// Listens on this machine only. @return the port, nothing when it can't be had
  [[nodiscard]] std::optional<int> bind(int port);
  /// Answers until it is stopped; then what is still being answered is ended.
  void run();
  /// Ends `run`, which has begun or is about to begin. May be called from any thread and from a signal's handler.
  void stop() const;

 private:
  using Clock = std::chrono::steady_clock;
  enum class State { head, body, queued, working, replying, draining, over };
  struct Connection {
    int socket = -1;
    State state = State::head;
    std::string in = {};
    std::string out = {};
    std::size_t sent = 0;
    std::uint64_t length = 0;  // of the body
    Head head = {};
    pid_t worker = -1;
    int pipe = -1;  // what the worker says
    Clock::time_point until = {};
  };

  void accept_some();
  void read_some(Connection& connection);
  void take_head(Connection& connection);
  void take_body(Connection& connection);
  void reply(Connection& connection, const Reply& reply);
  void begin_work(Connection& connection);
  void hear_worker(Connection& connection);
  void end_worker(Connection& connection);
  void write_some(Connection& connection);
  void drop(Connection& connection);
  void serve_once();
  [[nodiscard]] bool may_read_body(const Connection& connection) const;

  Judge judge_;
  Answer answer_;
  int listener_ = -1;
  int wake_[2] = {-1, -1};
  std::list<Connection> connections_;
  std::size_t working_ = 0;
};

}  // namespace saunter::page
