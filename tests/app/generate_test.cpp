// `generate`: what it makes is told, written whole, taken by other commands, and refused where it can't be asked.
#include <catch2/catch.hpp>
#include <filesystem>
#include <nlohmann/json.hpp>

#include "run_program.hpp"
#include "saunter/generate.hpp"
#include "saunter/io/scenario.hpp"

using namespace saunter;
using namespace saunter::test;
using Json = nlohmann::ordered_json;

namespace {

Json made_by(const std::string& words) {
  const Ran ran = run_line("generate " + words + " --json");
  INFO(words << ": " << ran.err);
  REQUIRE(ran.exit_code == 0);
  return Json::parse(ran.out);
}

}  // namespace

TEST_CASE("generate tells what it made, keys of other kinds are null") {
  const Json maze = made_by("maze --size 20x14");
  CHECK(maze["kind"] == "maze");
  CHECK(maze["by"] == "depth-first");
  CHECK(maze["seed"] == 1);
  CHECK(maze["open"] == 280);
  CHECK(maze["regions"] == 1);
  CHECK(maze["dead_ends"] > 5);
  for (const char* const key : {"asked", "placed", "rooms", "corridors", "doors", "file"}) CHECK(maze[key].is_null());
  const Json cave = made_by("cave --size 40x30 --tiling hex-flat --seed 4");
  CHECK(cave["by"] == "noise");
  CHECK(cave["tiling"] == "hex-flat");
  CHECK(cave["regions"] == 1);
  CHECK(cave["dead_ends"].is_null());
  const Json rooms = made_by("rooms --size 50x40 --rooms 8 --doors --seed 18446744073709551615");
  CHECK(rooms["seed"] == 18446744073709551615ULL);
  CHECK(rooms["asked"] == 8);
  CHECK(rooms["placed"] == rooms["rooms"].size());
  CHECK(rooms["corridors"].size() == rooms["rooms"].size() - 1);
  CHECK(rooms["doors"].size() > 0);
  for (const Json& box : rooms["rooms"]) CHECK(box[2].get<int>() - box[0].get<int>() + 1 >= 4);
}

TEST_CASE("what generate writes is a scenario that every command takes") {
  const TemporaryFolder folder;
  for (const std::string words :
       {"maze --size 31x21 --by kruskal", "maze --size 21x21 --walls cells --loops 50",
        "maze --size 12x9 --tiling triangle --by wilson", "cave --size 60x40 --by agents --start carved --open 40",
        "cave --size 40x30 --keep all-joined --min 4",
        "rooms --size 60x40 --by split --grown --corridor cheapest --fresh 2.5",
        "rooms --size 60x40 --by corridors --width 2 --room-size 4-8"}) {
    INFO(words);
    const std::string file = folder.path("made.toml");
    REQUIRE(run_line("generate " + words + " -o " + file).exit_code == 0);
    const Json regions = Json::parse(run_line("regions " + file + " --json").out);
    CHECK(regions["regions"].size() == 1);
    CHECK(regions["regions"][0]["cells"] == made_by(words)["open"]);
    CHECK(run_line("survey " + file).exit_code == 0);
    const std::string first = regions["regions"][0]["first"][0].dump() + "," + regions["regions"][0]["first"][1].dump();
    CHECK(run_line("reach " + file + " --from " + first + " --budget 9 --draw " + folder.path("x.png")).exit_code == 0);
  }
  CHECK(run_line("generate maze --size 9x9 -o " + folder.path("m.toml")).exit_code == 0);
  CHECK(std::filesystem::exists(folder.path("m.barriers.png")));
}

