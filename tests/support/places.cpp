#include "support/places.hpp"

namespace saunter::test {

const std::string& source_dir() {
  static const std::string folder = SAUNTER_SOURCE_DIR;
  return folder;
}

const std::string& program_file() {
  static const std::string file = SAUNTER_PROGRAM_FILE;
  return file;
}

}  // namespace saunter::test
