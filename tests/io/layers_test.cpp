// Layers in files of their own: what they mean, what is refused, and that writing and reading again changes nothing.
#include <catch2/catch.hpp>
#include <filesystem>

#include "saunter/io/files.hpp"
#include "saunter/io/layer.hpp"
#include "saunter/io/png.hpp"
#include "saunter/io/write_scenario.hpp"
#include "support/random_maps.hpp"
#include "support/temporary_folder.hpp"

using namespace saunter;
using namespace saunter::io;
using namespace saunter::test;

namespace {

class Folder : public TemporaryFolder {
 public:
  [[nodiscard]] std::string file(const std::string& name, const std::string& bytes) const {
    REQUIRE(write_file(path(name), bytes).ok());
    return path(name);
  }
};
const std::string kinds =
    "[terrain.sand]\nglyph='.'\ncolor='#e6d5a8'\n[terrain.rock]\nglyph='#'\ncolor='#102030'\ncost=false\n";

Result<Scenario> read(const Folder& folder, const std::string& map) {
  return parse_scenario("saunter = 1\n[map]\ntiling = \"square\"\n" + map + "\n" + kinds, "tide.toml", folder.path());
}

std::string refused(const Folder& folder, const std::string& map) {
  const auto result = read(folder, map);
  REQUIRE_FALSE(result.ok());
  return result.error().message();
}

Grid<Rgb> colors(Size size, std::initializer_list<Rgb> values) {
  Grid<Rgb> grid(size);
  std::copy(values.begin(), values.end(), grid.values().begin());
  return grid;
}

constexpr Rgb sand = {0xe6, 0xd5, 0xa8};
constexpr Rgb rock = {0x10, 0x20, 0x30};

}  // namespace

TEST_CASE("terrain from CSV and PNG") {
  const Folder folder;
  (void)folder.file("a.csv", "\xEF\xBB\xBFsand, rock\r\nrock,sand\r\n");
  const auto csv = read(folder, "terrain_csv = 'a.csv'");
  REQUIRE(csv.ok());
  CHECK(csv.value().map.terrain_at({1, 0}) == 1);
  (void)folder.file("a.png", encode_png(colors({2, 2}, {sand, rock, rock, sand})));
  const auto png = read(folder, "terrain_png = 'a.png'");
  REQUIRE(png.ok());
  CHECK(png.value().map.terrain() == csv.value().map.terrain());
}

TEST_CASE("heights from CSV and PNG, barriers from PNG") {
  const Folder folder;
  (void)folder.file("h.csv", "-32768,0\n5,32767\n");
  const std::string rows = "rows = '''\n..\n..\n'''\n";
  CHECK(read(folder, rows + "height_csv = 'h.csv'").value().map.height_at({1, 1}) == 32767);
  Grid<std::uint16_t> grey(Size{2, 2}, 300);
  grey[Cell{0, 0}] = 0;
  (void)folder.file("h.png", encode_grey_png(grey, 16));
  const auto map = read(folder, rows + "height_png = 'h.png'\nheight_base = -100").value().map;
  CHECK(map.height_at({0, 0}) == -100);
  CHECK(map.height_at({1, 0}) == 200);
  Grid<std::uint16_t> sides(Size{2, 2}, 0);
  sides[Cell{0, 0}] = 2 | 1;  // east, and north off the map
  (void)folder.file("b.png", encode_grey_png(sides, 8));
  const auto barred = read(folder, rows + "barriers_png = 'b.png'").value().map;
  CHECK(barred.closed({0, 0}, Direction(1)));
  CHECK_FALSE(barred.closed({1, 0}, Direction(3)));  // closed in one cell only: one way
  CHECK(barred.closed_sides({0, 0}) == 2);
}

