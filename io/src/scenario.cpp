#include "saunter/io/scenario.hpp"

#include <algorithm>
#include <filesystem>
#include <unordered_map>

#include "fields.hpp"
#include "layers.hpp"
#include "saunter/ground/glyph.hpp"
#include "saunter/io/files.hpp"
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

class ScenarioReader {
 public:
  ScenarioReader(std::string text, const std::string& name, std::string folder)
      : text_(std::move(text)), source_{name}, folder_(std::move(folder)) {}

  Scenario read() {
    const toml::table file = parse();
    const Fields top(source_, file, "the file",
                     {"saunter", "title", "map", "terrain", "mover", "barrier", "unit", "threat", "rules"});
    (void)top.whole("saunter", 1, 1);
    scenario_.title = top.text_or("title", "");
    const toml::node& map = top.require("map", "a [map] table");
    if (!map.is_table()) top.fail("map", "a [map] table");
    const Fields map_fields(source_, *map.as_table(), "[map]",
                            {"tiling", "hex", "shift", "first", "rows", "terrain_csv", "terrain_png", "height_csv",
                             "height_png", "height_base", "barriers_png"});
    const Tiling tiling = read_tiling(map_fields);
    std::vector<Terrain> kinds = read_kinds(top.require("terrain", "tables such as [terrain.sand]"));
    read_ground(map_fields, tiling, std::move(kinds));
    read_heights(folder_, map_fields, scenario_.map);
    read_barriers_png(folder_, map_fields, scenario_.map);
    if (const toml::node* movers = top.find("mover")) read_movers(*movers);
    for (const auto* table : listed_tables(source_, top.find("barrier"), "barrier")) read_barrier(*table);
    for (const auto* table : listed_tables(source_, top.find("unit"), "unit")) read_unit(*table);
    for (const auto* table : listed_tables(source_, top.find("threat"), "threat")) read_threat(*table);
    if (const toml::node* rules = top.find("rules")) read_rules(*rules);
    return std::move(scenario_);
  }

