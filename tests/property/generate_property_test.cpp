// Made ground: one region for whom it is promised, inside its bounds, walls exactly around what is open, mazes spanning
// trees, the same whether made at once or by steps.
#include <catch2/catch.hpp>

#include <algorithm>
#include <array>
#include <map>
#include <set>

#include "saunter/saunter.hpp"
#include "support/seeds.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// Cells that a flood across open edges reaches from the first open one; all of them, when the ground is one.
std::size_t reached_from_first(const Made& made) {
  const Size size = made.size();
  std::vector<Cell> queue;
  Grid<std::uint8_t> seen(size);
  for (const Cell cell : size.cells()) {
    if (!queue.empty() || !made.open(cell)) continue;
    queue.push_back(cell);
    seen[cell] = 1;
  }
  for (std::size_t i = 0; i < queue.size(); ++i) {
    for (Direction d{0}; d < made.tiling.edge_count(); ++d) {
      const Cell next = made.tiling.neighbour(queue[i], d);
      if (!size.contains(next) || !made.open(next) || !made.open_side(queue[i], d) || seen[next] != 0) continue;
      seen[next] = 1;
      queue.push_back(next);
    }
  }
  return queue.size();
}

/// Open sides between open cells, each counted once.
std::size_t passages_of(const Made& made) {
  std::size_t sides = 0;
  for (const Cell cell : made.size().cells()) {
    for (Direction d{0}; d < made.tiling.edge_count(); ++d) {
      const Cell next = made.tiling.neighbour(cell, d);
      if (!made.size().contains(next) || !made.open(cell) || !made.open(next)) continue;
      const Direction back = made.tiling.direction(next, cell);
      REQUIRE(made.open_side(cell, d) == made.open_side(next, back));
      sides += made.open_side(cell, d) ? 1U : 0U;
    }
  }
  return sides / 2;
}

std::size_t dead_ends_of(const Made& made) {
  std::size_t ends = 0;
  for (const Cell cell : made.size().cells()) {
    int open = 0;
    for (Direction d{0}; made.open(cell) && d < made.tiling.edge_count(); ++d) {
      const Cell next = made.tiling.neighbour(cell, d);
      if (made.size().contains(next) && made.open(next) && made.open_side(cell, d)) ++open;
    }
    ends += open == 1 ? 1U : 0U;
  }
  return ends;
}

bool on_rim(Cell cell, Size size) {
  return cell.col == 0 || cell.row == 0 || cell.col + 1 == size.cols || cell.row + 1 == size.rows;
}

/// A wall is exactly what is closed and touches something open; the rim is closed.
void check_walls(const Made& made) {
  std::size_t wrong = 0;
  for (const Cell cell : made.size().cells()) {
    bool touches = false;
    for (Direction d{0}; d < made.tiling.direction_count(); ++d) {
      const Cell next = made.tiling.neighbour(cell, d);
      touches = touches || (made.size().contains(next) && made.open(next));
    }
    if (made.open(cell)) {
      wrong += on_rim(cell, made.size()) ? 1U : 0U;
    } else {
      wrong += made.parts[cell] == (touches ? Part::wall : Part::beyond) ? 0U : 1U;
    }
  }
  CHECK(wrong == 0);
}

template <typename Maker>
Made by_steps(Maker maker, Random& random) {
  while (!maker.run(static_cast<std::uint64_t>(random.whole(1, 9)))) (void)maker.so_far();
  return maker.take();
}

RoomsOptions random_rooms(Random& random, Tiling tiling, std::uint64_t seed) {
  RoomsOptions o;
  o.seed = seed;
  o.by = static_cast<RoomsMethod>(random.whole(0, 2));
  o.rooms = static_cast<std::size_t>(random.whole(0, 14));
  o.least_side = random.whole(2, 5);
  o.most_side = o.least_side + random.whole(0, 6);
  o.overlap = random.chance(25);
  o.margin = random.whole(0, 3);
  o.smallest_piece = {random.whole(4, 12), random.whole(4, 12)};
  o.corridor = static_cast<CorridorShape>(random.whole(0, 2));
  o.order = static_cast<JoinOrder>(random.whole(0, 2));
  o.extra = static_cast<std::size_t>(random.whole(0, 3));
  o.grown = random.chance(30);
  o.width = tiling.shape() == Shape::square ? random.whole(1, std::min(4, o.least_side)) : 1;
  o.doors = o.width == 1 && random.chance(50);
  return o;
}

