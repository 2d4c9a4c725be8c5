#include "saunter/io/prepared.hpp"

#include <fcntl.h>
#include <sys/mman.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <system_error>
#include <vector>

#include "saunter/io/files.hpp"

namespace saunter::inline v0_2::io {
namespace {

constexpr const char* prepared_file = "a prepared map of this map and mover, made anew";

/// A file's pages in memory.
class Mapping {
 public:
  explicit Mapping(const std::string& file) {
    const int opened =
        ::open(file.c_str(), O_RDONLY | O_NONBLOCK | O_CLOEXEC);  // a pipe nobody writes to would hold us
    struct stat about = {};
    if (opened < 0) return;
    if (::fstat(opened, &about) == 0 && S_ISREG(about.st_mode) && about.st_size > 0) {
      void* const at = ::mmap(nullptr, static_cast<std::size_t>(about.st_size), PROT_READ, MAP_PRIVATE, opened, 0);
      if (at != MAP_FAILED) bytes_ = {static_cast<const std::byte*>(at), static_cast<std::size_t>(about.st_size)};
    }
    ::close(opened);
  }
  ~Mapping() {
    if (!bytes_.empty()) ::munmap(const_cast<std::byte*>(bytes_.data()), bytes_.size());
  }
  Mapping(const Mapping&) = delete;
  Mapping& operator=(const Mapping&) = delete;
  [[nodiscard]] std::span<const std::byte> bytes() const { return bytes_; }

 private:
  std::span<const std::byte> bytes_;
};

Result<Prepared> checked(const std::string& file, std::span<const std::byte> bytes, std::shared_ptr<const void> keeper,
                         const CostGrid& costs) {
  Prepared::Read read = Prepared::from_bytes(bytes, std::move(keeper), costs);
  if (!read.problem.empty()) return Error{file, 0, 0, std::string(read.problem), prepared_file};
  return std::move(read.index);
}

}  // namespace

Result<Prepared> read_prepared(const std::string& file, const CostGrid& costs, Loading loading) {
  if (loading == Loading::mapped) {
    const auto mapping = std::make_shared<const Mapping>(file);
    if (!mapping->bytes().empty()) return checked(file, mapping->bytes(), mapping, costs);
  }
  const Result<std::string> content = read_file(file);
  if (!content) return content.error();
  const std::size_t size = content.value().size();
  // At a multiple of eight, as the numbers in it want.
  const auto words = std::make_shared<std::vector<std::uint64_t>>((size + 7) / 8);
  if (size > 0) std::memcpy(words->data(), content.value().data(), size);
  return checked(file, std::as_bytes(std::span(*words)).first(size), words, costs);
}

Outcome write_prepared(const std::string& file, const Prepared& prepared) {
  if (prepared.empty()) return Error{file, 0, 0, "no prepared map to write", "one"};
  const std::span<const std::byte> bytes = prepared.bytes();
  return write_file(file, {reinterpret_cast<const char*>(bytes.data()), bytes.size()});
}

}  // namespace saunter::inline v0_2::io
