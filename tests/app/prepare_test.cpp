// `prepare`, and the commands that look routes up.
#include <catch2/catch.hpp>
#include <fstream>
#include <nlohmann/json.hpp>

#include "run_program.hpp"

using namespace saunter::test;
using Json = nlohmann::ordered_json;

TEST_CASE("prepare writes an index and tells what it consists of, and route looks the way up in it") {
  const TemporaryFolder folder;
  const std::string file = folder.path("crab.idx");
  const Ran made = run_program({"prepare", "demo/strand.toml", "--mover", "crab", "-o", file, "--json"});
  INFO(made.err);
  REQUIRE(made.exit_code == 0);
  const Json told = Json::parse(made.out);
  CHECK(told["command"] == "prepare");
  CHECK(told["mover"] == "crab");
  CHECK(told["file"] == file);
  CHECK(told["places"].get<int>() > 500);
  CHECK(told["core"].get<int>() < told["places"].get<int>());
  CHECK(told["bytes"].get<int>() > told["file_bytes"].get<int>());
  CHECK(std::ifstream(file, std::ios::ate | std::ios::binary).tellg() == told["file_bytes"].get<int>());

  const std::string question = "route demo/strand.toml --mover crab --from 3,4 --to 45,25 --json";
  const Json searched = Json::parse(run_line(question).out);
  const Ran ran = run_line(question + " --prepared " + file);
  REQUIRE(ran.exit_code == 0);
  const Json looked_up = Json::parse(ran.out);
  CHECK(looked_up["algorithm"] == "prepared");
  CHECK(looked_up["cost"] == searched["cost"]);
  CHECK(looked_up["path"].front() == searched["path"].front());
  CHECK(looked_up["path"].back() == searched["path"].back());
  CHECK(looked_up["expanded"].get<int>() * 4 < searched["expanded"].get<int>());
  CHECK(run_line(question + " --by prepared --prepared " + file).out == ran.out);
  CHECK(run_line(question + " --prepared " + file + " --straighten").exit_code == 0);

  SECTION("the index is the same with more workers") {
    const std::string other = folder.path("other.idx");
    REQUIRE(run_line("prepare demo/strand.toml --mover crab --workers 3 -o " + other).exit_code == 0);
    const auto content = [](const std::string& name) {
      std::ifstream in(name, std::ios::binary);
      return std::string(std::istreambuf_iterator<char>(in), {});
    };
    CHECK(content(file) == content(other));
  }
  SECTION("a no is a no, with the reason of a search") {
    const std::string no = "route demo/strand.toml --mover crab --from 3,4 --to 38,7 --json";
    const Ran with = run_line(no + " --prepared " + file);
    CHECK(with.exit_code == 1);
    CHECK(Json::parse(with.out)["reason"] == Json::parse(run_line(no).out)["reason"]);
    CHECK(Json::parse(with.out)["at"] == Json::parse(run_line(no).out)["at"]);
  }
  SECTION("a cell to keep out of is looked round where it lies aside of the way, else searched for") {
    const auto cell = [&](std::size_t at) {
      return std::to_string(searched["path"][at][0].get<int>()) + "," +
             std::to_string(searched["path"][at][1].get<int>());
    };
    const std::string aside = question + " --avoid 5,20";
    REQUIRE(std::find(searched["path"].begin(), searched["path"].end(), Json::array({5, 20})) ==
            searched["path"].end());
    CHECK(Json::parse(run_line(aside + " --prepared " + file).out)["algorithm"] == "prepared");
    const std::string on_way = question + " --avoid " + cell(searched["path"].size() / 2);
    const Json around = Json::parse(run_line(on_way + " --prepared " + file).out);
    CHECK(around["cost"] == Json::parse(run_line(on_way).out)["cost"]);
  }
  SECTION("for another mover, or with a unit left out, it is refused") {
    check_refused({{"route demo/strand.toml --mover sled --from 3,4 --to 44,24 --prepared " + file,
                    "found made for another map or mover, or before the map changed"},
                   {"route demo/atoll.toml --from 3,4 --to 4,4 --prepared " + file, "found made for another map"}});
  }
}

TEST_CASE("prepare writes each demo map's index, and tells it to a person") {
  const TemporaryFolder folder;
  for (const std::string map : {"strand", "atoll", "mosaic"}) {
    const std::string file = folder.path(map + ".idx");
    const Ran ran = run_line("prepare demo/" + map + ".toml -o " + file);
    INFO(map << ": " << ran.err);
    CHECK(ran.exit_code == 0);
    CHECK(ran.err.empty());
    CHECK(ran.out.find(" prepared in ") != std::string::npos);
    CHECK(ran.out.find(" bytes a cell\n") != std::string::npos);
    CHECK(ran.out.find("written to " + file) != std::string::npos);
  }
}

TEST_CASE("compare prepares a map for its question") {
  const Ran ran = run_line("compare demo/strand.toml --from 3,4 --to 45,25 --by dijkstra,prepared --json");
  REQUIRE(ran.exit_code == 0);
  const Json runs = Json::parse(ran.out)["runs"];
  REQUIRE(runs.size() == 2);
  CHECK(runs[1]["algorithm"] == "prepared");
  CHECK(runs[1]["used"] == "prepared");
  CHECK(runs[1]["optimal"] == true);
  CHECK(runs[1]["cost"] == runs[0]["cost"]);
  CHECK(runs[1]["memory"] > runs[0]["memory"]);
}

TEST_CASE("words that an index does not go with are refused") {
  const std::string route = "route demo/strand.toml --from 3,4 --to 45,25 ";
  check_refused({{route + "--by prepared", "--by prepared: found without --prepared"},
                 {route + "--prepared x.idx --by astar", "--prepared: found with --by astar"},
                 {route + "--prepared x.idx --weight 2", "--prepared: found with --weight"},
                 {route + "--prepared x.idx --wary 1", "--prepared: found with --wary"},
                 {route + "--prepared x.idx --allow 4,4", "--prepared: found with --allow"},
                 {route + "--prepared x.idx --to 5,5", "--prepared: found with several --to"},
                 {route + "--prepared x.idx --limit 5", "--prepared: found with --limit"},
                 {route + "--prepared no/such.idx", "no/such.idx: found No such file or directory"},
                 {route + "--prepared demo", "demo: found a folder"},
                 {route + "--prepared demo/strand.toml", "found not a prepared map"},
                 {"prepare demo/strand.toml", "-o"},
                 {"prepare demo/strand.toml -o no/such/x.idx", "no/such/x.idx"},
                 {"prepare demo/strand.toml -o x.idx --mover whale", "whale"},
                 {"prepare demo/strand.toml -o x.idx --workers 0", "--workers"},
                 {"prepare no-such.toml -o x.idx", "no-such.toml"}});
}
