/// @file
/// What all commands of the program share: how they are asked and how they answer.
#pragma once

#include <CLI/CLI.hpp>
#include <functional>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>
#include <vector>

#include "saunter/draw/picture.hpp"
#include "saunter/io/files.hpp"
#include "saunter/io/scenario.hpp"

namespace saunter::app {

using Json = nlohmann::ordered_json;

inline constexpr int exit_yes = 0;
inline constexpr int exit_no = 1;
inline constexpr int exit_bad = 2;

/// Bad input or usage: one line for standard error, exit code 2.
struct Refused {
  std::string message;
  std::vector<std::string> more = {};  ///< further lines, for --all-errors only
};

/// What a command found out, before anything is written.
struct Answer {
  int exit_code = exit_yes;
  std::string text;                     ///< for a person
  Json json;                            ///< for a program
  std::vector<draw::Picture> pictures;  ///< what --draw shows, side by side; their spans point into `keep`
  std::shared_ptr<void> keep;           ///< owns what the pictures point at
  std::string terminal_picture;         ///< shown above the text
  std::vector<io::PendingFile> files;   ///< put in their places when everything else has worked
};

/// The options every command has.
struct Common {
  std::string scenario;
  bool json = false;
  std::string draw;
  bool all_errors = false;
};
/// SCENARIO, --json and --all-errors.
void add_scenario(CLI::App& command, Common& common);
/// The same and --draw.
void add_common(CLI::App& command, Common& common);

/// A command that is ready to run.
using Run = std::function<Answer()>;
/// Where a command leaves what is to be run, and the options that say how the answer is written.
struct Chosen {
  Run run;
  const Common* common = nullptr;
};

/// Each command registers its words; when it is the one asked for, it fills `chosen`.
void add_survey(CLI::App& app, Chosen& chosen);
void add_route(CLI::App& app, Chosen& chosen);
void add_reach(CLI::App& app, Chosen& chosen);
void add_field(CLI::App& app, Chosen& chosen);
void add_compare(CLI::App& app, Chosen& chosen);
void add_regions(CLI::App& app, Chosen& chosen);
void add_draw(CLI::App& app, Chosen& chosen);
void add_sight(CLI::App& app, Chosen& chosen);
void add_threat(CLI::App& app, Chosen& chosen);
void add_check(CLI::App& app, Chosen& chosen);
void add_fit(CLI::App& app, Chosen& chosen);
void add_scatter(CLI::App& app, Chosen& chosen);
void add_layer(CLI::App& app, Chosen& chosen);
void add_convert(CLI::App& app, Chosen& chosen);
void add_demo(CLI::App& app, Chosen& chosen);

/// Runs a whole command line (without the program's name) and writes its answer. The program is this and nothing else.
/// @return its exit code; a refusal has been told on standard error
int run_command_line(std::vector<std::string> words);
/// The same for the demo: the answer's text is appended to `out`, and a refusal is thrown.
int answer_command_line(std::vector<std::string> words, std::string* out);

}  // namespace saunter::app
