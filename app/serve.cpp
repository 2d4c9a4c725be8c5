#include <fmt/format.h>
#include <spawn.h>
#include <unistd.h>

#include <atomic>
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <optional>

#include "command_table.hpp"
#include "edits.hpp"
#include "page/files.hpp"
#include "page/server.hpp"
#include "saunter/io/files.hpp"
#include "saunter/io/text.hpp"
#include "scene.hpp"

namespace saunter::app {
namespace {

/// Larger maps are not shown.
constexpr std::size_t most_cells_of_page = 4'000'000;

#ifdef SAUNTER_HAS_SERVER

/// A request that no page of ours makes.
struct Malformed {
  std::string why;
};

std::vector<std::string> words_from(const Json& list) {
  constexpr std::size_t most_words = 10'000;
  if (!list.is_array() || list.empty() || list.size() > most_words) throw Malformed{"ask: expected a list of words"};
  std::vector<std::string> words;
  for (const Json& word : list) {
    if (!word.is_string()) throw Malformed{"ask: expected a list of words"};
    words.push_back(word.get<std::string>());
  }
  return words;
}

/// Commands about a map are asked without its name, which here is always the map at hand.
Asked ask_page(std::vector<std::string> words, const io::Scenario* scenario) {
  if (words.front() != "generate") words.insert(words.begin() + 1, "-");
  return ask(std::move(words), {scenario, most_cells_of_page});
}

io::Scenario parsed_scenario(std::string_view text) {
  io::Result<io::Scenario> scenario = io::parse_scenario(text, "the map", std::nullopt);
  if (!scenario) throw Refused{scenario.error().message()};
  refuse_large(scenario.value().map.size(), most_cells_of_page);
  return std::move(scenario).value();
}

/// What the server answers. It keeps nothing of a question: each brings its map along.
class Answers {
 public:
  Answers(std::string scenario, std::string name) : scenario_(std::move(scenario)), name_(std::move(name)) {}

  page::Reply operator()(const std::string& name, const std::string& body) const {
    try {
      constexpr int deepest = 32;  // no page of ours comes near it
      if (io::bracket_depth(body) > deepest) throw Malformed{"found brackets more than 32 deep"};
      const Json question = Json::parse(body, nullptr, false);
      if (!question.is_object()) throw Malformed{"found no JSON object, expected one"};
      if (name == "start") return {.body = dumped(start())};
      if (name == "open") return {.body = dumped(open(question))};
      if (name == "show") return {.body = dumped(show(question))};
      if (name == "make") return {.body = dumped(make(question))};
      if (name == "picture") return picture(question);
      return {403, "text/plain", "not for you\n"};
    } catch (const Malformed& malformed) {
      return {400, page::Reply{}.type, dumped({{"error", malformed.why}})};
    } catch (const Refused& refused) {
      return {.body = dumped({{"error", io::printable(refused.message, true)}})};
    } catch (const Json::exception&) {
      return {400, page::Reply{}.type, dumped({{"error", "found a question of another form"}})};
    } catch (const std::bad_alloc&) {
      return {.body = dumped({{"error", "found not enough memory, expected a smaller map or question"}})};
    }
  }

 private:
  [[nodiscard]] Json start() const {
    Json maps = Json::array();
    for (const page::Embedded& file : page::embedded_files()) {
      const std::string name = file.name;
      if (name.ends_with(".toml")) maps.push_back({{"name", name}, {"title", demo(name).title}});
    }
    return {{"commands", page_table()},
            {"maps", std::move(maps)},
            {"name", scenario_.empty() ? Json() : Json(name_)},
            {"scenario", scenario_.empty() ? Json() : Json(scenario_)}};
  }

  static io::Scenario demo(const std::string& name) { return parsed_scenario(page::embedded_file(name)); }

