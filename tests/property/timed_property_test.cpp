// Threats with schedules, ways over cells and ticks, and cover that can be reached, against brute force.
#include <catch2/catch.hpp>
#include <cmath>

#include "saunter/grid/frame.hpp"
#include "saunter/search/estimate.hpp"
#include "saunter/threat/cover.hpp"
#include "saunter/threat/timed_route.hpp"
#include "support/oracle.hpp"
#include "support/seeds.hpp"
#include "support/random_changes.hpp"
#include "support/random_maps.hpp"
#include "support/walk.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

Threat random_threat(Random& random, Tiling tiling, Size size) {
  Threat threat{.at = random.cell(size), .levels = {{50_hundredths, 3}, {100_hundredths, 1}}};
  threat.range = Hundredths(static_cast<std::uint32_t>(random.whole(0, 500)));
  threat.needs_sight = random.chance(50);
  threat.arc = random.whole(1, 360);
  if (random.chance(50)) threat.facing = Side(random.whole(0, side_count(tiling) - 1));
  if (random.chance(30)) threat.facing = Facing::from_degrees(random.whole(0, 359));
  return threat;
}

Schedule random_schedule(Random& random, const Threat& threat, Size size) {
  Schedule schedule;
  std::uint32_t tick = 0;
  for (int i = random.whole(1, 4); i > 0; --i) {
    const Cell at = random.chance(50) ? threat.at : random.cell(size);
    schedule.posts.push_back({tick, at, threat.facing});
    if (random.chance(60)) schedule.posts.back().facing = Facing::from_degrees(random.whole(0, 359));
    tick += static_cast<std::uint32_t>(random.whole(1, 3));
  }
  if (random.chance(60)) schedule.repeat = tick;
  return schedule;
}

SightGrid random_sight(Random& random, const Map& map) {
  SightGrid sight(map.board());
  for (int i = random.whole(0, 8); i > 0; --i) sight.set_opaque(random.cell(map.size()), true);
  return sight;
}

}  // namespace

TEST_CASE("arcs by degrees hold what lies within them, and sides are the degrees they stand for") {
  Random random(7);
  for (int i = 0; i < 20'000; ++i) {
    const Tiling tiling = random.one_of(all_tilings());
    const Cell from{random.whole(-9, 9), random.whole(-9, 9)};
    const Cell to{random.whole(-9, 9), random.whole(-9, 9)};
    const int degrees = random.whole(0, 359);
    const int arc = random.whole(1, 360);
    const Arc held(tiling, Facing::from_degrees(degrees), arc);
    if (from == to) {
      REQUIRE(held.holds(from, to));
      continue;
    }
    const Frame frame(tiling);
    const Point d = frame.centre(to) - frame.centre(from);
    double apart = std::fabs(std::atan2(d.x, -d.y) * 180 / 3.14159265358979323846 - degrees);
    apart = std::fmod(apart, 360.0);
    if (apart > 180) apart = 360 - apart;
    if (std::fabs(apart - arc / 2.0) > 1e-6) REQUIRE(held.holds(from, to) == (apart < arc / 2.0 || arc == 360));
    const Side side(random.whole(0, side_count(tiling) - 1));
    REQUIRE(Arc(tiling, side, arc).holds(from, to) ==
            Arc(tiling, Facing::from_degrees(Facing(side).in_degrees(tiling)), arc).holds(from, to));
  }
}

TEST_CASE("danger by ticks is that of a field with every threat at its post, on 300 random maps") {
  Levels levels;
  for (const std::uint64_t seed : seeds(300)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Map map = random_map(random, tiling, random_size(random, 12));
    const SightGrid sight = random_sight(random, map);
    BitGrid nowhere(map.size());
    nowhere.set(random.cell(map.size()));
    TimedDanger danger(map.board(), nowhere);
    std::vector<std::pair<Threat, Schedule>> all;
    for (int i = random.whole(1, 4); i > 0; --i) {
      const Threat threat = random_threat(random, tiling, map.size());
      all.emplace_back(threat, random_schedule(random, threat, map.size()));
      REQUIRE(danger.add(sight, threat, all.back().second));
    }
    const Clock clock = danger.clock();
    for (const std::uint64_t tick : {0U, 1U, 2U, 3U, 5U, 8U, 13U, 100U}) {
      ThreatField field(map.board(), nowhere);
      for (const auto& [threat, schedule] : all) (void)field.add(sight, threat_at(threat, schedule, tick));
      danger.levels(tick, levels);
      REQUIRE(levels == field.levels());
      danger.levels(clock.phase(tick), levels);
      REQUIRE(levels == field.levels());
    }
    Schedule broken = all.front().second;
    broken.posts.push_back(broken.posts.front());
    REQUIRE_FALSE(danger.add(sight, all.front().first, broken));
    REQUIRE(danger.threat_count() == all.size());
  }
}

