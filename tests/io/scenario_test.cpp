// Scenario files: what they mean, and where and how a broken one is refused.
#include <catch2/catch.hpp>
#include <unistd.h>

#include <filesystem>
#include <fstream>
#include <filesystem>

#include "saunter/io/files.hpp"
#include "saunter/io/scenario.hpp"
#include "support/places.hpp"
#include "support/temporary_folder.hpp"

using namespace saunter;
using namespace saunter::io;

namespace {

const std::string terrain_kinds = R"(
[terrain.sand]
glyph = "."
color = "#e6d5a8"
[terrain.rock]
glyph = "#"
color = "#6b6560"
cost = false
opaque = true
breach = 3
)";

std::string file(const std::string& map, const std::string& rest = "") {
  return "saunter = 1\n[map]\n" + map + "\n" + terrain_kinds + rest;
}
const std::string square3 = "tiling = \"square\"\nrows = '''\n...\n.#.\n...\n'''";

Scenario good(const std::string& text) {
  const auto result = parse_scenario(text, "tide.toml");
  INFO((result ? "" : result.error().message()));
  REQUIRE(result.ok());
  return result.value();
}

std::string refused(const std::string& text) {
  const auto result = parse_scenario(text, "tide.toml");
  REQUIRE_FALSE(result.ok());
  const std::string message = result.error().message();
  CHECK(message.find('\n') == std::string::npos);
  return message;
}

}  // namespace