 private:
  toml::table parse() {
    try {
      return toml::parse(text_);
    } catch (const toml::parse_error& error) {
      source_.fail(error.source().begin, "broken TOML (" + std::string(error.description()) + ")", "valid TOML");
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

  std::vector<Terrain> read_kinds(const toml::node& node) {
    std::vector<Terrain> kinds;
    const auto entries = named_tables(source_, node, "terrain");
    if (entries.empty()) source_.fail(node, "no terrain", "at least one [terrain.name]");
    if (entries.size() > max_terrain_kinds) {
      source_.fail(entries[max_terrain_kinds].at, std::to_string(entries.size()) + " kinds of terrain", "at most 256");
    }
    for (const NamedTable& entry : entries) {
      const Fields fields(source_, *entry.table, "[terrain." + entry.name + "]",
                          {"glyph", "color", "cost", "opaque", "breach", "void"});
      Terrain kind{.name = entry.name};
      kind.glyph = glyph(fields);
      kind.color = color(fields);
      kind.is_void = fields.flag_or("void", false);
      kind.opaque = fields.flag_or("opaque", false);
      if (const toml::node* cost = fields.find("cost")) kind.cost = entry_cost(*cost, "cost");
      if (kind.is_void) kind.cost = blocked;
      if (const toml::node* breach = fields.find("breach")) kind.breach = breach_cost(fields, *breach);
      for (const Terrain& other : kinds) {
        if (other.glyph == kind.glyph) fields.fail("glyph", "one not used by " + other.name + " already");
        if (other.color == kind.color) fields.fail("color", "one not used by " + other.name + " already");
      }
      kinds.push_back(std::move(kind));
    }
    return kinds;
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
          std::string shown;
          if (glyph && is_printable(*glyph)) append_glyph(shown, *glyph);
          source_.fail(place_of_row(node, static_cast<std::size_t>(rows), col),
                       "glyph '" + shown + "' at " + std::to_string(col) + "," + std::to_string(rows) + " of the map",
                       "the glyph of a [terrain.name]");
        }
        cells.push_back(known->second);
        ++col;
      }
      if (rows == 0) width = col;
      const auto place = [&] { return place_of_row(node, static_cast<std::size_t>(rows), std::min(col, width)); };
      if (width == 0) source_.fail(place(), "an empty row", "at least one cell");
      if (col != width) {
        source_.fail(place(), "row " + std::to_string(rows) + " with " + std::to_string(col) + " cells",
                     std::to_string(width) + " as in row 0");
      }
      if (width > max_line_cells || rows >= max_line_cells || cells.size() > max_map_cells) {
        source_.fail(place(), "a larger map", "at most 65535 cells in a line and 33554432 in all");
      }
    }
    Grid<TerrainId> terrain(Size{static_cast<std::int32_t>(width), rows});
    std::copy(cells.begin(), cells.end(), terrain.values().begin());
    return terrain;
  }

  // ---- movers

  void read_movers(const toml::node& node) {
    for (const NamedTable& entry : named_tables(source_, node, "mover")) {
      const Fields fields(source_, *entry.table, "[mover." + entry.name + "]",
                          {"steps", "corners", "size", "diagonal", "climb", "drop", "costs"});
      Mover mover{.name = entry.name};
      const Tiling tiling = scenario_.map.tiling();
      mover.rules.steps = static_cast<int>(fields.whole_or("steps", 1, 12, default_steps(tiling)));
      if (const auto problem = mover_problem(tiling, mover)) fields.fail("steps", std::string(*problem));
      if (fields.has("corners")) {
        mover.rules.corners = static_cast<Corners>(fields.word("corners", {"strict", "lenient", "free"}));
      }
      if (fields.has("diagonal")) {
        if (tiling.shape() != Shape::square) fields.fail("diagonal", "no such key except on square maps");
        mover.rules.diagonal = static_cast<Length>(fields.hundredths("diagonal", min_diagonal, max_diagonal));
      }
      mover.size =
          static_cast<int>(fields.whole_or("size", 1, tiling.shape() == Shape::triangle ? 1 : max_mover_size, 1));
      constexpr std::int64_t most_height_difference = 65'535;
      if (fields.has("climb"))
        mover.climb = static_cast<std::int32_t>(fields.whole("climb", 0, most_height_difference));
      if (fields.has("drop")) mover.drop = static_cast<std::int32_t>(fields.whole("drop", 0, most_height_difference));
      if (const toml::node* costs = fields.find("costs")) read_costs(*costs, mover);
      scenario_.movers.push_back(std::move(mover));
    }
  }

  void read_costs(const toml::node& node, Mover& mover) const {
    if (!node.is_table()) source_.fail(node, "costs = " + describe(node), "a table such as { kelp = 2.5 }");
    mover.costs.resize(scenario_.map.kinds().size());
    std::vector<std::pair<toml::source_position, std::string>> in_order;
    for (auto&& [key, value] : *node.as_table()) in_order.emplace_back(key.source().begin, std::string(key.str()));
    std::sort(in_order.begin(), in_order.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    for (const auto& [at, name] : in_order) {
      const auto id = scenario_.map.find_kind(name);
      if (!id) source_.fail(at, "terrain \"" + name + "\"", "the name of a [terrain.name]");
      mover.costs[*id] = entry_cost(*node.as_table()->get(name), name);
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

  template <typename Named>
  std::string unique_name(const Fields& fields, const std::vector<Named>& others) const {
    std::string name = fields.text("name");
    if (name.empty()) fields.fail("name", "a name");
    for (const Named& other : others) {
      if (other.name == name) fields.fail("name", "a name not used before");
    }
    return name;
  }

  void read_unit(const toml::table& table) {
    const Fields fields(source_, table, "[[unit]]", {"name", "at", "footprint", "offsets", "turn", "blocks", "opaque"});
    const Tiling tiling = scenario_.map.tiling();
    Unit unit{.name = unique_name(fields, scenario_.units), .at = fields.cell("at")};
    unit.footprint = read_footprint(fields, tiling);
    unit.turn = static_cast<int>(fields.whole_or("turn", 0, full_turn(tiling) - 1, 0));
    unit.blocks = fields.flag_or("blocks", true);
    unit.opaque = fields.flag_or("opaque", false);
    if (tiling.shape() == Shape::triangle && fields.has("footprint") && tiling.kind(unit.at) != 0) {
      fields.fail("at", "a triangle that points up, as the drawing's top left does");
    }
    unit.footprint.turned(tiling, unit.turn).cells_at(tiling, unit.at, unit.cells);
    if (standing_.size() != scenario_.map.size()) standing_ = BitGrid(scenario_.map.size());
    for (const Cell cell : unit.cells) {
      const std::string place = std::to_string(cell.col) + "," + std::to_string(cell.row);
      if (!scenario_.map.size().contains(cell)) {
        source_.fail(*fields.find("at"), "unit \"" + unit.name + "\" off the map at " + place,
                     "all its cells on the map");
      }
      if (standing_.test(cell)) {
        source_.fail(*fields.find("at"), "unit \"" + unit.name + "\" on another unit at " + place, "a free place");
      }
      standing_.set(cell);
    }
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
    Threat threat{.name = unique_name(fields, scenario_.threats)};
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
};

}  // namespace

const Mover* Scenario::find_mover(std::string_view name) const {
  if (name.empty()) return movers.empty() ? nullptr : &movers.front();
  const auto found = std::find_if(movers.begin(), movers.end(), [&](const Mover& m) { return m.name == name; });
  return found == movers.end() ? nullptr : &*found;
}

const Unit* Scenario::find_unit(std::string_view name) const {
  const auto found = std::find_if(units.begin(), units.end(), [&](const Unit& u) { return u.name == name; });
  return found == units.end() ? nullptr : &*found;
}

const RuleSet* Scenario::find_rules(std::string_view name) const {
  const auto found = std::find_if(rules.begin(), rules.end(), [&](const RuleSet& set) { return set.name == name; });
  return found == rules.end() ? nullptr : &*found;
}

std::string Scenario::rule_problem(const RuleWords& rule) const {
  using Kind = RuleWords::Kind;
  if (rule.kind == Kind::away_from || rule.kind == Kind::near_to) {
    const auto& kinds = map.kinds();
    const bool terrain = std::any_of(kinds.begin(), kinds.end(), [&](const Terrain& t) { return t.name == rule.name; });
    if (!terrain && find_unit(rule.name) == nullptr) return "the name of a terrain or a unit";
  } else if (rule.kind != Kind::against_wall && rule.kind != Kind::margin && !map.size().contains(rule.cell)) {
    return "a cell of the map, which is " + std::to_string(map.size().cols) + " x " + std::to_string(map.size().rows);
  }
  return {};
}

BitGrid Scenario::occupied(std::string_view except) const {
  BitGrid cells(map.size());
  for (const Unit& unit : units) {
    if (!unit.blocks || (!except.empty() && unit.name == except)) continue;
    for (const Cell cell : unit.cells) cells.set(cell);
  }
  return cells;
}

SightGrid Scenario::sight(std::string_view except) const {
  BitGrid opaque = opaque_terrain(map);
  for (const Unit& unit : units) {
    if (!unit.opaque || (!except.empty() && unit.name == except)) continue;
    for (const Cell cell : unit.cells) opaque.set(cell);
  }
  return {map.board(), opaque};
}

ThreatField Scenario::threat_field(const SightGrid& sight) const {
  ThreatField field(map.board(), void_terrain(map));
  for (const Threat& threat : threats) field.add(sight, threat.source);
  return field;
}

Result<Scenario> parse_scenario(std::string_view text, const std::string& name, const std::string& folder) {
  try {
    return ScenarioReader(plain_text(text), name, folder).read();
  } catch (const ReadFailure& failure) {
    return failure.error;
  }
}

Result<Scenario> read_scenario(const std::string& file) {
  const Result<std::string> text = read_file(file);
  if (!text) return text.error();
  if (file == "-") return parse_scenario(text.value(), "<stdin>");
  return parse_scenario(text.value(), file, std::filesystem::path(file).parent_path().string());
}

}  // namespace saunter::io
