// Placing through the program: verdicts with every reason, all spots, rules, refusals.
#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include "run_program.hpp"

using namespace saunter::test;
using Json = nlohmann::ordered_json;

namespace {

// A wall with one gap between two halves.
const std::string shore = R"(saunter = 1
title = "shore"
[map]
tiling = "square"
rows = '''
......
......
##.###
......
'''
[terrain.sand]
glyph = "."
color = "#e6d5a8"
[terrain.rock]
glyph = "#"
color = "#6b6560"
cost = false
opaque = true
[mover.crab]
[mover.sled]
size = 2
[[barrier]]
between = [[4, 0], [5, 0]]
[[unit]]
name = "hut"
at = [0, 0]
footprint = ["xx", "x."]
[rules]
hut = ["against-wall:3"]
lantern = ["seen-from:5,1", "near:rock:1"]
[[threat]]
name = "gull"
at = [5, 3]
range = 1
levels = [[1, 4]]
)";

Ran fit(const std::vector<std::string>& words) {
  std::vector<std::string> all = {"fit", "-", "--json"};
  all.insert(all.end(), words.begin(), words.end());
  return run_program(all, shore);
}
Json json(const std::vector<std::string>& words) { return Json::parse(fit(words).out); }

std::string reasons(const std::vector<std::string>& words) {
  std::string text;
  const Json answer = json(words);
  for (const Json& reason : answer["reasons"]) {
    text += reason["why"].get<std::string>() + " " + reason["at"].dump();
    if (!reason["by"].is_null()) text += " " + reason["by"].get<std::string>();
    text += ";";
  }
  return text;
}

}  // namespace

TEST_CASE("fit tells every reason, with its cell and who or which rule") {
  CHECK(fit({"--footprint", "xx", "--at", "2,0"}).exit_code == 0);
  CHECK(fit({"--footprint", "xx", "--at", "1,0"}).exit_code == 1);
  CHECK(reasons({"--footprint", "xx", "--at", "1,0"}) == "occupied [1,0] hut;");
  CHECK(reasons({"--footprint", "xx", "--at", "5,2"}) == "off-map [6,2];ground [5,2];");
  CHECK(reasons({"--footprint", "xx", "--at", "4,0"}) == "barrier [4,0];");
  CHECK(json({"--footprint", "xx", "--at", "4,0"})["reasons"][0]["across"] == Json::parse("[5,0]"));
  CHECK(reasons({"--footprint", "x", "--at", "5,3", "--max-threat", "3"}) == "threat [5,3];");
  CHECK(reasons({"--footprint", "x", "--at", "3,1", "--rule", "near:rock:0"}) == "rule [3,1] near:rock:0;");
  CHECK(reasons({"--footprint", "x", "--at", "2,2", "--mover", "crab", "--keep-open", "3,0", "--keep-open", "3,3",
                 "--keep-open", "4,1"}) == "cuts-off [3,3];cuts-off [4,1];");
  CHECK(reasons({"--footprint", "xx/x.", "--turn", "2", "--at", "5,1"}).empty());
  // Its own cells are free to it, and it minds the rules of its name.
  CHECK(reasons({"--unit", "hut", "--at", "2,0"}) == "rule [2,0] against-wall:3;");
  CHECK(reasons({"--unit", "hut", "--at", "0,0"}).empty());
  CHECK(reasons({"--unit", "hut", "--at", "0,0", "--mirrored"}) == "off-map [-1,0];");
  CHECK(reasons({"--size", "2", "--at", "0,1"}) == "ground [0,2];ground [1,2];occupied [0,1] hut;");
  CHECK(reasons({"--size", "1", "--at", "0,9"}) == "off-map [0,9];");
  CHECK(reasons({"--footprint", "xx", "--at", "2147483647,-2147483648"}) == "off-map [2147483647,-2147483648];");
}

