// Sight, threat and wary ways through the program, on small maps worked out by hand.
#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include "run_program.hpp"
#include "schema.hpp"
#include "saunter/io/files.hpp"

using namespace saunter::test;
using Json = nlohmann::ordered_json;

namespace {

// A gull at 3,0 sees to the right and downward; a rock beside it shields the top left corner.
const std::string flats = R"(saunter = 1
title = "flats"
[map]
tiling = "square"
rows = '''
..#....
.......
.#...v.
'''
[terrain.sand]
glyph = "."
color = "#e6d5a8"
[terrain.rock]
glyph = "#"
color = "#6b6560"
cost = false
opaque = true
[terrain.hole]
glyph = "v"
color = "#000000"
void = true
[mover.crab]
[[threat]]
name = "gull"
at = [3, 0]
range = 2
levels = [[0.5, 4], [1, 1]]
needs_sight = true
[[threat]]
name = "nest"
at = [6, 2]
range = 1
strength = 1.5
)";

}  // namespace

TEST_CASE("sight: yes, hidden by what, out of range, and all that is seen") {
  const Ran yes = run_line("sight - --from 3,0 --to 2,2", flats);
  CHECK(yes.exit_code == 0);
  CHECK(yes.out.find("3,0 sees 2,2") != std::string::npos);
  const Json hidden = json_of(run_line("sight - --from 3,0 --to 0,0 --json", flats));
  CHECK(hidden["sees"] == false);
  CHECK(hidden["reason"] == "hidden");
  CHECK(hidden["at"] == Json::parse("[2,0]"));
  const Ran far = run_line("sight - --from 3,0 --to 6,0 --range 2.99 --json", flats);
  CHECK(far.exit_code == 1);
  CHECK(json_of(far)["reason"] == "out-of-range");
  CHECK(run_line("sight - --from 3,0 --to 6,0 --range 3", flats).exit_code == 0);
  const Json all = json_of(run_line("sight - --from 3,0 --range 2 --json", flats));
  CHECK(all["sees"].is_null());
  // Within 2: the opaque rock itself, but not what is behind it; never the hole.
  CHECK(all["visible"] == Json::parse("[[2,0],[3,0],[4,0],[5,0],[2,1],[3,1],[4,1],[3,2]]"));
  const Json wide = json_of(run_line("sight - --from 3,0 --json", flats));
  for (const Json& cell : wide["visible"]) CHECK(cell != Json::parse("[5,2]"));
}

TEST_CASE("threat: levels, sides, sources, flanks and the CSV") {
  const TemporaryFolder folder;
  const Json json = json_of(run_line("threat - --json --at 4,1 --facing n --csv " + folder.path("t.csv"), flats));
  CHECK(json["max"] == 4);
  CHECK(json["level"] == 1);
  CHECK(json["sides"]["nw"] == 1);
  CHECK(json["sides"]["n"] == 0);
  CHECK(json["sources"] == Json::parse(R"([{"name":"gull","level":1,"side":"nw"}])"));
  CHECK(json["around"] == Json::parse(R"({"ahead":0,"behind":0,"left":1,"right":0})"));
  CHECK(saunter::io::read_file(folder.path("t.csv")).value() == "0,0,0,4,4,1,0\n0,0,1,4,1,0,2\n0,0,0,1,0,-,2\n");
  CHECK(json["cells"] == 9);
  const Ran whole = run_line("threat -", flats);
  CHECK(whole.exit_code == 0);
  CHECK(whole.out.find("9 cells exposed to 2 threats, at most 4") != std::string::npos);
  CHECK(json_of(run_line("threat - --json", flats))["at"].is_null());
  CHECK(json_of(run_line("survey - --json", flats))["threats"].size() == 2);
  CHECK(run_line("survey -", flats).out.find("gull           at 3,0, range 2, by sight") != std::string::npos);
}

