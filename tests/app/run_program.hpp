/// @file
/// Runs the program the way its users do.
#pragma once

#include "support/temporary_folder.hpp"

#include <string>
#include <vector>

namespace saunter::test {

struct Ran {
  int exit_code = -1;
  std::string out;
  std::string err;
};

/// Runs `saunter` with these words in the source folder. @param input  what it reads from standard input
[[nodiscard]] Ran run_program(const std::vector<std::string>& words, const std::string& input = {});
/// The same from one line, split at blanks.
[[nodiscard]] Ran run_line(const std::string& line, const std::string& input = {});

/// Checks that each line ends with exit code 2, one line on standard error that says this, and nothing else.
void check_refused(const std::vector<std::pair<std::string, std::string>>& lines);

}  // namespace saunter::test