TEST_CASE("fit lists all spots, and the nearest") {
  const Json all = json({"--footprint", "xxx", "--all", "--nearest", "5,3"});
  CHECK(all["fits"].is_null());
  CHECK(all["spots"] == Json::parse("[[2,0],[1,1],[2,1],[3,1],[0,3],[1,3],[2,3],[3,3]]"));
  CHECK(all["nearest"] == Json::parse("[3,3]"));
  const Ran far = fit({"--footprint", "x", "--nearest", "2147483647,2147483647"});
  CHECK(far.exit_code == 2);
  CHECK(far.err.find("--nearest: found 2147483647,2147483647, expected a cell of the map, which is") !=
        std::string::npos);
  const Ran none = fit({"--footprint", "xxxxxxx", "--all"});
  CHECK(none.exit_code == 1);
  CHECK(Json::parse(none.out)["spots"] == Json::array());
  // Beside the wall, seen from above but not through it.
  CHECK(json({"--footprint", "x", "--all", "--rule", "seen-from:5,1", "--rule", "near:rock:1"})["spots"] ==
        Json::parse("[[1,1],[3,1],[4,1],[5,1]]"));
  CHECK(json({"--footprint", "x", "--all", "--rules", "lantern"})["spots"] == Json::parse("[[1,1],[3,1],[4,1],[5,1]]"));
  CHECK(json({"--footprint", "x", "--all", "--mover", "crab", "--rule", "reach:2,3:1", "--rule",
              "unseen-from:2,0"})["spots"] == Json::parse("[[0,3],[1,3],[3,3],[4,3]]"));
  CHECK(json({"--footprint", "x", "--all", "--rule", "margin:1"})["spots"] == Json::parse("[[2,1]]"));
  CHECK(json({"--footprint", "x", "--all", "--rule", "against-wall:3"})["spots"] == Json::parse("[[0,3],[5,3]]"));
  const Ran text = run_line("fit demo/atoll.toml --unit hut --at 9,14 --mover crab --keep-open 6,4 --keep-open 17,3");
  CHECK(text.exit_code == 1);
  CHECK(text.out.find("cuts-off at 17,3") != std::string::npos);
}

TEST_CASE("fit misused: exit code 2 and one line") {
  check_refused({
      {"fit demo/strand.toml --footprint x", "fit: found none of --at, --all and --nearest"},
      {"fit demo/strand.toml --at 1,1", "fit: found 0 of --footprint, --unit and --size"},
      {"fit demo/strand.toml --footprint x --size 2 --at 1,1", "fit: found 2 of --footprint"},
      {"fit demo/strand.toml --footprint xo --at 1,1", "--footprint: found \"xo\""},
      {"fit demo/strand.toml --footprint .. --at 1,1", "--footprint: found 0 cells"},
      {"fit demo/strand.toml --unit ghost --at 1,1", "--unit: found \"ghost\""},
      {"fit demo/strand.toml --size 0 --at 1,1", "--size: found \"0\""},
      {"fit demo/strand.toml --footprint x --turn 4 --at 1,1", "--turn: found 4, expected 0 to 3"},
      {"fit demo/mosaic.toml --footprint x --turn 1 --at 1,1", "--turn: found 1, expected 0 to 0"},
      {"fit demo/strand.toml --footprint x --at 1,1 --keep-open 2,2", "--keep-open: found without --mover"},
      {"fit demo/strand.toml --footprint x --at 1,1 --mover crab --keep-open 99,2", "--keep-open: found 99,2"},
      {"fit demo/strand.toml --footprint x --at 1,1 --rule shiny", "--rule: found \"shiny\", expected against-wall:N"},
      {"fit demo/strand.toml --footprint x --at 1,1 --rule near:moss:2",
       "--rule: found \"near:moss:2\", expected the name of a terrain or a unit"},
      {"fit demo/strand.toml --footprint x --at 1,1 --rule near:sand:x",
       "--rule: found \"near:sand:x\", expected against-wall:N"},
      {"fit demo/strand.toml --footprint x --at 1,1 --rule reach:1,1:5", "rule \"reach:1,1:5\": found no --mover"},
      {"fit demo/strand.toml --footprint x --at 1,1 --rule seen-from:99,1",
       "expected a cell of the map, which is 48 x 32"},
      {"fit demo/strand.toml --footprint x --at 1,1 --rules tent",
       "--rules: found \"tent\", expected a name in [rules]"},
      {"fit demo/strand.toml --footprint x --at 1,1 --flatness -1", "--flatness: found \"-1\""},
      {"fit demo/strand.toml --footprint x --at 1,1 --max-threat 99999", "--max-threat: found \"99999\""},
      {"fit demo/atoll.toml --footprint xx --at 1,1", "--footprint: found \"xx\", expected a cell as col,row"},
  });
}

