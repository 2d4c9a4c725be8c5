// The order of the house: a room includes only rooms above it, core knows nothing of files, pictures or the program.
#include <catch2/catch.hpp>
#include <algorithm>
#include <filesystem>
#include <fstream>
#include <regex>

namespace {

const std::vector<std::string> rooms = {"grid",   "ground", "search", "region", "sight",
                                        "threat", "place",  "check",  "walk",   "generate"};

/// The room a file of the core lives in; kernels belong to the room they lie in.
std::string room_of(const std::filesystem::path& file) {
  const std::filesystem::path folder = file.parent_path();
  return (folder.filename() == "kernel" ? folder.parent_path() : folder).filename().string();
}

struct Include {
  std::filesystem::path file;
  std::string what;
};

std::vector<Include> includes_under(const std::filesystem::path& folder) {
  std::vector<Include> found;
  const std::regex pattern(R"(^\s*#include\s+["<]([^">]+)[">])");
  for (const auto& entry : std::filesystem::recursive_directory_iterator(folder)) {
    if (entry.path().extension() != ".hpp" && entry.path().extension() != ".cpp") continue;
    std::ifstream in(entry.path());
    for (std::string line; std::getline(in, line);) {
      std::smatch match;
      if (std::regex_search(line, match, pattern)) found.push_back({entry.path(), match[1]});
    }
  }
  return found;
}

std::size_t rank(const std::string& room) {
  return static_cast<std::size_t>(std::find(rooms.begin(), rooms.end(), room) - rooms.begin());
}

}  // namespace

TEST_CASE("rooms include only rooms above them") {
  std::size_t seen = 0;
  for (const Include& include : includes_under(SAUNTER_SOURCE_DIR "/core")) {
    const std::string room = room_of(include.file);
    // Private headers of other rooms are named by their way from here: ../search/kernel/queue.hpp.
    const std::size_t before = include.what.starts_with("saunter/") ? 8 : include.what.starts_with("../") ? 3 : 0;
    if (rank(room) == rooms.size() || before == 0) continue;  // saunter.hpp includes all
    const std::string other = include.what.substr(before, include.what.find('/', before) - before);
    INFO(include.file << " includes " << include.what);
    REQUIRE(rank(other) < rooms.size());
    CHECK(rank(other) <= rank(room));
    ++seen;
  }
  CHECK(seen > 20);
}

TEST_CASE("core needs the standard library and Eigen only, io and draw need core only") {
  for (const Include& include : includes_under(SAUNTER_SOURCE_DIR "/core")) {
    INFO(include.file << " includes " << include.what);
    const bool standard = include.what.find('.') == std::string::npos && !include.what.starts_with("Eigen");
    const bool own = std::filesystem::exists(include.file.parent_path() / include.what);  // private, in the same room
    CHECK((standard || own || include.what.starts_with("Eigen/") || include.what.starts_with("saunter/")));
    CHECK_FALSE(include.what.starts_with("saunter/io"));
    CHECK_FALSE(include.what.starts_with("saunter/draw"));
    // A checked build's last words are the only thing the core ever says.
    const bool last_words = include.file.filename() == "expect.cpp";
    for (const std::string banned : {"iostream", "fstream", "cstdio", "filesystem"}) {
      CHECK((include.what != banned || last_words));
    }
  }
  for (const Include& include : includes_under(SAUNTER_SOURCE_DIR "/io"))
    CHECK_FALSE(include.what.starts_with("saunter/draw"));
  for (const Include& include : includes_under(SAUNTER_SOURCE_DIR "/draw"))
    CHECK_FALSE(include.what.starts_with("saunter/io"));
}
