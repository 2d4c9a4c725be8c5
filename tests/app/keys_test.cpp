// The keys of --json: what `keys` tells, the schemas made of it, and what commands really answer are one and the same.
#include <catch2/catch.hpp>

#include <cstdlib>
#include <fstream>
#include <sstream>

#include "run_program.hpp"
#include "schema.hpp"
#include "support/places.hpp"

namespace saunter::test {
namespace {

using Json = nlohmann::ordered_json;

std::vector<std::string> all_commands() {
  std::vector<std::string> names;
  const Json answer = Json::parse(run_line("manual man --json").out);
  for (const Json& command : answer["commands"]) names.push_back(command["name"]);
  return names;
}

/// Lines that between them show every key there is; the folder takes what they write.
std::vector<std::string> telling_lines(const std::string& folder) {
  const std::string gulls = "route demo/gulls.toml --from 1,10 --to 30,9 ";
  return {
      "survey demo/guards.toml",
      "survey demo/gulls.toml",
      "survey " + folder + "guarded.toml",
      "survey demo/mosaic.toml",
      "survey demo/strand.toml",
      "survey demo/tide.toml",
      "route demo/strand.toml --from 3,4 --to 45,25 --natural --straighten",
      "route demo/strand.toml --mover crab --from 3,4 --to 38,7 --or-nearest",
      "route demo/strand.toml --from 3,4 --to 10,10 --to 20,9 --order best",
      gulls + "--wary 1",
      gulls + "--front",
      "route demo/guards.toml --from 1,4 --to 20,4 --wary 1 --tick 0",
      "route demo/atoll.toml --from 6,4 --to 17,3 --turns 6",
      "reach demo/atoll.toml --from 6,4 --budget 6 --range 1-2 --range-sight --why 9,3",
      "reach demo/atoll.toml --from 6,4",
      "reach demo/atoll.toml --from 99,4",
      "field demo/strand.toml --to 45,25 --to 99,9",
      "field demo/strand.toml --to 99,9",
      "compare demo/gulls.toml --from 1,10 --to 30,9 --by astar,automatic,explore --wary 1 --repeat 1",
      "compare demo/strand.toml --from 3,4 --to 99,25 --repeat 1",
      "regions demo/strand.toml --mover crab --join --chokes",
      "regions demo/strand.toml --mover crab --from 3,4",
      "sight demo/gulls.toml --from 15,6 --range 7.5",
      "sight demo/gulls.toml --from 15,6 --to 1,1",
      "threat demo/gulls.toml --at 12,9 --facing n",
      "fit demo/atoll.toml --unit hut --at 9,14 --mover crab --keep-open 6,4 --keep-open 17,3 --all --nearest 3,3",
      "scatter demo/strand.toml --footprint xx --count 4 --seed 5",
      "check demo/strand.toml --mover crab --path-file " + folder + "way.json",
      "check " + folder + "guarded.toml",
      "draw demo/strand.toml",
      "layer demo/strand.toml height",
      "layer demo/strand.toml height --out " + folder + "height.csv",
      "convert demo/strand.toml --out " + folder + "strand.toml",
      "generate maze --size 9x9 --seed 1",
      "generate rooms --size 40x30 --seed 1 -o " + folder + "rooms.toml",
      "generate cave --size 20x20 --seed 1",
      "walk demo/strand.toml --walker turn-to-goal --from 30,5 --to 28,18",
      "walk demo/strand.toml --walker wander --from 99,5 --to 28,18",
      "play demo/tide.toml demo/tide-script.toml",
      "play demo/tide.toml " + folder + "script.toml",
      "prepare demo/strand.toml -o " + folder + "strand.prepared",
      "gather demo/strand.toml --from 3,4 --from 5,12 --to 30,12",
      "gather demo/strand.toml --from 3,4 --to 99,12",
      "manual man",
      "keys route",
      "demo --out " + folder + "demo",
  };
}

}  // namespace

TEST_CASE("every command has keys, and its schema in docs is made of them") {
  const bool renew = std::getenv("SAUNTER_NEW_GOLDENS") != nullptr;
  for (const std::string& command : all_commands()) {
    INFO(command);
    const Ran told = run_program({"keys", command, "--schema"});
    REQUIRE(told.exit_code == 0);
    const std::string file = source_dir() + "/docs/schema/" + command + ".json";
    if (renew) std::ofstream(file) << told.out;
    std::ifstream in(file);
    std::ostringstream kept;
    kept << in.rdbuf();
    CHECK(told.out == kept.str());
  }
}

TEST_CASE("what commands answer is what their schemas say, and every key told of is met") {
  const TemporaryFolder folder;
  std::ofstream(folder.path("made-way.json")) << "[[3,4],[4,4],[5,4],[9,9]]";
  std::ifstream gulls(source_dir() + "/demo/gulls.toml");
  std::ofstream(folder.path("made-guarded.toml"))
      << gulls.rdbuf()
      << "\n[[spot]]\nname = \"nest\"\nat = [3, 3]\n[[patrol]]\nname = \"beat\"\ncells = [[1, 10], [30, 9], [0, 0]]\n";
  std::ofstream(folder.path("made-script.toml"))
      << "saunter_play = 1\nticks = 3\n"
         "[[edit]]\ntick = 0\nlift = \"hut\"\n[[edit]]\ntick = 1\nlift = \"hut\"\n"
         "[[go]]\nname = \"moss\"\nfrom = [1, 4]\nto = [27, 6]\n";
  std::map<std::string, std::set<std::string>> seen;
  for (const std::string& line : telling_lines(folder.path("made-"))) {
    INFO(line);
    const Ran ran = run_line(line + " --json");
    INFO(ran.err);
    CHECK(ran.exit_code != 2);
    if (ran.exit_code == 2) continue;
    const std::string command = line.substr(0, line.find(' '));
    CHECK(against_schema(Json::parse(ran.out), schema_for(command), {}, &seen[command]).empty());
  }
  for (const std::string& command : all_commands()) {
    if (command == "serve") continue;  // goes on until a signal; its own tests hold what it prints against its schema
    const Json keys = Json::parse(run_program({"keys", command, "--json"}).out);
    for (const Json& key : keys["keys"]) {
      std::string path = key["path"];
      if (path.ends_with("[]")) path.resize(path.size() - 2);
      INFO(command << " " << path);
      CHECK(seen[command].contains(path));
    }
  }
}

TEST_CASE("keys in words: each with its type, its meaning and when it is there") {
  const Ran ran = run_line("keys route");
  CHECK(
      ran.out.find(
          "cost                     number from 0, in steps, at most two decimals, or null\n    of the whole way\n") !=
      std::string::npos);
  CHECK(ran.out.find("front[].path             list of [col,row]\n    its cells\n") != std::string::npos);
  CHECK(ran.out.find("(with --front)") != std::string::npos);
  check_refused({{"keys", "COMMAND: found nothing"},
                 {"keys rout", "COMMAND: found \"rout\", expected one of survey, route"},
                 {"keys route --schema --json", "--schema"}});
}

}  // namespace saunter::test
