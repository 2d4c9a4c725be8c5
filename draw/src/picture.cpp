#include "saunter/draw/picture.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include "canvas.hpp"
#include "ramp.hpp"

namespace saunter::draw {
namespace {

constexpr double map_width = 950;
constexpr double map_height = 690;
constexpr int legend_width = 264;
constexpr int margin_left = 40;
constexpr int margin_top = 64;
constexpr int margin_bottom = 28;
constexpr int gap = 24;
constexpr double largest_cell = 64;
constexpr double smallest_drawn_cell = 3;  // smaller cells are painted as pixels
constexpr double smallest_outlined_cell = 9;
constexpr double smallest_numbered_cell = 26;  // one number
constexpr double smallest_triple_cell = 46;    // cost so far, estimate, sum
constexpr double most_pixels = 12'000;
constexpr double danger_opacity = 0.9;

struct Box {
  double left = std::numeric_limits<double>::infinity();
  double top = left;
  double right = -left;
  double bottom = -left;

  void add(const CellPolygon& polygon) {
    for (Point p : polygon) {
      left = std::min(left, p.x);
      right = std::max(right, p.x);
      top = std::min(top, p.y);
      bottom = std::max(bottom, p.y);
    }
  }
  [[nodiscard]] double width() const { return right - left; }
  [[nodiscard]] double height() const { return bottom - top; }
};

/// The room a map takes in a frame. Its outermost corners belong to the cells of the first and last two lines.
Box extent(const Frame& frame, Size size) {
  Box box;
  for (const std::int32_t row : {0, 1, size.rows - 2, size.rows - 1}) {
    for (const std::int32_t col : {0, 1, size.cols - 2, size.cols - 1}) {
      if (size.contains({col, row})) box.add(frame.corners({col, row}));
    }
  }
  return box;
}

Frame plain_frame(const Picture& picture, double cell, Point origin) {
  if (picture.diamond) return Frame::diamond(picture.map->tiling(), cell * 2, cell, origin);
  return Frame(picture.map->tiling(), cell, origin);
}

class Painter {
 public:
  Painter(const Picture& picture, Canvas& canvas)
      : picture_(picture), map_(*picture.map), layout_(layout(picture)), frame_(layout_.frame), canvas_(canvas) {}

  void paint() {
    canvas_.fill_rect(0, 0, layout_.width, layout_.height, {paper});
    canvas_.text(margin_left, 36, picture_.title, 20, {night}, Align::left, true);
    if (layout_.cell < smallest_drawn_cell) {
      paint_pixels();
    } else {
      paint_cells();
    }
    paint_path();
    paint_legend();
  }

 private:
  template <typename F>
  void for_each_cell(F&& f) const {
    for (std::int32_t row = 0; row < map_.size().rows; ++row) {
      for (std::int32_t col = 0; col < map_.size().cols; ++col) f(Cell{col, row});
    }
  }

  // ---- colours of cells

  void prepare() {
    if (picture_.layers.cost && picture_.costs != nullptr) {
      for (const EntryCost cost : picture_.costs->entries()) dearest_ = std::max(dearest_, cost);
    }
    if (picture_.layers.height && map_.has_heights()) {
      const auto heights = map_.heights().values();
      const auto [low, high] = std::minmax_element(heights.begin(), heights.end());
      lowest_ = *low;
      highest_ = *high;
    }
    if (picture_.field != nullptr) {
      for (const Cost cost : picture_.field->costs().values()) {
        if (cost != unreached) most_reached_ = std::max(most_reached_, cost);
      }
    }
    if (picture_.threat != nullptr) highest_level_ = picture_.threat->highest();
    covered_ = BitGrid(map_.size());
    for (const Thing& thing : picture_.things) {
      for (const Cell cell : thing.cells) covered_.set(cell, picture_.layers.units);
    }
    visit_order_ = Grid<std::uint32_t>(picture_.visits.empty() ? Size{} : map_.size());
    for (std::size_t i = 0; i < picture_.visits.size(); ++i) {
      std::uint32_t& order = visit_order_[picture_.visits[i].cell];  // the first of several visits
      if (order == 0) order = static_cast<std::uint32_t>(i + 1);
    }
  }

  [[nodiscard]] bool blocked_here(Cell cell) const { return picture_.costs != nullptr && !picture_.costs->open(cell); }

  [[nodiscard]] Rgb ground(Cell cell) const {
    if (picture_.layers.cost && picture_.costs != nullptr) {
      const EntryCost cost = picture_.costs->entry(cell);
      const EntryCost cheapest = picture_.costs->cheapest();
      if (cost == blocked) return soft_ink;
      return on_ramp(cost_ramp, dearest_ > cheapest ? double(cost - cheapest) / (dearest_ - cheapest) : 0);
    }
    if (picture_.layers.height && map_.has_heights()) {
      return on_ramp(height_ramp,
                     highest_ > lowest_ ? double(map_.height_at(cell) - lowest_) / (highest_ - lowest_) : 0);
    }
    return picture_.layers.terrain ? map_.kind(map_.terrain_at(cell)).color : paper;
  }