TEST_CASE("broken layers are refused with their place") {
  const Folder folder;
  const std::string rows = "rows = '''\n..\n..\n'''\n";
  (void)folder.file("name.csv", "sand,sand\nsand,mud\n");
  (void)folder.file("ragged.csv", "sand,sand\nsand\n");
  (void)folder.file("gap.csv", "sand,sand\n\nsand,sand\n");
  (void)folder.file("color.png", encode_png(colors({2, 1}, {sand, {1, 2, 3}})));
  (void)folder.file("not.png", "hello");
  (void)folder.file("half.png", encode_png(colors({2, 1}, {sand, rock})).substr(0, 60));
  (void)folder.file("height.csv", "1,2\n3,x\n");
  (void)folder.file("tall.csv", "1,2\n3,40000\n");
  (void)folder.file("small.csv", "1,2\n");
  (void)folder.file("sides.png", encode_grey_png(Grid<std::uint16_t>(Size{2, 2}, 16), 8));
  const std::vector<std::pair<std::string, std::string>> list = {
      {"terrain_csv = 'name.csv'", "name.csv:2:6: found terrain \"mud\""},
      {"terrain_csv = 'ragged.csv'", "ragged.csv:2: found 1 values, expected 2 as in its first line"},
      {"terrain_csv = 'gap.csv'", "gap.csv:2: found an empty line"},
      {"terrain_png = 'color.png'", "color.png:1:2: found colour #010203"},
      {"terrain_png = 'not.png'", "not.png: found something else, expected a PNG"},
      {"terrain_png = 'half.png'", "half.png: found a broken image"},
      {rows + "height_csv = 'height.csv'", "height.csv:2:3: found height \"x\""},
      {rows + "height_csv = 'tall.csv'", "tall.csv:2:3: found height \"40000\""},
      {rows + "height_csv = 'small.csv'", "small.csv: found 2x1 cells, expected 2x2 as the terrain has"},
      {rows + "height_png = 'color.png'", "color.png: found a PNG with colours or transparency, expected a grey PNG"},
      {rows + "height_base = 3", "found height_base = 3, expected height_png beside it"},
      {rows + "height_csv = 'h.csv'\nheight_png = 'h.png'", "only one of heights, height_csv, height_png"},
      {rows + "barriers_png = 'sides.png'", "sides.png:1:1: found grey 16, expected 8-bit grey 0 to 15"},
  };
  for (const auto& [map, says] : list) {
    const std::string message = refused(folder, map);
    INFO(message);
    CHECK(message.find(says) != std::string::npos);
  }
}

TEST_CASE("heights stand in the scenario itself, and errors in them name its line") {
  const Folder folder;
  const std::string rows = "rows = '''\n..\n..\n'''\n";
  const Map map = read(folder, rows + "heights = '''\n0,-5\n 7 ,32767\n'''").value().map;
  CHECK(map.height_at({1, 0}) == -5);
  CHECK(map.height_at({0, 1}) == 7);
  CHECK(read(folder, rows + "heights = '''1,2\n3,4'''").value().map.height_at({1, 1}) == 4);
  // The first line of heights is the file's ninth when they begin on a line of their own.
  const std::vector<std::pair<std::string, std::string>> list = {
      {"heights = '''\n1,2\n3,x\n'''", "tide.toml:10:3: found height \"x\""},
      {"heights = '''1,y\n3,4\n'''", "tide.toml:8:16: found height \"y\""},
      {"heights = '''\n1,2\n3\n'''", "tide.toml:10: found 1 values, expected 2 as in its first line"},
      {"heights = '''\n1,2\n'''", "found 2x1 cells, expected 2x2 as the terrain has"},
      {"heights = 3", "heights = 3"},
      {"heights = '''\n1,2\n3,4\n'''\nheight_csv = 'h.csv'", "only one of heights, height_csv, height_png"},
      {"heights = '''\n1,2\n3,4\n'''\nheight_base = 2", "expected height_png beside it"},
  };
  for (const auto& [heights, says] : list) {
    const std::string message = refused(folder, rows + heights);
    INFO(message);
    CHECK(message.find(says) != std::string::npos);
  }
}

