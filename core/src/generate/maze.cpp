#include "saunter/generate/maze.hpp"

#include <algorithm>
#include <limits>
#include <variant>

#include "eller.hpp"
#include "growth.hpp"
#include "pieces.hpp"
#include "yard.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

/// Rows of the board, as a method like the others.
class GrowByRows {
 public:
  explicit GrowByRows(Board board) : rows_(board.tiling, board.size), size_(board.size) {}
  template <typename Joined>
  bool step(Yard& yard, Dice& dice, Joined&& joined) {
    const std::span<const std::uint8_t> open = rows_.make_row(dice);
    for (std::int32_t col = 0; col < size_.cols; ++col) {
      const Yard::Index at = yard.index({col, row_});
      const unsigned kind = yard.kind(at);
      for (unsigned d = 0; d < yard.edges(); ++d) {
        if ((unsigned{open[static_cast<std::size_t>(col)]} >> d & 1U) != 0) yard.open(at, kind, d);
      }
      yard.set_note(at, 1);
      joined(at);
    }
    return ++row_ == size_.rows;
  }

 private:
  Eller rows_;
  Size size_;
  std::int32_t row_ = 0;
};

template <unsigned edges>
using AnyGrowth = std::variant<std::monostate, GrowDepthFirst<edges>, GrowPrim<edges>, GrowKruskal<edges>,
                               GrowWilson<edges>, GrowByRows>;

template <unsigned edges>
AnyGrowth<edges> growth_of(MazeMethod by, Yard& yard, Dice& dice) {
  if (yard.count() < 2) return std::monostate{};
  switch (by) {
    case MazeMethod::depth_first: return GrowDepthFirst<edges>(yard, dice);
    case MazeMethod::prim: return GrowPrim<edges>(yard, dice);
    case MazeMethod::kruskal: return GrowKruskal<edges>(yard, dice);
    case MazeMethod::wilson: return GrowWilson<edges>(yard, dice);
    case MazeMethod::eller: break;
  }
  return GrowByRows(yard.board());
}

/// The board of a maze's own cells.
Board own_board(Board board, bool wall_cells) {
  if (!wall_cells) return board;
  return {board.tiling, {(board.size.cols - 1) / 2, (board.size.rows - 1) / 2}};
}

bool in_one_piece(Board board) { return board.tiling.shape() != Shape::triangle || board.size.cols != 1; }

/// The largest region of some cells, or of all, by edge steps.
BitGrid largest_piece(Board board, const BitGrid* mask) {
  BitGrid piece(board.size);
  for (const Cell cell : board.size.cells()) piece.set(cell, mask == nullptr || mask->test(cell));
  keep_largest(board.tiling, piece);
  return piece;
}

}  // namespace

std::string_view method_name(MazeMethod method) {
  switch (method) {
    case MazeMethod::depth_first: return "depth-first";
    case MazeMethod::prim: return "prim";
    case MazeMethod::kruskal: return "kruskal";
    case MazeMethod::wilson: return "wilson";
    case MazeMethod::eller: return "eller";
  }
  return "";
}

struct MazeMaker::Work {
  static constexpr std::size_t most_last = 4096;

  Board board;  // as it was asked for
  bool wall_cells = false;
  int loops = 0;
  Dice dice;
  Yard yard;
  AnyGrowth<4> on_squares;
  AnyGrowth<6> on_hexes;
  AnyGrowth<3> on_triangles;
  bool grown = false;
  bool loops_begun = false;
  std::vector<Yard::Index> dead_ends;  // still to be opened, the next one last
  bool ended = false;
  bool watched = false;
  std::vector<Cell> last;

  Work(Board asked, const MazeOptions& options, bool walls, const BitGrid* mask)
      : board(asked),
        wall_cells(walls),
        loops(std::clamp(options.loops, 0, 100)),
        dice(options.seed),
        yard(own_board(asked, walls), mask) {
    MazeMethod by = options.by;
    if (by == MazeMethod::eller && yard.count() != yard.board().size.cell_count()) by = MazeMethod::kruskal;
    switch (yard.edges()) {
      case 4: on_squares = growth_of<4>(by, yard, dice); break;
      case 6: on_hexes = growth_of<6>(by, yard, dice); break;
      default: on_triangles = growth_of<3>(by, yard, dice); break;
    }
  }