void check_boxes(const Made& made, const RoomsOptions& o) {
  const Size size = made.size();
  const bool apart = !(o.overlap && o.by == RoomsMethod::scattered);
  std::size_t wrong = 0;
  for (std::size_t i = 0; i < made.rooms.size(); ++i) {
    const Rect box = made.rooms[i];
    const int cols = box.right - box.left;
    const int rows = box.bottom - box.top;
    const bool sized = std::min(cols, rows) >= o.least_side && std::max(cols, rows) <= o.most_side;
    wrong += sized && box.left > 0 && box.top > 0 && box.right < size.cols && box.bottom < size.rows ? 0U : 1U;
    for (const Cell cell : box.cells()) wrong += o.grown || made.open(cell) ? 0U : 1U;
    for (std::size_t k = 0; apart && k < i; ++k) {
      const Rect other = made.rooms[k];
      const int across = std::max(box.left - other.right, other.left - box.right);
      const int along = std::max(box.top - other.bottom, other.top - box.bottom);
      wrong += std::max(across, along) >= o.margin ? 0U : 1U;
    }
  }
  CHECK(wrong == 0);
}

/// Corridors are walks over open ground, and with the boxes they cover all of it.
void check_corridors(const Made& made, const RoomsOptions& o) {
  BitGrid covered(made.size());
  for (const Rect& box : made.rooms) {
    for (const Cell cell : box.cells()) covered.set(cell);
  }
  std::size_t wrong = 0;
  for (const std::vector<Cell>& corridor : made.corridors) {
    for (std::size_t i = 0; i < corridor.size(); ++i) {
      const Direction d = i == 0 ? Direction{0} : made.tiling.direction(corridor[i - 1], corridor[i]);
      wrong += d >= 0 && d < made.tiling.edge_count() ? 0U : 1U;
      const Cell at = corridor[i];
      for (const Cell cell : Rect{at.col, at.row, at.col + o.width, at.row + o.width}.cells()) {
        wrong += made.open(cell) ? 0U : 1U;
        covered.set(cell);
      }
    }
  }
  for (const Cell cell : made.size().cells()) wrong += made.open(cell) && !covered.test(cell) ? 1U : 0U;
  CHECK(wrong == 0);
  CHECK(made.corridors.size() <= (made.rooms.empty() ? 0 : made.rooms.size() - 1 + o.extra));
}

/// With wide corridors: every open cell under some place of a mover of that size, and those places one region.
void check_width(const Made& made, int width) {
  const Map map = to_map(made, {{.name = "floor"}, {.name = "wall", .cost = blocked}}, {1, 1, 0, 0});
  const CostGrid costs = bake(map, {.name = "sled", .rules = {.steps = 4}, .size = width});
  CHECK(Regions(costs).list().size() <= 1);
  BitGrid under(made.size());
  for (const Cell at : made.size().cells()) {
    if (!costs.open(at)) continue;
    for (const Cell cell : Rect{at.col, at.row, at.col + width, at.row + width}.cells()) under.set(cell);
  }
  std::size_t wrong = 0;
  for (const Cell cell : made.size().cells()) wrong += made.open(cell) && !under.test(cell) ? 1U : 0U;
  CHECK(wrong == 0);
}

void check_doors(const Made& made, bool wanted) {
  BitGrid in_room(made.size());
  for (const Rect& box : made.rooms) {
    for (const Cell cell : box.cells()) in_room.set(cell);
  }
  std::vector<Cell> doors;
  for (const Cell cell : made.size().cells()) {
    if (made.parts[cell] != Part::door) continue;
    doors.push_back(cell);
    CHECK_FALSE(in_room.test(cell));
    bool enters = false;
    for (Direction d{0}; d < made.tiling.edge_count(); ++d) {
      const Cell next = made.tiling.neighbour(cell, d);
      enters = enters || (in_room.test(next) && made.open(next));
      CHECK(made.parts[next] != Part::door);
    }
    CHECK(enters);
  }
  CHECK(doors == made.doors);
  CHECK((wanted || doors.empty()));
}

}  // namespace

