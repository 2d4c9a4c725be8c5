#include <cerrno>
#include <cstdio>
#include <system_error>

#include "command.hpp"
#include "saunter/io/files.hpp"

namespace saunter::app {
namespace {

std::string one_line(std::string text) {
  for (char& c : text) {
    if (c == '\n' || c == '\r') c = ' ';
  }
  while (text.ends_with(' ')) text.pop_back();
  return text;
}

int refuse(const std::string& message) {
  (void)std::fprintf(stderr, "saunter: %s\n", one_line(message).c_str());
  return exit_bad;
}

/// Writes text to standard output; refuses when it does not all arrive.
void print(const std::string& text) {
  const bool written = std::fwrite(text.data(), 1, text.size(), stdout) == text.size();
  if (std::fflush(stdout) != 0 || !written) throw Refused{"standard output: " + std::generic_category().message(errno)};
}

std::string picture_bytes(const std::vector<draw::Picture>& pictures, const std::string& file) {
  if (file.ends_with(".svg")) return draw::to_svg(pictures);
  return draw::to_png(pictures);
}

void check_picture_name(const std::string& file) {
  if (file.empty() || file.ends_with(".png") || file.ends_with(".svg")) return;
  throw Refused{"--draw: found \"" + file + "\", expected a name that ends in .png or .svg"};
}

/// Every file is complete on disk before anything is printed, and put in its place after.
void write_answer(Answer answer, const Common& common, std::string* out) {
  if (!common.draw.empty()) {
    if (answer.pictures.empty()) throw Refused{"--draw: there is nothing to draw"};
    auto written = io::PendingFile::write(common.draw, picture_bytes(answer.pictures, common.draw));
    if (!written) throw Refused{written.error().message()};
    answer.files.push_back(std::move(written).value());
  }
  const std::string text = common.json ? answer.json.dump(-1, ' ', false, Json::error_handler_t::replace) + "\n"
                                       : answer.terminal_picture + answer.text;
  if (out != nullptr) {
    *out += text;
  } else {
    print(text);
  }
  for (io::PendingFile& file : answer.files) {
    if (const auto kept = file.keep(); !kept) throw Refused{kept.error().message()};
  }
}

void check_command(const CLI::App& app, const std::vector<std::string>& words) {
  if (!words.empty() && words.front().starts_with('-')) return;
  std::string expected;
  for (const CLI::App* command : app.get_subcommands({})) {
    if (!words.empty() && command->get_name() == words.front()) return;
    expected += (expected.empty() ? "" : ", ") + command->get_name();
  }
  throw Refused{"found " + (words.empty() ? "no command" : "command \"" + words.front() + "\"") + ", expected one of " +
                expected};
}

}  // namespace

int run_command_line(std::vector<std::string> words, std::string* out) {
  CLI::App app{"Saunter: where a unit can go, what it costs, and why not.", "saunter"};
  app.set_version_flag("--version", std::string("saunter ") + SAUNTER_VERSION);
  app.require_subcommand(1);
  app.failure_message([](const CLI::App*, const CLI::Error& error) { return std::string(error.what()); });
  Chosen chosen;
  add_survey(app, chosen);
  add_route(app, chosen);
  add_reach(app, chosen);
  add_field(app, chosen);
  add_compare(app, chosen);
  add_regions(app, chosen);
  add_draw(app, chosen);
  add_sight(app, chosen);
  add_threat(app, chosen);
  add_check(app, chosen);
  add_fit(app, chosen);
  add_scatter(app, chosen);
  add_layer(app, chosen);
  add_convert(app, chosen);
  add_demo(app, chosen);
  try {
    check_command(app, words);
    std::reverse(words.begin(), words.end());  // the parser takes them from the back
    app.parse(words);
    check_picture_name(chosen.common->draw);
    Answer answer = chosen.run();
    const int exit_code = answer.exit_code;
    write_answer(std::move(answer), *chosen.common, out);
    return exit_code;
  } catch (const CLI::ParseError& error) {
    if (error.get_exit_code() != 0) return refuse(error.what());
    app.exit(error);  // help or version, asked for
    return std::fflush(stdout) == 0 ? exit_yes : refuse("standard output: cannot be written");
  } catch (const Refused& refused) {
    return refuse(refused.message);
  } catch (const std::bad_alloc&) {
    return refuse("not enough memory");
  }
}

}  // namespace saunter::app
