#include <algorithm>
#include <array>
#include <filesystem>
#include <unordered_map>
#include <unordered_set>

#include "fields.hpp"
#include "layers.hpp"
#include "saunter/ground/glyph.hpp"
#include "saunter/io/files.hpp"
#include "saunter/io/scenario.hpp"
#include "saunter/io/text.hpp"
#include "toml_bounds.hpp"
#include "utf8.hpp"

namespace saunter::io {
namespace {

constexpr std::size_t max_unit_cells = 4096;
constexpr std::int64_t max_breach = max_cost;

/// The text without what only some editors add: a byte order mark, carriage returns before line ends.
std::string plain_text(std::string_view text) {
  constexpr std::string_view byte_order_mark = "\xEF\xBB\xBF";
  if (text.starts_with(byte_order_mark)) text.remove_prefix(byte_order_mark.size());
  std::string plain;
  plain.reserve(text.size());
  for (std::size_t i = 0; i < text.size(); ++i) {
    if (text[i] == '\r' && i + 1 < text.size() && text[i + 1] == '\n') continue;
    plain.push_back(text[i]);
  }
  return plain;
}

/// The color of the n-th kind of terrain that has none of its own: sands, weeds, waters and stones by turns, all
/// different.
Rgb own_color(std::size_t n) {
  constexpr std::array<Rgb, 8> first = {{{228, 212, 172},
                                         {120, 148, 96},
                                         {116, 166, 184},
                                         {132, 122, 116},
                                         {206, 158, 112},
                                         {78, 110, 134},
                                         {174, 184, 140},
                                         {150, 104, 92}}};
  const Rgb base = first[n % first.size()];
  const auto darker = static_cast<std::uint8_t>(n / first.size());  // at most 31 for 256 kinds
  return {static_cast<std::uint8_t>(base.red - darker), static_cast<std::uint8_t>(base.green - 2 * darker),
          static_cast<std::uint8_t>(base.blue - darker)};
}

class ScenarioReader {
 public:
  /// @param all  where all errors are gathered; null: the first one is thrown
  ScenarioReader(std::string text, const std::string& name, std::string folder, std::vector<Error>* all = nullptr)
      : text_(std::move(text)), source_{name, all}, folder_(std::move(folder)) {}

  Scenario read() {
    if (const auto broken = broken_bound(text_, source_.name)) throw ReadFailure{*broken};
    const toml::table file = parse();
    const Fields top(
        source_, file, "the file",
        {"saunter", "title", "map", "terrain", "mover", "barrier", "unit", "threat", "rules", "spot", "patrol"});
    source_.attempt([&] { (void)top.whole("saunter", 1, 1); });
    source_.attempt([&] { scenario_.title = top.text_or("title", ""); });
    const bool map_read = source_.attempt([&] { read_map(top); });
    // What stands on a map that could not be read is not judged.
    if (!map_read) return std::move(scenario_);
    source_.attempt([&] {
      if (const toml::node* movers = top.find("mover")) read_movers(*movers);
    });
    read_list(top, "barrier", [&](const toml::table& table) { read_barrier(table); });
    read_list(top, "unit", [&](const toml::table& table) { read_unit(table); });
    read_list(top, "threat", [&](const toml::table& table) { read_threat(table); });
    source_.attempt([&] {
      if (const toml::node* rules = top.find("rules")) read_rules(*rules);
    });
    read_list(top, "spot", [&](const toml::table& table) { read_spot(table); });
    read_list(top, "patrol", [&](const toml::table& table) { read_patrol(table); });
    return std::move(scenario_);
  }

 private:
  template <typename ReadOne>
  void read_list(const Fields& top, std::string_view what, ReadOne&& read_one) {
    source_.attempt([&] {
      for (const auto* table : listed_tables(source_, top.find(what), what)) {
        source_.attempt([&] { read_one(*table); });
      }
    });
  }

