// What a prepared map looks up equals what a search finds, on every board, also after the board has changed, and after
// the index was stored and read.
#include <catch2/catch.hpp>
#include <cstring>
#include <map>

#include "saunter/search/prepared.hpp"
#include "saunter/search/searcher.hpp"
#include "saunter/search/path.hpp"
#include "support/seeds.hpp"
#include "support/random_changes.hpp"
#include "support/walk.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// Cost and legality of a route, by its own steps.
void check_route(const CostGrid& costs, const Route& route, Cell from, Cell to, const Route& search) {
  INFO("from " << from.col << "," << from.row << " to " << to.col << "," << to.row);
  REQUIRE(route.verdict() == search.verdict());
  REQUIRE(route.cost() == search.cost());
  if (!route.found()) return;
  REQUIRE(route.cells().front() == from);
  REQUIRE(route.cells().back() == to);
  std::uint64_t sum = 0;
  for (std::size_t i = 1; i < route.cells().size(); ++i) {
    const Direction d = costs.tiling().direction(route.cells()[i - 1], route.cells()[i]);
    REQUIRE(d >= 0);
    REQUIRE(holds(costs.moves(route.cells()[i - 1]), d));
    sum += costs.cost_of_step(route.cells()[i - 1], d);
  }
  REQUIRE(sum == route.cost());
}

/// The cells of straight parts, one after the other.
std::vector<Cell> follow_legs(Searcher& searcher, Tiling tiling, Cell from) {
  std::vector<Cell> cells = {from};
  while (const auto leg = searcher.next_leg()) {
    REQUIRE(leg->from == cells.back());
    REQUIRE(leg->steps > 0);
    for (std::uint32_t i = 0; i < leg->steps; ++i) cells.push_back(tiling.neighbour(cells.back(), leg->direction));
  }
  return cells;
}

/// Of two changes of one cell the later.
std::vector<EntryChange> last_of_each(const std::vector<EntryChange>& changes) {
  std::vector<EntryChange> last;
  for (const EntryChange& change : changes) {
    std::erase_if(last, [&](const EntryChange& other) { return other.cell == change.cell; });
    last.push_back(change);
  }
  return last;
}

/// Boards on which most of the index has something to do: rooms, rubble, weights, barriers, large movers.
Ground searchable_ground(Random& random, int most) { return random_ground(random, most, random.chance(40)); }

}  // namespace

TEST_CASE("looked up routes equal searched ones: 3,000 random boards, all tilings and movers, 20 questions each") {
  Searcher searcher;
  Searcher fresh;
  std::size_t looked_up = 0;
  std::size_t found = 0;
  for (const std::uint64_t seed : seeds(3000)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground ground = searchable_ground(random, 40);
    const CostGrid& costs = ground.costs;
    const Prepared index = prepare(costs);
    REQUIRE(index.follows(costs));
    for (int i = 0; i < 20; ++i) {
      const Cell from{random.whole(-1, costs.size().cols), random.whole(-1, costs.size().rows)};
      const Cell to = random.cell(costs.size());
      RouteOptions options;
      if (random.chance(20)) options.budget = random.hundredths(0, 3000);
      options.or_nearest = random.chance(20);
      const Route plain = fresh.route(costs, from, to, options);
      options.prepared = &index;
      const Route& route = searcher.route(costs, from, to, options);
      check_route(costs, route, from, to, plain);
      if (!plain.found()) REQUIRE(std::ranges::equal(route.cells(), plain.cells()));
      looked_up += route.algorithm() == Algorithm::prepared;
      found += route.found();
      if (options.budget || !plain.found()) continue;
      REQUIRE(route.algorithm() == Algorithm::prepared);
      REQUIRE(searcher.begin_legs(costs, from, to, index) == plain.cost());
      const std::vector<Cell> cells = follow_legs(searcher, costs.tiling(), from);
      REQUIRE(cells.back() == to);
    }
  }
  REQUIRE(looked_up > found / 2);
  REQUIRE(found > share_of(5000));
}

