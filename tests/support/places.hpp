/// @file
/// Where things are on this machine. Known to one source only: a compiler cache then finds the others in any checkout.
#pragma once

#include <string>

namespace saunter::test {

/// The folder of the whole project.
const std::string& source_dir();
/// The program that was built.
const std::string& program_file();

}  // namespace saunter::test