  [[nodiscard]] Rgb color(Cell cell) const {
    Rgb below = ground(cell);
    if (picture_.regions != nullptr) {
      const std::uint32_t id = picture_.regions->at(cell);
      below = id == 0 ? mix(below, paper, 0.55) : mix(below, region_color(id), region_opacity);
    }
    if (picture_.field != nullptr && picture_.field->reached(cell)) {
      below =
          mix(below, on_ramp(reach_ramp, most_reached_ > 0 ? double(picture_.field->cost(cell)) / most_reached_ : 0),
              visit_opacity);
    }
    if (picture_.threat != nullptr && picture_.threat->level(cell) > 0) {
      below = mix(below, danger_color_at(picture_.threat->level(cell), highest_level_), danger_opacity);
    }
    if (picture_.seen != nullptr && !picture_.seen->test(cell)) below = mix(below, night, 0.55);
    if (visit_order_.empty() || visit_order_[cell] == 0) return below;
    return mix(below, visit_color(visit_order_[cell] - 1, picture_.visits.size()), visit_opacity);
  }

  // ---- the map

  void paint_pixels() {
    prepare();
    const Box box = extent(frame_, map_.size());
    const int left = static_cast<int>(std::floor(box.left));
    const int top = static_cast<int>(std::floor(box.top));
    const Size size{static_cast<std::int32_t>(std::ceil(box.right)) - left,
                    static_cast<std::int32_t>(std::ceil(box.bottom)) - top};
    std::vector<Rgb> pixels(size.cell_count(), paper);
    std::size_t i = 0;
    for (std::int32_t y = 0; y < size.rows; ++y) {
      for (std::int32_t x = 0; x < size.cols; ++x, ++i) {
        if (const auto cell = frame_.cell_at({left + x + 0.5, top + y + 0.5}, map_.size())) {
          pixels[i] = color(*cell);
          if (picture_.layers.blocked && blocked_here(*cell)) pixels[i] = mix(pixels[i], night, 0.4);
        }
      }
    }
    canvas_.pixels(left, top, size, pixels);
  }

  void paint_cells() {
    prepare();
    for_each_cell([&](Cell cell) { canvas_.fill(frame_.corners(cell), {color(cell)}); });
    if (picture_.layers.blocked) {
      for_each_cell([&](Cell cell) {
        if (!blocked_here(cell)) return;
        canvas_.hatch(frame_.corners(cell), {readable_on(color(cell)), 0.45}, std::max(4.0, layout_.cell / 4), 1);
      });
    }
    for (const Cell cell : picture_.cut_off) {
      canvas_.hatch(frame_.corners(cell), {night, 0.6}, std::max(4.0, layout_.cell / 3), 1.5);
    }
    if (picture_.layers.outlines && layout_.cell >= smallest_outlined_cell) {
      for_each_cell([&](Cell cell) { canvas_.outline(frame_.corners(cell), {night, 0.16}, 1); });
    }
    for (const Cell cell : picture_.in_range) {
      canvas_.disc(frame_.centre(cell), std::max(1.5, layout_.cell * 0.14), {waypoint_color, 0.75});
    }
    for (const Cell cell : picture_.opens) {
      canvas_.fill(frame_.corners(cell), {white, 0.85});
      canvas_.outline(frame_.corners(cell), {goal_color}, std::max(1.5, layout_.cell / 7));
    }
    for (const Cell cell : picture_.chokes) paint_lozenge(cell);
    if (picture_.layers.barriers) paint_barriers();
    if (picture_.layers.units) paint_things();
    for (const Cell cell : picture_.spots) {
      canvas_.disc(frame_.centre(cell), std::max(1.5, layout_.cell * 0.16), {start_color, 0.85});
    }
    for (const Cell cell : picture_.ghost) {
      canvas_.fill(frame_.corners(cell), {unit_color, 0.35});
      canvas_.outline(frame_.corners(cell), {unit_color}, std::max(2.0, layout_.cell / 9));
    }
    for (const Cell cell : picture_.hidden_by) {
      canvas_.outline(frame_.corners(cell), {goal_color}, std::max(2.0, layout_.cell / 8));
    }
    if (picture_.threat != nullptr) paint_wedges();
    paint_numbers();
    if (picture_.arrows) paint_arrows();
    if (picture_.layers.coordinates) paint_coordinates();
  }

  void paint_lozenge(Cell cell) {
    const Point centre = frame_.centre(cell);
    const double arm = std::clamp(layout_.cell * 0.3, 1.5, 9.0);
    CellPolygon lozenge;
    lozenge.count = 4;
    lozenge.points = {centre + Point(0, -arm), centre + Point(arm, 0), centre + Point(0, arm), centre + Point(-arm, 0)};
    canvas_.fill(lozenge, {night});
    canvas_.outline(lozenge, {white}, 1);
  }