TEST_CASE("route --wary goes round, --max-threat keeps out, --front tells the trade-off") {
  const Json bold = json_of(run_line("route - --from 0,1 --to 6,0 --json", flats));
  CHECK(bold["exposure"].get<double>() > 0);
  CHECK(bold["weighed"].is_null());
  const Json wary = json_of(run_line("route - --from 0,1 --to 6,0 --wary 3 --json", flats));
  CHECK(wary["found"] == true);
  CHECK(wary["exposure"].get<double>() < bold["exposure"].get<double>());
  CHECK(wary["cost"].get<double>() >= bold["cost"].get<double>());
  CHECK(wary["weighed"].get<double>() == Approx(wary["cost"].get<double>() + 3 * wary["exposure"].get<double>()));
  CHECK(wary["covered_steps"].get<int>() + wary["exposed_steps"].get<int>() == wary["steps"].get<int>());
  // With linger the same way weighs no less.
  const Json linger = json_of(run_line("route - --from 0,1 --to 6,0 --wary 3 --linger 1 --json", flats));
  CHECK(linger["weighed"].get<double>() >= wary["weighed"].get<double>());
  // Every way from left to right enters a level of 1 at least.
  const Ran none = run_line("route - --from 0,1 --to 6,0 --max-threat 0 --json", flats);
  CHECK(none.exit_code == 1);
  CHECK(json_of(none)["reason"] == "no-way");
  CHECK(run_line("route - --from 0,1 --to 6,0 --max-threat 1", flats).exit_code == 0);
  const Ran shut = run_line("route - --from 0,1 --to 3,1 --max-threat 1 --json", flats);
  CHECK(json_of(shut)["reason"] == "goal-blocked");
  CHECK(json_of(run_line("route - --from 0,1 --to 6,0 --wary 3 --budget 4 --json", flats))["reason"] == "over-budget");

  const Json front = json_of(run_line("route - --from 0,1 --to 6,0 --front --json", flats));
  CHECK(front["complete"] == true);
  REQUIRE(front["front"].size() >= 2);
  CHECK(front["front"][0]["cost"] == bold["cost"]);
  double cost = 0;
  double exposure = 1e9;
  for (const Json& way : front["front"]) {
    CHECK(way["cost"].get<double>() > cost);
    CHECK(way["exposure"].get<double>() < exposure);
    CHECK(way["path"].front() == Json::parse("[0,1]"));
    CHECK(way["path"].back() == Json::parse("[6,0]"));
    cost = way["cost"].get<double>();
    exposure = way["exposure"].get<double>();
  }
  const Ran text = run_line("route demo/gulls.toml --from 1,10 --to 30,9 --front");
  CHECK(text.out.find("routes worth choosing from") != std::string::npos);
  CHECK(text.out.find("% longer halves the exposure") != std::string::npos);
}

TEST_CASE("compare sets a wary way beside the shortest") {
  const TemporaryFolder folder;
  const Ran ran =
      run_line("compare demo/gulls.toml --from 1,10 --to 30,9 --wary 1 --json --draw " + folder.path("both.png"));
  const Json json = json_of(ran);
  REQUIRE(json["runs"].size() == 2);
  CHECK(json["runs"][0]["algorithm"] == "astar");
  CHECK(json["runs"][1]["algorithm"] == "wary");
  CHECK(json["runs"][1]["exposure"].get<double>() < json["runs"][0]["exposure"].get<double>());
  CHECK(json["runs"][1]["cost"].get<double>() > json["runs"][0]["cost"].get<double>());
  CHECK(folder.entries() == 1);
}

TEST_CASE("danger misused: exit code 2 and one line") {
  const std::vector<std::pair<std::string, std::string>> list = {
      {"sight demo/gulls.toml --from 99,0", "--from: found 99,0, expected a cell of the map, which is 32 x 20"},
      {"sight demo/gulls.toml --from 0,0 --to 0,-1", "--to: found 0,-1, expected a cell of the map"},
      {"sight demo/gulls.toml --from 0,0 --range x", "--range: found \"x\""},
      {"sight demo/gulls.toml --from 0,0 --as ghost", "--as: found \"ghost\""},
      {"threat demo/gulls.toml --at 40,40", "--at: found 40,40"},
      {"threat demo/gulls.toml --facing n", "--facing: found without --at"},
      {"threat demo/gulls.toml --at 4,4 --facing up", "--facing: found \"up\", expected a side: n ne e"},
      {"route demo/gulls.toml --from 1,10 --to 30,9 --wary -1", "--wary"},
      {"route demo/gulls.toml --from 1,10 --to 30,9 --linger 1", "--linger: found without --wary"},
      {"route demo/gulls.toml --from 1,10 --to 30,9 --max-threat 70000", "--max-threat: found \"70000\""},
      {"route demo/gulls.toml --from 1,10 --to 30,9 --wary 1 --by bfs", "--wary: found with --by bfs"},
      {"route demo/gulls.toml --from 1,10 --to 30,9 --wary 1 --weight 2", "--wary: found with --weight"},
      {"route demo/gulls.toml --from 1,10 --to 30,9 --to 2,2 --front", "--front: found with several --to"},
      {"route demo/gulls.toml --from 1,10 --to 30,9 --front --wary 1 --linger 1", "--front: found with --linger"},
      {"route demo/gulls.toml --from 1,10 --to 30,9 --wary 1 --straighten", "--wary: found with --straighten"},
      {"route demo/gulls.toml --from 1,10 --to 30,9 --wary 1 --limit 0", "--limit: found \"0\""},
      {"compare demo/gulls.toml --from 1,10 --to 30,9 --linger 1", "--linger: found without --wary"},
  };
  check_refused(list);
}
