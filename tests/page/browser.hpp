/// @file
/// A browser without a window, driven over the WebDriver protocol (W3C recommendation).
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "served.hpp"
#include "support/temporary_folder.hpp"

namespace saunter::test {

/// A session with one page. Elements are named by CSS selectors; what can't be done fails the test.
class Browser {
 public:
  /// Whether there is a browser and its driver on this machine.
  [[nodiscard]] static bool installed();
  explicit Browser(int width = 1280, int height = 800);
  ~Browser();
  Browser(const Browser&) = delete;
  Browser& operator=(const Browser&) = delete;

  void visit(const std::string& address);
  /// The value of a script's `return`. @param arguments  its `arguments`
  Json run(const std::string& script, const Json& arguments = Json::array());
  /// Waits until an expression is true, ten seconds at most.
  void wait_for(const std::string& expression);
  void click(const std::string& selector);
  void type(const std::string& selector, const std::string& text);
  void give_file(const std::string& selector, const std::string& file);
  void choose(const std::string& selector, const std::string& value);
  /// One key after the other, by name ("Enter") or character, to what has the focus.
  void press(const std::vector<std::string>& keys);
  /// Presses the pointer at the first place, drags it over the others and lets go. Places in pixels of the page.
  void drag(const std::vector<std::pair<double, double>>& places);
  /// Two fingers come down and move apart or together, each from its first place to its second.
  void pinch(std::pair<double, double> from, std::pair<double, double> to, std::pair<double, double> other_from,
             std::pair<double, double> other_to);
  [[nodiscard]] std::string text(const std::string& selector);
  void resize(int width, int height);
  /// Light or dark, as a system would ask for.
  void prefer(const std::string& scheme);
  /// A picture of the page as PNG.
  void shoot(const std::string& file);
  /// What the page's console told that was an error, and each address it asked for, since the last call.
  [[nodiscard]] std::vector<std::string> errors();
  [[nodiscard]] std::vector<std::string> requests();
  [[nodiscard]] std::string downloads() const { return folder_.path(); }

 private:
  Json command(const std::string& method, const std::string& path, const Json& body = Json::object());
  [[nodiscard]] std::string element(const std::string& selector);

  TemporaryFolder folder_;
  std::unique_ptr<Child> driver_;
  std::unique_ptr<httplib::Client> client_;
  std::string session_;
};

}  // namespace saunter::test
