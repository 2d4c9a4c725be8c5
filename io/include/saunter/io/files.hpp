/// @file
/// Whole files in and out.
///
/// Units: bytes.
/// Errors: one Error with the file and what went wrong; what was there stays as it was.
/// Cost: O(bytes).
/// Threads: any number, each its own files.
#pragma once

#include <sys/types.h>

#include <string>
#include <string_view>

#include "saunter/grid/visible.hpp"
#include "saunter/io/result.hpp"

namespace saunter::inline v0_2 {
namespace io SAUNTER_VISIBLE {

/// No file that we read may be larger: what is larger is not a file that a person or a tool made for us.
inline constexpr std::size_t most_file_bytes = 512U << 20U;

/// All bytes of a regular file, of a pipe that somebody writes to, or of standard input for "-".
/// @errors what can't be opened or read; a folder, a device, a pipe without a writer; more than 512 MiB
[[nodiscard]] Result<std::string> read_file(const std::string& file);

/// Output that never harms what is there. A file appears only when it is complete: it is written beside its place, put
/// there by put(), and what was there before comes back unless settle() is called. A file that exists keeps its mode,
/// and its owner where we may give it away; through a symbolic link its target is written. Devices and pipes are
/// written to directly, by put().
class PendingFile {
 public:
  /// Writes the content beside `file`; whatever is there stays as it is until put().
  /// @errors a folder; a place or a file that we may not write; a pipe nobody reads; a full disk
  [[nodiscard]] static Result<PendingFile> write(const std::string& file, std::string content);
  /// Puts the file in its place.
  Outcome put();
  /// Forgets what was there before. @pre put()
  void settle();
  /// Both.
  Outcome keep();
  /// The place it is meant for, with links followed: two files for one place have the same.
  [[nodiscard]] const std::string& target() const { return target_; }

  PendingFile(PendingFile&& other) noexcept;
  PendingFile& operator=(PendingFile&& other) noexcept;
  ~PendingFile();

 private:
  PendingFile() = default;
  void swap(PendingFile& other) noexcept;
  void take_back();
  void forget_beside();

  std::string name_;    // as the caller calls it
  std::string target_;  // where it goes
  std::string beside_;  // what it is called until then, and afterwards what was there; empty when there is neither
  int slot_ = -1;       // of `beside_` in the list of files to remove when a signal ends the program
  std::string direct_;  // for what is written to directly: the content
  int device_ = -1;
  bool put_ = false;
  bool replaced_ = false;
};

/// Writes and keeps at once.
Outcome write_file(const std::string& file, std::string content);

/// Removes the unfinished files of all PendingFiles. For signal handlers: does nothing that a handler may not.
void remove_unfinished_files() noexcept;

}  // namespace io SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
