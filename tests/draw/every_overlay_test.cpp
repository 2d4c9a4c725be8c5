// Each overlay drawn by itself on every tiling: it changes pixels, and only on and about the cells it is told of, or
// only beside the map; the legend explains it, and what a terminal shows of it is there.
#include <catch2/catch.hpp>

#include <array>
#include <cstdlib>
#include <fstream>
#include <functional>
#include <map>
#include <regex>
#include <set>
#include <sstream>

#include "saunter/draw/overlay/danger.hpp"
#include "saunter/draw/overlay/field.hpp"
#include "saunter/draw/overlay/goers.hpp"
#include "saunter/draw/overlay/ground.hpp"
#include "saunter/draw/overlay/marks.hpp"
#include "saunter/draw/overlay/path.hpp"
#include "saunter/draw/overlay/placing.hpp"
#include "saunter/draw/overlay/plot.hpp"
#include "saunter/draw/overlay/regions.hpp"
#include "saunter/draw/overlay/rim.hpp"
#include "saunter/draw/overlay/rooms.hpp"
#include "saunter/draw/overlay/units.hpp"
#include "saunter/draw/overlay/visits.hpp"
#include "saunter/draw/overlay/walked.hpp"
#include "saunter/draw/picture.hpp"
#include "saunter/draw/terminal.hpp"
#include "saunter/io/png.hpp"
#include "saunter/saunter.hpp"
#include "support/places.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

constexpr Size size{12, 9};

