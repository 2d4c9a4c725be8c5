// Each thing a picture can show, drawn by itself on every tiling: it changes pixels, and only on and about the cells it
// is told of, or only beside the map.
#include <catch2/catch.hpp>

#include <array>
#include <cstdlib>
#include <fstream>
#include <functional>
#include <map>
#include <set>
#include <sstream>

#include "saunter/draw/picture.hpp"
#include "saunter/io/png.hpp"
#include "saunter/saunter.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

constexpr Size size{12, 9};

/// All that a picture may point to, for one tiling.
struct Stage {
  explicit Stage(Tiling tiling)
      : map({tiling, size}, {{.name = "sand", .glyph = U'.', .color = {230, 210, 160}},
                             {.name = "rock", .cost = blocked, .glyph = U'#', .color = {70, 60, 90}}}) {
    map.set_terrain({8, 2}, 1);
    map.set_terrain({8, 6}, 1);
    costs = bake(map, Mover{.name = "crab", .rules = {.steps = default_steps(tiling)}});
    regions = Regions(costs);
    Searcher searcher;
    field = searcher.reach(costs, {3, 3}, {.budget = 1_steps});
    sight = SightGrid(map.board());
    threat = ThreatField(map.board());
    (void)threat.add(sight, {.at = {3, 3}, .range = 1_steps, .levels = {{100_hundredths, 9}}});
    seen = BitGrid(size);
    for (std::uint32_t i = 0; i < size.cell_count(); ++i)
      seen.set(size.cell(CellIndex{i}), size.cell(CellIndex{i}) != Cell{3, 3});
  }
  Map map;
  CostGrid costs;
  Regions regions;
  Field field;
  SightGrid sight;
  ThreatField threat;
  BitGrid seen;
  std::vector<Cell> one = {{3, 3}};
  std::vector<Cell> row = {{2, 3}, {3, 3}, {4, 3}, {5, 3}};
  std::vector<Visit> visits = {{size.index({3, 3}), size.index({3, 3}), 0, 0}};
  std::vector<draw::Thing> things = {{"hut", {{3, 3}}}};
  std::vector<draw::Watcher> watchers = {{"gull", {.at = {3, 3}, .range = 2_steps, .facing = Side{0}, .arc = 90}}};
  std::vector<draw::PlotPoint> points = {{100, 50, false}, {200, 10, true}};
};

enum class Where { cells, map, beside };
struct Member {
  const char* name;
  Where where;
  std::vector<Cell> cells;  // what it is about, with what lies within a step
  std::function<void(draw::Picture&, const Stage&)> set;
};

