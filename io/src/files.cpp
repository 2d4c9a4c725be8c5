#include "saunter/io/files.hpp"

#include <unistd.h>

#include <cerrno>
#include <cstdio>
#include <filesystem>
#include <memory>
#include <system_error>

namespace saunter::io {
namespace {

struct CloseFile {
  void operator()(std::FILE* file) const { std::fclose(file); }
};
using File = std::unique_ptr<std::FILE, CloseFile>;

constexpr const char* writable = "a file that can be written";

Error system_error(const std::string& file, const std::string& expected) {
  return {file, 0, 0, std::generic_category().message(errno), expected};
}

}  // namespace

Result<std::string> read_file(const std::string& file) {
  const bool from_stdin = file == "-";
  const std::string name = from_stdin ? "<stdin>" : file;
  std::error_code ignored;
  if (!from_stdin && std::filesystem::is_directory(file, ignored)) return Error{name, 0, 0, "a folder", "a file"};
  const File opened(from_stdin ? nullptr : std::fopen(file.c_str(), "rb"));
  if (!from_stdin && opened == nullptr) return system_error(name, "a file that can be read");
  std::FILE* in = from_stdin ? stdin : opened.get();
  std::string content;
  constexpr std::size_t block = 1U << 16U;
  std::size_t got = block;
  while (got == block) {
    const std::size_t before = content.size();
    content.resize(before + block);
    got = std::fread(content.data() + before, 1, block, in);
    content.resize(before + got);
  }
  if (std::ferror(in) != 0) return system_error(name, "a file that can be read");
  return content;
}

Result<PendingFile> PendingFile::write(const std::string& file, std::string_view content) {
  std::error_code ignored;
  if (std::filesystem::is_directory(file, ignored)) return Error{file, 0, 0, "a folder", writable};
  PendingFile pending(file, file + ".part" + std::to_string(getpid()));
  File out(std::fopen(pending.beside_.c_str(), "wb"));
  if (out == nullptr) {
    pending.beside_.clear();
    return system_error(file, writable);
  }
  const bool written = std::fwrite(content.data(), 1, content.size(), out.get()) == content.size();
  // Closing flushes: a full disk may show only here.
  if (std::fclose(out.release()) != 0 || !written) return system_error(file, writable);
  return pending;
}

Outcome PendingFile::keep() {
  if (std::rename(beside_.c_str(), file_.c_str()) != 0) return system_error(file_, writable);
  beside_.clear();
  return std::monostate{};
}

PendingFile::PendingFile(PendingFile&& other) noexcept
    : file_(std::move(other.file_)), beside_(std::exchange(other.beside_, {})) {}

PendingFile& PendingFile::operator=(PendingFile&& other) noexcept {
  std::swap(file_, other.file_);  // the other one removes what was here
  std::swap(beside_, other.beside_);
  return *this;
}

PendingFile::~PendingFile() {
  if (!beside_.empty()) std::remove(beside_.c_str());
}

Outcome write_file(const std::string& file, std::string_view content) {
  Result<PendingFile> pending = PendingFile::write(file, content);
  if (!pending) return pending.error();
  return pending.value().keep();
}

}  // namespace saunter::io
