// Prints a number that depends on every cell of thousands of routes, so that two builds that differ anywhere show it.
#include <cstdio>

#include "saunter/saunter.hpp"
#include "support/live_oracle.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

int main() {
  std::uint64_t print = 14'695'981'039'346'656'037ULL;
  const auto mix = [&](std::uint64_t value) {
    for (int i = 0; i < 8; ++i) {
      print = (print ^ (value & 0xFFU)) * 1'099'511'628'211ULL;
      value >>= 8U;
    }
  };
  Searcher searcher;
  WarySearcher wary;
  Lookout lookout;
  std::vector<Cell> seen;
  for (std::uint64_t seed = 1; seed <= 700; ++seed) {
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    Map map = random_map(random, tiling, random_size(random, 40));
    if (random.chance(30)) add_random_edges(random, map);
    const CostGrid costs = bake(map, random_mover(random, tiling));
    // What is seen and how dangerous it is, with arcs, and the ways that mind it.
    SightGrid sight(map.board());
    for (int i = 0; i < 60; ++i) sight.set_opaque(random.cell(map.size()), true);
    ThreatField threat(map.board());
    for (int i = 0; i < 4; ++i) {
      Threat source{.at = random.cell(map.size()),
                    .levels = {{40_hundredths, 5}, {100_hundredths, 1}},
                    .needs_sight = i % 2 == 0};
      source.range = Hundredths(static_cast<Length>(random.whole(100, 1200)));
      source.facing = Side{random.whole(0, side_count(tiling) - 1)};
      source.arc = random.whole(1, 360);
      threat.add(sight, source);
    }
    lookout.visible(sight, random.cell(map.size()), 15_steps, seen);
    for (const Cell cell : seen) mix(map.size().index(cell).value());
    for (std::uint32_t i = 0; i < map.size().cell_count(); ++i) {
      mix(threat.levels()[CellIndex{i}]);
      mix(static_cast<std::uint64_t>(threat.most_dangerous_side(map.size().cell(CellIndex{i}))));
    }
    const Cell begin = random.cell(map.size());
    const Cell end = random.cell(map.size());
    const WaryRoute& careful =
        wary.route(costs, threat.levels(), begin, end, {.care = {.wary = 1.5_steps, .linger = 0.4_steps}});
    mix(careful.expanded());
    mix(careful.measure().weighed);
    for (const Cell cell : careful.cells()) mix(map.size().index(cell).value());
    std::vector<RouteOptions> all;
    for (const Algorithm by : {Algorithm::astar, Algorithm::dijkstra, Algorithm::bfs, Algorithm::greedy,
                               Algorithm::jump, Algorithm::dead_ends}) {
      all.push_back({.by = by});
    }
    all.push_back({.by = Algorithm::astar, .weight = 1.5_steps});
    all.push_back({.natural = true});
    if (tiling.shape() != Shape::triangle) all.push_back({.turn_cost = 0.7_steps});
    const auto mix_route = [&](const Route& route) {
      mix(static_cast<std::uint64_t>(route.verdict().reason));
      mix(route.cost());
      mix(route.expanded());
      for (const Cell cell : route.cells()) mix(map.size().index(cell).value());
    };
    for (const RouteOptions& options : all) {
      const Cell from = random.cell(map.size());  // one by one: compilers order arguments as they like
      const Cell to = random.cell(map.size());
      mix_route(searcher.route(costs, from, to, options));
    }
    // What a question may change about the board and its goals.
    const EntryChange changes[] = {{random.cell(map.size()), blocked}, {random.cell(map.size()), blocked}};
    const Source start{random.cell(map.size())};
    const Cell goals[] = {random.cell(map.size()), random.cell(map.size()), random.cell(map.size())};
    for (const Algorithm by : {Algorithm::astar, Algorithm::dijkstra, Algorithm::bfs}) {
      const std::span<const Source> starts(&start, 1);
      mix_route(searcher.route(costs, {.starts = starts, .goals = goals}, {.by = by, .changes = changes}));
      mix_route(searcher.route(costs, {.starts = starts, .goals = std::span(goals, 1), .beside = true}, {.by = by}));
      mix_route(searcher.route(costs, {.starts = starts, .goals = std::span(goals, 1), .within = 2},
                               {.by = by, .or_nearest = true}));
    }
  }
  // Regions, what danger weighs, ways out, prepared maps to the byte, jumps with options.
  for (std::uint64_t seed = 1; seed <= 150; ++seed) {
    Random random(seed);
    const test::Ground ground = random_ground(random, 40, random.chance(30));
    const Size size = ground.costs.size();
    const Regions regions(ground.costs);
    for (const std::uint32_t name : regions.labels().names().values()) mix(name);
    Levels levels(size);
    for (std::uint16_t& level : levels.values()) level = static_cast<std::uint16_t>(random.whole(0, 6));
    const Cell from = random.cell(size);
    const Cell to = random.cell(size);
    const WaryRoute& way = wary.route(ground.costs, levels, from, to, {.care = {.wary = 0.7_steps}});
    mix(way.expanded());
    for (const Cell cell : way.cells()) mix(size.index(cell).value());
    if (const auto weighed = weighed_ground(ground.costs, levels, {.wary = 0.7_steps, .highest = std::uint16_t{5}})) {
      const Field field = searcher.reach(*weighed, from);
      for (const Cost cost : field.costs().values()) mix(cost);
    }
    // Turns, ways by ticks, cover and gatherings.
    BitGrid stops(size);
    for (int i = 0; i < 12; ++i) stops.set(random.cell(size));
    const TurnTerms terms{.points = 7_steps, .stops = &stops};
    TurnReach turn;
    turn.ask(ground.costs, from, terms);
    for (const Cost cost : turn.field().costs().values()) mix(cost);
    mix(static_cast<std::uint64_t>(turn.why(ground.costs, to).answer));
    Acting acting;
    acting.ask(turn, {.least = 1, .most = 3});
    acting.for_each(
        [&](Cell target, Cell at) { mix(size.index(target).value() * 65'537ULL + size.index(at).value()); });
    TurnSearcher by_turns;
    for (const Cell cell : by_turns.route(ground.costs, from, to, terms).cells()) mix(size.index(cell).value());
    TimedDanger danger(ground.costs.board());
    const Cell post = random.cell(size);
    const int first = random.whole(0, 359);
    const int last = random.whole(0, 359);
    const Threat guard{.at = post, .range = 5_steps, .arc = 70};
    (void)danger.add(SightGrid(danger.board()), guard, sweep(post, first, last, 37, 2));
    TimedSearcher by_ticks;
    for (const Cell cell : by_ticks.route(ground.costs, danger, from, to).cells()) mix(size.index(cell).value());
    CoverFinder finder;
    for (const Cover& cover : finder.find(ground.costs, levels, from, {.most = 3})) mix(size.index(cover.cell).value());
    Gatherer gatherer;
    const std::vector<Cell> units = {from, to, post};
    for (const Gathered& unit : gatherer.gather(ground.costs, units, to).units) {
      mix(unit.to ? size.index(*unit.to).value() : 9);
    }
    if (const std::optional<WayOut> out = unstick(ground.costs, to)) mix(out->cost * 64 + out->cells.size());
    const Prepared index = prepare(ground.costs);
    for (const std::byte byte : index.bytes()) mix(static_cast<std::uint64_t>(byte));
    const CostGrid one_cost({Tiling::square(), size}, {},
                            [&](Cell) -> EntryCost { return random.chance(12) ? blocked : 100; });
    const EntryChange changes[] = {{random.cell(size), blocked}, {random.cell(size), 1_steps}};
    const Source start{from};
    const Query query{.starts = std::span(&start, 1), .goals = std::span(&to, 1), .within = random.whole(0, 1)};
    const Route& jumped = searcher.route(one_cost, query, {.by = Algorithm::jump, .changes = changes});
    mix(jumped.expanded());
    for (const Cell cell : jumped.cells()) mix(size.index(cell).value());
  }
  // Where walkers go.
  for (std::uint64_t seed = 1; seed <= 300; ++seed) {
    Random random(seed);
    const Tiling tiling = random.one_of(all_tilings());
    Map map = random_map(random, tiling, random_size(random, 40));
    if (random.chance(30)) add_random_edges(random, map);
    const CostGrid costs = bake(map, random_mover(random, tiling));
    const Cell from = random.cell(map.size());
    const Cell to = random.cell(map.size());
    for (const WalkerKind kind : all_walkers) {
      Walk walk(costs, {.kind = kind, .from = from, .to = to, .seed = seed});
      walk.run(costs, 10'000);
      mix(static_cast<std::uint64_t>(walk.end()));
      for (const Cell cell : walk.trail().cells()) mix(map.size().index(cell).value());
    }
  }
  // A map in play: repairs, standing routes, crowds, plans in time, scripted runs.
  for (std::uint64_t seed = 1; seed <= 60; ++seed) {
    Random random(seed);
    LiveGround ground = random_live_ground(random, 24);
    const Board board = ground.live.board();
    (void)ground.live.danger();
    Crowd crowd(board);
    for (int i = 0; i < 12; ++i) (void)crowd.add(ground.live.costs(0), random.cell(board.size));
    for (int commit = 0; commit < 12; ++commit) {
      for (int i = random.whole(0, 5); i > 0; --i) random_edit(random, ground);
      for (const ChangedCell& changed : ground.live.commit().cells)
        mix(board.size.index(changed.cell).value() * 128ULL + changed.about);
      for (const FieldId id : ground.fields) {
        for (const Cost cost : ground.live.field(id).costs().values()) mix(cost);
      }
      for (const RouteId id : ground.routes) {
        mix(static_cast<std::uint64_t>(ground.live.route(id).report().standing));
        for (const Cell cell : ground.live.route(id).cells()) mix(board.size.index(cell).value());
      }
      if (ground.fields.empty()) continue;
      const CrowdGround shared{&ground.live.costs(0), &ground.live.field(ground.fields[0])};
      crowd.step({&shared, 1});
      for (const Crowd::UnitNumber unit : crowd.units()) mix(board.size.index(crowd.cell(unit)).value());
    }
    std::vector<GroupMember> members;
    for (int i = 0; i < 6; ++i) members.push_back({random.cell(board.size), random.cell(board.size)});
    const GroupPlan plan =
        GroupPlanner().plan(ground.live.costs(0), members, {.tries = 4, .seed = seed, .limit = 5000});
    for (const GroupPlan::Member& member : plan.members) {
      for (const Cell cell : member.cells) mix(board.size.index(cell).value());
    }
    PlayScript script{.ticks = 20};
    for (int i = 0; i < 4; ++i) {
      Go go{.name = "unit"};
      go.from = random.cell(board.size);
      go.to = random.cell(board.size);
      go.plan = static_cast<GoPlan>(i);
      script.units.push_back(std::move(go));
    }
    Play play(ground.live, script);
    while (!play.ended()) play.step();
    for (const Gone& gone : play.units()) {
      for (const Cell cell : gone.path) mix(board.size.index(cell).value());
    }
  }
  // Every kind of made ground, by every method.
  const auto mix_made = [&](const Made& made) {
    for (const Part part : made.parts.values()) mix(static_cast<std::uint64_t>(part));
    for (const std::uint8_t sides : made.closed.values()) mix(sides);
    for (const Rect& box : made.rooms) mix(static_cast<std::uint64_t>(box.left * 1000 + box.bottom));
  };
  for (std::uint64_t seed = 1; seed <= 40; ++seed) {
    Random random(seed);
    const Board board{random.one_of(all_tilings()), {random.whole(3, 40), random.whole(3, 30)}};
    for (const MazeMethod by : all_maze_methods)
      mix_made(make_maze(board, {.by = by, .seed = seed, .loops = random.whole(0, 100)}));
    for (const CaveMethod by : {CaveMethod::noise, CaveMethod::agents}) {
      mix_made(make_cave(board, {.by = by, .seed = seed, .keep = seed % 2 == 0 ? Keep::largest : Keep::all_joined}));
    }
    for (const RoomsMethod by : {RoomsMethod::scattered, RoomsMethod::split, RoomsMethod::corridors}) {
      mix_made(make_rooms(board, {.by = by,
                                  .seed = seed,
                                  .corridor = static_cast<CorridorShape>(seed % 3),
                                  .order = static_cast<JoinOrder>(seed / 3 % 3),
                                  .extra = seed % 4,
                                  .doors = true,
                                  .grown = seed % 5 == 0}));
    }
  }
  std::printf("%016llx\n", static_cast<unsigned long long>(print));
  return 0;
}