TEST_CASE("a scenario is read with its defaults") {
  const Scenario s = good(file(square3, R"(
[mover.zoe]
[mover.abe]
steps = 4
corners = "lenient"
size = 2
diagonal = 1.5
climb = 2
costs = { rock = 2.5, sand = false }
[[unit]]
name = "hut"
at = [0, 1]
footprint = ["x", "x"]
[[unit]]
name = "mark"
at = [2, 2]
blocks = false
[[threat]]
name = "gull"
at = [2, 0]
range = 2.5
levels = [[0.5, 4], [1.0, 1]]
facing = "sw"
arc = 90
)"));
  CHECK(s.map.size() == Size{3, 3});
  CHECK(s.map.kinds()[0].name == "sand");  // in the order of the file
  CHECK(s.map.kinds()[1].cost == blocked);
  CHECK(s.map.kinds()[1].breach == 300);
  CHECK(s.map.kind(s.map.terrain_at({1, 1})).name == "rock");
  REQUIRE(s.movers.size() == 2);
  CHECK(s.find_mover("")->name == "zoe");  // the first of the file, not of the alphabet
  CHECK(s.movers[0].rules.steps == 8);
  CHECK(s.movers[1].rules.corners == Corners::lenient);
  CHECK(s.movers[1].rules.diagonal == 150);
  CHECK(s.movers[1].climb == 2);
  CHECK_FALSE(s.movers[1].drop.has_value());
  CHECK(s.movers[1].cost_on(0, s.map.kinds()[0]) == blocked);
  CHECK(s.movers[1].cost_on(1, s.map.kinds()[1]) == 250);
  CHECK(s.find_unit("hut")->cells == std::vector<Cell>{{0, 1}, {0, 2}});
  CHECK(s.occupied().count() == 2);
  CHECK(s.occupied("hut").count() == 0);
  CHECK(s.threats[0].threat.range == 250);
  CHECK(s.threats[0].threat.levels[1].level == 1);
}

TEST_CASE("line ends, byte order marks and one-line maps") {
  std::string windows = "\xEF\xBB\xBF";
  for (const char c : file(square3)) windows += c == '\n' ? std::string("\r\n") : std::string(1, c);
  CHECK(good(windows).map.size() == Size{3, 3});
  CHECK(good(file("tiling = \"square\"\nrows = \".#\"")).map.size() == Size{2, 1});
  CHECK(good(file("tiling = \"square\"\nrows = '''.#\n..'''")).map.size() == Size{2, 2});
}

TEST_CASE("glyphs may be any printable character, trailing spaces are cells") {
  const Scenario s = good(
      "saunter = 1\n[map]\ntiling = \"square\"\nrows = '''\n\xE2\x89\x88 \n \xE2\x89\x88\n'''\n"
      "[terrain.sea]\nglyph = \"\xE2\x89\x88\"\ncolor = \"#000001\"\n"
      "[terrain.air]\nglyph = \" \"\ncolor = \"#000002\"\n");
  CHECK(s.map.size() == Size{2, 2});
  CHECK(s.map.terrain_at({1, 0}) == 1);
}

TEST_CASE("barriers close edges both ways or one way, and add up") {
  const Scenario s = good(file(square3, R"(
[[barrier]]
between = [[0, 0], [1, 0]]
[[barrier]]
between = [[0, 1], [0, 2]]
one_way = true
[[barrier]]
between = [[2, 0], [2, 1]]
one_way = true
[[barrier]]
between = [[2, 1], [2, 0]]
one_way = true
)"));
  constexpr Direction north{0};
  constexpr Direction east{1};
  constexpr Direction south{2};
  constexpr Direction west{3};
  CHECK(s.map.closed({0, 0}, east));
  CHECK(s.map.closed({1, 0}, west));
  CHECK_FALSE(s.map.closed({0, 1}, south));  // open from the first cell to the second
  CHECK(s.map.closed({0, 2}, north));
  CHECK(s.map.closed({2, 0}, south));
  CHECK(s.map.closed({2, 1}, north));
}

TEST_CASE("hex and triangle maps, units on their axes") {
  const Scenario hex =
      good(file("tiling = \"hex\"\nhex = \"flat\"\nshift = \"even\"\nrows = '''\n...\n...\n...\n'''", R"(
[[unit]]
name = "hut"
at = [1, 1]
offsets = [[0, 0], [1, 0]]
turn = 1
)"));
  CHECK(hex.map.tiling() == Tiling::hex(HexTop::flat, Shift::even));
  // Turned once, [1, 0] (south-east) becomes [0, 1] (south).
  CHECK(hex.units[0].cells == std::vector<Cell>{{1, 1}, {1, 2}});
  const Scenario triangle = good(file("tiling = \"triangle\"\nfirst = \"down\"\nrows = '''\n....\n....\n'''"));
  CHECK(triangle.map.tiling() == Tiling::triangle(FirstTriangle::down));
}

TEST_CASE("broken scenarios are refused with the place, what was found and what was expected") {
  struct Broken {
    std::string text;
    std::string says;
  };
  const std::string m = square3;
  const std::vector<Broken> list = {
      {"saunter = 1\n[map\n", "tide.toml:2:"},
      {"title = \"x\"\n", "found no \"saunter\" in the file"},
      {"saunter = 2\n[map]\n", "tide.toml:1:11: found saunter = 2, expected a whole number from 1 to 1"},
      {"saunter = 1\nmpa = 1\n", "tide.toml:2:1: found unknown key \"mpa\" in the file, expected saunter, title, map"},
      {"saunter = 1\n" + terrain_kinds, "found no \"map\""},
      {file("tiling = \"sqare\"\nrows = '.'"),
       "tide.toml:3:10: found tiling = \"sqare\", expected square, hex or triangle"},
      {file("tiling = \"hex\"\nhex = \"pointy\"\nrows = '.'"), "found no \"shift\" in [map], expected odd or even"},
      {file("tiling = \"square\"\nshift = \"odd\"\nrows = '.'"),
       "tide.toml:4:9: found shift = \"odd\", expected no such key on a square map"},
      {file("tiling = \"square\""), "found no terrain layer in [map], expected exactly one of rows"},
      {file("tiling = \"square\"\nrows = '.'\nterrain_csv = 'a.csv'"),
       "tide.toml:5:15: found terrain_csv = \"a.csv\", expected exactly one"},
      {file("tiling = \"square\"\nrows = '''\n...\n.?.\n'''"),
       "tide.toml:6:2: found glyph '?' at 1,1 of the map, expected the glyph of a [terrain.name]"},
      {file("tiling = \"square\"\nrows = '''\n...\n..\n'''"),
       "tide.toml:6:3: found row 1 with 2 cells, expected 3 as in row 0"},
      {file("tiling = \"square\"\nrows = '''\n'''"), "found an empty row, expected at least one cell"},
      {file("tiling = \"square\"\nrows = 7"), "found rows = 7, expected a text"},
      {file("tiling = \"square\"\nterrain_csv = 'not there.csv'"), "not there.csv: found No such file or directory"},
      {file(m, "[terrain.mud]\nglyph = \".\"\ncolor = \"#000000\"\n"),
       "found glyph = \".\", expected one not used by sand already"},
      {file(m, "[terrain.mud]\nglyph = \"mm\"\ncolor = \"#000000\"\n"),
       "found glyph = \"mm\", expected one printable character"},
      {file(m, "[terrain.mud]\nglyph = \"m\"\ncolor = \"brown\"\n"),
       "found color = \"brown\", expected a colour such as"},
      {file(m, "[terrain.mud]\nglyph = \"m\"\ncolor = \"#6B6560\"\n"), "expected one not used by rock already"},
      {file(m, "[terrain.mud]\nglyph = \"m\"\ncolor = \"#000000\"\ncost = 0\n"),
       "found cost = 0, expected 0.01 to 655.35"},
      {file(m, "[terrain.mud]\nglyph = \"m\"\ncolor = \"#000000\"\ncost = 1.005\n"),
       "found cost = 1.005, expected 0.01 to 655.35 with at most two decimals"},
      {file(m, "[terrain.mud]\nglyph = \"m\"\ncolor = \"#000000\"\ncost = 655.36\n"), "found cost = 655.36"},
      {file(m, "[terrain.mud]\nglyph = \"m\"\ncolor = \"#000000\"\ncost = nan\n"), "found cost = nan"},
      {file(m, "[terrain.mud]\nglyph = \"m\"\ncolor = \"#000000\"\ncost = true\n"), "found cost = true"},
      {file(m, "[terrain.mud]\ncolor = \"#000000\"\n"), "found no \"glyph\" in [terrain.mud]"},
      {file(m, "[mover.crab]\nsteps = 6\n"), "found steps = 6, expected 4 or 8 on squares"},
      {file(m, "[mover.crab]\ncorners = \"loose\"\n"), "expected strict, lenient or free"},
      {file(m, "[mover.crab]\nsize = 256\n"), "found size = 256, expected a whole number from 1 to 255"},
      {file(m, "[mover.crab]\nspeed = 3\n"), "found unknown key \"speed\" in [mover.crab], expected steps,"},
      {file(m, "[mover.crab]\ncosts = { snad = 2 }\n"),
       "found terrain \"snad\", expected the name of a [terrain.name]"},
      {file(m, "[mover.crab]\ndiagonal = 0.99\n"), "found diagonal = 0.99, expected 1 to 655.35"},
      {file(m, "[mover.crab]\nclimb = -1\n"), "found climb = -1"},
      {file(m, "[[barrier]]\nbetween = [[0, 0], [1, 1]]\n"),
       "found cells that share no edge, expected two edge neighbours"},
      {file(m, "[[barrier]]\nbetween = [[2, 0], [3, 0]]\n"),
       "found cell 3,0 off the map, expected a cell from 0,0 to 2,2"},
      {file(m, "[barrier]\nbetween = [[0, 0], [1, 1]]\n"), "expected tables such as [[barrier]]"},
      {file(m, "[[unit]]\nname = \"hut\"\nat = [2, 2]\nfootprint = [\"xx\"]\n"),
       "found unit \"hut\" off the map at 3,2"},
      {file(m, "[[unit]]\nname = \"a\"\nat = [0, 0]\n[[unit]]\nname = \"b\"\nat = [0, 0]\n"),
       "found unit \"b\" on another unit at 0,0"},
      {file(m, "[[unit]]\nname = \"a\"\nat = [0, 0]\n[[unit]]\nname = \"a\"\nat = [1, 0]\n"),
       "found name = \"a\", expected a name not used before"},
      {file(m, "[[unit]]\nname = \"a\"\nat = [0, 0]\nturn = 4\n"),
       "found turn = 4, expected a whole number from 0 to 3"},
      {file(m, "[[unit]]\nname = \"a\"\nat = [0, 0]\nfootprint = [\"..\"]\n"), "expected at least one cell"},
      {file(m, "[[unit]]\nname = \"a\"\nat = [0, 0.5]\n"), "expected a cell as [col, row]"},
      {file(m, "[rules]\nhut = \"near\"\n"), "expected a [rules] table of lists"},
      {file(m, "[rules]\nhut = [\"near:sand\"]\n"), "expected against-wall:N"},
      {file(m, "[rules]\nhut = [\"near:moss:2\"]\n"), "expected the name of a terrain or a unit"},
      {file(m, "[rules]\nhut = [\"margin:101\"]\n"), "found \"margin:101\""},
      {file(m, "[rules]\nhut = [\"seen-from:99,0\"]\n"), "expected a cell of the map"},
      {file(m, "[rules]\nhut = [\"reach:0,0:1.234\"]\n"), "found \"reach:0,0:1.234\""},
      {file(m, "[rules]\nhut = [7]\n"), "found 7"},
      {file(m, "[[threat]]\nname = \"g\"\nat = [0, 0]\nrange = 1\nlevels = [[0.5, 1], [0.4, 2]]\n"), "found 0.4"},
      {file(m, "[[threat]]\nname = \"g\"\nat = [0, 0]\nrange = 1\narc = 90\n"),
       "found arc = 90, expected facing beside it"},
      {file(m, "[[threat]]\nname = \"g\"\nat = [0, 0]\nrange = 1\nfacing = \"up\"\n"), "expected a side: n ne e"},
  };
  for (const Broken& broken : list) {
    INFO(broken.text);
    const std::string message = refused(broken.text);
    INFO(message);
    CHECK(message.find(broken.says) != std::string::npos);
  }
}

TEST_CASE("the demo scenarios read, and stay what the documents say of them") {
  const std::string folder = saunter::test::source_dir() + "/demo/";
  const auto strand = read_scenario(folder + "strand.toml");
  REQUIRE(strand.ok());
  CHECK(strand.value().map.size() == Size{48, 32});
  CHECK(strand.value().map.kinds().size() >= 6);
  CHECK(strand.value().movers.size() >= 3);
  const auto atoll = read_scenario(folder + "atoll.toml");
  REQUIRE(atoll.ok());
  CHECK(atoll.value().map.tiling().is_hex());
}

TEST_CASE("files are complete or not there") {
  const test::TemporaryFolder folder;
  const std::string name = folder.path("a.txt");
  // What a killed run of our process number left stays there, and is in nobody's way.
  const std::string left = name + ".part" + std::to_string(::getpid());
  std::ofstream(left) << "left";
  CHECK(write_file(name, "first").ok());
  CHECK(read_file(left).value() == "left");
  std::filesystem::remove(left);
  {
    auto pending = PendingFile::write(name, "second");
    REQUIRE(pending.ok());
    CHECK(read_file(name).value() == "first");
  }  // dropped: nothing changed, nothing left behind
  CHECK(read_file(name).value() == "first");
  CHECK(folder.entries() == 1);
  CHECK_FALSE(write_file(folder.path("missing/a.txt"), "x").ok());
  CHECK_FALSE(write_file(folder.path(), "x").ok());
  CHECK(read_file(folder.path()).error().found == "a folder");
}
