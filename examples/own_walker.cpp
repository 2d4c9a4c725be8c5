// A walker of one's own: the library tells it which steps are legal where it stands, it says where it goes. This one
// drifts with the current to the east and slips round what is in its way, on whichever side it slipped last.
#include <saunter/walk.hpp>

#include <cstdio>
#include <string>

using namespace saunter;

int main() {
  const char* const rows[] = {"..........", "....#.....", "..###..#..", "....#..#..", ".......#.."};
  const Board board{Tiling::square(), {10, 5}};
  const CostGrid costs(board, {.steps = 4}, [&](Cell cell) -> EntryCost {
    return rows[cell.row][cell.col] == '#' ? blocked : 100;
  });

  bool upward = true;  // all it remembers
  const auto drift = [&](const Surroundings& here) -> Direction {
    constexpr Direction north{0};
    constexpr Direction east{1};
    constexpr Direction south{2};
    if (holds(here.legal, east)) return east;
    if (!holds(here.legal, upward ? north : south)) upward = !upward;
    return upward ? north : south;
  };

  Walk walk(costs, {.kind = WalkerKind::own, .from = {0, 2}, .to = Cell{9, 0}, .most_steps = 60});
  (void)walk.run(costs, 60, drift);
  for (int row = 0; row < 5; ++row) {
    std::string line = rows[row];
    for (const Cell cell : walk.trail().cells()) {
      if (cell.row == row) line[static_cast<std::size_t>(cell.col)] = '*';
    }
    std::printf("%s\n", line.c_str());
  }
  std::printf("%s after %llu steps\n", std::string(walk_end_name(walk.end())).c_str(),
              static_cast<unsigned long long>(walk.steps()));
  return 0;
}
