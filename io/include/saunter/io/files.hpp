/// @file
/// Whole files in and out.
#pragma once

#include <string>
#include <string_view>

#include "saunter/io/result.hpp"

namespace saunter::io {

/// All bytes of a file, or of standard input for "-".
[[nodiscard]] Result<std::string> read_file(const std::string& file);

/// A file that appears only when it is complete: written beside its place, moved there by keep(), removed otherwise.
class PendingFile {
 public:
  /// Writes the content beside `file`. An existing file stays as it is until keep().
  [[nodiscard]] static Result<PendingFile> write(const std::string& file, std::string_view content);
  /// Puts the file in its place.
  Outcome keep();

  PendingFile(PendingFile&& other) noexcept;
  PendingFile& operator=(PendingFile&& other) noexcept;
  ~PendingFile();

 private:
  PendingFile(std::string file, std::string beside) : file_(std::move(file)), beside_(std::move(beside)) {}
  std::string file_;
  std::string beside_;  // empty when there is nothing to remove
};

/// Writes and keeps at once.
Outcome write_file(const std::string& file, std::string_view content);

}  // namespace saunter::io
