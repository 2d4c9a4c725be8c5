// Questions that look at little of a large board, beside the textbook's search; which kinds of maps jumping suits.
#include <fmt/format.h>

#include <algorithm>
#include <functional>
#include <string>
#include <utility>
#include <vector>

#include "boards.hpp"
#include "saunter/generate/cave.hpp"
#include "saunter/search/searcher.hpp"
#include "textbook.hpp"
#include "timing.hpp"

using namespace saunter;
using namespace saunter::test;
using saunter::bench::micros;
using saunter::bench::Times;

namespace {

void print(const std::string& name, Times& ours, Times& plain) {
  fmt::print("{:<44} mean {:>9.1f} us, median {:>9.1f}, most {:>9.1f}; textbook {:>9.1f}: {:.1f} x\n", name,
             ours.mean(), ours.part(0.5), ours.part(1), plain.mean(), plain.mean() / ours.mean());
}

CostGrid noise_of(Tiling tiling, int side, int steps) {
  Random random(11);
  return CostGrid({tiling, {side, side}}, {.steps = steps},
                  [&](Cell) -> EntryCost { return random.chance(20) ? blocked : EntryCost{100}; });
}

/// Ways of up to some ten cells, the same twice: the first time memory comes page by page.
void short_ways(const std::string& name, const CostGrid& costs) {
  Searcher searcher;
  bench::Textbook textbook(costs);
  Times ours;
  Times plain;
  for (int pass = 0; pass < 2; ++pass) {
    Random random(5);
    ours.all.clear();
    for (int i = 0; i < 2000;) {
      const Cell from{random.whole(20, costs.size().cols - 21), random.whole(20, costs.size().rows - 21)};
      const Cell to{from.col + random.whole(-7, 7), from.row + random.whole(-7, 7)};
      if (!costs.open(from) || !costs.open(to)) continue;
      ++i;
      const double took = micros([&] { (void)searcher.route(costs, from, to); });
      if (!searcher.route(costs, from, to).found()) continue;
      ours.add(took);
      if (pass == 1 && costs.tiling().shape() == Shape::square && i % 4 == 0)
        plain.add(micros([&] { (void)textbook.route(from, to, true); }));
    }
  }
  print(name, ours, plain);
}

void reaches(int side) {
  const CostGrid costs = noise_of(Tiling::square(), side, 8);
  Searcher searcher;
  Field field;
  Random random(5);
  Times ours;
  for (int i = 0; i < 400;) {
    const Source start{Cell{random.whole(20, side - 21), random.whole(20, side - 21)}};
    if (!costs.open(start.cell)) continue;
    if (++i < 3) {
      searcher.reach(costs, {&start, 1}, field, {.budget = 8_steps});
    } else {
      ours.add(micros([&] { searcher.reach(costs, {&start, 1}, field, {.budget = 8_steps}); }));
    }
  }
  fmt::print("{:<44} mean {:>9.1f} us, median {:>9.1f}, most {:>9.1f}\n",
             fmt::format("reach of 8 steps, {0} x {0}", side), ours.mean(), ours.part(0.5), ours.part(1));
}

/// So many questions, the first ones put to the textbook too. @param draw  their ends: std::pair<Cell, Cell>
/// draw(random)
template <typename Draw>
void beside_textbook(const std::string& name, const CostGrid& costs, std::size_t count, std::size_t textbooks,
                     Random random, Draw&& draw) {
  Searcher searcher;
  bench::Textbook textbook(costs);
  Times ours;
  Times plain;
  while (ours.all.size() < count) {
    const std::pair<Cell, Cell> ends = draw(random);
    if (!costs.open(ends.first) || !costs.open(ends.second)) continue;
    ours.add(micros([&] { (void)searcher.route(costs, ends.first, ends.second); }));
    if (plain.all.size() < textbooks) plain.add(micros([&] { (void)textbook.route(ends.first, ends.second, true); }));
  }
  print(name, ours, plain);
}

/// A goal within walls of 21 x 21 cells amid the board.
void enclosed(const std::string& name, CostGrid costs) {
  const Size size = costs.size();
  const Cell goal{size.cols / 2, size.rows / 2};
  const Rect room = Rect::of(goal).grown(10, size);
  for (const Cell cell : room.cells()) {
    const bool wall =
        cell.col == room.left || cell.col + 1 == room.right || cell.row == room.top || cell.row + 1 == room.bottom;
    costs.set_entry(cell, wall ? 0_steps : 1_steps);
  }
  beside_textbook(name, costs, 20, 2, Random(3), [&](Random& random) {
    Cell from = random.cell(size);
    while (room.contains(from)) from = random.cell(size);
    return std::pair{from, goal};
  });
}

void small_board(int side) {
  const CostGrid costs = noise_of(Tiling::square(), side, 8);
  beside_textbook(fmt::format("{0} x {0}, noise", side), costs, 4000, 4000, Random(7), [&](Random& random) {
    const Cell from = random.cell(costs.size());
    return std::pair{from, random.cell(costs.size())};
  });
}

/// A* beside jumps on one kind of map, and what `automatic` takes there.
void jumping(const std::string& name, const std::function<bool(Cell)>& open) {
  const CostGrid costs({Tiling::square(), {512, 512}}, {.steps = 8},
                       [&](Cell cell) -> EntryCost { return open(cell) ? EntryCost{100} : blocked; });
  Searcher searcher;
  Random random(7);
  Times astar;
  Times jump;
  bool jumps = false;
  while (astar.all.size() < 60) {
    const Cell from = random.cell(costs.size());
    const Cell to = random.cell(costs.size());
    if (!costs.open(from) || !costs.open(to)) continue;
    astar.add(micros([&] { (void)searcher.route(costs, from, to, {.by = Algorithm::astar}); }));
    jump.add(micros([&] { (void)searcher.route(costs, from, to, {.by = Algorithm::jump}); }));
    jumps = searcher.route(costs, from, to).algorithm() == Algorithm::jump;
  }
  fmt::print("{:<24} A* {:>7.0f} us, jumps {:>7.0f}: {:>5.2f} x; automatic takes {}\n", name, astar.mean(), jump.mean(),
             astar.mean() / jump.mean(), jumps ? "jumps" : "A*");
}

/// Blocks of some cells a side, overlapping, so many percent of all cells before they do.
std::function<bool(Cell)> blocks(int side, int percent) {
  Random random(5);
  Grid<std::uint8_t> shut({512, 512}, 0);
  for (int count = 512 * 512 * percent / 100 / side / side; count > 0; --count) {
    const Cell corner{random.whole(0, 512 - side), random.whole(0, 512 - side)};
    for (const Cell cell : Rect{corner.col, corner.row, corner.col + side, corner.row + side}.cells()) shut[cell] = 1;
  }
  return [shut](Cell cell) { return shut[cell] == 0; };
}

}  // namespace

