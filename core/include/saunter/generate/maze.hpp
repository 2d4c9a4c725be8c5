/// @file
/// Mazes: every cell of a board joined to every other by exactly one path.
///
/// Units: cells; loops in per cent of the dead ends.
/// Errors: a board without cells gives a maze without any; see each call.
/// Cost: about 20 to 80 ns a cell; one or two bytes a cell beside the result, Kruskal 12 and Prim up to 6 more.
/// Threads: any number, nothing is shared.
#pragma once

#include <functional>
#include <memory>
#include <string_view>

#include "saunter/generate/made.hpp"
#include "saunter/grid/dice.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// How a maze is grown. All give spanning trees; they differ in what these look like.
enum class MazeMethod : std::uint8_t {
  depth_first,  ///< a walk that backs out of dead ends: long winding corridors, few dead ends
  prim,         ///< from one cell outward, anywhere along its edge (Prim 1957): many short dead ends
  kruskal,      ///< open sides in random order wherever they join two parts (Kruskal 1956)
  wilson,       ///< every spanning tree equally likely, by walks whose loops are erased (Wilson 1996)
  eller         ///< row by row, with memory for one row
};
inline constexpr std::array all_maze_methods = {MazeMethod::depth_first, MazeMethod::prim, MazeMethod::kruskal,
                                                MazeMethod::wilson, MazeMethod::eller};
/// "depth-first", "prim", ...
[[nodiscard]] std::string_view method_name(MazeMethod method);

struct MazeOptions {
  MazeMethod by = MazeMethod::depth_first;
  std::uint64_t seed = 1;
  /// Opened to one more neighbour: so many per cent of the dead ends, rounded down, chosen by the seed and taken in
  /// turn; one that is none any more, or has no other neighbour, is passed over. @pre 0 .. 100
  int loops = 0;
  /// Squares only: walls are cells. The maze's own cells are those with odd column and row, a passage is the cell
  /// between two of them, all else is wall; an even size leaves its last line wall.
  bool wall_cells = false;
  /// The cells the maze is made of, such as an island; null = all. Of several regions the largest by edge steps is
  /// taken, the first among equals; the others stay closed. Not read for eller, which knows only rows, nor with
  /// wall_cells. Of the board's size, else not read; read while the maker is made.
  const BitGrid* mask = nullptr;
};

/// Makes a maze a little at a time, so that it can be watched. The same as `make_maze` when it has ended.
class MazeMaker {
 public:
  /// @pre a sound board; wall_cells on squares only, else thin walls are made; else see MazeOptions
  MazeMaker(Board board, const MazeOptions& options);
  ~MazeMaker();
  MazeMaker(MazeMaker&&) noexcept;
  MazeMaker& operator=(MazeMaker&&) noexcept;

  /// Goes on by so many steps: of a walk, or sides looked at, or rows (eller). @return whether it has ended
  bool run(std::uint64_t steps);
  /// Cells of the board that the last call of run() joined to the maze, in order (at most the last 4096 of them).
  [[nodiscard]] std::span<const Cell> last() const;
  /// The maze as far as it is made: sides not opened yet are closed, cells not reached yet `wall`. O(cells)
  [[nodiscard]] Made so_far() const;
  /// The finished maze. @pre it has ended, else it is run to its end first. The maker is then of no more use
  [[nodiscard]] Made take();

 private:
  struct Work;
  std::unique_ptr<Work> work_;
};

/// The whole maze at once. The same for a seed on every machine.
[[nodiscard]] Made make_maze(Board board, const MazeOptions& options);

/// One row of a maze as it is streamed: for each cell the edge directions that are closed, both ways, as `Made::closed`
/// has them.
using MazeRow = std::function<void(std::int32_t row, std::span<const std::uint8_t> closed)>;
/// Hands out a maze by rows, from the first to the last; the same as `make_maze` by eller without loops, in memory for
/// two rows.
/// @pre a sound size
void stream_maze(Tiling tiling, Size size, std::uint64_t seed, const MazeRow& row);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
