#include "saunter/draw/terminal.hpp"

#include <utf8proc.h>

#include "ramp.hpp"
#include "saunter/ground/glyph.hpp"

namespace saunter::draw {
namespace {

struct Look {
  char32_t glyph = U' ';
  Rgb ground;
  Rgb ink;
  bool strong = false;
};

class Screen {
 public:
  Screen(const Picture& picture, bool color) : picture_(picture), map_(*picture.map), color_(color) {
    looks_ = Grid<Look>(map_.size());
    for (std::int32_t row = 0; row < map_.size().rows; ++row) {
      for (std::int32_t col = 0; col < map_.size().cols; ++col) looks_[Cell{col, row}] = ground({col, row});
    }
    if (picture.regions != nullptr) shade_regions(*picture.regions);
    for (std::size_t i = 0; i < picture.visits.size(); ++i) {
      Look& look = looks_[picture.visits[i].cell];
      look.ground = mix(look.ground, visit_color(i, picture.visits.size()), visit_opacity);
      look.ink = readable_on(look.ground);
    }
    if (picture.field != nullptr) shade_field(*picture.field);
    if (picture.threat != nullptr) show_threat(*picture.threat);
    if (picture.seen != nullptr) hide_unseen(*picture.seen);
    for (const Cell& spot : picture.spots) mark(&spot, U'+', start_color);
    for (const Cell& cell : picture.ghost) mark(&cell, U'U', unit_color);
    for (const Cell& cell : picture.keep_open) mark(&cell, U'K', waypoint_color);
    for (const Cell& fault : picture.faults) mark(&fault, U'!', goal_color);
    for (const Watcher& watcher : picture.watchers) mark(&watcher.source.at, U'@', watcher_color);
    for (const Thing& thing : picture.things) {
      for (const Cell& cell : thing.cells) mark(&cell, U'U', unit_color);
    }
    for (const Cell& cell : picture.path) mark(&cell, U'*', night);
    for (const Cell& cell : picture.avoided) mark(&cell, U'x', night);
    for (const Cell& cell : picture.chokes) mark(&cell, U'+', night);
    for (const Cell& cell : picture.opens) mark(&cell, U'O', goal_color);
    mark(picture.start, U'S', start_color);
    for (const Cell& start : picture.starts) mark(&start, U'S', start_color);
    mark(picture.goal, U'G', goal_color);
    for (const Cell& goal : picture.goals) mark(&goal, U'G', goal_color);
  }

  [[nodiscard]] std::string text() const {
    const Shape shape = map_.tiling().shape();
    const int lines_per_row = shape == Shape::hex_flat ? 2 : 1;
    const int line_count = map_.size().rows * lines_per_row + (shape == Shape::hex_flat ? 1 : 0);
    std::string out;
    for (int line = 0; line < line_count; ++line) {
      if (shape == Shape::hex_pointy && map_.tiling().kind({0, line}) == 1) out += ' ';
      std::string spaces;
      for (std::int32_t col = 0; col < map_.size().cols; ++col) {
        // Flat hexes are two lines high, and every other column stands one line lower.
        const int from_top = shape == Shape::hex_flat ? line - map_.tiling().kind({col, 0}) : line;
        const Cell cell{col, from_top >= 0 ? from_top / lines_per_row : -1};
        if (!map_.size().contains(cell)) {
          spaces += "  ";
          continue;
        }
        out += spaces;
        spaces.clear();
        append(out, looks_[cell], lines_per_row == 1 || from_top % 2 == 0);
      }
      while (out.ends_with(' ')) out.pop_back();
      out += '\n';
    }
    return out;
  }

 private:
  [[nodiscard]] Look ground(Cell cell) const {
    const Terrain& kind = map_.kind(map_.terrain_at(cell));
    Look look{kind.glyph, kind.color, mix(kind.color, readable_on(kind.color), 0.55)};
    if (picture_.layers.blocked && picture_.costs != nullptr && !picture_.costs->open(cell)) look.glyph = U'\u00D7';
    return look;
  }

  void shade_regions(const Regions& regions) {
    for (std::uint32_t i = 0; i < map_.size().cell_count(); ++i) {
      const std::uint32_t id = regions.at(CellIndex{i});
      if (id == 0) continue;
      Look& look = looks_[CellIndex{i}];
      look.ground = mix(look.ground, region_color(id), region_opacity);
      look.ink = mix(look.ground, readable_on(look.ground), 0.55);
    }
  }

  /// Danger as digits, + beyond nine; what is not seen as shade.
  void show_threat(const ThreatField& threat) {
    const int highest = threat.highest();
    for (std::uint32_t i = 0; i < map_.size().cell_count(); ++i) {
      const int level = threat.levels()[CellIndex{i}];
      if (level == 0) continue;
      Look& look = looks_[CellIndex{i}];
      look.glyph = level > 9 ? U'+' : U'0' + static_cast<char32_t>(level);
      look.ground = mix(look.ground, danger_color_at(level, highest), visit_opacity);
      look.ink = readable_on(look.ground);
    }
  }
  void hide_unseen(const BitGrid& seen) {
    for (std::uint32_t i = 0; i < map_.size().cell_count(); ++i) {
      if (seen.test(map_.size().cell(CellIndex{i}))) continue;
      Look& look = looks_[CellIndex{i}];
      look.glyph = U'\u2591';
      look.ground = mix(look.ground, night, 0.55);
      look.ink = mix(look.ground, white, 0.25);
    }
  }

  void shade_field(const Field& field) {
    Cost most = 1;
    for (const Cost cost : field.costs().values()) {
      if (cost != unreached) most = std::max(most, cost);
    }
    for (std::uint32_t i = 0; i < map_.size().cell_count(); ++i) {
      const Cost cost = field.costs()[CellIndex{i}];
      if (cost == unreached) continue;
      Look& look = looks_[CellIndex{i}];
      look.glyph = U'+';
      look.ground = mix(look.ground, on_ramp(reach_ramp, static_cast<double>(cost) / most), visit_opacity);
      look.ink = mix(look.ground, readable_on(look.ground), 0.55);
    }
  }

  void mark(const Cell* cell, char32_t glyph, Rgb color) {
    if (cell != nullptr && map_.size().contains(*cell)) looks_[*cell] = {glyph, color, white, true};
  }

  void append(std::string& out, const Look& look, bool with_glyph) const {
    if (color_) {
      const auto channel = [](Rgb c) {
        return std::to_string(c.red) + ";" + std::to_string(c.green) + ";" + std::to_string(c.blue);
      };
      out += "\x1b[48;2;" + channel(look.ground) + ";38;2;" + channel(look.ink) + (look.strong ? ";1m" : "m");
    }
    // A wide glyph takes both columns of its cell; one that takes none would move what comes after it.
    const int columns = with_glyph ? utf8proc_charwidth(static_cast<utf8proc_int32_t>(look.glyph)) : 1;
    append_glyph(out, !with_glyph ? U' ' : columns < 1 ? U'?' : look.glyph);
    if (columns < 2) out += ' ';
    if (color_) out += "\x1b[0m";
  }

  const Picture& picture_;
  const Map& map_;
  bool color_;
  Grid<Look> looks_;
};

}  // namespace

std::string terminal_view(const Picture& picture, const TerminalOptions& options) {
  const Size size = picture.map->size();
  const int lines = picture.map->tiling().shape() == Shape::hex_flat ? size.rows * 2 + 1 : size.rows;
  if (size.cols * 2 + 1 > options.max_columns || lines > options.max_lines) return {};
  return Screen(picture, options.color).text();
}

}  // namespace saunter::draw
