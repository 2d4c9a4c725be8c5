// The program: answers, exit codes, JSON, and refusals that leave nothing behind.
#include <catch2/catch.hpp>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>

#include "run_program.hpp"
#include "schema.hpp"
#include "saunter/io/files.hpp"
#include "support/places.hpp"

using namespace saunter::test;
using Json = nlohmann::ordered_json;

namespace {

const std::string pond = R"(saunter = 1
title = "A pond"
[map]
tiling = "square"
rows = '''
....
.##.
.#..
'''
[terrain.sand]
glyph = "."
color = "#e6d5a8"
cost = 1.25
[terrain.rock]
glyph = "#"
color = "#6b6560"
cost = false
[mover.crab]
steps = 4
[mover.duck]
costs = { rock = 2 }
[[unit]]
name = "hut"
at = [3, 0]
)";

}  // namespace

TEST_CASE("route answers yes with cost and path") {
  const Ran ran = run_line("route - --from 0,0 --to 2,0 --json", pond);
  CHECK(ran.exit_code == 0);
  CHECK(ran.err.empty());
  const Json answer = json_of(ran);
  CHECK(answer["command"] == "route");
  CHECK(answer["found"] == true);
  CHECK(answer["cost"] == 2.5);
  CHECK(answer["steps"] == 2);
  CHECK(answer["path"] == Json::parse("[[0,0],[1,0],[2,0]]"));
  CHECK(answer["reason"].is_null());
  CHECK(ran.out.find("\"cost\":2.5,") != std::string::npos);
  const Ran text = run_line("route - --from 0,0 --to 2,0", pond);
  // A pipe gets the answer alone; the map only when it is asked for.
  const std::string sentence = "crab goes from 0,0 to 2,0: cost 2.5, 2 steps (3 cells checked by astar)\n";
  CHECK(text.out == sentence);
  CHECK(run_line("route - --from 0,0 --to 2,0 --view", pond).out ==
        sentence + "\nS * G U\n. \u00D7 \u00D7 .\n. \u00D7 . .\n");
}

TEST_CASE("route answers no with reason and place") {
  // The hut stands in the only gap.
  const Ran ran = run_line("route - --from 0,0 --to 3,1 --json", pond);
  CHECK(ran.exit_code == 1);
  const Json answer = json_of(ran);
  CHECK(answer["found"] == false);
  CHECK(answer["reason"] == "no-way");
  CHECK(answer["at"] == Json::parse("[2,0]"));
  CHECK(answer["cost"].is_null());
  CHECK(answer["path"].is_null());
  CHECK(run_line("route - --from 0,0 --to 3,1 --as hut", pond).exit_code == 0);
  CHECK(run_line("route - --from 0,0 --to 3,1 --mover duck", pond).exit_code == 0);
  CHECK(json_of(run_line("route - --from -1,0 --to 3,1 --json", pond))["reason"] == "start-off-map");
  CHECK(json_of(run_line("route - --from 0,0 --to 1,1 --json", pond))["reason"] == "goal-blocked");
  CHECK(json_of(run_line("route - --from 0,0 --to 2,0 --budget 2.49 --json", pond))["reason"] == "over-budget");
  CHECK(json_of(run_line("route - --from 0,0 --to 2,0 --limit 1 --json", pond))["reason"] == "stopped");
}

TEST_CASE("all algorithms answer on the demo maps, alike where they should") {
  for (const std::string scenario :
       {"demo/strand.toml --from 3,4 --to 45,25", "demo/atoll.toml --from 6,4 --to 17,3"}) {
    const Json astar = json_of(run_line("route " + scenario + " --json"));
    const Json dijkstra = json_of(run_line("route " + scenario + " --by dijkstra --json"));
    const Json bfs = json_of(run_line("route " + scenario + " --by bfs --json"));
    CHECK(astar["cost"] == dijkstra["cost"]);
    CHECK(astar["expanded"] < dijkstra["expanded"]);
    CHECK(bfs["steps"] <= astar["steps"]);
    CHECK(bfs["cost"] >= astar["cost"]);
  }
}