TEST_CASE("a prepared map follows its grid: 500 random boards, 200 changes each, asked after every fourth") {
  Searcher searcher;
  Searcher fresh;
  std::size_t looked_up = 0;
  std::size_t found = 0;
  for (const std::uint64_t seed : seeds(500)) {
    INFO("seed " << seed);
    Random random(seed);
    Ground ground = searchable_ground(random, 32);
    BitGrid occupied(ground.map.size());
    Prepared index = prepare(ground.costs);
    for (int change = 1; change <= 200; ++change) {
      random_change(random, ground.map, occupied, ground.mover, ground.costs);
      if (change == 100 && random.chance(50)) index = prepare(ground.costs);
      if (change % 4 != 0) continue;
      const Cell from = random.cell(ground.costs.size());
      const Cell to = random.cell(ground.costs.size());
      const Route plain = fresh.route(ground.costs, from, to);
      if (random.chance(50)) {  // not told: it does not follow, so a search answers
        check_route(ground.costs, searcher.route(ground.costs, from, to, {.prepared = &index}), from, to, plain);
      }
      REQUIRE(index.follow(ground.costs));
      const Route& route = searcher.route(ground.costs, from, to, {.by = Algorithm::prepared, .prepared = &index});
      check_route(ground.costs, route, from, to, plain);
      if (!plain.found()) continue;
      ++found;
      looked_up += route.algorithm() == Algorithm::prepared;
      REQUIRE(searcher.begin_legs(ground.costs, from, to, index) == plain.cost());
      REQUIRE(follow_legs(searcher, ground.costs.tiling(), from).back() == to);
    }
  }
  REQUIRE(looked_up > found / 20);
}

