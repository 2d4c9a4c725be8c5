// Scripts for `play`: what they mean, and where and how a broken one is refused.
#include <catch2/catch.hpp>

#include "saunter/io/play.hpp"

using namespace saunter;
using namespace saunter::io;

namespace {

Scenario strand() {
  const auto scenario = parse_scenario(R"(saunter = 1
[map]
tiling = "square"
rows = '''
.....
..#..
.....
'''
[terrain.sand]
glyph = "."
[terrain.rock]
glyph = "#"
cost = false
[mover.crab]
[mover.sled]
steps = 4
[[unit]]
name = "hut"
at = [0, 0]
footprint = ["xx"]
[[unit]]
name = "crate"
at = [4, 2]
[[threat]]
name = "gull"
at = [2, 0]
range = 2
)",
                                       "strand.toml");
  REQUIRE(scenario.ok());
  return scenario.value();
}

std::string script(const std::string& rest) { return "saunter_play = 1\nticks = 9\n" + rest; }

PlayScript good_script(const std::string& text) {
  const auto read = parse_play(text, "tide.toml", strand());
  INFO((read ? "" : read.error().message()));
  REQUIRE(read.ok());
  return read.value();
}

std::string refused_script(const std::string& rest) {
  const auto read = parse_play(script(rest), "tide.toml", strand());
  REQUIRE_FALSE(read.ok());
  return read.error().message();
}

}  // namespace

