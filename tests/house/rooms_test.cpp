// The order of the house: a room includes only rooms above it, core knows nothing of files, pictures or the program.
#include <catch2/catch.hpp>
#include <algorithm>
#include <filesystem>
#include <fstream>
#include <regex>

#include "support/places.hpp"

namespace {

const std::vector<std::string> rooms = {"grid",  "ground", "search", "region",   "sight", "threat",
                                        "place", "check",  "turn",   "generate", "walk",  "live"};

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
  for (const Include& include : includes_under(saunter::test::source_dir() + "/core")) {
    const std::string room = room_of(include.file);
    // Private headers of other rooms are named by their way from here: ../search/kernel/queue.hpp.
    std::size_t before = include.what.starts_with("saunter/") ? 8 : 0;
    while (include.what.compare(before, 3, "../") == 0) before += 3;
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
  for (const Include& include : includes_under(saunter::test::source_dir() + "/core")) {
    INFO(include.file << " includes " << include.what);
    const bool standard = include.what.find('.') == std::string::npos && !include.what.starts_with("Eigen");
    const bool own = std::filesystem::exists(include.file.parent_path() / include.what);  // private, in the same room
    const bool of_the_compiler = include.what == "emmintrin.h";                           // four numbers at a time
    const bool of_the_system = include.what == "sys/mman.h" && include.file.filename() == "zeroed.cpp";  // pages
    CHECK((standard || own || of_the_compiler || of_the_system || include.what.starts_with("Eigen/") ||
           include.what.starts_with("saunter/")));
    CHECK_FALSE(include.what.starts_with("saunter/io"));
    CHECK_FALSE(include.what.starts_with("saunter/draw"));
    // A checked build's last words are the only thing the core ever says.
    const bool last_words = include.file.filename() == "expect.cpp";
    for (const std::string banned : {"iostream", "fstream", "cstdio", "filesystem"}) {
      CHECK((include.what != banned || last_words));
    }
  }
  for (const Include& include : includes_under(saunter::test::source_dir() + "/io"))
    CHECK_FALSE(include.what.starts_with("saunter/draw"));
  for (const Include& include : includes_under(saunter::test::source_dir() + "/draw"))
    CHECK_FALSE(include.what.starts_with("saunter/io"));
}

namespace {

/// Calls f(file, text) for each public header.
template <typename F>
void for_each_public_header(F&& f) {
  std::size_t seen = 0;
  for (const std::string folder : {"core", "io", "draw", "tbb"}) {
    const std::string include = (saunter::test::source_dir() + "/") + folder + "/include";
    for (const auto& entry : std::filesystem::recursive_directory_iterator(include)) {
      if (entry.path().extension() != ".hpp") continue;
      std::ifstream in(entry.path());
      f(entry.path(), std::string(std::istreambuf_iterator<char>(in), {}));
      ++seen;
    }
  }
  CHECK(seen > 60);
}

}  // namespace

TEST_CASE("public headers name nothing private") {
  const std::regex detail(R"(\bdetail\b)");
  for_each_public_header([&](const std::filesystem::path& file, const std::string& text) {
    INFO(file);
    CHECK_FALSE(std::regex_search(text, detail));
  });
}

TEST_CASE("private headers and what they declare lie in namespace detail") {
  std::size_t seen = 0;
  for (const std::string folder : {"/core/src", "/io/src", "/draw/src"}) {
    for (const auto& entry : std::filesystem::recursive_directory_iterator(saunter::test::source_dir() + folder)) {
      if (entry.path().extension() != ".hpp") continue;
      std::ifstream in(entry.path());
      const std::string text{std::istreambuf_iterator<char>(in), {}};
      INFO(entry.path());
      // Or it defines a class that a public one has declared as its own.
      const std::regex own(R"(\n(class|struct) \w+::\w+( : \S+)? \{)");
      CHECK((text.find("::detail {") != std::string::npos || std::regex_search(text, own)));
      ++seen;
    }
  }
  CHECK(seen > 30);
}

TEST_CASE("public headers teach: units, errors, cost and threads, at the top of each") {
  for_each_public_header([&](const std::filesystem::path& file, const std::string& text) {
    INFO(file);
    const std::string top = text.substr(0, text.find("#pragma once"));
    CHECK(top.starts_with("/// @file\n/// "));
    // Those that only gather a room's headers have nothing of their own.
    const bool gathers = text.find("namespace") == std::string::npos && text.find("#define") == std::string::npos;
    for (const char* const line : {"/// Units: ", "/// Errors: ", "/// Cost: ", "/// Threads: "}) {
      INFO(line);
      CHECK((gathers || top.find(line) != std::string::npos));
    }
  });
}

TEST_CASE("code keeps to the glossary") {
  // The glossary's words stand in docs/glossary.md; these are the ones it replaces.
  const std::regex replaced(R"(\b(dearest|put in line|hang together|hangs together|watchers?|lanes?)\b)");
  for (const std::string folder : {"/core", "/io", "/draw", "/app", "/examples"}) {
    for (const auto& entry : std::filesystem::recursive_directory_iterator(saunter::test::source_dir() + folder)) {
      if (entry.path().extension() != ".hpp" && entry.path().extension() != ".cpp") continue;
      std::ifstream in(entry.path());
      for (std::string line; std::getline(in, line);) {
        INFO(entry.path() << ": " << line);
        CHECK_FALSE(std::regex_search(line, replaced));
      }
    }
  }
}

TEST_CASE("what a test counts among drawn cases follows how many are drawn") {
  // CI draws a quarter of them, by another seed each day: a plain number fails there one day.
  const std::regex head(R"(^TEST_CASE\()");
  const std::regex drawn(R"(\bseeds\()");
  const std::regex plain(R"(\bCHECK\([\w\[\]]+ > [1-9][0-9']*\))");
  std::size_t tests = 0;
  for (const auto& entry : std::filesystem::directory_iterator(saunter::test::source_dir() + "/tests/property")) {
    std::ifstream in(entry.path());
    bool draws = false;
    for (std::string line; std::getline(in, line);) {
      if (std::regex_search(line, head)) draws = false;
      if (!draws && std::regex_search(line, drawn)) draws = true, ++tests;
      INFO(entry.path() << ": " << line << " (share_of of tests/support/seeds.hpp)");
      CHECK_FALSE((draws && std::regex_search(line, plain)));
    }
  }
  CHECK(tests > 50);
}

TEST_CASE("the page knows no map: it serves files and passes questions on") {
  for (const Include& include : includes_under(saunter::test::source_dir() + "/page")) {
    INFO(include.file << " includes " << include.what);
    const bool standard = include.what.find('.') == std::string::npos;
    CHECK((standard || include.what.starts_with("page/") || include.what.ends_with(".h")));
  }
}
