// How often each walker arrives, and after how many steps against the least, on five kinds of ground: the table in
// docs/walkers.md. The same on every machine.
#include <fmt/format.h>

#include <algorithm>
#include <functional>
#include <string>
#include <vector>

#include "saunter/saunter.hpp"

using namespace saunter;

namespace {

constexpr Board board{Tiling::square(), {60, 60}};
constexpr std::uint64_t maps = 400;

struct Kind {
  std::string name;
  std::function<Made(std::uint64_t seed)> make;
};

/// A quarter of the cells closed, each by chance.
Made noise(std::uint64_t seed) {
  Dice dice(seed);
  Made made{.tiling = board.tiling, .parts = Grid<Part>(board.size, Part::floor), .closed = {}};
  for (Part& part : made.parts.values()) {
    if (dice.below(4) == 0) part = Part::wall;
  }
  return made;
}

std::vector<Kind> kinds() {
  return {
      {"perfect mazes", [](std::uint64_t seed) { return make_maze(board, {.by = MazeMethod::wilson, .seed = seed}); }},
      {"mazes with loops",
       [](std::uint64_t seed) { return make_maze(board, {.by = MazeMethod::wilson, .seed = seed, .loops = 60}); }},
      {"caves", [](std::uint64_t seed) { return make_cave(board, {.seed = seed, .keep = Keep::all_joined}); }},
      {"rooms", [](std::uint64_t seed) { return make_rooms(board, {.seed = seed, .extra = 3}); }},
      {"noise, a quarter closed", noise},
  };
}

CostGrid walkable(const Made& made) {
  std::vector<Terrain> terrains(2);
  terrains[0].name = "rock";
  terrains[0].cost = blocked;
  terrains[1].name = "sand";
  return bake(to_map(made, terrains, {0, 0, 1, 1}), Mover{.name = "crab", .rules = {.steps = 4}});
}

struct Tally {
  std::uint64_t arrived = 0;
  std::uint64_t looped = 0;
  std::vector<double> to_least;

  [[nodiscard]] std::string text() {
    const double share = 100.0 * static_cast<double>(arrived) / static_cast<double>(maps);
    if (to_least.empty()) return fmt::format("{:.0f} %", share);
    const auto middle = to_least.begin() + static_cast<std::ptrdiff_t>(to_least.size() / 2);
    std::nth_element(to_least.begin(), middle, to_least.end());
    return fmt::format("{:.0f} %, {:.1f}", share, *middle);
  }
};

}  // namespace

int main() {
  fmt::print("| walker |");
  for (const Kind& kind : kinds()) fmt::print(" {} |", kind.name);
  fmt::print("\n|---|{}\n", "---|---|---|---|---|");
  std::vector<std::vector<Tally>> tallies(all_walkers.size(), std::vector<Tally>(kinds().size()));
  for (std::size_t k = 0; k < kinds().size(); ++k) {
    for (std::uint64_t seed = 1; seed <= maps; ++seed) {
      const CostGrid costs = walkable(kinds()[k].make(seed));
      Dice dice(seed);
      Searcher searcher;
      Cell from;
      Cell to;
      const Route* least = nullptr;
      do {  // at least half a side apart, and joined
        const auto any = [&] {
          const std::uint32_t index = dice.below(static_cast<std::uint32_t>(board.size.cell_count()));
          return board.size.cell(CellIndex{index});
        };
        from = any();
        to = any();
        least = &searcher.route(costs, from, to, {.by = Algorithm::bfs});
      } while (!least->found() || board.tiling.edge_distance(from, to) < 30);
      for (std::size_t w = 0; w < all_walkers.size(); ++w) {
        Walk walk(costs, {.kind = all_walkers[w], .from = from, .to = to, .seed = seed, .keep_trail = false});
        while (!walk.run(costs, 1'000'000)) continue;
        Tally& tally = tallies[w][k];
        tally.looped += walk.end() == WalkEnd::loop ? 1U : 0U;
        if (!walk.arrived()) continue;
        ++tally.arrived;
        tally.to_least.push_back(static_cast<double>(walk.steps()) / static_cast<double>(least->steps()));
      }
    }
  }
  for (std::size_t w = 0; w < all_walkers.size(); ++w) {
    fmt::print("| `{}` |", walker_name(all_walkers[w]));
    for (Tally& tally : tallies[w]) fmt::print(" {} |", tally.text());
    fmt::print("\n");
  }
  return 0;
}
