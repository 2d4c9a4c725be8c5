/// @file
/// Rooms and the corridors that join them.
///
/// Units: cells; costs in hundredths of a step.
/// Errors: as many rooms as fit are made; none where not one does. See RoomsOptions.
/// Cost: O(cells) and a search for each cheapest corridor; about 12 bytes a cell while it works.
/// Threads: any number, nothing is shared.
#pragma once

#include <memory>
#include <string_view>

#include "saunter/generate/made.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/ground/hundredths.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

enum class RoomsMethod : std::uint8_t {
  scattered,  ///< anywhere they fit
  split,      ///< one in each piece of a rectangle that is cut again and again
  corridors   ///< at the ends, and some of the bends, of walks that are dug first
};
[[nodiscard]] std::string_view method_name(RoomsMethod method);

enum class CorridorShape : std::uint8_t {
  straight,  ///< along the line between two rooms' middles
  dog_leg,   ///< along columns and rows, with one bend
  cheapest   ///< the cheapest way, where fresh ground costs more than what is dug already: corridors merge
};

/// Which room is joined to which.
enum class JoinOrder : std::uint8_t {
  made,     ///< each to the one put down before
  nearest,  ///< from the first on, to the nearest that is not joined yet
  tree      ///< so that all joins together are shortest (Prim 1957)
};

struct RoomsOptions {
  RoomsMethod by = RoomsMethod::scattered;
  std::uint64_t seed = 1;
  std::size_t rooms = 12;  ///< so many at the most; split: one for each piece
  /// Sides of the rooms' boxes. @pre 1 <= least <= most, least >= width, and at least 2 on triangles
  int least_side = 4;
  int most_side = 10;
  bool overlap = false;  ///< scattered: boxes may lie over one another
  int margin = 1;        ///< cells between two boxes, the larger of the gaps by columns and rows; not with `overlap`
  Size smallest_piece = {8, 8};                     ///< split: no piece is cut to less
  CorridorShape corridor = CorridorShape::dog_leg;  ///< not for `corridors`, which walks
  Hundredths fresh = 4_steps;                       ///< cheapest: what a cell not dug yet costs; a dug one costs 1
  JoinOrder order = JoinOrder::tree;                ///< not for `corridors`
  std::size_t extra = 0;                            ///< so many joins more than needed, the shortest left, for loops
  int width = 1;                                    ///< of corridors, in cells, 1 to 4; above 1 on squares only
  bool doors = false;  ///< where a corridor of width 1 enters a room, never two side by side
  bool grown = false;  ///< rooms are dug by walks inside their box
};

/// What is wrong with options for a board, in words ("margin must be 0 to 64"), or nothing.
[[nodiscard]] std::string_view rooms_problem(Board board, const RoomsOptions& options);

/// Makes rooms and corridors a little at a time. The same as `make_rooms` when it has ended.
class RoomsMaker {
 public:
  /// @pre !rooms_problem(board, options), else nothing is made
  RoomsMaker(Board board, const RoomsOptions& options);
  ~RoomsMaker();
  RoomsMaker(RoomsMaker&&) noexcept;
  RoomsMaker& operator=(RoomsMaker&&) noexcept;

  /// Goes on by so many steps: rooms put down, corridors dug. @return whether it has ended
  bool run(std::uint64_t steps);
  /// Cells that the last call of run() dug, in order.
  [[nodiscard]] std::span<const Cell> last() const;
  /// What is made as far as it is. O(cells)
  [[nodiscard]] Made so_far() const;
  /// The finished ground; runs it to its end first.
  [[nodiscard]] Made take();

 private:
  struct Work;
  std::unique_ptr<Work> work_;
};

/// All at once. `Made::rooms` in the order they were put down, `visits` in the order they were joined, `corridors` with
/// the cells each passes (width above 1: the top left cell of each place).
[[nodiscard]] Made make_rooms(Board board, const RoomsOptions& options);

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