  /// From each cell a short arrow the way the field leads.
  void paint_arrows() {
    if (picture_.field == nullptr || layout_.cell < smallest_outlined_cell) return;
    for_each_cell([&](Cell cell) {
      const auto next = picture_.field->next(cell);
      if (!next) return;
      const Point from = frame_.centre(cell);
      const Point towards = frame_.centre(*next) - from;
      const Point along = towards / length(towards) * layout_.cell * 0.32;
      const Point across(-along.y, along.x);
      const Ink ink{readable_on(color(cell)), 0.85};
      const double thick = std::max(1.0, layout_.cell / 22);
      const std::array<Point, 2> shaft = {from - along, from + along};
      const std::array<Point, 3> head = {from + along * 0.25 + across * 0.55, from + along,
                                         from + along * 0.25 - across * 0.55};
      canvas_.line(shaft, ink, thick);
      canvas_.line(head, ink, thick);
    });
  }

  /// True direction of a side, on the picture.
  [[nodiscard]] Point side_direction(Side side) const {
    const Tiling tiling = map_.tiling();
    const double turn =
        tiling.is_hex() ? side * 60.0 + (tiling.shape() == Shape::hex_pointy ? 30.0 : 0.0) : side * 45.0;
    return bearing(turn);
  }
  static Point bearing(double degrees) {
    const double angle = degrees * 3.14159265358979323846 / 180;
    return {std::sin(angle), -std::cos(angle)};
  }

  /// In each exposed cell a small wedge on the side that most danger comes from.
  void paint_wedges() {
    if (layout_.cell < smallest_outlined_cell || picture_.diamond) return;
    const double inner = map_.tiling().shape() == Shape::triangle ? 0.26 : 0.44;
    for_each_cell([&](Cell cell) {
      const Side side = picture_.threat->most_dangerous_side(cell);
      if (side < 0) return;
      const Point towards = side_direction(side);
      const Point across(-towards.y, towards.x);
      const Point tip = frame_.centre(cell) + towards * layout_.cell * inner;
      const Point back = tip - towards * layout_.cell * 0.16;
      CellPolygon wedge;
      wedge.count = 3;
      wedge.points = {tip, back + across * layout_.cell * 0.11, back - across * layout_.cell * 0.11};
      canvas_.fill(wedge, {readable_on(color(cell)), 0.8});
    });
  }

  void paint_watchers() {
    const double radius = std::clamp(layout_.cell * 0.34, 3.0, 13.0);
    for (const Watcher& watcher : picture_.watchers) {
      const ThreatSource& source = watcher.source;
      const Point centre = frame_.centre(source.at);
      const double reach = source.range / 100.0 * layout_.cell;
      if (!picture_.diamond) paint_reach(source, centre, reach);
      canvas_.disc(centre, radius, {watcher_color});
      canvas_.disc(centre, radius * 0.55, {white});
      canvas_.disc(centre, radius * 0.28, {watcher_color});
      canvas_.ring(centre, radius, {white}, 1);
      if (layout_.cell < smallest_outlined_cell) continue;
      const double half = canvas_.text_width(watcher.name, 11, true) / 2 + 3;
      const double y = centre.y + radius + 3;
      canvas_.fill_rect(centre.x - half, y, 2 * half, 14, {watcher_color, 0.85});
      canvas_.text(centre.x, y + 11, watcher.name, 11, {white}, Align::centre, true);
    }
  }

  /// The rim of a range, or of the part of it within the arc; dashed by leaving every other stretch out.
  void paint_reach(const ThreatSource& source, Point centre, double reach) {
    double middle = 0;
    double arc = 360;
    if (source.facing) {
      const Point towards = side_direction(*source.facing);
      middle = std::atan2(towards.x, -towards.y) * 180 / 3.14159265358979323846;
      arc = source.arc;
    }
    const double step = std::max(1.0, 360 / std::max(24.0, reach / 2));
    for (double turn = middle - arc / 2; turn < middle + arc / 2 - step / 2; turn += 2 * step) {
      if (!frame_.cell_at(centre + bearing(turn + step / 2) * reach, map_.size())) continue;
      const std::array<Point, 2> dash = {centre + bearing(turn) * reach, centre + bearing(turn + step) * reach};
      canvas_.line(dash, {watcher_color, 0.8}, 1.5);
    }
    if (arc >= 360) return;
    for (const double rim : {middle - arc / 2, middle + arc / 2}) {
      const std::array<Point, 2> line = {centre, centre + bearing(rim) * reach};
      canvas_.line(line, {watcher_color, 0.8}, 1.5);
    }
  }

