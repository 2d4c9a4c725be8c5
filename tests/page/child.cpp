#include "child.hpp"

#include <poll.h>
#include <signal.h>
#include <spawn.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cstdlib>
#include <fstream>

namespace saunter::test {

Child::Child(const std::vector<std::string>& words) {
  int ends[2] = {-1, -1};
  if (pipe(ends) != 0) std::abort();
  posix_spawn_file_actions_t actions;
  posix_spawn_file_actions_init(&actions);
  posix_spawn_file_actions_adddup2(&actions, ends[1], STDOUT_FILENO);
  posix_spawn_file_actions_addclose(&actions, ends[0]);
  posix_spawn_file_actions_addclose(&actions, ends[1]);
  std::vector<char*> list;
  std::vector<std::string> copies = words;
  for (std::string& word : copies) list.push_back(word.data());
  list.push_back(nullptr);
  if (posix_spawnp(&pid_, list.front(), &actions, nullptr, list.data(), environ) != 0) pid_ = -1;
  posix_spawn_file_actions_destroy(&actions);
  close(ends[1]);
  out_ = ends[0];
}

Child::~Child() {
  if (pid_ > 0) (void)end(SIGKILL);
  close(out_);
}

std::string Child::read_line() {
  std::string line;
  constexpr int milliseconds = 10'000;
  for (char c = 0;;) {
    pollfd ready{out_, POLLIN, 0};
    if (poll(&ready, 1, milliseconds) <= 0 || read(out_, &c, 1) != 1 || c == '\n') return line;
    line += c;
  }
}

int Child::end(int signal) {
  if (pid_ <= 0) return -1;
  kill(pid_, signal);
  int status = 0;
  waitpid(pid_, &status, 0);
  pid_ = -1;
  return WIFEXITED(status) ? WEXITSTATUS(status) : -1;
}

bool Child::running() const {
  int status = 0;
  return pid_ > 0 && waitpid(pid_, &status, WNOHANG) == 0;
}

std::size_t Child::memory() const {
  std::ifstream in("/proc/" + std::to_string(pid_) + "/statm");
  std::size_t all = 0;
  std::size_t resident = 0;
  in >> all >> resident;
  return resident * static_cast<std::size_t>(sysconf(_SC_PAGESIZE));
}

}  // namespace saunter::test