  void read_map(const Fields& top) {
    const toml::node& map = top.require("map", "a [map] table");
    if (!map.is_table()) top.fail("map", "a [map] table");
    const Fields map_fields(source_, *map.as_table(), "[map]",
                            {"tiling", "hex", "shift", "first", "rows", "terrain_csv", "terrain_png", "height_csv",
                             "height_png", "height_base", "barriers_png"});
    Tiling tiling;
    const bool tiled = source_.attempt([&] { tiling = read_tiling(map_fields); });
    std::vector<Terrain> kinds =
        read_kinds(top.require("terrain", "tables such as [terrain.sand]"), map_fields.has("rows"));
    if (!tiled || kinds.empty()) throw ReadFailure{source_.all->back()};
    read_ground(map_fields, tiling, std::move(kinds));
    source_.attempt([&] { read_heights(folder_, map_fields, scenario_.map); });
    source_.attempt([&] { read_barriers_png(folder_, map_fields, scenario_.map); });
  }

  toml::table parse() {
    try {
      return toml::parse(text_);
    } catch (const toml::parse_error& error) {
      source_.fail(error.source().begin, "broken TOML (" + std::string(error.description().substr(0, 200)) + ")",
                   "valid TOML");
    }
  }

  static void refuse_keys(const Fields& map, std::string_view tiling, std::initializer_list<std::string_view> keys) {
    for (const std::string_view key : keys) {
      if (map.has(key)) map.fail(key, "no such key on a " + std::string(tiling) + " map");
    }
  }

