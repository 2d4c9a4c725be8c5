/// @file
/// The program's page, served for a test, and questions to it.
#pragma once

#include <httplib.h>
#include <nlohmann/json.hpp>

#include "child.hpp"

namespace saunter::test {

using Json = nlohmann::json;

/// `saunter serve` with these words, until the end of the test.
class Served {
 public:
  explicit Served(const std::vector<std::string>& words = {});

  Child child;
  std::string address;  ///< http://127.0.0.1:PORT/TOKEN/
  int port = 0;
  std::string path;  ///< /TOKEN/

  /// Asks as the page does. Fails the test when the status is another. @return what was answered
  [[nodiscard]] Json ask(const std::string& name, const Json& question, int expected = 200) const;
  [[nodiscard]] httplib::Client client() const;
};

}  // namespace saunter::test