TEST_CASE("a sweep looks from one facing to the other and back, by its steps") {
  const Schedule swept = sweep({3, 4}, 350, 20, 12, 2);
  std::vector<int> looks;
  for (const Post& post : swept.posts) looks.push_back(post.facing->in_degrees(Tiling::square()));
  CHECK(looks == std::vector<int>{350, 2, 14, 20, 8, 356});
  CHECK(swept.repeat == 12);
  CHECK(swept.sound());
  CHECK(sweep({0, 0}, 90, 90, 10).posts.size() == 1);
  CHECK(sweep({0, 0}, 0, 90, 0).posts.size() == 1);
}

namespace {

/// Of all cells that the mover covers.
std::uint64_t level_under(const CostGrid& costs, const TimedDanger& danger, Cell place, std::uint64_t tick) {
  std::vector<Cell> body;
  body_cells(costs.tiling(), place, costs.mover_size(), body);
  std::uint64_t level = 0;
  for (const Cell cell : body) level = std::max<std::uint64_t>(level, danger.level(cell, tick));
  return level;
}

/// Least weighed sum to stand on each cell at any tick, tick by tick.
std::vector<std::uint64_t> best_over_ticks(const CostGrid& costs, const std::vector<CostGrid>& at_tick,
                                           const TimedDanger& danger, Cell from, const TimedOptions& options,
                                           std::size_t ticks) {
  const Size size = costs.size();
  const std::uint64_t highest = options.highest.value_or(65'535);
  std::vector<std::uint64_t> now(size.cell_count(), never);
  now[size.index(from).value()] = 0;
  std::vector<std::uint64_t> best = now;
  for (std::size_t t = 0; t < ticks; ++t) {
    const CostGrid& ground = at_tick[t];
    const CostGrid& after = at_tick[t + 1];
    std::vector<std::uint64_t> then(size.cell_count(), never);
    for (const Cell cell : size.cells()) {
      const std::uint64_t sum = now[size.index(cell).value()];
      if (sum == never) continue;
      const auto offer = [&](Cell next, std::uint64_t length, std::uint64_t entry) {
        const std::uint64_t level = level_under(costs, danger, next, options.begin + t + 1);
        if (!after.open(next) || level > highest) return;
        std::uint64_t& known = then[size.index(next).value()];
        known = std::min(known, sum + (length * (entry + Length{options.wary} * level) + 50) / 100);
      };
      offer(cell, 100, std::max<Length>(options.waiting, 1));
      for (const Direction d : directions(ground.open(cell) ? ground.moves(cell) : 0)) {
        const Cell next = costs.tiling().neighbour(cell, d);
        offer(next, costs.step_length(costs.tiling().kind(cell), d), costs.entry(next));
      }
    }
    now = then;
    for (std::size_t i = 0; i < best.size(); ++i) best[i] = std::min(best[i], now[i]);
  }
  return best;
}

}  // namespace

TEST_CASE("ways over cells and ticks weigh least, through doors and past guards, on 1,000 small maps") {
  TimedSearcher searcher;
  int found = 0;
  int waited = 0;
  int blocked_for_good = 0;
  for (const std::uint64_t seed : seeds(1000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Map map = random_map(random, tiling, random_size(random, 6));
    Mover mover = random_mover(random, tiling);
    mover.size = std::min(mover.size, 2);
    mover.costs.clear();
    const CostGrid costs = bake(map, mover);

    const SightGrid sight = random_sight(random, map);
    TimedDanger danger(map.board());
    for (int i = random.whole(0, 2); i > 0; --i) {
      const Threat threat = random_threat(random, tiling, map.size());
      Schedule schedule = random_schedule(random, threat, map.size());
      if (schedule.repeat > 6) schedule.repeat = 0;
      REQUIRE(danger.add(sight, threat, schedule));
    }
    std::vector<Closure> closures;
    for (int i = random.whole(0, 3); i > 0; --i) {
      Closure closure{random.cell(map.size()), static_cast<std::uint32_t>(random.whole(0, 3)), 0, 0};
      closure.until = closure.from + static_cast<std::uint32_t>(random.whole(1, 4));
      if (random.chance(50)) closure.repeat = random.chance(50) ? 4 : 8;
      if (closure.repeat != 0) closure.until = std::min(closure.until, closure.repeat);
      closures.push_back(closure);
    }
    TimedOptions options{.begin = static_cast<std::uint32_t>(random.whole(0, 9)), .closures = closures};
    options.wary = Hundredths(static_cast<std::uint32_t>(random.whole(0, 500)));
    options.waiting = Hundredths(static_cast<std::uint32_t>(random.whole(0, 300)));
    if (random.chance(40)) options.highest = static_cast<std::uint16_t>(random.whole(0, 2));
    if (random.chance(20)) options.budget = Hundredths(static_cast<std::uint32_t>(random.whole(0, 3000)));
    const Cell from = random.cell(map.size());
    const Cell to = random.cell(map.size());
    const std::size_t ticks = 400;
    std::vector<CostGrid> at_tick;
    for (std::size_t t = 0; t <= ticks; ++t) {
      std::vector<EntryChange> shut;
      for (const Closure& closure : closures) {
        if (closure.shut(options.begin + t)) shut.push_back({closure.cell, blocked});
      }
      at_tick.push_back(shut.empty() ? costs : bake_changed(map, mover, shut));
    }
    const TimedRoute& route = searcher.route(costs, danger, from, to, options);
    if (!at_tick.front().open(from)) {
      REQUIRE(route.verdict() == Verdict{Reason::start_blocked, from});
      continue;
    }
    if (!costs.open(to)) {
      REQUIRE(route.verdict() == Verdict{Reason::goal_blocked, to});
      continue;
    }
    const std::vector<std::uint64_t> all = best_over_ticks(costs, at_tick, danger, from, options, ticks);
    const std::uint64_t best = all[map.size().index(to).value()];
    const std::uint64_t budget = options.budget ? std::uint64_t{Length{*options.budget}} : max_cost;
    REQUIRE(route.found() == (best <= budget));
    if (!route.found()) {
      bool ever = false;  // all repeats long before the last tick
      for (std::size_t t = 0; t <= ticks && !ever; ++t) {
        const std::uint64_t level = level_under(costs, danger, to, options.begin + t);
        ever = at_tick[t].open(to) && level <= options.highest.value_or(65'535);
      }
      blocked_for_good += ever ? 0 : 1;
      if (!ever) {
        REQUIRE(route.verdict() == Verdict{Reason::goal_blocked, to});
        continue;
      }
      const bool cut = route.verdict().reason == Reason::over_budget || route.verdict().reason == Reason::no_way;
      REQUIRE(cut);
      // The cell nearest to the goal of those the budget lasts to.
      const Estimate estimate(costs, to);
      Cell nearest = from;
      for (const Cell cell : map.size().cells()) {
        if (all[map.size().index(cell).value()] <= budget && estimate(cell) < estimate(nearest)) nearest = cell;
      }
      REQUIRE(estimate(route.verdict().at) == estimate(nearest));
      REQUIRE(all[map.size().index(route.verdict().at).value()] <= budget);
      continue;
    }
    ++found;
    waited += route.waits() > 0 ? 1 : 0;
    REQUIRE(route.weighed() == best);
    // Step by step.
    std::uint64_t weighed = 0;
    std::uint64_t exposure = 0;
    std::size_t waits = 0;
    for (std::size_t i = 1; i < route.cells().size(); ++i) {
      const Cell before = route.cells()[i - 1];
      const Cell cell = route.cells()[i];
      REQUIRE(at_tick[i].open(cell));
      const std::uint64_t level = level_under(costs, danger, cell, options.begin + i);
      std::uint64_t length = 100;
      std::uint64_t entry = std::max<Length>(options.waiting, 1);
      if (cell == before) {
        ++waits;
      } else {
        const Direction d = tiling.direction(before, cell);
        REQUIRE((d >= 0 && holds(at_tick[i - 1].moves(before), d)));
        length = costs.step_length(tiling.kind(before), d);
        entry = costs.entry(cell);
      }
      weighed += (length * (entry + Length{options.wary} * level) + 50) / 100;
      exposure += length * level;
    }
    REQUIRE(weighed == route.weighed());
    REQUIRE(exposure == route.exposure());
    REQUIRE(waits == route.waits());
  }
  CHECK(found > share_of(200));
  CHECK(waited > share_of(20));
  CHECK(blocked_for_good > share_of(8));
}

TEST_CASE("cover is the nearest by weighed sums, or the safest, on 1,500 random maps") {
  CoverFinder finder;
  std::vector<Cell> cells;
  for (const std::uint64_t seed : seeds(1500)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground ground = random_ground(random, 12, random.chance(40));
    const CostGrid& costs = ground.costs;
    const auto levels_of = [&](int share) {
      Levels levels(costs.size());
      for (std::uint16_t& level : levels.values()) {
        level = static_cast<std::uint16_t>(random.chance(share) ? random.whole(1, random.chance(5) ? 65'535 : 4) : 0);
      }
      return levels;
    };
    const Levels levels = levels_of(random.whole(30, 100));
    const Levels others = levels_of(random.whole(30, 100));
    CoverTerms terms{.most = static_cast<std::size_t>(random.whole(0, 5)), .safest_first = random.chance(40)};
    terms.care.wary = Hundredths(static_cast<std::uint32_t>(random.whole(0, 800)));
    if (random.chance(30)) terms.care.highest = static_cast<std::uint16_t>(random.whole(0, 3));
    terms.highest = static_cast<std::uint16_t>(random.whole(0, 2));
    if (random.chance(40)) terms.hidden_from = &others;
    if (random.chance(40)) terms.budget = Hundredths(static_cast<std::uint32_t>(random.whole(0, 3000)));
    const Cell from = random.cell(costs.size());
    // By relaxing until nothing changes.
    std::vector<std::uint64_t> least(costs.size().cell_count(), never);
    if (costs.open(from)) least[costs.size().index(from).value()] = 0;
    for (bool changed = true; changed;) {
      changed = false;
      for (const Cell cell : costs.size().cells()) {
        const std::uint64_t at = least[costs.size().index(cell).value()];
        for (const Direction d : directions(at == never ? 0 : costs.moves(cell))) {
          const Cell next = costs.tiling().neighbour(cell, d);
          if (terms.care.highest && levels[next] > *terms.care.highest) continue;
          const std::uint64_t length = costs.step_length(costs.tiling().kind(cell), d);
          const std::uint64_t weighs = costs.entry(next) + std::uint64_t{Length{terms.care.wary}} * levels[next];
          const std::uint64_t sum = at + (length * weighs + 50) / 100;
          if (sum >= least[costs.size().index(next).value()]) continue;
          least[costs.size().index(next).value()] = sum;
          changed = true;
        }
      }
    }
    const Levels& hides = terms.hidden_from != nullptr ? others : levels;
    std::vector<Cover> wanted;
    for (const Cell cell : costs.size().cells()) {
      const std::uint64_t sum = least[costs.size().index(cell).value()];
      if (sum > (terms.budget ? std::uint64_t{Length{*terms.budget}} : max_cost) || hides[cell] > terms.highest)
        continue;
      wanted.push_back({cell, static_cast<Cost>(sum), hides[cell]});
    }
    std::stable_sort(wanted.begin(), wanted.end(), [&](const Cover& a, const Cover& b) {
      if (terms.safest_first && a.level != b.level) return a.level < b.level;
      return a.cost < b.cost;
    });
    if (wanted.size() > std::max<std::size_t>(terms.most, 1)) wanted.resize(std::max<std::size_t>(terms.most, 1));
    const std::span<const Cover> found = finder.find(costs, levels, from, terms);
    REQUIRE(std::vector<Cover>(found.begin(), found.end()) == wanted);
    for (const Cover& cover : found) {
      finder.path(cover.cell, cells);
      REQUIRE((cells.front() == from && cells.back() == cover.cell));
      REQUIRE(exposure_of(costs, levels, cells, {.wary = terms.care.wary}).weighed == cover.cost);
    }
  }
}
