#include "served.hpp"

#include <catch2/catch.hpp>

#include "app/schema.hpp"
#include "support/places.hpp"

namespace saunter::test {
namespace {

std::vector<std::string> command(std::vector<std::string> words) {
  for (std::string& word : words) {
    if (word.starts_with("demo/")) word.insert(0, source_dir() + "/");
  }
  words.insert(words.begin(), {program_file(), "serve", "--json"});
  return words;
}

}  // namespace

Served::Served(const std::vector<std::string>& words) : child(command(words)) {
  const std::string line = child.read_line();
  INFO("it said: " << line);
  REQUIRE(Json::accept(line));
  CHECK(against_schema(Json::parse(line), schema_for("serve")).empty());
  address = Json::parse(line)["address"];
  const std::size_t colon = address.rfind(':');
  const std::size_t slash = address.find('/', colon);
  REQUIRE(slash != std::string::npos);
  port = std::stoi(address.substr(colon + 1, slash - colon - 1));
  path = address.substr(slash);
}

httplib::Client Served::client() const {
  httplib::Client client("127.0.0.1", port);
  constexpr time_t seconds = 120;
  client.set_read_timeout(seconds);
  client.set_write_timeout(seconds);
  return client;
}

Json Served::ask(const std::string& name, const Json& question, int expected) const {
  const auto reply = client().Post(path + name, question.dump(), "application/json");
  REQUIRE(reply);
  INFO(name << " answered " << reply->body.substr(0, 400));
  REQUIRE(reply->status == expected);
  REQUIRE(Json::accept(reply->body));
  return Json::parse(reply->body);
}

}  // namespace saunter::test
