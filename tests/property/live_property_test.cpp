// A live map: after every commit all that follows it equals what is made anew.
#include <catch2/catch.hpp>

#include "saunter/search/path.hpp"
#include "support/seeds.hpp"
#include "support/live_oracle.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

bool same(const Field& a, const Field& b) {
  if (a.costs() != b.costs() || a.reached_count() != b.reached_count()) return false;
  for (const Cell cell : a.board().size.cells()) {
    if (a.next(cell) != b.next(cell) || a.source(cell) != b.source(cell)) return false;
  }
  return true;
}

bool same(const Regions& a, const Regions& b, Size size) {
  if (a.list() != b.list()) return false;
  const auto cells = size.cells();
  return std::all_of(cells.begin(), cells.end(), [&](Cell cell) { return a.at(cell) == b.at(cell); });
}

void check_all(LiveGround& ground, Searcher& searcher) {
  LiveMap& live = ground.live;
  const Anew anew(ground);
  for (MoverId mover = 0; mover < live.movers().size(); ++mover) {
    REQUIRE(live.costs(mover) == bake(anew.map, live.movers()[mover], &anew.occupied, &ground.added));
    REQUIRE(same(live.regions(mover), Regions(live.costs(mover)), anew.map.size()));
    REQUIRE(live.levels(mover) == levels_for_size(anew.map.tiling(), anew.danger.levels(), live.movers()[mover].size));
  }
  for (const Cell cell : anew.map.size().cells()) {
    for (Side side{0}; side < side_count(anew.map.tiling()); ++side)
      REQUIRE(live.danger().side(cell, side) == anew.danger.side(cell, side));
  }
  for (const FieldId id : ground.fields) {
    const Field& field = live.field(id);
    Field fresh = field;
    const std::vector<Source> sources = field.sources();
    for (MoverId mover = 0; mover < live.movers().size(); ++mover) {
      if (!field.made_from(live.costs(mover))) continue;
      if (field.options().budget) {
        searcher.reach(live.costs(mover), sources, fresh, field.options());
      } else {
        searcher.field_to(live.costs(mover), sources, fresh, field.options());
      }
      REQUIRE(same(field, fresh));
      fresh = Field();
    }
    REQUIRE(fresh.costs().empty());  // it was made from one of the grids
  }
  for (const RouteId id : ground.routes) {
    const StandingRoute& route = live.route(id);
    bool fits = false;
    for (MoverId mover = 0; mover < live.movers().size(); ++mover) {
      const Route& fresh = searcher.route(live.costs(mover), route.cell(), route.goal());
      fits = fits || (route.reason() == fresh.verdict().reason &&
                      (!route.found() || (route.report().cost == fresh.cost() &&
                                          cost_of_path(live.costs(mover), route.cells()) == fresh.cost())));
    }
    REQUIRE(fits);
  }
}

/// All of a map that edits can change.
struct Picture {
  explicit Picture(LiveGround& ground) : map(ground.live.map()), levels(ground.live.danger().levels()) {
    for (const Cell cell : map.size().cells()) {
      for (int layer = 0; layer < 2; ++layer) occupants.push_back(ground.live.units().at(cell, layer));
    }
    shut = ground.shut;
    added = ground.added;
  }
  Map map;
  Levels levels;
  std::vector<UnitId> occupants;
  BitGrid shut;
  Grid<EntryCost> added;
};

/// The changed cells as two pictures tell them.
std::vector<ChangedCell> difference(const Picture& a, const Picture& b) {
  std::vector<ChangedCell> all;
  std::size_t number = 0;
  for (const Cell cell : a.map.size().cells()) {
    std::uint8_t about = 0;
    const auto mark = [&](bool differs, About what) {
      if (differs) about = static_cast<std::uint8_t>(about | static_cast<std::uint8_t>(what));
    };
    mark(a.map.terrain_at(cell) != b.map.terrain_at(cell), About::terrain);
    mark(a.map.height_at(cell) != b.map.height_at(cell), About::height);
    mark(a.map.closed_sides(cell) != b.map.closed_sides(cell), About::barrier);
    for (int layer = 0; layer < 2; ++layer, ++number) mark(a.occupants[number] != b.occupants[number], About::occupant);
    mark(a.levels[cell] != b.levels[cell], About::danger);
    mark(a.shut.test(cell) != b.shut.test(cell) || a.added[cell] != b.added[cell], About::for_a_while);
    if (about != 0) all.push_back({cell, about});
  }
  return all;
}

}  // namespace

