/// @file
/// The program as one call.
#pragma once

#include <string>
#include <vector>

namespace saunter::app {

/// Runs a whole command line (without the program's name) and writes its answer. The program is this and nothing else.
/// @return its exit code; a refusal has been told on standard error
int run_command_line(std::vector<std::string> words);

}  // namespace saunter::app
