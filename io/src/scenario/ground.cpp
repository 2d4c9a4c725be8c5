// [map] and [[barrier]]
#include <algorithm>
#include <array>
#include <unordered_map>

#include "../layers.hpp"
#include "../lines.hpp"
#include "../utf8.hpp"
#include "reading.hpp"
#include "saunter/ground/glyph.hpp"

namespace saunter::inline v0_2::io::detail {
namespace {

void refuse_keys(const Fields& map, std::string_view tiling, std::initializer_list<std::string_view> keys) {
  for (const std::string_view key : keys) {
    if (map.has(key)) map.fail(key, "no such key on a " + std::string(tiling) + " map");
  }
}

/// A scenario that must hold its layers itself names no files.
void refuse_files(const Fields& map) {
  for (const char* const key : {"terrain_csv", "terrain_png", "height_csv", "height_png", "barriers_png"}) {
    if (map.has(key)) map.fail(key, "no files: here a scenario holds its layers itself, as rows, heights, [[barrier]]");
  }
}

Tiling read_tiling(const Fields& map) {
  switch (map.word("tiling", {"square", "hex", "triangle"})) {
    case 0: refuse_keys(map, "square", {"hex", "shift", "first"}); return Tiling::square();
    case 1: {
      refuse_keys(map, "hex", {"first"});
      const auto top = map.word("hex", {"pointy", "flat"}) == 0 ? HexTop::pointy : HexTop::flat;
      return Tiling::hex(top, map.word("shift", {"odd", "even"}) == 0 ? Shift::odd : Shift::even);
    }
    default:
      refuse_keys(map, "triangle", {"hex", "shift"});
      return Tiling::triangle(map.word("first", {"up", "down"}) == 0 ? FirstTriangle::up : FirstTriangle::down);
  }
}

/// The rest of a line of a file from a position on.
std::string_view line_from(std::string_view text, toml::source_position at) {
  for (toml::source_index line = 1; line < at.line; ++line)
    text.remove_prefix(std::min(text.size(), text.find('\n') + 1));
  text = text.substr(0, text.find('\n'));
  for (toml::source_index column = 1; column < at.column; ++column) {
    if (!take_code_point(text)) break;
  }
  return text;
}

/// Where the text of a drawn row stands in the file.
toml::source_position place_of_row(std::string_view text, const toml::node& node, std::int32_t row, std::size_t col) {
  toml::source_position at = node.source().begin;
  const std::string_view opening = line_from(text, at).substr(0, 4);
  const bool literal = opening.starts_with("'''");
  const bool basic = opening.starts_with("\"\"\"");
  if (!literal && !basic) return at;
  const bool begins_on_next_line = opening.size() == 3;
  const std::int32_t below = row + (begins_on_next_line ? 1 : 0);
  if (below == 0) {
    at.column += static_cast<toml::source_index>(3 + col);
  } else {
    at.line += static_cast<toml::source_index>(below);
    at.column = static_cast<toml::source_index>(col + 1);
  }
  return at;
}

/// A map drawn with one glyph for each cell.
class RowsReader {
 public:
  RowsReader(const Reading& reading, const Fields& map, const Kinds& kinds)
      : source_(reading.source), text_(reading.text), node_(*map.find("rows")), glyphs_known_(kinds.glyphs_known) {
    for (std::size_t id = 0; id < kinds.list.size(); ++id) by_glyph_[kinds.list[id].glyph] = static_cast<TerrainId>(id);
  }

  Grid<TerrainId> read(std::string_view drawing) {
    std::string_view row;
    for (; take_line(drawing, row); ++rows_) read_row(row);
    if (rows_ == 0) read_row({});  // no row at all is told as an empty one
    Grid<TerrainId> terrain(Size{static_cast<std::int32_t>(width_), rows_});
    std::copy(cells_.begin(), cells_.end(), terrain.values().begin());
    return terrain;
  }

 private:
  void read_row(std::string_view row) {
    std::size_t col = 0;
    for (; !row.empty(); ++col) cells_.push_back(kind_at(row, col));
    if (rows_ == 0) width_ = col;
    const auto place = [&] { return place_of_row(text_, node_, rows_, std::min(col, width_)); };
    if (width_ == 0) source_.fail(place(), "an empty row", "at least one cell");
    if (col != width_) {
      source_.attempt([&] {
        source_.fail(place(), "row " + std::to_string(rows_) + " with " + std::to_string(col) + " cells",
                     std::to_string(width_) + " as in row 0");
      });
      cells_.resize((static_cast<std::size_t>(rows_) + 1) * width_);
    }
    if (width_ > max_line_cells || rows_ >= max_line_cells || cells_.size() > max_map_cells) {
      source_.fail(place(), "a larger map", "at most 65535 cells in a line and 33554432 in all");
    }
  }

  TerrainId kind_at(std::string_view& row, std::size_t col) const {
    const auto glyph = take_code_point(row);
    if (!glyph) row = {};
    const auto known = glyph ? by_glyph_.find(*glyph) : by_glyph_.end();
    if (known != by_glyph_.end()) return known->second;
    source_.attempt([&] {
      if (!glyphs_known_) return;
      std::string drawn;
      if (glyph && is_printable(*glyph)) append_glyph(drawn, *glyph);
      source_.fail(place_of_row(text_, node_, rows_, col),
                   "glyph '" + drawn + "' at " + std::to_string(col) + "," + std::to_string(rows_) + " of the map",
                   "the glyph of a [terrain.name]");
    });
    return 0;
  }