TEST_CASE("a script is read as written, edits by tick, units in file order") {
  const PlayScript read = good_script(script(R"([[edit]]
tick = 3
close = [[0, 1], [1, 1]]
one_way = true
[[edit]]
tick = 1
paint = "rock"
cells = [[1, 2], [2, 2]]
[[edit]]
tick = 1
place = "crate"
at = [3, 1]
[[edit]]
tick = 2
lift = "hut"
[[edit]]
tick = 2
watch = "gull"
facing = "sw"
[[go]]
name = "pip"
mover = "sled"
from = [0, 2]
to = [4, 0]
plan = "wary"
wary = 0.5
linger = 0.25
leaves = true
[[go]]
name = "dab"
from = [0, 1]
to = [4, 1]
tick = 2
plan = "wander"
seed = 7
)"));
  CHECK(read.ticks == 9);
  REQUIRE(read.edits.size() == 5);
  CHECK(read.edits[0].tick == 1);
  const auto& paint = std::get<PaintEdit>(read.edits[0].what);
  CHECK(paint.terrain == 1);
  CHECK(paint.cells == std::vector<Cell>{{1, 2}, {2, 2}});
  CHECK(std::get<UnitEdit>(read.edits[1].what).unit == 2);
  CHECK(std::get<UnitEdit>(read.edits[1].what).at == Cell{3, 1});
  CHECK_FALSE(std::get<UnitEdit>(read.edits[2].what).at.has_value());
  CHECK(std::get<ThreatEdit>(read.edits[3].what).facing == Side(5));
  const auto& edge = std::get<EdgeEdit>(read.edits[4].what);
  CHECK((edge.one_way && !edge.open && edge.second == Cell{1, 1}));
  REQUIRE(read.units.size() == 2);
  CHECK(read.units[0].mover == 1);
  CHECK(read.units[0].care.wary == 50);
  CHECK(read.units[0].care.linger == 25);
  CHECK(read.units[0].leaves);
  CHECK(read.units[1].mover == 0);
  CHECK(read.units[1].plan == GoPlan::walker);
  CHECK(read.units[1].walker == WalkerKind::wander);
  CHECK(read.units[1].seed == 7);
  CHECK(good_script("saunter_play = 1\nticks = 0\n").units.empty());
}

TEST_CASE("the map in play stands as the scenario says") {
  const Scenario scenario = strand();
  const LiveMap live = live_map(scenario);
  CHECK(live.units().at({1, 0}) == 1);
  CHECK(live.units().at({4, 2}) == 2);
  CHECK(live.threat(ThreatNumber(1)).at == Cell{2, 0});
  CHECK(live.revision() == 1);
}

TEST_CASE("what is wrong whatever units do is one error: line, what was found, its tick, what was expected") {
  const std::vector<std::pair<std::string, std::string>> table = {
      {"tide = 1", "tide.toml:3:1: found unknown key \"tide\" in the script, expected saunter_play, ticks, edit or go"},
      {"[[edit]]\ntick = 9\nlift = \"hut\"",
       "tide.toml:4:8: found tick = 9 at tick 9, expected a whole number from 0 to 8"},
      {"[[edit]]\nlift = \"hut\"", "tide.toml:3:1: found no \"tick\" in [[edit]], expected a whole number from 0 to 8"},
      {"[[edit]]\ntick = 1",
       "tide.toml:3:1: found an edit that does nothing at tick 1, expected exactly one of paint, close, open, place, "
       "lift, watch"},
      {"[[edit]]\ntick = 1\nlift = \"hut\"\nplace = \"hut\"", "tide.toml:5:8: found lift beside place at tick 1"},
      {"[[edit]]\ntick = 1\npaint = \"tar\"\ncells = [[0, 0]]",
       "tide.toml:5:9: found paint = \"tar\" at tick 1, expected the name of a [terrain.name]"},
      {"[[edit]]\ntick = 1\npaint = \"sand\"\ncells = [[5, 0]]",
       "tide.toml:6:10: found 5,0 off the map at tick 1, expected a cell of the map, which is 5 x 3"},
      {"[[edit]]\ntick = 1\npaint = \"sand\"\ncells = []", "expected at least one cell"},
      {"[[edit]]\ntick = 1\npaint = \"sand\"\ncells = [[1, 0], [1, 0]]", "found a second edit of cell 1,0 at tick 1"},
      {"[[edit]]\ntick = 1\nclose = [[0, 0], [1, 1]]", "expected two cells that share an edge"},
      {"[[edit]]\ntick = 1\nclose = [[0, 0]]", "expected two cells that share an edge"},
      {"[[edit]]\ntick = 1\nclose = [[0, 0], [1, 0]]\n[[edit]]\ntick = 1\nopen = [[1, 0], [0, 0]]",
       "found a second edit of the side between 0,0 and 1,0 at tick 1"},
      {"[[edit]]\ntick = 1\nplace = \"tub\"\nat = [0, 0]", "expected the name of a [[unit]]"},
      {"[[edit]]\ntick = 1\nplace = \"hut\"", "found no \"at\" in [[edit]] at tick 1"},
      {"[[edit]]\ntick = 1\nplace = \"hut\"\nat = [4, 0]",
       "found unit \"hut\" off the map at 5,0 at tick 1, expected all its cells on the map"},
      {"[[edit]]\ntick = 1\nlift = \"hut\"\n[[edit]]\ntick = 1\nplace = \"hut\"\nat = [0, 1]",
       "found a second edit of unit \"hut\" at tick 1"},
      {"[[edit]]\ntick = 1\nlift = \"hut\"\nat = [0, 0]", "found at beside lift at tick 1"},
      {"[[edit]]\ntick = 1\nwatch = \"owl\"\nat = [0, 0]", "expected the name of a [[threat]]"},
      {"[[edit]]\ntick = 1\nwatch = \"gull\"", "found watch alone at tick 1, expected at or facing beside it"},
      {"[[edit]]\ntick = 1\nwatch = \"gull\"\nfacing = \"up\"", "found facing = \"up\" at tick 1, expected a side:"},
      {"[[edit]]\ntick = 1\nwatch = \"gull\"\nat = [0, 0]\n[[edit]]\ntick = 1\nwatch = \"gull\"\nat = [1, 0]",
       "found a second edit of threat \"gull\" at tick 1"},
      {"[[go]]\nfrom = [0, 1]\nto = [1, 1]", "found no \"name\" in [[go]]"},
      {"[[go]]\nname = \"pip\"\nfrom = [0, 1]\nto = [1, 1]\n[[go]]\nname = \"pip\"\nfrom = [0, 1]\nto = [1, 1]",
       "expected a name not used before"},
      {"[[go]]\nname = \"pip\"\nfrom = [0, 1]", "found no \"to\" in [[go]]"},
      {"[[go]]\nname = \"pip\"\nfrom = [0, 7]\nto = [1, 1]", "found 0,7 off the map, expected a cell of the map"},
      {"[[go]]\nname = \"pip\"\nmover = \"cab\"\nfrom = [0, 1]\nto = [1, 1]", "expected the name of a [mover.name]"},
      {"[[go]]\nname = \"pip\"\nfrom = [0, 1]\nto = [1, 1]\nplan = \"fly\"",
       "found plan = \"fly\", expected route, wary, field, wander, turn-right"},
      {"[[go]]\nname = \"pip\"\nfrom = [0, 1]\nto = [1, 1]\nwary = 2",
       "found wary = 2, expected plan = \"wary\" beside it"},
      {"[[go]]\nname = \"pip\"\nfrom = [0, 1]\nto = [1, 1]\nseed = 2", "expected plan = \"wander\" beside it"},
      {"[[go]]\nname = \"pip\"\nfrom = [0, 1]\nto = [1, 1]\ntick = -1", "found tick = -1"},
      {"[[go]", "found broken TOML"},
  };
  for (const auto& [rest, message] : table) {
    INFO(rest);
    const std::string told = refused_script(rest);
    CHECK_THAT(told, Catch::Contains(message));
    CHECK(told.find('\n') == std::string::npos);
  }
}