TEST_CASE("a scenario that may name no files is refused when it does, whether they are there or not") {
  const Folder folder;
  (void)folder.file("h.csv", "1,2\n3,4\n");
  for (const char* const key : {"terrain_csv", "terrain_png", "height_csv", "height_png", "barriers_png"}) {
    const std::string text = "saunter = 1\n[map]\ntiling = \"square\"\n" + std::string(key) + " = '" +
                             folder.path("h.csv") + "'\n" + kinds + "[mover.crab]\n";
    const auto result = parse_scenario(text, "tide.toml", std::nullopt);
    REQUIRE_FALSE(result.ok());
    INFO(result.error().message());
    CHECK(result.error().line == 4);
    CHECK(result.error().expected.starts_with("no files"));
    CHECK(scenario_errors(text, "tide.toml", std::nullopt).front().message() == result.error().message());
  }
}

TEST_CASE("transparent pixels and too large images are refused before anything is kept") {
  // A 1 x 1 image of 16 bits with alpha, made by hand, and a header that promises 65,535 x 65,535 pixels.
  std::string large = encode_grey_png(Grid<std::uint16_t>(Size{1, 1}), 8);
  large[18] = '\xFF';
  large[19] = '\xFF';
  large[22] = '\xFF';
  large[23] = '\xFF';
  const auto refusal = decode_grey_png(large, "large.png");
  REQUIRE_FALSE(refusal.ok());  // its checksum is wrong too: refused either way, and no 4 GB were asked for
}

TEST_CASE("writing and reading again gives the same scenario: 300 random ones") {
  const Folder folder;
  for (std::uint64_t seed = 1; seed <= 300; ++seed) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    Map drawn = random_map(random, tiling, random_size(random, 12));
    std::vector<Terrain> looks = drawn.kinds();
    const std::u32string glyphs = random.chance(50) ? U".#\"'\\ " : U"\u2248~:oO%";
    for (std::size_t i = 0; i < looks.size(); ++i) {
      looks[i].glyph = glyphs[i];
      looks[i].color = {static_cast<std::uint8_t>(i * 40), static_cast<std::uint8_t>(random.whole(0, 255)), 7};
      looks[i].opaque = random.chance(30);
      if (looks[i].is_void) looks[i].cost = blocked;
      looks[i].breach = random.chance(30) ? std::nullopt : std::optional<Cost>(static_cast<Cost>(random.whole(0, 900)));
    }
    Scenario scenario;
    scenario.title = random.chance(20) ? "" : "A \"quoted\" \\ title";
    scenario.map = Map(drawn.board(), looks);
    scenario.map.set_all_terrain(drawn.terrain());
    if (random.chance(60)) add_random_edges(random, scenario.map);
    scenario.movers.push_back(random_mover(random, tiling));
    scenario.movers.back().name = "big one";
    if (tiling.shape() != Shape::square) scenario.movers.back().rules.diagonal = 141;
    Cell at = random.cell(scenario.map.size());
    if (tiling.shape() == Shape::triangle && tiling.kind(at) != 0) {
      at = {0, 0};  // a thing that is drawn stands on a triangle that points up
      if (tiling.kind(at) != 0) continue;
    }
    scenario.units.push_back({.name = "hut", .at = at, .blocks = random.chance(50), .cells = {at}});
    scenario.threats.push_back({"gull",
                                {.at = at,
                                 .range = 3.5_steps,
                                 .levels = {{0.5_steps, 4}, {1_steps, 1}},
                                 .needs_sight = true,
                                 .strength = 1.5_steps}});
    scenario.rules.push_back(
        {"hut, the large one", {*parse_rule_words("near:hut:2"), *parse_rule_words("reach:0,0:1.5")}});
    WriteOptions options;
    options.terrain = static_cast<TerrainForm>(random.whole(0, 2));
    options.heights = static_cast<HeightForm>(random.whole(0, 2));
    if (tiling.shape() == Shape::square) options.barriers = static_cast<BarrierForm>(random.whole(0, 1));
    const auto files = write_scenario(scenario, "again", options);
    REQUIRE(files.ok());
    for (const NamedFile& file : files.value()) (void)folder.file(file.name, file.bytes);
    const auto result = read_scenario(folder.path() + "/again.toml");
    INFO((result ? "" : result.error().message()) << "\n" << files.value()[0].bytes);
    REQUIRE(result.ok());
    const Scenario& again = result.value();
    // All in one file it needs no other, and is the same.
    const auto alone = write_scenario(scenario, "alone", one_file);
    REQUIRE(alone.value().size() == 1);
    const auto by_itself = parse_scenario(alone.value()[0].bytes, "alone.toml", std::nullopt);
    REQUIRE(by_itself.ok());
    const std::string text = write_scenario(by_itself.value(), "alone", one_file).value()[0].bytes;
    const auto once_more = parse_scenario(text, "alone.toml", std::nullopt);
    CHECK(write_scenario(once_more.value(), "alone", one_file).value()[0].bytes == text);  // defaults are told now
    CHECK(by_itself.value().map.terrain() == scenario.map.terrain());
    CHECK(by_itself.value().map.heights() == scenario.map.heights());
    CHECK(again.title == scenario.title);
    CHECK(again.map.board() == scenario.map.board());
    CHECK(again.map.terrain() == scenario.map.terrain());
    for (int row = 0; row < again.map.size().rows; ++row) {
      for (int col = 0; col < again.map.size().cols; ++col) {
        REQUIRE(again.map.height_at({col, row}) == scenario.map.height_at({col, row}));
        REQUIRE(again.map.closed_sides({col, row}) == scenario.map.closed_sides({col, row}));
      }
    }
    for (std::size_t i = 0; i < looks.size(); ++i) {
      const Terrain& kind = again.map.kinds()[i];
      CHECK(kind.name == looks[i].name);
      CHECK(kind.cost == looks[i].cost);
      CHECK(kind.glyph == looks[i].glyph);
      CHECK(kind.color == looks[i].color);
      CHECK(kind.opaque == looks[i].opaque);
      CHECK(kind.is_void == looks[i].is_void);
      CHECK(kind.breach == looks[i].breach);
    }
    const Mover& mover = again.movers.at(0);
    CHECK(mover.name == "big one");
    CHECK(mover.climb == scenario.movers[0].climb);
    CHECK(mover.drop == scenario.movers[0].drop);
    CHECK(bake(again.map, mover) == bake(scenario.map, scenario.movers[0]));
    CHECK(again.units.at(0).cells == scenario.units[0].cells);
    CHECK(again.units.at(0).blocks == scenario.units[0].blocks);
    CHECK(again.threats.at(0).threat.range == 350);
    CHECK(again.threats.at(0).threat.strength == 150);
    CHECK(again.rules.at(0).name == "hut, the large one");
    CHECK(again.rules.at(0).rules.at(1).cost == 150);
    CHECK(again.threats.at(0).threat.levels.size() == 2);
  }
}