TEST_CASE("mazes are spanning trees of their boards on every tiling, by every method") {
  for (const Tiling tiling : all_tilings()) {
    for (const MazeMethod method : all_maze_methods) {
      for (std::uint64_t seed = 1; seed <= 40; ++seed) {
        Random random(seed * 7919);
        const Size size{random.whole(1, 15), random.whole(1, 13)};
        INFO(method_name(method) << " seed " << seed << ", " << size.cols << " x " << size.rows);
        const MazeOptions options{.by = method, .seed = seed};
        const Made made = make_maze({tiling, size}, options);
        const bool whole = tiling.shape() != Shape::triangle || size.cols > 1;  // one column falls into pairs
        CHECK((made.open_count() == size.cell_count() || !whole));
        CHECK(reached_from_first(made) == made.open_count());
        CHECK(passages_of(made) == made.open_count() - 1);
        CHECK(dead_ends_of(made) == made.dead_ends);
        const Made again = by_steps(MazeMaker({tiling, size}, options), random);
        CHECK(again.closed == made.closed);
        CHECK(again.parts == made.parts);
      }
    }
  }
}

TEST_CASE("loops open a share of the dead ends of the same maze and nothing else") {
  for (const std::uint64_t seed : seeds(60)) {
    Random random(seed);
    const Tiling tiling = all_tilings()[seed % all_tilings().size()];
    const Size size{random.whole(2, 20), random.whole(2, 20)};
    MazeOptions options{.by = all_maze_methods[seed % 5], .seed = seed};
    const Made tree = make_maze({tiling, size}, options);
    options.loops = random.whole(0, 100);
    const Made made = make_maze({tiling, size}, options);
    const std::size_t more = passages_of(made) - passages_of(tree);
    CHECK(more <= tree.dead_ends * static_cast<std::size_t>(options.loops) / 100);
    for (const Cell cell : size.cells()) CHECK((made.closed[cell] & ~tree.closed[cell]) == 0);
    CHECK(dead_ends_of(made) == made.dead_ends);
    if (options.loops == 100 && size.cols > 2 && size.rows > 2) CHECK(made.dead_ends < tree.dead_ends);
  }
}

TEST_CASE("mazes keep to a mask and are made of its largest piece") {
  for (const std::uint64_t seed : seeds(150)) {
    Random random(seed);
    const Tiling tiling = all_tilings()[seed % all_tilings().size()];
    const Size size{random.whole(2, 18), random.whole(2, 14)};
    BitGrid mask(size);
    for (const Cell cell : size.cells()) mask.set(cell, random.chance(70));
    const MazeMethod method = all_maze_methods[seed % 4];
    INFO("seed " << seed << " " << method_name(method));
    const Made made = make_maze({tiling, size}, {.by = method, .seed = seed, .mask = &mask});
    for (const Cell cell : size.cells()) CHECK((mask.test(cell) || !made.open(cell)));
    const CostGrid ground({tiling, size}, {.steps = tiling.edge_count()},
                          [&](Cell cell) { return mask.test(cell) ? EntryCost{100} : blocked; });
    const Regions regions(ground);
    CHECK(made.open_count() == (regions.largest() == nullptr ? 0 : regions.largest()->cells));
    CHECK(reached_from_first(made) == made.open_count());
    if (made.open_count() > 0) CHECK(passages_of(made) == made.open_count() - 1);
  }
}

