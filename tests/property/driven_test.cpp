// Objects with a memory, called in any order with any arguments, extremes among them, beside a slow model of what they
// must say. SAUNTER_DRIVE_SECONDS lets each drive for so long instead of so many seeds.
#include <catch2/catch.hpp>

#include <array>
#include <limits>
#include <map>
#include <set>

#include "saunter/live/crowd.hpp"
#include "saunter/live/play.hpp"
#include "saunter/saunter.hpp"
#include "saunter/search/stepped_field.hpp"
#include "saunter/search/stepped_search.hpp"
#include "support/live_oracle.hpp"
#include "support/random_changes.hpp"
#include "support/seeds.hpp"
#include "support/walk.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// A cell of the map, beside it, or as far away as numbers go.
Cell any_cell(Random& random, Size size) {
  constexpr std::int32_t least = std::numeric_limits<std::int32_t>::min();
  constexpr std::int32_t most = std::numeric_limits<std::int32_t>::max();
  const auto place = [&](std::int32_t length) -> std::int32_t {
    switch (random.whole(0, 19)) {
      case 0: return random.one_of(std::vector<std::int32_t>{least, least + 1, -65'536, -65'535, -2});
      case 1: return random.one_of(std::vector<std::int32_t>{most, most - 1, 65'535, 65'536, length + 1});
      case 2: return random.chance(50) ? -1 : length;
      default: return random.whole(0, std::max(length - 1, 0));
    }
  };
  return {place(size.cols), place(size.rows)};
}

Hundredths any_cost(Random& random) {
  if (random.chance(10))
    return random.one_of(
        std::vector<Hundredths>{Hundredths(), 1_hundredths, 65'535_hundredths, 4'294'967'295_hundredths});
  return Hundredths(static_cast<std::uint32_t>(random.whole(0, 3000)));
}

bool same(const Field& a, const Field& b) {
  if (a.costs() != b.costs() || a.reached_count() != b.reached_count()) return false;
  const auto cells = a.board().size.cells();
  return std::all_of(cells.begin(), cells.end(),
                     [&](Cell cell) { return a.next(cell) == b.next(cell) && a.source(cell) == b.source(cell); });
}

}  // namespace

