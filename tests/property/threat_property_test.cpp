// Sides, arcs, threat fields and wary ways against slow versions written from the definitions.
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>
#include <functional>
#include <map>

#include "saunter/grid/frame.hpp"
#include "saunter/search/searcher.hpp"
#include "saunter/threat/cover.hpp"
#include "saunter/threat/weighed_ground.hpp"
#include "saunter/threat/front.hpp"
#include "saunter/threat/threat_field.hpp"
#include "support/seeds.hpp"
#include "support/random_maps.hpp"
#include "support/walk.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// Degrees clockwise from north, by floating point.
double bearing(Tiling tiling, Cell from, Cell to) {
  const Frame frame(tiling);
  const Point d = frame.centre(to) - frame.centre(from);
  const double degrees = std::atan2(d.x, -d.y) * 180 / 3.14159265358979323846;
  return degrees < 0 ? degrees + 360 : degrees;
}

double middle_of(Tiling tiling, Side side) {
  if (!tiling.is_hex()) return side * 45.0;
  return side * 60.0 + (tiling.shape() == Shape::hex_pointy ? 30.0 : 0.0);
}

double between(double a, double b) {
  const double apart = std::fabs(a - b);
  return apart > 180 ? 360 - apart : apart;
}

Threat random_source(Random& random, Tiling tiling, Size size) {
  Threat source;
  source.at = random.cell(size);
  source.range = Hundredths(static_cast<Length>(random.chance(10) ? 0 : random.whole(50, 900)));
  source.levels.clear();
  int fraction = 0;
  for (int bands = random.whole(1, 3); bands > 0 && fraction < 100; --bands) {
    fraction = random.whole(fraction + 1, 100);
    const int level = random.chance(15) ? random.whole(100, 65'535) : random.whole(0, 9);
    source.levels.push_back({Hundredths(static_cast<Length>(fraction)), static_cast<std::uint16_t>(level)});
  }
  source.needs_sight = random.chance(60);
  if (random.chance(40)) {
    source.facing = Side(random.whole(0, side_count(tiling) - 1));
    source.arc = random.whole(1, 360);
  }
  if (random.chance(20)) source.strength = random.hundredths(0, 400);
  return source;
}

/// What a source does to a cell, from the definition.
int level_by_definition(Tiling tiling, const SightGrid& sight, const BitGrid& nowhere, const Threat& source,
                        Cell cell) {
  if (sight.opaque(cell) || nowhere.test(cell)) return 0;
  if (source.needs_sight && !sees(sight, source.at, cell)) return 0;
  if (source.facing && cell != source.at && !Arc(tiling, *source.facing, source.arc).holds(source.at, cell)) return 0;
  const auto squared = static_cast<double>(distance_squared(tiling, source.at, cell));
  for (const ThreatBand& band : source.levels) {
    const double reach = static_cast<double>(band.fraction) * static_cast<double>(source.range);
    if (squared * 1e8 > reach * reach) continue;
    return static_cast<int>(std::min<std::uint64_t>((std::uint64_t{band.level} * source.strength + 50) / 100, 65'535));
  }
  return 0;
}

void require_sums(Tiling tiling, const SightGrid& sight, const BitGrid& nowhere, const ThreatField& field,
                  const std::map<ThreatField::ThreatId, Threat>& sources) {
  const Size size = sight.size();
  std::size_t wrong = 0;
  for (const Cell cell : size.cells()) {
    std::int64_t total = 0;
    std::array<std::int64_t, 8> sides = {};
    for (const auto& [id, source] : sources) {
      const int level = level_by_definition(tiling, sight, nowhere, source, cell);
      wrong += field.level_from(id, cell) == level ? 0U : 1U;
      total += level;
      for (Side side{0}; side < side_count(tiling); ++side) {
        const bool here = cell == source.at || side_towards(tiling, cell, source.at) == side;
        if (here) sides[static_cast<unsigned>(side)] += level;
      }
    }
    wrong += field.level(cell) == std::min<std::int64_t>(total, 65'535) ? 0U : 1U;
    for (Side side{0}; side < side_count(tiling); ++side) {
      wrong += field.side(cell, side) == std::min<std::int64_t>(sides[static_cast<unsigned>(side)], 255) ? 0U : 1U;
    }
  }
  REQUIRE(wrong == 0);
}

Levels random_levels(Random& random, Size size) {
  Levels levels(size);
  const int share = random.whole(10, 90);
  const int most = random.chance(10) ? 65'535 : random.whole(1, 9);
  for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
    if (random.chance(share)) levels[CellIndex{i}] = static_cast<std::uint16_t>(random.whole(1, most));
  }
  return levels;
}

/// length x (entry + wary x level x (1 + linger x (k - 1))) in hundredths, rounded half up.
std::uint64_t weight_by_definition(Length length, EntryCost entry, std::uint16_t level, int k, const Wariness& care) {
  const long double danger =
      static_cast<long double>(care.wary) * level * (100 + static_cast<long double>(care.linger) * (k - 1));
  const long double sum =
      static_cast<long double>(length) * (static_cast<long double>(entry) * 100 + (level == 0 ? 0 : danger));
  return static_cast<std::uint64_t>(std::floor((sum + 5000) / 10'000));
}

constexpr std::uint64_t none = ~std::uint64_t{0};

/// Least weighed sum to every cell, over all places (cell, exposed steps in a row), by relaxing until nothing changes.
std::vector<std::uint64_t> least_weighed(const CostGrid& costs, const Levels& levels, Cell from, const Wariness& care) {
  const Size size = costs.size();
  std::vector<std::array<std::uint64_t, 9>> sums(size.cell_count());
  for (auto& sum : sums) sum.fill(none);
  sums[size.index(from).value()][0] = 0;
  for (bool changed = true; changed;) {
    changed = false;
    for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
      const Cell cell = size.cell(CellIndex{i});
      for (int k = 0; k <= 8; ++k) {
        const std::uint64_t sum = sums[i][static_cast<unsigned>(k)];
        if (sum == none) continue;
        for (Direction d{0}; d < costs.rules().steps; ++d) {
          if (((costs.moves(cell) >> d) & 1U) == 0) continue;
          const Cell next = costs.tiling().neighbour(cell, d);
          const std::uint16_t level = levels[next];
          if (care.highest && level > *care.highest) continue;
          const int after = level == 0 ? 0 : std::min(k + 1, 8);
          const Length length = costs.step_length(costs.tiling().kind(cell), d);
          const std::uint64_t there = sum + weight_by_definition(length, costs.entry(next), level, after, care);
          std::uint64_t& known = sums[size.index(next).value()][static_cast<unsigned>(after)];
          if (known <= there) continue;
          known = there;
          changed = true;
        }
      }
    }
  }
  std::vector<std::uint64_t> least;
  for (const auto& sum : sums) least.push_back(*std::min_element(sum.begin(), sum.end()));
  return least;
}

}  // namespace

TEST_CASE("sides and arcs agree with the bearing, and rims and borders fall as documented") {
  for (const Tiling tiling : all_tilings()) {
    for (const std::uint64_t seed : seeds(3000)) {
      INFO("shape " << static_cast<int>(tiling.shape()) << " seed " << seed);
      Random random(seed);
      const Size size{60, 60};
      const Cell a = random.cell(size);
      const Cell b = random.cell(size);
      if (a == b) continue;
      const double degrees = bearing(tiling, a, b);
      const Side side = side_towards(tiling, a, b);
      const double half = 180.0 / side_count(tiling);
      // Clockwise of the border counts: the bearing lies in [middle - half, middle + half).
      double relative = degrees - middle_of(tiling, side);
      if (relative >= 180) relative -= 360;
      if (relative < -180) relative += 360;
      CHECK(relative >= -half - 1e-9);
      CHECK(relative < half + 1e-9);
      if (std::fabs(relative - half) < 1e-9) FAIL("on the border, but not the clockwise side");

      const Side facing(random.whole(0, side_count(tiling) - 1));
      const int arc = random.chance(30) ? random.whole(1, 12) * 30 : random.whole(1, 360);
      const double apart = between(degrees, middle_of(tiling, facing));
      CHECK(Arc(tiling, facing, arc).holds(a, b) == (apart <= arc / 2.0 + 1e-9));
      CHECK(Arc(tiling, facing, arc).holds(a, a));
    }
    for (Side side{0}; side < side_count(tiling); ++side) {
      CHECK(side_named(tiling, side_name(tiling, side)) == side);
    }
  }
  CHECK(side_named(Tiling::square(), "up") == -1);
  const Tiling pointy = Tiling::hex(HexTop::pointy, Shift::odd);
  CHECK(side_name(pointy, side_towards(pointy, {4, 4}, {4, 2})) == "ne");
  CHECK(side_name(pointy, side_towards(pointy, {4, 4}, {4, 6})) == "sw");
  const Tiling flat = Tiling::hex(HexTop::flat, Shift::odd);
  CHECK(side_name(flat, side_towards(flat, {4, 4}, {6, 4})) == "se");
  CHECK(side_name(flat, side_towards(flat, {4, 4}, {2, 4})) == "nw");
}

TEST_CASE("a threat field is the sum of its sources, whatever is added, moved, removed or hidden, on 1,000 maps") {
  std::size_t saturated = 0;
  for (const std::uint64_t seed : seeds(1000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Size size = random_size(random, 14);
    SightGrid sight({tiling, size});
    BitGrid nowhere(size);
    for (std::uint32_t i = 0; i < size.cell_count(); ++i) {
      if (random.chance(20)) sight.set_opaque(size.cell(CellIndex{i}), true);
      if (random.chance(5)) nowhere.set(size.cell(CellIndex{i}));
    }
    ThreatField field({tiling, size}, nowhere);
    std::map<ThreatField::ThreatId, Threat> sources;
    for (int i = random.whole(1, 10); i > 0; --i) {
      const int what = random.whole(0, 9);
      if (what <= 4 || sources.empty()) {
        const Threat source = random_source(random, tiling, size);
        sources[field.add(sight, source)] = source;
      } else if (what <= 8) {
        auto at = sources.begin();
        std::advance(at, random.whole(0, static_cast<int>(sources.size()) - 1));
        if (what == 5) {
          field.remove(at->first);
          sources.erase(at);
        } else if (what == 6) {
          at->second = random_source(random, tiling, size);
          field.replace(at->first, sight, at->second);
        } else {
          at->second.at = random.cell(size);
          field.move(at->first, sight, at->second.at);
        }
      } else {
        const Cell cell = random.cell(size);
        sight.set_opaque(cell, !sight.opaque(cell));
        field.refresh(sight, Rect::of(cell));
      }
    }
    CHECK(field.threat_count() == sources.size());
    require_sums(tiling, sight, nowhere, field, sources);
    saturated += field.highest() == 65'535 ? 1U : 0U;
    for (int i = 0; i < 5; ++i) {
      const Cell cell = random.cell(size);
      const Side facing(random.whole(0, side_count(tiling) - 1));
      const ThreatAround around = field.around(cell, facing);
      const Side worst = field.most_dangerous_side(cell);
      int most = 0;
      std::array<int, 2> flanks = {};
      const int count = side_count(tiling);
      for (int turn = 0; turn < count; ++turn) {
        const int level = field.side(cell, Side((facing + turn) % count));
        most = std::max(most, level);
        if (turn != 0 && turn != count / 2) flanks[turn < count / 2 ? 0U : 1U] += level;
      }
      CHECK((worst < 0 ? 0 : field.side(cell, worst)) == most);
      CHECK(around.ahead == field.side(cell, facing));
      CHECK(around.right == std::min(65'535, flanks[0]));
      CHECK(around.left == std::min(65'535, flanks[1]));
    }
  }
  CHECK(saturated > share_of(50));
}

TEST_CASE("wary and lingering ways weigh the least over all places, on 1,000 random maps") {
  WarySearcher searcher;
  WarySearcher striking;
  std::size_t found = 0;
  std::size_t refused = 0;
  for (const std::uint64_t seed : seeds(1000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground c = random_ground(random, 14, seed % 3 == 0);
    const Size size = c.costs.size();
    const Levels levels = random_levels(random, size);
    WaryOptions options;
    options.care.wary =
        Hundredths(static_cast<Length>(random.chance(10) ? random.whole(0, 100'000) : random.whole(0, 500)));
    options.care.linger = Hundredths(static_cast<Length>(random.chance(40) ? 0 : random.whole(1, 300)));
    if (random.chance(30)) options.care.highest = static_cast<std::uint16_t>(random.whole(0, 8));
    const Cell from = random.cell(size);
    const Cell to = random.cell(size);
    if (!c.costs.open(from) || !c.costs.open(to)) continue;
    const WaryRoute& route = searcher.route(c.costs, levels, from, to, options);
    if (from != to && options.care.highest && levels[to] > *options.care.highest) {
      CHECK(route.verdict() == Verdict{Reason::goal_blocked, to});
      continue;
    }
    const std::uint64_t least = least_weighed(c.costs, levels, from, options.care)[size.index(to).value()];
    if (least == none || least > max_cost) {
      CHECK(route.verdict().reason == (least == none ? Reason::no_way : Reason::cost_overflow));
      if (options.care.linger == 0) {
        WaryOptions struck = options;
        struck.strike_dead_ends = true;
        CHECK(striking.route(c.costs, levels, from, to, struck).verdict() == route.verdict());
      }
      ++refused;
      continue;
    }
    REQUIRE(route.found());
    ++found;
    CHECK(route.measure().weighed == least);
    if (options.care.linger == 0) {  // dead ends struck off change nothing
      WaryOptions struck = options;
      struck.strike_dead_ends = true;
      const WaryRoute& other = striking.route(c.costs, levels, from, to, struck);
      CHECK(other.measure().weighed == least);
      CHECK(walk(c.costs, other.cells()) == other.measure().cost);
    }
    CHECK(walk(c.costs, route.cells()) == route.measure().cost);
    // The measure of the way, step by step.
    std::uint64_t weighed = 0;
    std::uint64_t exposure = 0;
    std::uint32_t longest = 0;
    std::uint32_t stretch = 0;
    int k = 0;
    for (std::size_t i = 1; i < route.cells().size(); ++i) {
      const Cell a = route.cells()[i - 1];
      const Cell b = route.cells()[i];
      const Length length = c.costs.step_length(c.costs.tiling().kind(a), c.costs.tiling().direction(a, b));
      k = levels[b] == 0 ? 0 : std::min(k + 1, 8);
      stretch = levels[b] == 0 ? 0 : stretch + 1;
      longest = std::max(longest, stretch);
      weighed += weight_by_definition(length, c.costs.entry(b), levels[b], k, options.care);
      exposure += std::uint64_t{levels[b]} * length;
      if (options.care.highest) CHECK(levels[b] <= *options.care.highest);
    }
    CHECK(weighed == least);
    CHECK(route.measure().exposure == exposure);
    CHECK(route.measure().longest == longest);
    CHECK(route.measure().exposed_steps + route.measure().covered_steps == route.steps());
    // One hundredth less is not enough; exactly so much is.
    if (least == 0) continue;
    options.budget = Hundredths(static_cast<Cost>(least - 1));
    CHECK(searcher.route(c.costs, levels, from, to, options).verdict().reason == Reason::over_budget);
    options.budget = Hundredths(static_cast<Cost>(least));
    CHECK(searcher.route(c.costs, levels, from, to, options).found());
  }
  CHECK(found > share_of(300));
  CHECK(refused > share_of(50));
}

TEST_CASE("weighed ground: fields, reaches and routes on it cost what wary routes weigh, on 600 random maps") {
  WarySearcher wary;
  Searcher searcher;
  Field field;
  std::vector<Cell> way;
  std::size_t made = 0;
  std::size_t found = 0;
  for (const std::uint64_t seed : seeds(600)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground c = random_ground(random, 14, seed % 3 == 0);
    const Size size = c.costs.size();
    const Levels levels = random_levels(random, size);
    Wariness care{.wary = Hundredths(static_cast<std::uint32_t>(random.whole(0, 500)))};
    if (random.chance(40)) care.highest = static_cast<std::uint16_t>(random.whole(0, 8));
    std::uint64_t most = 0;
    for (const Cell cell : size.cells()) {
      const bool shunned = care.highest && levels[cell] > *care.highest;
      if (c.costs.open(cell))
        most = std::max(most, c.costs.entry(cell) + (shunned ? 0 : std::uint64_t{Length{care.wary}} * levels[cell]));
    }
    const std::optional<CostGrid> ground = weighed_ground(c.costs, levels, care);
    REQUIRE(ground.has_value() == (most <= max_entry_cost));
    CHECK_FALSE(weighed_ground(c.costs, levels, {.wary = care.wary, .linger = 1_hundredths}).has_value());
    if (!ground) continue;
    ++made;
    const Source goal{random.cell(size)};
    searcher.field_to(*ground, std::span(&goal, 1), field);
    for (int i = 0; i < 12; ++i) {
      const Cell from = random.cell(size);
      const WaryRoute& route = wary.route(c.costs, levels, from, goal.cell, {.care = care});
      REQUIRE(field.reached(from) == route.found());
      const Route& plain = searcher.route(*ground, from, goal.cell);
      REQUIRE(plain.found() == route.found());
      if (!route.found()) continue;
      ++found;
      CHECK(field.cost(from) == route.measure().weighed);
      CHECK(plain.cost() == route.measure().weighed);
      field.path(from, way);
      CHECK(exposure_of(c.costs, levels, way, care).weighed == route.measure().weighed);
    }
  }
  CHECK(made > share_of(400));
  CHECK(found > share_of(1500));
}

TEST_CASE("without danger a wary way is a plain one, and verdicts name the same cells, on 500 random maps") {
  WarySearcher wary;
  Searcher plain;
  for (const std::uint64_t seed : seeds(500)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground c = random_ground(random, 25, seed % 3 == 0);
    const Size size = c.costs.size();
    const Levels levels = random.chance(50) ? Levels(size) : random_levels(random, size);
    const Cell from{random.whole(-1, size.cols), random.whole(0, size.rows - 1)};
    const Cell to{random.whole(0, size.cols - 1), random.whole(-1, size.rows)};
    const Route& expected = plain.route(c.costs, from, to, {.by = Algorithm::astar});
    const WaryRoute& route = wary.route(c.costs, levels, from, to, {.care = {.wary = 0_steps}});
    CHECK(route.verdict() == expected.verdict());
    if (route.found()) CHECK(route.measure().cost == expected.cost());
  }
}

TEST_CASE("the front holds every best pair of cost and exposure, against all ways of 400 tiny maps") {
  std::size_t several = 0;
  for (const std::uint64_t seed : seeds(400)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    const Size size{random.whole(2, 4), random.whole(2, 3)};
    const CostGrid costs({tiling, size}, random_rules(random, tiling), [&](Cell) -> EntryCost {
      return static_cast<EntryCost>(random.chance(10) ? 0 : random.whole(50, 400));
    });
    Levels levels = random_levels(random, size);
    FrontOptions options;
    if (random.chance(20)) options.highest = static_cast<std::uint16_t>(random.whole(1, 6));
    const Cell from = random.cell(size);
    const Cell to = random.cell(size);
    if (!costs.open(from) || !costs.open(to)) continue;
    if (from != to && options.highest && levels[to] > *options.highest) continue;
    // Every way that enters no cell twice.
    std::vector<std::pair<std::uint64_t, std::uint64_t>> pairs;
    BitGrid used(size);
    const std::function<void(Cell, std::uint64_t, std::uint64_t)> go = [&](Cell at, std::uint64_t cost,
                                                                           std::uint64_t exposure) {
      if (at == to) {
        pairs.emplace_back(cost, exposure);
        return;
      }
      used.set(at);
      for (Direction d{0}; d < costs.rules().steps; ++d) {
        if (((costs.moves(at) >> d) & 1U) == 0) continue;
        const Cell next = costs.tiling().neighbour(at, d);
        if (used.test(next) || (options.highest && levels[next] > *options.highest)) continue;
        const Length length = costs.step_length(costs.tiling().kind(at), d);
        go(next, cost + costs.cost_of_step(at, d), exposure + std::uint64_t{levels[next]} * length);
      }
      used.set(at, false);
    };
    go(from, 0, 0);
    std::sort(pairs.begin(), pairs.end());
    std::vector<std::pair<std::uint64_t, std::uint64_t>> best;
    for (const auto& pair : pairs) {
      if (best.empty() || pair.second < best.back().second) best.push_back(pair);
    }
    const Front front = find_front(costs, levels, from, to, options);
    std::vector<std::pair<std::uint64_t, std::uint64_t>> found;
    for (const TradeOff& way : front.routes) {
      found.emplace_back(way.cost, way.exposure);
      const Exposure measure = exposure_of(costs, levels, way.cells);
      CHECK(measure.cost == way.cost);
      CHECK(measure.exposure == way.exposure);
      CHECK(way.cells.front() == from);
      CHECK(way.cells.back() == to);
    }
    CHECK(front.complete);
    REQUIRE(found == best);
    CHECK((front.verdict.reason == Reason::found) == !best.empty());
    several += best.size() > 1 ? 1U : 0U;
  }
  CHECK(several > share_of(30));
}

TEST_CASE("the ends of a front are the cheapest and the least exposed way, a bound on labels is told, on 100 maps") {
  WarySearcher searcher;
  std::size_t cut = 0;
  for (const std::uint64_t seed : seeds(100)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground c = random_ground(random, 40, false);
    const Size size = c.costs.size();
    const Levels levels = random_levels(random, size);
    const Cell from = random.cell(size);
    const Cell to = random.cell(size);
    const Front front = find_front(c.costs, levels, from, to);
    const WaryRoute& cheapest = searcher.route(c.costs, levels, from, to, {.care = {.wary = 0_steps}});
    CHECK(front.verdict.reason == cheapest.verdict().reason);
    if (!cheapest.found()) continue;
    REQUIRE(!front.routes.empty());
    CHECK(front.routes.front().cost == cheapest.measure().cost);
    for (std::size_t i = 1; i < front.routes.size(); ++i) {
      CHECK(front.routes[i].cost > front.routes[i - 1].cost);
      CHECK(front.routes[i].exposure < front.routes[i - 1].exposure);
    }
    // No weighing finds anything outside it.
    for (const Hundredths wary : {0.5_steps, 2_steps, 10_steps}) {
      const Exposure way = searcher.route(c.costs, levels, from, to, {.care = {.wary = wary}}).measure();
      const bool met = std::any_of(front.routes.begin(), front.routes.end(), [&](const TradeOff& best) {
        return best.cost <= way.cost && best.exposure <= way.exposure;
      });
      CHECK(met);
    }
    const Front few = find_front(c.costs, levels, from, to, {.most_labels = 20});
    if (few.complete) continue;
    ++cut;
    CHECK(few.labels == 20);
    for (std::size_t i = 0; i < few.routes.size(); ++i) CHECK(few.routes[i].cost == front.routes[i].cost);
  }
  CHECK(cut > share_of(10));
}

TEST_CASE("cover lists the places within reach where no danger is, nearest first") {
  Searcher searcher;
  for (const std::uint64_t seed : seeds(200)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground c = random_ground(random, 20, false);
    const Levels levels = random_levels(random, c.costs.size());
    const Cell from = random.cell(c.costs.size());
    const Field reach = searcher.reach(c.costs, from, {.budget = 8_steps});
    const auto highest = static_cast<std::uint16_t>(random.whole(0, 2));
    const std::vector<Cover> cover = find_cover(reach, levels, highest);
    std::size_t expected = 0;
    for (const Cell cell : c.costs.size().cells()) {
      expected += reach.reached(cell) && levels[cell] <= highest ? 1U : 0U;
    }
    CHECK(cover.size() == expected);
    for (std::size_t i = 1; i < cover.size(); ++i) {
      CHECK(cover[i - 1].cost <= cover[i].cost);
      if (cover[i - 1].cost == cover[i].cost) CHECK(cover[i - 1].cell < cover[i].cell);
    }
    for (const Cover& place : cover) CHECK((reach.cost(place.cell) == place.cost && levels[place.cell] <= highest));
  }
}
