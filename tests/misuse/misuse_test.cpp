// Every call of the table in docs/misuse.md with its wrong argument. Built twice: as released (optimised, NDEBUG, the
// core without exceptions and type information), where each must answer what the table says; and checked, where broken
// promises must stop the program with file and line.
#include <catch2/catch.hpp>
#include <sys/wait.h>
#include <unistd.h>

#include <csignal>
#include <fstream>
#include <functional>
#include <iterator>
#include <map>
#include <string>

#include "saunter/saunter.hpp"
#include "support/places.hpp"

using namespace saunter;

namespace {

struct Row {
  const char* call;
  const char* wrong;
  const char* answer;
  bool broken_promise;  // stops in checked builds
  std::function<bool()> ask;
};

constexpr Tiling squares = Tiling::square();
const Board three{squares, {3, 3}};
CostGrid ground() {
  return CostGrid(three, {.steps = 8}, [](Cell) -> EntryCost { return 100; });
}
CostGrid walled() {  // the middle is blocked
  return CostGrid(three, {.steps = 8}, [](Cell cell) -> EntryCost { return cell == Cell{1, 1} ? 0 : 100; });
}
std::vector<Terrain> sand() {
  std::vector<Terrain> kinds(1);
  kinds[0].name = "sand";
  return kinds;
}
Map plain() { return Map(three, sand()); }
bool says(const Verdict& verdict, const std::string& words) { return to_string(verdict) == words; }
const Cell off{-4, 70'000};

std::vector<Row> cells_and_grids() {
  return {
      {"`Grid` read: `grid[cell]`, `grid[index]`", "off the map", "a value-initialised `T`", false,
       [] {
         const Grid<int> grid({2, 2}, 7);
         return grid[off] == 0 && grid[CellIndex{4}] == 0 && grid[Cell{1, 1}] == 7;
       }},
      {"`BitGrid::test`", "off the map", "false", false,
       [] {
         return !BitGrid(Size{2, 2}).test(off);
       }},
      {"`BitGrid::set`", "off the map", "nothing happens", false,
       [] {
         BitGrid bits(Size{2, 2});
         bits.set(off);
         bits.set({2, 0});
         return bits.count() == 0;
       }},
      {"`Grid(size)`, `BitGrid(size)`, `CostGrid(...)`, `Map(...)`", "a negative or too large size", "an empty one",
       true,
       [] {
         return Grid<int>(Size{-3, 5}).size().cell_count() == 0;
       }},
      {"`Size::index`", "a cell off the map", "an index beyond all cells", true,
       [] {
         return Size{2, 2}.index({5, 0}).value() >= 4;
       }},
      {"`Size::cell`", "an index beyond all cells", "a cell off the map", true,
       [] {
         return !Size{2, 2}.contains(Size{2, 2}.cell(CellIndex{9}));
       }},
      {"`Tiling::neighbour`", "a number that is no direction", "the cell itself", true,
       [] {
         return squares.neighbour({1, 1}, Direction{-1}) == Cell{1, 1};
       }},
      {"`Tiling::to_axial`, `from_axial`", "squares or triangles", "a cell's own numbers, without meaning", true,
       [] {
         (void)squares.to_axial({1, 1});
         return true;
       }},
      {"`Tiling::edge_distance`, `distance_squared`", "cells near the ends of the number range",
       "the distance, or the largest number", false,
       [] {
         constexpr auto low = std::numeric_limits<std::int32_t>::min();
         constexpr auto high = std::numeric_limits<std::int32_t>::max();
         return Tiling::hex(HexTop::flat, Shift::odd).edge_distance({low, low}, {high, high}) > 0 &&
                distance_squared(squares, {low, low}, {high, high}) > 0;
       }},
      {"`disk_of_cells` with a map", "any radius", "cells of the map only", false,
       [] {
         std::vector<Cell> cells;
         disk_of_cells(squares, {1, 1}, 2'000'000'000, {3, 3}, cells);
         return cells.size() == 9;
       }},
      {"`Dice::below`", "0", "0", true, [] { return Dice(1).below(0) == 0; }},
      {"`Frame(...)`", "a cell size or transform that can't be inverted", "world units are edge steps", true,
       [] {
         return Frame(squares, std::numeric_limits<double>::quiet_NaN()).cell_at({2.0, 1.0}) == Cell{2, 1};
       }},
      {"`Frame::cell_at`", "not a number, or infinite", "a cell off every map", false,
       [] {
         return !Frame(squares).cell_at({std::numeric_limits<double>::quiet_NaN(), 1.0}, {3, 3}).has_value();
       }},
  };
}

std::vector<Row> ground_rows() {
  return {
      {"`CostGrid::entry`, `open`, `moves`", "off the map", "blocked, false, no direction", false,
       [] {
         const CostGrid costs = ground();
         return costs.entry(off) == blocked && !costs.open(off) && costs.moves(off) == 0;
       }},
      {"`CostGrid::set_entry`", "off the map", "false, nothing happens", false,
       [] {
         CostGrid costs = ground();
         return !costs.set_entry(off, 2_steps) && costs.lowest_entry() == 100;
       }},
      {"`CostGrid::set_entry`", "above 655.35", "false, nothing happens", false,
       [] {
         CostGrid costs = ground();
         return !costs.set_entry({0, 0}, 700_steps) && costs.entry(Cell{0, 0}) == 100;
       }},
      {"`CostGrid::from_hundredths`, `from_steps`", "fewer or more numbers than cells",
       "cells without a number are blocked", true,
       [] {
         const std::vector<EntryCost> two = {100, 200};
         const CostGrid costs = CostGrid::from_hundredths(three, {.steps = 8}, two);
         return costs.entry(Cell{1, 0}) == 200 && !costs.open({2, 0});
       }},
      {"`CostGrid::from_planes`", "planes of another size",
       "cells without a number are blocked, no step leads from cells without one", true,
       [] {
         const CostGrid costs =
             CostGrid::from_planes(three, {.steps = 8}, Grid<EntryCost>({2, 3}, 100), Grid<std::uint8_t>({3, 1}, 255));
         return costs.open({1, 2}) && !costs.open({2, 0}) && costs.moves({0, 0}) != 0 && costs.moves({0, 1}) == 0;
       }},
      {"`Grid(size, values)`", "fewer or more values than cells", "missing values are T{}", true,
       [] {
         const Grid<int> grid({2, 2}, std::vector<int>{7, 8, 9});
         return grid[Cell{0, 1}] == 9 && grid[Cell{1, 1}] == 0;
       }},
      {"`to_costs`", "an entry above 655.35", "655.35", true,
       [] {
         Made made{three.tiling, Grid<Part>(three.size, Part::floor), {}};
         return to_costs(std::move(made), 700_steps).entry(Cell{0, 0}) == max_entry_cost;
       }},
      {"`CostGrid(...)`, `bake`", "rules that don't fit the tiling", "those of the usual mover", true,
       [] { return CostGrid::from_steps(three, {.steps = 5}, std::vector<std::uint8_t>(9, 1)).rules().steps == 8; }},
      {"`bake`, `rebake`", "`occupied` of another size", "cells it does not have are free", true,
       [] {
         BitGrid occupied(Size{1, 1});
         occupied.set({0, 0});
         return bake(plain(), Mover{.rules = {.steps = 8}}, &occupied).open({2, 2});
       }},
      {"`rebake`", "a grid of another board", "the grid is baked anew", true,
       [] {
         CostGrid costs;
         rebake(costs, plain(), Mover{.rules = {.steps = 8}}, {});
         return costs.board() == three && costs.open({1, 1});
       }},
      {"`Map::set_terrain`, `set_height`, `set_closed`, `add_barrier`", "off the map, no such terrain or edge",
       "false, nothing happens", false,
       [] {
         Map map = plain();
         return !map.set_terrain(off, 0) && !map.set_terrain({0, 0}, 9) && !map.set_height(off, 1) &&
                !map.set_closed({0, 0}, Direction{7}) && !map.add_barrier(off, Direction{0}) && !map.has_barriers();
       }},
      {"`Map::set_all_terrain`, `set_all_heights`, `set_all_closed`", "a layer of another size",
       "false, nothing happens", false,
       [] {
         Map map = plain();
         return !map.set_all_terrain(Grid<TerrainId>({2, 3})) && !map.set_all_heights(Grid<std::int16_t>({4, 4})) &&
                !map.set_all_closed(Grid<std::uint8_t>({1, 1}));
       }},
      {"`Map::kind`, `terrain_at`, `height_at`, `closed`", "no such terrain, off the map",
       "the last terrain, 0, 0, false", false,
       [] {
         const Map map = plain();
         return map.kind(200).name == "sand" && map.terrain_at(off) == 0 && map.height_at(off) == 0 &&
                !map.closed(off, Direction{0});
       }},
      {"`paint_cell` and its kin", "cells off the map", "only cells of the map are painted", false,
       [] {
         Map map = plain();
         return paint_cell(map, off, 0).cells.empty() && paint_rect(map, {-9, -9, 99, 99}, 0).cells.empty();
       }},
      {"`paint_stamp`", "a piece of another tiling", "nothing happens", true,
       [] {
         Map map = plain();
         return paint_stamp(map, Grid<TerrainId>({1, 1}), Tiling::triangle(FirstTriangle::up), {0, 0}).cells.empty();
       }},
      {"`levels_for_size`, `body_cells`", "a size below 1, or above 1 on triangles", "size 1", true,
       [] {
         std::vector<Cell> cells;
         body_cells(squares, {1, 1}, -2, cells);
         return cells.size() == 1;
       }},
  };
}

std::vector<Row> search_rows() {
  return {
      {"`unstick`", "a cell off the map", "nothing", false, [] { return !unstick(ground(), off).has_value(); }},
      {"`Searcher::route`", "a start or goal off the map", "`start-off-map`, `goal-off-map`", false,
       [] {
         Searcher searcher;
         const CostGrid costs = ground();
         return says(searcher.route(costs, off, {0, 0}).verdict(), "start-off-map at -4,70000") &&
                says(searcher.route(costs, {0, 0}, off).verdict(), "goal-off-map at -4,70000");
       }},
      {"`Searcher::route`, all searches", "an empty grid", "`start-off-map`", false,
       [] {
         Searcher searcher;
         return says(searcher.route(CostGrid(), {0, 0}, {0, 0}).verdict(), "start-off-map at 0,0");
       }},
      {"`Searcher::route`", "a query without starts", "`start-off-map` at 0,0", true,
       [] {
         Searcher searcher;
         const Cell goal{1, 0};
         return searcher.route(ground(), Query{.starts = {}, .goals = std::span(&goal, 1)}).verdict().reason ==
                Reason::start_off_map;
       }},
      {"`Searcher::route`", "a query without goals", "`goal-off-map` at 0,0", true,
       [] {
         Searcher searcher;
         const Source start{{0, 0}};
         return searcher.route(ground(), Query{.starts = std::span(&start, 1)}).verdict().reason ==
                Reason::goal_off_map;
       }},
      {"`RouteOptions::heading`", "a number that is no direction", "none", true,
       [] {
         Searcher searcher;
         return searcher.route(ground(), {0, 0}, {2, 0}, {.turn_cost = 1_steps, .heading = Direction{-1}}).cost() ==
                200;
       }},
      {"`RouteOptions`", "options that contradict each other (bfs with a budget, ...)",
       "the algorithm decides: see `RouteOptions`", true,
       [] {
         Searcher searcher;
         return searcher.route(ground(), {0, 0}, {2, 0}, {.by = Algorithm::bfs, .budget = 1_steps}).found();
       }},
      {"`RouteOptions::weight`, `limit`", "outside 1.00 to 100.00, 0", "kept within, 1", true,
       [] {
         Searcher searcher;
         return searcher.route(ground(), {0, 0}, {2, 0}, {.by = Algorithm::astar, .weight = 0_steps}).cost() == 200;
       }},
      {"`RouteOptions::changes`", "cells off the map", "left out", false,
       [] {
         Searcher searcher;
         const EntryChange change{off, 3_steps};
         return searcher.route(ground(), {0, 0}, {2, 0}, {.changes = std::span(&change, 1)}).cost() == 200;
       }},
      {"`RouteOptions::changes`", "a cost above 655.35", "655.35", true,
       [] {
         Searcher searcher;
         const EntryChange change{{1, 0}, 900_steps};
         return searcher.route(ground(), {0, 0}, {1, 0}, {.changes = std::span(&change, 1)}).cost() == 65'535;
       }},
      {"`RouteOptions::labels`", "of another grid, or out of date", "not believed", false,
       [] {
         Searcher searcher;
         CostGrid costs = walled();
         for (int i = 0; i < 3; ++i) costs.set_entry({i, 1}, Hundredths(blocked));
         const Regions regions(costs);
         costs.set_entry({0, 1}, 1_steps);
         return searcher.route(costs, {0, 0}, {0, 2}, {.labels = &regions.labels()}).found();
       }},
      {"`Route`, `WaryRoute`, `Tour` made by default", "read before a query", "`not-asked`, not found", false,
       [] {
         return !Route().found() && !WaryRoute().found() && !Tour().found() && says(Route().verdict(), "not-asked");
       }},
      {"`Searcher::reach`, `field_to`", "sources off the map or blocked", "left out, told by `Field::unused`", false,
       [] {
         Searcher searcher;
         const std::vector<Source> starts = {{off}, {{1, 1}}};
         Field field;
         searcher.reach(walled(), starts, field);
         return field.unused().size() == 2 && field.reached_count() == 0;
       }},
      {"`RouteOptions::prepared`", "empty, of another grid, or one that does not follow it as it is",
       "a search answers", false,
       [] {
         Searcher searcher;
         CostGrid costs = ground();
         const Prepared nothing;
         const Prepared other = prepare(walled());
         const Prepared stale = prepare(costs);
         bool all = costs.set_entry({1, 0}, blocked);
         for (const Prepared* index : {&nothing, &other, &stale}) {
           const Route& route = searcher.route(costs, {0, 0}, {2, 2}, {.by = Algorithm::prepared, .prepared = index});
           all = all && route.found() && route.algorithm() != Algorithm::prepared;
         }
         return all;
       }},
      {"`Prepared::follow`", "a grid of another size, tiling or other rules", "false, nothing happens", false,
       [] {
         const CostGrid costs = ground();
         Prepared index = prepare(costs);
         const auto open = [](Cell) -> EntryCost { return 100; };
         const CostGrid longer({squares, {4, 3}}, {.steps = 8}, open);
         const CostGrid hexes({Tiling::hex(HexTop::pointy, Shift::odd), {3, 3}}, {}, open);
         const CostGrid fewer(three, {.steps = 4}, open);
         return !index.follow(longer) && !index.follow(hexes) && !index.follow(fewer) && index.follows(costs);
       }},
      {"`Prepared::from_bytes`", "bytes that are no index, cut short, or not at a multiple of 8",
       "an empty index and the reason", false,
       [] {
         const CostGrid costs = ground();
         const Prepared index = prepare(costs);
         std::vector<std::byte> shifted(index.bytes().size() + 16);
         std::copy(index.bytes().begin(), index.bytes().end(), shifted.begin() + 4);
         const auto refused = [&](std::span<const std::byte> bytes) {
           const auto read = Prepared::from_bytes(bytes, {}, costs);
           return read.index.empty() && !read.problem.empty();
         };
         return refused({}) && refused(index.bytes().first(40)) && refused(index.bytes().subspan(8)) &&
                refused(std::span(shifted).subspan(4, index.bytes().size()));
       }},
      {"`Searcher::cost`, `begin_legs`, `nearest_goals`", "an end off the map or blocked",
       "`unreached`, no part, left out", false,
       [] {
         const CostGrid costs = walled();
         const Prepared index = prepare(costs);
         Searcher searcher;
         std::vector<NearGoal> near;
         const Cell goals[] = {off, {1, 1}, {2, 2}};
         searcher.nearest_goals(costs, {0, 0}, goals, 9, near, index);
         return searcher.cost(costs, off, {0, 0}, index) == unreached &&
                searcher.begin_legs(costs, {0, 0}, {1, 1}, index) == unreached && !searcher.next_leg() &&
                near.size() == 1 && near[0].goal == 2;
       }},
      {"`Searcher::cost_table`", "room for fewer costs than pairs", "the first ones are told", true,
       [] {
         const CostGrid costs = ground();
         const Prepared index = prepare(costs);
         Searcher searcher;
         const Cell cells[] = {{0, 0}, {2, 0}};
         std::array<Cost, 3> out = {9, 9, 9};
         searcher.cost_table(costs, cells, cells, std::span(out).first(2), index);
         return out == std::array<Cost, 3>{0, 200, 9};
       }},
      {"`Searcher::next_leg`", "nothing begun, or read to its end", "nothing", false,
       [] {
         Searcher searcher;
         bool none = !searcher.next_leg();
         const CostGrid costs = ground();
         (void)searcher.begin_legs(costs, {0, 0}, {2, 0}, prepare(costs));
         none = none && searcher.next_leg() && !searcher.next_leg();
         return none && !searcher.next_leg();
       }},
      {"`Preparation::take`", "before the work is done, or again", "an empty index", false,
       [] {
         Preparation work(ground());
         const bool early = work.take().empty();
         while (!work.work(1)) {
         }
         return early && !work.take().empty() && work.take().empty();
       }},
      {"`Preparation::work`", "no places, no workers", "it works on, with one", false,
       [] {
         Preparation work(ground());
         const auto in_turn = [](std::size_t workers, auto&& job) {
           for (std::size_t worker = 0; worker < workers; ++worker) job(worker);
         };
         while (!work.work(0, 0, in_turn)) {
         }
         return !work.take().empty();
       }},
      {"`PrepareOptions::most_bytes`", "0", "the shortest lists", false,
       [] {
         const CostGrid costs = walled();
         const Prepared index = prepare(costs, {.most_bytes = 0});
         return Searcher().cost(costs, {0, 0}, {2, 2}, index) == 400;
       }},
      {"`Field::cost`, `next`, `way`, `source`", "off the map", "`unreached`, nothing, an empty way, 0", false,
       [] {
         Searcher searcher;
         const Field field = searcher.reach(ground(), {0, 0});
         std::vector<Cell> way = {{9, 9}};
         field.path(off, way);
         return field.cost(off) == unreached && !field.next(off) && way.empty() && field.source(off) == 0;
       }},
      {"`cells_in_range`", "a negative range", "no cell", false,
       [] {
         Searcher searcher;
         BitGrid out;
         cells_in_range(searcher.reach(ground(), {0, 0}), -1, out);
         return out.count() == 0;
       }},
      {"`tour`", "no goals", "it stays where it is", true,
       [] {
         Searcher searcher;
         return tour(searcher, ground(), {1, 1}, {}, VisitOrder::best).found();
       }},
      {"`SteppedSearch::run`", "the grid has changed", "ended at once; `stale()` is true", true,
       [] {
         SteppedSearch stepped;
         CostGrid costs = ground();
         stepped.begin(costs, {0, 0}, {2, 2});
         costs.set_entry({1, 1}, 5_steps);
         return stepped.run(5) && stepped.stale() && !stepped.route().found();
       }},
      {"`SteppedSearch::state`, `cost`, `parent`, `estimate`", "off the map, or never begun",
       "`unseen`, `unreached`, the cell, 0", false,
       [] {
         const SteppedSearch stepped;
         return stepped.state(off) == CellState::unseen && stepped.cost(off) == unreached && stepped.estimate(off) == 0;
       }},
      {"`Batch::routes`", "fewer answers than questions", "the first ones are answered", true,
       [] {
         Batch batch(1);
         const std::vector<RouteQuestion> questions = {{{0, 0}, {2, 2}}, {{0, 0}, {1, 1}}};
         std::vector<Route> answers(1);
         batch.routes(ground(), questions, answers, {}, Batch::in_turn);
         return answers[0].found();
       }},
      {"`straighten`", "cells that are no way", "given back as they are", true,
       [] {
         std::vector<Cell> out;
         straighten(ground(), std::vector<Cell>{{0, 0}, {2, 2}}, out);
         return out == std::vector<Cell>{{0, 0}, {2, 2}};
       }},
      {"`straight_line_free`", "an end off the map", "false", false,
       [] {
         return !straight_line_free(ground(), {0, 0}, off);
       }},
      {"`Follower::begin`", "an arrival distance that is not above 0",
       "points are passed when reached exactly or gone by", true,
       [] {
         const std::vector<Point> points = {{1.0, 1.0}};
         return Follower(points, -1.0).head_for({0.0, 0.0}).has_value();
       }},
  };
}

std::vector<Row> other_rows() {
  return {
      {"`Regions::at`, `same`", "off the map", "0, false", false,
       [] {
         const Regions regions(ground());
         return regions.at(off) == 0 && !regions.same(off, off);
       }},
      {"`Regions::update`", "the wrong block, or another grid", "right all the same: the grid tells what changed",
       false,
       [] {
         CostGrid costs = ground();
         Regions regions(costs);
         for (int i = 0; i < 3; ++i) costs.set_entry({1, i}, Hundredths(blocked));
         regions.update(costs, {0, 0, 1, 1});
         return regions.list().size() == 2;
       }},
      {"`find_chokes`", "regions that are out of date", "they are made anew", true,
       [] {
         CostGrid costs = ground();
         const Regions regions(costs);
         costs.set_entry({1, 0}, Hundredths(blocked));
         costs.set_entry({1, 2}, Hundredths(blocked));
         return find_chokes(costs, regions).size() == find_chokes(costs, Regions(costs)).size();
       }},
      {"`plan_joins`", "a mover larger than 1, another map, regions out of date", "no joins", true,
       [] {
         const Map map = plain();
         const CostGrid costs = ground();
         return plan_joins(map, Mover{.size = 2}, costs, Regions(costs), BreachCosts(map, costs)).joins.empty();
       }},
      {"`farthest_from`, `farthest_apart`", "a start that can't be stood on, no such region", "nothing", false,
       [] {
         Searcher searcher;
         const CostGrid costs = ground();
         return !farthest_from(searcher, costs, off) && !farthest_apart(searcher, costs, Regions(costs), 9);
       }},
      {"`cut_off_from`", "a start that can't be stood on", "every cell is cut off", false,
       [] {
         return cut_off_from(walled(), {1, 1}).cut_off.size() == 8;
       }},
      {"`Occupancy`: any change", "a unit that is not known, lifted, or where it can't stand", "false, nothing happens",
       false,
       [] {
         Occupancy units(three);
         return !units.place(7, {}) && !units.lift(0) && !units.move(1, {}) && !units.swap(1, 2) && !units.undo();
       }},
      {"`Occupancy::unit`, `at`", "not known, off the map, no such layer", "an empty unit, 0", false,
       [] {
         const Occupancy units(three);
         return units.unit(5).cells.empty() && units.at(off) == 0 && units.at({0, 0}, 9) == 0;
       }},
      {"`Occupancy::add`", "no such layer", "0", false, [] { return Occupancy(three).add({}, 4) == 0; }},
      {"`Footprint(parts)`", "a cell twice", "counted once", true,
       [] {
         return Footprint({{0, 0}, {1, 0}, {0, 0}}).parts().size() == 2;
       }},
      {"`Footprint::turned`, `turned_about`", "triangles, or a negative number of turns",
       "as it was; the turn the other way", true,
       [] {
         return Footprint({{0, 0}, {1, 0}}).turned(Tiling::triangle(FirstTriangle::up), 1).parts().size() == 2;
       }},
      {"`Fitter::problems`, `spots`", "an anchor off the map", "`off-map`", false,
       [] {
         Fitter fitter;
         const Map map = plain();
         const auto found = fitter.problems({.map = &map}, {}, {off});
         return found.size() == 1 && found[0].why == FitFault::off_map;
       }},
      {"`Fitter::problems`, `spots`, `free_cells`, `scatter`", "no map", "nothing fits", true,
       [] {
         Fitter fitter;
         return !fitter.fits({}, {}, {}) && fitter.spots({}, {}).count() == 0;
       }},
      {"`FitTerms::keep_open`", "without mover, costs and regions made from them", "not asked", true,
       [] {
         Fitter fitter;
         const Map map = plain();
         const Cell kept{0, 0};
         return fitter.fits({.map = &map, .keep_open = std::span(&kept, 1)}, {}, {{2, 2}});
       }},
      {"`Rule` without a test", "asked", "it always holds", false,
       [] {
         Fitter fitter;
         const Map map = plain();
         const Rule rules[] = {Rule{}, both({}, {}), either({}, no({}))};
         return fitter.fits({.map = &map, .rules = rules}, {}, {{1, 1}});
       }},
      {"`scatter`", "units without weight", "nothing is put down", true,
       [] {
         Fitter fitter;
         const Map map = plain();
         const ScatterUnit unit{.weight = 0};
         return scatter(fitter, {.map = &map}, std::span(&unit, 1)).placed.empty();
       }},
      {"`inspect_path`", "cells off the map, no step apart", "told as problems", false,
       [] {
         const std::vector<Cell> cells = {{0, 0}, off};
         return !inspect_path(plain(), Mover{.rules = {.steps = 8}}, ground(), cells).problems.empty();
       }},
      {"`inspect_path`", "no cells, or costs of another map", "no problems; cells without costs are blocked", true,
       [] { return inspect_path(plain(), Mover{.rules = {.steps = 8}}, ground(), {}).problems.empty(); }},
      {"`hidden_by`, `Lookout::visible`", "off the map", "the cell itself; nothing is seen", false,
       [] {
         const SightGrid sight(three);
         Lookout lookout;
         std::vector<Cell> seen;
         lookout.visible(sight, off, {}, seen);
         return seen.empty();
       }},
      {"`SightGrid(board, opaque)`", "opaque cells of another size", "cells it does not have are clear", true,
       [] {
         return !SightGrid(three, BitGrid(Size{1, 1})).opaque({2, 2});
       }},
      {"`SightGrid`", "a board without cells", "nothing is seen", false,
       [] {
         const SightGrid sight(Board{squares, {0, 0}});
         Lookout lookout;
         std::vector<Cell> seen;
         lookout.visible(sight, {0, 0}, {}, seen);
         return seen.empty();
       }},
      {"`ThreatField::add`", "a threat off the map", "`no_threat`", false,
       [] { return ThreatField(three).add(SightGrid(three), {.at = off}) == ThreatField::no_threat; }},
      {"`ThreatField::move`, `replace`, `remove`, `source`, `level_from`", "a number that is gone or never was",
       "false; an empty source; 0", false,
       [] {
         ThreatField field(three);
         const SightGrid sight(three);
         const auto id = field.add(sight, {.at = {1, 1}, .range = 2_steps});
         return field.remove(id) && !field.remove(id) && !field.move(id, sight, {0, 0}) &&
                !field.replace(99, sight, {}) && field.level_from(id, {1, 1}) == 0 && field.highest() == 0;
       }},
      {"`ThreatField`: any change", "a sight grid of another board", "`no_threat`, false: nothing happens", true,
       [] {
         ThreatField field(three);
         return field.add(SightGrid(Board{squares, {1, 1}}), {.at = {1, 1}, .range = 2_steps, .needs_sight = true}) ==
                ThreatField::no_threat;
       }},
      {"`ThreatField::side`, `around`", "off the map, a number that is no side", "0", false,
       [] {
         const ThreatField field(three);
         return field.side(off, Side{-3}) == 0 && field.around(off, Side{99}).ahead == 0;
       }},
      {"`WarySearcher::route`, `find_front`", "levels of another size", "cells without a level have level 0", true,
       [] {
         WarySearcher wary;
         return wary.route(ground(), Levels(Size{1, 1}), {0, 0}, {2, 2}).found();
       }},
      {"`WarySearcher::route`", "a start or goal off the map", "`start-off-map`, `goal-off-map`", false,
       [] {
         WarySearcher wary;
         return says(wary.route(ground(), Levels(Size{3, 3}), {0, 0}, off).verdict(), "goal-off-map at -4,70000");
       }},
      {"`exposure_of`", "cells that are no steps apart", "that step counts for nothing", true,
       [] {
         return exposure_of(ground(), Levels(Size{3, 3}), std::vector<Cell>{{0, 0}, {2, 2}}).cost == 0;
       }},
      {"`weighed_ground`", "levels of another size", "cells without a level have level 0", true,
       [] {
         const auto made = weighed_ground(ground(), Levels(Size{1, 1}, 2), {.wary = 1_steps});
         return made && made->entry(Cell{0, 0}) == 300 && made->entry(Cell{1, 0}) == 100;
       }},
      {"`find_cover`", "levels of another size", "cells without a level have level 0", true,
       [] {
         Searcher searcher;
         return find_cover(searcher.reach(ground(), {0, 0}), Levels(Size{1, 1})).size() == 9;
       }},
  };
}

std::vector<Row> made_ground_rows() {
  return {
      {"`make_maze`, `make_cave`, `make_rooms`", "a board without cells, or of more than 2^28", "nothing open", true,
       [] {
         const Board none{squares, {-3, 5}};
         return make_maze(none, {}).open_count() == 0 && make_cave(none, {}).open_count() == 0 &&
                make_rooms({squares, {65'535, 65'535}}, {}).open_count() == 0;
       }},
      {"`MazeOptions::mask`", "of another size", "all cells are of the maze", true,
       [] {
         const BitGrid mask(Size{2, 2});
         return make_maze(three, {.mask = &mask}).open_count() == 9;
       }},
      {"`MazeOptions::wall_cells`", "not on squares", "thin walls are made", true,
       [] {
         const Board board{Tiling::triangle(FirstTriangle::up), {5, 5}};
         return make_maze(board, {.wall_cells = true}).closed == make_maze(board, {}).closed;
       }},
      {"`MazeOptions::loops`", "below 0 or above 100", "0, or 100", true,
       [] { return make_maze(three, {.loops = 900}).closed == make_maze(three, {.loops = 100}).closed; }},
      {"`make_rooms`", "options that don't fit the board: see `rooms_problem`", "nothing open", true,
       [] { return make_rooms(three, {.least_side = 9, .most_side = 4}).open_count() == 0; }},
      {"`to_map`", "a terrain that is not among the kinds", "an empty map", true,
       [] { return to_map(make_maze(three, {}), sand(), {}).size().cell_count() == 0; }},
  };
}

std::vector<Row> walk_rows() {
  return {
      {"`Walk`", "a start or goal off the map, or blocked", "stuck; its verdict says why", false,
       [] {
         const Walk walk(walled(), {.from = {0, 0}, .to = Cell{1, 1}});
         const Walk lost(walled(), {.kind = WalkerKind::wander, .from = off});
         return walk.end() == WalkEnd::stuck && says(walk.verdict(), "goal-blocked at 1,1") &&
                lost.verdict().reason == Reason::start_off_map && lost.visited() == 1;
       }},
      {"`Walk`, `Walker`", "no goal for a kind that needs one", "its own cell is the goal", true,
       [] {
         return Walk(ground(), {.from = {2, 1}}).cell() == Cell{2, 1};
       }},
      {"`Walk::run`", "a grid of another board", "it ends stuck", true,
       [] {
         Walk walk(ground(), {.kind = WalkerKind::wander});
         const CostGrid small({squares, {2, 2}}, {}, [](Cell) -> EntryCost { return 100; });
         return walk.run(small) && walk.end() == WalkEnd::stuck && walk.steps() == 0;
       }},
      {"`Walk::run` with a walker of yours", "a step that is not legal", "it waits", true,
       [] {
         Walk walk(ground(), {.kind = WalkerKind::own});
         return !walk.run(ground(), 2, [](const Surroundings&) { return Direction(7); }) && walk.steps() == 0;
       }},
      {"`Walk::run` without one", "the walk of a walker of yours", "no step is taken", true,
       [] {
         Walk walk(ground(), {.kind = WalkerKind::own});
         return !walk.run(ground(), 2) && walk.steps() == 0;
       }},
      {"`Walker::step`, `intend`", "a walker off the map, or shut in", "nothing", false,
       [] {
         Walker walker(three, off, {.kind = WalkerKind::right_hand});
         return !walker.step(ground()) && !walker.intend(walled()) && walker.cell() == off;
       }},
      {"`Walker::follow`", "a number that is no direction across an edge", "nothing happens", true,
       [] {
         Walker walker(three, {1, 1}, {.kind = WalkerKind::left_hand});
         walker.follow({.direction = Direction(6)});
         return walker.cell() == Cell{1, 1};
       }},
  };
}

std::vector<Row> live_rows() {
  return {
      {"`LiveMap`: any edit", "a cell off the map, a number there is none of",
       "refused with its reason; nothing changes", false,
       [] {
         LiveMap live(plain(), {{.name = "crab"}});
         return live.set_terrain(off, 0).why == EditFault::off_map && live.lift(3).why == EditFault::no_such_unit &&
                live.remove_threat(ThreatNumber(9)).why == EditFault::no_such_threat && live.commit().empty();
       }},
      {"`LiveMap::costs`, `regions`, `field`, `route`", "a number there is none of", "an empty one", false,
       [] {
         LiveMap live(plain(), {});
         return live.costs(4).size() == Size{} && live.regions(4).list().empty() && live.field(FieldId(4)).costs().empty() &&
                !live.route(RouteId(4)).found() && !live.waits(FieldId(4)) && !live.route_waits(RouteId(4));
       }},
      {"`LiveMap::keep_field`, `keep_route`", "a mover there is none of",
       "a field that is empty, a route without a way", false,
       [] {
         LiveMap live(plain(), {});
         const Source goal{{1, 1}};
         return live.field(live.keep_field(2, {&goal, 1})).costs().empty() &&
                !live.route(live.keep_route(2, {0, 0}, {1, 1})).found();
       }},
      {"`LiveMap(grids)`", "no grid", "an empty one", true,
       [] { return LiveMap(std::vector<CostGrid>()).board().size == Size{}; }},
      {"`CostGrid::take_block`", "a grid of another board or other rules", "false, nothing is done", false,
       [] {
         CostGrid costs = ground();
         const CostGrid other({squares, {2, 2}}, {.steps = 8}, [](Cell) -> EntryCost { return 300; });
         return !costs.take_block(other, Rect::whole({2, 2})) && costs == ground();
       }},
      {"`StandingRoute::begin`", "a start or goal off the map", "no way; its reason says why", false,
       [] {
         StandingRoute route;
         route.begin(ground(), off, {1, 1});
         const bool start = route.reason() == Reason::start_off_map;
         route.begin(ground(), {1, 1}, off);
         return start && route.reason() == Reason::goal_off_map && route.cells().empty();
       }},
      {"`StandingRoute`", "asked before it has begun", "no route, `not-asked`", false,
       [] {
         StandingRoute route;
         return route.ended() && route.cells().empty() && route.reason() == Reason::not_asked && route.run(5);
       }},
      {"`SteppedField::run`", "before it has begun, or after its grid has changed",
       "nothing is done; it says that it has ended", false,
       [] {
         SteppedField work;
         if (!work.run(3) || !work.stale()) return false;
         CostGrid costs = ground();
         Field field;
         const Source goal{{1, 1}};
         work.begin_field_to(costs, {&goal, 1}, field);
         costs.set_entry({0, 0}, 2_steps);
         return work.run(99) && work.ended() && !field.made_from(costs);
       }},
      {"`Searcher::repair`", "a field of another grid, or never made", "it is made anew for this grid from its sources",
       false,
       [] {
         Searcher searcher;
         Field field;
         const CostGrid costs = ground();
         searcher.repair(costs, field);
         return field.made_from(costs) && field.reached_count() == 0;
       }},
      {"`Crowd::add`", "off the map, or on another", "nothing", false,
       [] {
         Crowd crowd(three);
         const CostGrid costs = ground();
         return !crowd.add(costs, off) && crowd.add(costs, {1, 1}) && !crowd.add(costs, {1, 1});
       }},
      {"`Crowd::add`", "a grid of another board", "nothing", true,
       [] {
         return !Crowd(three).add(CostGrid(), {0, 0}).has_value();
       }},
      {"`Crowd::step`", "no ground, or a field of another grid", "those units wait", false,
       [] {
         Crowd crowd(three);
         const CostGrid costs = ground();
         const auto unit = crowd.add(costs, {1, 1}, 3);
         const Field field;
         const CrowdGround none{&costs, &field};
         crowd.step({&none, 1});
         return crowd.cell(*unit) == Cell{1, 1};
       }},
      {"`GroupPlanner::plan`", "members off the map or on blocked cells", "those have no way; their reason says why",
       false,
       [] {
         const std::vector<GroupMember> members = {{off, {0, 0}}, {{0, 0}, {1, 1}}};
         const GroupPlan plan = GroupPlanner().plan(walled(), members);
         return plan.members[0].reason == Reason::start_off_map && plan.members[1].reason == Reason::goal_blocked;
       }},
      {"`Play::step`", "after the end", "nothing happens", false,
       [] {
         LiveMap live(plain(), {{.name = "crab"}});
         Play play(live, {});
         return play.ended() && play.step().events.empty() && play.tick() == 0;
       }},
      {"`Play`", "units and edits that name what there is not",
       "those units stay off the board, those edits are refused", false,
       [] {
         LiveMap live(plain(), {{.name = "crab"}});
         PlayScript script{.ticks = 2,
                           .edits = {{0, UnitEdit{5, Cell{0, 0}}}, {0, PaintEdit{9, {{0, 0}, off}}}},
                           .units = {{.name = "x", .mover = 7}}};
         Play play(live, script);
         return play.step().refused.size() == 2 && play.units()[0].path.empty();
       }},
  };
}

std::vector<Row> turn_rows() {
  return {
      {"`FieldOptions::stops`", "of another size", "as if there were none", false,
       [] {
         const BitGrid stops({9, 9});
         return Searcher().reach(ground(), {0, 0}, {.stops = &stops}).reached_count() == 9;
       }},
      {"`FieldOptions::until`", "cells off the map or blocked",
       "they are not waited for; with no others the field is whole", false,
       [] {
         const std::vector<Cell> until = {off, {1, 1}};
         return Searcher().reach(walled(), {0, 0}, {.until = until}).reached_count() == 8;
       }},
      {"`FieldOptions::changes`", "cells off the map", "left out", false,
       [] {
         const std::vector<EntryChange> changes = {{off, 5_steps}};
         return Searcher().reach(ground(), {0, 0}, {.changes = changes}).cost({1, 0}) == 100;
       }},
      {"`places_over`", "a size below 1, or above it on triangles", "the cells as they are", true,
       [] {
         BitGrid cells({3, 3});
         cells.set({1, 1});
         return places_over(squares, cells, 0) == cells;
       }},
      {"`TurnReach::ask`, `why`", "a start off the map; a cell off the map", "nothing is reached; `off-map`", false,
       [] {
         TurnReach turn;
         turn.ask(ground(), off, {.points = 3_steps});
         return says(turn.verdict(), "start-off-map at -4,70000") && !turn.can_end({0, 0}) &&
                turn.why(ground(), {0, 0}).answer == TurnAnswer::start_unusable &&
                turn.why(ground(), off).answer == TurnAnswer::off_map;
       }},
      {"`Acting::ask`, `strike`", "a range that holds nothing, targets off the map", "nothing can be acted on", false,
       [] {
         TurnReach turn;
         turn.ask(ground(), {0, 0}, {.points = 3_steps});
         Acting acting;
         acting.ask(turn, {.least = 2, .most = 1});
         return !acting.can_act({1, 1}) && !acting.can_act(off) && !acting.from(off) &&
                acting.strike(turn, {.most = 2}, {&off, 1}).answer == ActAnswer::out_of_range;
       }},
      {"`TurnSearcher::route`", "ends off the map, no points", "a verdict; no way but to the start itself", false,
       [] {
         TurnSearcher searcher;
         return says(searcher.route(ground(), {0, 0}, off, {.points = 3_steps}).verdict(),
                     "goal-off-map at -4,70000") &&
                says(searcher.route(ground(), {0, 0}, {2, 2}, {.points = 0_steps}).verdict(), "no-way at 0,0") &&
                searcher.route(ground(), {0, 0}, {0, 0}, {.points = 0_steps}).found();
       }},
      {"`Schedule`", "ticks that do not rise from 0, a round shorter than its posts",
       "`sound()` is false, `TimedDanger::add` too", false,
       [] {
         const SightGrid sight(three);
         TimedDanger danger(three);
         const Schedule late{{{4, {1, 1}}}, 0};
         const Schedule short_round{{{0, {1, 1}}, {5, {0, 0}}}, 3};
         return !late.sound() && late.at(9).at == Cell{} && !danger.add(sight, {.at = {1, 1}}, late) &&
                !danger.add(sight, {.at = {1, 1}}, short_round) && danger.threat_count() == 0;
       }},
      {"`sweep`", "no degrees a turn, no ticks", "it looks at the first facing for good", false,
       [] {
         return sweep({0, 0}, 10, 90, 0).posts.size() == 1 && sweep({0, 0}, 10, 90, 20, 0).repeat == 0;
       }},
      {"`ThreatField::turn`, `levels_of`", "a number that is gone or never was", "false; no level", false,
       [] {
         ThreatField field(three);
         const std::vector<ThreatField::ThreatId> ids = {4};
         Levels levels;
         field.levels_of(ids, levels);
         return !field.turn(4, SightGrid(three), Facing::from_degrees(90)) && levels[Cell{1, 1}] == 0;
       }},
      {"`TimedDanger::level`", "off the map", "0", false, [] { return TimedDanger(three).level(off, 7) == 0; }},
      {"`TimedSearcher::route`", "danger of another board", "as if there were none", true,
       [] {
         TimedDanger danger(Board{squares, {9, 9}});
         (void)danger.add(SightGrid(danger.board()), {.at = {1, 1}, .range = 5_steps});
         TimedSearcher searcher;
         return searcher.route(ground(), danger, {0, 0}, {2, 0}).exposure() == 0;
       }},
      {"`CoverFinder::find`", "levels of another size", "cells without a level have level 0", true,
       [] {
         CoverFinder finder;
         return finder.find(ground(), Levels({1, 1}, 5), {0, 0}).front().cell == Cell{1, 0};
       }},
      {"`Occupancy::move_all`", "a unit twice, or one that is lifted", "false, nothing happens", false,
       [] {
         Occupancy units(three);
         const UnitId a = units.add({});
         const std::vector<UnitMove> lifted = {{a, {.at = {1, 1}}}};
         const bool refused = !units.move_all(lifted);
         units.place(a, {.at = {0, 0}});
         const std::vector<UnitMove> twice = {{a, {.at = {1, 1}}}, {a, {.at = {2, 2}}}};
         return refused && !units.move_all(twice) && units.at({0, 0}) == a;
       }},
      {"`Occupancy::remove`, `keep`", "a unit that is gone or never was", "false, nothing happens", false,
       [] {
         Occupancy units(three);
         const UnitId a = units.add({});
         return !units.remove(7) && !units.keep(7) && units.remove(a) && !units.remove(a) && !units.keep(a) &&
                !units.place(a, {.at = {0, 0}}) && units.add({}) == a + 1;
       }},
      {"`Gatherer::gather`", "units or a rally cell off the map", "they have no place; nobody has one", false,
       [] {
         Gatherer gatherer;
         const std::vector<Cell> units = {{0, 0}, off};
         const bool one = gatherer.gather(ground(), units, {1, 1}).placed == 1;
         return one && gatherer.gather(ground(), units, off).placed == 0;
       }},
      {"`ChangeSet::add`", "an empty block", "nothing is added", false,
       [] {
         ChangeSet changes;
         changes.add(Rect{3, 3, 1, 1});
         return changes.empty();
       }},
  };
}

std::vector<Row> all_rows() {
  std::vector<Row> rows;
  for (auto part : {cells_and_grids(), ground_rows(), search_rows(), other_rows(), made_ground_rows(), walk_rows(),
                    live_rows(), turn_rows()}) {
    rows.insert(rows.end(), part.begin(), part.end());
  }
  return rows;
}

std::string line_of(const Row& row) {
  return std::string("| ") + row.call + " | " + row.wrong + " | " + row.answer + " | " +
         (row.broken_promise ? "stops" : "the same") + " |";
}

#if !defined(NDEBUG) || defined(SAUNTER_CHECKED)
constexpr bool checked = true;
#else
constexpr bool checked = false;
#endif

/// Runs it in a process of its own. @return how that ended, and what it wrote to standard error
std::pair<int, std::string> apart(const std::function<bool()>& ask) {
  int ends[2];
  REQUIRE(pipe(ends) == 0);
  const pid_t child = fork();
  REQUIRE(child >= 0);
  if (child == 0) {
    (void)std::signal(SIGABRT, SIG_DFL);
    dup2(ends[1], STDERR_FILENO);
    close(ends[0]);
    _exit(ask() ? 0 : 1);
  }
  close(ends[1]);
  std::string words;
  char buffer[512];
  for (ssize_t count = 0; (count = read(ends[0], buffer, sizeof buffer)) > 0;)
    words.append(buffer, static_cast<std::size_t>(count));
  close(ends[0]);
  int status = 0;
  waitpid(child, &status, 0);
  return {status, words};
}

}  // namespace

TEST_CASE("every misuse of the table is answered as it says, or stops with file and line") {
  for (const Row& row : all_rows()) {
    const auto [status, words] = apart(row.ask);
    INFO(line_of(row) << "\nstatus " << status << ": " << words);
    if (checked && row.broken_promise) {
      CHECK((WIFSIGNALED(status) && WTERMSIG(status) == SIGABRT));
      CHECK(words.find("promised, but not kept: ") != std::string::npos);
      CHECK((words.find(".cpp:") != std::string::npos || words.find(".hpp:") != std::string::npos));
    } else {
      CHECK((WIFEXITED(status) && WEXITSTATUS(status) == 0));
      CHECK(words.empty());
    }
  }
}

TEST_CASE("the table in the documentation is this one") {
  std::ifstream file(saunter::test::source_dir() + "/docs/misuse.md");
  const std::string text((std::istreambuf_iterator<char>(file)), {});
  std::size_t lines = 0;
  for (std::size_t at = text.find("\n| `"); at != std::string::npos; at = text.find("\n| `", at + 1)) ++lines;
  for (const Row& row : all_rows()) CHECK_THAT(text, Catch::Contains("\n" + line_of(row) + "\n"));
  CHECK(lines == all_rows().size());
}