TEST_CASE("a live map driven in any order answers as one made anew, and refuses what can't be") {
  Searcher searcher;
  drive_on(400, [&](std::uint64_t seed) {
    INFO("seed " << seed);
    Random random(seed);
    LiveGround ground = random_live_ground(random, 9);
    LiveMap& live = ground.live;
    const Size size = live.board().size;
    struct Kept {
      FieldId id;
      MoverId mover = 0;
      Cell goal;
      bool to_goal = true;
    };
    std::vector<Kept> kept;
    std::vector<std::pair<RouteId, MoverId>> routes;
    std::vector<std::uint32_t> numbers;  // of fields, all there ever were
    const auto any_mover = [&] {
      return static_cast<MoverId>(random.whole(0, static_cast<int>(live.movers().size())));
    };
    for (int call = random.whole(10, 90); call > 0; --call) {
      switch (random.whole(0, 15)) {
        case 0:
        case 1:
        case 2: random_edit(random, ground); break;
        case 3: {
          const Cell cell = any_cell(random, size);
          const auto known = [&] { return size.contains(cell); };
          CHECK((!known() || live.set_terrain(cell, 0)));
          if (!known()) CHECK(live.set_terrain(cell, 0).why == EditFault::off_map);
          (void)live.close_way(cell, any_cell(random, size), random.chance(50));
          (void)live.close_edge(cell, any_cell(random, size), random.chance(50));
          if (live.add_cost(cell, any_cost(random), 0)) ground.added[cell] = 0;
          if (live.close_for(cell, 0)) ground.shut.set(cell, false);
          (void)live.place(static_cast<UnitId>(random.whole(0, 9)),
                           {cell, live.board().tiling.shape() == Shape::triangle ? 0 : random.whole(0, 9)});
          (void)live.change_threat(ThreatNumber(static_cast<std::uint32_t>(random.whole(0, 9))),
                                   {.at = cell, .range = any_cost(random)});
          if (const auto id = live.add_threat({.at = cell, .range = any_cost(random), .arc = random.whole(-1, 361)})) {
            ground.threats.push_back(*id);
          }
          break;
        }
        case 4: {
          const Source source{any_cell(random, size), random.chance(80) ? Hundredths() : any_cost(random)};
          const MoverId mover = any_mover();
          const bool to_goal = random.chance(60);
          const FieldId id = to_goal ? live.keep_field(mover, {&source, 1}) : live.keep_reach(mover, {&source, 1});
          CHECK((numbers.empty() || id.value() > numbers.back()));  // no number comes back
          numbers.push_back(id.value());
          if (source.head_start == 0) kept.push_back({id, mover, source.cell, to_goal});
          break;
        }
        case 5: {
          const MoverId mover = any_mover();
          routes.emplace_back(live.keep_route(mover, any_cell(random, size), any_cell(random, size)), mover);
          break;
        }
        case 6:
          if (kept.empty()) break;
          live.drop_field(kept.back().id);
          CHECK(live.field(kept.back().id).costs().empty());
          kept.pop_back();
          break;
        case 7:
          if (routes.empty()) break;
          live.drop_route(routes.back().first);
          CHECK_FALSE(live.route(routes.back().first).found());
          routes.pop_back();
          break;
        case 8: live.stand_at(RouteId(static_cast<std::uint32_t>(random.whole(0, 9))), any_cell(random, size)); break;
        case 9: (void)live.follow(RouteId(static_cast<std::uint32_t>(random.whole(0, 9)))); break;
        case 10: (void)live.work(static_cast<std::uint64_t>(random.whole(0, 40))); break;
        case 11: live.commit(false); break;
        case 12: (void)live.regions(any_mover()); break;
        case 13: (void)live.levels(any_mover()); break;
        case 14: (void)live.publish(); break;
        default: live.commit();
      }
    }
    live.commit();
    while (!live.work(1000)) {
    }
    const Anew anew(ground);
    for (MoverId mover = 0; mover < live.movers().size(); ++mover) {
      const CostGrid fresh = bake(anew.map, live.movers()[mover], &anew.occupied, &ground.added);
      REQUIRE(live.costs(mover) == fresh);
      REQUIRE(live.levels(mover) ==
              levels_for_size(anew.map.tiling(), anew.danger.levels(), live.movers()[mover].size));
      REQUIRE(live.regions(mover).list() == Regions(fresh).list());
    }
    for (const Kept& one : kept) {
      if (one.mover >= live.movers().size()) continue;
      const Source source{one.goal};
      Field fresh;
      if (one.to_goal) {
        searcher.field_to(live.costs(one.mover), {&source, 1}, fresh);
      } else {
        searcher.reach(live.costs(one.mover), {&source, 1}, fresh);
      }
      REQUIRE(same(live.field(one.id), fresh));
    }
    for (const auto& [id, mover] : routes) {
      if (mover >= live.movers().size()) continue;
      const StandingRoute& route = live.route(id);
      const Route& fresh = searcher.route(live.costs(mover), route.cell(), route.goal());
      REQUIRE(route.reason() == fresh.verdict().reason);
      if (fresh.found()) REQUIRE(route.report().cost == fresh.cost());
    }
  });
}