TEST_CASE("walls of cells: own cells at odd places, a passage between, all else wall") {
  for (const std::uint64_t seed : seeds(60)) {
    Random random(seed);
    const Size size{random.whole(1, 24), random.whole(1, 20)};
    const Made made =
        make_maze({Tiling::square(), size}, {.by = all_maze_methods[seed % 5], .seed = seed, .wall_cells = true});
    CHECK(made.closed.empty());
    std::size_t own = 0;
    for (const Cell cell : size.cells()) {
      const bool odd = cell.col % 2 == 1 && cell.row % 2 == 1;
      const bool inside = cell.col + 1 < size.cols && cell.row + 1 < size.rows;
      if (odd && inside) {
        ++own;
        CHECK(made.open(cell));
      }
      if (made.open(cell)) CHECK((cell.col % 2 == 1 || cell.row % 2 == 1));
      if (on_rim(cell, size) || (cell.col % 2 == 0 && cell.row % 2 == 0)) CHECK(made.parts[cell] == Part::wall);
    }
    CHECK(reached_from_first(made) == made.open_count());
    if (own > 0) CHECK(made.open_count() == 2 * own - 1);
  }
}

TEST_CASE("a maze streamed by rows is the one made at once") {
  for (std::uint64_t seed = 1; seed <= 40; ++seed) {
    Random random(seed);
    const Tiling tiling = all_tilings()[seed % all_tilings().size()];
    const Size size{random.whole(2, 30), random.whole(1, 20)};
    const Made made = make_maze({tiling, size}, {.by = MazeMethod::eller, .seed = seed});
    std::int32_t rows = 0;
    stream_maze(tiling, size, seed, [&](std::int32_t row, std::span<const std::uint8_t> closed) {
      CHECK(row == rows++);
      const auto expected = made.closed.row(row);
      CHECK(std::equal(closed.begin(), closed.end(), expected.begin(), expected.end()));
    });
    CHECK(rows == size.rows);
  }
}

TEST_CASE("every spanning tree is as likely by wilson, depth first winds, prim branches") {
  // 192 spanning trees of 3 x 3 (Kirchhoff). Chi-square with 191 degrees of freedom: above 260 one time in 1,500.
  std::map<std::vector<std::uint8_t>, int> seen;
  constexpr int draws = 192 * 100;
  for (int i = 0; i < draws; ++i) {
    const Made made =
        make_maze({Tiling::square(), {3, 3}}, {.by = MazeMethod::wilson, .seed = static_cast<std::uint64_t>(i)});
    const auto sides = made.closed.values();
    ++seen[{sides.begin(), sides.end()}];
  }
  CHECK(seen.size() == 192);
  double chi_square = 0;
  for (const auto& [tree, count] : seen) chi_square += (count - 100.0) * (count - 100.0) / 100.0;
  INFO("chi-square " << chi_square);
  CHECK(chi_square < 260);
  const auto dead_ends = [](MazeMethod method) {
    std::size_t sum = 0;
    for (std::uint64_t seed = 1; seed <= 20; ++seed) {
      sum += make_maze({Tiling::square(), {40, 40}}, {.by = method, .seed = seed}).dead_ends;
    }
    return sum;
  };
  CHECK(3 * dead_ends(MazeMethod::depth_first) < dead_ends(MazeMethod::prim));
}

