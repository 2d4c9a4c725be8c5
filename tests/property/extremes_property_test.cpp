// The largest boards there are: what a small board tells it tells at their far end too.
#include <catch2/catch.hpp>

#include "saunter/saunter.hpp"
#include "support/random_maps.hpp"
#include "support/seeds.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

constexpr std::int32_t longest_side = 65'535;

/// A small board and the same at the far end of a long one, where all else is rock.
struct Twins {
  Map small;
  Map large;
  Offset away;  // from small to large
  [[nodiscard]] Cell there(Cell cell) const { return cell + away; }
};

Twins twins(Random& random, Tiling tiling, bool long_rows) {
  const Size size{random.whole(4, 12), random.whole(4, 12)};
  Size long_size = size;
  (long_rows ? long_size.rows : long_size.cols) = longest_side;
  // An even distance: cells are of the same kind there.
  const Offset away{(long_size.cols - size.cols) & ~1, (long_size.rows - size.rows) & ~1};
  const std::vector<Terrain> kinds = {
      {.name = "rock", .cost = blocked, .opaque = true}, {.name = "sand"}, {.name = "kelp", .cost = 250}};
  Twins made{Map({tiling, size}, kinds), Map({tiling, long_size}, kinds), away};
  for (const Cell cell : size.cells()) {
    const auto kind = static_cast<TerrainId>(random.chance(20) ? 0 : random.chance(70) ? 1 : 2);
    made.small.set_terrain(cell, kind);
    made.large.set_terrain(made.there(cell), kind);
  }
  if (random.chance(40)) {
    for (int i = 0; i < 8; ++i) {
      const Cell cell = random.cell(size);
      const Direction d(random.whole(0, tiling.edge_count() - 1));
      if (!size.contains(tiling.neighbour(cell, d))) continue;
      made.small.add_barrier(cell, d);
      made.large.add_barrier(made.there(cell), d);
    }
  }
  return made;
}

}  // namespace

TEST_CASE("boards of 65,535 columns or rows answer at their far end as short ones do") {
  Searcher searcher;
  std::size_t found = 0;
  std::size_t seen = 0;
  for (const std::uint64_t seed : seeds(8)) {
    for (const bool long_rows : {false, true}) {
      INFO("seed " << seed << (long_rows ? ", long rows" : ", long columns"));
      Random random(seed);
      const Tiling tiling = all_tilings()[seed % all_tilings().size()];
      const Twins board = twins(random, tiling, long_rows);
      Mover mover = random_mover(random, tiling);
      if (mover.rules.corners == Corners::free) mover.rules.corners = Corners::lenient;  // which asks for the rim
      mover.size = tiling.shape() == Shape::triangle ? 1 : random.whole(1, 2);
      const CostGrid costs = bake(board.small, mover);
      const CostGrid far = bake(board.large, mover);
      const Size size = board.small.size();
      for (const Cell cell : size.cells()) {
        // Places that reach beyond the small board may be open on the large one only where that is rock: nowhere.
        REQUIRE(far.entry(board.there(cell)) == costs.entry(cell));
        REQUIRE(far.moves(board.there(cell)) == costs.moves(cell));
      }
      const Cell from = random.cell(size);
      const Cell to = random.cell(size);
      for (const Algorithm by : {Algorithm::automatic, Algorithm::astar, Algorithm::dijkstra, Algorithm::bfs,
                                 Algorithm::jump, Algorithm::dead_ends}) {
        const Route near = searcher.route(costs, from, to, {.by = by});
        const Route& route = searcher.route(far, board.there(from), board.there(to), {.by = by});
        REQUIRE(route.verdict().reason == near.verdict().reason);
        REQUIRE(route.verdict().at == board.there(near.verdict().at));
        REQUIRE(route.cost() == near.cost());
        found += near.found() ? 1U : 0U;
      }
      const Field near_field = searcher.reach(costs, from);
      const Field field = searcher.reach(far, board.there(from));
      REQUIRE(field.reached_count() == near_field.reached_count());
      for (const Cell cell : size.cells()) REQUIRE(field.cost(board.there(cell)) == near_field.cost(cell));
      REQUIRE(Regions(far).list().size() == Regions(costs).list().size());
      BitGrid in_range;
      cells_in_range(field, 2, in_range);
      BitGrid near_range;
      cells_in_range(near_field, 2, near_range);
      for (const Cell cell : size.cells()) REQUIRE(in_range.test(board.there(cell)) == near_range.test(cell));
      const SightGrid sight({tiling, size}, opaque_terrain(board.small));
      const SightGrid far_sight({tiling, board.large.size()}, opaque_terrain(board.large));
      Lookout lookout;
      std::vector<Cell> cells;
      lookout.visible(far_sight, board.there(from), 5_steps, cells);
      BitGrid visible(board.large.size());
      for (const Cell cell : cells) visible.set(cell);
      for (const Cell cell : size.cells()) {
        const bool near = distance_squared(tiling, from, cell) <= 25;
        REQUIRE(visible.test(board.there(cell)) == (near && sees(sight, from, cell)));
        REQUIRE(sees(far_sight, board.there(from), board.there(cell)) == sees(sight, from, cell));
        seen += near ? 1U : 0U;
      }
      Fitter fitter;
      const Footprint pair = Footprint::of_size(tiling, mover.size);
      const BitGrid spots = fitter.spots({.map = &board.small, .mover = &mover}, pair);
      const BitGrid far_spots = fitter.spots({.map = &board.large, .mover = &mover}, pair);
      for (const Cell cell : size.cells()) REQUIRE(far_spots.test(board.there(cell)) == spots.test(cell));
      const Grid<std::uint8_t> room = clearance(bake(board.small, {.name = "crab"}));
      const Grid<std::uint8_t> far_room = clearance(bake(board.large, {.name = "crab"}));
      for (const Cell cell : size.cells()) REQUIRE(far_room[board.there(cell)] == room[cell]);
    }
  }
  CHECK(found > share_of(20));
  CHECK(seen > share_of(500));
}
