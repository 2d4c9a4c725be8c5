#include "saunter/io/write_scenario.hpp"

#include <algorithm>
#include <array>

#include "saunter/ground/glyph.hpp"
#include "saunter/io/png.hpp"

namespace saunter::inline v0_2::io {
namespace {

std::string in_quotes(std::string_view text) {
  std::string out = "\"";
  for (const char c : text) {
    constexpr std::string_view digits = "0123456789abcdef";
    if (c == '"' || c == '\\') {
      out += '\\';
      out += c;
    } else if (static_cast<unsigned char>(c) < 0x20 || c == 0x7F) {
      out += "\\u00";
      out += digits[static_cast<unsigned char>(c) >> 4U];
      out += digits[static_cast<unsigned char>(c) & 15U];
    } else {
      out += c;
    }
  }
  return out + "\"";
}

std::string key(std::string_view name) {
  constexpr std::string_view bare = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_-";
  const bool plain = !name.empty() && name.find_first_not_of(bare) == std::string_view::npos;
  return plain ? std::string(name) : in_quotes(name);
}

std::string pair(Cell cell) { return "[" + std::to_string(cell.col) + ", " + std::to_string(cell.row) + "]"; }

std::string cost_or_false(EntryCost cost) { return cost == blocked ? "false" : to_decimal(cost); }

class Writer {
 public:
  Writer(const Scenario& scenario, const std::string& stem, const WriteOptions& options)
      : scenario_(scenario), map_(scenario.map), stem_(stem), options_(options) {}

  Result<std::vector<NamedFile>> write() {
    files_.push_back({stem_ + ".toml", {}});
    text_ = "saunter = 1\n";
    if (!scenario_.title.empty()) text_ += "title = " + in_quotes(scenario_.title) + "\n";
    text_ += "\n[map]\n";
    write_tiling();
    if (auto error = write_terrain_layer()) return *error;
    write_heights();
    if (auto error = write_barriers_png()) return *error;
    for (const Terrain& kind : map_.kinds()) write_kind(kind);
    for (const Mover& mover : scenario_.movers) write_mover(mover);
    if (options_.barriers == BarrierForm::tables) write_barriers();
    for (const Unit& unit : scenario_.units) write_unit(unit);
    for (const NamedThreat& named : scenario_.threats) write_threat(named);
    write_rules();
    for (const Spot& spot : scenario_.spots) {
      text_ += "\n[[spot]]\n";
      line("name", in_quotes(spot.name));
      line("at", pair(spot.at));
    }
    for (const Patrol& patrol : scenario_.patrols) write_patrol(patrol);
    if (!scenario_.others.empty()) text_ += "\n" + scenario_.others;
    files_.front().bytes = std::move(text_);
    return std::move(files_);
  }

 private:
  void line(const std::string& name, const std::string& value) { text_ += name + " = " + value + "\n"; }

  void layer_file(const std::string& name, const std::string& ending, std::string bytes) {
    files_.push_back({stem_ + ending, std::move(bytes)});
    line(name, in_quotes(files_.back().name));
  }

  void write_tiling() {
    const Tiling tiling = map_.tiling();
    switch (tiling.shape()) {
      case Shape::square: line("tiling", "\"square\""); break;
      case Shape::triangle:
        line("tiling", "\"triangle\"");
        line("first", tiling.first() == FirstTriangle::up ? "\"up\"" : "\"down\"");
        break;
      case Shape::hex_pointy:
      case Shape::hex_flat:
        line("tiling", "\"hex\"");
        line("hex", tiling.shape() == Shape::hex_pointy ? "\"pointy\"" : "\"flat\"");
        line("shift", tiling.shift() == Shift::odd ? "\"odd\"" : "\"even\"");
        break;
    }
  }

  std::optional<Error> write_terrain_layer() {
    switch (options_.terrain) {
      case TerrainForm::rows: write_rows(); return std::nullopt;
      case TerrainForm::csv: return write_terrain_csv();
      case TerrainForm::png: break;
    }
    Grid<Rgb> pixels(map_.size());
    std::transform(map_.terrain().values().begin(), map_.terrain().values().end(), pixels.values().begin(),
                   [&](TerrainId id) { return map_.kind(id).color; });
    layer_file("terrain_png", ".terrain.png", encode_png(pixels));
    return std::nullopt;
  }

  void write_rows() {
    // A literal text holds anything but three apostrophes in a row.
    const auto& kinds = map_.kinds();
    const bool literal = std::none_of(kinds.begin(), kinds.end(), [](const Terrain& k) { return k.glyph == U'\''; });
    const std::string marks = literal ? "'''" : "\"\"\"";
    text_ += "rows = " + marks + "\n";
    for (std::int32_t row = 0; row < map_.size().rows; ++row) {
      for (const TerrainId id : map_.terrain().row(row)) {
        const char32_t glyph = map_.kind(id).glyph;
        if (!literal && (glyph == U'"' || glyph == U'\\')) text_ += '\\';
        append_glyph(text_, glyph);
      }
      text_ += "\n";
    }
    text_ += marks + "\n";
  }

