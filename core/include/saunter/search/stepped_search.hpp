/// @file
/// A search that is run a little at a time and can be looked at between.
///
/// Units: costs in hundredths, states counted.
/// Errors: a grid changed under way ends it: stale().
/// Cost: as the search it steps through; memory is kept.
/// Threads: one at a time; each thread its own.
#pragma once

#include <memory>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/search/query.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// What a search knows of a cell.
enum class CellState : std::uint8_t {
  unseen,
  open,   ///< reached, waiting to be expanded
  closed  ///< expanded
};

/// One route query that expands as many states a call as its owner allows: to spread a long search over frames, to
/// teach, to draw. It finds what `Searcher::route` finds at the same cost (among equal routes it may choose another).
///
/// The grid must outlive the search and stay as it is; `stale()` tells when it has not, and the search must then begin
/// anew. Starts, goals and changed cells are copied; a test given as `Query::until` and a trace are not.
/// Memory: 12 bytes a cell (with turn costs: a cell and direction), used again by the next `begin`.
class SteppedSearch {
 public:
  SteppedSearch();
  ~SteppedSearch();
  SteppedSearch(SteppedSearch&&) noexcept;
  SteppedSearch& operator=(SteppedSearch&&) noexcept;

  /// Starts over. @pre as Searcher::route
  void begin(const CostGrid& costs, const Query& query, const RouteOptions& options = {});
  void begin(const CostGrid& costs, Cell from, Cell to, const RouteOptions& options = {});

  /// Expands at most so many states. @return whether the search has ended. @pre !stale(); a stale search does nothing,
  /// and says that it has ended without an answer (`not-asked`)
  bool run(std::uint64_t states = 1);
  [[nodiscard]] bool ended() const;
  /// Whether it must begin anew: it has not begun, the grid has changed or been replaced since, or an exception has cut
  /// it short.
  [[nodiscard]] bool stale() const;
  /// The answer; `not-asked` before the search has ended. It lives until the next `begin`.
  [[nodiscard]] const Route& route() const;

  /// A unit that can't wait can set out: the way to the expanded cell that seems nearest to the goal (the start, before
  /// anything was expanded); empty where the search could not begin, or is stale. O(cells reached)
  void best_so_far(std::vector<Cell>& out) const;

  /// What is known now. With turn costs a cell can be reached in several directions: the cheapest counts, and it is
  /// closed once one of them is. `unseen` off the map. O(1).
  [[nodiscard]] CellState state(Cell cell) const;
  /// Cost so far (`unreached` for an unseen cell) and the cell it was reached from (itself at a start, or unseen).
  [[nodiscard]] Cost cost(Cell cell) const;
  [[nodiscard]] Cell parent(Cell cell) const;
  /// What remains at the least; 0 for a search that knows of no goal's place.
  [[nodiscard]] std::uint64_t estimate(Cell cell) const;
  [[nodiscard]] std::uint64_t expanded() const;

 private:
  friend class Searcher;
  class BroadSearch;
  struct Work;
  std::unique_ptr<Work> work_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
