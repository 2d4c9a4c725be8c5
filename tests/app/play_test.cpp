// `play` as the program's users meet it.
#include <catch2/catch.hpp>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>
#include <set>

#include "run_program.hpp"

using namespace saunter::test;
using Json = nlohmann::ordered_json;

namespace {

Json played(const std::string& script, int expected) {
  const TemporaryFolder folder;
  const std::string file = folder.path("script.toml");
  std::ofstream(file) << script;
  const Ran ran = run_program({"play", "demo/tide.toml", file, "--json"});
  INFO(ran.err);
  REQUIRE(ran.exit_code == expected);
  return Json::parse(ran.out);
}

}  // namespace

TEST_CASE("play tells the tide of the demo tick by tick, and all arrive") {
  const Ran ran = run_line("play demo/tide.toml demo/tide-script.toml --json");
  REQUIRE(ran.exit_code == 0);
  const Json told = Json::parse(ran.out);
  CHECK(told["command"] == "play");
  for (std::size_t tick = 0; tick < told["ticks"].size(); ++tick) {
    const Json& at = told["ticks"][tick];
    CHECK(at["tick"] == tick);
    CHECK(at.size() == 4);
  }
  std::set<std::string> seen;
  for (const Json& tick : told["ticks"]) {
    for (const Json& event : tick["events"]) {
      seen.insert(event["what"].get<std::string>());
      CHECK(event["at"].is_null() == (event["what"] != "broken"));
    }
  }
  CHECK(seen == std::set<std::string>{"better", "broken", "holds"});
  CHECK(told["units"].size() == 6);
  for (const Json& unit : told["units"]) {
    CHECK(unit["arrived"].is_number());
    CHECK(unit["cost"].is_number());
    CHECK(unit["path"].size() >= 2);
  }
  CHECK(told["work"]["expanded"].get<int>() < told["work"]["fresh_expanded"].get<int>());
  CHECK(run_line("play demo/tide.toml demo/tide-script.toml").out.find("pip: broken at 12,12, 28.51 to go") !=
        std::string::npos);
}

TEST_CASE("play draws a strip of moments") {
  const TemporaryFolder folder;
  for (const char* const name : {"tide.png", "tide.svg"}) {
    const std::string file = folder.path(name);
    CHECK(run_program({"play", "demo/tide.toml", "demo/tide-script.toml", "--draw", file}).exit_code == 0);
    CHECK(std::filesystem::file_size(file) > 10'000);
  }
  CHECK(run_line("play demo/tide.toml demo/tide-script.toml --view").out.find('1') != std::string::npos);
}

TEST_CASE("empty scripts are fine, edits that would cover a unit are listed, who does not arrive is a no") {
  const Json empty = played("saunter_play = 1\nticks = 0\n", 0);
  CHECK(empty["ticks"].empty());
  CHECK(empty["units"].empty());
  const Json covered = played(R"(saunter_play = 1
ticks = 5
[[edit]]
tick = 1
paint = "boulder"
cells = [[1, 2]]
[[go]]
name = "pip"
mover = "crab"
from = [1, 2]
to = [1, 2]
[[go]]
name = "dab"
mover = "crab"
from = [0, 2]
to = [0, 17]
)",
                              1);
  REQUIRE(covered["ticks"].size() == 5);
  CHECK(covered["ticks"][1]["refused"] ==
        Json::parse(R"([{"edit": 1, "why": "occupied", "at": [1, 2], "by": "pip"}])"));
  CHECK(covered["ticks"][1]["changed"].empty());
  CHECK(covered["units"][0]["arrived"] == 0);
  CHECK(covered["units"][1]["arrived"].is_null());
  CHECK(covered["ticks"][1]["events"][0] ==
        Json::parse(R"({"unit": "dab", "what": "broken", "at": [0, 2], "cost": null})"));
}

TEST_CASE("play refuses what is wrong in one line") {
  check_refused({{"play demo/tide.toml", "SCRIPT"},
                 {"play demo/tide.toml no-such.toml", "no-such.toml"},
                 {"play demo/tide.toml demo/tide.toml", "unknown key"},
                 {"play - -", "standard input"},
                 {"play demo/tide.toml demo/tide-script.toml --draw strip.gif", "--draw"},
                 {"play demo/tide.toml demo/tide-script.toml --mover crab", "--mover"}});
  const TemporaryFolder folder;
  const std::string file = folder.path("script.toml");
  std::ofstream(file) << "saunter_play = 1\nticks = 3\n[[edit]]\ntick = 2\nlift = \"tub\"\n";
  const Ran ran = run_program({"play", "demo/tide.toml", file, "--json"});
  CHECK(ran.exit_code == 2);
  CHECK(ran.out.empty());
  CHECK(ran.err.find("script.toml:5:8: found lift = \"tub\" at tick 2") != std::string::npos);
}