TEST_CASE("fields and searches in slices, begun and left in any order on grids that change, end as if at once") {
  Searcher searcher;
  SteppedField slices;
  SteppedSearch search;
  drive_on(500, [&](std::uint64_t seed) {
    INFO("seed " << seed);
    Random random(seed);
    std::array<Ground, 2> grounds = {random_ground(random, 10, random.chance(40)), random_ground(random, 10, false)};
    std::array<Field, 2> fields;
    std::optional<std::size_t> field_of;
    std::optional<std::size_t> search_of;
    Source source;
    FieldOptions options;
    bool to_goal = true;
    Cell from;
    Cell to;
    RouteOptions how;
    for (int call = random.whole(5, 60); call > 0; --call) {
      const auto which = static_cast<std::size_t>(random.whole(0, 1));
      CostGrid& costs = grounds[which].costs;
      switch (random.whole(0, 7)) {
        case 0: {
          source = Source{any_cell(random, costs.size())};
          options = {};
          if (random.chance(40)) options.budget = any_cost(random);
          options.count_steps = random.chance(30);
          to_goal = random.chance(60);
          field_of = which;
          to_goal ? slices.begin_field_to(costs, {&source, 1}, fields[which], options)
                  : slices.begin_reach(costs, {&source, 1}, fields[which], options);
          break;
        }
        case 1:
          from = any_cell(random, costs.size());
          to = any_cell(random, costs.size());
          how = {};
          if (random.chance(30)) how.by = Algorithm::dijkstra;
          if (random.chance(30)) how.budget = any_cost(random);
          search_of = which;
          search.begin(costs, from, to, how);
          break;
        case 2:
          if (random.chance(10)) {
            costs = random_ground(random, 14, false).costs;  // another board in its place
            break;
          }
          REQUIRE(
              costs.set_entry(random.cell(costs.size()), Hundredths(static_cast<std::uint32_t>(random.whole(0, 400)))));
          break;
        case 3:
          if (field_of) (void)slices.run(static_cast<std::uint64_t>(random.whole(0, 30)));
          break;
        case 4:
          if (search_of && !search.stale()) (void)search.run(static_cast<std::uint64_t>(random.whole(0, 30)));
          break;
        case 5: {
          std::vector<Cell> way;
          if (!search_of) break;
          search.best_so_far(way);
          (void)search.state(any_cell(random, costs.size()));
          (void)search.cost(any_cell(random, costs.size()));
          (void)search.parent(any_cell(random, costs.size()));
          (void)search.estimate(any_cell(random, costs.size()));
          (void)slices.settled();
          break;
        }
        case 6: {
          if (!field_of || slices.stale()) break;
          while (!slices.run(1000)) {
          }
          Field fresh;
          const CostGrid& made = grounds[*field_of].costs;
          to_goal ? searcher.field_to(made, {&source, 1}, fresh, options)
                  : searcher.reach(made, {&source, 1}, fresh, options);
          REQUIRE(same(fields[*field_of], fresh));
          break;
        }
        default: {
          if (!search_of || search.stale()) break;
          while (!search.run(1000)) {
          }
          const Route& fresh = searcher.route(grounds[*search_of].costs, from, to, how);
          REQUIRE(search.route().verdict().reason == fresh.verdict().reason);
          REQUIRE(search.route().cost() == fresh.cost());
        }
      }
    }
  });
}

TEST_CASE("walks driven in any order stay on legal steps, count them, and end where they say") {
  drive_on(600, [&](std::uint64_t seed) {
    INFO("seed " << seed);
    Random random(seed);
    Ground ground = random_ground(random, 12, random.chance(40));
    CostGrid& costs = ground.costs;
    const Ground other = random_ground(random, 8, false);
    WalkOptions options;
    options.from = any_cell(random, costs.size());
    options.to = any_cell(random, costs.size());
    options.kind = all_walkers[static_cast<std::size_t>(random.whole(0, 6))];
    options.seed = random.next();
    if (random.chance(50)) options.most_steps = static_cast<std::uint64_t>(random.whole(0, 200));
    Walk walk(costs, options);
    const bool usable = costs.open(options.from) && costs.open(*options.to);
    REQUIRE((walk.verdict().reason == Reason::found) == usable);
    Cell at = walk.cell();
    std::uint64_t steps = 0;
    for (int call = random.whole(1, 80); call > 0; --call) {
      switch (random.whole(0, 5)) {
        case 0: REQUIRE(costs.set_entry(random.cell(costs.size()), random.chance(50) ? 0_steps : 1_steps)); break;
        case 1: {
          Walk moved(std::move(walk));
          walk = std::move(moved);
          break;
        }
        default: {
          const bool was_over = walk.end() != WalkEnd::none;
          const bool over = walk.run(costs, random.chance(10) ? 0U : 1U);
          REQUIRE(over == (walk.end() != WalkEnd::none));
          if (walk.steps() == steps) {
            REQUIRE(walk.cell() == at);
          } else {
            REQUIRE_FALSE(was_over);
            REQUIRE(walk.steps() == steps + 1);
            const Direction d = costs.tiling().direction(at, walk.cell());
            REQUIRE((d >= 0 && holds(costs.moves(at), d)));
          }
          at = walk.cell();
          steps = walk.steps();
          if (walk.arrived()) REQUIRE(at == options.to);
        }
      }
    }
    REQUIRE(walk.visited() <= walk.steps() + 1);
    (void)walk.memory();
  });
}

