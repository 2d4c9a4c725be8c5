// Pictures: every overlay on exactly its cell, one drawing for PNG and SVG, readable terminal views.
#include <catch2/catch.hpp>
#include <map>

#include "saunter/draw/overlay/danger.hpp"
#include "saunter/draw/overlay/ground.hpp"
#include "saunter/draw/overlay/marks.hpp"
#include "saunter/draw/overlay/path.hpp"
#include "saunter/draw/overlay/regions.hpp"
#include "saunter/draw/overlay/visits.hpp"
#include "saunter/draw/picture.hpp"
#include "saunter/draw/terminal.hpp"
#include "saunter/io/png.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

constexpr Rgb sand = {230, 210, 160};
constexpr Rgb rock = {70, 60, 90};

Map plain_map(Tiling tiling, Size size) {
  return Map({tiling, size}, {{.name = "sand", .glyph = U'.', .color = sand},
                              {.name = "rock", .cost = blocked, .glyph = U'#', .color = rock}});
}

draw::Picture picture_of(const Map& map) {
  draw::Picture picture("t", map);
  picture.add(draw::Terrains());
  return picture;
}

Grid<Rgb> pixels_of(const draw::Picture& picture) {
  return io::decode_rgb_png(draw::to_png(picture), "picture").value();
}

Rgb mixed(Rgb a, Rgb b, double share) {
  const auto channel = [&](int x, int y) { return static_cast<std::uint8_t>(std::lround(x + (y - x) * share)); };
  return {channel(a.red, b.red), channel(a.green, b.green), channel(a.blue, b.blue)};
}

}  // namespace

TEST_CASE("terrain and visited cells fill exactly their polygons") {
  Random random(3);
  for (const Tiling tiling : all_tilings()) {
    for (const Size size : {Size{9, 7}, Size{60, 40}, Size{700, 500}}) {
      Map map = plain_map(tiling, size);
      for (int i = 0; i < 40; ++i) map.set_terrain(random.cell(size), 1);
      std::vector<Visit> visits;
      Grid<int> order(size, -1);
      for (int i = 0; i < 30; ++i) {
        const Cell cell = random.cell(size);
        if (order[cell] >= 0) continue;
        order[cell] = static_cast<int>(visits.size());
        visits.push_back({size.index(cell), size.index(cell), 0, 0});
      }
      draw::Picture picture = picture_of(map);
      picture.add(draw::Visits(visits));
      const Grid<Rgb> pixels = pixels_of(picture);
      const draw::Layout layout = draw::layout(picture);
      CHECK(pixels.size() == Size{layout.width, layout.height});
      const bool numbered = layout.cell >= 26;
      for (int i = 0; i < 300; ++i) {
        const Cell cell = random.cell(size);
        const Rgb ground = map.terrain_at(cell) == 0 ? sand : rock;
        const Rgb expected =
            order[cell] < 0 ? ground
                            : mixed(ground, draw::visit_color(static_cast<std::size_t>(order[cell]), visits.size()),
                                    draw::visit_opacity);
        // Points near the corners, drawn in towards the centre; the middle may hold numbers.
        for (const Point corner : layout.frame.corners(cell)) {
          const Point at = layout.frame.centre(cell) + (corner - layout.frame.centre(cell)) * (numbered ? 0.85 : 0.5);
          const Cell pixel{static_cast<int>(std::floor(at.x)), static_cast<int>(std::floor(at.y))};
          if (layout.cell < 2) {  // a pixel a cell or less: the pixel under the point shows the cell at its middle
            if (layout.frame.cell_at({pixel.col + 0.5, pixel.row + 0.5}) != cell) continue;
          }
          REQUIRE(pixels[pixel] == expected);
        }
      }
    }
  }
}

TEST_CASE("the path runs through the centres of its cells") {
  for (const Tiling tiling : all_tilings()) {
    const Map map = plain_map(tiling, {12, 9});
    const std::vector<Cell> path = {{2, 2}, {3, 2}, {4, 2}, {5, 2}};
    draw::Picture picture = picture_of(map);
    picture.add(draw::Path(path));
    const Grid<Rgb> pixels = pixels_of(picture);
    const draw::Layout layout = draw::layout(picture);
    for (const Cell cell : path) {
      const Point at = layout.frame.centre(cell);
      CHECK(pixels[Cell{static_cast<int>(at.x), static_cast<int>(at.y)}] == Rgb{255, 255, 255});
    }
  }
}

TEST_CASE("SVG and PNG come from one drawing") {
  const Map map = plain_map(Tiling::square(), {5, 4});
  const draw::Picture picture = picture_of(map);
  const std::string svg = draw::to_svg(picture);
  CHECK(svg.starts_with("<?xml"));
  CHECK(svg.find("width=\"" + std::to_string(draw::layout(picture).width)) != std::string::npos);
  CHECK(draw::to_png(picture) == draw::to_png(picture));
}

