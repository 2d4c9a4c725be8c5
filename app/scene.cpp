#include "scene.hpp"

#include <algorithm>
#include <limits>

#include "saunter/draw/overlay/visits.hpp"
#include "saunter/draw/palette.hpp"
#include "saunter/io/png.hpp"
#include "saunter/region/regions.hpp"

namespace saunter::app {
namespace {

Json point(Point at) { return {at.x, at.y}; }

/// The two corners that a cell shares with a neighbour: the side nearest to the middle between them.
Json side_between(const CellPolygon& corners, Point middle) {
  double nearest = std::numeric_limits<double>::max();
  Json side;
  for (int i = 0; i < corners.count; ++i) {
    const Point a = corners.points[static_cast<std::size_t>(i)];
    const Point b = corners.points[static_cast<std::size_t>((i + 1) % corners.count)];
    const Point off = (a + b) * 0.5 - middle;
    const double far = off.x * off.x + off.y * off.y;
    if (far >= nearest) continue;
    nearest = far;
    side = {a.x, a.y, b.x, b.y};
  }
  return side;
}

/// Where cells lie. Every tiling repeats after two columns and two rows: four cells tell it all.
Json layout_json(const Frame& frame) {
  const Tiling tiling = frame.tiling();
  const Cell first{2, 2};  // all its neighbours exist
  const Point origin = frame.centre(first);
  Json layout = {{"columns", point(frame.centre({4, 2}) - origin)}, {"rows", point(frame.centre({2, 4}) - origin)}};
  for (const Cell cell : {Cell{2, 2}, Cell{3, 2}, Cell{2, 3}, Cell{3, 3}}) {
    const Point centre = frame.centre(cell);
    layout["centres"].push_back(point(frame.centre({cell.col - 2, cell.row - 2})));
    Json outline = Json::array();
    const CellPolygon corners = frame.corners(cell);
    CellPolygon about = corners;
    for (int i = 0; i < corners.count; ++i) {
      const Point corner = corners.points[static_cast<std::size_t>(i)] - centre;
      about.points[static_cast<std::size_t>(i)] = corner;
      outline.push_back(point(corner));
    }
    layout["corners"].push_back(std::move(outline));
    Json beside = Json::array();
    Json sides = Json::array();
    for (Direction d{0}; d < tiling.direction_count(); ++d) {
      const Cell other = tiling.neighbour(cell, d);
      beside.push_back({other.col - cell.col, other.row - cell.row});
      if (d < tiling.edge_count()) sides.push_back(side_between(about, (frame.centre(other) - centre) * 0.5));
    }
    layout["beside"].push_back(std::move(beside));
    layout["sides"].push_back(std::move(sides));
  }
  return layout;
}

template <typename Colors>
Json hex_colors(const Colors& colors) {
  Json list = Json::array();
  for (const Rgb color : colors) list.push_back(io::hex_color(color));
  return list;
}

Json palette_json(int highest_level) {
  std::vector<Rgb> regions;
  constexpr std::uint32_t told = 64;
  for (std::uint32_t n = 0; n < told; ++n) regions.push_back(draw::region_color(n));
  std::vector<Rgb> danger;
  for (int level = 1; level <= std::min(highest_level, 256); ++level) {
    danger.push_back(draw::danger_color_at(level, std::min(highest_level, 256)));
  }
  return {{"ink", io::hex_color(draw::night)},
          {"start", io::hex_color(draw::start_color)},
          {"goal", io::hex_color(draw::goal_color)},
          {"unit", io::hex_color(draw::unit_color)},
          {"waypoint", io::hex_color(draw::waypoint_color)},
          {"threat", io::hex_color(draw::threat_color)},
          {"visits", hex_colors(draw::visit_ramp)},
          {"reach", hex_colors(draw::reach_ramp)},
          {"trail", hex_colors(draw::trail_ramp)},
          {"heights", hex_colors(draw::height_ramp)},
          {"danger", hex_colors(danger)},
          {"regions", hex_colors(regions)},
          {"visitOpacity", draw::visit_opacity},
          {"regionOpacity", draw::region_opacity}};
}

Json cell_numbers(Size size, std::span<const Cell> cells) {
  Json list = Json::array();
  for (const Cell cell : cells) list.push_back(size.index(cell).value());
  return list;
}

void add_things(const io::Scenario& scenario, std::uint64_t tick, Json& scene) {
  const Size size = scenario.map.size();
  scene["units"] = Json::array();
  for (const io::Unit& unit : scenario.units) {
    scene["units"].push_back({{"name", unit.name},
                              {"at", json_cell(unit.at)},
                              {"turn", unit.turn},
                              {"blocks", unit.blocks},
                              {"cells", cell_numbers(size, unit.cells)}});
  }
  scene["threats"] = Json::array();
  for (const io::NamedThreat& named : scenario.threats) {
    const Threat threat = named.at_tick(tick);
    scene["threats"].push_back(
        {{"name", named.name},
         {"at", json_cell(threat.at)},
         {"range", std::uint32_t{threat.range}},
         {"facing", threat.facing ? Json(threat.facing->in_degrees(scenario.map.tiling())) : Json()},
         {"arc", threat.arc},
         {"scheduled", named.schedule.has_value()}});
  }
}

}  // namespace

Json kinds_json(const Map& map) {
  Json kinds = Json::array();
  for (const Terrain& kind : map.kinds()) {
    kinds.push_back({{"name", kind.name},
                     {"color", io::hex_color(kind.color)},
                     {"cost", kind.cost == blocked ? Json() : Json(kind.cost)},
                     {"void", kind.is_void}});
  }
  return kinds;
}

Json ground_json(const Map& map) {
  Json closed = Json::array();
  if (map.has_barriers()) {
    std::uint32_t number = 0;
    for (const std::uint8_t sides : map.closed_layer().values()) {
      if (sides != 0) {
        closed.push_back(number);
        closed.push_back(sides);
      }
      ++number;
    }
  }
  return {{"terrain", runs_of(map.terrain().values())},
          {"heights", map.has_heights() ? runs_of(map.heights().values()) : Json()},
          {"closed", std::move(closed)}};
}

Json scene_json(const io::Scenario& scenario, const Mover& mover, const CostGrid& costs, std::uint64_t tick) {
  const Map& map = scenario.map;
  const Size size = map.size();
  Json scene = ground_json(map);
  scene["title"] = scenario.title;
  scene["tiling"] = tiling_name(map.tiling());
  scene["size"] = {size.cols, size.rows};
  scene["turns"] = full_turn(map.tiling());
  scene["layout"] = layout_json(Frame(map.tiling()));
  constexpr double wide = 1.5;
  scene["diamond"] = layout_json(Frame::diamond(map.tiling(), wide, wide / 2));
  scene["kinds"] = kinds_json(map);
  scene["movers"] = Json::array();
  for (const Mover& one : scenario.movers) scene["movers"].push_back(one.name);
  scene["mover"] = mover.name;
  scene["costs"] = runs_of(costs.entries());
  const Regions regions(costs);
  std::vector<std::uint32_t> labels(size.cell_count());
  for (std::uint32_t i = 0; i < labels.size(); ++i) labels[i] = regions.at(CellIndex{i});
  scene["regions"] = runs_of(labels);
  int highest = 0;
  if (!scenario.threats.empty()) {
    const Watch watch(scenario, "", tick);
    highest = watch.field.highest();
    scene["levels"] = runs_of(watch.field.levels().values());
  } else {
    scene["levels"] = Json();
  }
  scene["highest"] = highest;
  add_things(scenario, tick, scene);
  scene["colors"] = palette_json(highest);
  return scene;
}

}  // namespace saunter::app