  static Tiling read_tiling(const Fields& map) {
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

  // ---- terrain kinds

  /// An entry cost, or `blocked` for false.
  EntryCost entry_cost(const toml::node& node, const std::string& what) const {
    if (const auto* flag = node.as_boolean(); flag != nullptr && !flag->get()) return blocked;
    const auto cost = hundredths_of(node);
    if (!cost || *cost < 1 || *cost > max_entry_cost) {
      source_.fail(node, what + " = " + describe(node), "0.01 to 655.35 with at most two decimals, or false");
    }
    return static_cast<EntryCost>(*cost);
  }

  Rgb color(const Fields& fields) const {
    const std::string expected = "a colour such as \"#e6d5a8\"";
    const std::string text = fields.text("color");
    Rgb color;
    std::array<std::uint8_t*, 3> channels = {&color.red, &color.green, &color.blue};
    if (text.size() != 7 || text[0] != '#') fields.fail("color", expected);
    for (std::size_t i = 0; i < 6; ++i) {
      constexpr std::string_view digits = "0123456789abcdef";
      const char c = text[i + 1] >= 'A' && text[i + 1] <= 'F' ? static_cast<char>(text[i + 1] + 32) : text[i + 1];
      const std::size_t digit = digits.find(c);
      if (digit == std::string_view::npos) fields.fail("color", expected);
      *channels[i / 2] = static_cast<std::uint8_t>(*channels[i / 2] * 16U + digit);
    }
    return color;
  }

  char32_t glyph(const Fields& fields) const {
    std::string_view left;
    const std::string text = fields.text("glyph");
    left = text;
    const auto code_point = take_code_point(left);
    if (!code_point || !left.empty() || !is_printable(*code_point)) fields.fail("glyph", "one printable character");
    return *code_point;
  }

  std::vector<Terrain> read_kinds(const toml::node& node, bool drawn) {
    std::vector<Terrain> kinds;
    const auto entries = named_tables(source_, node, "terrain");
    if (entries.empty()) source_.fail(node, "no terrain", "at least one [terrain.name]");
    if (entries.size() > max_terrain_kinds) {
      source_.fail(entries[max_terrain_kinds].at, std::to_string(entries.size()) + " kinds of terrain", "at most 256");
    }
    std::size_t without_color = 0;
    bool well = true;
    std::vector<bool> has_glyph;
    for (const NamedTable& entry : entries) {
      well &= source_.attempt([&] {
        const Fields fields(source_, *entry.table, "[terrain." + entry.name + "]",
                            {"glyph", "color", "cost", "opaque", "breach", "void"});
        Terrain kind{.name = entry.name};
        const bool has_color = fields.has("color");
        has_glyph.push_back(drawn || fields.has("glyph"));
        kind.glyph = has_glyph.back() ? glyph(fields) : U'\0';
        kind.color = has_color ? color(fields) : own_color(without_color++);
        kind.is_void = fields.flag_or("void", false);
        kind.opaque = fields.flag_or("opaque", false);
        if (const toml::node* cost = fields.find("cost")) kind.cost = entry_cost(*cost, "cost");
        if (kind.is_void) kind.cost = blocked;
        if (const toml::node* breach = fields.find("breach")) kind.breach = breach_cost(fields, *breach);
        for (const Terrain& other : kinds) {
          if (kind.glyph != U'\0' && other.glyph == kind.glyph) {
            fields.fail("glyph", "one not used by " + other.name + " already");
          }
          if (other.color != kind.color) continue;
          if (has_color) fields.fail("color", "one not used by " + other.name + " already");
          source_.fail(entry.at,
                       "no color in [terrain." + entry.name + "], and " + other.name + " has the one it would take",
                       "a color");
        }
        kinds.push_back(std::move(kind));
      });
    }
    if (!well) return {};
    choose_glyphs(kinds);
    return kinds;
  }

  /// Kinds that no drawing needs a glyph of get the first letters that are free.
  static void choose_glyphs(std::vector<Terrain>& kinds) {
    char32_t next = U'a';
    for (Terrain& kind : kinds) {
      if (kind.glyph != U'\0') continue;
      const auto used = [&](char32_t c) {
        return std::any_of(kinds.begin(), kinds.end(), [&](const Terrain& other) { return other.glyph == c; });
      };
      while (used(next)) next = next == U'z' ? U'\u0100' : next + 1;  // letters beyond, for those with so many kinds
      kind.glyph = next;
    }
  }

  std::optional<Cost> breach_cost(const Fields& fields, const toml::node& node) const {
    if (const auto* flag = node.as_boolean(); flag != nullptr && !flag->get()) return std::nullopt;
    const auto cost = hundredths_of(node);
    if (!cost || *cost < 0 || *cost > max_breach) {
      fields.fail("breach", "0 to " + to_decimal(max_breach) + " with at most two decimals, or false");
    }
    return static_cast<Cost>(*cost);
  }

  // ---- the ground

  void read_ground(const Fields& map, Tiling tiling, std::vector<Terrain> kinds) {
    const std::array<std::string_view, 3> layers = {"rows", "terrain_csv", "terrain_png"};
    const char* const expected = "exactly one of rows, terrain_csv, terrain_png";
    std::string_view chosen;
    for (const std::string_view layer : layers) {
      if (!map.has(layer)) continue;
      if (!chosen.empty()) map.fail(layer, expected);
      chosen = layer;
    }
    if (chosen.empty()) source_.fail(map.table(), "no terrain layer in [map]", expected);
    Grid<TerrainId> terrain;
    if (chosen == "rows") {
      terrain = read_rows(map, kinds);
    } else if (chosen == "terrain_csv") {
      terrain = read_terrain_csv(folder_, map, kinds);
    } else {
      terrain = read_terrain_png(folder_, map, kinds);
    }
    scenario_.map = Map({tiling, terrain.size()}, std::move(kinds));
    scenario_.map.set_all_terrain(std::move(terrain));
  }

  /// Where the text of a drawn row stands in the file.
  [[nodiscard]] toml::source_position place_of_row(const toml::node& node, std::size_t row, std::size_t col) const {
    toml::source_position at = node.source().begin;
    const std::string_view opening = line_from(at).substr(0, 4);
    const bool literal = opening.starts_with("'''");
    const bool basic = opening.starts_with("\"\"\"");
    if (!literal && !basic) return at;
    const bool begins_on_next_line = opening.size() == 3;
    const std::size_t below = row + (begins_on_next_line ? 1 : 0);
    if (below == 0) {
      at.column += static_cast<toml::source_index>(3 + col);
    } else {
      at.line += static_cast<toml::source_index>(below);
      at.column = static_cast<toml::source_index>(col + 1);
    }
    return at;
  }

  /// The rest of a line of the file from a position on.
  [[nodiscard]] std::string_view line_from(toml::source_position at) const {
    std::string_view rest = text_;
    for (toml::source_index line = 1; line < at.line; ++line)
      rest.remove_prefix(std::min(rest.size(), rest.find('\n') + 1));
    rest = rest.substr(0, rest.find('\n'));
    for (toml::source_index column = 1; column < at.column; ++column) {
      if (!take_code_point(rest)) break;
    }
    return rest;
  }

  Grid<TerrainId> read_rows(const Fields& map, const std::vector<Terrain>& kinds) const {
    const toml::node& node = *map.find("rows");
    const std::string text = map.text("rows");
    std::unordered_map<char32_t, TerrainId> by_glyph;
    for (std::size_t id = 0; id < kinds.size(); ++id) by_glyph[kinds[id].glyph] = static_cast<TerrainId>(id);

    std::string_view left = text;
    if (left.ends_with('\n')) left.remove_suffix(1);
    std::vector<TerrainId> cells;
    std::int32_t rows = 0;
    std::size_t width = 0;
    for (bool more = true; more; ++rows) {
      const std::size_t end = left.find('\n');
      more = end != std::string_view::npos;
      std::string_view row = left.substr(0, end);
      left.remove_prefix(more ? end + 1 : left.size());
      std::size_t col = 0;
      while (!row.empty()) {
        const auto glyph = take_code_point(row);
        const auto known = glyph ? by_glyph.find(*glyph) : by_glyph.end();
        if (known == by_glyph.end()) {
          std::string drawn;
          if (glyph && is_printable(*glyph)) append_glyph(drawn, *glyph);
          judge([&] {
            source_.fail(place_of_row(node, static_cast<std::size_t>(rows), col),
                         "glyph '" + drawn + "' at " + std::to_string(col) + "," + std::to_string(rows) + " of the map",
                         "the glyph of a [terrain.name]");
          });
        }
        cells.push_back(known == by_glyph.end() ? TerrainId{0} : known->second);
        ++col;
      }
      if (rows == 0) width = col;
      const auto place = [&] { return place_of_row(node, static_cast<std::size_t>(rows), std::min(col, width)); };
      if (width == 0) source_.fail(place(), "an empty row", "at least one cell");
      if (col != width) {
        judge([&] {
          source_.fail(place(), "row " + std::to_string(rows) + " with " + std::to_string(col) + " cells",
                       std::to_string(width) + " as in row 0");
        });
        cells.resize((static_cast<std::size_t>(rows) + 1) * width);
      }
      if (width > max_line_cells || rows >= max_line_cells || cells.size() > max_map_cells) {
        source_.fail(place(), "a larger map", "at most 65535 cells in a line and 33554432 in all");
      }
    }
    Grid<TerrainId> terrain(Size{static_cast<std::int32_t>(width), rows});
    std::copy(cells.begin(), cells.end(), terrain.values().begin());
    return terrain;
  }

  /// Where all errors are gathered, the map is read on to judge what stands on it.
  template <typename Judgement>
  void judge(Judgement&& judgement) const {
    constexpr std::size_t enough = 10'000;
    if (source_.all != nullptr && source_.all->size() >= enough) judgement();
    source_.attempt(judgement);
  }

  // ---- movers

  void read_movers(const toml::node& node) {
    for (const NamedTable& entry : named_tables(source_, node, "mover")) {
      source_.attempt([&] { read_mover(entry); });
    }
  }

  void read_mover(const NamedTable& entry) {
    const Fields fields(source_, *entry.table, "[mover." + entry.name + "]",
                        {"steps", "corners", "size", "diagonal", "climb", "drop", "costs"});
    Mover mover{.name = entry.name};
    const Tiling tiling = scenario_.map.tiling();
    const int usual_steps = default_steps(tiling);
    source_.attempt([&] {
      mover.rules.steps = static_cast<int>(fields.whole_or("steps", 1, 12, usual_steps));
      if (const auto problem = mover_problem(tiling, mover)) {
        mover.rules.steps = usual_steps;
        const std::size_t words = problem->find("must be ");
        fields.fail("steps", std::string(words == std::string_view::npos ? *problem : problem->substr(words + 8)));
      }
    });
    source_.attempt([&] {
      if (!fields.has("corners")) return;
      mover.rules.corners = static_cast<Corners>(fields.word("corners", {"strict", "lenient", "free"}));
    });
    source_.attempt([&] {
      if (!fields.has("diagonal")) return;
      if (tiling.shape() != Shape::square) fields.fail("diagonal", "no such key except on square maps");
      mover.rules.diagonal = static_cast<Length>(fields.hundredths("diagonal", min_diagonal, max_diagonal));
    });
    source_.attempt([&] {
      const int most_size = tiling.shape() == Shape::triangle ? 1 : max_mover_size;
      mover.size = static_cast<int>(fields.whole_or("size", 1, most_size, 1));
    });
    constexpr std::int64_t most_height_difference = 65'535;
    const auto read_limit = [&](const char* key, std::optional<std::int32_t>& limit) {
      source_.attempt([&] {
        if (fields.has(key)) limit = static_cast<std::int32_t>(fields.whole(key, 0, most_height_difference));
      });
    };
    read_limit("climb", mover.climb);
    read_limit("drop", mover.drop);
    source_.attempt([&] {
      if (const toml::node* costs = fields.find("costs")) read_costs(*costs, mover);
    });
    scenario_.movers.push_back(std::move(mover));
  }

  void read_costs(const toml::node& node, Mover& mover) const {
    if (!node.is_table()) source_.fail(node, "costs = " + describe(node), "a table such as { kelp = 2.5 }");
    mover.costs.resize(scenario_.map.kinds().size());
    std::vector<std::pair<toml::source_position, std::string>> in_order;
    for (auto&& [key, value] : *node.as_table()) in_order.emplace_back(key.source().begin, std::string(key.str()));
    std::sort(in_order.begin(), in_order.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    for (const auto& [at, name] : in_order) {
      source_.attempt([&, at = at, name = name] {
        const auto id = scenario_.map.find_kind(name);
        if (!id) source_.fail(at, "terrain " + shown(name), "the name of a [terrain.name]");
        mover.costs[*id] = entry_cost(*node.as_table()->get(name), name);
      });
    }
  }

  // ---- barriers, units, threats

  Cell cell_on_map(const toml::node& node) const {
    const Cell cell = cell_from(source_, node);
    if (!scenario_.map.size().contains(cell)) {
      const Size size = scenario_.map.size();
      source_.fail(node, "cell " + std::to_string(cell.col) + "," + std::to_string(cell.row) + " off the map",
                   "a cell from 0,0 to " + std::to_string(size.cols - 1) + "," + std::to_string(size.rows - 1));
    }
    return cell;
  }

  void read_barrier(const toml::table& table) {
    const Fields fields(source_, table, "[[barrier]]", {"between", "one_way"});
    const std::string expected = "two edge neighbours as [[col, row], [col, row]]";
    const toml::array& between = fields.list("between", expected);
    if (between.size() != 2) fields.fail("between", expected);
    const Cell from = cell_on_map(between[0]);
    const Cell to = cell_on_map(between[1]);
    Map& map = scenario_.map;
    const Direction d = map.tiling().direction(from, to);
    if (d < 0 || d >= map.tiling().edge_count()) source_.fail(between[1], "cells that share no edge", expected);
    // Closed both ways, or open only from the first cell to the second.
    if (!fields.flag_or("one_way", false)) map.set_closed(from, d);
    map.set_closed(to, map.tiling().direction(to, from));
  }

  static std::string unique_name(const Fields& fields, std::unordered_set<std::string>& taken) {
    std::string name = fields.text("name");
    if (name.empty()) fields.fail("name", "a name");
    if (!taken.insert(name).second) fields.fail("name", "a name not used before");
    return name;
  }

  void read_unit(const toml::table& table) {
    const Fields fields(source_, table, "[[unit]]", {"name", "at", "footprint", "offsets", "turn", "blocks", "opaque"});
    const Tiling tiling = scenario_.map.tiling();
    Unit unit{.name = unique_name(fields, unit_names_), .at = fields.cell("at")};
    unit.footprint = read_footprint(fields, tiling);
    unit.turn = static_cast<int>(fields.whole_or("turn", 0, full_turn(tiling) - 1, 0));
    unit.blocks = fields.flag_or("blocks", true);
    unit.opaque = fields.flag_or("opaque", false);
    if (tiling.shape() == Shape::triangle && tiling.kind(unit.at) != 0) {
      fields.fail("at", "a triangle that points up, as the drawing's top left does");
    }
    unit.footprint.turned(tiling, unit.turn).cells_at(tiling, unit.at, unit.cells);
    if (standing_.size() != scenario_.map.size()) standing_ = BitGrid(scenario_.map.size());
    for (const Cell cell : unit.cells) {
      if (scenario_.map.size().contains(cell) && !standing_.test(cell)) continue;
      const std::string place = std::to_string(cell.col) + "," + std::to_string(cell.row);
      if (!scenario_.map.size().contains(cell)) {
        source_.fail(*fields.find("at"), "unit " + shown(unit.name) + " off the map at " + place,
                     "all its cells on the map");
      }
      source_.fail(*fields.find("at"), "unit " + shown(unit.name) + " on another unit at " + place, "a free place");
    }
    for (const Cell cell : unit.cells) standing_.set(cell);
    scenario_.units.push_back(std::move(unit));
  }

  Footprint read_footprint(const Fields& fields, Tiling tiling) const {
    std::vector<Offset> parts;
    if (tiling.is_hex()) {
      if (fields.has("footprint")) fields.fail("footprint", "offsets = [[dq, dr], ...] on hexes");
      if (!fields.has("offsets")) return {};
      const toml::array& list = fields.list("offsets", "a list of [dq, dr]");
      for (const toml::node& node : list) {
        const Cell part = cell_from(source_, node);
        if (std::max(std::abs(std::int64_t{part.col}), std::abs(std::int64_t{part.row})) > max_line_cells) {
          source_.fail(node, describe(node), "offsets of at most 65535");
        }
        const Offset offset{part.col, part.row};
        if (std::find(parts.begin(), parts.end(), offset) != parts.end()) {
          source_.fail(node, "an offset given twice", "each offset once");
        }
        parts.push_back(offset);
        if (parts.size() > max_unit_cells) fields.fail("offsets", "at most 4096 cells");
      }
    } else {
      if (fields.has("offsets")) fields.fail("offsets", "footprint = [\"xx\", \"x.\"] except on hexes");
      if (!fields.has("footprint")) return {};
      std::int32_t row = 0;
      for (const toml::node& node : fields.list("footprint", "a list of rows such as [\"xx\", \"x.\"]")) {
        const auto* text = node.as_string();
        if (text == nullptr || text->get().find_first_not_of("x.") != std::string::npos) {
          source_.fail(node, describe(node), "a row of x and . only");
        }
        for (std::size_t col = 0; col < text->get().size(); ++col) {
          if (text->get()[col] == 'x') parts.push_back({static_cast<std::int32_t>(col), row});
        }
        if (parts.size() > max_unit_cells) fields.fail("footprint", "at most 4096 cells");
        ++row;
      }
    }
    if (parts.empty()) fields.fail(tiling.is_hex() ? "offsets" : "footprint", "at least one cell");
    return Footprint(std::move(parts));
  }

  void read_threat(const toml::table& table) {
    const Fields fields(source_, table, "[[threat]]",
                        {"name", "at", "range", "levels", "needs_sight", "facing", "arc", "strength"});
    Threat threat{.name = unique_name(fields, threat_names_)};
    ThreatSource& source = threat.source;
    source.at = cell_on_map(fields.require("at", "a cell"));
    constexpr std::int64_t most_range = std::int64_t{max_line_cells} * 100;
    source.range = static_cast<Length>(fields.hundredths("range", 0, most_range));
    source.needs_sight = fields.flag_or("needs_sight", false);
    if (fields.has("levels")) source.levels = read_levels(fields);
    if (fields.has("facing")) {
      const Tiling tiling = scenario_.map.tiling();
      const Side side = side_named(tiling, fields.text("facing"));
      if (side < 0) {
        std::string expected = "a side:";
        for (Side s{0}; s < side_count(tiling); ++s) expected += " " + std::string(side_name(tiling, s));
        fields.fail("facing", expected);
      }
      source.facing = side;
    } else if (fields.has("arc")) {
      fields.fail("arc", "facing beside it");
    }
    source.arc = static_cast<int>(fields.whole_or("arc", 1, 360, 360));
    if (fields.has("strength")) source.strength = static_cast<Length>(fields.hundredths("strength", 0, 65'535));
    scenario_.threats.push_back(std::move(threat));
  }

  void read_spot(const toml::table& table) {
    const Fields fields(source_, table, "[[spot]]", {"name", "at"});
    std::string name = unique_name(fields, spot_names_);
    scenario_.spots.push_back({std::move(name), cell_on_map(fields.require("at", "a cell"))});
  }

  void read_patrol(const toml::table& table) {
    const Fields fields(source_, table, "[[patrol]]", {"name", "mover", "cells", "loop"});
    Patrol patrol{.name = unique_name(fields, patrol_names_)};
    patrol.mover = fields.text_or("mover", "");
    if (scenario_.find_mover(patrol.mover) == nullptr) {
      if (!fields.has("mover")) source_.fail(table, "no mover in the file", "a [mover.name] for the patrol");
      fields.fail("mover", "the name of a [mover.name]");
    }
    for (const toml::node& node : fields.list("cells", "a list of cells as [col, row]")) {
      patrol.cells.push_back(cell_from(source_, node));
    }
    if (patrol.cells.empty()) fields.fail("cells", "at least one cell");
    patrol.loop = fields.flag_or("loop", false);
    scenario_.patrols.push_back(std::move(patrol));
  }

  void read_rules(const toml::node& node) {
    const std::string lists = "a [rules] table of lists such as hut = [\"against-wall:2\"]";
    const toml::table* const table = node.as_table();
    if (table == nullptr) source_.fail(node, describe(node), lists);
    for (const auto& [key, value] : *table) {
      const toml::array* const list = value.as_array();
      if (list == nullptr) source_.fail(value, describe(value), lists);
      RuleSet set{std::string(key.str()), {}};
      for (const toml::node& entry : *list) {
        const auto* const text = entry.as_string();
        const auto rule = text == nullptr ? std::nullopt : parse_rule_words(text->get());
        if (!rule) source_.fail(entry, describe(entry), rule_words_expected);
        if (const std::string problem = scenario_.rule_problem(*rule); !problem.empty()) {
          source_.fail(entry, describe(entry), problem);
        }
        set.rules.push_back(*rule);
      }
      scenario_.rules.push_back(std::move(set));
    }
  }

  std::vector<ThreatBand> read_levels(const Fields& fields) const {
    std::vector<ThreatBand> bands;
    const std::string expected = "[[fraction, level], ...] with fractions rising from above 0 to 1, levels 0 to 65535";
    for (const toml::node& node : fields.list("levels", expected)) {
      const auto* pair = node.as_array();
      if (pair == nullptr || pair->size() != 2) source_.fail(node, describe(node), expected);
      const auto fraction = hundredths_of((*pair)[0]);
      const auto* level = (*pair)[1].as_integer();
      const std::int64_t before = bands.empty() ? 0 : std::int64_t{Length{bands.back().fraction}};
      if (!fraction || *fraction <= before || *fraction > 100) source_.fail((*pair)[0], describe((*pair)[0]), expected);
      if (level == nullptr || level->get() < 0 || level->get() > 65'535) {
        source_.fail((*pair)[1], describe((*pair)[1]), expected);
      }
      bands.push_back({static_cast<Length>(*fraction), static_cast<std::uint16_t>(level->get())});
    }
    if (bands.empty()) fields.fail("levels", expected);
    return bands;
  }

  std::string text_;
  Source source_;
  std::string folder_;
  Scenario scenario_;
  BitGrid standing_;
  std::unordered_set<std::string> unit_names_;
  std::unordered_set<std::string> threat_names_;
  std::unordered_set<std::string> spot_names_;
  std::unordered_set<std::string> patrol_names_;
};

std::string folder_of(const std::string& file) {
  return file == "-" ? std::string() : std::filesystem::path(file).parent_path().string();
}
std::string name_of(const std::string& file) { return file == "-" ? "<stdin>" : file; }

}  // namespace

Result<Scenario> parse_scenario(std::string_view text, const std::string& name, const std::string& folder) {
  try {
    return ScenarioReader(plain_text(text), name, folder).read();
  } catch (const ReadFailure& failure) {
    return failure.error;
  }
}

std::vector<Error> scenario_errors(std::string_view text, const std::string& name, const std::string& folder) {
  std::vector<Error> all;
  try {
    (void)ScenarioReader(plain_text(text), name, folder, &all).read();
  } catch (const ReadFailure& failure) {
    all.push_back(failure.error);
  }
  // In the order of the file; what is wrong in files that it names comes after.
  std::stable_sort(all.begin(), all.end(), [&](const Error& a, const Error& b) {
    const bool own_a = a.file == name;
    const bool own_b = b.file == name;
    if (own_a != own_b) return own_a;
    return own_a && (a.line != b.line ? a.line < b.line : a.column < b.column);
  });
  const auto same = [](const Error& a, const Error& b) { return a.message() == b.message(); };
  all.erase(std::unique(all.begin(), all.end(), same), all.end());
  return all;
}

Result<Scenario> read_scenario(const std::string& file) {
  const Result<std::string> text = read_file(file);
  if (!text) return text.error();
  return parse_scenario(text.value(), name_of(file), folder_of(file));
}

std::vector<Error> scenario_errors(const std::string& file) {
  const Result<std::string> text = read_file(file);
  if (!text) return {text.error()};
  return scenario_errors(text.value(), name_of(file), folder_of(file));
}

}  // namespace saunter::io
