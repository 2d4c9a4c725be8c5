#include "saunter/threat/levels.hpp"

#include "../ground/sweep.hpp"

namespace saunter::inline v0 {
using namespace detail;

Levels levels_for_size(Tiling tiling, const Levels& levels, int size) {
  SAUNTER_EXPECT(size >= 1 && (size == 1 || tiling.shape() != Shape::triangle));
  const Size board = levels.size();
  if (size <= 1 || tiling.shape() == Shape::triangle || levels.empty()) return levels;
  // A body that leads further than the map is as good as one that ends with it.
  size = std::min(size, 2 * std::max(board.cols, board.rows) + 1);
  const Body body = Body::of(tiling, size);
  Patch<std::uint16_t> most(grown_freely(Rect::whole(board), size), 0);
  for (std::int32_t row = 0; row < board.rows; ++row) {
    const auto from = levels.row(row);
    std::copy(from.begin(), from.end(), most.at({0, row}));
  }
  sweep(most, tiling, body, std::uint16_t{0}, [](std::uint16_t a, std::uint16_t b) { return std::max(a, b); });
  Levels largest(board);
  for_each_run(tiling, Rect::whole(board), [&](Run run) {
    const Offset to_base = leap(tiling, run.kind, body.base_direction, body.base_steps);
    const std::uint16_t* const from = most.at({to_base.cols, run.row + to_base.rows});
    std::uint16_t* const to = largest.row(run.row).data();
    for (std::int32_t col = run.first; col < run.last; col += run.apart) to[col] = from[col];
  });
  return largest;
}

}  // namespace saunter::inline v0