TEST_CASE("scripts of any numbers play to their end, and nobody stands on another or where it can't") {
  drive_on(250, [&](std::uint64_t seed) {
    INFO("seed " << seed);
    Random random(seed);
    LiveGround ground = random_live_ground(random, 10);
    LiveMap& live = ground.live;
    live.commit();
    const Size size = live.board().size;
    PlayScript script{.ticks = static_cast<std::uint32_t>(random.whole(0, 40))};
    for (int i = random.whole(0, 10); i > 0; --i) {
      PlayEdit edit{static_cast<std::uint32_t>(random.whole(0, 45)), {}};
      const Cell cell = any_cell(random, size);
      switch (random.whole(0, 3)) {
        case 0:
          edit.what = PaintEdit{static_cast<TerrainId>(random.whole(0, 255)), {cell, any_cell(random, size)}};
          break;
        case 1: edit.what = EdgeEdit{cell, any_cell(random, size), random.chance(50), random.chance(50)}; break;
        case 2: edit.what = UnitEdit{static_cast<UnitId>(random.whole(0, 9)), cell}; break;
        default: edit.what = ThreatEdit{ThreatNumber(static_cast<std::uint32_t>(random.whole(0, 9))), cell, {}};
      }
      script.edits.push_back(edit);
    }
    for (int i = random.whole(0, 6); i > 0; --i) {
      Go go{.name = "unit"};
      go.mover = static_cast<MoverId>(random.whole(0, static_cast<int>(live.movers().size())));
      go.from = any_cell(random, size);
      go.to = any_cell(random, size);
      go.tick = static_cast<std::uint32_t>(random.whole(0, 60));
      go.plan = static_cast<GoPlan>(random.whole(0, 3));
      go.walker = all_walkers[static_cast<std::size_t>(random.whole(0, 6))];
      go.leaves = random.chance(40);
      script.units.push_back(go);
    }
    Play play(live, script);
    std::vector<Cell> body;
    for (int tick = 0; tick < 60; ++tick) {
      (void)play.step();
      BitGrid taken(size);
      for (std::size_t i = 0; i < script.units.size(); ++i) {
        const Gone& gone = play.units()[i];
        if (!gone.standing) continue;
        REQUIRE(script.units[i].mover < live.movers().size());
        body_cells(live.board().tiling, gone.path.back(), live.movers()[script.units[i].mover].size, body);
        for (const Cell part : body) {
          REQUIRE(size.contains(part));
          REQUIRE_FALSE(taken.test(part));
          taken.set(part);
        }
      }
    }
    REQUIRE(play.ended());
  });
}

TEST_CASE("an index that follows, is left behind, copied and asked in any order never tells what is not so") {
  Searcher searcher;
  Searcher fresh;
  drive_on(150, [&](std::uint64_t seed) {
    INFO("seed " << seed);
    Random random(seed);
    Ground ground = random_ground(random, 24, random.chance(40));
    CostGrid& costs = ground.costs;
    Prepared index = prepare(costs);
    for (int call = random.whole(5, 50); call > 0; --call) {
      switch (random.whole(0, 6)) {
        case 0:
        case 1:
          REQUIRE(costs.set_entry(
              random.cell(costs.size()),
              random.chance(60) ? 0_steps : Hundredths(static_cast<std::uint32_t>(random.whole(1, 500)))));
          break;
        case 2: (void)index.follow(costs); break;
        case 3: index = Prepared(index); break;
        case 4: costs = CostGrid(costs); break;
        default: {
          const Cell from = any_cell(random, costs.size());
          const Cell to = any_cell(random, costs.size());
          RouteOptions options;
          if (random.chance(30)) options.budget = any_cost(random);
          const Route plain = fresh.route(costs, from, to, options);
          options.prepared = &index;
          const Route& route = searcher.route(costs, from, to, options);
          REQUIRE(route.verdict() == plain.verdict());
          REQUIRE(route.cost() == plain.cost());
          if (route.found()) REQUIRE(walk(costs, route.cells()) == route.cost());
        }
      }
    }
  });
}