TEST_CASE("scatter puts down the same units for the same seed, and says why there are not more") {
  const auto scattered = [](std::vector<std::string> words) {
    words.insert(words.begin(), {"scatter", "-", "--json"});
    return run_program(words, shore);
  };
  const Ran ran = scattered({"--footprint", "x", "--count", "4", "--spacing", "1", "--seed", "7"});
  CHECK(ran.exit_code == 0);
  CHECK(ran.out == scattered({"--footprint", "x", "--count", "4", "--spacing", "1", "--seed", "7"}).out);
  const Json json = Json::parse(ran.out);
  CHECK(json["placed"].size() <= 4);
  CHECK(json["asked"] == 4);
  std::size_t sum = json["placed"].size() + json["too_near"].get<std::size_t>();
  for (const auto& [why, count] : json["refused"].items()) sum += count.get<std::size_t>();
  CHECK(sum == json["tried"].get<std::size_t>());
  const Json all = Json::parse(scattered({"--footprint", "x", "--count", "99"}).out);
  CHECK(all["placed"].size() == 16);  // every free cell: 24 less five of rock and three of the hut
  CHECK(all["refused"]["ground"] == 5);
  CHECK(all["refused"]["occupied"] == 3);
  const Ran none = scattered({"--footprint", "xxxxxxx"});
  CHECK(none.exit_code == 1);
  CHECK(Json::parse(none.out)["placed"].empty());
  CHECK(scattered({"--footprint", "x", "--chance", "0"}).exit_code == 1);
  // With the gap to be kept open, however many are put down the two halves stay together.
  const Json open = Json::parse(
      scattered({"--footprint", "x", "--count", "99", "--mover", "crab", "--keep-open", "3,1", "--keep-open", "3,3"})
          .out);
  CHECK(open["refused"]["cuts-off"].get<int>() > 0);
  for (const Json& one : open["placed"]) CHECK(one["at"] != Json::parse("[2,2]"));
  const Json heavy = Json::parse(scattered({"--footprint", "xx*999", "--footprint", "x", "--count", "1"}).out);
  CHECK(heavy["placed"][0]["footprint"] == "xx*999");
}

TEST_CASE("scatter misused: exit code 2 and one line") {
  check_refused({
      {"scatter demo/strand.toml", "--footprint: found nothing, expected a value"},
      {"scatter demo/strand.toml --footprint x*0", "expected a weight of 1 to 999999"},
      {"scatter demo/strand.toml --footprint x*two", "expected a weight of 1 to 999999"},
      {"scatter demo/strand.toml --footprint x --count -1", "--count: found \"-1\""},
      {"scatter demo/strand.toml --footprint x --chance 101", "--chance: found \"101\""},
      {"scatter demo/strand.toml --footprint x --spacing -1", "--spacing: found \"-1\""},
      {"scatter demo/mosaic.toml --footprint x --turned", "--turned: found on a triangle map"},
      {"scatter demo/strand.toml --footprint x --keep-open 1,1", "--keep-open: found without --mover"},
  });
}
