// A maze streamed row by row: printed as it comes, in memory for two rows, however long it is.
#include <saunter/generate/maze.hpp>

#include <cstdio>
#include <string>

int main() {
  constexpr saunter::Size size{24, 8};
  const saunter::Tiling tiling = saunter::Tiling::square();
  constexpr unsigned east = 1;  // edges are numbered clockwise from north
  constexpr unsigned south = 2;
  std::size_t passages = 0;
  std::printf("+%s\n", std::string(2 * 24 - 1, '-').append("+").c_str());
  saunter::stream_maze(tiling, size, 7, [&](std::int32_t row, std::span<const std::uint8_t> closed) {
    std::string line = "|";
    for (std::size_t col = 0; col < closed.size(); ++col) {
      const bool last_row = row + 1 == size.rows;
      const bool last_col = col + 1 == closed.size();
      const bool floor = last_row || (closed[col] >> south & 1U) != 0;
      const bool wall = last_col || (closed[col] >> east & 1U) != 0;
      line += floor ? '_' : ' ';
      line += wall ? '|' : floor ? '_' : ' ';
      passages += (floor ? 0U : 1U) + (wall ? 0U : 1U);
    }
    std::printf("%s\n", line.c_str());
  });
  std::printf("%zu passages join %zu cells\n", passages, size.cell_count());
  return passages == size.cell_count() - 1 ? 0 : 1;
}