int main() {
  for (const int side : {1024, 4096}) reaches(side);
  short_ways("ways of ten cells, 4096 x 4096, 8 steps", noise_of(Tiling::square(), 4096, 8));
  short_ways("the same, 4 steps", noise_of(Tiling::square(), 4096, 4));
  short_ways("the same, hexes", noise_of(Tiling::hex(HexTop::pointy, Shift::odd), 4096, 6));
  for (const int side : {32, 64}) small_board(side);
  enclosed("no way, goal enclosed, 2048 x 2048, 8 steps", noise_of(Tiling::square(), 2048, 8));
  enclosed("the same, 4 steps", noise_of(Tiling::square(), 2048, 4));
  enclosed("the same, weighted", bench::noise(Tiling::square(), 2048, 20, true));
  for (const int percent : {1, 5, 10, 20, 30, 38}) {
    jumping(fmt::format("noise, {} %", percent),
            [random = Random(9), percent](Cell) mutable { return !random.chance(percent); });
  }
  for (const int side : {2, 3, 4, 12}) jumping(fmt::format("blocks of {}, 15 %", side), blocks(side, 15));
  jumping("blocks of 4, 30 %", blocks(4, 30));
  const Made cave = make_cave({Tiling::square(), {512, 512}}, {.seed = 4, .keep = Keep::all_joined});
  jumping("caves", [&](Cell cell) { return cave.open(cell); });
  for (const int side : {8, 32}) {
    Random random(5);
    jumping(fmt::format("rooms of {}", side),
            [&, side](Cell cell) { return (cell.col % side != 0 && cell.row % side != 0) || random.chance(8); });
  }
  jumping("streets", [](Cell cell) { return cell.col % 12 < 4 || cell.row % 12 < 4; });
  jumping("pillars every 6", [](Cell cell) { return cell.col % 6 != 0 || cell.row % 6 != 0; });
  jumping("open", [](Cell) { return true; });
}
