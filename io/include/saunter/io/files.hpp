/// @file
/// Whole files in and out.
#pragma once

#include <string>
#include <string_view>

#include "saunter/io/result.hpp"

namespace saunter::io {

/// All bytes of a file, or of standard input for "-".
[[nodiscard]] Result<std::string> read_file(const std::string& file);

/// Writes a file so that it is complete or not there: into a new file beside it, renamed when everything is written. An
/// existing file is replaced only then.
Outcome write_file(const std::string& file, std::string_view content);

}  // namespace saunter::io
