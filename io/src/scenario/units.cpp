// [[unit]]
#include <algorithm>
#include <cstdlib>

#include "reading.hpp"
#include "saunter/io/text.hpp"

namespace saunter::inline v0_2::io::detail {
namespace {

constexpr std::size_t max_unit_cells = 4096;

/// offsets = [[dq, dr], ...], on hexes.
std::vector<Offset> read_offsets(const Fields& fields) {
  const Source& source = fields.source();
  std::vector<Offset> parts;
  Attempts attempt(source);
  for (const toml::node& node : fields.list("offsets", "a list of [dq, dr]")) {
    attempt([&] {
      const Cell part = cell_from(source, node);
      if (std::max(std::abs(std::int64_t{part.col}), std::abs(std::int64_t{part.row})) > max_line_cells) {
        source.fail(node, describe(node), "offsets of at most 65535");
      }
      const Offset offset{part.col, part.row};
      if (std::find(parts.begin(), parts.end(), offset) != parts.end()) {
        source.fail(node, "an offset given twice", "each offset once");
      }
      parts.push_back(offset);
    });
    if (parts.size() > max_unit_cells) fields.fail("offsets", "at most 4096 cells");
  }
  if (attempt.well() && parts.empty()) fields.fail("offsets", "at least one cell");
  return parts;
}

/// footprint = ["xx", "x."], on squares and triangles.
std::vector<Offset> read_drawing(const Fields& fields) {
  const Source& source = fields.source();
  std::vector<Offset> parts;
  std::int32_t row = 0;
  Attempts attempt(source);
  for (const toml::node& node : fields.list("footprint", "a list of rows such as [\"xx\", \"x.\"]")) {
    attempt([&] {
      const auto* text = node.as_string();
      if (text == nullptr || text->get().find_first_not_of("x.") != std::string::npos) {
        source.fail(node, describe(node), "a row of x and . only");
      }
      for (std::size_t col = 0; col < text->get().size(); ++col) {
        if (text->get()[col] == 'x') parts.push_back({static_cast<std::int32_t>(col), row});
      }
    });
    if (parts.size() > max_unit_cells) fields.fail("footprint", "at most 4096 cells");
    ++row;
  }
  if (attempt.well() && parts.empty()) fields.fail("footprint", "at least one cell");
  return parts;
}

Footprint read_footprint(const Fields& fields, Tiling tiling) {
  const bool hex = tiling.is_hex();
  if (hex && fields.has("footprint")) fields.fail("footprint", "offsets = [[dq, dr], ...] on hexes");
  if (!hex && fields.has("offsets")) fields.fail("offsets", "footprint = [\"xx\", \"x.\"] except on hexes");
  if (!fields.has(hex ? "offsets" : "footprint")) return {};
  std::vector<Offset> parts = hex ? read_offsets(fields) : read_drawing(fields);
  return parts.empty() ? Footprint() : Footprint(std::move(parts));
}

}  // namespace

void UnitReader::read(Reading& reading, const toml::table& table) {
  const Fields fields(reading.source, table, "[[unit]]",
                      {"name", "at", "footprint", "offsets", "turn", "blocks", "opaque"});
  const Tiling tiling = reading.scenario.map.tiling();
  Unit unit;
  Attempts attempt(reading.source);
  attempt([&] { unit.name = names_.take(fields); });
  attempt([&] { unit.at = fields.cell("at"); });
  attempt([&] {
    if (reading.tiling_known) unit.footprint = read_footprint(fields, tiling);
  });
  attempt([&] {
    unit.turn = static_cast<int>(fields.whole_or("turn", 0, (reading.tiling_known ? full_turn(tiling) : 6) - 1, 0));
  });
  attempt([&] { unit.blocks = fields.flag_or("blocks", true); });
  attempt([&] { unit.opaque = fields.flag_or("opaque", false); });
  attempt([&] {
    if (tiling.shape() == Shape::triangle && tiling.kind(unit.at) != 0) {
      fields.fail("at", "a triangle that points up, as the drawing's top left does");
    }
  });
  if (attempt.well() && reading.ground_known) stand(reading, fields, unit);
  reading.scenario.units.push_back(std::move(unit));
}

void UnitReader::stand(Reading& reading, const Fields& fields, Unit& unit) {
  const Size size = reading.scenario.map.size();
  unit.footprint.turned(reading.scenario.map.tiling(), unit.turn)
      .cells_at(reading.scenario.map.tiling(), unit.at, unit.cells);
  if (standing_.size() != size) standing_ = BitGrid(size);
  for (const Cell cell : unit.cells) {
    if (size.contains(cell) && !standing_.test(cell)) continue;
    const std::string place = std::to_string(cell.col) + "," + std::to_string(cell.row);
    unit.cells.clear();
    if (!size.contains(cell)) {
      reading.source.fail(*fields.find("at"), "unit " + shown(unit.name) + " off the map at " + place,
                          "all its cells on the map");
    }
    reading.source.fail(*fields.find("at"), "unit " + shown(unit.name) + " on another unit at " + place,
                        "a free place");
  }
  for (const Cell cell : unit.cells) standing_.set(cell);
}

}  // namespace saunter::inline v0_2::io::detail
