// A level checked the way a unit test would: every place a crab can stand on must be reachable from the landing, and it
// must be able to come back. Ends with 1 when the level is broken, for a build script.
#include <saunter/saunter.hpp>

#include <cstdio>
#include <string_view>

namespace {

constexpr std::string_view level =
    "..........#...."
    "..........#...."
    "...####...#...."
    "...#..#...#...."
    "...#..#........"
    "...####...#...."
    "..........#....";
constexpr saunter::Size size{15, 7};

bool check(const char* what, bool holds, const std::string& why = {}) {
  std::printf("%s: %s%s\n", holds ? "ok" : "BROKEN", what, holds ? "" : (", " + why).c_str());
  return holds;
}

std::string show(saunter::Cell cell) { return std::to_string(cell.col) + "," + std::to_string(cell.row); }

}  // namespace

int main() {
  const saunter::CostGrid costs({saunter::Tiling::square(), size}, {.steps = 4}, [](saunter::Cell cell) {
    return level[size.index(cell).value()] == '#' ? saunter::blocked : saunter::EntryCost{100};
  });
  const saunter::Cell landing{0, 0};
  const saunter::CutOff cut = saunter::cut_off_from(costs, landing);
  bool good = check("everything can be reached from the landing", cut.cut_off.empty(),
                    std::to_string(cut.cut_off.size()) + " cells are cut off, the first at " +
                        (cut.cut_off.empty() ? "" : show(cut.cut_off.front())));
  good = check("one can come back from everywhere", cut.no_return.empty()) && good;

  const saunter::Regions regions(costs);
  const auto chokes = saunter::find_chokes(costs, regions);
  for (const saunter::Corridor& corridor : saunter::corridors(costs, chokes)) {
    std::printf("keep open: %s, %u cells lie beyond\n", show(corridor.cells.front()).c_str(), corridor.smaller_side);
  }
  saunter::Searcher searcher;
  const auto exit = saunter::farthest_from(searcher, costs, landing);
  std::printf("the exit goes to %s, cost %s from the landing\n", show(exit->cell).c_str(),
              saunter::to_decimal(exit->cost).c_str());
  return good ? 0 : 1;
}
