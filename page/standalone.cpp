#include "page/standalone.hpp"

#include <array>
#include <string_view>

#include "page/files.hpp"

namespace saunter::page {
namespace {

/// The modules it needs, each after those it imports. Together they are one module: their imports fall away.
constexpr std::array<std::string_view, 10> modules = {"layout.js",  "replay.js",    "scene.js",    "painter.js",
                                                      "ground.js",  "marks.js",     "map_view.js", "plot.js",
                                                      "answers.js", "standalone.js"};

void append_module(std::string& out, std::string_view source) {
  while (!source.empty()) {
    const std::size_t end = source.find('\n');
    std::string_view line = source.substr(0, end);
    source.remove_prefix(end == std::string_view::npos ? source.size() : end + 1);
    constexpr std::string_view exported = "export ";
    if (line.starts_with("import ")) continue;
    if (line.starts_with(exported)) line.remove_prefix(exported.size());
    out.append(line).append("\n");
  }
}

/// JSON within a script: nothing in it may end the script.
void append_data(std::string& out, std::string_view data) {
  for (const char c : data) {
    if (c == '<') {
      out += "\\u003c";
    } else {
      out += c;
    }
  }
}

}  // namespace

std::string standalone(const std::string& data) {
  std::string out =
      "<!doctype html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n"
      "<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n"
      "<meta http-equiv=\"Content-Security-Policy\" content=\"default-src 'none'; script-src 'unsafe-inline'; "
      "style-src "
      "'unsafe-inline'; img-src data: blob:\">\n"
      "<title>Saunter</title>\n<link rel=\"icon\" href=\"data:,\">\n<style>\n";
  out += embedded_file("style.css");
  out += "</style>\n</head>\n<body class=\"standalone\">\n<script type=\"application/json\" id=\"data\">";
  append_data(out, data);
  out += "</script>\n<script type=\"module\">\n";
  for (const std::string_view module : modules) append_module(out, embedded_file(module));
  out += "</script>\n</body>\n</html>\n";
  return out;
}

}  // namespace saunter::page