TEST_CASE("survey counts what is there") {
  const Json answer = json_of(run_line("survey - --json", pond));
  CHECK(answer["title"] == "A pond");
  CHECK(answer["tiling"] == "square");
  CHECK(answer["size"] == Json::parse("[4,3]"));
  CHECK(answer["terrain"][1]["cells"] == 3);
  CHECK(answer["movers"][0]["walkable"] == 8);
  CHECK(answer["movers"][1]["walkable"] == 11);
  CHECK(answer["units"] == Json::parse("[{\"name\":\"hut\",\"at\":[3,0],\"cells\":[[3,0]]}]"));
  const Ran text = run_line("survey - --mover crab", pond);
  CHECK(text.exit_code == 0);
  CHECK(text.out.find("square map, 4 x 3 cells") != std::string::npos);
  CHECK(text.out.find("duck") == std::string::npos);
}

TEST_CASE("pictures are written in both formats, and only when complete") {
  const TemporaryFolder folder;
  for (const std::string name : {"a.png", "a.svg"}) {
    const Ran ran = run_line("route demo/strand.toml --from 3,4 --to 45,25 --draw " + folder.path(name));
    CHECK(ran.exit_code == 0);
    const std::string bytes = saunter::io::read_file(folder.path(name)).value();
    CHECK(bytes.substr(1, 3) == (name == "a.png" ? "PNG" : "?xm"));
  }
  CHECK(folder.entries() == 2);
  const Ran drawn = run_line("draw demo/atoll.toml --layers cost,blocked --draw " + folder.path("b.png") + " --json");
  CHECK(json_of(drawn)["width"] > 600);
  // Refused: no folder. Nothing is printed, nothing written.
  const Ran ran = run_line("draw demo/atoll.toml --draw " + folder.path("none/b.png"));
  CHECK(ran.exit_code == 2);
  CHECK(ran.out.empty());
  CHECK(folder.entries() == 3);
}

TEST_CASE("reach tells every cell within the budget") {
  const Json answer = json_of(run_line("reach - --from 0,0 --budget 2.5 --json", pond));
  CHECK(answer["budget"] == 2.5);
  CHECK(answer["cells"] == Json::parse("[[0,0,0],[1,0,1.25],[2,0,2.5],[0,1,1.25],[0,2,2.5]]"));
  CHECK(json_of(run_line("reach - --from 0,0 --budget 0 --json", pond))["cells"].size() == 1);
  CHECK(run_line("reach - --from 0,0 --budget 2.5 --view", pond).out.find("\nS + + U\n+ ") != std::string::npos);
  const Ran no = run_line("reach - --from 1,1 --json", pond);
  CHECK(no.exit_code == 1);
  CHECK(json_of(no)["reason"] == "start-blocked");
  CHECK(run_line("reach - --from 0,0 --budget x", pond).exit_code == 2);
}

TEST_CASE("field tells the cost to the nearest goal") {
  const TemporaryFolder folder;
  const Ran ran = run_line("field - --to 2,0 --to 3,2 --to 1,1 --json --csv " + folder.path("f.csv"), pond);
  CHECK(ran.exit_code == 0);
  const Json answer = json_of(ran);
  CHECK(answer["goals"] == Json::parse("[[2,0],[3,2]]"));
  CHECK(answer["unused"][0]["reason"] == "goal-blocked");
  CHECK(answer["reached"] == 8);
  CHECK(saunter::io::read_file(folder.path("f.csv")).value() == "2.5,1.25,0,-\n3.75,-,-,1.25\n5,-,1.25,0\n");
  const Ran none = run_line("field - --to 1,1 --to 9,9 --json --csv " + folder.path("g.csv"), pond);
  CHECK(none.exit_code == 1);
  CHECK(json_of(none)["reason"] == "goal-blocked");
  CHECK(folder.entries() == 1);
  CHECK(run_line("field -", pond).exit_code == 2);
}

