/// @file
/// A program that runs beside the test and tells things on its standard output.
#pragma once

#include <string>
#include <vector>

#include <sys/types.h>

namespace saunter::test {

class Child {
 public:
  /// Starts a program, found on the PATH unless its name has a slash.
  explicit Child(const std::vector<std::string>& words);
  /// Kills it if it still runs.
  ~Child();
  Child(const Child&) = delete;
  Child& operator=(const Child&) = delete;

  /// The next line it prints, without its end; "" when there is none within ten seconds or no more will come.
  [[nodiscard]] std::string read_line();
  /// Sends a signal and waits. @return its exit code, -1 when it did not end by itself
  int end(int signal);
  [[nodiscard]] bool running() const;
  /// Bytes of memory it has now.
  [[nodiscard]] std::size_t memory() const;

 private:
  pid_t pid_ = -1;
  int out_ = -1;
};

}  // namespace saunter::test
