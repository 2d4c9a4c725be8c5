#include <CLI/CLI.hpp>
#include <array>
#include <cerrno>
#include <csignal>
#include <cstdio>
#include <exception>
#include <system_error>

#include <sys/ioctl.h>
#include <unistd.h>

#include <cstdlib>

#include "command_table.hpp"
#include "replay.hpp"
#include "saunter/draw/terminal.hpp"
#include "saunter/io/files.hpp"
#include "saunter/io/text.hpp"
#include "saunter/version.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

/// One line that a terminal only shows, and no longer than a person reads.
std::string one_line(const std::string& text) {
  std::string line = io::printable(text);
  while (line.ends_with(' ')) line.pop_back();
  if (line.size() <= io::longest_message) return line;
  std::size_t end = io::longest_message;
  while (end > 0 && (static_cast<unsigned char>(line[end]) & 0xC0U) == 0x80) --end;
  return line.substr(0, end) + "...";
}

int refuse(const Refused& refused) {
  (void)std::fprintf(stderr, "saunter: %s\n", one_line(refused.message).c_str());
  for (const std::string& line : refused.more) (void)std::fprintf(stderr, "saunter: %s\n", one_line(line).c_str());
  return exit_bad;
}

/// The map in characters, below the text on a terminal: in colour unless NO_COLOR is set; a note when it is too wide.
std::string view_of(const Answer& answer, bool asked) {
  const bool terminal = isatty(STDOUT_FILENO) != 0;
  if (!answer.picture || !(asked || terminal)) return {};
  draw::TerminalOptions options{.max_columns = 400};
  if (terminal) {
    const char* const no_color = std::getenv("NO_COLOR");  // NOLINT(concurrency-mt-unsafe): there is one thread
    options.color = no_color == nullptr || *no_color == '\0';
    winsize window = {};
    if (ioctl(STDOUT_FILENO, TIOCGWINSZ, &window) == 0 && window.ws_col > 0) options.max_columns = window.ws_col;
  }
  const std::string view = draw::terminal_view(*answer.picture, options);
  return view.empty() ? "(the map is too large to show here; use --draw FILE.png)\n" : "\n" + view;
}

void check_file_name(const std::string& option, const std::string& file, std::initializer_list<const char*> endings) {
  std::string expected;
  for (const char* const ending : endings) {
    if (file.empty() || file.ends_with(ending)) return;
    expected += (expected.empty() ? "" : " or ") + std::string(ending);
  }
  throw Refused{option + ": found " + io::shown(file) + ", expected a name that ends in " + expected};
}

void expect_different_files(const std::vector<io::PendingFile>& files) {
  for (std::size_t i = 0; i < files.size(); ++i) {
    for (std::size_t k = 0; k < i; ++k) {
      if (files[i].target() == files[k].target()) {
        throw Refused{"found " + io::shown(files[i].target()) + " named twice for output, expected different files"};
      }
    }
  }
}

/// Every file is complete beside its place before the first is put there, and all are there before anything is printed;
/// what goes wrong on the way puts everything back as it was.
void write_answer(Answer answer, const Common& common, std::string* out) {
  if (!common.draw.empty()) {
    add_file(answer, common.draw,
             picture_bytes(answer, common.draw.ends_with(".svg"), common.pixels.value_or(draw::PixelSize{})));
  }
  if (!common.page.empty()) add_file(answer, common.page, page_of(answer));
  expect_different_files(answer.files);
  std::string text;
  if (!common.json) {
    text = io::printable(answer.text, true) + view_of(answer, common.view);
  } else if (!answer.json.is_null()) {
    text = dumped(answer.json) + "\n";
  }
  for (io::PendingFile& file : answer.files) {
    if (const auto put = file.put(); !put) throw Refused{put.error().message()};
  }
  if (out != nullptr) {
    *out += text;
  } else {
    print(text);
  }
  for (io::PendingFile& file : answer.files) file.settle();
}

void check_command(const CLI::App& app, const std::vector<std::string>& words) {
  if (!words.empty() && words.front().starts_with('-')) return;
  std::string expected;
  for (const CLI::App* command : app.get_subcommands({})) {
    if (!words.empty() && command->get_name() == words.front()) return;
    expected += (expected.empty() ? "" : ", ") + command->get_name();
  }
  throw Refused{"found " + (words.empty() ? "no command" : "command " + io::shown(words.front())) +
                ", expected one of " + expected};
}

/// An option given an empty value says nothing, however it is written.
void check_empty_values(const std::vector<std::string>& words) {
  for (std::size_t i = 0; i < words.size(); ++i) {
    const std::size_t equals = words[i].find('=');
    const bool option = words[i].starts_with("--");
    if (option && equals != std::string::npos && equals + 1 == words[i].size()) {
      throw Refused{words[i].substr(0, equals) + ": found an empty value, expected something"};
    }
    if (!words[i].empty()) continue;
    const bool of_option = i > 0 && words[i - 1].starts_with("--");
    throw Refused{(of_option ? words[i - 1] + ": found an empty value" : std::string("found an empty word")) +
                  ", expected something"};
  }
}

void check_flags_given_once(const CLI::App& app) {
  for (const CLI::App* command : app.get_subcommands()) {
    for (const CLI::Option* option : command->get_options()) {
      const bool flag = option->get_items_expected_max() == 0;
      if (flag && option->count() > 1) throw Refused{option->get_name() + ": found twice, expected once"};
    }
  }
}