  void paint_barriers() {
    if (!map_.has_barriers()) return;
    const double thick = std::max(2.0, layout_.cell / 7);
    for_each_cell([&](Cell cell) {
      for (Direction d{0}; d < map_.tiling().edge_count(); ++d) {
        if (!map_.closed(cell, d)) continue;
        const Cell other = map_.tiling().neighbour(cell, d);
        const bool both_ways = map_.closed(other, map_.tiling().direction(other, cell));
        if (both_ways && other < cell) continue;  // drawn from the other side
        const auto edge = shared_edge(cell, other);
        canvas_.line(edge, {night}, both_ways ? thick : thick / 2);
        if (!both_ways) paint_ledge(edge, cell, other);
      }
    });
  }

  /// A one-way edge: teeth on the side one can't come back up from, pointing the way that is open.
  void paint_ledge(const std::array<Point, 2>& edge, Cell closed_side, Cell open_side) {
    const Point down = (frame_.centre(closed_side) - frame_.centre(open_side)) * 0.18;
    for (const double share : {0.2, 0.5, 0.8}) {
      const Point foot = edge[0] + (edge[1] - edge[0]) * share;
      const std::array<Point, 2> tooth = {foot, foot + down};
      canvas_.line(tooth, {night}, std::max(1.5, layout_.cell / 16));
    }
  }

  /// The two corners that both cells have.
  [[nodiscard]] std::array<Point, 2> shared_edge(Cell a, Cell b) const {
    std::array<Point, 2> edge;
    std::size_t found = 0;
    const CellPolygon of_b = frame_.corners(b);
    for (Point p : frame_.corners(a)) {
      for (Point q : of_b) {
        if (length(p - q) < layout_.cell * 0.01 && found < 2) edge[found++] = p;
      }
    }
    return edge;
  }

  void paint_things() {
    for (const Thing& thing : picture_.things) {
      for (const Cell cell : thing.cells) {
        canvas_.fill(frame_.corners(cell), {unit_color});
        canvas_.outline(frame_.corners(cell), {night}, std::max(1.0, layout_.cell / 14));
      }
      if (thing.cells.empty() || layout_.cell < smallest_outlined_cell) continue;
      Point middle = Point{};
      for (const Cell cell : thing.cells) middle += frame_.centre(cell) / static_cast<double>(thing.cells.size());
      const double half = canvas_.text_width(thing.name, 11, true) / 2 + 3;
      canvas_.fill_rect(middle.x - half, middle.y - 7, 2 * half, 14, {unit_color, 0.9});
      canvas_.text(middle.x, middle.y + 4, thing.name, 11, {white}, Align::centre, true);
    }
  }

  [[nodiscard]] bool covered(Cell cell) const { return covered_.test(cell); }

  void number(Cell cell, const std::string& text, double size, Rgb ink, double dx = 0, double dy = 0,
              bool bold = false) {
    const Point centre = frame_.centre(cell);
    canvas_.text(centre.x + dx * layout_.cell, centre.y + dy * layout_.cell + size * 0.36, text, size, {ink},
                 Align::centre, bold);
  }

  /// Triangles taper too much for three numbers.
  [[nodiscard]] bool three_numbers_fit() const {
    return layout_.cell >= smallest_triple_cell && map_.tiling().shape() != Shape::triangle;
  }

  void paint_numbers() {
    if (layout_.cell < smallest_numbered_cell || picture_.diamond) return;
    const double small = std::clamp(layout_.cell * 0.2, 8.0, 11.0);
    const bool triple = three_numbers_fit();
    for (std::size_t i = 0; i < picture_.visits.size(); ++i) {
      const Visit& visit = picture_.visits[i];
      if (visit_order_[visit.cell] != i + 1) continue;
      const Cell cell = map_.size().cell(visit.cell);
      const Rgb ink = readable_on(color(cell));
      const std::string cost = to_decimal(visit.cost);
      if (!triple) {
        number(cell, cost, small, ink);
        continue;
      }
      number(cell, cost, small, ink, -0.21, -0.24);
      number(cell, to_decimal(static_cast<std::int64_t>(visit.estimate)), small, ink, 0.23, -0.24);
      number(cell, to_decimal(static_cast<std::int64_t>(visit.cost + visit.estimate)), small + 2, ink, 0, 0.24, true);
    }
    if (picture_.field != nullptr && !picture_.arrows) {
      for_each_cell([&](Cell cell) {
        if (!picture_.field->reached(cell)) return;
        number(cell, to_decimal(picture_.field->cost(cell)), small, readable_on(color(cell)));
      });
      return;
    }
    if (!picture_.visits.empty() || picture_.field != nullptr) return;
    if (picture_.threat != nullptr) {
      const double size = std::clamp(layout_.cell * 0.36, 9.0, 15.0);
      for_each_cell([&](Cell cell) {
        const int level = picture_.threat->level(cell);
        if (level > 0 && !covered(cell)) number(cell, std::to_string(level), size, readable_on(color(cell)));
      });
      return;
    }
    if (picture_.layers.cost && picture_.costs != nullptr) {
      for_each_cell([&](Cell cell) {
        if (!blocked_here(cell))
          number(cell, to_decimal(picture_.costs->entry(cell)), small, readable_on(ground(cell)));
      });
    } else if (picture_.layers.height && map_.has_heights()) {
      for_each_cell([&](Cell cell) {
        if (!covered(cell)) number(cell, std::to_string(map_.height_at(cell)), small, readable_on(ground(cell)));
      });
    }
  }