  [[nodiscard]] Cell shown(Yard::Index index) const {
    const Cell cell = yard.cell(index);
    return wall_cells ? Cell{2 * cell.col + 1, 2 * cell.row + 1} : cell;
  }
  void joined(Yard::Index index) {
    if (!watched) return;
    if (last.size() == most_last) last.erase(last.begin(), last.begin() + most_last / 2);
    last.push_back(shown(index));
  }

  /// Goes on while there are steps left. @return whether the tree is whole
  template <unsigned edges>
  bool grow(AnyGrowth<edges>& growth, std::uint64_t& steps) {
    return std::visit(
        [&](auto& method) {
          if constexpr (std::is_same_v<std::decay_t<decltype(method)>, std::monostate>) {
            return true;
          } else if constexpr (requires { method.run(yard, dice, steps, [](Yard::Index) {}); }) {
            if (watched) return method.run(yard, dice, steps, [&](Yard::Index index) { joined(index); });
            return method.run(yard, dice, steps, [](Yard::Index) {});
          } else {
            while (steps > 0) {
              --steps;
              if (method.step(yard, dice, [&](Yard::Index index) { joined(index); })) return true;
            }
            return false;
          }
        },
        growth);
  }
  bool grow(std::uint64_t& steps) {
    if (yard.edges() == 4) return grow(on_squares, steps);
    return yard.edges() == 6 ? grow(on_hexes, steps) : grow(on_triangles, steps);
  }

  template <typename F>
  void for_each_dead_end(F&& f) const {
    const Size size = yard.board().size;
    for (std::int32_t row = 0; row < size.rows; ++row) {
      const Yard::Index first = yard.index({0, row});
      for (Yard::Index index = first; index != first + static_cast<Yard::Index>(size.cols); ++index) {
        if (yard.dead_end(index)) f(index);
      }
    }
  }

  /// Which dead ends are opened: a share of them by lot, in the order drawn.
  void begin_loops() {
    loops_begun = true;
    if (loops == 0) return;
    for_each_dead_end([&](Yard::Index index) { dead_ends.push_back(index); });
    const std::size_t count = dead_ends.size() * static_cast<std::size_t>(loops) / 100;
    for (std::size_t i = 0; i < count; ++i) {
      const auto left = static_cast<std::uint32_t>(dead_ends.size() - i);
      std::swap(dead_ends[i], dead_ends[i + dice.pick(left)]);
    }
    dead_ends.resize(count);
    std::reverse(dead_ends.begin(), dead_ends.end());
  }

  void open_dead_end() {
    const Yard::Index at = dead_ends.back();
    dead_ends.pop_back();
    if (!yard.dead_end(at)) return;
    const unsigned kind = yard.kind(at);
    const unsigned closed = yard.closed_sides(at, kind);
    if (closed == 0) return;
    std::uint32_t chosen = dice.pick(static_cast<std::uint32_t>(std::popcount(closed)));
    for (const Direction d : directions(closed)) {
      if (chosen-- != 0) continue;
      yard.open(at, kind, d.index());
      joined(at);
      return;
    }
  }

  bool run(std::uint64_t steps) {
    last.clear();
    if (!grown) grown = grow(steps);
    if (grown && !loops_begun) begin_loops();
    for (; grown && steps > 0 && !dead_ends.empty(); --steps) open_dead_end();
    ended = grown && dead_ends.empty();
    return ended;
  }

  [[nodiscard]] bool reached(Yard::Index index) const {
    return yard.inside(index) && (yard.open_sides(index) != 0 || yard.count() == 1);
  }

  /// Cells of the maze and the passages between them as floor, all else as wall.
  [[nodiscard]] Made with_wall_cells() const {
    Made made{.tiling = board.tiling, .parts = Grid<Part>(board.size, Part::wall), .closed = {}};
    for (const Cell own : yard.board().size.cells()) {
      const Yard::Index index = yard.index(own);
      if (!reached(index)) continue;
      const Cell cell = shown(index);
      made.parts[cell] = Part::floor;
      for (const Direction d : directions(yard.open_sides(index))) {
        made.parts[board.tiling.neighbour(cell, d)] = Part::floor;
      }
    }
    return made;
  }