std::vector<Member> members() {
  using P = draw::Picture;
  const std::vector<Cell> one = {{3, 3}};
  const std::vector<Cell> row = {{2, 3}, {3, 3}, {4, 3}, {5, 3}};
  return {
      {"title", Where::beside, {}, [](P& p, const Stage&) { p.title = "Wrackline"; }},
      {"facts",
       Where::beside,
       {},
       [](P& p, const Stage&) {
         p.facts = {{"cost", "12.41"}};
       }},
      {"plot", Where::beside, {}, [](P& p, const Stage& s) { p.plot = s.points; }},
      {"cost layer", Where::map, {}, [](P& p, const Stage& s) { p.costs = &s.costs, p.layers.cost = true; }},
      {"blocked layer",
       Where::cells,
       {{8, 2}, {8, 6}},
       [](P& p, const Stage& s) { p.costs = &s.costs, p.layers.blocked = true; }},
      {"outlines", Where::map, {}, [](P& p, const Stage&) { p.layers.outlines = true; }},
      {"things", Where::cells, one, [](P& p, const Stage& s) { p.things = s.things; }},
      {"visits", Where::cells, one, [](P& p, const Stage& s) { p.visits = s.visits; }},
      {"field", Where::cells, one, [](P& p, const Stage& s) { p.field = &s.field; }},
      {"arrows", Where::cells, one, [](P& p, const Stage& s) { p.field = &s.field, p.arrows = true; }},
      {"path", Where::cells, row, [](P& p, const Stage& s) { p.path = s.row; }},
      {"waypoints", Where::cells, row, [](P& p, const Stage& s) { p.waypoints = s.row; }},
      {"avoided", Where::cells, one, [](P& p, const Stage& s) { p.avoided = s.one; }},
      {"spots", Where::cells, one, [](P& p, const Stage& s) { p.spots = s.one; }},
      {"ghost", Where::cells, one, [](P& p, const Stage& s) { p.ghost = s.one; }},
      {"keep_open", Where::cells, one, [](P& p, const Stage& s) { p.keep_open = s.one; }},
      {"faults", Where::cells, one, [](P& p, const Stage& s) { p.faults = s.one; }},
      {"in_range", Where::cells, one, [](P& p, const Stage& s) { p.in_range = s.one; }},
      {"regions", Where::map, {}, [](P& p, const Stage& s) { p.regions = &s.regions; }},
      {"cut_off", Where::cells, one, [](P& p, const Stage& s) { p.cut_off = s.one; }},
      {"opens", Where::cells, one, [](P& p, const Stage& s) { p.opens = s.one; }},
      {"chokes", Where::cells, one, [](P& p, const Stage& s) { p.chokes = s.one; }},
      {"threat", Where::cells, one, [](P& p, const Stage& s) { p.threat = &s.threat; }},
      {"watchers", Where::cells, one, [](P& p, const Stage& s) { p.watchers = s.watchers; }},
      {"seen", Where::cells, one, [](P& p, const Stage& s) { p.seen = &s.seen; }},
      {"sight_line", Where::cells, row, [](P& p, const Stage& s) { p.sight_line = std::span(s.row).first(2); }},
      {"hidden_by", Where::cells, one, [](P& p, const Stage& s) { p.hidden_by = s.one; }},
      {"start", Where::cells, one, [](P& p, const Stage& s) { p.start = s.one.data(); }},
      {"goal", Where::cells, one, [](P& p, const Stage& s) { p.goal = s.one.data(); }},
      {"starts", Where::cells, one, [](P& p, const Stage& s) { p.starts = s.one; }},
      {"goals", Where::cells, one, [](P& p, const Stage& s) { p.goals = s.one; }},
      {"mark", Where::cells, one, [](P& p, const Stage& s) { p.mark = s.one.data(); }},
  };
}

draw::Picture bare(const Stage& stage) {
  draw::Picture picture{.title = "t", .map = &stage.map};
  picture.layers.outlines = false;
  picture.layers.coordinates = false;
  return picture;
}

/// What a member adds to the bare picture, as a golden file can hold it: how many lines of SVG, and what they say (a
/// fingerprint by FNV-1a).
std::string added_lines(const std::string& with, const std::string& without) {
  std::multiset<std::string> known;
  std::istringstream before(without);
  for (std::string line; std::getline(before, line);) known.insert(line);
  std::size_t added = 0;
  std::uint64_t print = 14'695'981'039'346'656'037ULL;
  std::istringstream after(with);
  for (std::string line; std::getline(after, line);) {
    if (const auto same = known.find(line); same != known.end()) {
      known.erase(same);
    } else {
      ++added;
      for (const char c : line + "\n") print = (print ^ static_cast<unsigned char>(c)) * 1'099'511'628'211ULL;
    }
  }
  std::ostringstream told;
  told << added << " lines, " << std::hex << print << "\n";
  return told.str();
}

}  // namespace

TEST_CASE("every member of a picture is drawn as it was when somebody looked at it") {
  // SAUNTER_NEW_GOLDENS=1 writes the file anew: look at the pictures before you commit it.
  const std::string file = SAUNTER_SOURCE_DIR "/tests/draw/golden/members.txt";
  std::string drawn;
  for (const Tiling tiling :
       {Tiling::square(), Tiling::hex(HexTop::flat, Shift::odd), Tiling::triangle(FirstTriangle::up)}) {
    const Stage stage(tiling);
    const std::string without = draw::to_svg(bare(stage));
    const char* const shape = tiling.is_hex() ? "hex" : tiling.shape() == Shape::square ? "square" : "triangle";
    for (const Member& member : members()) {
      draw::Picture with = bare(stage);
      member.set(with, stage);
      drawn += std::string(shape) + ", " + member.name + ": " + added_lines(draw::to_svg(with), without);
    }
  }
  if (std::getenv("SAUNTER_NEW_GOLDENS") != nullptr) std::ofstream(file, std::ios::binary) << drawn;
  std::ifstream in(file, std::ios::binary);
  const std::string golden{std::istreambuf_iterator<char>(in), {}};
  const auto differs = std::mismatch(drawn.begin(), drawn.end(), golden.begin(), golden.end()).first;
  const auto at = static_cast<std::size_t>(differs - drawn.begin());
  INFO("drawn otherwise near: " << drawn.substr(at - std::min<std::size_t>(at, 300), 600));
  CHECK(drawn == golden);
}

