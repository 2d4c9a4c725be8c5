// The check of a way through the program: answers, files, refusals.
#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include "run_program.hpp"
#include "saunter/io/files.hpp"
#include "saunter/io/path.hpp"

using namespace saunter;
using namespace saunter::test;
using Json = nlohmann::ordered_json;

namespace {

const std::string wide_shore = R"(saunter = 1
title = "wide_shore"
[map]
tiling = "square"
rows = '''
....
.#..
....
'''
[terrain.sand]
glyph = "."
color = "#e6d5a8"
[terrain.rock]
glyph = "#"
color = "#6b6560"
cost = false
[mover.crab]
[mover.sled]
size = 2
[[barrier]]
between = [[2, 0], [3, 0]]
[[unit]]
name = "hut"
at = [3, 2]
[[threat]]
name = "gull"
at = [0, 0]
range = 0
levels = [[1, 5]]
)";

Json check(const std::string& words) { return Json::parse(run_line("check - --json " + words, wide_shore).out); }

}  // namespace

TEST_CASE("check tells all problems, or cost, exposure and turns") {
  const TemporaryFolder folder;
  const Ran good = run_program({"check", "-", "--json", "--path", "0,1 0,0 1,0 2,1"}, wide_shore);
  // From 1,0 to 2,1 the rock is brushed.
  CHECK(good.exit_code == 1);
  const Json brushed = Json::parse(good.out);
  CHECK(brushed["problems"] == Json::parse(R"([{"step":3,"at":[2,1],"why":"corner","by":null}])"));
  CHECK(brushed["cost"].is_null());
  CHECK(brushed["turns"].is_null());
  const Ran round = run_program({"check", "-", "--json", "--path", "0,1 0,0 1,0 2,0 2,1"}, wide_shore);
  CHECK(round.exit_code == 0);
  const Json held = Json::parse(round.out);
  CHECK(held["ok"] == true);
  CHECK(held["cost"] == 4);
  CHECK(held["exposure"] == 5);
  CHECK(held["longest_exposed"] == 1);
  CHECK(held["turns"] == 2);
  const Json many = Json::parse(
      run_program({"check", "-", "--json", "--max-threat", "4", "--path", "0,0 1,1 2,1 2,0 3,0 3,1 3,2 9,9 9,9"},
                  wide_shore)
          .out);
  std::string all;
  for (const Json& problem : many["problems"]) {
    all += std::to_string(problem["step"].get<int>()) + " " + problem["why"].get<std::string>() + ";";
  }
  CHECK(all == "0 threat;1 blocked;4 barrier;6 blocked;7 off-map;8 off-map;");
  CHECK(many["problems"][3]["by"] == "hut");
  CHECK(run_program({"check", "-", "--as", "hut", "--path", "3,1 3,2"}, wide_shore).exit_code == 0);
  const Ran text = run_program({"check", "-", "--path", "3,1 3,2", "--draw", folder.path("c.svg")}, wide_shore);
  CHECK(text.out.find("step 1 at 3,2: blocked by hut") != std::string::npos);
  CHECK(folder.entries() == 1);
  const Ran far =
      run_program({"check", "-", "--path", "0,0 2147483647,-2147483648", "--draw", folder.path("f.png")}, wide_shore);
  CHECK(far.out.find("step 1 at 2147483647,-2147483648: off-map") != std::string::npos);
}

TEST_CASE("check reads ways from files, and sets them against others in time") {
  const TemporaryFolder folder;
  (void)io::write_file(folder.path("way.csv"), "0,2\r\n1,2\n\n2,2\n");
  CHECK(check("--path-file " + folder.path("way.csv"))["cost"] == 2);
  (void)io::write_file(folder.path("list.json"), "[[0,2],[1,2],\n[2,2]]");
  CHECK(check("--path-file " + folder.path("list.json"))["cost"] == 2);
  const Ran route = run_line("route - --from 0,2 --to 2,0 --json", wide_shore);
  (void)io::write_file(folder.path("route.json"), route.out);
  CHECK(check("--path-file " + folder.path("route.json"))["cost"] == Json::parse(route.out)["cost"]);
  (void)io::write_file(folder.path("other.csv"), "2,2\n1,2\n0,2\n");
  const std::string other = folder.path("other.csv");
  const Json met = check("--path-file " + folder.path("way.csv") + " --against " + other);
  CHECK(met["problems"] == Json::parse(R"([{"step":1,"at":[1,2],"why":"blocked","by":")" + other + "\"}]"));
  // Everything the gulls' wary way passes is fine, and the demo's own routes are.
  const Ran wary = run_line("route demo/gulls.toml --from 1,10 --to 30,9 --wary 2 --json");
  (void)io::write_file(folder.path("wary.json"), wary.out);
  CHECK(run_line("check demo/gulls.toml --path-file " + folder.path("wary.json")).exit_code == 0);
}

TEST_CASE("ways that can't be read: place, found and expected") {
  const auto error = [](const std::string& text) {
    const auto way = io::parse_path(text, "way");
    REQUIRE(!way.ok());
    return way.error().message();
  };
  CHECK(error("0,0\n1;1\n") == "way:2: found \"1;1\", expected a cell as col,row");
  CHECK(error("0,0\n1,99999999999\n").starts_with("way:2: found"));
  CHECK(error("") == "way: found no cell, expected at least one");
  CHECK(error("[]") == "way: found no cell, expected at least one");
  CHECK(error("[[0,0],\n[1,\n") ==
        "way:3: found text that is not JSON, expected [[col,row],...], or an object with such a \"path\"");
  CHECK(error("[[0,0],[1]]") == "way: found [1] as cell 1, expected [col,row]");
  CHECK(error("[[0,0],[1.5,2]]") == "way: found [1.5,2] as cell 1, expected [col,row]");
  CHECK(error("{\"way\":[]}").starts_with("way: found an object without \"path\""));
  CHECK(error("{\"path\":null}").starts_with("way: found null, expected"));
  CHECK(io::parse_path("\xEF\xBB\xBF[[1,-2]]", "way").value() == std::vector<Cell>{{1, -2}});
}

TEST_CASE("check misused: exit code 2 and one line") {
  check_refused({
      {"check demo/strand.toml", "--path: found neither it nor --path-file"},
      {"check demo/strand.toml --path 1,1 --path-file x.csv", "--path: found with --path-file, expected one of them"},
      {"check demo/strand.toml --path 1", "--path: found \"1\", expected a cell as col,row"},
      {"check demo/strand.toml --path-file not-there.csv", "not-there.csv: found No such file"},
      {"check demo/strand.toml --path 1,1 --max-threat -1", "--max-threat: found \"-1\""},
      {"check demo/strand.toml --path 1,1 --mover ghost", "--mover: found \"ghost\""},
      {"check demo/strand.toml --path 1,1 --against demo/tide-script.toml", "demo/tide-script.toml:1: found"},
      {"check demo/strand.toml --path-file demo/strand.toml", "demo/strand.toml:1: found"},
  });
}