  [[nodiscard]] Made with_thin_walls() const {
    Made made{
        .tiling = board.tiling, .parts = Grid<Part>(board.size, Part::floor), .closed = Grid<std::uint8_t>(board.size)};
    const bool whole = ended && yard.count() == board.size.cell_count();
    const auto all = (1U << yard.edges()) - 1;
    std::uint8_t* closed = made.closed.values().data();
    for (std::int32_t row = 0; row < board.size.rows; ++row) {
      const bool inner_row = whole && row > 0 && row + 1 < board.size.rows;
      Yard::Index index = yard.index({0, row});
      for (std::int32_t col = 0; col < board.size.cols; ++col, ++index, ++closed) {
        if (inner_row && col > 0 && col + 1 < board.size.cols) {
          *closed = static_cast<std::uint8_t>(all & ~yard.open_sides(index));
        } else if (yard.inside(index)) {
          *closed = static_cast<std::uint8_t>(yard.closed_sides(index, yard.kind(index)));
        }
      }
    }
    if (whole) return made;
    BitGrid open(board.size);
    for (const Cell cell : board.size.cells()) open.set(cell, reached(yard.index(cell)));
    made.parts = parts_of(board.tiling, open);
    return made;
  }

  [[nodiscard]] Made made() const {
    Made made = wall_cells ? with_wall_cells() : with_thin_walls();
    for_each_dead_end([&](Yard::Index) { ++made.dead_ends; });
    return made;
  }
};

MazeMaker::MazeMaker(Board board, const MazeOptions& options) {
  const bool squares = board.tiling.shape() == Shape::square;
  SAUNTER_EXPECT(board.size.sound() && board.size.cell_count() <= max_made_cells);
  SAUNTER_EXPECT(options.loops >= 0 && options.loops <= 100);
  SAUNTER_EXPECT(!options.wall_cells || squares);
  SAUNTER_EXPECT(options.mask == nullptr || options.mask->size() == board.size);
  if (!board.size.sound() || board.size.cell_count() > max_made_cells) board.size = {};
  const bool walls = options.wall_cells && squares;
  const bool masked =
      options.mask != nullptr && options.mask->size() == board.size && !walls && options.by != MazeMethod::eller;
  if (walls && (board.size.cols < 3 || board.size.rows < 3)) {
    const BitGrid nothing(own_board(board, true).size);
    work_ = std::make_unique<Work>(board, options, walls, &nothing);
  } else if (masked || (!in_one_piece(board) && !walls)) {
    const BitGrid piece = largest_piece(board, masked ? options.mask : nullptr);
    work_ = std::make_unique<Work>(board, options, walls, &piece);
  } else {
    work_ = std::make_unique<Work>(board, options, walls, nullptr);
  }
}
MazeMaker::~MazeMaker() = default;
MazeMaker::MazeMaker(MazeMaker&&) noexcept = default;
MazeMaker& MazeMaker::operator=(MazeMaker&&) noexcept = default;

bool MazeMaker::run(std::uint64_t steps) {
  work_->watched = true;
  return work_->run(steps);
}

std::span<const Cell> MazeMaker::last() const { return work_->last; }
Made MazeMaker::so_far() const { return work_->made(); }

Made MazeMaker::take() {
  work_->watched = false;
  while (!work_->ended) work_->run(std::numeric_limits<std::uint64_t>::max());
  return work_->made();
}

Made make_maze(Board board, const MazeOptions& options) { return MazeMaker(board, options).take(); }

void stream_maze(Tiling tiling, Size size, std::uint64_t seed, const MazeRow& row) {
  SAUNTER_EXPECT(size.sound());
  if (size.cell_count() == 0) return;
  Dice dice(seed);
  Eller rows(tiling, size);
  std::vector<std::uint8_t> closed(static_cast<std::size_t>(size.cols));
  for (std::int32_t r = 0; r < size.rows; ++r) {
    const std::span<const std::uint8_t> open = rows.make_row(dice);
    for (std::int32_t col = 0; col < size.cols; ++col) {
      unsigned sides = 0;
      for (Direction d{0}; d < tiling.edge_count(); ++d) {
        if (size.contains(tiling.neighbour({col, r}, d))) sides |= 1U << d.index();
      }
      closed[static_cast<std::size_t>(col)] =
          static_cast<std::uint8_t>(sides & ~unsigned{open[static_cast<std::size_t>(col)]});
    }
    row(r, closed);
  }
}

}  // namespace saunter::inline v0_2