TEST_CASE("every member of a picture is drawn where it belongs, and nowhere else") {
  for (const Tiling tiling :
       {Tiling::square(), Tiling::hex(HexTop::flat, Shift::odd), Tiling::triangle(FirstTriangle::up)}) {
    const Stage stage(tiling);
    const draw::Picture without = bare(stage);
    const draw::Layout layout = draw::layout(without);
    const Grid<Rgb> before = io::decode_rgb_png(draw::to_png(without), "before").value();
    std::map<std::string, const char*> drawings;
    for (const Member& member : members()) {
      CAPTURE(member.name, static_cast<int>(tiling.shape()));
      draw::Picture with = bare(stage);
      member.set(with, stage);
      const std::string svg = draw::to_svg(with);
      CHECK(svg != draw::to_svg(without));
      const Grid<Rgb> after = io::decode_rgb_png(draw::to_png(with), "after").value();
      if (member.where == Where::beside) continue;  // the sheet may have grown
      // A cell with its marks, and a cell of triangles beside it; a watcher shows its whole range.
      const double reach = std::string(member.name) == "watchers" ? 3.1 : 2.1;
      std::size_t changed = 0;
      std::size_t elsewhere = 0;
      for (std::int32_t y = 0; y < std::min(before.size().rows, after.size().rows); ++y) {
        for (std::int32_t x = 0; x < std::min(before.size().cols, after.size().cols); ++x) {
          if (before[Cell{x, y}] == after[Cell{x, y}]) continue;
          const Point at(x + 0.5, y + 0.5);
          if (!layout.frame.cell_at(at, size)) continue;  // the legend, and what lies about the map
          ++changed;
          if (member.where == Where::map) continue;
          bool near = false;
          for (const Cell cell : member.cells)
            near = near || length(layout.frame.centre(cell) - at) <= reach * layout.cell;
          elsewhere += near ? 0U : 1U;
        }
      }
      CHECK(changed > 20);
      CHECK(elsewhere == 0);
      // Each looks different from all the others, but for one start or goal among several.
      const auto [other, fresh] = drawings.emplace(svg, member.name);
      const std::string pair = std::string(other->second) + "/" + member.name;
      CHECK((fresh || pair == "start/starts" || pair == "goal/goals" || pair == "field/arrows"));
    }
  }
}

TEST_CASE("the diamond view shows each cell's ground in its sheared place") {
  const Stage stage(Tiling::square());
  draw::Picture picture = bare(stage);
  picture.diamond = true;
  const draw::Layout layout = draw::layout(picture);
  const Grid<Rgb> pixels = io::decode_rgb_png(draw::to_png(picture), "diamond").value();
  for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
    const Cell cell = size.cell(CellIndex{i});
    const Point centre = layout.frame.centre(cell);
    const Cell pixel{static_cast<int>(centre.x), static_cast<int>(centre.y)};
    CHECK(pixels[pixel] == stage.map.kind(stage.map.terrain_at(cell)).color);
  }
}

TEST_CASE("panels side by side hold each picture") {
  const Stage stage(Tiling::square());
  const draw::Picture panels[] = {bare(stage), bare(stage)};
  const Grid<Rgb> both = io::decode_rgb_png(draw::to_png(panels), "both").value();
  const Grid<Rgb> one = io::decode_rgb_png(draw::to_png(panels[0]), "one").value();
  // The two are alike, so each half holds as much of the rock's colour, whatever size the cells have.
  std::array<std::size_t, 2> rock{};
  for (std::int32_t y = 0; y < both.size().rows; ++y) {
    for (std::int32_t x = 0; x < both.size().cols; ++x) {
      if (both[Cell{x, y}] == Rgb{70, 60, 90}) ++rock[x < both.size().cols / 2 ? 0 : 1];
    }
  }
  CHECK(rock[0] > 100);
  CHECK(rock[0] == rock[1]);
  CHECK_FALSE(both.values().size() == one.values().size());
}