TEST_CASE("layers as CSV, JSON and PNG") {
  Layer layer{Grid<std::int64_t>(Size{2, 2}, 125)};
  layer.values[Cell{1, 0}] = Layer::none;
  layer.values[Cell{0, 1}] = -5;
  CHECK(to_csv(layer) == "125,-\n-5,125\n");
  CHECK(to_json(layer) == "{\"size\":[2,2],\"rows\":[[125,null],[-5,125]]}\n");
  layer.hundredths = true;
  CHECK(to_csv(layer) == "1.25,-\n-0.05,1.25\n");
  const auto grey = decode_grey_png(to_grey_png(layer).value(), "grey").value();
  CHECK(grey.bits == 16);
  CHECK(grey.pixels[Cell{0, 0}] == 131);
  CHECK(grey.pixels[Cell{1, 0}] == 0);
  CHECK(grey.pixels[Cell{0, 1}] == 1);
  const auto ramp = decode_rgb_png(to_ramp_png(layer), "ramp").value();
  CHECK(ramp[Cell{0, 0}] == ramp[Cell{1, 1}]);
  CHECK_FALSE(ramp[Cell{0, 0}] == ramp[Cell{0, 1}]);
  layer.values[Cell{0, 0}] = 70'000;
  CHECK_FALSE(to_grey_png(layer).ok());
}