  std::optional<Error> write_terrain_csv() {
    for (const Terrain& kind : map_.kinds()) {
      const std::string& name = kind.name;
      const bool blank_ends =
          name.empty() || name.front() == ' ' || name.back() == ' ' || name.front() == '\t' || name.back() == '\t';
      if (blank_ends || name.find_first_of(",\r\n") != std::string::npos) {
        return Error{stem_ + ".terrain.csv", 0, 0, "terrain " + in_quotes(name),
                     "a name without commas, line ends and blanks at its ends"};
      }
    }
    std::string csv;
    for (std::int32_t row = 0; row < map_.size().rows; ++row) {
      bool first = true;
      for (const TerrainId id : map_.terrain().row(row)) {
        if (!first) csv += ',';
        first = false;
        csv += map_.kind(id).name;
      }
      csv += '\n';
    }
    layer_file("terrain_csv", ".terrain.csv", std::move(csv));
    return std::nullopt;
  }

  void write_heights() {
    if (!map_.has_heights()) return;
    const auto heights = map_.heights().values();
    if (options_.heights != HeightForm::png) {
      std::string csv;
      for (std::int32_t row = 0; row < map_.size().rows; ++row) {
        bool first = true;
        for (const std::int16_t height : map_.heights().row(row)) {
          if (!first) csv += ',';
          first = false;
          csv += std::to_string(height);
        }
        csv += '\n';
      }
      if (options_.heights == HeightForm::rows) {
        text_ += "heights = '''\n" + csv + "'''\n";
      } else {
        layer_file("height_csv", ".heights.csv", std::move(csv));
      }
      return;
    }
    const auto [least, most] = std::minmax_element(heights.begin(), heights.end());
    constexpr int most_in_8_bits = 255;
    Grid<std::uint16_t> pixels(map_.size());
    std::transform(heights.begin(), heights.end(), pixels.values().begin(),
                   [base = *least](std::int16_t height) { return static_cast<std::uint16_t>(height - base); });
    layer_file("height_png", ".heights.png", encode_grey_png(pixels, *most - *least > most_in_8_bits ? 16 : 8));
    if (*least != 0) line("height_base", std::to_string(*least));
  }

  std::optional<Error> write_barriers_png() {
    if (options_.barriers != BarrierForm::png || !map_.has_barriers()) return std::nullopt;
    if (map_.tiling().shape() != Shape::square) {
      return Error{stem_ + ".barriers.png", 0, 0, "a map that is not square", "barriers as tables"};
    }
    Grid<std::uint16_t> pixels(map_.size());
    for (std::uint32_t i = 0; i < map_.size().cell_count(); ++i) {
      pixels[CellIndex{i}] = map_.closed_sides(map_.size().cell(CellIndex{i}));
    }
    layer_file("barriers_png", ".barriers.png", encode_grey_png(pixels, 4));  // four sides
    return std::nullopt;
  }

  void write_kind(const Terrain& kind) {
    text_ += "\n[terrain." + key(kind.name) + "]\n";
    std::string glyph;
    append_glyph(glyph, kind.glyph);
    line("glyph", in_quotes(glyph));
    line("color", in_quotes(hex_color(kind.color)));
    if (kind.is_void) line("void", "true");
    if (kind.cost != 100 && !kind.is_void) line("cost", cost_or_false(kind.cost));
    if (kind.opaque) line("opaque", "true");
    if (kind.breach != Cost{100}) line("breach", kind.breach ? to_decimal(*kind.breach) : "false");
  }

  void write_mover(const Mover& mover) {
    constexpr std::array<const char*, 3> corner_names = {"\"strict\"", "\"lenient\"", "\"free\""};
    text_ += "\n[mover." + key(mover.name) + "]\n";
    if (mover.rules.steps != 0) line("steps", std::to_string(mover.rules.steps));
    line("corners", corner_names[static_cast<unsigned>(mover.rules.corners)]);
    if (mover.size != 1) line("size", std::to_string(mover.size));
    if (mover.rules.diagonal != 141) line("diagonal", to_decimal(mover.rules.diagonal));
    if (mover.climb) line("climb", std::to_string(*mover.climb));
    if (mover.drop) line("drop", std::to_string(*mover.drop));
    std::string costs;
    for (std::size_t id = 0; id < mover.costs.size(); ++id) {
      if (!mover.costs[id]) continue;
      costs += (costs.empty() ? "" : ", ") + key(map_.kinds()[id].name) + " = " + cost_or_false(*mover.costs[id]);
    }
    if (!costs.empty()) line("costs", "{ " + costs + " }");
  }