  void paint_coordinates() {
    if (layout_.cell < smallest_outlined_cell || picture_.diamond) return;
    const Box box = extent(frame_, map_.size());
    const double per_label = layout_.cell * (map_.tiling().shape() == Shape::triangle ? 0.87 : 1.0);
    const std::int32_t every = per_label >= 24 ? 1 : per_label >= 12 ? 2 : 5;
    for (std::int32_t col = 0; col < map_.size().cols; col += every) {
      canvas_.text(frame_.centre({col, 0}).x, box.top - 5, std::to_string(col), 10, {soft_ink}, Align::centre);
    }
    for (std::int32_t row = 0; row < map_.size().rows; row += every) {
      canvas_.text(box.left - 6, frame_.centre({0, row}).y + 4, std::to_string(row), 10, {soft_ink}, Align::right);
    }
  }

  // ---- the way

  void paint_path() {
    const double cell = std::max(layout_.cell, 4.0);
    paint_watchers();
    if (picture_.path.size() > 1) {
      std::vector<Point> points;
      for (const Cell c : picture_.path) points.push_back(frame_.centre(c));
      canvas_.line(points, {night}, std::max(3.0, std::min(cell * 0.26, 9.0)));
      canvas_.line(points, {white}, std::max(1.5, std::min(cell * 0.13, 4.5)));
      if (picture_.threat != nullptr) {
        for (std::size_t i = 1; i < points.size(); ++i) {
          if (picture_.threat->level(picture_.path[i]) == 0) continue;
          const std::array<Point, 2> stretch = {points[i - 1], points[i]};
          canvas_.line(stretch, {danger_color}, std::max(1.5, std::min(cell * 0.13, 4.5)));
        }
      }
    }
    if (picture_.waypoints.size() > 1) {
      std::vector<Point> points;
      for (const Cell c : picture_.waypoints) points.push_back(frame_.centre(c));
      canvas_.line(points, {waypoint_color}, std::max(1.5, std::min(cell * 0.08, 3.0)));
      for (Point point : points) {
        canvas_.disc(point, std::clamp(cell * 0.16, 2.5, 7.0), {waypoint_color});
        canvas_.ring(point, std::clamp(cell * 0.16, 2.5, 7.0), {white}, 1);
      }
    }
    if (picture_.sight_line.size() == 2) {
      const std::array<Point, 2> line = {frame_.centre(picture_.sight_line[0]), frame_.centre(picture_.sight_line[1])};
      canvas_.line(line, {watcher_color}, 2);
    }
    for (const Cell c : picture_.avoided) paint_cross(c, night);
    if (picture_.mark != nullptr && map_.size().contains(*picture_.mark)) {
      canvas_.ring(frame_.centre(*picture_.mark), std::clamp(layout_.cell * 0.36, 4.0, 20.0), {night}, 4);
      canvas_.ring(frame_.centre(*picture_.mark), std::clamp(layout_.cell * 0.36, 4.0, 20.0), {white}, 2);
    }
    if (picture_.start != nullptr) paint_end(*picture_.start, "S", start_color);
    if (picture_.goal != nullptr) paint_end(*picture_.goal, "G", goal_color);
    for (const Cell start : picture_.starts) paint_end(start, "S", start_color);
    for (const Cell goal : picture_.goals) paint_end(goal, "G", goal_color);
    for (const Cell kept : picture_.keep_open) paint_end(kept, "K", waypoint_color);
    for (const Cell fault : picture_.faults) paint_cross(fault, goal_color);
  }

  void paint_cross(Cell cell, Rgb color) {
    if (!map_.size().contains(cell)) return;
    const double arm = std::clamp(std::max(layout_.cell, 4.0) * 0.25, 2.0, 12.0);
    for (const double side : {-1.0, 1.0}) {
      const Point along{arm, arm * side};
      const std::array<Point, 2> stroke = {frame_.centre(cell) - along, frame_.centre(cell) + along};
      canvas_.line(stroke, {white}, std::max(3.0, arm * 0.5));
      canvas_.line(stroke, {color}, std::max(1.5, arm * 0.3));
    }
  }

  void paint_end(Cell cell, std::string_view letter, Rgb color) {
    if (!map_.size().contains(cell)) return;
    const Point centre = frame_.centre(cell);
    const double radius = std::clamp(layout_.cell * 0.36, 4.0, 20.0);
    canvas_.disc(centre, radius, {color});
    canvas_.ring(centre, radius, {white}, std::max(1.5, radius / 6));
    if (radius < 6) return;
    canvas_.text(centre.x, centre.y + radius * 0.45, letter, radius * 1.25, {white}, Align::centre, true);
  }

