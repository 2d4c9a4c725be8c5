#include "run_program.hpp"

#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <catch2/catch.hpp>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <sstream>

#include "schema.hpp"
#include "support/places.hpp"

namespace saunter::test {
namespace {

std::string quoted(const std::string& word) {
  std::string text = "'";
  for (const char c : word) text += c == '\'' ? std::string("'\\''") : std::string(1, c);
  return text + "'";
}

std::string content(const std::string& file) {
  std::ifstream in(file, std::ios::binary);
  std::ostringstream text;
  text << in.rdbuf();
  return text.str();
}

/// Every object that any test meets is held against its command's schema.
void check_schema(const std::string& command, const Ran& ran) {
  if ((ran.exit_code != 0 && ran.exit_code != 1) || ran.out.empty()) return;
  const nlohmann::ordered_json answer = nlohmann::ordered_json::parse(ran.out, nullptr, false);
  INFO(command << " --json");
  REQUIRE(!answer.is_discarded());
  INFO(against_schema(answer, schema_for(command)));
  CHECK(against_schema(answer, schema_for(command)).empty());
}

}  // namespace

Ran run_program(const std::vector<std::string>& words, const std::string& input) {
  const TemporaryFolder folder;
  std::ofstream(folder.path("in")) << input;
  std::string line = "cd " + quoted(source_dir()) + " && " + quoted(program_file());
  for (const std::string& word : words) line += " " + quoted(word);
  line += " <" + folder.path("in") + " >" + folder.path("out") + " 2>" + folder.path("err");
  const int status = std::system(line.c_str());
  Ran ran{WIFEXITED(status) ? WEXITSTATUS(status) : -1, content(folder.path("out")), content(folder.path("err"))};
  if (std::find(words.begin(), words.end(), "--json") != words.end()) check_schema(words.front(), ran);
  return ran;
}

Ran run_line(const std::string& line, const std::string& input) {
  std::istringstream words(line);
  std::vector<std::string> list;
  for (std::string word; words >> word;) list.push_back(word);
  return run_program(list, input);
}

void check_refused(const std::vector<std::pair<std::string, std::string>>& lines) {
  for (const auto& [line, says] : lines) {
    INFO(line);
    const Ran ran = run_line(line);
    INFO(ran.err);
    CHECK(ran.exit_code == 2);
    CHECK(ran.out.empty());
    CHECK(ran.err.find(says) != std::string::npos);
    CHECK(std::count(ran.err.begin(), ran.err.end(), '\n') == 1);
  }
}

}  // namespace saunter::test