/// All that overlays may show, for one tiling.
struct World {
  explicit World(Tiling tiling)
      : map({tiling, size}, {{.name = "sand", .glyph = U'.', .color = {230, 210, 160}},
                             {.name = "rock", .cost = blocked, .glyph = U'#', .color = {70, 60, 90}}}) {
    map.set_terrain({8, 2}, 1);
    map.set_terrain({8, 6}, 1);
    map.set_height({2, 2}, 5);
    map.set_height({9, 7}, -3);
    map.set_closed({5, 5}, Direction{1});
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
};

enum class Where { cells, map, beside };
struct Shown {
  const char* name;
  Where where;
  std::vector<Cell> cells;  // what it is about, with what lies within a step
  std::function<void(draw::Picture&, const World&)> add;
  const char* glyphs = "";  // that a terminal shows in those cells, in order; "" = none of its own
};

std::vector<Shown> overlays() {
  using P = draw::Picture;
  using Kind = draw::Ends::Kind;
  const std::vector<Cell> one = {{3, 3}};
  const std::vector<Cell> row = {{2, 3}, {3, 3}, {4, 3}, {5, 3}};
  const std::vector<Cell> rocks = {{8, 2}, {8, 6}};
  return {
      {"title", Where::beside, {}, [](P& p, const World&) { p.title = "Wrackline"; }},
      {"facts",
       Where::beside,
       {},
       [](P& p, const World&) {
         p.facts = {{"cost", "12.41"}};
       }},
      {"plot",
       Where::beside,
       {},
       [](P& p, const World&) {
         p.add(draw::Plot({{100, 50, false}, {200, 10, true}}));
       }},
      {"entry costs", Where::map, {}, [](P& p, const World& w) { p.add(draw::EntryCosts(w.costs)); }},
      {"heights", Where::map, {}, [](P& p, const World& w) { p.add(draw::Heights(w.map)); }},
      {"blocked", Where::cells, rocks, [](P& p, const World& w) { p.add(draw::Blocked(w.costs)); }, "\u00D7\u00D7"},
      {"outlines", Where::map, {}, [](P& p, const World&) { p.add(draw::Outlines()); }},
      {"coordinates", Where::beside, {}, [](P& p, const World&) { p.add(draw::Coordinates()); }},
      {"barriers", Where::cells, {{5, 5}, {6, 5}}, [](P& p, const World&) { p.add(draw::Barriers()); }},
      {"goers", Where::cells, row,
       [](P& p, const World& w) {
         p.add(draw::Goers({{"pip", w.row, "under way"}}));
       },
       "1"},
      {"units", Where::cells, one,
       [](P& p, const World& w) {
         p.add(draw::Units({{"hut", w.one}}));
       },
       "U"},
      {"room numbers", Where::cells, one,
       [](P& p, const World&) {
         p.add(draw::RoomNumbers({Rect::of({3, 3})}));
       }},
      {"walked cells", Where::cells, row,
       [](P& p, const World& w) {
         Grid<std::uint32_t> counts(w.map.size());
         std::uint32_t times = 0;
         for (const Cell cell : w.row) counts[cell] = ++times;
         p.add(draw::Walked(std::move(counts), {}));
       },
       "1234"},
      {"last steps of a walk", Where::cells, row,
       [](P& p, const World& w) {
         Grid<std::uint32_t> counts(w.map.size());
         for (const Cell cell : w.row) counts[cell] = 1;
         p.add(draw::Walked(std::move(counts), w.row));
       },
       "***@"},
      {"visits", Where::cells, one, [](P& p, const World& w) { p.add(draw::Visits(w.visits)); }},
      {"field costs", Where::cells, one, [](P& p, const World& w) { p.add(draw::FieldCosts(w.field)); }, "+"},
      {"field arrows", Where::cells, one, [](P& p, const World& w) { p.add(draw::FieldArrows(w.field)); }},
      {"path", Where::cells, row, [](P& p, const World& w) { p.add(draw::Path(w.row)); }, "****"},
      {"exposed path", Where::cells, row, [](P& p, const World& w) { p.add(draw::Path(w.row, &w.threat)); }, "****"},
      {"way points", Where::cells, row, [](P& p, const World& w) { p.add(draw::Waypoints(w.row)); }},
      {"avoided", Where::cells, one, [](P& p, const World& w) { p.add(draw::Avoided(w.one)); }, "x"},
      {"spots", Where::cells, one, [](P& p, const World& w) { p.add(draw::Spots(w.one)); }, "+"},
      {"ghost", Where::cells, one, [](P& p, const World& w) { p.add(draw::Ghost(w.one)); }, "U"},
      {"in range", Where::cells, one, [](P& p, const World& w) { p.add(draw::InRange(w.one)); }},
      {"regions", Where::map, {}, [](P& p, const World& w) { p.add(draw::RegionColors(w.regions)); }},
      {"cut off", Where::cells, one, [](P& p, const World& w) { p.add(draw::CutOff(w.one)); }},
      {"openings", Where::cells, one, [](P& p, const World& w) { p.add(draw::Openings(w.one)); }, "O"},
      {"chokes", Where::cells, one, [](P& p, const World& w) { p.add(draw::Chokes(w.one)); }, "+"},
      {"danger", Where::cells, one, [](P& p, const World& w) { p.add(draw::Danger(w.threat)); }, "9"},
      {"threats", Where::cells, one,
       [](P& p, const World&) {
         p.add(draw::Threats({{"gull", {.at = {3, 3}, .range = 2_steps, .facing = Side{0}, .arc = 90}}}));
       },
       "@"},
      {"unseen", Where::cells, one, [](P& p, const World& w) { p.add(draw::Unseen(w.seen)); }, "\u2591"},
      {"sight line", Where::cells, row,
       [](P& p, const World&) {
         p.add(draw::SightLine({2, 3}, {3, 3}, {}));
       }},
      {"hidden by", Where::cells, row,
       [](P& p, const World& w) {
         p.add(draw::SightLine({2, 3}, {4, 3}, w.one));
       }},
      {"start", Where::cells, one, [](P& p, const World& w) { p.add(draw::Ends(Kind::start, w.one)); }, "S"},
      {"goal", Where::cells, one, [](P& p, const World& w) { p.add(draw::Ends(Kind::goal, w.one)); }, "G"},
      {"kept open", Where::cells, one, [](P& p, const World& w) { p.add(draw::Ends(Kind::kept, w.one)); }, "K"},
      {"ring", Where::cells, one,
       [](P& p, const World&) {
         p.add(draw::Ring({3, 3}, "goal-blocked at 3,3"));
       }},
      {"problems", Where::cells, one,
       [](P& p, const World&) {
         p.add(draw::Problems({{{3, 3}, "step 1: corner"}}));
       },
       "!"},
  };
}

draw::Picture bare(const World& world) {
  draw::Picture picture("t", world.map);
  picture.add(draw::Terrains());
  return picture;
}

/// What an overlay adds to the bare picture, as a golden file can hold it: how many lines of SVG, and what they say (a
/// fingerprint by FNV-1a).
std::string added_lines(const std::string& svg_with, const std::string& svg_without) {
  // Surfaces are numbered through a whole process.
  const auto unnumbered = [](const std::string& svg) {
    return std::regex_replace(svg, std::regex("(surface|clip|mask)-?[0-9]+"), "$1");
  };
  const std::string with = unnumbered(svg_with);
  const std::string without = unnumbered(svg_without);
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

TEST_CASE("every overlay is drawn as it was when somebody looked at it") {
  // SAUNTER_NEW_GOLDENS=1 writes the file anew: look at the pictures before you commit it.
  const std::string file = source_dir() + "/tests/draw/golden/overlays.txt";
  std::string drawn;
  for (const Tiling tiling :
       {Tiling::square(), Tiling::hex(HexTop::flat, Shift::odd), Tiling::triangle(FirstTriangle::up)}) {
    const World world(tiling);
    const std::string without = draw::to_svg(bare(world));
    const char* const shape = tiling.is_hex() ? "hex" : tiling.shape() == Shape::square ? "square" : "triangle";
    for (const Shown& shown : overlays()) {
      draw::Picture with = bare(world);
      shown.add(with, world);
      drawn += std::string(shape) + ", " + shown.name + ": " + added_lines(draw::to_svg(with), without);
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

TEST_CASE("every overlay is drawn where it belongs, and nowhere else") {
  for (const Tiling tiling :
       {Tiling::square(), Tiling::hex(HexTop::flat, Shift::odd), Tiling::triangle(FirstTriangle::up)}) {
    const World world(tiling);
    const draw::Picture without = bare(world);
    const draw::Layout layout = draw::layout(without);
    const Grid<Rgb> before = io::decode_rgb_png(draw::to_png(without), "before").value();
    std::map<std::string, const char*> drawings;
    for (const Shown& shown : overlays()) {
      CAPTURE(shown.name, static_cast<int>(tiling.shape()));
      draw::Picture with = bare(world);
      shown.add(with, world);
      const std::string svg = draw::to_svg(with);
      CHECK(svg != draw::to_svg(without));
      const Grid<Rgb> after = io::decode_rgb_png(draw::to_png(with), "after").value();
      if (shown.where == Where::beside) continue;  // the sheet may have grown
      // A cell with its marks, and a cell of triangles beside it; a threat shows its whole range.
      const double reach = std::string(shown.name) == "threats" ? 3.1 : 2.1;
      std::size_t changed = 0;
      std::size_t elsewhere = 0;
      for (std::int32_t y = 0; y < std::min(before.size().rows, after.size().rows); ++y) {
        for (std::int32_t x = 0; x < std::min(before.size().cols, after.size().cols); ++x) {
          if (before[Cell{x, y}] == after[Cell{x, y}]) continue;
          const Point at(x + 0.5, y + 0.5);
          if (!layout.frame.cell_at(at, size)) continue;  // the legend, and what lies about the map
          ++changed;
          if (shown.where == Where::map) continue;
          bool near = false;
          for (const Cell cell : shown.cells)
            near = near || length(layout.frame.centre(cell) - at) <= reach * layout.cell;
          elsewhere += near ? 0U : 1U;
        }
      }
      CHECK(changed > 20);
      CHECK(elsewhere == 0);
      const auto [other, fresh] = drawings.emplace(svg, shown.name);
      CAPTURE(other->second);
      CHECK(fresh);  // each looks different from all the others
    }
  }
}

TEST_CASE("a terminal shows an overlay in its cells") {
  const World world(Tiling::square());
  for (const Shown& shown : overlays()) {
    CAPTURE(shown.name);
    draw::Picture picture = bare(world);
    shown.add(picture, world);
    std::istringstream lines(draw::terminal_view(picture, {}));
    std::vector<std::string> rows;
    for (std::string line; std::getline(lines, line);) rows.push_back(line);
    std::string found;
    for (const Cell cell : shown.cells) {
      // Cells are a glyph and a blank; those before hold plain ASCII.
      const std::string rest = rows[static_cast<std::size_t>(cell.row)].substr(static_cast<std::size_t>(cell.col) * 2);
      if (const std::string glyph = rest.substr(0, rest.find(' ')); glyph != "." && glyph != "#") found += glyph;
    }
    CHECK(found == shown.glyphs);
  }
}

TEST_CASE("the diamond view shows each cell's ground in its sheared place") {
  const World world(Tiling::square());
  draw::Picture picture = bare(world);
  picture.diamond = true;
  const draw::Layout layout = draw::layout(picture);
  const Grid<Rgb> pixels = io::decode_rgb_png(draw::to_png(picture), "diamond").value();
  for (const Cell cell : size.cells()) {
    const Point centre = layout.frame.centre(cell);
    const Cell pixel{static_cast<int>(centre.x), static_cast<int>(centre.y)};
    CHECK(pixels[pixel] == world.map.kind(world.map.terrain_at(cell)).color);
  }
}

TEST_CASE("panels of a sheet show each picture, and say what they share once") {
  const World world(Tiling::square());
  draw::Sheet sheet{.title = "two"};
  for (const char* const name : {"first", "second"}) {
    sheet.panels.push_back(bare(world));
    sheet.panels.back().title = name;
    sheet.panels.back().add(draw::Path(world.row));
  }
  sheet.charts = {{"cost", {{"first", 1, "1"}, {"second", 2, "2"}}}};
  const Grid<Rgb> both = io::decode_rgb_png(draw::to_png(sheet), "both").value();
  CHECK(both.size().cols == 1280);
  // The two are alike, so each half of what lies beside the legend holds as much of the rock's colour.
  std::array<std::size_t, 2> rocks{};
  for (const Cell pixel : both.size().cells()) {
    if (pixel.col < 990 && both[pixel] == Rgb{70, 60, 90}) ++rocks[pixel.col < 506 ? 0 : 1];
  }
  CHECK(rocks[0] > 100);
  CHECK(rocks[0] == rocks[1]);
  // Each way of saying it is a glyph of the SVG: the legend of two panels is as long as that of one.
  const auto count = [](const std::string& text, const std::string& what) {
    std::size_t found = 0;
    for (std::size_t at = text.find(what); at != std::string::npos; at = text.find(what, at + 1)) ++found;
    return found;
  };
  draw::Sheet single = sheet;
  single.panels.pop_back();
  const std::string of_two = draw::to_svg(sheet);
  const std::string of_one = draw::to_svg(single);
  const std::string swatch = "rgb(90.196";  // the terrain's swatch, and its cells
  CHECK(count(of_two, swatch) > count(of_one, swatch));
  CHECK(count(of_two, swatch) % 2 == 1);  // twice the cells, one swatch
}

TEST_CASE("a sheet gives each panel cells as large as its map allows") {
  const std::vector<Terrain> kinds = {{.name = "sand", .glyph = U'.', .color = {230, 210, 160}},
                                      {.name = "rock", .cost = blocked, .glyph = U'#', .color = {70, 60, 90}}};
  Map large({Tiling::square(), {400, 400}}, kinds);
  Map small({Tiling::square(), {8, 8}}, kinds);
  large.set_terrain({3, 3}, 1);
  small.set_terrain({3, 3}, 1);
  draw::Sheet sheet{.title = "whole and part"};
  for (const Map* const map : {&large, &small}) {
    sheet.panels.emplace_back("panel", *map);
    sheet.panels.back().add(draw::Terrains());
  }
  const Grid<Rgb> pixels = io::decode_rgb_png(draw::to_png(sheet), "sheet").value();
  std::array<std::size_t, 2> rocks{};
  for (const Cell pixel : pixels.size().cells()) {
    if (pixel.col < 990 && pixels[pixel] == Rgb{70, 60, 90}) ++rocks[pixel.col < 506 ? 0 : 1];
  }
  CHECK(rocks[0] <= 4);        // a cell of the large map is a pixel or two
  CHECK(rocks[1] >= 30 * 30);  // one of the small map is large enough to see
}

TEST_CASE("pictures keep to the size asked for, on phones and on posters") {
  const World world(Tiling::square());
  draw::Picture picture = bare(world);
  picture.add(draw::Path(world.row));
  const draw::Layout phone = draw::layout(picture, {360, 640, true});
  CHECK(phone.width == 360);
  CHECK(phone.height <= 640);
  const draw::Layout poster = draw::layout(picture, {3840, 2400, true});
  CHECK(poster.width <= 3840);
  CHECK(poster.height <= 2400);
  CHECK(poster.cell > 2 * draw::layout(picture).cell);
  const Map wide({Tiling::square(), {3000, 10}}, {{.name = "sand", .glyph = U'.', .color = {230, 210, 160}}});
  draw::Picture strip("strip", wide);
  strip.add(draw::Terrains());
  CHECK(draw::layout(strip).width > 3000);
  CHECK(draw::layout(strip, {1280, 800, true}).width <= 1280);
  for (const draw::PixelSize asked : {draw::PixelSize{360, 640, true}, draw::PixelSize{2560, 1600, true}}) {
    const draw::Layout layout = draw::layout(picture, asked);
    CHECK(io::decode_rgb_png(draw::to_png(picture, asked), "sized").value().size() ==
          Size{layout.width, layout.height});
  }
}

TEST_CASE("a long legend makes a picture higher, and lists end with how many more there are") {
  const World world(Tiling::square());
  draw::Picture picture = bare(world);
  std::vector<draw::Problem> problems;
  for (int i = 0; i < 40; ++i) problems.push_back({{i % 12, i / 12}, "step " + std::to_string(i) + ": corner"});
  const int before = draw::layout(picture).height;
  picture.add(draw::Problems(problems));
  for (int i = 0; i < 30; ++i) picture.facts.emplace_back("fact " + std::to_string(i), std::to_string(i));
  CHECK(draw::layout(picture).height > before);
  CHECK(draw::layout(picture).height >= 30 * 21 + 13 * 20);
}