TEST_CASE("caves are one region inside the rim, with walls exactly around it") {
  std::size_t open = 0;
  for (const std::uint64_t seed : seeds(500)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = all_tilings()[seed % all_tilings().size()];
    const Size size{random.whole(1, 50), random.whole(1, 40)};
    CaveOptions o{.by = random.chance(50) ? CaveMethod::agents : CaveMethod::noise, .seed = seed};
    if (random.chance(50)) o.open = random.whole(0, 100);
    o.smooth = random.whole(0, 6);
    o.agents = random.whole(0, 12);
    o.agent_steps = random.whole(0, 300);
    o.start_on_dug = random.chance(50);
    o.straight = random.whole(0, 100);
    if (random.chance(50)) o.lean = Side(random.whole(0, side_count(tiling) - 1));
    o.lean_chance = random.whole(0, 60);
    o.keep = random.chance(50) ? Keep::largest : Keep::all_joined;
    o.least_cells = static_cast<std::uint32_t>(random.whole(1, 12));
    const Made made = make_cave({tiling, size}, o);
    check_walls(made);
    CHECK(reached_from_first(made) == made.open_count());
    CHECK(by_steps(CaveMaker({tiling, size}, o), random).parts == made.parts);
    open += made.open_count();
    if (o.by == CaveMethod::agents && o.open && size.cols > 2 && size.rows > 2 && o.keep == Keep::largest) {
      const auto inside = static_cast<std::size_t>(size.cols - 2) * static_cast<std::size_t>(size.rows - 2);
      CHECK(made.open_count() <= inside * static_cast<std::size_t>(*o.open) / 100);
    }
  }
  CHECK(open > share_of(10'000));
}

TEST_CASE("rooms and corridors keep every promise, whatever is asked together") {
  std::size_t rooms = 0;
  std::size_t doors = 0;
  for (const std::uint64_t seed : seeds(1500)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = all_tilings()[seed % all_tilings().size()];
    const Size size{random.whole(3, 52), random.whole(3, 42)};
    const RoomsOptions o = random_rooms(random, tiling, seed);
    REQUIRE(rooms_problem({tiling, size}, o).empty());
    const Made made = make_rooms({tiling, size}, o);
    CHECK(made.rooms.size() <= made.asked);
    CHECK(made.visits.size() == made.rooms.size());
    CHECK(std::set<std::size_t>(made.visits.begin(), made.visits.end()).size() == made.rooms.size());
    check_boxes(made, o);
    check_corridors(made, o);
    check_walls(made);
    check_doors(made, o.doors);
    CHECK(reached_from_first(made) == made.open_count());
    if (o.width > 1) check_width(made, o.width);
    const Made again = by_steps(RoomsMaker({tiling, size}, o), random);
    CHECK(again.parts == made.parts);
    CHECK(again.corridors == made.corridors);
    rooms += made.rooms.size();
    doors += made.doors.size();
  }
  CHECK(rooms > share_of(3000));
  CHECK(doors > share_of(300));
}

TEST_CASE("as many rooms are made as fit") {
  // Rooms of 3 x 3, one cell apart, inside the rim of 21 x 21: five by five.
  const RoomsOptions o{.seed = 9, .rooms = 100, .least_side = 3, .most_side = 3};
  const Made made = make_rooms({Tiling::square(), {21, 21}}, o);
  CHECK(made.asked == 100);
  CHECK(made.rooms.size() >= 12);
  CHECK(made.rooms.size() <= 25);
  CHECK(make_rooms({Tiling::square(), {4, 4}}, o).rooms.empty());
}

TEST_CASE("made ground becomes a map of the caller's kinds") {
  const Made made = make_rooms({Tiling::square(), {30, 20}}, {.seed = 3, .doors = true});
  const Map map = to_map(
      made, {{.name = "deep", .is_void = true}, {.name = "hull", .cost = blocked}, {.name = "deck"}, {.name = "hatch"}},
      {0, 1, 2, 3});
  for (const Cell cell : made.size().cells()) CHECK(map.terrain_at(cell) == static_cast<TerrainId>(made.parts[cell]));
}

TEST_CASE("made ground becomes a cost grid at once, equal to its map's for a mover across edges") {
  for (const std::uint64_t seed : seeds(60)) {
    INFO("seed " << seed);
    Random random(seed);
    const Tiling tiling = all_tilings()[seed % all_tilings().size()];
    const Board board{tiling, {random.whole(3, 40), random.whole(3, 40)}};
    Made made = make_maze(board, {.seed = seed, .wall_cells = seed % 4 == 0 && tiling.shape() == Shape::square});
    const std::size_t open = made.open_count();
    const Map map = to_map(made, {{.name = "reef", .cost = blocked}, {.name = "sand", .cost = 150}}, {0, 0, 1, 1});
    const CostGrid costs = to_costs(std::move(made), 150_hundredths);
    CHECK(costs == bake(map, Mover{.name = "crab", .rules = {.steps = tiling.edge_count()}}));
    CHECK(made.open_count() == open);  // the parts are still there
  }
}