TEST_CASE("after every commit all that follows a live map equals what is made anew, on 1,000 maps, 50 edits each") {
  Searcher searcher;
  for (const std::uint64_t seed : seeds(1000)) {
    INFO("seed " << seed);
    Random random(seed);
    LiveGround ground = random_live_ground(random, 14);
    (void)ground.live.danger();
    for (int edit = 0; edit < 50;) {
      INFO("edit " << edit);
      const Picture before(ground);
      for (int i = random.whole(0, 6); i > 0; --i, ++edit) random_edit(random, ground);
      if (!ground.routes.empty() && random.chance(40)) {
        const RouteId id = random.one_of(ground.routes);
        if (ground.live.route(id).cells().size() > 1) ground.live.stand_at(id, ground.live.route(id).cells()[1]);
      }
      const std::uint64_t revision = ground.live.revision();
      const Change& change = ground.live.commit();
      REQUIRE(change.revision == revision + 1);
      REQUIRE(change.cells == difference(before, Picture(ground)));
      check_all(ground, searcher);
    }
  }
}

TEST_CASE("parts asked for between edits and their commit show the map as committed") {
  Searcher searcher;
  for (const std::uint64_t seed : seeds(300)) {
    INFO("seed " << seed);
    Random random(seed);
    LiveGround ground = random_live_ground(random, 14);
    ground.live.commit();
    LiveGround fresh = random_live_ground(random, 14);
    for (int i = 0; i < 10; ++i) random_edit(random, fresh);
    fresh.live.commit();
    const Map committed = fresh.live.map();
    std::vector<CostGrid> grids;
    for (MoverId mover = 0; mover < fresh.live.movers().size(); ++mover) grids.push_back(fresh.live.costs(mover));
    LiveMap late(committed, fresh.live.movers());
    const auto threat = late.add_threat(random_threat(random, committed.board()));
    late.commit();
    LiveMap early(committed, fresh.live.movers());
    (void)early.danger();
    const auto same_threat = early.add_threat(late.threat(*threat));
    early.commit();
    for (int i = 0; i < 10; ++i) {
      const Cell cell = random.cell(committed.size());
      (void)late.set_terrain(cell,
                             static_cast<TerrainId>(random.whole(0, static_cast<int>(committed.kinds().size()) - 1)));
      (void)late.change_threat(*threat, random_threat(random, committed.board()));
    }
    REQUIRE(same_threat == threat);
    for (MoverId mover = 0; mover < fresh.live.movers().size(); ++mover) {
      REQUIRE(late.costs(mover) == bake(committed, fresh.live.movers()[mover]));
    }
    REQUIRE(late.danger().levels() == early.danger().levels());
    late.commit();
    for (MoverId mover = 0; mover < fresh.live.movers().size(); ++mover) {
      REQUIRE(late.costs(mover) == bake(late.map(), fresh.live.movers()[mover]));
    }
  }
}

TEST_CASE("frames: fields and routes follow a little at a time, none starves, and end as if at once") {
  Searcher searcher;
  for (const std::uint64_t seed : seeds(150)) {
    INFO("seed " << seed);
    Random random(seed);
    LiveGround ground = random_live_ground(random, 20);
    for (int frame = 0; frame < 30; ++frame) {
      for (int i = random.whole(0, 3); i > 0; --i) random_edit(random, ground);
      ground.live.commit(false);
      (void)ground.live.work(static_cast<std::uint64_t>(random.whole(1, 150)));
    }
    int frames = 0;
    while (!ground.live.work(100)) REQUIRE(++frames < 1000);
    for (const FieldId id : ground.fields) REQUIRE_FALSE(ground.live.waits(id));
    for (const RouteId id : ground.routes) REQUIRE_FALSE(ground.live.route_waits(id));
    (void)ground.live.danger();
    check_all(ground, searcher);
  }
}

