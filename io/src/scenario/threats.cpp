// [[threat]]
#include "reading.hpp"

namespace saunter::inline v0::io::detail {
namespace {

std::vector<ThreatBand> read_levels(const Fields& fields) {
  const Source& source = fields.source();
  std::vector<ThreatBand> bands;
  const std::string expected = "[[fraction, level], ...] with fractions rising from above 0 to 1, levels 0 to 65535";
  Attempts attempt(source);
  for (const toml::node& node : fields.list("levels", expected)) {
    attempt([&] {
      const auto* pair = node.as_array();
      if (pair == nullptr || pair->size() != 2) source.fail(node, describe(node), expected);
      const auto fraction = hundredths_of((*pair)[0]);
      const auto* level = (*pair)[1].as_integer();
      const std::int64_t before = bands.empty() ? 0 : std::int64_t{Length{bands.back().fraction}};
      if (!fraction || *fraction <= before || *fraction > 100) source.fail((*pair)[0], describe((*pair)[0]), expected);
      if (level == nullptr || level->get() < 0 || level->get() > 65'535) {
        source.fail((*pair)[1], describe((*pair)[1]), expected);
      }
      bands.push_back({static_cast<Length>(*fraction), static_cast<std::uint16_t>(level->get())});
    });
  }
  if (attempt.well() && bands.empty()) fields.fail("levels", expected);
  return bands;
}

}  // namespace

Side read_facing(const Fields& fields, Tiling tiling) {
  const Side side = side_named(tiling, fields.text("facing"));
  if (side < 0) {
    std::string expected = "a side:";
    for (Side s{0}; s < side_count(tiling); ++s) expected += " " + std::string(side_name(tiling, s));
    fields.fail("facing", expected);
  }
  return side;
}

void read_threat(Reading& reading, Names& names, const toml::table& table) {
  const Fields fields(reading.source, table, "[[threat]]",
                      {"name", "at", "range", "levels", "needs_sight", "facing", "arc", "strength"});
  NamedThreat named;
  Threat& threat = named.threat;
  Attempts attempt(reading.source);
  attempt([&] { named.name = names.take(fields); });
  attempt([&] { threat.at = cell_on_map(reading, fields.require("at", "a cell")); });
  attempt([&] {
    constexpr std::int64_t most_range = std::int64_t{max_line_cells} * 100;
    threat.range = static_cast<Length>(fields.hundredths("range", 0, most_range));
  });
  attempt([&] { threat.needs_sight = fields.flag_or("needs_sight", false); });
  attempt([&] {
    if (fields.has("levels")) threat.levels = read_levels(fields);
  });
  attempt([&] {
    if (fields.has("facing")) {
      threat.facing = read_facing(fields, reading.scenario.map.tiling());
    } else if (fields.has("arc")) {
      fields.fail("arc", "facing beside it");
    }
  });
  attempt([&] { threat.arc = static_cast<int>(fields.whole_or("arc", 1, 360, 360)); });
  attempt([&] {
    if (fields.has("strength")) threat.strength = static_cast<Length>(fields.hundredths("strength", 0, 65'535));
  });
  reading.scenario.threats.push_back(std::move(named));
}

}  // namespace saunter::inline v0::io::detail
