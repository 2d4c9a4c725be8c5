/// @file
/// Questions with several starts and goals, and every option a search takes.
#pragma once

#include <limits>
#include <optional>
#include <span>
#include <vector>

#include "saunter/grid/labels.hpp"
#include "saunter/search/field.hpp"
#include "saunter/search/route.hpp"

namespace saunter {

/// A yes or no about a cell, asked of the caller's own function, which must live as long as the query.
class CellTest {
 public:
  CellTest() = default;
  /// @param test  anything that takes a Cell and returns bool; kept by reference
  template <typename Test>
    requires(!std::same_as<std::remove_cvref_t<Test>, CellTest> && std::is_invocable_r_v<bool, Test&, Cell>)
  CellTest(Test& test)  // NOLINT(google-explicit-constructor): a function is a test
      : test_(&test), ask_([](const void* function, Cell cell) -> bool {
          return (*const_cast<Test*>(static_cast<const Test*>(function)))(cell);
        }) {}

  [[nodiscard]] explicit operator bool() const { return ask_ != nullptr; }
  [[nodiscard]] bool operator()(Cell cell) const { return ask_(test_, cell); }

 private:
  const void* test_ = nullptr;
  bool (*ask_)(const void*, Cell) = nullptr;
};

/// One expanded place of a search, for teaching and drawing.
struct Visit {
  CellIndex cell;
  CellIndex parent;            ///< the cell it was reached from; itself at a start
  Cost cost = 0;               ///< from the start, hundredths; bfs: 100 for each step
  std::uint64_t estimate = 0;  ///< of what remains; 0 for the unguided searches
};

/// From where to where, in general. Starts that can't be used are left out, and goals too; when none is left, the
/// verdict is about the first.
struct Query {
  /// From the one that makes the way cheapest, head start included (bfs counts only steps).
  std::span<const Source> starts;
  /// To the goal of least cost; among equals the one given first (greedy and weighted searches: the first found).
  std::span<const Cell> goals = {};
  /// Arrive no farther than so many edge steps (as counted on an open board) from a goal. The goal itself need not be
  /// enterable when this is more than 0.
  int within = 0;
  /// Arrive beside the goal, not on it: across an edge, or a corner where the mover steps across corners (with
  /// `within`: anywhere so near but on it). The goal itself need not be enterable then either.
  bool beside = false;
  /// Any cell for which this says yes is a goal too, numbered after the given ones. Nothing is known of where such
  /// cells lie, so the search is unguided.
  CellTest until = {};
};

/// A cell whose entry cost is another for one query.
struct EntryChange {
  Cell cell;
  EntryCost cost = blocked;  ///< hundredths; `blocked` = keep out
};

struct RouteOptions {
  Algorithm by = Algorithm::automatic;
  /// Weighted A*: trust the estimate this many hundredths times as much, 100 to 10,000. The way then costs at most
  /// weight / 100 times the least, and fewer cells are checked. Only for astar.
  Length weight = 100;
  /// Give up beyond this cost, hundredths. Not for bfs, which does not minimise cost.
  std::optional<Cost> budget = {};
  /// Expand at most this many places; at least 1.
  std::uint64_t limit = std::numeric_limits<std::uint64_t>::max();
  /// Where to append each expanded place, in order; null = no trace.
  std::vector<Visit>* trace = nullptr;

  /// Answer as if these cells had other entry costs; the later of two for one cell counts. The grid is neither changed
  /// nor copied. Where barriers or height limits take part, blocked cells can't be opened: what they did to them is
  /// not known any more.
  std::span<const EntryChange> changes = {};
  /// Added for each eighth (squares) or sixth (hexes) of a full turn between two steps, hundredths: a way with fewer
  /// turns can then be the cheaper one. Not on triangles, nor for bfs and greedy. Takes 12 bytes for each cell and
  /// direction.
  Cost turn_cost = 0;
  /// Direction the unit faces at the start, where a turn is counted already; nothing: any.
  std::optional<Direction> heading = {};
  /// Among all ways of least cost take one with the fewest turns, and among those one that keeps close to the straight
  /// line (triangles: close to the line only). Expands all that ties. For searches of least cost without turn costs.
  bool natural = false;
  /// Which cells hang together (`Regions::labels`), for a "no way" without a search. Believed only while they describe
  /// the grid as it is and no steps lead one way only; left aside where `changes` or `or_nearest` are wanted. The
  /// verdict's cell is the one that a search through the whole region would name, whatever budget or limit would have
  /// cut it short. @pre made from this grid; must live as long as the query
  const Labels* labels = nullptr;
  /// When there is no way, give the way to the reachable cell nearest to the goal (by the estimate; ties: first in
  /// reading order), with `Route::remaining`. The verdict stays what it is.
  bool or_nearest = false;
};

}  // namespace saunter