TEST_CASE("edits undone give the state before, bit for bit") {
  for (const std::uint64_t seed : seeds(200)) {
    INFO("seed " << seed);
    Random random(seed);
    LiveGround ground = random_live_ground(random, 14);
    (void)ground.live.danger();
    ground.live.commit();
    const Map before = ground.live.map();
    const Field field = ground.fields.empty() ? Field() : ground.live.field(ground.fields[0]);
    const CostGrid costs = ground.live.costs(0);
    const Regions regions = ground.live.regions(0);
    for (int i = 0; i < 10; ++i) {
      const Cell cell = random.cell(before.size());
      (void)ground.live.set_terrain(
          cell, static_cast<TerrainId>(random.whole(0, static_cast<int>(before.kinds().size()) - 1)));
      if (random.chance(50)) ground.live.commit();
    }
    for (const Cell cell : before.size().cells()) (void)ground.live.set_terrain(cell, before.terrain_at(cell));
    ground.live.commit();
    REQUIRE(ground.live.costs(0) == costs);
    REQUIRE(same(ground.live.regions(0), regions, before.size()));
    if (!ground.fields.empty()) REQUIRE(same(ground.live.field(ground.fields[0]), field));
    REQUIRE(ground.live.commit().empty());
  }
}

TEST_CASE("a refused edit says why and changes nothing") {
  LiveMap live(Map({Tiling::square(), {6, 5}}, {{.name = "sand"}, {.name = "rock", .cost = blocked}}),
               {{.name = "crab"}});
  const UnitId hut = live.add_unit(Footprint({{0, 0}, {1, 0}}));
  const UnitId crate = live.add_unit({});
  REQUIRE(live.place(hut, {{2, 2}}));
  live.commit();
  const auto refused = [&](Edited edited, EditFault why, Cell at, UnitId by = 0) {
    CHECK_FALSE(edited);
    CHECK(edited.why == why);
    CHECK(edited.at == at);
    CHECK(edited.by == by);
    CHECK(live.commit().empty());
  };
  refused(live.set_terrain({6, 0}, 1), EditFault::off_map, {6, 0});
  refused(live.set_terrain({1, 0}, 2), EditFault::no_such_kind, {1, 0});
  refused(live.set_height({0, 5}, 2), EditFault::off_map, {0, 5});
  refused(live.close_way({0, 0}, {1, 1}), EditFault::not_beside, {1, 1});
  refused(live.close_edge({5, 0}, {6, 0}), EditFault::off_map, {6, 0});
  refused(live.place(9, {{0, 0}}), EditFault::no_such_unit, {});
  refused(live.place(hut, {{0, 0}}), EditFault::standing, {2, 2});
  refused(live.place(crate, {{3, 2}}), EditFault::occupied, {3, 2}, hut);
  refused(live.move(crate, {{0, 0}}), EditFault::lifted, {});
  refused(live.lift(crate), EditFault::lifted, {});
  refused(live.move(hut, {{5, 2}}), EditFault::off_map, {6, 2});
  refused(live.change_threat(ThreatNumber(), {}), EditFault::no_such_threat, {});
  refused(live.remove_threat(ThreatNumber(3)), EditFault::no_such_threat, {});
  CHECK_FALSE(live.add_threat({.at = {9, 9}}));
  const auto gull = live.add_threat({.at = {1, 1}, .range = 2_steps});
  live.commit();
  refused(live.change_threat(*gull, {.at = {9, 9}}), EditFault::off_map, {9, 9});
  refused(live.change_threat(*gull, {.at = {1, 1}, .facing = Side(9)}), EditFault::cannot_be, {1, 1});
  refused(live.close_for({-1, 0}), EditFault::off_map, {-1, 0});
  refused(live.add_cost({1, 1}, 656_steps), EditFault::out_of_range, {1, 1});
  refused(live.set_cost(0, {1, 1}, 1_steps), EditFault::baked, {1, 1});
  refused(live.set_cost(4, {1, 1}, 1_steps), EditFault::no_such_mover, {1, 1});
  CHECK(live.costs(4).size() == Size{0, 0});
  CHECK(live.field(FieldId(3)).costs().empty());
  CHECK_FALSE(live.route(RouteId(3)).found());
}

