#include "saunter/io/files.hpp"

#include <unistd.h>

#include <cerrno>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <memory>

namespace saunter::io {
namespace {

struct CloseFile {
  void operator()(std::FILE* file) const { std::fclose(file); }
};
using File = std::unique_ptr<std::FILE, CloseFile>;

Error system_error(const std::string& file, const std::string& expected) {
  return {file, 0, 0, std::strerror(errno), expected};
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

Outcome write_file(const std::string& file, std::string_view content) {
  const std::string expected = "a file that can be written";
  std::error_code ignored;
  if (std::filesystem::is_directory(file, ignored)) return Error{file, 0, 0, "a folder", expected};
  const std::string beside = file + ".part" + std::to_string(getpid());
  File out(std::fopen(beside.c_str(), "wbx"));
  if (out == nullptr) return system_error(file, expected);
  bool written = std::fwrite(content.data(), 1, content.size(), out.get()) == content.size();
  // Closing flushes: a full disk may show only here.
  written = std::fclose(out.release()) == 0 && written;
  if (written && std::rename(beside.c_str(), file.c_str()) == 0) return std::monostate{};
  Error error = system_error(file, expected);
  std::remove(beside.c_str());
  return error;
}

}  // namespace saunter::io