  void write_barriers() {
    if (!map_.has_barriers()) return;
    const Tiling tiling = map_.tiling();
    for (const Cell cell : map_.size().cells()) {
      for (Direction d{0}; d < tiling.edge_count(); ++d) {
        const Cell other = tiling.neighbour(cell, d);
        if (!map_.size().contains(other) || !map_.closed(cell, d)) continue;
        const bool both = map_.closed(other, tiling.direction(other, cell));
        if (both && other < cell) continue;
        // One way: open from the other cell to this one.
        text_ += "\n[[barrier]]\nbetween = [" + pair(both ? cell : other) + ", " + pair(both ? other : cell) + "]\n";
        if (!both) line("one_way", "true");
      }
    }
  }

  void write_unit(const Unit& unit) {
    text_ += "\n[[unit]]\n";
    line("name", in_quotes(unit.name));
    line("at", pair(unit.at));
    if (unit.footprint.parts() != std::vector<Offset>{{0, 0}}) write_footprint(unit.footprint);
    if (unit.turn != 0) line("turn", std::to_string(unit.turn));
    if (!unit.blocks) line("blocks", "false");
    if (unit.opaque) line("opaque", "true");
  }

  void write_footprint(const Footprint& footprint) {
    std::string list;
    if (map_.tiling().is_hex()) {
      for (const Offset part : footprint.parts()) list += (list.empty() ? "" : ", ") + pair({part.cols, part.rows});
      line("offsets", "[" + list + "]");
      return;
    }
    Offset most;
    for (const Offset part : footprint.parts()) {
      most = {std::max(most.cols, part.cols), std::max(most.rows, part.rows)};
    }
    for (std::int32_t row = 0; row <= most.rows; ++row) {
      std::string drawn(static_cast<std::size_t>(most.cols) + 1, '.');
      for (const Offset part : footprint.parts()) {
        if (part.rows == row) drawn[static_cast<std::size_t>(part.cols)] = 'x';
      }
      list += (row == 0 ? "\"" : ", \"") + drawn + "\"";
    }
    line("footprint", "[" + list + "]");
  }

  [[nodiscard]] std::string facing_words(Facing facing) const {
    const std::string words = facing_name(map_.tiling(), facing);
    return facing.side() ? in_quotes(words) : words;
  }

  void write_schedule(const Schedule& schedule) {
    std::string list;
    for (const Post& post : schedule.posts) {
      list += (list.empty() ? "[" : ", [") + std::to_string(post.tick) + ", " + std::to_string(post.at.col) + ", " +
              std::to_string(post.at.row) + (post.facing ? ", " + facing_words(*post.facing) : "") + "]";
    }
    line("schedule", "[" + list + "]");
    if (schedule.repeat != 0) line("repeat", std::to_string(schedule.repeat));
  }

  void write_threat(const NamedThreat& named) {
    const Threat& threat = named.threat;
    text_ += "\n[[threat]]\n";
    line("name", in_quotes(named.name));
    line("at", pair(threat.at));
    line("range", to_decimal(threat.range));
    std::string levels;
    for (const ThreatBand& band : threat.levels) {
      levels += (levels.empty() ? "[" : ", [") + to_decimal(band.fraction) + ", " + std::to_string(band.level) + "]";
    }
    line("levels", "[" + levels + "]");
    if (threat.needs_sight) line("needs_sight", "true");
    if (threat.strength != 100) line("strength", to_decimal(threat.strength));
    // A post without a facing would take the threat's own: then only its posts tell.
    const bool by_posts = named.schedule && std::any_of(named.schedule->posts.begin(), named.schedule->posts.end(),
                                                        [](const Post& post) { return !post.facing; });
    if (threat.facing && !by_posts) {
      line("facing", facing_words(*threat.facing));
      line("arc", std::to_string(threat.arc));
    }
    if (named.schedule) write_schedule(*named.schedule);
  }

  void write_rules() {
    if (scenario_.rules.empty()) return;
    text_ += "\n[rules]\n";
    for (const RuleSet& set : scenario_.rules) {
      std::string list;
      for (const RuleWords& rule : set.rules) list += (list.empty() ? "" : ", ") + in_quotes(rule.text);
      line(in_quotes(set.name), "[" + list + "]");
    }
  }

  void write_patrol(const Patrol& patrol) {
    text_ += "\n[[patrol]]\n";
    line("name", in_quotes(patrol.name));
    if (!patrol.mover.empty()) line("mover", in_quotes(patrol.mover));
    std::string list;
    for (const Cell cell : patrol.cells) list += (list.empty() ? "" : ", ") + pair(cell);
    line("cells", "[" + list + "]");
    if (patrol.loop) line("loop", "true");
  }

  const Scenario& scenario_;
  const Map& map_;
  const std::string& stem_;
  const WriteOptions& options_;
  std::string text_;
  std::vector<NamedFile> files_;
};

}  // namespace

Result<std::vector<NamedFile>> write_scenario(const Scenario& scenario, const std::string& stem,
                                              const WriteOptions& options) {
  return Writer(scenario, stem, options).write();
}

}  // namespace saunter::inline v0_2::io