TEST_CASE("pictures stay a handy size, and huge maps get small cells") {
  const Map small = plain_map(Tiling::square(), {2, 2});
  CHECK(draw::layout(picture_of(small)).width < 1300);
  const Map wide = plain_map(Tiling::square(), {3000, 10});
  const draw::Layout layout = draw::layout(picture_of(wide));
  CHECK(layout.cell == 1.0);
  CHECK(layout.width < 3400);
  const Map widest = plain_map(Tiling::square(), {65'535, 3});
  CHECK(draw::layout(picture_of(widest)).width < 13'000);
}

TEST_CASE("terminal views") {
  Map map = plain_map(Tiling::square(), {4, 2});
  map.set_terrain({3, 1}, 1);
  const std::vector<Cell> path = {{0, 0}, {1, 0}, {2, 1}};
  const Cell start{0, 0};
  const Cell goal{2, 1};
  draw::Picture picture = picture_of(map);
  picture.add(draw::Path(path)).add(draw::Ends(draw::Ends::Kind::start, {start}));
  picture.add(draw::Ends(draw::Ends::Kind::goal, {goal}));
  CHECK(draw::terminal_view(picture, {}) == "S * . .\n. . G #\n");
  CHECK(draw::terminal_view(picture, {.color = true}).find("\x1b[48;2;") != std::string::npos);
  CHECK(draw::terminal_view(picture, {.max_columns = 5}).empty());
  const Map pointy = plain_map(Tiling::hex(HexTop::pointy, Shift::odd), {3, 2});
  CHECK(draw::terminal_view(picture_of(pointy), {}) == ". . .\n . . .\n");
  const Map flat = plain_map(Tiling::hex(HexTop::flat, Shift::odd), {3, 2});
  CHECK(draw::terminal_view(picture_of(flat), {}) == ".   .\n  .\n.   .\n  .\n\n");
}

TEST_CASE("regions have colours of their own, way points and openings lie on their cells") {
  for (const Tiling tiling : all_tilings()) {
    const Size size{12, 8};
    Map map = plain_map(tiling, size);
    for (int row = 0; row < size.rows; ++row) map.set_terrain({6, row}, 1);
    const CostGrid costs = bake(map, Mover{.name = "crab", .rules = {.steps = tiling.edge_count()}});
    const Regions regions(costs);
    REQUIRE(regions.list().size() >= 2);
    const std::vector<Cell> opens = {{6, 3}};
    const std::vector<Cell> way = {{0, 0}, {4, 4}};
    draw::Picture picture = picture_of(map);
    picture.add(draw::RegionColors(regions)).add(draw::Openings(opens)).add(draw::Waypoints(way));
    const Grid<Rgb> pixels = pixels_of(picture);
    const draw::Layout layout = draw::layout(picture);
    const auto pixel_near = [&](Cell cell, double share) {
      const auto corners = layout.frame.corners(cell);
      const Point at = layout.frame.centre(cell) + (corners.points[0] - layout.frame.centre(cell)) * share;
      return pixels[Cell{static_cast<int>(at.x), static_cast<int>(at.y)}];
    };
    const Rgb left = pixel_near({2, 6}, 0.5);
    CHECK(left == pixel_near({4, 6}, 0.5));        // one region, one colour on one kind of ground
    CHECK_FALSE(left == pixel_near({9, 6}, 0.5));  // the other one differs
    CHECK_FALSE(left == sand);
    CHECK_FALSE(pixel_near({6, 3}, 0.4) == pixel_near({6, 6}, 0.4));  // opened beside shut
    CHECK_FALSE(pixel_near({4, 4}, 0.0) == left);                     // a way point's dot
    CHECK(draw::to_svg(picture).find("<svg") != std::string::npos);
    CHECK(draw::terminal_view(picture, {}).find('O') != std::string::npos);
  }
}

TEST_CASE("danger has one colour, deeper with the level, and what is not seen is darkened, in exactly their cells") {
  Random random(11);
  for (const Tiling tiling : all_tilings()) {
    const Size size{130, 90};  // cells too small for wedges and numbers
    const Map map = plain_map(tiling, size);
    const SightGrid sight(map.board());
    ThreatField field(map.board());
    field.add(sight, {.at = {65, 45}, .range = 30_steps, .levels = {{0.4_steps, 5}, {1_steps, 1}}});
    BitGrid seen(size);
    for (std::uint32_t i = 0; i < size.cell_count(); ++i) seen.set(size.cell(CellIndex{i}), random.chance(50));
    draw::Picture picture = picture_of(map);
    picture.add(draw::Danger(field)).add(draw::Unseen(seen));
    const Grid<Rgb> pixels = pixels_of(picture);
    const draw::Layout layout = draw::layout(picture);
    const auto brightness = [](Rgb c) { return int{c.red} + c.green + c.blue; };
    std::map<std::pair<int, bool>, int> colors;  // of each level, seen and not: always the same
    for (int i = 0; i < 400; ++i) {
      const Cell cell = random.cell(size);
      const Point p = layout.frame.centre(cell);
      const Rgb pixel = pixels[Cell{static_cast<std::int32_t>(p.x), static_cast<std::int32_t>(p.y)}];
      const auto known = colors.try_emplace({field.level(cell), seen.test(cell)}, brightness(pixel)).first;
      CHECK(std::abs(known->second - brightness(pixel)) <= 3);
    }
    REQUIRE(colors.size() == 6);
    CHECK(colors[{5, true}] < colors[{1, true}]);
    CHECK(colors[{1, false}] < colors[{1, true}]);
    CHECK(colors[{0, false}] < colors[{0, true}]);
    const std::string text = draw::terminal_view(picture, {.max_columns = 500});
    CHECK(text.find('5') != std::string::npos);
    CHECK(text.find("\u2591") != std::string::npos);
  }
}