/// What the parser of words has to say, in our words.
Refused refused_by_parser(const CLI::ParseError& error) {
  const std::string text = error.what();
  const auto up_to = [&](const char* mark) { return text.substr(0, text.find(mark)); };
  const std::string name = error.get_name();
  if (name == "RequiredError") return {up_to(" is required") + ": found nothing, expected a value"};
  // Of a command's words its name is what the parser tells as the error's.
  if (error.get_exit_code() == static_cast<int>(CLI::ExitCodes::ExtrasError)) {
    const std::vector<std::string> left = split(text.substr(std::min(text.size(), text.find(": ") + 2)), ' ');
    const auto option = std::find_if(left.begin(), left.end(), [](const std::string& w) { return w.starts_with('-'); });
    const std::string& found = option == left.end() ? left.front() : *option;
    return {"found " + io::shown(found) + ", expected only words that the command's --help names"};
  }
  if (name == "ArgumentMismatch") {
    const bool several = text.find("received") != std::string::npos;
    return {up_to(":") + (several ? ": found several values, expected one" : ": found no value, expected one")};
  }
  return {text};
}

extern "C" void remove_files_and_end(int signal) {
  io::remove_unfinished_files();
  (void)std::signal(signal, SIG_DFL);
  (void)std::raise(signal);
}

/// A full disk and a closed pipe are told like other errors; whoever ends us leaves no unfinished files behind.
void mind_signals() {
  for (const int signal : {SIGPIPE, SIGXFSZ}) (void)std::signal(signal, SIG_IGN);
  for (const int signal : {SIGINT, SIGTERM, SIGHUP}) (void)std::signal(signal, remove_files_and_end);
}

/// Reads the words, and refuses what was given and does not go together.
void parse(CLI::App& app, std::vector<std::string> words) {
  check_command(app, words);
  check_empty_values(words);
  std::reverse(words.begin(), words.end());  // the parser takes them from the back
  try {
    app.parse(words);
  } catch (const CLI::Success&) {
    throw;  // --help and --version
  } catch (const CLI::ParseError& error) {
    throw refused_by_parser(error);
  }
  check_flags_given_once(app);
}

/// The command that the words named.
Entry& parsed(std::vector<Entry>& commands) {
  Entry& asked =
      *std::find_if(commands.begin(), commands.end(), [](const Entry& entry) { return entry.parser->parsed(); });
  asked.words->check();
  return asked;
}

}  // namespace

void print(const std::string& text) {
  const bool written = std::fwrite(text.data(), 1, text.size(), stdout) == text.size();
  if (std::fflush(stdout) == 0 && written) return;
  const int why = errno;
  std::clearerr(stdout);
  throw Refused{"standard output: found " + std::generic_category().message(why) + ", expected a place to write to"};
}

std::string picture_bytes(const Answer& answer, bool svg, draw::PixelSize size) {
  const auto made = [&](const auto& what) { return svg ? draw::to_svg(what, size) : draw::to_png(what, size); };
  if (!answer.sheet && !answer.picture) throw Refused{"--draw: there is nothing to draw"};
  std::string bytes = answer.sheet ? made(*answer.sheet) : made(*answer.picture);
  if (bytes.empty()) throw Refused{"--draw: found a picture that cannot be made, expected a smaller one"};
  return bytes;
}

Asked ask(std::vector<std::string> words, const Handed& handed) {
  CLI::App app;
  std::vector<Entry> commands = add_commands(app, words.empty() ? "" : words.front());
  try {
    parse(app, std::move(words));
  } catch (const CLI::Success&) {
    throw Refused{"--help: found on the page, expected a question"};
  }
  Entry& asked = parsed(commands);
  if (!for_page(asked.command->command_name)) {
    throw Refused{"found command " + io::shown(asked.command->command_name) + ", expected one that the page asks"};
  }
  for (const CLI::Option* option : asked.parser->get_options()) {
    const std::string name = option->get_name();
    if (option->count() == 0 || name == "SCENARIO" || !asked.words->names_file(name)) continue;
    throw Refused{name + ": found on the page, expected only options that name no file"};
  }
  asked.command->common.handed = &handed;
  Answer answer = asked.command->answer();
  return {std::move(asked.command), std::move(answer)};
}

int answer_command_line(std::vector<std::string> words, std::string* out) {
  CLI::App app{"Saunter: where a unit can go, what it costs, and why not.", "saunter"};
  app.set_version_flag("--version", "saunter " + std::string(version()));
  app.require_subcommand(1);
  std::vector<Entry> commands = add_commands(app, words.empty() ? "" : words.front());
  try {
    parse(app, std::move(words));
  } catch (const CLI::CallForVersion& version) {
    print(std::string(version.what()) + "\n");
    return exit_yes;
  } catch (const CLI::Success&) {
    print(app.help());
    return exit_yes;
  }
  Command& command = *parsed(commands).command;
  check_file_name("--draw", command.common.draw, {".png", ".svg"});
  check_file_name("--page", command.common.page, {".html"});
  Answer answer = command.answer();
  const int exit_code = answer.exit_code;
  write_answer(std::move(answer), command.common, out);
  return exit_code;
}

int run_command_line(std::vector<std::string> words) {
  mind_signals();
  try {
    return answer_command_line(std::move(words), nullptr);
  } catch (const Refused& refused) {
    return refuse(refused);
  } catch (const std::bad_alloc&) {
    return refuse({"found not enough memory, expected a smaller map or question"});
  } catch (const std::exception& error) {
    return refuse({std::string("found what should not happen (") + error.what() + "), expected an answer"});
  } catch (...) {
    return refuse({"found what should not happen, expected an answer"});
  }
}

}  // namespace saunter::app
