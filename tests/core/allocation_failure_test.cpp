// Memory runs out at the n-th request, for every n, in every public call: nothing is lost, and what threw can be asked
// again or says that it must be made anew.
#include <catch2/catch.hpp>
#include <algorithm>
#include <array>
#include <optional>

#include "support/seeds.hpp"
#include "support/desk.hpp"
#include "support/failing_memory.hpp"
#include "support/live_oracle.hpp"
#include "support/run_out.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// The print of one object.
template <typename Object>
std::uint64_t print_of(const Object& object) {
  Print print;
  print.add(object);
  return print.value();
}

/// A change that happens wholly or not at all. @return how often memory ran out
template <typename Object, typename Work>
std::size_t run_out_in_change(const Object& object, Work&& work) {
  const std::uint64_t before = print_of(object);
  return run_out_everywhere(work, [&] { REQUIRE(print_of(object) == before); });
}

}  // namespace

TEST_CASE("a desk that ran out of memory answers as a new one, whatever it is asked next") {
  std::array<std::size_t, question_kinds> failures{};
  for (std::uint64_t seed = 1; seed <= 45; ++seed) {
    Random random(seed);
    const World world(random, 9);
    const int kind = static_cast<int>(seed) % question_kinds;
    CAPTURE(seed, question_names[kind]);
    // An own desk each, and one that has seen other grids.
    for (const bool used : {false, true}) {
      Desk desk;
      if (used) {
        Random other(seed + 900);
        const World elsewhere(other, 9);
        for (int k = 0; k < question_kinds; ++k) (void)ask(desk, elsewhere, k, other);
      }
      failures[static_cast<std::size_t>(kind)] += run_out_everywhere(
          [&] {
            Random asked(seed);
            (void)ask(desk, world, kind, asked);
          },
          [&] {
            for (int next = 0; next < question_kinds; ++next) {
              Desk fresh;
              Random for_old(seed * 31 + static_cast<std::uint64_t>(next));
              Random for_new(seed * 31 + static_cast<std::uint64_t>(next));
              const std::uint64_t anew = ask(fresh, world, next, for_new);
              CAPTURE(question_names[next]);
              if (ask(desk, world, next, for_old) != anew) FAIL("answers otherwise after memory ran out");
            }
          });
    }
  }
  for (const std::size_t count : failures) CHECK(count > 0);
}