  // ---- the legend

  void paint_legend() {
    left_ = layout_.width - legend_width;
    line_ = margin_top + 6;
    for (const auto& [what, value] : picture_.facts) {
      canvas_.text(left_, line_, what, 13, {soft_ink});
      canvas_.text(layout_.width - gap, line_, value, 13, {night}, Align::right, true);
      line_ += 21;
    }
    if (!picture_.facts.empty()) line_ += 10;
    if (!picture_.visits.empty()) legend_of_visits();
    if (picture_.field != nullptr) legend_ramp("cost", reach_ramp, "0", to_decimal(most_reached_));
    if (picture_.regions != nullptr) legend_of_regions();
    if (picture_.threat != nullptr) legend_of_threat();
    if (picture_.seen != nullptr) {
      canvas_.outline(swatch({mix(paper, night, 0.55)}), {night, 0.3}, 1);
      entry("not seen", "");
    }
    if (picture_.sight_line.size() == 2) {
      const std::array<Point, 2> stroke = {Point(left_, line_ - 5), Point(left_ + 20, line_ - 5)};
      canvas_.line(stroke, {watcher_color}, 2);
      entry("line of sight", "");
    }
    if (!picture_.hidden_by.empty()) {
      canvas_.outline(swatch({paper}), {goal_color}, 2);
      entry("hides what is behind", "");
    }
    if (!picture_.plot.empty()) paint_plot();
    if (!picture_.spots.empty()) {
      canvas_.disc({left_ + 8, line_ - 5}, 5, {start_color, 0.85});
      entry("fits with its anchor here", "");
    }
    if (!picture_.ghost.empty()) {
      canvas_.outline(swatch({unit_color, 0.35}), {unit_color}, 2);
      entry("what it would cover", "");
    }
    if (!picture_.keep_open.empty()) {
      canvas_.disc({left_ + 8, line_ - 5}, 6, {waypoint_color});
      entry("to be kept open (K)", "");
    }
    if (!picture_.faults.empty()) {
      const Point middle(left_ + 8, line_ - 5);
      for (const double side : {-1.0, 1.0}) {
        const std::array<Point, 2> stroke = {middle - Point(5, 5 * side), middle + Point(5, 5 * side)};
        canvas_.line(stroke, {goal_color}, 2.5);
      }
      entry("problem", "");
    }
    if (!picture_.in_range.empty()) {
      canvas_.disc({left_ + 8, line_ - 5}, 4, {waypoint_color, 0.75});
      entry("can be acted on from there", "");
    }
    if (!picture_.waypoints.empty()) {
      canvas_.disc({left_ + 8, line_ - 5}, 4, {waypoint_color});
      entry("way point", "");
    }
    if (picture_.layers.cost && picture_.costs != nullptr) {
      legend_ramp("entry cost", cost_ramp, to_decimal(picture_.costs->cheapest()), to_decimal(dearest_));
      if (!picture_.layers.blocked) {
        canvas_.outline(swatch({soft_ink}), {night, 0.3}, 1);
        entry("cannot be entered", "");
      }
    } else if (picture_.layers.height && map_.has_heights()) {
      legend_ramp("height", height_ramp, std::to_string(lowest_), std::to_string(highest_));
    } else if (picture_.layers.terrain && picture_.regions == nullptr) {
      legend_of_terrain();
    }
    if (picture_.layers.blocked && picture_.costs != nullptr) {
      CellPolygon box = swatch({paper});
      canvas_.hatch(box, {night, 0.6}, 5, 1);
      canvas_.outline(box, {night, 0.3}, 1);
      entry("cannot be entered", "");
    }
  }

  CellPolygon swatch(Ink ink) {
    CellPolygon box;
    box.count = 4;
    box.points = {Point(left_, line_ - 12),
                  Point(left_ + 20, line_ - 12),
                  Point(left_ + 20, line_ + 3),
                  Point(left_, line_ + 3),
                  Point{},
                  Point{}};
    canvas_.fill(box, ink);
    return box;
  }

  void entry(const std::string& name, const std::string& value) {
    canvas_.text(left_ + 30, line_, name, 13, {night});
    canvas_.text(layout_.width - gap, line_, value, 13, {soft_ink}, Align::right);
    line_ += 22;
  }

  void legend_ramp(const std::string& name, std::span<const Rgb> stops, const std::string& low,
                   const std::string& high) {
    const double width = legend_width - gap;
    canvas_.text(left_, line_, name, 13, {night});
    line_ += 8;
    constexpr int parts = 60;
    for (int i = 0; i < parts; ++i) {
      canvas_.fill_rect(left_ + width * i / parts, line_, width / parts + 0.5, 12, {on_ramp(stops, i / (parts - 1.0))});
    }
    line_ += 26;
    canvas_.text(left_, line_, low, 11, {soft_ink});
    canvas_.text(left_ + width, line_, high, 11, {soft_ink}, Align::right);
    line_ += 26;
  }

