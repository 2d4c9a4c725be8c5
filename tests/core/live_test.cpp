// A live map read on another thread, and what its snapshots hold.
#include <atomic>
#include <catch2/catch.hpp>
#include <thread>

#include "support/live_oracle.hpp"

using namespace saunter;
using namespace saunter::test;

TEST_CASE("snapshots stay whole while commits run, and answer as if asked in turn", "[threads]") {
  Random random(8);
  LiveGround ground = random_live_ground(random, 30);
  while (ground.live.board().size.cell_count() < 300) ground = random_live_ground(random, 30);
  (void)ground.live.regions(0);
  const Size size = ground.live.board().size;
  ground.live.publish();
  std::vector<std::pair<std::uint64_t, Route>> answers;
  std::atomic<bool> over = false;
  std::thread reader([&] {
    Searcher searcher;
    while (!over || answers.empty()) {
      const auto now = ground.live.latest();
      const CostGrid& costs = *now->costs(0);
      const Cell far{size.cols - 1, size.rows - 1};
      if (!now->regions(0)->made_from(costs)) break;
      answers.emplace_back(now->revision(), searcher.route(costs, {0, 0}, far, {.labels = &now->regions(0)->labels()}));
    }
  });
  std::vector<CostGrid> all{ground.live.costs(0)};
  for (int i = 0; i < 400; ++i) {
    for (int edits = random.whole(0, 4); edits > 0; --edits) random_edit(random, ground);
    ground.live.commit();
    all.push_back(ground.live.costs(0));
    if (random.chance(70)) {
      const auto now = ground.live.publish();
      REQUIRE(*now->costs(0) == all.back());
      REQUIRE(now->regions(0)->list() == Regions(all.back()).list());
      REQUIRE((now->levels(0) == nullptr || *now->levels(0) == ground.live.levels(0)));
    }
    std::this_thread::yield();
  }
  over = true;
  reader.join();
  Searcher searcher;
  REQUIRE_FALSE(answers.empty());
  for (const auto& [revision, route] : answers) {
    REQUIRE(route == searcher.route(all[revision], {0, 0}, {size.cols - 1, size.rows - 1}));
  }
  const auto kept = ground.live.latest();
  ground = random_live_ground(random, 10);  // it may outlive its map
  CHECK(kept->costs(0) != nullptr);
}

TEST_CASE("a snapshot holds what was asked for, and its memory follows when nobody holds it") {
  const Map map({Tiling::square(), {8, 8}}, {{.name = "sand"}, {.name = "rock", .cost = blocked}});
  LiveMap live(map, {{.name = "crab"}, {.name = "sled", .size = 2}, {.name = "nobody"}});
  CHECK(live.latest() == nullptr);
  (void)live.costs(0);
  (void)live.costs(1);
  (void)live.danger();
  const auto first = live.publish();
  CHECK(first->revision() == 0);
  CHECK(first->regions(0) == nullptr);
  CHECK(first->costs(2) == nullptr);
  CHECK(first->costs(9) == nullptr);
  CHECK(first->levels(0) != nullptr);
  CHECK(first->levels(1) == nullptr);  // places of a large mover have levels of their own
  (void)live.levels(1);
  (void)live.regions(0);
  for (int i = 1; i <= 100; ++i) {
    REQUIRE(live.set_terrain({i % 8, i / 8 % 8}, i % 3 == 0 ? 1 : 0));
    if (i == 50) REQUIRE(live.add_threat({.at = {4, 4}, .range = 2_steps}));
    live.commit();
    if (i % 7 != 0 && i < 80) continue;  // some fall far behind
    const auto now = live.publish();
    REQUIRE(now == live.latest());
    REQUIRE(*now->costs(0) == live.costs(0));
    REQUIRE(*now->costs(1) == live.costs(1));
    REQUIRE(now->regions(0)->list() == live.regions(0).list());
    REQUIRE(*now->levels(1) == live.levels(1));
    REQUIRE(now->revision() == live.revision());
  }
  CHECK(first->costs(0)->open({1, 0}));
  CHECK(*first->costs(0) == bake(map, {.name = "crab"}));
}
