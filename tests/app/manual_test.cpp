// The manual page and the completions: made from the table of options, so that none is missing.
#include <catch2/catch.hpp>

#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>
#include <regex>

#include "run_program.hpp"

namespace saunter::test {
namespace {

using Json = nlohmann::ordered_json;

/// Runs a shell command. @return whether it ended well; what it printed is in a file
bool shell(const std::string& line, const std::string& out) {
  return std::system((line + " >" + out + " 2>&1").c_str()) == 0;
}

std::string content(const std::string& file) {
  std::ifstream in(file);
  return {std::istreambuf_iterator<char>(in), {}};
}

bool installed(const char* program) { return shell(std::string("command -v ") + program, "/dev/null"); }

std::string without_backslashes(std::string text) {
  std::erase(text, '\\');
  return text;
}

}  // namespace

TEST_CASE("every option that a command's help names is in the manual and in each completion") {
  const Json table = Json::parse(run_line("manual man --json").out)["commands"];
  CHECK(table.size() >= 22);
  const std::string man = without_backslashes(run_line("manual man").out);
  const std::string bash = run_line("manual bash").out;
  const std::string zsh = run_line("manual zsh").out;
  const std::string fish = run_line("manual fish").out;
  std::size_t options = 0;
  for (const Json& command : table) {
    const std::string name = command["name"];
    const std::string help = run_program({name, "--help"}).out;
    CHECK(man.find(".SS " + name + "\n") != std::string::npos);
    const std::regex word(R"(^\s+(--?[a-z][a-z-]*))");
    std::size_t line_start = 0;
    while (line_start < help.size()) {
      const std::size_t line_end = std::min(help.find('\n', line_start), help.size());
      const std::string line = help.substr(line_start, line_end - line_start);
      line_start = line_end + 1;
      std::smatch match;
      if (!std::regex_search(line, match, word)) continue;
      std::string option = match[1];
      if (option == "-h") option = "--help";
      INFO(name << " " << option);
      const auto told = std::find_if(command["options"].begin(), command["options"].end(),
                                     [&](const Json& one) { return one["name"] == option; });
      REQUIRE(told != command["options"].end());
      CHECK(man.find("fB" + option + "fR") != std::string::npos);
      CHECK(bash.find(option) != std::string::npos);
      CHECK(zsh.find(option + "[") != std::string::npos);
      const std::string in_fish = option.starts_with("--") ? " -l " + option.substr(2) : " -s " + option.substr(1);
      CHECK(fish.find("__fish_seen_subcommand_from " + name + "'" + in_fish + " ") != std::string::npos);
      ++options;
    }
  }
  CHECK(options > 200);
}

TEST_CASE("bash completes commands, options, choices and files, and offers nothing where a number is wanted") {
  const TemporaryFolder folder;
  const std::string script = folder.path("completion");
  std::ofstream(script) << run_line("manual bash").out;
  std::ofstream(folder.path("tide.toml")) << "x";
  const auto completed = [&](const std::string& words, int count) {
    const std::string line = "cd " + folder.path() + " && bash -c '. ./completion; COMP_WORDS=(" + words +
                             "); COMP_CWORD=" + std::to_string(count) + "; _saunter; echo \"${COMPREPLY[*]}\"'";
    CHECK(shell(line, folder.path("out")));
    return content(folder.path("out"));
  };
  CHECK(completed("saunter rou", 1) == "route\n");
  CHECK(completed("saunter route --fr", 2) == "--from --front\n");
  CHECK(completed("saunter route --by dij", 3) == "dijkstra\n");
  CHECK(completed("saunter walk --walker turn-", 3) == "turn-right turn-left turn-to-goal\n");
  CHECK(completed("saunter route ti", 2) == "tide.toml\n");
  CHECK(completed("saunter route --trace ti", 3) == "tide.toml\n");
  CHECK(completed("saunter route --budget x", 3) == "\n");
  CHECK(completed("saunter generate ma", 2) == "maze\n");
}

TEST_CASE("shells and the formatter of manuals take what is made, where they are installed") {
  const TemporaryFolder folder;
  const std::string out = folder.path("out");
  for (const char* const form : {"man", "bash", "zsh", "fish"})
    std::ofstream(folder.path(form)) << run_line(std::string("manual ") + form).out;
  INFO(content(out));
  CHECK(shell("bash -n " + folder.path("bash"), out));
  if (installed("zsh")) CHECK(shell("zsh -n " + folder.path("zsh"), out));
  if (installed("fish")) CHECK(shell("fish -n " + folder.path("fish"), out));
  if (installed("groff")) {
    CHECK(shell("groff -man -Tutf8 -ww -z " + folder.path("man"), out));
    CHECK(content(out).empty());
  }
  check_refused({{"manual", "FORM: found nothing"}, {"manual html", "FORM: found \"html\""}});
}

}  // namespace saunter::test
