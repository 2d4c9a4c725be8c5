// [[threat]]
#include <algorithm>

#include "reading.hpp"

namespace saunter::inline v0_2::io::detail {
namespace {

constexpr std::int64_t most_ticks = 1'000'000'000;

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
      bands.push_back({Hundredths(static_cast<Length>(*fraction)), static_cast<std::uint16_t>(level->get())});
    });
  }
  if (attempt.well() && bands.empty()) fields.fail("levels", expected);
  return bands;
}

/// Whether a post of its schedule has no facing.
bool looks_everywhere(const NamedThreat& named) {
  if (!named.schedule) return false;
  const std::vector<Post>& posts = named.schedule->posts;
  return std::any_of(posts.begin(), posts.end(), [](const Post& post) { return !post.facing; });
}

std::string facing_expected(Tiling tiling) {
  std::string expected = "a side:";
  for (Side s{0}; s < side_count(tiling); ++s) expected += " " + std::string(side_name(tiling, s));
  return expected + ", or whole degrees from 0 to 359";
}

/// Nothing when it is none.
std::optional<Facing> facing_of(const toml::node& node, Tiling tiling) {
  if (const auto* const degrees = node.as_integer()) {
    const std::int64_t value = degrees->get();
    return value < 0 || value > 359 ? std::nullopt : std::optional(Facing::from_degrees(static_cast<int>(value)));
  }
  const auto* const name = node.as_string();
  if (name == nullptr) return std::nullopt;
  const Side side = side_named(tiling, name->get());
  return side < 0 ? std::nullopt : std::optional<Facing>(side);
}

/// [tick, col, row, facing], where the facing may be left out: then it looks as the threat itself does.
Post read_post(const Reading& reading, const toml::node& node, const Threat& threat, std::int64_t after) {
  const Source& source = reading.source;
  constexpr const char* expected = "[tick, col, row, facing] with ticks rising from 0";
  const toml::array* const list = node.as_array();
  if (list == nullptr || list->size() < 3 || list->size() > 4) source.fail(node, describe(node), expected);
  const auto whole = [&](std::size_t place) {
    const auto* const number = (*list)[place].as_integer();
    if (number == nullptr) source.fail((*list)[place], describe((*list)[place]), expected);
    return number->get();
  };
  const std::int64_t tick = whole(0);
  const bool rising = after < 0 ? tick == 0 : tick > after;
  if (!rising || tick > most_ticks) source.fail((*list)[0], describe((*list)[0]), expected);
  const std::int64_t col = whole(1);
  const std::int64_t row = whole(2);
  const Size size = reading.scenario.map.size();
  const bool on_map = col >= 0 && col < size.cols && row >= 0 && row < size.rows;
  if (reading.ground_known && !on_map) {
    source.fail((*list)[1], std::to_string(col) + "," + std::to_string(row),
                "a cell of the map, which is " + std::to_string(size.cols) + " x " + std::to_string(size.rows));
  }
  Post post{static_cast<std::uint32_t>(tick),
            {static_cast<std::int32_t>(col), static_cast<std::int32_t>(row)},
            threat.facing};
  if (list->size() < 4 || !reading.tiling_known) return post;
  post.facing = facing_of((*list)[3], reading.scenario.map.tiling());
  if (!post.facing) source.fail((*list)[3], describe((*list)[3]), facing_expected(reading.scenario.map.tiling()));
  return post;
}

/// The threat is then as it is at tick 0.
void read_schedule(const Reading& reading, const Fields& fields, NamedThreat& named) {
  Schedule schedule;
  Attempts attempt(reading.source);
  std::int64_t after = -1;
  for (const toml::node& node : fields.list("schedule", "a list of [tick, col, row, facing]")) {
    attempt([&] {
      schedule.posts.push_back(read_post(reading, node, named.threat, after));
      after = schedule.posts.back().tick;
    });
  }
  if (attempt.well() && schedule.posts.empty()) fields.fail("schedule", "at least one [tick, col, row, facing]");
  if (fields.has("repeat")) {
    schedule.repeat = static_cast<std::uint32_t>(fields.whole("repeat", after + 1, most_ticks));
  }
  if (!attempt.well()) return;
  named.threat = threat_at(named.threat, schedule, 0);
  named.schedule = std::move(schedule);
}

}  // namespace

Facing read_facing(const Fields& fields, Tiling tiling) {
  const std::string expected = facing_expected(tiling);
  const std::optional<Facing> facing = facing_of(fields.require("facing", expected), tiling);
  if (!facing) fields.fail("facing", expected);
  return *facing;
}

void read_threat(Reading& reading, Names& names, const toml::table& table) {
  const Fields fields(
      reading.source, table, "[[threat]]",
      {"name", "at", "range", "levels", "needs_sight", "facing", "arc", "strength", "schedule", "repeat"});
  NamedThreat named;
  Threat& threat = named.threat;
  Attempts attempt(reading.source);
  attempt([&] { named.name = names.take(fields); });
  attempt([&] {
    if (fields.has("at") || !fields.has("schedule")) {
      threat.at = cell_on_map(reading, fields.require("at", "a cell, or a schedule"));
    }
  });
  attempt([&] {
    constexpr std::int64_t most_range = std::int64_t{max_line_cells} * 100;
    threat.range = Hundredths(static_cast<Length>(fields.hundredths("range", 0, most_range)));
  });
  attempt([&] { threat.needs_sight = fields.flag_or("needs_sight", false); });
  attempt([&] {
    if (fields.has("levels")) threat.levels = read_levels(fields);
  });
  attempt([&] {
    if (fields.has("facing")) {
      if (reading.tiling_known) threat.facing = read_facing(fields, reading.scenario.map.tiling());
    } else if (fields.has("arc") && !fields.has("schedule")) {
      fields.fail("arc", "facing beside it");
    }
  });
  attempt([&] { threat.arc = static_cast<int>(fields.whole_or("arc", 1, 360, 360)); });
  attempt([&] {
    if (fields.has("strength"))
      threat.strength = Hundredths(static_cast<Length>(fields.hundredths("strength", 0, 65'535)));
  });
  attempt([&] {
    if (fields.has("schedule")) {
      read_schedule(reading, fields, named);
      if (fields.has("arc") && looks_everywhere(named)) fields.fail("arc", "a facing at every post of the schedule");
    } else if (fields.has("repeat")) {
      fields.fail("repeat", "a schedule beside it");
    }
  });
  reading.scenario.threats.push_back(std::move(named));
}

}  // namespace saunter::inline v0_2::io::detail