  void legend_of_regions() {
    std::vector<Region> list = picture_.regions->list();
    std::stable_sort(list.begin(), list.end(), [](const Region& a, const Region& b) { return a.cells > b.cells; });
    constexpr std::size_t most_listed = 6;
    for (std::size_t i = 0; i < list.size() && i < most_listed; ++i) {
      canvas_.outline(swatch({region_color(list[i].id)}), {night, 0.3}, 1);
      entry("region " + std::to_string(list[i].id), std::to_string(list[i].cells));
    }
    if (list.size() > most_listed) entry("and smaller ones", std::to_string(list.size() - most_listed));
    if (!picture_.cut_off.empty()) {
      canvas_.hatch(swatch({paper}), {night, 0.6}, 5, 1.5);
      entry("cut off", std::to_string(picture_.cut_off.size()));
    }
    if (!picture_.opens.empty()) {
      canvas_.outline(swatch({white}), {goal_color}, 2);
      entry("to be opened", std::to_string(picture_.opens.size()));
    }
    if (!picture_.chokes.empty()) {
      canvas_.disc({left_ + 8, line_ - 5}, 4, {night});
      entry("choke cell", std::to_string(picture_.chokes.size()));
    }
  }

  void legend_of_threat() {
    if (highest_level_ > 0) {
      legend_ramp("level of danger", danger_ramp, highest_level_ > 1 ? "1" : "", std::to_string(highest_level_));
      if (layout_.cell >= smallest_outlined_cell) {
        CellPolygon wedge;
        wedge.count = 3;
        wedge.points = {Point(left_ + 10, line_ - 11), Point(left_ + 15, line_ - 2), Point(left_ + 5, line_ - 2)};
        canvas_.fill(wedge, {night, 0.8});
        entry("where most comes from", "");
      }
    }
    if (picture_.path.size() > 1) {
      for (const auto& [name, color] : {std::pair{"covered part of the way", white}, {"exposed part", danger_color}}) {
        const std::array<Point, 2> stroke = {Point(left_, line_ - 5), Point(left_ + 20, line_ - 5)};
        canvas_.line(stroke, {night}, 8);
        canvas_.line(stroke, {color}, 4);
        entry(name, "");
      }
    }
  }

  /// Cost to the right, exposure upward.
  void paint_plot() {
    const double width = legend_width - gap - 34;
    const double height = 150;
    const double left = left_ + 34;
    canvas_.text(left_, line_ + 2, "exposure", 11, {soft_ink});
    const double top = line_ + 10;
    const double bottom = top + height;
    std::uint64_t low = picture_.plot.front().cost;
    std::uint64_t high = low;
    std::uint64_t most = 1;
    for (const PlotPoint& point : picture_.plot) {
      low = std::min(low, point.cost);
      high = std::max(high, point.cost);
      most = std::max(most, point.exposure);
    }
    const auto across = [&](std::uint64_t cost) {
      return left + 6 + (width - 12) * (high > low ? double(cost - low) / double(high - low) : 0.5);
    };
    const auto up = [&](std::uint64_t exposure) {
      return bottom - 6 - (height - 12) * double(exposure) / double(most);
    };
    canvas_.fill_rect(left, top, width, height, {white});
    const std::array<Point, 3> axes = {Point(left, top), Point(left, bottom), Point(left + width, bottom)};
    canvas_.line(axes, {soft_ink}, 1);
    std::vector<Point> points;
    for (const PlotPoint& point : picture_.plot) points.emplace_back(across(point.cost), up(point.exposure));
    canvas_.line(points, {soft_ink, 0.6}, 1);
    for (std::size_t i = 0; i < points.size(); ++i) {
      const bool chosen = picture_.plot[i].chosen;
      canvas_.disc(points[i], chosen ? 6 : 3.5, {chosen ? goal_color : danger_color});
      if (chosen) canvas_.ring(points[i], 6, {white}, 1.5);
    }
    const auto whole = [](std::uint64_t hundredths) { return to_decimal(static_cast<std::int64_t>(hundredths)); };
    canvas_.text(left - 4, up(most) + 4, whole(most), 10, {soft_ink}, Align::right);
    canvas_.text(left - 4, up(0) + 4, "0", 10, {soft_ink}, Align::right);
    canvas_.text(left, bottom + 13, whole(low), 10, {soft_ink});
    canvas_.text(left + width, bottom + 13, whole(high), 10, {soft_ink}, Align::right);
    canvas_.text(left + width / 2, bottom + 13, "cost", 11, {soft_ink}, Align::centre);
    line_ = bottom + 36;
  }