TEST_CASE("crowds driven in any order keep the law of a tick, and their numbers never come back") {
  Searcher searcher;
  std::size_t refused = 0;
  drive_on(200, [&](std::uint64_t seed) {
    INFO("seed " << seed);
    Random random(seed);
    Ground ground = random_ground(random, 16, random.chance(40));
    const Board board = ground.map.board();
    BitGrid occupied(board.size);
    Mover large = ground.mover;
    large.size = board.tiling.shape() == Shape::triangle ? 1 : random.whole(1, 3);
    std::array<CostGrid, 2> costs = {ground.costs, bake(ground.map, large)};
    std::array<Field, 2> fields;
    const Source first{random.cell(board.size)};
    for (std::size_t i = 0; i < 2; ++i) searcher.field_to(costs[i], {&first, 1}, fields[i]);
    Crowd crowd(board);
    std::map<Crowd::UnitNumber, int> sizes;  // of those on the board, in the order of their numbers as the crowd tells
    std::set<std::uint32_t> given;
    const auto any_unit = [&] {
      if (crowd.count() > 0 && random.chance(80))
        return crowd.units()[static_cast<std::size_t>(random.whole(0, static_cast<int>(crowd.count()) - 1))];
      return Crowd::UnitNumber(static_cast<std::uint32_t>(random.whole(0, 40)));
    };
    for (int call = 0; call < 60; ++call) {
      const int what = random.whole(0, 9);
      INFO("call " << call << " of kind " << what);
      if (what <= 2) {
        const std::size_t kind = random.chance(50) ? 1 : 0;
        const auto unit = crowd.add(costs[kind], any_cell(random, board.size), random.chance(90) ? kind : 7);
        if (unit) {
          REQUIRE(given.insert(unit->value()).second);
          sizes[*unit] = costs[kind].mover_size();
        } else {
          ++refused;
        }
      } else if (what == 3) {
        const Crowd::UnitNumber unit = any_unit();
        REQUIRE(crowd.remove(unit) == (sizes.erase(unit) == 1));
        REQUIRE(crowd.cell(unit) == Cell{-1, -1});
      } else if (what == 4) {
        random_change(random, ground.map, occupied, ground.mover, costs[0]);
        costs[1] = bake(ground.map, large, &occupied);
        if (random.chance(50)) continue;  // a tick without a repair: those units wait
        for (std::size_t i = 0; i < 2; ++i) searcher.repair(costs[i], fields[i]);
      } else if (what == 5) {
        const Source goal{any_cell(random, board.size), any_cost(random)};
        const std::size_t kind = random.chance(50) ? 1 : 0;
        searcher.field_to(costs[kind], {&goal, 1}, fields[kind]);
      } else {
        std::map<Cell, Crowd::UnitNumber> before;
        for (const Crowd::UnitNumber unit : crowd.units()) before[crowd.cell(unit)] = unit;
        std::array<CrowdGround, 2> grounds = {{{&costs[0], &fields[0]}, {&costs[1], &fields[1]}}};
        if (random.chance(10)) grounds[0].costs = nullptr;
        if (random.chance(10)) std::swap(grounds[0], grounds[1]);
        if (random.chance(10)) grounds[1].field = &fields[0];
        crowd.step(std::span(grounds).first(static_cast<std::size_t>(random.whole(0, 2))),
                   {.crowding = any_cost(random), .waiting = any_cost(random), .arrive_within = any_cost(random)});
        std::map<Cell, Crowd::UnitNumber> covered;
        for (const auto& [was, unit] : before) {
          const Cell now = crowd.cell(unit);
          const std::size_t kind = costs[0].mover_size() == sizes[unit] ? 0 : 1;
          if (now != was) {
            const Direction d = board.tiling.direction(was, now);
            REQUIRE(d >= 0);
            REQUIRE((holds(costs[kind].moves(was), d) || holds(costs[1].moves(was), d)));
          }
          std::vector<Cell> body;
          Footprint::of_size(board.tiling, sizes[unit]).cells_at(board.tiling, now, body);
          for (const Cell part : body) {
            REQUIRE(covered.emplace(part, unit).second);
            REQUIRE(crowd.at(part) == unit);
          }
        }
      }
      REQUIRE(crowd.count() == sizes.size());
      REQUIRE(std::equal(sizes.begin(), sizes.end(), crowd.units().begin(), crowd.units().end(),
                         [](const auto& known, Crowd::UnitNumber unit) { return known.first == unit; }));
      const Crowd::UnitNumber asked = any_unit();
      REQUIRE(crowd.known(asked) == sizes.contains(asked));
      if (!crowd.known(asked)) REQUIRE((!crowd.arrived(asked) && crowd.patience(asked) == 0));
      const Cell cell = any_cell(random, board.size);
      if (!board.size.contains(cell)) REQUIRE_FALSE(crowd.at(cell).has_value());
    }
  });
  CHECK(refused > share_of(200));
}
