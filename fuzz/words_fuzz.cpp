// Bytes as the words of a command line: lines are words, "S" at the start of one is a demo scenario. Whatever comes,
// the exit code is 0, 1 or 2, or it is refused with words; nothing else is thrown.
#include <unistd.h>

#include <cstdint>
#include <cstdlib>
#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

#include "command.hpp"

namespace {

/// Where nothing is lost whatever is written. Words must not lead out of it.
void enter_empty_folder() {
  static const bool entered = [] {
    std::string folder = (std::filesystem::temp_directory_path() / "saunter_fuzz_words_XXXXXX").string();
    if (mkdtemp(folder.data()) == nullptr || chdir(folder.c_str()) != 0) std::abort();
    return true;
  }();
  (void)entered;
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  enter_empty_folder();
  std::string_view left(reinterpret_cast<const char*>(data), size);
  std::vector<std::string> words;
  while (!left.empty() && words.size() < 24) {
    const std::size_t end = left.find('\n');
    std::string word(left.substr(0, end));
    left.remove_prefix(end == std::string_view::npos ? left.size() : end + 1);
    if (word == "S1") {
      words.push_back(SAUNTER_SOURCE_DIR "/demo/strand.toml");
    } else if (word == "S2") {
      words.push_back(SAUNTER_SOURCE_DIR "/demo/mosaic.toml");
    } else {
      // Neither other folders, nor the tour or repetitions, which take long, nor the server or standard input, which
      // never end.
      if (word.find('/') != std::string::npos || word == "demo" || word == "serve" || word == "-" ||
          word.starts_with("--rep"))
        return 0;
      words.push_back(word.substr(0, word.find('\0')));
    }
  }
  std::string out;
  try {
    const int code = saunter::app::answer_command_line(words, &out);
    if (code < 0 || code > 2) std::abort();
  } catch (const saunter::app::Refused& refused) {
    if (refused.message.empty()) std::abort();
  }
  return 0;
}
