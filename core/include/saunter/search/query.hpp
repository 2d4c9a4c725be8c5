/// @file
/// Questions with several starts and goals, and every option a search takes.
///
/// Units: costs and factors in hundredths, distances in edge steps.
/// Errors: contradictions stop a checked build, else an option is dropped as told.
/// Cost: none of its own.
/// Threads: any number, nothing is shared.
#pragma once

#include <limits>
#include <optional>
#include <span>
#include <vector>

#include "saunter/grid/borrowed.hpp"
#include "saunter/grid/labels.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/search/field.hpp"
#include "saunter/search/route.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

class Prepared;

/// A yes or no about a cell, asked of the caller's own function, which must have a name and live as long as the query.
/// It may throw: the search then ends there, and its searcher can be asked anew.
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

/// One expanded state of a search, for teaching and drawing.
struct Visit {
  CellIndex cell;
  CellIndex parent;            ///< the cell it was reached from; itself at a start
  Cost cost = 0;               ///< from the start, hundredths; bfs: 100 for each step
  std::uint64_t estimate = 0;  ///< of what remains; 0 for the unguided searches
};

/// From where to where, in general. Starts that can't be used are left out, and goals too; when none is left, the
/// verdict is about the first.
struct Query {
  /// From the one that makes the route cheapest, head start included (bfs counts only steps).
  Borrowed<Source> starts;
  /// To the goal of least cost; among equals the one given first (greedy and weighted searches: the first found).
  Borrowed<Cell> goals = {};
  /// Arrive no farther than so many edge steps (as counted on an open board) from a goal. The goal itself need not be
  /// enterable when this is more than 0.
  int within = 0;
  /// Arrive beside the goal, not on it: where a step to it would be legal if it could be entered, whatever the heights;
  /// a large mover, where it does not cover the goal and has a covered cell across an edge from it without a barrier
  /// between (with `within`: anywhere so near but on it, whatever lies between). The goal need not be enterable then.
  bool beside = false;
  /// Any cell for which this says yes is a goal too, numbered after the given ones. Nothing is known of where such
  /// cells lie, so the search is unguided.
  CellTest until = {};
};

/// What a query may ask for. Options that contradict each other are a broken promise; in builds without checks the
/// algorithm decides: bfs drops the budget; bfs and greedy drop turn costs and `natural`; `natural` drops the weight
/// and turn costs; a weight is kept within 1.00 to 100.00 and dropped for all but astar; a limit of 0 counts as 1; a
/// heading that is no direction counts as none; triangles drop turn costs.
struct RouteOptions {
  Algorithm by = Algorithm::automatic;
  /// Weighted A*: trust the estimate so many times as much, 1.00 to 100.00. The route then costs at most weight times
  /// the least, and fewer cells are checked. Only for astar.
  Hundredths weight = 100_hundredths;
  /// Give up beyond this cost (`8_steps`). Not for bfs, which does not minimise cost.
  std::optional<Hundredths> budget = {};
  /// Expand at most this many states; at least 1.
  std::uint64_t limit = std::numeric_limits<std::uint64_t>::max();
  /// Where to append each expanded state, in order; null = no trace.
  std::vector<Visit>* trace = nullptr;

  /// Answer as if these cells had other entry costs; the later of two for one cell counts. The grid is neither changed
  /// nor copied. They are cells of ground: a large mover's places are concerned that cover one. Barriers and height
  /// limits stay as they are, also about cells that are opened.
  Borrowed<EntryChange> changes = {};
  /// Added for each eighth (squares) or sixth (hexes) of a full turn between two steps: a route with fewer
  /// turns can then be the cheaper one. Not on triangles, nor for bfs and greedy. Takes 12 bytes for each cell and
  /// direction.
  Hundredths turn_cost = {};
  /// Direction the unit faces at the start, where a turn is counted already; nothing: any.
  std::optional<Direction> heading = {};
  /// Among all routes of least cost take one with the fewest turns, and among those one that keeps close to the
  /// straight line (triangles: close to the line only). Expands all that ties. For searches of least cost without turn
  /// costs.
  bool natural = false;
  /// Which cells are connected (`Regions::labels`), for a "no way" without a search. Believed only while they describe
  /// this grid as it is and no steps lead one way only; left aside where `changes`, `or_nearest` or a budget are wanted.
  /// The verdict's cell is the one that a search through the whole region would name, whatever limit would have cut it
  /// short. Must live as long as the query
  const Labels* labels = nullptr;
  /// When there is no way, give the route of least cost (bfs: of fewest steps) to the cell nearest to the goal, with
  /// `Route::remaining`; the verdict stays what it is. Nearest by the exact heuristic (`Estimate`; ties: first in
  /// reading order) among all cells whose least cost is within the budget, the start too; with a limit among the cells
  /// expanded. A blocked goal gets it too, one off the map does not. Costs a search of all that is within the budget
  /// where the query itself was cut short.
  bool or_nearest = false;
  /// An index that follows this grid: automatic and prepared look a route from one cell to another up in it. What it
  /// can't tell is searched for: options that change the question (limit, trace, several goals, beside, turn costs),
  /// `changes` that open cells, make them cheaper or lie on the way, a grid it does not follow, a "no".
  /// Route::algorithm says which it was. Must live as long as the query.
  const Prepared* prepared = nullptr;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