TEST_CASE("cells closed or made dearer for a while open again in their time") {
  LiveMap live(Map({Tiling::square(), {5, 1}}, {{.name = "sand"}}), {{.name = "crab"}});
  const RouteId route = live.keep_route(0, {0, 0}, {4, 0});
  REQUIRE(live.close_for({2, 0}, 2));
  REQUIRE(live.add_cost({3, 0}, 50_hundredths, 1));
  CHECK(live.commit().cells == std::vector<ChangedCell>{{{2, 0}, 32}, {{3, 0}, 32}});
  CHECK(live.route(route).report().standing == Standing::broken);
  CHECK(live.costs(0).entry(Cell{3, 0}) == 150);
  CHECK(live.commit().cells == std::vector<ChangedCell>{{{3, 0}, 32}});
  CHECK(live.route(route).report().standing == Standing::broken);
  CHECK(live.commit().cells == std::vector<ChangedCell>{{{2, 0}, 32}});
  CHECK(live.route(route).report().standing == Standing::better);
  CHECK(live.route(route).report().cost == 400);
  CHECK(live.commit().empty());
}

TEST_CASE("a caller's own numbers can be the map") {
  Random random(3);
  std::vector<EntryCost> mine(400, 100);
  const Board board{Tiling::square(), {20, 20}};
  std::vector<CostGrid> grids;
  grids.push_back(CostGrid::from_hundredths(board, {}, mine));
  LiveMap live(std::move(grids));
  const Source goal{{3, 3}};
  const FieldId field = live.keep_field(0, {&goal, 1});
  (void)live.regions(0);
  for (int round = 0; round < 50; ++round) {
    std::vector<Cell> changed;
    for (int i = 0; i < 5; ++i) {
      const Cell cell = random.cell(board.size);
      mine[board.size.index(cell).value()] = static_cast<EntryCost>(random.chance(40) ? 0 : random.whole(50, 300));
      changed.push_back(cell);
    }
    REQUIRE(live.tell_changed(0, changed, [&](Cell cell) { return mine[board.size.index(cell).value()]; }));
    live.commit();
    const CostGrid anew = CostGrid::from_hundredths(board, {}, mine);
    REQUIRE(live.costs(0) == anew);
    REQUIRE(same(live.regions(0), Regions(anew), board.size));
    REQUIRE(same(live.field(field), Searcher().field_to(anew, {&goal, 1})));
  }
  // A cost told and taken back in one commit is no change; of several told the last one counts.
  const Cell cell{5, 5};
  const EntryCost before = live.costs(0).entry(cell);
  const EntryCost other = before == 70 ? 80 : 70;
  REQUIRE(live.set_cost(0, cell, other));
  REQUIRE(live.set_cost(0, cell, before));
  CHECK(live.commit().cells.empty());
  REQUIRE(live.set_cost(0, cell, before));
  REQUIRE(live.set_cost(0, cell, other));
  CHECK(live.commit().cells.size() == 1);
  CHECK(live.costs(0).entry(cell) == other);
  CHECK(live.set_terrain({1, 1}, 0).why == EditFault::off_map);
  CHECK(live.close_for({1, 1}).why == EditFault::baked);
}
