/// @file
/// What a unit can do in one turn: where it may end, what is left then, and why not elsewhere.
///
/// Units: movement points and costs in hundredths.
/// Errors: a start that can't be used leaves nothing to reach, and the verdict says why.
/// Cost: as a reach; O(1) a question about a cell, a search for the reason of a "no".
/// Threads: one at a time; each thread its own.
#pragma once

#include <optional>

#include "saunter/grid/bit_grid.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/place/occupancy.hpp"
#include "saunter/search/searcher.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// What a turn goes by. Sets hold cells of ground: for a large mover they concern every place that covers such a cell.
/// They are of the grid's size, else as if empty, and are only read while a question is answered.
struct TurnTerms {
  std::optional<Hundredths> points = {};  ///< movement points of a turn; nothing = as many as it takes
  const BitGrid* stops = nullptr;         ///< may be entered, and the turn ends there; the start is never one
  const BitGrid* passed = nullptr;        ///< may be crossed, but no turn ends there: under a friend, say
  Borrowed<EntryChange> changes = {};     ///< other entry costs for this question, as in RouteOptions
};

/// Why a unit can't end its turn on a cell, in the order in which reasons are looked for.
enum class TurnAnswer : std::uint8_t {
  reached,        ///< it can
  off_map,        ///< its body leaves the map
  occupied,       ///< a unit stands there
  cannot_stand,   ///< "blocked": terrain, or too narrow
  passed_over,    ///< it may cross, but not end there
  stop_between,   ///< the points would do if the way did not lead through a stop
  too_dear,       ///< the points do not last so far
  no_way,         ///< no way at any cost, whatever stops there are
  start_unusable  ///< the start is off the map or blocked
};
/// "reached", "off-map", "occupied", "blocked", "passed-over", "stop-between", "too-dear", "no-way", "start-unusable".
[[nodiscard]] std::string_view answer_name(TurnAnswer answer);

/// The answer for one cell.
struct TurnReason {
  TurnAnswer answer = TurnAnswer::start_unusable;
  Cost cost = 0;     ///< reached, passed over: to get there; stop between: if nothing stopped it; too dear: all of it
  Cost left = 0;     ///< reached, passed over: points left there (none on a stop)
  Cost missing = 0;  ///< too dear: points it would take beside those of the turn
  Cell at = {};      ///< stop between: the first stop on the way; occupied: the covered cell a unit stands on
  UnitId by = 0;     ///< occupied: which
  friend bool operator==(const TurnReason&, const TurnReason&) = default;
};

/// One turn of one unit.
///
/// Ends of a turn are the start (unless it is passed over) and all cells the points last to, without a stop between and
/// not passed over. Keeps its memory: after the first turn on a board of some size it allocates nothing.
class TurnReach {
 public:
  /// @cost a reach within the points
  void ask(const CostGrid& costs, Cell from, const TurnTerms& terms);

  /// Every cell the turn touches, passed ones too, with costs and ways (`Field::path`, from the start on).
  [[nodiscard]] const Field& field() const { return field_; }
  [[nodiscard]] Cell start() const { return from_; }
  /// Cells across the mover, as the grid was baked for.
  [[nodiscard]] int mover_size() const { return mover_size_; }
  [[nodiscard]] std::optional<Hundredths> points() const { return points_; }
  /// Whether the start can be used; `found`, `start-off-map` or `start-blocked`.
  [[nodiscard]] Verdict verdict() const;
  /// Whether the turn may end there.
  [[nodiscard]] bool can_end(Cell cell) const { return field_.reached(cell) && !passed_.test(cell); }
  [[nodiscard]] bool is_stop(Cell cell) const { return cell != from_ && stops_.test(cell); }
  [[nodiscard]] bool is_passed(Cell cell) const { return passed_.test(cell); }
  /// Points left on arrival: 0 on a stop; nothing where the turn does not lead, and where points are not counted.
  [[nodiscard]] std::optional<Cost> left(Cell cell) const;
  /// Calls visit(cell, cost) for each cell a turn may end on, in reading order. O(cells)
  template <typename Visit>
  void for_each_end(Visit&& visit) const {
    for (const Cell cell : field_.board().size.cells()) {
      if (can_end(cell)) visit(cell, field_.cost(cell));
    }
  }

  /// Why the turn can't end on a cell, or that it can. @pre the grid and its changes are those asked about, else the
  /// answer is about both
  /// @param units  who stands where, to name who is in the way; null = nobody is named, all is `blocked`
  /// @param friends  units it may pass over: they are not in the way, nor is whoever stands at the start, which is
  /// itself
  /// @cost O(1) where the turn leads; else a search without the bound on points, stopped at the cell
  [[nodiscard]] TurnReason why(const CostGrid& costs, Cell cell, const Grid<UnitId>* units = nullptr,
                               Borrowed<EntryChange> changes = {}, Borrowed<UnitId> friends = {});

 private:
  [[nodiscard]] TurnReason why_not_stand(Tiling tiling, Cell cell, const Grid<UnitId>* units,
                                         std::span<const UnitId> friends);
  [[nodiscard]] bool off_map(Size board, Tiling tiling, Cell cell);

  Searcher searcher_;
  Field field_;
  Field farther_;   // for reasons
  BitGrid stops_;   // places of the mover
  BitGrid passed_;  // the same
  Cell from_;
  int mover_size_ = 1;
  std::optional<Hundredths> points_;
  std::vector<Cell> cells_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