  void legend_of_visits() {
    legend_ramp("cells checked, in order", visit_ramp, "first",
                "last (" + std::to_string(picture_.visits.size()) + ")");
    if (layout_.cell < smallest_numbered_cell || picture_.diamond) return;
    canvas_.text(left_, line_ - 8,
                 three_numbers_fit() ? "in a cell: cost so far, estimate, sum below" : "in a cell: cost so far", 11,
                 {soft_ink});
    line_ += 14;
  }

  void legend_of_terrain() {
    const double bottom = layout_.height - 60;
    std::size_t shown = 0;
    for (std::size_t id = 0; id < map_.kinds().size(); ++id) {
      const Terrain& kind = map_.kinds()[id];
      if (line_ > bottom) break;
      canvas_.outline(swatch({kind.color}), {night, 0.3}, 1);
      const EntryCost cost =
          picture_.mover != nullptr ? picture_.mover->cost_on(static_cast<TerrainId>(id), kind) : kind.cost;
      entry(kind.name, kind.is_void ? "void" : cost == blocked ? "blocked" : to_decimal(cost));
      ++shown;
    }
    if (shown < map_.kinds().size()) entry("and " + std::to_string(map_.kinds().size() - shown) + " more", "");
    line_ += 8;
  }

  const Picture& picture_;
  const Map& map_;
  const Layout layout_;
  const Frame& frame_;
  Canvas& canvas_;
  BitGrid covered_;                  // by units, where they are drawn
  Grid<std::uint32_t> visit_order_;  // 0 = not visited
  EntryCost dearest_ = 0;
  Cost most_reached_ = 0;
  int highest_level_ = 0;
  int lowest_ = 0;
  int highest_ = 0;
  double left_ = 0;
  double line_ = 0;
};

std::string paint(std::span<const Picture> panels, Canvas::Kind kind) {
  const auto empty = [](const Picture& panel) { return panel.map == nullptr || panel.map->size().cell_count() == 0; };
  if (panels.empty() || std::any_of(panels.begin(), panels.end(), empty)) return {};
  if (panels.size() == 1) {
    const Layout where = layout(panels.front());
    Canvas canvas(kind, where.width, where.height);
    Painter(panels.front(), canvas).paint();
    return canvas.finish();
  }
  const int across = panels.size() < 5 ? 2 : 3;
  const int down = (static_cast<int>(panels.size()) + across - 1) / across;
  const double scale = across == 2 ? 0.5 : 0.36;
  double width = 0;
  double height = 0;
  for (const Picture& panel : panels) {
    const Layout where = layout(panel);
    width = std::max(width, where.width * scale);
    height = std::max(height, where.height * scale);
  }
  Canvas canvas(kind, static_cast<int>(std::ceil(width)) * across, static_cast<int>(std::ceil(height)) * down);
  canvas.fill_rect(0, 0, std::ceil(width) * across, std::ceil(height) * down, {paper});
  int place = 0;
  for (const Picture& panel : panels) {
    canvas.set_view(std::ceil(width) * (place % across), std::ceil(height) * (place / across), scale);
    Painter(panel, canvas).paint();
    ++place;
  }
  return canvas.finish();
}

}  // namespace

Rgb visit_color(std::size_t n, std::size_t count) {
  return on_ramp(visit_ramp, count > 1 ? static_cast<double>(n) / static_cast<double>(count - 1) : 0);
}

Layout layout(const Picture& picture) {
  SAUNTER_EXPECT(picture.map != nullptr && picture.map->size().cell_count() > 0);
  const Size size = picture.map->size();
  const Box unit = extent(plain_frame(picture, 1, Point{}), size);
  double cell = std::min({map_width / unit.width(), map_height / unit.height(), largest_cell});
  if (cell >= smallest_drawn_cell) {
    cell = std::floor(cell);  // whole pixels keep the edges of square cells sharp
  } else {
    // Large maps: the picture grows until each cell has a pixel, within reason.
    cell = std::max(cell, std::min(1.0, most_pixels / std::max(unit.width(), unit.height())));
  }
  const Point origin(std::floor(margin_left - unit.left * cell), std::floor(margin_top - unit.top * cell));
  const double half =
      picture.map->tiling().shape() == Shape::square && !picture.diamond ? cell / 2 - std::floor(cell / 2) : 0;
  const Frame frame = plain_frame(picture, cell, origin + Point(half, half));
  const Box box = extent(frame, size);
  const int width = static_cast<int>(std::ceil(box.right)) + gap + legend_width;
  const int height = std::max(static_cast<int>(std::ceil(box.bottom)) + margin_bottom, 480);
  return {frame, cell, width, height};
}

std::string to_png(const Picture& picture) { return paint({&picture, 1}, Canvas::Kind::png); }
std::string to_svg(const Picture& picture) { return paint({&picture, 1}, Canvas::Kind::svg); }
std::string to_png(std::span<const Picture> panels) { return paint(panels, Canvas::Kind::png); }
std::string to_svg(std::span<const Picture> panels) { return paint(panels, Canvas::Kind::svg); }

}  // namespace saunter::draw