  const Source& source_;
  const std::string& text_;
  const toml::node& node_;
  bool glyphs_known_;
  std::unordered_map<char32_t, TerrainId> by_glyph_;
  std::vector<TerrainId> cells_;
  std::int32_t rows_ = 0;
  std::size_t width_ = 0;
};

/// The layer with the terrain, of which a map has one.
std::string_view terrain_layer(const Reading& reading, const Fields& map) {
  const std::array<std::string_view, 3> layers = {"rows", "terrain_csv", "terrain_png"};
  const char* const expected = "exactly one of rows, terrain_csv, terrain_png";
  std::string_view chosen;
  for (const std::string_view layer : layers) {
    if (!map.has(layer)) continue;
    if (!chosen.empty()) map.fail(layer, expected);
    chosen = layer;
  }
  if (chosen.empty()) reading.source.fail(map.table(), "no terrain layer in [map]", expected);
  return chosen;
}

Grid<TerrainId> read_terrain(const Reading& reading, const Fields& map, const Kinds& kinds) {
  const std::string_view layer = terrain_layer(reading, map);
  if (layer == "rows") return RowsReader(reading, map, kinds).read(map.text("rows"));
  const std::string folder = reading.folder.value_or(std::string());
  if (layer == "terrain_csv") return read_terrain_csv(folder, map, kinds.list);
  return read_terrain_png(folder, map, kinds.list, kinds.colors_known);
}

}  // namespace

void read_map(Reading& reading, const Fields& top) {
  const Source& source = reading.source;
  const toml::node& map = top.require("map", "a [map] table");
  if (!map.is_table()) top.fail("map", "a [map] table");
  const Fields fields(source, *map.as_table(), "[map]",
                      {"tiling", "hex", "shift", "first", "rows", "terrain_csv", "terrain_png", "heights", "height_csv",
                       "height_png", "height_base", "barriers_png"});
  if (!reading.folder) refuse_files(fields);
  Tiling tiling;
  reading.tiling_known = source.attempt([&] { tiling = read_tiling(fields); });
  Kinds kinds = read_kinds(source, top.require("terrain", "tables such as [terrain.sand]"), fields.has("rows"));
  reading.ground_known = source.attempt([&] {
    Grid<TerrainId> terrain = read_terrain(reading, fields, kinds);
    reading.scenario.map = Map({tiling, terrain.size()}, kinds.list);
    reading.scenario.map.set_all_terrain(std::move(terrain));
  });
  reading.ground_known = reading.ground_known && reading.tiling_known;
  if (!reading.ground_known) {
    reading.scenario.map = Map({tiling, {1, 1}}, std::move(kinds.list));
    return;
  }
  const toml::node* const heights = fields.find("heights");
  LayerStart start;
  if (heights != nullptr) {
    const toml::source_position first = place_of_row(reading.text, *heights, 0, 0);
    start = {static_cast<int>(first.line) - 1, static_cast<int>(first.column) - 1};
  }
  const std::string folder = reading.folder.value_or(std::string());
  source.attempt([&] { read_heights(folder, fields, start, reading.scenario.map); });
  source.attempt([&] { read_barriers_png(folder, fields, reading.scenario.map); });
}

Cell cell_on_map(const Reading& reading, const toml::node& node) {
  const Cell cell = cell_from(reading.source, node);
  const Size size = reading.scenario.map.size();
  if (reading.ground_known && !size.contains(cell)) {
    reading.source.fail(node, "cell " + std::to_string(cell.col) + "," + std::to_string(cell.row) + " off the map",
                        "a cell from 0,0 to " + std::to_string(size.cols - 1) + "," + std::to_string(size.rows - 1));
  }
  return cell;
}

void read_barrier(Reading& reading, const toml::table& table) {
  const Fields fields(reading.source, table, "[[barrier]]", {"between", "one_way"});
  Map& map = reading.scenario.map;
  Cell from;
  Cell to;
  Attempts attempt(reading.source);
  attempt([&] {
    const std::string expected = "two edge neighbours as [[col, row], [col, row]]";
    const toml::array& between = fields.list("between", expected);
    if (between.size() != 2) fields.fail("between", expected);
    from = cell_on_map(reading, between[0]);
    to = cell_on_map(reading, between[1]);
    const Direction d = map.tiling().direction(from, to);
    if (d < 0 || d >= map.tiling().edge_count()) reading.source.fail(between[1], "cells that share no edge", expected);
  });
  bool one_way = false;
  attempt([&] { one_way = fields.flag_or("one_way", false); });
  if (!attempt.well() || !reading.ground_known) return;
  // Closed both ways, or open only from the first cell to the second.
  if (!one_way) map.set_closed(from, map.tiling().direction(from, to));
  map.set_closed(to, map.tiling().direction(to, from));
}

}  // namespace saunter::inline v0_2::io::detail