  static Json open(const Json& question) {
    const std::string name = text_member(question, "name");
    if (!name.ends_with(".toml") || page::embedded_file(name).empty()) {
      Words::refuse_word("name", name, "the name of a demo map");
    }
    return {{"scenario", text_of(demo(name))}};
  }

  /// Edits of a map, what it then is, and answers to questions about it. An edit that is refused leaves it as it was.
  static Json show(const Json& question) {
    io::Scenario scenario = parsed_scenario(text_member(question, "scenario"));
    Json reply = Json::object();
    if (question.contains("edits")) {
      const Json& edits = member(question, "edits", Json::value_t::array, "a list of edits");
      for (const Json& edit : edits) apply_edit(scenario, edit);
      reply["scenario"] = text_of(scenario);
    }
    const std::string wanted = question.contains("mover") ? text_member(question, "mover") : std::string();
    const Mover* mover = scenario.find_mover(wanted);
    if (mover == nullptr) mover = &choose_mover(scenario, "");  // a mover of the map before
    if (question.value("scene", true))
      reply["scene"] = scene_json(scenario, *mover, bake_for(scenario, *mover), tick_of(question));
    reply["answers"] = Json::array();
    if (!question.contains("ask")) return reply;
    for (const Json& words : member(question, "ask", Json::value_t::array, "a list of questions")) {
      reply["answers"].push_back(answered(words, &scenario));
    }
    return reply;
  }

  static std::uint64_t tick_of(const Json& question) {
    const Json tick = question.value("tick", Json(0));
    constexpr std::int64_t most = 1'000'000'000;
    if (!tick.is_number_integer() || tick.get<std::int64_t>() < 0 || tick.get<std::int64_t>() > most) {
      throw Malformed{"tick: expected a whole number from 0 to 1000000000"};
    }
    return tick.get<std::uint64_t>();
  }

  static Json answered(const Json& words, const io::Scenario* scenario) {
    try {
      Asked asked = ask_page(words_from(words), scenario);
      return {{"exit", asked.answer.exit_code},
              {"text", io::printable(asked.answer.text, true)},
              {"json", std::move(asked.answer.json)},
              {"replay", std::move(asked.answer.replay)}};
    } catch (const Refused& refused) {
      return {{"exit", exit_bad}, {"error", io::printable(refused.message, true)}};
    }
  }

  static Json make(const Json& question) {
    const Json& words = member(question, "ask", Json::value_t::array, "a list of words");
    if (words_from(words).front() != "generate") throw Malformed{"ask: expected generate"};
    return answered(words, nullptr);
  }

  static page::Reply picture(const Json& question) {
    std::vector<std::string> words = words_from(question.value("ask", Json()));
    const io::Scenario scenario = parsed_scenario(text_member(question, "scenario"));
    const Asked asked = ask_page(std::move(words), &scenario);
    const bool svg = text_member(question, "form") == "svg";
    return {200, svg ? "image/svg+xml" : "image/png", picture_bytes(asked.answer, svg, draw::PixelSize{})};
  }

  std::string scenario_;
  std::string name_;
};

/// A page in a file that only this user can read, which leads on to an address: a browser that is given the file has
/// no address with a token among its words, which everybody can list.
class LeadingPage {
 public:
  explicit LeadingPage(const std::string& address) {
    const char* const folder = std::getenv("XDG_RUNTIME_DIR");
    name_ = std::string(folder != nullptr && *folder == '/' ? folder : "/tmp") + "/saunter-XXXXXX.html";
    constexpr int suffix = 5;                         // ".html"
    const int file = mkstemps(name_.data(), suffix);  // with rights for the user alone
    if (file < 0) {
      name_.clear();
      return;
    }
    const std::string page =
        "<!doctype html><meta charset=\"utf-8\"><title>Saunter</title>"
        "<meta http-equiv=\"refresh\" content=\"0; url=" +
        address + "\">\n";
    const bool written = write(file, page.data(), page.size()) == static_cast<ssize_t>(page.size());
    (void)close(file);
    if (written) return;
    (void)unlink(name_.c_str());
    name_.clear();
  }
  ~LeadingPage() {
    if (!name_.empty()) (void)unlink(name_.c_str());
  }
  LeadingPage(const LeadingPage&) = delete;
  LeadingPage& operator=(const LeadingPage&) = delete;
  [[nodiscard]] const std::string& name() const { return name_; }  ///< "" when it could not be written

