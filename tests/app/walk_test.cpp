// `walk`, walkers in `compare`, and the search that strikes off dead ends, as the program's users meet them.
#include <algorithm>
#include <catch2/catch.hpp>
#include <filesystem>
#include <nlohmann/json.hpp>

#include "run_program.hpp"

using namespace saunter::test;
using Json = nlohmann::ordered_json;

namespace {

const std::string pan = R"(saunter = 1
[map]
tiling = "square"
rows = '''
......
.####.
.#....
.#.##.
...#..
'''
[terrain.salt]
glyph = "."
[terrain.brine]
glyph = "#"
cost = false
[mover.crab]
steps = 4
[mover.gull]
steps = 4
costs = { brine = 1 }
)";

Ran walk(const std::string& words) { return run_line("walk - " + words, pan); }
Json walked(const std::string& words, int expected) {
  const Ran ran = walk(words + " --json");
  INFO(words << ": " << ran.err);
  REQUIRE(ran.exit_code == expected);
  return Json::parse(ran.out);
}

}  // namespace

TEST_CASE("walk tells how it ended and where it was") {
  const Json arrived = walked("--walker right-hand --from 0,0 --to 5,4", 0);
  CHECK(arrived["command"] == "walk");
  CHECK(arrived["walker"] == "right-hand");
  CHECK(arrived["arrived"] == true);
  CHECK(arrived["reason"] == "arrived");
  CHECK(arrived["steps"] == arrived["path"].size() - 1);
  CHECK(arrived["visited"].get<int>() + arrived["revisits"].get<int>() == arrived["steps"].get<int>() + 1);
  CHECK(arrived["restarts"] == 0);
  CHECK(arrived["path"].front() == Json({0, 0}));
  CHECK(arrived["path"].back() == Json({5, 4}));
  CHECK(walked("--walker left-hand --from 0,0", 1)["reason"] == "loop");
  CHECK(walked("--walker wander --from 0,0 --steps 9", 1)["reason"] == "steps");
  CHECK(walked("--walker wander --from 0,0 --steps 9 --seed 4", 1)["path"].size() == 10);
  const Json there = walked("--walker explore --from 2,2 --to 2,2", 0);
  CHECK(there["steps"] == 0);
  CHECK(there["path"].size() == 1);
  // The default bound is four steps a cell.
  CHECK(walked("--walker wander --from 0,0", 1)["steps"] == 120);
  for (const std::string kind :
       {"wander", "turn-right", "turn-left", "turn-to-goal", "right-hand", "left-hand", "explore"}) {
    INFO(kind);
    const Ran ran = walk("--walker " + kind + " --from 0,0 --to 5,4");
    CHECK(ran.exit_code <= 1);
    CHECK(ran.out.find(kind) != std::string::npos);
  }
}

TEST_CASE("walk shows in characters how often it was where, its last steps and itself") {
  // On a terminal a map begins below an empty line.
  const auto view_of = [](const std::string& words) {
    const std::string out = walk(words).out;
    return out.substr(std::min(out.size(), out.find("\n\n")));
  };
  const std::string wandered = view_of("--walker wander --from 0,0 --steps 400 --view");
  CHECK(std::count(wandered.begin(), wandered.end(), '@') == 1);
  CHECK(wandered.find('*') != std::string::npos);
  CHECK(wandered.find('+') != std::string::npos);  // some of 23 cells more than nine times
  const std::string arrived = view_of("--walker right-hand --from 0,0 --to 5,4 --view");
  CHECK(arrived.find('G') != std::string::npos);
  CHECK(arrived.find('*') != std::string::npos);
  CHECK(view_of("--walker wander --from 0,0 --steps 400").empty());
}

TEST_CASE("ends that can't be used are an answer, missing ones an error") {
  const Json blocked = walked("--walker explore --from 0,0 --to 1,1", 1);
  CHECK(blocked["arrived"] == false);
  CHECK(blocked["reason"] == "goal-blocked");
  CHECK(blocked["at"] == Json({1, 1}));
  CHECK(blocked["path"].is_null());
  CHECK(walked("--walker wander --from -1,0", 1)["reason"] == "start-off-map");
  CHECK(walked("--walker wander --from 9,9 --mover gull", 1)["reason"] == "start-off-map");
  CHECK(walked("--walker turn-left --from 1,1 --to 5,4 --mover gull", 0)["arrived"] == true);
  check_refused({{"walk demo/strand.toml --walker explore --from 3,4", "--to"},
                 {"walk demo/strand.toml --walker turn-to-goal --from 3,4", "--to"},
                 {"walk demo/strand.toml --walker fly --from 3,4", "wander, turn-right"},
                 {"walk demo/strand.toml --from 3,4", "--walker"},
                 {"walk demo/strand.toml --walker wander", "--from"},
                 {"walk demo/strand.toml --walker wander --from 3,4 --steps 0", "--steps"},
                 {"walk demo/strand.toml --walker wander --from 3,4 --seed -1", "--seed"},
                 {"walk demo/strand.toml --walker wander --from 3,4 --mover crow", "crow"}});
}

TEST_CASE("compare takes searches and walkers together") {
  const Ran ran =
      run_line("compare - --from 0,0 --to 5,4 --by astar,dead-ends,right-hand,explore,wander --repeat 1 --json", pan);
  REQUIRE(ran.exit_code == 0);
  const Json runs = Json::parse(ran.out)["runs"];
  REQUIRE(runs.size() == 5);
  CHECK(runs[1]["used"] == "dead-ends");
  CHECK(runs[1]["cost"] == runs[0]["cost"]);
  for (const Json& run : runs) CHECK(run["memory"] > 0);
  CHECK(runs[2]["ends_by"] == "arrived");
  CHECK(runs[2]["steps"] >= runs[2]["way_steps"]);
  CHECK(runs[2]["way_steps"] >= runs[0]["steps"]);
  CHECK(runs[2]["cost"] >= runs[0]["cost"]);
  CHECK(!runs[0].contains("ends_by"));
  check_refused({{"compare demo/strand.toml --from 3,4 --to 5,5 --by astar,fly", "right-hand"}});
  const TemporaryFolder folder;
  const std::string picture = folder.path("race.svg");
  CHECK(run_line("compare - --from 0,0 --to 5,4 --by astar,left-hand --draw " + picture, pan).exit_code == 0);
  CHECK(std::filesystem::file_size(picture) > 10'000);
}

TEST_CASE("dead ends are struck off for routes, also wary ones, not for lingering ones") {
  const auto cost = [](const std::string& words) {
    const Ran ran = run_line("route demo/gulls.toml --from 1,10 --to 30,9 --json " + words);
    REQUIRE(ran.exit_code == 0);
    return Json::parse(ran.out);
  };
  CHECK(cost("--by dead-ends")["algorithm"] == "dead-ends");
  CHECK(cost("--by dead-ends")["cost"] == cost("--by dijkstra")["cost"]);
  CHECK(cost("--by dead-ends --wary 1")["weighed"] == cost("--wary 1")["weighed"]);
  CHECK(cost("--by dead-ends --wary 1")["algorithm"] == "dead-ends");
  check_refused({{"route demo/gulls.toml --from 1,10 --to 30,9 --by dead-ends --wary 1 --linger 1", "dead-ends"},
                 {"route demo/gulls.toml --from 1,10 --to 30,9 --by dead-ends --weight 2", "dead-ends"}});
}