TEST_CASE("compare sets searches side by side") {
  const TemporaryFolder folder;
  const Ran ran =
      run_line("compare demo/strand.toml --from 3,4 --to 45,25 --repeat 1 --json --draw " + folder.path("c.png"));
  CHECK(ran.exit_code == 0);
  const Json runs = json_of(ran)["runs"];
  REQUIRE(runs.size() == 3);
  CHECK(runs[0]["optimal"] == true);
  CHECK(runs[1]["optimal"] == true);
  CHECK(runs[2]["optimal"] == false);
  CHECK(runs[0]["expanded"] < runs[1]["expanded"]);
  CHECK(runs[0]["micros"] > 0);
  CHECK(std::filesystem::file_size(folder.path("c.png")) > 10000);
  CHECK(run_line("compare - --from 0,0 --to 3,1 --json", pond).exit_code == 1);
  CHECK(json_of(run_line("compare - --from 0,0 --to 1,1 --json", pond))["reason"] == "goal-blocked");
  CHECK(run_line("compare - --from 0,0 --to 3,1 --by astar,magic", pond).exit_code == 2);
  CHECK(run_line("compare - --from 0,0 --to 3,1 --repeat 0", pond).exit_code == 2);
}

TEST_CASE("survey tells what is too narrow for whom") {
  const Json answer = json_of(run_line("survey demo/strand.toml --mover sled --json"));
  const Json& sizes = answer["movers"][0]["by_size"];
  REQUIRE(sizes.size() == 4);
  CHECK(sizes[1]["walkable"] == answer["movers"][0]["walkable"]);  // a sled is of size 2
  CHECK(sizes[0]["walkable"] > sizes[1]["walkable"]);
  const Json notes = json_of(run_line("survey - --json", R"(saunter = 1
[map]
tiling = "square"
rows = "**"
[terrain.star]
glyph = "*"
color = "#000000"
cost = false
[terrain.unused]
glyph = "u"
color = "#000001"
[mover.crab]
[[unit]]
name = "hut"
at = [0, 0]
)"))["notes"];
  CHECK(notes.size() == 4);  // never used; a mark of ours; nowhere to stand; a unit on blocked ground
}

TEST_CASE("convert writes the same scenario in other forms") {
  const TemporaryFolder folder;
  for (const std::string forms :
       {"--terrain png --heights png --barriers png", "--terrain csv", "--terrain rows --heights png"}) {
    const std::string out = folder.path("strand.toml");
    const Ran ran = run_line("convert demo/strand.toml " + forms + " --json --out " + out);
    CHECK(ran.exit_code == 0);
    const Json written = json_of(ran);
    for (const Json& file : written["files"]) CHECK(std::filesystem::exists(file.get<std::string>()));
    for (const std::string query :
         {"route $ --from 3,4 --to 44,24 --json", "route $ --mover sled --from 3,4 --to 44,24 --json"}) {
      const auto ask = [&](const std::string& file) {
        return run_line(std::string(query).replace(query.find('$'), 1, file)).out;
      };
      CHECK(ask(out) == ask("demo/strand.toml"));
    }
  }
  CHECK(run_line("convert demo/mosaic.toml --barriers png --out " + folder.path("m.toml")).exit_code == 2);
  CHECK_FALSE(std::filesystem::exists(folder.path("m.toml")));
}

TEST_CASE("layer exports numbers") {
  const TemporaryFolder folder;
  CHECK(run_line("layer - cost", pond).out == "1.25,1.25,1.25,-\n1.25,-,-,1.25\n1.25,-,1.25,1.25\n");
  CHECK(run_line("layer - regions", pond).out == "1,1,1,-\n1,-,-,2\n1,-,2,2\n");
  CHECK(json_of(run_line("layer - clearance --mover duck --json", pond))["rows"][0] == Json::parse("[3,2,1,null]"));
  for (const std::string name : {"a.csv", "a.json", "a.png"}) {
    CHECK(run_line("layer demo/strand.toml height --out " + folder.path(name)).exit_code == 0);
    CHECK(std::filesystem::file_size(folder.path(name)) > 100);
  }
  CHECK(run_line("layer demo/strand.toml depth").exit_code == 2);
  CHECK(run_line("layer demo/strand.toml cost --out x.gif").exit_code == 2);
}

TEST_CASE("route: every option, on the strand") {
  const TemporaryFolder folder;
  const auto ask = [](const std::string& words) {
    return json_of(run_line("route demo/strand.toml --json --mover crab --from 3,4 --to 45,25 " + words));
  };
  const Json plain = ask("");
  CHECK(plain["algorithm"] == "astar");
  const double least = plain["cost"];
  const Json greedy = ask("--by greedy");
  CHECK(greedy["cost"] > least);
  CHECK(greedy["expanded"] < plain["expanded"]);
  const Json weighted = ask("--weight 1.5");
  CHECK(weighted["cost"] <= 1.5 * least);
  CHECK(weighted["expanded"] < plain["expanded"]);
  CHECK(ask("--natural")["cost"] == least);
  CHECK(ask("--by jump")["algorithm"] == "astar");  // the strand is no board of one cost
  CHECK(ask("--turn-cost 0.5")["cost"] > least);

  const Json straight = ask("--straighten");
  CHECK(straight["waypoints"].size() < straight["path"].size() / 2);
  CHECK(straight["waypoints"].front() == Json::parse("[3,4]"));
  CHECK(straight["waypoints"].back() == Json::parse("[45,25]"));

  // Keeping out of a cell of the way costs more; the cell is not on the new way.
  const Json middle = plain["path"][20];
  const std::string cell = std::to_string(middle[0].get<int>()) + "," + std::to_string(middle[1].get<int>());
  const Json around = ask("--avoid " + cell);
  CHECK(around["cost"] >= least);
  CHECK(std::find(around["path"].begin(), around["path"].end(), middle) == around["path"].end());

  const Json two = ask("--to 5,6 --from 30,10");
  CHECK(two["cost"] < least);
  CHECK(two["path"].front() == Json::parse("[3,4]"));
  CHECK(two["path"].back() == Json::parse("[5,6]"));
  const Json given = ask("--to 5,6 --order given");
  const Json best = ask("--to 5,6 --order best");
  CHECK(given["order"] == Json::parse("[[45,25],[5,6]]"));
  CHECK(best["order"] == Json::parse("[[5,6],[45,25]]"));
  CHECK(best["cost"] < given["cost"]);
  CHECK(best["proven"] == true);

  CHECK(
      run_line("route demo/strand.toml --mover crab --from 3,4 --to 45,25 --trace " + folder.path("t.csv")).exit_code ==
      0);
  std::ifstream trace(folder.path("t.csv"));
  std::size_t lines = 0;
  for (std::string line; std::getline(trace, line); ++lines) {
    if (lines == 0) CHECK(line == "order,col,row,cost,estimate,parent_col,parent_row");
    if (lines == 1) CHECK(line.starts_with("0,3,4,0,"));
  }
  CHECK(lines == plain["expanded"].get<std::size_t>() + 1);
}

TEST_CASE("route: beside, within, or the nearest there is") {
  // A crate shut in by rock; the crab gets beside it only in the open part.
  const std::string map =
      "saunter = 1\n[map]\ntiling = \"square\"\nrows = \"\"\"\n.....\n..#..\n..#..\n\"\"\"\n"
      "[terrain.sand]\nglyph = \".\"\ncolor = \"#e6d5a8\"\n[terrain.rock]\nglyph = \"#\"\ncolor = \"#6b6560\"\ncost = "
      "false\n[mover.crab]\nsteps = 4\n";
  const auto ask = [&](const std::string& words) {
    return json_of(run_line("route - --json --from 0,2 " + words, map));
  };
  const Json blocked = ask("--to 2,2");
  CHECK(blocked["reason"] == "goal-blocked");
  CHECK(blocked["path"].is_null());
  const Json nearest = ask("--to 2,2 --or-nearest");
  CHECK(nearest["reason"] == "goal-blocked");
  CHECK(nearest["path"] == Json::parse("[[0,2],[1,2]]"));
  CHECK(nearest["remaining"] == 1);
  CHECK(ask("--to 2,2 --beside")["path"] == Json::parse("[[0,2],[1,2]]"));
  CHECK(ask("--to 4,2 --within 2")["cost"] == 6);
  CHECK(ask("--to 2,2 --allow 2,2")["cost"] == 2);
  CHECK(ask("--to 4,2 --avoid 2,0")["reason"] == "no-way");
  CHECK(ask("--to 9,9 --or-nearest")["path"].is_null());  // off the map there is nothing to be near to
}

TEST_CASE("regions: cut off, joins and chokes, as text and JSON") {
  // Two rooms and a nook; the wall between them can be breached at one place for less.
  const std::string map =
      "saunter = 1\n[map]\ntiling = \"square\"\nrows = \"\"\"\n..#..\n..+..\n..#.#\n..#..\n\"\"\"\n"
      "[terrain.sand]\nglyph = \".\"\ncolor = \"#e6d5a8\"\n"
      "[terrain.rock]\nglyph = \"#\"\ncolor = \"#6b6560\"\ncost = false\nbreach = 3\n"
      "[terrain.weed]\nglyph = \"+\"\ncolor = \"#3b7d3a\"\ncost = false\n[mover.crab]\nsteps = 4\n";
  const TemporaryFolder folder;
  const Ran ran = run_line("regions - --json --join --chokes --csv " + folder.path("r.csv"), map);
  CHECK(ran.exit_code == 1);  // more than one region
  const Json json = json_of(ran);
  REQUIRE(json["regions"].size() == 2);
  CHECK(json["regions"][0] == Json::parse(R"({"id":1,"cells":8,"box":[0,0,1,3],"first":[0,0]})"));
  CHECK(json["joins"] == Json::parse(R"([{"from":1,"to":2,"cost":1,"opens":[[2,1]]}])"));
  CHECK(json["chokes"] == Json::parse("[[3,1],[3,2],[3,3]]"));
  CHECK(json["cut_off"].is_null());
  CHECK(saunter::io::read_file(folder.path("r.csv")).value() == "1,1,-,2,2\n1,1,-,2,2\n1,1,-,2,-\n1,1,-,2,2\n");
  const Json from = json_of(run_line("regions - --json --from 4,3", map));
  CHECK(from["cut_off"].size() == 8);
  CHECK(from["no_return"].empty());
  CHECK(from["joins"].is_null());
  CHECK(run_line("regions - --from 4,3 --min 9", map).out.find("0 of at least 9 cells") != std::string::npos);
  // A ledge: down is possible, up is not.
  const std::string ledge = map + "[[barrier]]\nbetween = [[3, 1], [3, 2]]\none_way = true\n";
  const Json down = json_of(run_line("regions - --json --from 3,0", ledge));
  CHECK(down["no_return"] == Json::parse("[[3,2],[3,3],[4,3]]"));
}

TEST_CASE("misuse: exit code 2, one line on standard error, nothing else") {
  const TemporaryFolder folder;
  const std::vector<std::pair<std::string, std::string>> list = {
      {"", "found no command, expected one of route"},
      {"rout demo/strand.toml", "found command \"rout\""},
      {"route", "SCENARIO: found nothing, expected a value"},
      {"route not-there.toml --from 0,0 --to 1,1", "not-there.toml: found No such file"},
      {"route demo --from 0,0 --to 1,1", "demo: found a folder"},
      {"route demo/strand.toml --to 1,1", "--from: found nothing, expected a value"},
      {"route demo/strand.toml --from 0 --to 1,1", "--from: found \"0\", expected a cell as col,row"},
      {"route demo/strand.toml --from 0,0, --to 1,1", "--from: found \"0,0,\""},
      {"route demo/strand.toml --from 0.5,0 --to 1,1", "--from: found \"0.5,0\""},
      {"route demo/strand.toml --from 0,99999999999 --to 1,1", "--from: found \"0,99999999999\""},
      {"route demo/strand.toml --from 0,0 --to 1,1 --budget 5 --budget 6", "--budget"},
      {"route demo/strand.toml --from 0,0 --to 1,1 --weight 0.5", "--weight: found \"0.5\", expected 1 to 100"},
      {"route demo/strand.toml --from 0,0 --to 1,1 --weight 2 --by bfs", "--weight: found with --by bfs"},
      {"route demo/strand.toml --from 0,0 --to 1,1 --natural --by greedy", "--natural: found with --by greedy, which"},
      {"route demo/strand.toml --from 0,0 --to 1,1 --natural --turn-cost 1", "--turn-cost: found with --natural"},
      {"route demo/strand.toml --from 0,0 --to 1,1 --heading n", "--heading: found without --turn-cost"},
      {"route demo/atoll.toml --from 6,4 --to 7,4 --heading n --turn-cost 1",
       "--heading: found \"n\", expected one of ne, e"},
      {"route demo/mosaic.toml --from 4,10 --to 5,10 --turn-cost 1", "--turn-cost: found on a triangle map"},
      {"route demo/strand.toml --from 0,0 --to 1,1 --within -1", "--within: found \"-1\""},
      {"route demo/strand.toml --from 0,0 --to 1,1 --order worst",
       "--order: found \"worst\", expected one of given, best"},
      {"route demo/strand.toml --from 0,0 --to 1,1 --order best --beside", "--order: found with --beside"},
      {"route demo/strand.toml --from 0,0 --to 1,1 --order best --trace x.csv", "--trace: found with --order best"},
      {"route demo/strand.toml --from 0,0 --to 1,1 --trace no/folder/x.csv", "no/folder/x.csv"},
      {"route demo/strand.toml --from 0,0 --to 1,1 --avoid 48,0", "--avoid: found 48,0, expected a cell of the map"},
      {"route demo/strand.toml --from 0,0 --to 1,1 --allow 0,-1", "--allow: found 0,-1, expected a cell of the map"},
      {"route demo/strand.toml --from 0,0 --to 1,1 --turns 3 --avoid 48,0", "--avoid: found 48,0"},
      {"reach demo/strand.toml --from 0,0 --stop 48,0", "--stop: found 48,0"},
      {"scatter demo/strand.toml --footprint x --reach-from 0,0", "--reach-from: found no --mover"},
      {"compare demo/strand.toml --from 0,0 --to 1,1 --by bfs:2", "--by: found \"bfs:2\", expected a weight for astar"},
      {"compare demo/strand.toml --from 0,0 --to 1,1 --by astar:x", "--by: found \"x\""},
      {"regions demo/strand.toml --mover crab --from 36,4", "--from: found 36,4, where crab cannot stand"},
      {"regions demo/strand.toml --mover crab --from 99,99", "--from: found 99,99"},
      {"regions demo/strand.toml --min 0", "--min: found \"0\""},
      {"regions demo/strand.toml --extra 2", "--extra: found without --join"},
      {"regions demo/strand.toml --mover sled --join",
       "--join: found mover \"sled\" of size 2, expected one of size 1"},
      {"reach demo/strand.toml --from 0,0 --range -2", "--range: found \"-2\""},
      {"route demo/strand.toml --from 0,0 --to 1,1 --mover ghost",
       "--mover: found \"ghost\", expected one of crab, roller, sled, skimmer"},
      {"route demo/strand.toml --from 0,0 --to 1,1 --as ghost", "--as: found \"ghost\""},
      {"route demo/strand.toml --from 0,0 --to 1,1 --by magic", "--by: found \"magic\""},
      {"route demo/strand.toml --from 0,0 --to 1,1 --by bfs --budget 5", "--budget: found with --by bfs"},
      {"route demo/strand.toml --from 0,0 --to 1,1 --budget 1.005", "--budget: found \"1.005\""},
      {"route demo/strand.toml --from 0,0 --to 1,1 --budget -1", "--budget"},
      {"route demo/strand.toml --from 0,0 --to 1,1 --limit 0", "--limit: found \"0\", expected a whole number from"},
      {"route demo/strand.toml --from 0,0 --to 1,1 --limit x", "--limit"},
      {"route demo/strand.toml --from 0,0 --to 1,1 --fast", "--fast"},
      {"route demo/strand.toml extra --from 0,0 --to 1,1", "extra"},
      {"draw demo/strand.toml --layers terrain,tide", "--layers: found \"tide\""},
      {"draw demo/strand.toml --draw " + folder.path("x.gif"), "expected a name that ends in .png or .svg"},
      {"survey demo/strand.toml --mover ghost", "--mover: found \"ghost\""},
      {"survey demo/strand.toml --json --draw " + folder.path(), "expected a name"},
  };
  check_refused(list);
  CHECK(folder.entries() == 0);
  const Ran tour = run_line("demo --data not-there --out " + folder.path("tour"));
  CHECK(tour.exit_code == 2);
  CHECK(tour.out.empty());
  CHECK(tour.err.find("not-there") != std::string::npos);
}

TEST_CASE("a full disk is reported") {
  if (!std::filesystem::exists("/dev/full")) return;
  const std::string program = program_file();
  const int status = std::system(
      ("cd " + source_dir() + " && " + program + " survey demo/strand.toml >/dev/full 2>/dev/null").c_str());
  CHECK(WEXITSTATUS(status) == 2);
}

TEST_CASE("options that do not go together are refused by name") {
  const TemporaryFolder folder;
  const std::string route = "route demo/gulls.toml --from 1,10 --to 30,9 ";
  check_refused({
      {"survey demo/strand.toml --json --view", "--view: found with --json"},
      {"survey demo/strand.toml --size-px 360x640", "--size-px: found without --draw"},
      {route + "--draw " + folder.path("x.png") + " --size-px 360", "--size-px: found \"360\", expected WIDTHxHEIGHT"},
      {route + "--draw " + folder.path("x.png") + " --size-px 100x100", "--size-px: found \"100x100\""},
      {route + "--draw " + folder.path("x.png") + " --size-px 99999x800", "--size-px: found \"99999x800\""},
      {route + "--wary 1 --natural", "--wary: found with --natural"},
      {route + "--wary 1 --by dijkstra", "--wary: found with --by dijkstra"},
      {route + "--max-threat 3 --straighten", "--max-threat: found with --straighten"},
      {route + "--front --wary 1 --linger 1", "--front: found with --linger"},
      {route + "--order given --from 2,2", "--order: found with several --from"},
      {route + "--natural --weight 2", "--natural: found with --weight"},
  });
  CHECK(folder.entries() == 0);
  // What goes with everything else in the table is not refused for itself.
  CHECK(run_line(route + "--by astar --wary 1 --linger 1 --budget 90 --limit 9000").exit_code == 0);
}

TEST_CASE("pictures are made as large as asked for") {
  const TemporaryFolder folder;
  for (const std::string size : {"360x640", "1920x1200"}) {
    const std::string file = folder.path(size + ".png");
    CHECK(run_line("draw demo/strand.toml --size-px " + size + " --draw " + file).exit_code == 0);
    std::ifstream in(file, std::ios::binary);
    const std::string bytes{std::istreambuf_iterator<char>(in), {}};
    REQUIRE(bytes.size() > 24);  // a PNG tells its width in bytes 16 to 19
    const int width = static_cast<unsigned char>(bytes[18]) * 256 + static_cast<unsigned char>(bytes[19]);
    CHECK(width <= std::stoi(size));
    CHECK(width > std::stoi(size) * 3 / 4);
  }
}

TEST_CASE("every command has help with an example") {
  for (const std::string command :
       {"survey", "route", "reach", "field", "compare", "draw", "layer", "convert", "demo"}) {
    const Ran ran = run_line(command + " --help");
    CHECK(ran.exit_code == 0);
    CHECK(ran.out.find("Example: saunter " + command) != std::string::npos);
    CHECK(ran.out.ends_with('\n'));
  }
  CHECK(run_line("--help").exit_code == 0);
  CHECK(run_line("--version").out.starts_with("saunter 0."));
}

TEST_CASE("the demo runs and writes every picture it names") {
  const TemporaryFolder folder;
  const Ran ran = run_line("demo --json --out " + folder.path());
  CHECK(ran.exit_code == 0);
  const Json answer = json_of(ran);
  CHECK(answer["stops"].size() >= 8);
  for (const Json& stop : answer["stops"]) CHECK(std::filesystem::file_size(stop["picture"].get<std::string>()) > 1000);
}
