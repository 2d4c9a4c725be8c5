// Gives every file named on the command line (or in the folders named) to the fuzzer's entry point, without a fuzzing
// engine: so that findings replay under any compiler and debugger, and the corpus runs with the tests.
#include <cstdint>
#include <cstdio>
#include <filesystem>

#include "saunter/io/files.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size);

namespace {

int replayed = 0;

void replay(const std::filesystem::path& path) {
  if (std::filesystem::is_directory(path)) {
    for (const auto& entry : std::filesystem::directory_iterator(path)) replay(entry.path());
    return;
  }
  const auto bytes = saunter::io::read_file(path.string());
  if (!bytes) return;
  LLVMFuzzerTestOneInput(reinterpret_cast<const std::uint8_t*>(bytes.value().data()), bytes.value().size());
  ++replayed;
}

}  // namespace

int main(int argc, char** argv) {
  for (int i = 1; i < argc; ++i) replay(argv[i]);
  std::printf("replayed %d\n", replayed);
  return replayed > 0 ? 0 : 1;
}
