/// @file
/// What all commands of the program share: how they are asked and how they answer.
#pragma once

#include <functional>
#include <memory>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>
#include <vector>

#include "run.hpp"
#include "saunter/io/files.hpp"
#include "saunter/io/scenario.hpp"
#include "words.hpp"

namespace saunter::app {

using Json = nlohmann::ordered_json;

/// On one line; what is no UTF-8 is told by the sign for that.
[[nodiscard]] inline std::string dumped(const Json& json) {
  return json.dump(-1, ' ', false, Json::error_handler_t::replace);
}

inline constexpr int exit_yes = 0;
inline constexpr int exit_no = 1;
inline constexpr int exit_bad = 2;

/// What a command found out, before anything is written.
struct Answer {
  int exit_code = exit_yes;
  std::string text;  ///< for a person
  Json json;         ///< for a program; null: nothing is printed, as it has been told already
  /// What --draw shows, and a terminal below the text; it may point into the command, which lives longer.
  std::optional<draw::Picture> picture;
  std::optional<draw::Sheet> sheet;    ///< shown in place of the picture
  Json scene;                          ///< the map as a page shows it; only where a page was asked for
  Json replay;                         ///< what happened step by step, likewise
  std::vector<io::PendingFile> files;  ///< put in their places when everything else has worked
};

/// What the local page hands in with a question: then no file is read or written.
struct Handed {
  const io::Scenario* scenario = nullptr;  ///< null for a command that asks about none
  std::size_t most_cells = max_map_cells;  ///< larger maps are not made
};

/// The options every command has.
struct Common {
  std::string scenario;
  bool json = false;
  bool all_errors = false;
  bool view = false;
  std::string draw;
  std::optional<draw::PixelSize> pixels;
  std::string page;
  const Handed* handed = nullptr;  ///< what the local page asks with; null: words were typed

  [[nodiscard]] bool wants_page() const { return handed != nullptr || !page.empty(); }
};

/// One command of the program. Made for one command line: words fill its members, then it answers once.
class Command {
 public:
  /// What of the common options it has.
  enum class Takes : std::uint8_t { nothing, scenario, picture, scenario_and_picture, scenario_picture_and_page };

  /// @param example  words behind "saunter " that show it on the demo data
  Command(const char* called, const char* in_short, const char* for_example, Takes what = Takes::scenario_and_picture)
      : command_name(called), summary(in_short), example(for_example), takes(what) {}
  virtual ~Command() = default;
  Command(const Command&) = delete;
  Command& operator=(const Command&) = delete;

  virtual void add_words(Words& words) = 0;
  [[nodiscard]] virtual Answer answer() = 0;

  const char* const command_name;
  const char* const summary;
  const char* const example;
  const Takes takes;
  Common common;
};

std::unique_ptr<Command> make_survey();
std::unique_ptr<Command> make_route();
std::unique_ptr<Command> make_reach();
std::unique_ptr<Command> make_field();
std::unique_ptr<Command> make_compare();
std::unique_ptr<Command> make_regions();
std::unique_ptr<Command> make_draw();
std::unique_ptr<Command> make_sight();
std::unique_ptr<Command> make_threat();
std::unique_ptr<Command> make_check();
std::unique_ptr<Command> make_fit();
std::unique_ptr<Command> make_scatter();
std::unique_ptr<Command> make_layer();
std::unique_ptr<Command> make_convert();
std::unique_ptr<Command> make_generate();
std::unique_ptr<Command> make_walk();
std::unique_ptr<Command> make_play();
std::unique_ptr<Command> make_prepare();
std::unique_ptr<Command> make_gather();
std::unique_ptr<Command> make_demo();
std::unique_ptr<Command> make_serve();
std::unique_ptr<Command> make_manual();
std::unique_ptr<Command> make_keys();

/// A command and what it answered, which may point into it.
struct Asked {
  std::unique_ptr<Command> command;
  Answer answer;
};
/// Answers a command line that the page asks. Options that name files, and commands that are not for it, are refused.
[[nodiscard]] Asked ask(std::vector<std::string> words, const Handed& handed);
/// What --draw would write of an answer.
[[nodiscard]] std::string picture_bytes(const Answer& answer, bool svg, draw::PixelSize size);
/// Writes text to standard output; refuses when it does not all arrive.
void print(const std::string& text);

/// As run_command_line, for the demo: the answer's text is appended to `out`, and a refusal is thrown.
int answer_command_line(std::vector<std::string> words, std::string* out);

}  // namespace saunter::app
