/// @file
/// What a unit can act on after it has moved: which cells, from where, at what cost.
///
/// Units: ranges in edge steps on an open board, costs in hundredths.
/// Errors: a range that holds nothing acts on nothing.
/// Cost: O(places x rows of the range + cells acted on), with sight a line for each pair looked at.
/// Threads: one at a time; each thread its own.
#pragma once

#include <array>
#include <optional>
#include <span>

#include "saunter/grid/visible.hpp"
#include "saunter/sight/sight.hpp"
#include "saunter/turn/turn_reach.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// How far a unit acts from where it stands. A cell is in range when it lies at least so many edge steps from the
/// nearest cell that the unit covers and at most so many from some; with sight that one must see it.
struct ActRange {
  int least = 0;
  int most = 1;
  const SightGrid* sight = nullptr;  ///< null: it need not see
  const BitGrid* nowhere = nullptr;  ///< cells that are no targets, such as void
  const CostGrid* touch = nullptr;   ///< acts across an edge without a barrier between, as this grid of the mover has
                                     ///< them, and on nothing else, whatever the bounds
};

/// Why a unit can't act on a cell.
enum class ActAnswer : std::uint8_t {
  can_act,
  not_seen,     ///< in range of a place where its turn may end, but seen from none of those
  out_of_range  ///< of all of them
};
/// "can-act", "not-seen", "out-of-range".
[[nodiscard]] std::string_view answer_name(ActAnswer answer);

/// One target.
struct Strike {
  ActAnswer answer = ActAnswer::out_of_range;
  Cell target = {};  ///< of several cells the one struck
  Cell from = {};    ///< the cheapest place to act from; among equals the first in reading order
  Cost cost = 0;     ///< to get there
  friend bool operator==(const Strike&, const Strike&) = default;
};

/// A place to act from.
struct ActPlace {
  Cell from = {};
  Cost cost = 0;            ///< to get there
  std::uint16_t level = 0;  ///< of danger there
  friend bool operator==(const ActPlace&, const ActPlace&) = default;
};

/// Which cells a unit can act on at the end of its turn. Keeps its memory.
class Acting {
 public:
  /// Answers for every cell of the board.
  void ask(const TurnReach& turn, const ActRange& range);
  [[nodiscard]] bool can_act(Cell target) const { return std::as_const(from_)[target] != nobody; }
  /// The cheapest place to act from; among equals the first in reading order.
  [[nodiscard]] std::optional<Cell> from(Cell target) const {
    const std::uint32_t place = std::as_const(from_)[target];
    if (place == nobody) return std::nullopt;
    return from_.size().cell(CellIndex{place - 1});
  }
  /// Calls visit(target, from) for each cell that can be acted on, in reading order.
  template <typename Visit>
  void for_each(Visit&& visit) const {
    for (const Cell cell : from_.size().cells()) {
      if (const auto place = from(cell)) visit(cell, *place);
    }
  }
  /// Every place from which the unit can act on a cell at the end of its turn, with what it costs to get there and the
  /// level there: the cheapest first, among equals in reading order. Does not need `ask`. O(range^2 + places log
  /// places)
  /// @param levels  of the mover's body; null: 0  @param out  cleared first
  void places_for(const TurnReach& turn, const ActRange& range, Cell target, const Grid<std::uint16_t>* levels,
                  std::vector<ActPlace>& out);
  /// About one target of one cell or several (a unit's): the cheapest of its cells to act on, among equals the one
  /// whose place comes first, then the first given. Does not need `ask`. O(cells x range^2)
  [[nodiscard]] Strike strike(const TurnReach& turn, const ActRange& range, std::span<const Cell> target);

 private:
  struct Place {
    Cost cost = 0;
    std::uint32_t index = 0;
    friend bool operator<(const Place& a, const Place& b) {
      return a.cost != b.cost ? a.cost < b.cost : a.index < b.index;
    }
  };
  /// Cells of one row of a range, as columns beside the middle.
  struct Run {
    std::int32_t rows = 0;
    std::int32_t first = 0;
    std::int32_t last = 0;
  };
  static constexpr std::uint32_t nobody = 0;

  void lay_out(const Board& board, const ActRange& range, int mover_size);
  void list_places(const TurnReach& turn);
  void act_from(const Board& board, const Place& place, const ActRange& range, int mover_size);
  [[nodiscard]] ActAnswer act_from_one(const Board& board, const ActRange& range, Cell from, int mover_size,
                                       Cell target);
  [[nodiscard]] std::size_t next_open(std::size_t place);

  Grid<std::uint32_t> from_;              // one more than the place's number
  std::array<std::vector<Run>, 2> runs_;  // by kind of cell
  std::vector<Place> places_;             // the cheapest first
  std::vector<std::uint32_t> onward_;     // along a row: the next cell that nobody acts on yet
  std::size_t open_ = 0;                  // cells that nobody acts on yet
  std::vector<Cell> body_;
  std::vector<Cell> about_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
