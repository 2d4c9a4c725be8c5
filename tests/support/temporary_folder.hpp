/// @file
/// A place for files that tests write.
#pragma once

#include <cstdlib>
#include <filesystem>
#include <string>
#include <system_error>

namespace saunter::test {

/// An empty folder of its own (tests run side by side) that is removed again.
class TemporaryFolder {
 public:
  TemporaryFolder() : path_((std::filesystem::temp_directory_path() / "saunter_test_XXXXXX").string()) {
    if (mkdtemp(path_.data()) == nullptr) std::abort();
  }
  ~TemporaryFolder() {
    std::error_code ignored;
    std::filesystem::remove_all(path_, ignored);
  }
  TemporaryFolder(const TemporaryFolder&) = delete;
  TemporaryFolder& operator=(const TemporaryFolder&) = delete;
  [[nodiscard]] std::string path(const std::string& name = {}) const {
    return name.empty() ? path_ : path_ + "/" + name;
  }
  [[nodiscard]] std::size_t entries() const {
    return static_cast<std::size_t>(std::distance(std::filesystem::directory_iterator(path_), {}));
  }

 private:
  std::string path_;
};

}  // namespace saunter::test