TEST_CASE("grids, regions, threat and units that ran out of memory are as before, or say that they are not") {
  std::size_t failures = 0;
  for (std::uint64_t seed = 1; seed <= 30; ++seed) {
    CAPTURE(seed);
    Random random(seed);
    World world(random, 9);
    const CostGrid& costs = world.ground.costs;
    const auto costs_print = [&](const CostGrid& grid) {
      Print print;
      for (const EntryCost cost : grid.entries()) print.add(std::uint64_t{cost});
      for (std::uint32_t i = 0; i < grid.size().cell_count(); ++i)
        print.add(std::uint64_t{grid.moves(grid.size().cell(CellIndex{i}))});
      print.add(std::uint64_t{grid.lowest_entry()});
      return print.value();
    };

    {  // a grid changed cell by cell
      CostGrid grid = costs;
      const Cell cell = random.cell(world.size());
      const std::uint64_t before = costs_print(grid);
      failures += run_out_everywhere([&] { grid.set_entry(cell, 345_hundredths); },
                                     [&] { REQUIRE(costs_print(grid) == before); });
      grid.set_entry(cell, Hundredths(std::uint32_t{costs.entry(cell)}));
      CHECK(costs_print(grid) == before);
    }
    {  // a grid repaired after the map changed, and one given another's content
      Map map = world.ground.map;
      CostGrid grid = costs;
      map.set_terrain(random.cell(map.size()), 1);
      map.set_height(random.cell(map.size()), 9);
      const CostGrid anew = bake(map, world.ground.mover);
      const std::uint64_t before = costs_print(grid);
      failures += run_out_everywhere([&] { rebake(grid, map, world.ground.mover, Rect::whole(map.size())); },
                                     [&] { REQUIRE(costs_print(grid) == before); });
      CHECK(costs_print(grid) == costs_print(anew));
      Random other_random(seed + 50);
      const World other(other_random, 12);
      const std::uint64_t own = costs_print(grid);
      failures += run_out_everywhere([&] { grid = other.ground.costs; }, [&] { REQUIRE(costs_print(grid) == own); });
    }
    {  // regions: brought up to date once memory is there
      CostGrid grid = costs;
      Regions regions(grid);
      for (int i = 0; i < 3; ++i)
        grid.set_entry(random.cell(grid.size()), random.chance(50) ? Hundredths(blocked) : 1_steps);
      failures += run_out_everywhere([&] { regions.update(grid); },
                                     [&] {
                                       REQUIRE_FALSE(regions.made_from(grid));
                                       Regions repaired = regions;
                                       repaired.update(grid);
                                       Print ours;
                                       Print anew;
                                       ours.add(repaired, grid);
                                       anew.add(Regions(grid), grid);
                                       REQUIRE(ours.value() == anew.value());
                                     });
      CHECK(regions.list() == Regions(grid).list());
      const World other(random, 14);
      RegionsUpdater updater;
      failures += run_out_everywhere([&] { updater.remake(regions, other.ground.costs); },
                                     [&] { CHECK_FALSE(regions.made_from(other.ground.costs)); });
      CHECK(regions.list() == Regions(other.ground.costs).list());
    }
    {  // a field says whether it holds what it was asked for
      Searcher searcher;
      Field field = searcher.reach(costs, random.cell(world.size()));
      CostGrid grid = costs;
      grid.set_entry(random.cell(world.size()), 7_steps);
      const Source start{random.cell(world.size())};
      failures += run_out_everywhere([&] { searcher.reach(grid, std::span(&start, 1), field); },
                                     [&] { REQUIRE_FALSE(field.made_from(grid)); });
      CHECK(field.made_from(grid));
    }
    {  // threat: each change wholly or not at all
      ThreatField field = world.threat;
      const Cell to = random.cell(world.size());
      const Threat source = world.source(random);
      failures += run_out_in_change(field, [&] { (void)field.move(1, world.sight, to); });
      failures += run_out_in_change(field, [&] { (void)field.replace(2, world.sight, source); });
      failures += run_out_in_change(field, [&] { (void)field.add(world.sight, source); });
      failures += run_out_in_change(field, [&] { (void)field.remove(1); });
    }
    {  // units
      Occupancy units(world.ground.map.board(), 2);
      const std::vector<Offset> two = {{0, 0}, {0, 1}};
      const UnitId a = units.add(Footprint(two));
      const UnitId b = units.add(Footprint(), 1, false);
      const auto step = [&](auto&& work) { failures += run_out_in_change(units, work); };
      step([&] { (void)units.place(a, {{1, 1}}); });
      step([&] { (void)units.place(b, {{0, 0}}); });
      step([&] { (void)units.move(a, {{2, 0}}); });
      step([&] { (void)units.swap(a, b); });
      step([&] { (void)units.undo(); });
      step([&] { (void)units.lift(a); });
      step([&] { (void)units.add(Footprint(two)); });
    }
    {  // painting: the map as before
      Map map = world.ground.map;
      const auto terrain_print = [&] {
        Print print;
        for (std::uint32_t i = 0; i < map.size().cell_count(); ++i)
          print.add(std::uint64_t{map.terrain_at(map.size().cell(CellIndex{i}))});
        return print.value();
      };
      const Cell start = random.cell(map.size());
      const auto step = [&](auto&& work) {
        const std::uint64_t before = terrain_print();
        failures += run_out_everywhere(work, [&] { REQUIRE(terrain_print() == before); });
      };
      step([&] { (void)paint_flood(map, start, 0); });
      step([&] { (void)paint_disk(map, start, 3, 1); });
      step([&] { (void)paint_line(map, start, {0, 0}, 0); });
      step([&] { (void)paint_rect(map, {0, 0, 4, 4}, 1); });
    }
  }
  CHECK(failures > 1'000);
}

TEST_CASE("a walk that ran out of memory has not taken its last step, and goes on as if nothing had been") {
  std::size_t failures = 0;
  for (std::uint64_t seed = 1; seed <= 40; ++seed) {
    Random random(seed);
    const World world(random, 70);  // more than one block of what is remembered
    const CostGrid& costs = world.ground.costs;
    const WalkerKind kind = all_walkers[seed % all_walkers.size()];
    CAPTURE(seed, walker_name(kind));
    const WalkOptions options{.kind = kind,
                              .from = random.cell(world.size()),
                              .to = random.cell(world.size()),
                              .seed = seed,
                              .most_steps = 300};
    Walk whole(costs, options);
    REQUIRE(whole.run(costs, 10'000));
    const long before = failing_memory::held();
    failures +=
        run_out_everywhere([&] { (void)Walk(costs, options); }, [&] { REQUIRE(failing_memory::held() == before); });
    Walk walk(costs, options);
    failures += run_out_everywhere(
        [&] {
          while (!walk.run(costs, 7)) continue;
        },
        [&] { REQUIRE(walk.steps() == walk.trail().steps()); });
    CHECK(walk.end() == whole.end());
    CHECK(walk.steps() == whole.steps());
    CHECK(walk.visited() == whole.visited());
    CHECK(walk.restarts() == whole.restarts());
    CHECK(walk.trail().cells() == whole.trail().cells());
    failures += run_out_everywhere([&] { (void)walk.trail().without_loops(); }, [] {});
  }
  CHECK(failures > 100);
}

TEST_CASE("making ground with too little memory leaves nothing behind") {
  std::size_t failures = 0;
  for (std::uint64_t seed = 1; seed <= 6; ++seed) {
    CAPTURE(seed);
    Random random(seed);
    const Board board{random.one_of(all_tilings()), {random.whole(6, 14), random.whole(6, 14)}};
    const long before = failing_memory::held();
    const auto make = [&](auto&& work) {
      failures += run_out_everywhere(work, [&] { REQUIRE(failing_memory::held() == before); });
    };
    for (const MazeMethod by : all_maze_methods) make([&] { (void)make_maze(board, {.by = by, .loops = 40}); });
    for (const CaveMethod by : {CaveMethod::noise, CaveMethod::agents})
      make([&] { (void)make_cave(board, {.by = by, .keep = Keep::all_joined}); });
    for (const RoomsMethod by : {RoomsMethod::scattered, RoomsMethod::split, RoomsMethod::corridors}) {
      make([&] {
        (void)make_rooms(board, {.by = by, .rooms = 4, .least_side = 2, .most_side = 4, .doors = true, .grown = true});
      });
    }
    make([&] { stream_maze(board.tiling, board.size, seed, [](std::int32_t, std::span<const std::uint8_t>) {}); });
    CHECK(failing_memory::held() == before);
  }
  CHECK(failures > 300);
}

TEST_CASE("making units with too little memory leaves nothing behind") {
  std::size_t failures = 0;
  for (std::uint64_t seed = 1; seed <= 12; ++seed) {
    CAPTURE(seed);
    Random random(seed);
    const World world(random, 9);
    const long before = failing_memory::held();
    const auto nothing_left = [&] { REQUIRE(failing_memory::held() == before); };
    const Mover& mover = world.ground.mover;
    const Map& map = world.ground.map;
    failures += run_out_everywhere([&] { (void)bake(map, mover); }, nothing_left);
    failures += run_out_everywhere([&] { (void)Regions(world.ground.costs); }, nothing_left);
    failures += run_out_everywhere([&] { (void)clearance(world.ground.costs); }, nothing_left);
    failures += run_out_everywhere([&] { (void)Map(map); }, nothing_left);
    failures += run_out_everywhere([&] { (void)find_chokes(world.ground.costs, world.regions); }, nothing_left);
    failures += run_out_everywhere(
        [&] {
          (void)levels_for_size(map.tiling(), world.threat.levels(), map.tiling().shape() == Shape::triangle ? 1 : 3);
        },
        nothing_left);
    failures += run_out_everywhere(
        [&] {
          const std::vector<Cell> way = {{0, 0}, {1, 0}};
          (void)inspect_path(map, mover, world.ground.costs, way);
        },
        nothing_left);
    failures += run_out_everywhere(
        [&] {
          (void)find_front(world.ground.costs, world.threat.levels(), {0, 0}, {2, 2});
        },
        nothing_left);
    failures += run_out_everywhere(
        [&] {
          Fitter fitter;
          const ScatterUnit unit{};
          (void)scatter(fitter, {.map = &map}, std::span(&unit, 1));
        },
        nothing_left);
    CHECK(failing_memory::held() == before);
  }
  CHECK(failures > 300);
}

TEST_CASE("a commit that ran out of memory is finished by the next one, whatever it left") {
  std::size_t failures = 0;
  for (const std::uint64_t seed : seeds(60)) {
    INFO("seed " << seed);
    Random random(seed);
    LiveGround ground = random_live_ground(random, 10);
    (void)ground.live.danger();
    Searcher searcher;
    for (int round = 0; round < 3; ++round) {
      for (int i = 0; i < 6; ++i) random_edit(random, ground);
      const bool work = random.chance(50);
      failures += run_out_everywhere([&] { ground.live.commit(work); }, [] {});
      while (!ground.live.work(50)) {
      }
      const Anew anew(ground);
      for (MoverId mover = 0; mover < ground.live.movers().size(); ++mover) {
        REQUIRE(ground.live.costs(mover) == bake(anew.map, ground.live.movers()[mover], &anew.occupied, &ground.added));
        REQUIRE(ground.live.regions(mover).list() == Regions(ground.live.costs(mover)).list());
      }
      REQUIRE(ground.live.danger().levels() == anew.danger.levels());
      for (const RouteId id : ground.routes) {
        const StandingRoute& route = ground.live.route(id);
        bool fits = false;
        for (MoverId mover = 0; mover < ground.live.movers().size(); ++mover) {
          const Route& fresh = searcher.route(ground.live.costs(mover), route.cell(), route.goal());
          fits = fits || (route.found() ? fresh.found() && route.report().cost == fresh.cost()
                                        : route.reason() == fresh.verdict().reason);
        }
        REQUIRE(fits);
      }
      for (const FieldId id : ground.fields) {
        const Field& field = ground.live.field(id);
        bool fits = false;
        for (MoverId mover = 0; mover < ground.live.movers().size(); ++mover) {
          if (!field.made_from(ground.live.costs(mover))) continue;
          const std::vector<Source> sources = field.sources();
          Field fresh;
          if (field.options().budget) {
            searcher.reach(ground.live.costs(mover), sources, fresh, field.options());
          } else {
            searcher.field_to(ground.live.costs(mover), sources, fresh, field.options());
          }
          fits = fresh.costs() == field.costs();
        }
        REQUIRE(fits);
      }
    }
  }
  CHECK(failures > share_of(500));
}

TEST_CASE("edits, crowds and plans in time with too little memory leave things as they were, or can be asked again") {
  std::size_t failures = 0;
  for (std::uint64_t seed = 1; seed <= 40; ++seed) {
    INFO("seed " << seed);
    Random random(seed);
    LiveGround ground = random_live_ground(random, 12);
    const Board board = ground.live.board();
    for (int i = 0; i < 6; ++i) {
      const std::uint64_t edit_seed = random.next();
      const Map before = ground.live.map();
      // The helper's own lists may be what fails: it is asked again all the same.
      failures += run_out_everywhere(
          [&] {
            Random edit(edit_seed);
            (void)ground.live.set_terrain(edit.cell(board.size), 0);
          },
          [&] { REQUIRE(ground.live.map().terrain() == before.terrain()); });
    }
    Searcher searcher;
    const Source goal{random.cell(board.size)};
    const Field field = searcher.field_to(ground.live.costs(0), {&goal, 1});
    Crowd crowd(board);
    for (int i = 0; i < 8; ++i) {
      const Cell cell = random.cell(board.size);
      const std::size_t count = crowd.count();
      failures += run_out_everywhere([&] { (void)crowd.add(ground.live.costs(0), cell); },
                                     [&] { REQUIRE(crowd.count() == count); });
    }
    const CrowdGround shared{&ground.live.costs(0), &field};
    crowd.step({&shared, 1});
    const std::vector<GroupMember> members = {{random.cell(board.size), random.cell(board.size)},
                                              {random.cell(board.size), random.cell(board.size)}};
    GroupPlanner planner;
    GroupPlan plan;
    failures += run_out_everywhere(
        [&] { plan = planner.plan(ground.live.costs(0), members, {.tries = 2, .limit = 500}); }, [] {});
    const GroupPlan fresh = GroupPlanner().plan(ground.live.costs(0), members, {.tries = 2, .limit = 500});
    for (std::size_t i = 0; i < members.size(); ++i) REQUIRE(plan.members[i].cells == fresh.members[i].cells);
  }
  CHECK(failures > 200);
}

TEST_CASE("memory runs out while a map is prepared, followed or asked: the next try answers as it should") {
  std::size_t failures = 0;
  for (std::uint64_t seed = 1; seed <= 6; ++seed) {
    CAPTURE(seed);
    Random random(seed);
    CostGrid costs({random.one_of(all_tilings()), {9, 8}}, {}, [&](Cell) -> EntryCost {
      return random.chance(25) ? 0 : static_cast<EntryCost>(100 * random.whole(1, 2));
    });
    const Prepared wanted = prepare(costs);
    std::optional<Preparation> work;
    failures += run_out_everywhere([&] { work.emplace(costs); }, [] {});
    const auto finish = [&] {
      while (!work->work(5)) {
      }
    };
    failures += run_out_everywhere(finish, [&] { REQUIRE(!work->done()); });
    Prepared index;
    failures += run_out_everywhere([&] { index = work->take(); }, [&] { REQUIRE(index.empty()); });
    REQUIRE(std::ranges::equal(index.bytes(), wanted.bytes()));
    REQUIRE(costs.set_entry({4, 4}, costs.open({4, 4}) ? 0_hundredths : 100_hundredths));
    failures += run_out_everywhere([&] { (void)index.follow(costs); }, [&] { REQUIRE(!index.follows(costs)); });
    REQUIRE(index.follows(costs));
    Searcher plain;
    for (int question = 0; question < 6; ++question) {
      const Cell from = random.cell(costs.size());
      const Cell to = random.cell(costs.size());
      const Route searched = plain.route(costs, from, to);
      const Cost cost = searched.found() ? searched.cost() : unreached;
      std::optional<Searcher> searcher;
      std::array<Cost, 2> told = {};
      Verdict verdict;
      const auto ask = [&] {
        if (!searcher) searcher.emplace();
        told[0] = searcher->cost(costs, from, to, index);
        verdict = searcher->route(costs, from, to, {.prepared = &index}).verdict();
        searcher->cost_table(costs, std::span(&from, 1), std::span(&to, 1), std::span(told).subspan(1), index);
      };
      failures += run_out_everywhere(ask, [] {});
      REQUIRE(told == std::array{cost, cost});
      REQUIRE(verdict == searched.verdict());
    }
  }
  REQUIRE(failures > 500);
}
