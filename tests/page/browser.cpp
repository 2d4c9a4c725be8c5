#include "browser.hpp"

#include <catch2/catch.hpp>
#include <chrono>
#include <filesystem>
#include <fstream>
#include <thread>

namespace saunter::test {
namespace {

std::string found_program(const std::vector<std::string>& names) {
  for (const std::string& name : names) {
    for (const char* const folder : {"/usr/bin/", "/usr/local/bin/"}) {
      if (std::filesystem::exists(folder + name)) return folder + name;
    }
  }
  return {};
}
std::string browser_program() { return found_program({"chromium"}); }
std::string driver_program() { return found_program({"chromedriver"}); }

/// A key as the protocol codes it.
std::string key_code(const std::string& name) {
  const std::vector<std::pair<std::string, std::string>> known = {
      {"Enter", "\uE007"},      {"Escape", "\uE00C"},    {"ArrowLeft", "\uE012"}, {"ArrowUp", "\uE013"},
      {"ArrowRight", "\uE014"}, {"ArrowDown", "\uE015"}, {"Tab", "\uE004"},       {"Control", "\uE009"}};
  for (const auto& [word, code] : known) {
    if (name == word) return code;
  }
  return name;
}

std::string bytes_of_base64(const std::string& text) {
  const std::string digits = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
  std::string bytes;
  unsigned held = 0;
  int bits = 0;
  for (const char c : text) {
    const std::size_t digit = digits.find(c);
    if (digit == std::string::npos) continue;
    held = (held << 6U) | static_cast<unsigned>(digit);
    bits += 6;
    if (bits < 8) continue;
    bits -= 8;
    bytes += static_cast<char>((held >> static_cast<unsigned>(bits)) & 255U);
  }
  return bytes;
}

}  // namespace

bool Browser::installed() { return !browser_program().empty() && !driver_program().empty(); }

Browser::Browser(int width, int height) {
  driver_ = std::make_unique<Child>(std::vector<std::string>{driver_program(), "--port=0"});
  int port = 0;
  for (std::string line = driver_->read_line(); !line.empty() && port == 0; line = driver_->read_line()) {
    const std::string mark = "started successfully on port ";
    const std::size_t at = line.find(mark);
    if (at != std::string::npos) port = std::stoi(line.substr(at + mark.size()));
    if (port != 0) break;
  }
  REQUIRE(port != 0);
  client_ = std::make_unique<httplib::Client>("127.0.0.1", port);
  constexpr time_t seconds = 60;
  client_->set_read_timeout(seconds);
  const Json options = {
      {"binary", browser_program()},
      {"args",
       {"--headless=new", "--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage", "--no-first-run",
        "--disable-background-networking", "--disable-component-update", "--disable-sync", "--disable-default-apps",
        "--user-data-dir=" + folder_.path("profile"),
        "--window-size=" + std::to_string(width) + "," + std::to_string(height)}},
      {"prefs", {{"download.default_directory", folder_.path()}, {"download.prompt_for_download", false}}}};
  const Json wanted = {{"browserName", "chrome"},
                       {"goog:chromeOptions", options},
                       {"goog:loggingPrefs", {{"browser", "ALL"}, {"performance", "ALL"}}}};
  const Json made = command("POST", "/session", {{"capabilities", {{"alwaysMatch", wanted}}}});
  session_ = "/session/" + made["sessionId"].get<std::string>();
  resize(width, height);
}

Browser::~Browser() {
  if (!session_.empty()) (void)client_->Delete(session_);
}

Json Browser::command(const std::string& method, const std::string& path, const Json& body) {
  const std::string full = session_ + path;
  const auto reply = method == "POST" ? client_->Post(full, body.dump(), "application/json") : client_->Get(full);
  INFO(method << " " << path << " " << body.dump().substr(0, 300));
  REQUIRE(reply);
  INFO(reply->body.substr(0, 600));
  REQUIRE(reply->status == 200);
  return Json::parse(reply->body)["value"];
}

std::string Browser::element(const std::string& selector) {
  const Json found = command("POST", "/element", {{"using", "css selector"}, {"value", selector}});
  return "/element/" + found.begin().value().get<std::string>();
}

void Browser::visit(const std::string& address) { command("POST", "/url", {{"url", address}}); }

Json Browser::run(const std::string& script, const Json& arguments) {
  return command("POST", "/execute/sync", {{"script", script}, {"args", arguments}});
}

void Browser::wait_for(const std::string& expression) {
  const auto began = std::chrono::steady_clock::now();
  INFO("waiting for " << expression);
  while (!run("return Boolean(" + expression + ")").get<bool>()) {
    REQUIRE(std::chrono::steady_clock::now() - began < std::chrono::seconds(30));
    std::this_thread::sleep_for(std::chrono::milliseconds(20));
  }
}

void Browser::click(const std::string& selector) { command("POST", element(selector) + "/click"); }

void Browser::type(const std::string& selector, const std::string& text) {
  const std::string field = element(selector);
  command("POST", field + "/clear");
  command("POST", field + "/value", {{"text", text + "\uE007"}});
}

void Browser::give_file(const std::string& selector, const std::string& file) {
  command("POST", element(selector) + "/value", {{"text", file}});
}

void Browser::choose(const std::string& selector, const std::string& value) {
  run("const at = document.querySelector(arguments[0]); at.value = arguments[1];"
      "at.dispatchEvent(new Event('change', {bubbles: true}))",
      {selector, value});
}

void Browser::press(const std::vector<std::string>& keys) {
  Json actions = Json::array();
  for (const std::string& key : keys) {
    for (const char* const type : {"keyDown", "keyUp"}) actions.push_back({{"type", type}, {"value", key_code(key)}});
  }
  command("POST", "/actions", {{"actions", {{{"type", "key"}, {"id", "keys"}, {"actions", actions}}}}});
}

void Browser::drag(const std::vector<std::pair<double, double>>& places) {
  Json actions = Json::array();
  for (const auto& [x, y] : places) {
    actions.push_back({{"type", "pointerMove"},
                       {"duration", 30},
                       {"origin", "viewport"},
                       {"x", std::lround(x)},
                       {"y", std::lround(y)}});
    if (actions.size() == 1) actions.push_back({{"type", "pointerDown"}, {"button", 0}});
  }
  actions.push_back({{"type", "pointerUp"}, {"button", 0}});
  const Json pointer = {
      {"type", "pointer"}, {"id", "hand"}, {"parameters", {{"pointerType", "mouse"}}}, {"actions", actions}};
  command("POST", "/actions", {{"actions", {pointer}}});
}

void Browser::pinch(std::pair<double, double> from, std::pair<double, double> to, std::pair<double, double> other_from,
                    std::pair<double, double> other_to) {
  const auto finger = [](const char* id, std::pair<double, double> a, std::pair<double, double> b) {
    const auto move = [](std::pair<double, double> place, int duration) {
      return Json{{"type", "pointerMove"},
                  {"duration", duration},
                  {"origin", "viewport"},
                  {"x", std::lround(place.first)},
                  {"y", std::lround(place.second)}};
    };
    return Json{{"type", "pointer"},
                {"id", id},
                {"parameters", {{"pointerType", "touch"}}},
                {"actions", Json::array({move(a, 0), Json{{"type", "pointerDown"}, {"button", 0}}, move(b, 200),
                                         Json{{"type", "pointerUp"}, {"button", 0}}})}};
  };
  command("POST", "/actions",
          {{"actions", Json::array({finger("one", from, to), finger("two", other_from, other_to)})}});
}

std::string Browser::text(const std::string& selector) {
  return run("return document.querySelector(arguments[0]).textContent", {selector});
}

void Browser::resize(int width, int height) {
  command("POST", "/goog/cdp/execute",
          {{"cmd", "Emulation.setDeviceMetricsOverride"},
           {"params", {{"width", width}, {"height", height}, {"deviceScaleFactor", 1}, {"mobile", false}}}});
}

void Browser::prefer(const std::string& scheme) {
  command("POST", "/goog/cdp/execute",
          {{"cmd", "Emulation.setEmulatedMedia"},
           {"params", {{"features", {{{"name", "prefers-color-scheme"}, {"value", scheme}}}}}}});
}

void Browser::shoot(const std::string& file) {
  std::ofstream(file, std::ios::binary) << bytes_of_base64(command("GET", "/screenshot"));
}

std::vector<std::string> Browser::errors() {
  std::vector<std::string> found;
  for (const Json& line : command("POST", "/se/log", {{"type", "browser"}})) {
    if (line["level"] == "SEVERE") found.push_back(line["message"]);
  }
  return found;
}

std::vector<std::string> Browser::requests() {
  std::vector<std::string> found;
  for (const Json& line : command("POST", "/se/log", {{"type", "performance"}})) {
    const Json told = Json::parse(line["message"].get<std::string>())["message"];
    if (told["method"] == "Network.requestWillBeSent") found.push_back(told["params"]["request"]["url"]);
  }
  return found;
}

}  // namespace saunter::test
