#include "saunter/io/files.hpp"

#include <fcntl.h>
#include <poll.h>
#include <sys/stat.h>
#include <unistd.h>

#include <array>
#include <atomic>
#include <cerrno>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <system_error>
#include <utility>

namespace saunter::inline v0_2::io {
namespace {

constexpr const char* readable = "a file that can be read";
constexpr const char* writable = "a file that can be written";

Error error_at(const std::string& file, std::string found, const char* expected) {
  return {file, 0, 0, std::move(found), expected};
}
Error system_error(const std::string& file, const char* expected) {
  return error_at(file, std::generic_category().message(errno), expected);
}

/// An open file that is closed again.
class Descriptor {
 public:
  explicit Descriptor(int fd) : fd_(fd) {}
  ~Descriptor() {
    if (fd_ >= 0) ::close(fd_);
  }
  Descriptor(const Descriptor&) = delete;
  Descriptor& operator=(const Descriptor&) = delete;
  [[nodiscard]] int get() const { return fd_; }
  int release() { return std::exchange(fd_, -1); }

 private:
  int fd_;
};

std::string kind_of(mode_t mode) {
  if (S_ISDIR(mode)) return "a folder";
  if (S_ISCHR(mode) || S_ISBLK(mode)) return "a device";
  if (S_ISSOCK(mode)) return "a socket";
  return "a pipe";
}

/// Waits until a pipe has something to read, or its last writer is gone.
bool has_writer(int fd) {
  constexpr int patience = 1000;  // milliseconds for a writer to come
  pollfd waiting{fd, POLLIN, 0};
  return ::poll(&waiting, 1, patience) > 0 && (waiting.revents & POLLIN) != 0;
}

Result<std::string> read_all(int fd, const std::string& name) {
  std::string content;
  constexpr std::size_t block = 1U << 16U;
  for (;;) {
    const std::size_t before = content.size();
    if (before > most_file_bytes) return error_at(name, "more than 512 MiB", "a smaller file");
    content.resize(before + block);
    ssize_t got = 0;
    do {
      got = ::read(fd, content.data() + before, block);
    } while (got < 0 && errno == EINTR);
    content.resize(before + static_cast<std::size_t>(got > 0 ? got : 0));
    if (got < 0) return system_error(name, readable);
    if (got == 0) return content;
  }
}

bool write_all(int fd, std::string_view content) {
  while (!content.empty()) {
    const ssize_t put = ::write(fd, content.data(), content.size());
    if (put < 0 && errno == EINTR) continue;
    if (put < 0) return false;
    content.remove_prefix(static_cast<std::size_t>(put));
  }
  return true;
}

/// Names of unfinished files, where a signal handler can find them.
struct Unfinished {
  std::atomic<bool> used{false};
  std::atomic<bool> ready{false};
  std::array<char, 4096> name = {};
};
std::array<Unfinished, 64> unfinished;

int note_unfinished(const std::string& name) {
  for (std::size_t i = 0; i < unfinished.size() && name.size() < unfinished[i].name.size(); ++i) {
    if (unfinished[i].used.exchange(true)) continue;
    std::memcpy(unfinished[i].name.data(), name.c_str(), name.size() + 1);
    unfinished[i].ready = true;
    return static_cast<int>(i);
  }
  return -1;
}
void forget_unfinished(int slot) {
  if (slot < 0) return;
  unfinished[static_cast<std::size_t>(slot)].ready = false;
  unfinished[static_cast<std::size_t>(slot)].used = false;
}

/// Where a name leads when all links are followed; the last part need not exist.
std::string followed(const std::string& file) {
  constexpr int most_links = 40;
  std::error_code failed;
  std::filesystem::path at = file;
  for (int i = 0; i < most_links && std::filesystem::is_symlink(at, failed); ++i) {
    const std::filesystem::path target = std::filesystem::read_symlink(at, failed);
    if (failed) return file;
    at = target.is_absolute() ? target : at.parent_path() / target;
  }
  if (std::filesystem::is_symlink(at, failed)) return file;  // a circle, which opening it will tell
  const std::filesystem::path real = std::filesystem::weakly_canonical(at, failed);
  return failed ? at.string() : real.string();
}

/// Makes a file to be written to. A killed run with our process number may have left one of that name, which is
/// nobody's to take away: then by another. @param name  changed to what it is called @return a negative number when it
/// can't be made
int open_beside(std::string& name) {
  constexpr mode_t anybody = 0666;  // less what the user's mask forbids
  const std::string first = name;
  for (int others = 1;; ++others) {
    const int opened = ::open(name.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, anybody);
    if (opened >= 0 || errno != EEXIST || others == 100) return opened;
    name = first + "." + std::to_string(others);
  }
}

}  // namespace

void remove_unfinished_files() noexcept {
  for (Unfinished& file : unfinished) {
    if (file.ready) ::unlink(file.name.data());
  }
}

Result<std::string> read_file(const std::string& file) {
  if (file == "-") return read_all(STDIN_FILENO, "<stdin>");
  // Without waiting: a pipe nobody writes to would hold us for ever.
  const Descriptor opened(::open(file.c_str(), O_RDONLY | O_NONBLOCK | O_CLOEXEC));
  if (opened.get() < 0) return system_error(file, readable);
  struct stat about = {};
  if (::fstat(opened.get(), &about) != 0) return system_error(file, readable);
  if (S_ISFIFO(about.st_mode)) {
    if (!has_writer(opened.get())) return error_at(file, "a pipe that nobody writes to", "a file");
    ::fcntl(opened.get(), F_SETFL, 0);
  } else if (!S_ISREG(about.st_mode)) {
    return error_at(file, kind_of(about.st_mode), "a file");
  }
  return read_all(opened.get(), file);
}

Result<PendingFile> PendingFile::write(const std::string& file, std::string content) {
  PendingFile pending;
  pending.name_ = file;
  pending.target_ = followed(file);
  struct stat about = {};
  const bool exists = ::stat(file.c_str(), &about) == 0;
  if (!exists && errno != ENOENT) return system_error(file, writable);
  if (exists && S_ISDIR(about.st_mode)) return error_at(file, "a folder", writable);
  if (exists && !S_ISREG(about.st_mode)) {
    pending.device_ = ::open(file.c_str(), O_WRONLY | O_NONBLOCK | O_CLOEXEC | O_NOCTTY);
    if (pending.device_ < 0 && errno == ENXIO) return error_at(file, "a pipe that nobody reads", writable);
    if (pending.device_ < 0) return system_error(file, writable);
    ::fcntl(pending.device_, F_SETFL, 0);
    pending.direct_ = std::move(content);
    return pending;
  }
  if (exists && ::faccessat(AT_FDCWD, file.c_str(), W_OK, AT_EACCESS) != 0) return system_error(file, writable);
  std::string beside = pending.target_ + ".part" + std::to_string(::getpid());
  Descriptor out(open_beside(beside));
  if (out.get() < 0) return system_error(file, writable);
  pending.beside_ = beside;
  pending.slot_ = note_unfinished(beside);
  if (exists) {
    // The owner first: giving a file away may take special bits off it.
    const bool owned = ::fchown(out.get(), about.st_uid, about.st_gid) == 0;
    constexpr mode_t plain_bits = 0777;
    constexpr mode_t all_bits = 07777;
    (void)::fchmod(out.get(), about.st_mode & (owned ? all_bits : plain_bits));
  }
  if (!write_all(out.get(), content)) return system_error(file, writable);
  // Closing flushes: a full disk may show only here.
  if (::close(out.release()) != 0) return system_error(file, writable);
  return pending;
}

Outcome PendingFile::put() {
  if (device_ >= 0) {
    const bool written = write_all(device_, direct_);
    Outcome outcome = written ? Outcome(std::monostate{}) : Outcome(system_error(name_, writable));
    ::close(std::exchange(device_, -1));
    return outcome;
  }
  // Changing places keeps what was there until we know that all else has worked.
  const bool exists = ::access(target_.c_str(), F_OK) == 0;
  if (exists && ::renameat2(AT_FDCWD, beside_.c_str(), AT_FDCWD, target_.c_str(), RENAME_EXCHANGE) == 0) {
    put_ = true;
    replaced_ = true;
    return std::monostate{};
  }
  const bool cannot_exchange = exists && (errno == EINVAL || errno == ENOSYS);
  if (exists && !cannot_exchange) return system_error(name_, writable);
  if (::rename(beside_.c_str(), target_.c_str()) != 0) return system_error(name_, writable);
  forget_beside();
  put_ = !exists;  // what has been written over can't come back
  return std::monostate{};
}

void PendingFile::settle() {
  put_ = false;
  if (!beside_.empty()) ::unlink(beside_.c_str());
  forget_beside();
}

Outcome PendingFile::keep() {
  Outcome outcome = put();
  if (outcome) settle();
  return outcome;
}

void PendingFile::forget_beside() {
  beside_.clear();
  forget_unfinished(std::exchange(slot_, -1));
}

void PendingFile::take_back() {
  if (put_ && replaced_) {
    (void)::renameat2(AT_FDCWD, beside_.c_str(), AT_FDCWD, target_.c_str(), RENAME_EXCHANGE);
  } else if (put_) {
    ::unlink(target_.c_str());
  }
  put_ = false;
}

void PendingFile::swap(PendingFile& other) noexcept {
  std::swap(name_, other.name_);
  std::swap(target_, other.target_);
  std::swap(beside_, other.beside_);
  std::swap(slot_, other.slot_);
  std::swap(direct_, other.direct_);
  std::swap(device_, other.device_);
  std::swap(put_, other.put_);
  std::swap(replaced_, other.replaced_);
}

PendingFile::PendingFile(PendingFile&& other) noexcept { swap(other); }

// cppcheck-suppress operatorEqVarError  ; it does not look into swap
PendingFile& PendingFile::operator=(PendingFile&& other) noexcept {
  swap(other);  // the other one removes what was here
  return *this;
}

PendingFile::~PendingFile() {
  take_back();
  if (device_ >= 0) ::close(device_);
  if (!beside_.empty()) ::unlink(beside_.c_str());
  forget_beside();
}

Outcome write_file(const std::string& file, std::string content) {
  Result<PendingFile> pending = PendingFile::write(file, std::move(content));
  if (!pending) return pending.error();
  return pending.value().keep();
}

}  // namespace saunter::inline v0_2::io
