#include "page/gate.hpp"

#include <arpa/inet.h>
#include <fcntl.h>
#include <netinet/in.h>
#include <poll.h>
#include <sys/socket.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <cerrno>
#include <csignal>
#include <vector>

namespace saunter::page {
namespace {

using namespace std::chrono_literals;

constexpr std::size_t most_connections = 64;
constexpr std::size_t most_workers = 4;
constexpr std::size_t most_head_bytes = 16U << 10U;
constexpr std::size_t most_bodies_bytes = 4 * most_body_bytes;  // of all that are on their way
constexpr auto time_for_head = 10s;
constexpr auto time_for_body = 60s;
constexpr auto time_for_reply = 60s;
constexpr auto time_to_drain = 5s;  // what a refused client still sends is read, so that it hears why

void set_up(int descriptor) {
  (void)fcntl(descriptor, F_SETFL, fcntl(descriptor, F_GETFL) | O_NONBLOCK);
  (void)fcntl(descriptor, F_SETFD, FD_CLOEXEC);
}

/// Writes all of it to somebody who reads.
void write_all(int to, std::string_view bytes) {
  while (!bytes.empty()) {
    const ssize_t written = write(to, bytes.data(), bytes.size());
    if (written < 0 && errno != EINTR) return;
    bytes.remove_prefix(static_cast<std::size_t>(std::max<ssize_t>(written, 0)));
  }
}

}  // namespace

Gate::Gate(Judge judge, Answer answer) : judge_(std::move(judge)), answer_(std::move(answer)) {
  if (pipe(wake_) == 0) {
    for (const int end : wake_) set_up(end);
  }
}

Gate::~Gate() {
  for (Connection& connection : connections_) drop(connection);
  for (const int descriptor : {listener_, wake_[0], wake_[1]}) {
    if (descriptor >= 0) (void)close(descriptor);
  }
}

std::optional<int> Gate::bind(int port) {
  listener_ = socket(AF_INET, SOCK_STREAM, 0);
  if (listener_ < 0) return std::nullopt;
  set_up(listener_);
  // A port just left is free at once; two servers on one port would take each other's questions, which this does not
  // allow.
  const int yes = 1;
  (void)setsockopt(listener_, SOL_SOCKET, SO_REUSEADDR, &yes, sizeof yes);
  sockaddr_in address = {};
  address.sin_family = AF_INET;
  address.sin_port = htons(static_cast<std::uint16_t>(port));
  address.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
  socklen_t size = sizeof address;
  const bool bound = ::bind(listener_, reinterpret_cast<const sockaddr*>(&address), size) == 0 &&
                     listen(listener_, static_cast<int>(most_connections)) == 0 &&
                     getsockname(listener_, reinterpret_cast<sockaddr*>(&address), &size) == 0;
  return bound ? std::optional<int>(ntohs(address.sin_port)) : std::nullopt;
}

void Gate::stop() const {
  const char word = 's';
  (void)!write(wake_[1], &word, 1);
}

void Gate::run() {
  for (;;) {
    char word = 0;
    if (read(wake_[0], &word, 1) == 1) break;
    serve_once();
  }
  for (Connection& connection : connections_) drop(connection);
  connections_.clear();
}

/// Waits until something happens, and does what can be done without waiting.
void Gate::serve_once() {
  std::vector<pollfd> watched = {{wake_[0], POLLIN, 0}, {listener_, POLLIN, 0}};
  for (const Connection& connection : connections_) {
    const bool reads = connection.state != State::body || may_read_body(connection);
    const short wanted = connection.state == State::replying ? POLLOUT : reads ? POLLIN : short{0};
    watched.push_back({connection.socket, wanted, 0});
    watched.push_back({connection.pipe, POLLIN, 0});
  }
  constexpr int patience = 1'000;  // milliseconds: whose time is over is seen to once a second
  (void)poll(watched.data(), static_cast<nfds_t>(watched.size()), patience);
  const Clock::time_point now = Clock::now();
  std::size_t at = 2;
  for (Connection& connection : connections_) {
    const pollfd& socket = watched[at++];
    const pollfd& pipe = watched[at++];
    if (socket.revents != 0) connection.state == State::replying ? write_some(connection) : read_some(connection);
    if (connection.state == State::working && pipe.revents != 0) hear_worker(connection);
    const bool waits = connection.state != State::queued && connection.state != State::working;
    if (waits && now > connection.until) drop(connection);
  }
  for (Connection& connection : connections_) {
    if (connection.state == State::queued && working_ < most_workers) begin_work(connection);
  }
  connections_.remove_if([](const Connection& connection) { return connection.state == State::over; });
  if (watched[1].revents != 0) accept_some();
}

void Gate::accept_some() {
  for (;;) {
    const int socket = accept(listener_, nullptr, nullptr);
    if (socket < 0) return;
    set_up(socket);
    if (connections_.size() >= most_connections) {
      // The list is in the order of arrival.
      const auto idle = std::find_if(connections_.begin(), connections_.end(), [](const Connection& connection) {
        return connection.state == State::head || connection.state == State::draining;
      });
      if (idle == connections_.end()) {
        (void)close(socket);
        continue;
      }
      drop(*idle);
      connections_.erase(idle);
    }
    connections_.push_back({.socket = socket, .until = Clock::now() + time_for_head});
  }
}

/// Bodies of the first comers, as many as are bounded together.
bool Gate::may_read_body(const Connection& connection) const {
  std::uint64_t before = 0;
  for (const Connection& other : connections_) {
    const bool has_body = other.state == State::body || other.state == State::queued || other.state == State::working;
    if (has_body) before += other.length;
    if (&other == &connection) return before <= most_bodies_bytes;
  }
  return false;
}

void Gate::read_some(Connection& connection) {
  std::array<char, 1U << 16U> bytes;  // NOLINT(cppcoreguidelines-pro-type-member-init): written before it is read
  const ssize_t got = recv(connection.socket, bytes.data(), bytes.size(), 0);
  if (got < 0 && (errno == EAGAIN || errno == EINTR)) return;
  if (got <= 0) {  // whoever asked is gone
    drop(connection);
    return;
  }
  if (connection.state != State::head && connection.state != State::body) return;  // more than was said: thrown away
  connection.in.append(bytes.data(), static_cast<std::size_t>(got));
  if (connection.state == State::head) take_head(connection);
  if (connection.state == State::body) take_body(connection);
}

void Gate::take_head(Connection& connection) {
  const std::size_t end = connection.in.find("\r\n\r\n");
  if (std::min(end, connection.in.size()) > most_head_bytes) {
    reply(connection, refusal(431, "found a head of more than 16 KB, expected less"));
    return;
  }
  if (end == std::string::npos) return;
  std::optional<Head> head = parse_head(std::string_view(connection.in).substr(0, end));
  if (!head) {
    reply(connection, refusal(400, "found what is no request, expected one"));
    return;
  }
  connection.head = std::move(*head);
  if (const std::optional<Reply> refused = judge_(connection.head)) {
    reply(connection, *refused);
    return;
  }
  connection.in.erase(0, end + 4);
  if (connection.head.method == "GET") {
    reply(connection, answer_(connection.head, {}));
    return;
  }
  connection.length = connection.head.length().value_or(0);
  connection.state = State::body;
  connection.until = Clock::now() + time_for_body;
  if (connection.head.field("expect") == "100-continue") {
    constexpr std::string_view go_on = "HTTP/1.1 100 Continue\r\n\r\n";
    (void)send(connection.socket, go_on.data(), go_on.size(), MSG_NOSIGNAL);
  }
}

void Gate::take_body(Connection& connection) {
  if (connection.in.size() < connection.length) return;
  connection.in.resize(static_cast<std::size_t>(connection.length));
  connection.state = State::queued;
}

void Gate::reply(Connection& connection, const Reply& reply) {
  connection.out = bytes_of(reply);
  connection.in = {};
  connection.state = State::replying;
  connection.until = Clock::now() + time_for_reply;
}

/// A process that shares nothing with the others answers, and says what it has found through a pipe.
void Gate::begin_work(Connection& connection) {
  int ends[2] = {-1, -1};
  const bool piped = pipe(ends) == 0;
  connection.worker = piped ? fork() : -1;
  if (connection.worker == 0) {
    for (const int signal : {SIGINT, SIGTERM, SIGHUP, SIGPIPE}) (void)std::signal(signal, SIG_DFL);
    for (const Connection& other : connections_) (void)close(other.socket);
    for (const int descriptor : {listener_, wake_[0], wake_[1], ends[0]}) (void)close(descriptor);
    write_all(ends[1], bytes_of(answer_(connection.head, connection.in)));
    _exit(0);
  }
  if (piped) (void)close(ends[1]);
  if (connection.worker < 0) {
    if (piped) (void)close(ends[0]);
    reply(connection, refusal(500, "found no room for another question, expected some; ask again"));
    return;
  }
  set_up(ends[0]);
  connection.pipe = ends[0];
  connection.in = {};
  connection.state = State::working;
  ++working_;
}

void Gate::hear_worker(Connection& connection) {
  std::array<char, 1U << 16U> bytes;  // NOLINT(cppcoreguidelines-pro-type-member-init): written before it is read
  const ssize_t got = read(connection.pipe, bytes.data(), bytes.size());
  if (got > 0) connection.out.append(bytes.data(), static_cast<std::size_t>(got));
  if (got > 0 || (got < 0 && (errno == EAGAIN || errno == EINTR))) return;
  end_worker(connection);
  const std::string answer = std::move(connection.out);
  reply(connection, refusal(500, "found not enough memory, expected a smaller map or question"));
  if (!answer.empty()) connection.out = answer;
}

/// Also when it has not finished.
void Gate::end_worker(Connection& connection) {
  if (connection.worker < 0) return;
  (void)kill(connection.worker, SIGKILL);
  (void)waitpid(connection.worker, nullptr, 0);
  (void)close(connection.pipe);
  connection.worker = -1;
  connection.pipe = -1;
  --working_;
}

void Gate::write_some(Connection& connection) {
  const std::string_view left = std::string_view(connection.out).substr(connection.sent);
  const ssize_t sent = send(connection.socket, left.data(), left.size(), MSG_NOSIGNAL);
  if (sent < 0 && (errno == EAGAIN || errno == EINTR)) return;
  if (sent < 0) {
    drop(connection);
    return;
  }
  connection.sent += static_cast<std::size_t>(sent);
  if (connection.sent < connection.out.size()) return;
  (void)shutdown(connection.socket, SHUT_WR);
  connection.out = {};
  connection.state = State::draining;
  connection.until = Clock::now() + time_to_drain;
}

void Gate::drop(Connection& connection) {
  end_worker(connection);
  if (connection.socket >= 0) (void)close(connection.socket);
  connection.socket = -1;
  connection.state = State::over;
}

}  // namespace saunter::page