TEST_CASE("one cell that opens or closes is answered by the index itself: 1,000 random boards") {
  Searcher searcher;
  Searcher fresh;
  std::size_t looked_up = 0;
  std::size_t found = 0;
  for (const std::uint64_t seed : seeds(1000)) {
    INFO("seed " << seed);
    Random random(seed);
    Ground ground = searchable_ground(random, 40);
    if (ground.costs.has_sides()) continue;
    Prepared index = prepare(ground.costs);
    for (int i = 0; i < 8; ++i) {
      const Cell cell = random.cell(ground.costs.size());
      const EntryCost before = ground.costs.ground_entry(cell);
      REQUIRE(ground.costs.set_entry(cell, Hundredths(before == blocked   ? 100U
                                                      : random.chance(50) ? 0U
                                                                          : before * 2U % 60'000)));
      REQUIRE(index.follow(ground.costs));
      for (int question = 0; question < 4; ++question) {
        const Cell from = random.chance(10) ? cell : random.cell(ground.costs.size());
        const Cell to = random.chance(10) ? cell : random.cell(ground.costs.size());
        const Route plain = fresh.route(ground.costs, from, to);
        const Route& route = searcher.route(ground.costs, from, to, {.prepared = &index});
        check_route(ground.costs, route, from, to, plain);
        found += plain.found();
        looked_up += route.algorithm() == Algorithm::prepared;
      }
      REQUIRE(ground.costs.set_entry(cell, Hundredths(before)));
    }
  }
  REQUIRE(looked_up * 10 > found * 8);
}

TEST_CASE("what one question sees dearer or closed is answered by the index unless it lies on the way, on 600 boards") {
  Searcher searcher;
  Searcher fresh;
  std::size_t looked_up = 0;
  std::size_t found = 0;
  for (const std::uint64_t seed : seeds(600)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground ground = searchable_ground(random, 32);
    const CostGrid& costs = ground.costs;
    const Prepared index = prepare(costs);
    for (int question = 0; question < 15; ++question) {
      std::vector<EntryChange> changes(static_cast<std::size_t>(random.whole(1, 4)));
      bool dearer = true;
      for (EntryChange& change : changes) {
        change.cell = random.cell(costs.size());
        const EntryCost before = costs.ground_entry(change.cell);
        const bool opens = (before == blocked && random.chance(20)) || random.chance(10);
        change.cost = opens ? 1_hundredths
                      : before == blocked || random.chance(50)
                          ? 0_steps
                          : Hundredths(std::min(65'535U, before + static_cast<unsigned>(random.whole(0, 300))));
      }
      for (std::size_t i = 0; i < changes.size(); ++i) {  // of two for one cell the later counts
        const auto same = [&](const EntryChange& later) { return later.cell == changes[i].cell; };
        if (std::any_of(changes.begin() + static_cast<std::ptrdiff_t>(i) + 1, changes.end(), same)) continue;
        const EntryCost before = costs.ground_entry(changes[i].cell);
        dearer = dearer && (changes[i].cost == 0_steps || (before != blocked && changes[i].cost >= before));
      }
      const Cell from = random.cell(costs.size());
      const Cell to = random.cell(costs.size());
      RouteOptions options{.changes = changes, .or_nearest = random.chance(20)};
      if (random.chance(20)) options.budget = Hundredths(static_cast<std::uint32_t>(random.whole(0, 4000)));
      const Route plain = fresh.route(costs, from, to, options);
      options.prepared = &index;
      const Route& route = searcher.route(costs, from, to, options);
      REQUIRE(route.verdict() == plain.verdict());
      REQUIRE(route.cost() == plain.cost());
      if (!route.cells().empty()) {
        REQUIRE(walk(bake_changed(ground.map, ground.mover, last_of_each(changes)), route.cells()) == route.cost());
      }
      found += plain.found();
      if (route.algorithm() != Algorithm::prepared) continue;
      ++looked_up;
      REQUIRE((dearer || ground.mover.size > 1));  // of a large one other cells may decide
    }
  }
  REQUIRE(looked_up * 4 > found);
}

TEST_CASE("tables of costs and the nearest goals equal single searches: 500 random boards, changed ones too") {
  Searcher searcher;
  Searcher fresh;
  for (const std::uint64_t seed : seeds(500)) {
    INFO("seed " << seed);
    Random random(seed);
    Ground ground = searchable_ground(random, 32);
    BitGrid occupied(ground.map.size());
    Prepared index = prepare(ground.costs);
    for (int round = 0; round < 2; ++round) {
      std::vector<Cell> from(static_cast<std::size_t>(random.whole(1, 5)));
      std::vector<Cell> goals(static_cast<std::size_t>(random.whole(0, 7)));
      const auto any_cell = [&] {
        return Cell{random.whole(-1, ground.map.size().cols), random.whole(-1, ground.map.size().rows)};
      };
      for (Cell& cell : from) cell = any_cell();
      for (Cell& cell : goals) cell = any_cell();
      std::vector<Cost> table(from.size() * goals.size());
      searcher.cost_table(ground.costs, from, goals, table, index);
      for (std::size_t i = 0; i < from.size(); ++i) {
        std::vector<NearGoal> wanted;
        for (std::size_t j = 0; j < goals.size(); ++j) {
          const Route& plain = fresh.route(ground.costs, from[i], goals[j]);
          const Cost cost = plain.found() ? plain.cost() : unreached;
          REQUIRE(table[i * goals.size() + j] == cost);
          REQUIRE(searcher.cost(ground.costs, from[i], goals[j], index) == cost);
          if (plain.found()) wanted.push_back({j, cost});
        }
        std::ranges::stable_sort(wanted, {}, &NearGoal::cost);
        const auto most = static_cast<std::size_t>(random.whole(0, 8));
        if (wanted.size() > most) wanted.resize(most);
        std::vector<NearGoal> near;
        searcher.nearest_goals(ground.costs, from[i], goals, most, near, index);
        REQUIRE(near == wanted);
      }
      random_change(random, ground.map, occupied, ground.mover, ground.costs);
      if (random.chance(50)) REQUIRE(index.follow(ground.costs));
    }
  }
}

TEST_CASE(
    "an index is the same whatever the slices, the workers and the bytes it was read from, on 300 random boards") {
  Searcher searcher;
  Searcher fresh;
  for (const std::uint64_t seed : seeds(300)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground ground = searchable_ground(random, 40);
    const CostGrid& costs = ground.costs;
    Prepared index = prepare(costs);
    Preparation slices(costs);
    double done = 0;
    while (!slices.work(static_cast<std::size_t>(random.whole(1, 60)))) {
      REQUIRE(!slices.done());
      REQUIRE(slices.take().empty());
      REQUIRE(slices.share_done() >= done);
      done = slices.share_done();
    }
    REQUIRE(slices.done());
    const Prepared by_slices = slices.take();
    REQUIRE(std::ranges::equal(index.bytes(), by_slices.bytes()));
    REQUIRE(slices.take().empty());
    const auto backwards = [](std::size_t workers, auto&& job) {
      while (workers-- > 0) job(workers);
    };
    const Prepared by_workers = prepare(costs, {}, static_cast<std::size_t>(random.whole(1, 4)), backwards);
    REQUIRE(std::ranges::equal(index.bytes(), by_workers.bytes()));

    auto stored = std::make_shared<std::vector<std::uint64_t>>(index.bytes().size() / 8);
    std::memcpy(stored->data(), index.bytes().data(), index.bytes().size());
    index = {};
    const auto read = Prepared::from_bytes(std::as_bytes(std::span(*stored)), stored, costs);
    REQUIRE(read.problem == "");
    stored.reset();
    for (int i = 0; i < 10; ++i) {
      const Cell from = random.cell(costs.size());
      const Cell to = random.cell(costs.size());
      const Route plain = fresh.route(costs, from, to);
      check_route(costs, searcher.route(costs, from, to, {.prepared = &read.index}), from, to, plain);
    }
  }
}

namespace {

/// The checksum of a stored index, so that damage can be made that it does not tell.
std::uint64_t checksum(std::span<const std::uint64_t> words) {
  std::uint64_t sum = 0x243F'6A88'85A3'08D3ULL;
  for (const std::uint64_t word : words.subspan(3)) sum = std::rotl((sum ^ word) * 0x9E37'79B9'7F4A'7C15ULL, 29);
  return sum;
}

}  // namespace

TEST_CASE(
    "an index altered by someone who makes the checksum right is refused, or leads by legal ways, 20,000 of them") {
  Searcher searcher;
  std::size_t accepted = 0;
  for (const std::uint64_t seed : seeds(100)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground ground = searchable_ground(random, 30);
    // With little memory most places keep ways over each other, which are taken apart.
    const Prepared index = prepare(ground.costs, {.most_bytes = static_cast<std::size_t>(random.whole(0, 3000))});
    std::vector<std::uint32_t> whole(index.bytes().size() / 4);
    std::memcpy(whole.data(), index.bytes().data(), index.bytes().size());
    // The head tells the kind of ways and how long each part is; the ways come fourth.
    const std::size_t head = 36;
    const auto bytes_of_part = [&](std::size_t part) { return std::size_t{whole[14 + 2 * part]}; };
    const std::size_t entry = 1 + 2 * std::size_t{whole[10]};
    std::size_t ways = head;
    for (std::size_t part = 0; part < 3; ++part) ways += (bytes_of_part(part) + 7) / 8 * 2;
    const int count = static_cast<int>(bytes_of_part(3) / 4 / entry);
    for (int i = 0; i < 200 && count > 1; ++i) {
      INFO("alteration " << i);
      std::vector<std::uint32_t> altered = whole;
      const auto way = [&] { return ways + static_cast<std::size_t>(random.whole(0, count - 1)) * entry; };
      const auto word = [&] { return static_cast<std::size_t>(random.whole(36, static_cast<int>(whole.size()) - 1)); };
      const auto cost_of = [&](std::size_t one) {
        return one + 1 + static_cast<std::size_t>(random.whole(0, 1)) % (entry / 2);
      };
      std::size_t at = way();
      switch (random.whole(0, 4)) {
        case 0: altered[word()] = unreached; break;
        case 1: altered[cost_of(at)] = unreached; break;
        case 2: {  // a double beside a way: it costs nothing that could be checked, and leads anywhere
          at = std::min(at, ways + static_cast<std::size_t>(count - 2) * entry);
          const bool before = random.chance(50);
          std::copy_n(altered.begin() + static_cast<std::ptrdiff_t>(before ? at + entry : at), entry,
                      altered.begin() + static_cast<std::ptrdiff_t>(before ? at : at + entry));
          if (!before) at += entry;
          for (std::size_t k = 1; k < entry; ++k) altered[at + k] = k <= entry / 2 ? unreached : altered[word()];
          if (random.chance(50)) altered[at + entry / 2 + 1] = 0xFFFF'FFF0U + static_cast<unsigned>(random.whole(0, 9));
          break;
        }
        case 3:
          std::copy_n(whole.begin() + static_cast<std::ptrdiff_t>(way()), entry,
                      altered.begin() + static_cast<std::ptrdiff_t>(at));
          break;
        default: std::swap(altered[word()], altered[word()]);
      }
      std::vector<std::uint64_t> sealed(altered.size() / 2);
      std::memcpy(sealed.data(), altered.data(), sealed.size() * 8);
      sealed[2] = checksum(sealed);
      const auto read = Prepared::from_bytes(std::as_bytes(std::span(sealed)), {}, ground.costs);
      if (!read.problem.empty()) continue;
      ++accepted;
      for (int question = 0; question < 6; ++question) {
        const Cell from = random.cell(ground.costs.size());
        const Cell to = random.cell(ground.costs.size());
        const Route& route = searcher.route(ground.costs, from, to, {.prepared = &read.index});
        if (!route.found()) continue;
        REQUIRE(route.cells().front() == from);
        REQUIRE(route.cells().back() == to);
        REQUIRE(cost_of_path(ground.costs, route.cells()) == route.cost());
      }
    }
  }
  INFO("accepted " << accepted);
  CHECK(accepted > 0);
}

TEST_CASE("damaged bytes are refused, and never lead out of memory: 10,000 of them, half with a true checksum") {
  Searcher searcher;
  std::size_t accepted = 0;
  for (const std::uint64_t seed : seeds(100)) {
    INFO("seed " << seed);
    Random random(seed);
    const Ground ground = searchable_ground(random, 24);
    const Prepared index = prepare(ground.costs);
    std::vector<std::uint64_t> whole(index.bytes().size() / 8);
    std::memcpy(whole.data(), index.bytes().data(), index.bytes().size());
    REQUIRE(checksum(whole) == whole[2]);
    for (int i = 0; i < 100; ++i) {
      std::vector<std::uint64_t> damaged = whole;
      const auto at = static_cast<std::size_t>(random.whole(0, static_cast<int>(whole.size()) - 1));
      const int what = random.whole(0, 3);
      if (what == 0) damaged.resize(at);
      if (what == 1) damaged[at] ^= std::uint64_t{1} << random.whole(0, 63);
      if (what == 2) damaged[at] = random.next();
      if (what == 3) damaged[at] += random.chance(50) ? 1 : ~std::uint64_t{0};
      const bool resealed = i % 2 == 0 && damaged.size() > 3 && at > 2;
      if (resealed) damaged[2] = checksum(damaged);
      const auto read = Prepared::from_bytes(std::as_bytes(std::span(damaged)), {}, ground.costs);
      if (read.problem.empty()) {
        REQUIRE((resealed || damaged == whole));  // a checksum made on purpose may fit other bytes of no account
        ++accepted;
        for (int question = 0; question < 4; ++question) {
          const Cell from = random.cell(ground.costs.size());
          const Cell to = random.cell(ground.costs.size());
          (void)searcher.route(ground.costs, from, to, {.prepared = &read.index});
        }
      } else {
        REQUIRE(read.index.empty());
      }
    }
    CostGrid other = ground.costs;
    if (other.has_sides()) continue;
    const Cell cell = random.cell(other.size());
    REQUIRE(other.set_entry(cell, Hundredths(other.entry(cell) + 1U)));
    if (other == ground.costs) continue;  // a large mover can't stand over it anyhow
    REQUIRE(Prepared::from_bytes(index.bytes(), {}, other).problem ==
            "made for another map or mover, or before the map changed");
  }
  INFO("accepted " << accepted);
  REQUIRE(accepted < 2000);
}

namespace {

/// A board with its index, for questions that come by turns.
struct Prepareds {
  CostGrid costs;
  Prepared index;
};

/// One question of a random kind to a searcher, told as numbers.
std::vector<std::uint64_t> ask_something(Searcher& searcher, const Prepareds& world, Random& random) {
  const CostGrid& costs = world.costs;
  const Cell from = random.cell(costs.size());
  const Cell to = random.cell(costs.size());
  std::vector<std::uint64_t> told;
  const auto tell_route = [&](const Route& route) {
    told.push_back(static_cast<std::uint64_t>(route.verdict().reason));
    told.push_back(route.cost());
    for (const Cell cell : route.cells()) told.push_back(costs.size().index(cell).value());
  };
  switch (random.whole(0, 6)) {
    case 0: tell_route(searcher.route(costs, from, to, {.prepared = &world.index})); break;
    case 1: tell_route(searcher.route(costs, from, to)); break;
    case 2: told.push_back(searcher.cost(costs, from, to, world.index)); break;
    case 3: {
      told.push_back(searcher.begin_legs(costs, from, to, world.index));
      for (int i = random.whole(0, 3); i > 0; --i) {
        const auto leg = searcher.next_leg();
        told.push_back(leg ? leg->steps : 0);
      }
      break;
    }
    case 4: {
      const Cell goals[] = {to, random.cell(costs.size()), random.cell(costs.size())};
      std::vector<NearGoal> near;
      searcher.nearest_goals(costs, from, goals, 2, near, world.index);
      for (const NearGoal& goal : near) told.insert(told.end(), {goal.goal, goal.cost});
      break;
    }
    case 5: {
      const Field field = searcher.reach(costs, from, {.budget = 900_hundredths});
      told.push_back(field.reached_count());
      break;
    }
    default: {
      const Field field = searcher.reach(costs, from, {.count_steps = random.chance(50)});
      told.insert(told.end(), {field.reached_count(), field.cost(to)});
    }
  }
  return told;
}

}  // namespace

TEST_CASE("one searcher asked everything by turns, about many boards, answers as a new one, 6,000 questions") {
  Random random(77);
  std::vector<Prepareds> worlds;
  for (int i = 0; i < 12; ++i) {
    const Ground ground = searchable_ground(random, 32);
    worlds.push_back({ground.costs, {}});
    worlds.back().index =
        prepare(worlds.back().costs, {.most_bytes = random.chance(50) ? std::size_t{5000} : ~std::size_t{0}});
    if (random.chance(40) && !worlds.back().costs.has_sides()) {  // some have changed since
      REQUIRE(worlds.back().costs.set_entry(random.cell(ground.costs.size()), 300_hundredths));
      if (random.chance(50)) REQUIRE(worlds.back().index.follow(worlds.back().costs));
    }
  }
  Searcher searcher;
  for (std::uint64_t question = 0; question < 6000; ++question) {
    INFO("question " << question);
    const Prepareds& world = random.one_of(worlds);
    Random for_one(question);
    Random for_other(question);
    Searcher fresh;
    REQUIRE(ask_something(searcher, world, for_one) == ask_something(fresh, world, for_other));
  }
}

TEST_CASE("passages: longer than an index takes together, circles, dead ends, ways one way only") {
  Searcher searcher;
  Searcher fresh;
  const auto check_all = [&](const CostGrid& costs) {
    const Prepared index = prepare(costs);
    std::vector<Cell> open;
    for (const Cell cell : costs.size().cells()) {
      if (costs.open(cell)) open.push_back(cell);
    }
    for (std::size_t i = 0; i < open.size(); ++i) {
      for (std::size_t j = i % 3; j < open.size(); j += 3) {
        const Route plain = fresh.route(costs, open[i], open[j]);
        const Route& route = searcher.route(costs, open[i], open[j], {.prepared = &index});
        check_route(costs, route, open[i], open[j], plain);
        if (plain.found()) REQUIRE(route.algorithm() == Algorithm::prepared);
      }
    }
  };
  const auto from_rows = [](const std::vector<std::string>& rows, StepRules rules, Tiling tiling) {
    const Size size{static_cast<std::int32_t>(rows[0].size()), static_cast<std::int32_t>(rows.size())};
    return CostGrid({tiling, size}, rules, [&](Cell cell) -> EntryCost {
      const char here = rows[static_cast<std::size_t>(cell.row)][static_cast<std::size_t>(cell.col)];
      return here == '#' ? EntryCost{0} : static_cast<EntryCost>(here == '.' ? 100 : 100 * (here - '0'));
    });
  };
  const std::vector<std::vector<std::string>> boards = {
      {std::string(90, '.')},                // one long passage
      {".....", ".###.", ".###.", "....."},  // a circle
      {"..........", ".########.", ".#......#.", ".#.####.#.", ".#......#.", ".########.", ".........."},  // two
      {"....#....", ".##.#.##.", ".##...##.", "....#...."},  // circles joined
      {".#.#.#.", "......9", ".#.#.#.", "2.4.6.8"},          // dead ends of several costs
  };
  for (const auto& rows : boards) {
    for (const int steps : {4, 8}) check_all(from_rows(rows, {.steps = steps}, Tiling::square()));
    check_all(from_rows(rows, {}, Tiling::hex(HexTop::pointy, Shift::odd)));
    check_all(from_rows(rows, {}, Tiling::triangle(FirstTriangle::up)));
  }
  // A ring of cells that can only be gone one way round, with a tail.
  std::vector<Terrain> kinds(2);
  kinds[0].name = "sand";
  kinds[1] = {.name = "rock", .cost = blocked};
  Map map({Tiling::square(), {6, 5}}, kinds);
  for (const Cell cell : {Cell{1, 1}, Cell{2, 1}, Cell{1, 2}, Cell{2, 2}}) REQUIRE(map.set_terrain(cell, 1));
  for (int row = 0; row < 5; ++row) REQUIRE(map.set_terrain({4, row}, row == 2 ? 0 : 1));
  REQUIRE(map.set_closed({1, 0}, Direction(3)));
  Mover mover{.name = "crab"};
  mover.rules.steps = 4;
  check_all(bake(map, mover));
}