 private:
  std::string name_;
};

/// Shows a file in the browser that the person has chosen.
/// @return whether there was one to ask
bool open_browser(const std::string& file) {
  if (file.empty()) return false;
  std::string program = "xdg-open";
  std::string argument = file;
  char* const words[] = {program.data(), argument.data(), nullptr};
  pid_t child = 0;
  return posix_spawnp(&child, program.c_str(), nullptr, nullptr, words, environ) == 0;
}

/// Ctrl-C and the like: the first ends the server and what it is busy with, the second the program.
class Ending {
 public:
  explicit Ending(page::Server& server) {
    server_ = &server;
    struct sigaction action = {};
    action.sa_handler = [](int signal) {
      page::Server* const running = server_.exchange(nullptr);
      if (running == nullptr) _exit(128 + signal);
      running->stop();
    };
    for (const int signal : {SIGINT, SIGTERM, SIGHUP}) (void)sigaction(signal, &action, nullptr);
  }
  ~Ending() {
    for (const int signal : {SIGINT, SIGTERM, SIGHUP}) (void)std::signal(signal, SIG_DFL);
    server_ = nullptr;
  }
  Ending(const Ending&) = delete;
  Ending& operator=(const Ending&) = delete;

 private:
  static inline std::atomic<page::Server*> server_ = nullptr;
  static_assert(std::atomic<page::Server*>::is_always_lock_free);
};

#endif

class ServeCommand final : public Command {
 public:
  ServeCommand()
      : Command("serve", "a page on this machine: paint a map, ask, and watch every answer",
                "serve demo/strand.toml --port 8642", Takes::nothing) {}

  void add_words(Words& words) override {
    words.file("SCENARIO", common.scenario, "scenario file (default: the demo maps to choose from)");
    words.heading("Server");
    words.whole("--port", port_, 0, 65'535, "where it answers (default: any free port)");
    words.flag("--open", open_, "show it in the browser");
  }

  Answer answer() override {
#ifdef SAUNTER_HAS_SERVER
    std::string text;
    if (!common.scenario.empty()) {
      const io::Scenario scenario = load(common);
      refuse_large(scenario.map.size(), most_cells_of_page);
      (void)choose_mover(scenario, "");
      text = text_of(scenario);
    }
    page::Server server(Answers(text, common.scenario));
    if (!server.bind(port_)) {
      throw Refused{fmt::format("--port: found {} in use or not allowed, expected a free port", port_)};
    }
    const Ending ending(server);
    std::optional<LeadingPage> leads_on;
    if (open_) leads_on.emplace(server.address());
    tell(server.address());
    if (leads_on && !open_browser(leads_on->name())) {
      (void)std::fprintf(stderr, "saunter: --open: found no browser to ask, expected one; the address works in any\n");
    }
    server.run();
    Answer answer;
    answer.text = "\nended\n";  // the object was printed when it began
    return answer;
#else
    throw Refused{"serve: found a program built where there are no sockets, expected one built where there are"};
#endif
  }

 private:
#ifdef SAUNTER_HAS_SERVER
  void tell(const std::string& address) const {
    if (common.json) {
      print(dumped({{"command", "serve"}, { "address", address }}) + "\n");
    } else {
      print("the page is at " + address + "\nCtrl-C ends it\n");
    }
  }
#endif

  int port_ = 0;
  bool open_ = false;
};

}  // namespace

std::unique_ptr<Command> make_serve() { return std::make_unique<ServeCommand>(); }

}  // namespace saunter::app