TEST_CASE("a maze read back is the one that was written, walls and all") {
  const TemporaryFolder folder;
  for (const std::string tiling : {"square", "hex-pointy", "hex-flat", "triangle"}) {
    INFO(tiling);
    const std::string words = "maze --size 45x37 --loops 20 --seed 6 --tiling " + tiling;
    REQUIRE(run_line("generate " + words + " -o " + folder.path("m.toml")).exit_code == 0);
    const auto read = io::read_scenario(folder.path("m.toml"));
    REQUIRE(read);
    const Map& map = read.value().map;
    const Made made = make_maze(map.board(), {.seed = 6, .loops = 20});
    CHECK(map.kinds().size() == 1);  // a thin-walled maze is all ground
    std::size_t different = 0;
    for (const Cell cell : map.size().cells()) different += map.closed_sides(cell) == made.closed[cell] ? 0U : 1U;
    CHECK(different == 0);
  }
  // What the option says is what the library makes: the same words twice, and another seed.
  const std::string caves = "cave --size 40x30 --seed ";
  CHECK(made_by(caves + "5") == made_by(caves + "5"));
  CHECK_FALSE(made_by(caves + "5")["open"] == made_by(caves + "6")["open"]);
  // A map of more than a million cells keeps its ground as a picture, and is small on disk.
  REQUIRE(run_line("generate maze --size 1100x1000 -o " + folder.path("big.toml")).exit_code == 0);
  CHECK(std::filesystem::file_size(folder.path("big.toml")) < 2000);
  CHECK(std::filesystem::file_size(folder.path("big.barriers.png")) < 500'000);
  CHECK(std::filesystem::exists(folder.path("big.terrain.png")));
  const auto big = io::read_scenario(folder.path("big.toml"));
  REQUIRE(big);
  CHECK(big.value().map.size() == Size{1100, 1000});
}

TEST_CASE("generate draws the whole, its making, and a part of what is too large") {
  const TemporaryFolder folder;
  const std::string file = folder.path("x.png");
  CHECK(run_line("generate rooms --size 40x30 --draw " + file).exit_code == 0);
  CHECK(run_line("generate cave --size 40x30 --by agents --steps 4 --draw " + file).exit_code == 0);
  CHECK(run_line("generate maze --size 700x700 --draw " + file).exit_code == 0);
  CHECK(run_line("generate maze --size 12x8 --view").out.find("\n. . .") != std::string::npos);
}

TEST_CASE("generate where nothing fits answers no and writes nothing") {
  const TemporaryFolder folder;
  const Ran none = run_line("generate rooms --size 5x5 --room-size 4-6 --json -o " + folder.path("n.toml"));
  CHECK(none.exit_code == 1);
  const Json answer = Json::parse(none.out);
  CHECK(answer["open"] == 0);
  CHECK(answer["file"].is_null());
  CHECK(run_line("generate cave --size 2x2").exit_code == 1);
  CHECK(run_line("generate maze --size 2x2 --walls cells").exit_code == 1);
  CHECK(run_line("generate maze --size 1x1").exit_code == 0);
  CHECK(folder.entries() == 0);
}

TEST_CASE("generate misused: exit code 2, one line, no file") {
  const TemporaryFolder folder;
  const std::string out = " -o " + folder.path("m.toml");
  check_refused({
      {"generate", "KIND: found nothing"},
      {"generate hedge --size 9x9", "KIND: found \"hedge\", expected one of maze, cave, rooms"},
      {"generate maze" + out, "--size: found nothing"},
      {"generate maze --size 0x9" + out, "--size: found \"0x9\""},
      {"generate maze --size 9" + out, "--size: found \"9\""},
      {"generate maze --size 65536x2" + out, "--size: found \"65536x2\""},
      {"generate maze --size 60000x60000" + out, "--size: found \"60000x60000\", expected at most"},
      {"generate maze --size 9x9 --by dig" + out, "--by: found \"dig\", expected one of depth-first"},
      {"generate cave --size 9x9 --by prim" + out, "--by: found \"prim\", expected one of noise, agents"},
      {"generate maze --size 9x9 --loops 101" + out, "--loops: found \"101\""},
      {"generate maze --size 9x9 --rooms 3" + out, "--rooms: found with maze"},
      {"generate cave --size 9x9 --smooth 3 --by agents" + out, "--smooth: found with --by agents"},
      {"generate cave --size 9x9 --agents 3" + out, "--agents: found with --by noise"},
      {"generate cave --size 9x9 --min 3" + out, "--min: found without --keep all-joined"},
      {"generate cave --size 9x9 --by agents --lean up:5" + out, "--lean: found \"up:5\", expected SIDE:PERCENT"},
      {"generate rooms --size 30x30 --walls thin" + out, "--walls: found with rooms"},
      {"generate rooms --size 30x30 --by split --rooms 4" + out, "--rooms: found with --by split"},
      {"generate rooms --size 30x30 --by corridors --corridor straight" + out, "--corridor: found with --by corridors"},
      {"generate rooms --size 30x30 --fresh 3" + out, "--fresh: found without --corridor cheapest"},
      {"generate rooms --size 30x30 --doors --width 2" + out, "--doors: found with --width 2"},
      {"generate rooms --size 30x30 --overlap --margin 2" + out, "--overlap: found with --margin"},
      {"generate rooms --size 30x30 --width 3 --room-size 2-4" + out, "the least side must be at least the width"},
      {"generate rooms --size 30x30 --room-size 9-4" + out, "the least side must be 1 to the most"},
      {"generate rooms --size 30x30 --tiling triangle --width 2" + out, "width must be 1 but on squares"},
      {"generate maze --size 9x9 --tiling triangle --walls cells" + out, "--walls cells: found with --tiling"},
      {"generate maze --size 9x9 --steps 3" + out, "--steps: found without --draw"},
      {"generate maze --size 9x9 --seed -1" + out, "--seed: found \"-1\""},
      {"generate maze --size 9x9 -o " + folder.path("m.png"), "-o: found"},
  });
  CHECK(folder.entries() == 0);
}
