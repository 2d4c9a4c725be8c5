// A tide-robot crosses open flats under the eyes of a gull. It goes from boulder to boulder, reads the danger ahead at
// every step, and plans anew when the gull has moved.
#include <saunter/saunter.hpp>

#include <cstdio>
#include <string_view>

using namespace saunter::literals;

namespace {

constexpr std::string_view flats =
    "................"
    "....##.....#...."
    "....#......#...."
    "................"
    ".........##....."
    "..##.....#......"
    "..##.........#.."
    "................"
    "......##........"
    "......##....#...";
constexpr saunter::Size size{16, 10};
constexpr saunter::Board board{saunter::Tiling::square(), size};

bool boulder(saunter::Cell cell) { return flats[size.index(cell).value()] == '#'; }

saunter::SightGrid flats_sight() {
  saunter::SightGrid sight(board);
  for (const saunter::Cell cell : size.cells()) {
    sight.set_opaque(cell, boulder(cell));
  }
  return sight;
}

std::string show(std::uint64_t hundredths) { return saunter::to_decimal(static_cast<std::int64_t>(hundredths)); }

/// What lies ahead on a way: the first exposed step, and the side the danger there comes from.
void read_ahead(std::span<const saunter::Cell> way, std::size_t here, const saunter::ThreatField& threat) {
  std::printf("%d,%d level %d", way[here].col, way[here].row, threat.level(way[here]));
  for (std::size_t i = here + 1; i < way.size(); ++i) {
    if (threat.level(way[i]) == 0) continue;
    const std::string_view side = saunter::side_name(board.tiling, threat.most_dangerous_side(way[i]));
    std::printf(", danger %d in %zu from %.*s\n", threat.level(way[i]), i - here, static_cast<int>(side.size()),
                side.data());
    return;
  }
  std::printf(", covered from here on\n");
}

}  // namespace

int main() {
  const saunter::CostGrid costs(board, {}, [](saunter::Cell cell) { return boulder(cell) ? 0_steps : 1_steps; });
  const saunter::SightGrid sight = flats_sight();
  saunter::ThreatField threat(board);
  const auto gull = threat.add(
      sight, {.at = {8, 2}, .range = 7_steps, .levels = {{0.5_steps, 3}, {1_steps, 1}}, .needs_sight = true});

  const saunter::Cell goal{15, 4};
  saunter::WarySearcher searcher;
  const saunter::WaryOptions careful{.care = {.wary = 2_steps, .linger = 0.5_steps}};
  saunter::WaryRoute route = searcher.route(costs, threat.levels(), {0, 3}, goal, careful);
  for (std::size_t step = 0; step < 6; ++step) read_ahead(route.cells(), step, threat);
  const saunter::Cell halfway = route.cells()[6];

  threat.move(gull, sight, {12, 7});
  // The same without care tells what the detour is worth.
  const saunter::Exposure bold =
      searcher.route(costs, threat.levels(), halfway, goal, {.care = {.wary = 0_steps}}).measure();
  route = searcher.route(costs, threat.levels(), halfway, goal, careful);
  std::printf("the gull has moved: exposure %s, straight on it would be %s\n", show(route.measure().exposure).c_str(),
              show(bold.exposure).c_str());
  for (std::size_t step = 0; step < route.steps(); ++step) read_ahead(route.cells(), step, threat);
  std::printf("across\n");

  saunter::Searcher plain;
  const saunter::Field reach = plain.reach(costs, {8, 6}, {.budget = 4_steps});
  const auto cover = saunter::find_cover(reach, threat.levels());
  std::printf("from 8,6 the nearest place to hide is %d,%d, cost %s\n", cover.front().cell.col, cover.front().cell.row,
              saunter::to_decimal(cover.front().cost).c_str());
  return 0;
}
