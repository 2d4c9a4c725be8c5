/// @file
/// The searches and the memory they work in.
///
/// Units: costs in hundredths.
/// Errors: every no has a verdict; only memory can throw, and then the next question is answered rightly.
/// Cost: see each call; memory is kept for the next question.
/// Threads: one at a time; each thread its own.
#pragma once

#include <memory>
#include <span>

#include "saunter/grid/visible.hpp"
#include "saunter/search/estimate.hpp"
#include "saunter/search/field.hpp"
#include "saunter/search/prepared.hpp"
#include "saunter/search/query.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// A goal and what getting there costs.
struct NearGoal {
  std::size_t goal = 0;  ///< by its place in the list
  Cost cost = 0;
  friend bool operator==(const NearGoal&, const NearGoal&) = default;
};

/// Answers route queries. Owns the scratch memory of the searches: one searcher for each thread, kept between queries.
/// An answer never depends on what was asked before; after an exception (no memory, a callback that throws) the next
/// question is answered as by a fresh one. After the first query on a board of some size (and with the longest route
/// met), queries allocate nothing.
///
/// Order of expansion: least cost + estimate first (dijkstra: least cost); among equals the state that was enqueued
/// last. bfs: in the order of discovery, neighbours in the tiling's fixed order. Equal input
/// gives the same route on every machine and compiler; two algorithms may give different routes of equal cost.
class Searcher {
 public:
  Searcher();
  ~Searcher();
  Searcher(Searcher&&) noexcept;
  Searcher& operator=(Searcher&&) noexcept;

  /// A route between two cells.
  ///
  /// @return a route that lives in the searcher until its next query; copy it to keep it
  /// @errors never fails: a start or goal off the map or blocked, and a route that does not exist, is too dear or took
  /// too
  ///         long, are verdicts. See `Reason` for their order. The verdict's cell is the start or goal as given, or the
  ///         cell with the least heuristic, the first of them in reading order: for no-way among all the start can get
  ///         to, for over-budget and cost-overflow among all whose least cost fits, for stopped among those the search
  ///         had reached. All algorithms agree but where stopped. A "no" may take a second, unguided search to name it.
  /// @pre the options suit each other (see RouteOptions): limit > 0, no budget with bfs, ...
  /// @cost O(n) for n cells reached with a ring of buckets; O(n log n) where a step may cost more than 300 (a heap
  ///       then). Scratch: 1 byte a cell for bfs and where every step costs the same, else 4 (8 where a cost exceeds
  ///       167,772); 12 for jump and for the options from `changes` on; dead_ends
  ///       takes one more (two on triangles) and O(cells) time. 12 bytes for each state in the queue
  [[nodiscard]] const Route& route(const CostGrid& costs, Cell from, Cell to, const RouteOptions& options = {}) &;
  /// The same from one of several starts to one of several goals, beside a goal, near it, or to the first cell that
  /// passes a test.
  /// @pre there is a start, and a goal or a test
  /// @cost O(n log n) with several starts, greedy or weighted, else as above. Scratch: 12 bytes a cell
  [[nodiscard]] const Route& route(const CostGrid& costs, const Query& query, const RouteOptions& options = {}) &;

  /// The cost of travelling from every cell to the cheapest of some goals, with the next step there. Goals that can't
  /// be used are left out and listed in the field.
  /// @param out  its memory is used again; after the first field on a board of some size this allocates next to nothing
  /// @cost O(n) for n cells reached (a ring of buckets; Dial 1969)
  void field_to(const CostGrid& costs, std::span<const Source> goals, Field& out, const FieldOptions& options = {});
  [[nodiscard]] Field field_to(const CostGrid& costs, std::span<const Source> goals, const FieldOptions& options = {});

  [[nodiscard]] Field field_to(const CostGrid& costs, Cell goal, const FieldOptions& options = {}) {
    const Source source{goal};
    return field_to(costs, {&source, 1}, options);
  }

  /// The cost of travelling from the cheapest of some starts to every cell, with the step back from each: what a unit
  /// reaches within a budget. The start is in, at cost 0, also with budget 0.
  void reach(const CostGrid& costs, std::span<const Source> starts, Field& out, const FieldOptions& options = {});
  [[nodiscard]] Field reach(const CostGrid& costs, Cell start, const FieldOptions& options = {});

  /// Brings a field or a reach up to date after its grid has changed: afterwards it equals one made anew, costs, next
  /// steps and sources. The grid knows its own changes (see CostGrid::for_each_change_since).
  ///
  /// Cells whose every cheapest way led over what became dearer are found first, from the cheapest on, and forgotten;
  /// then costs spread from what is left and from what became cheaper (Ramalingam and Reps 1996, as bounded dynamic
  /// shortest paths; with buckets). Where a sixteenth of the cells or more turn out to be touched (a sixth, where no
  /// more can be), the field is made anew. A field of another grid, or one left unfinished, is made anew for this grid
  /// from its sources.
  /// @return how many cells were looked at again
  /// @cost O(cells of the changed blocks + cells whose answer changes); next to nothing where no answer does
  std::size_t repair(const CostGrid& costs, Field& field);

  /// What a route of least cost costs, without the route: looked up in an index, searched for where that can't tell
  /// (see RouteOptions::prepared). `unreached` when there is none, and when an end is blocked or off the map.
  [[nodiscard]] Cost cost(const CostGrid& costs, Cell from, Cell to, const Prepared& prepared);
  /// The same, and begins to read the route as straight parts, which are worked out one by one as they are asked for: a
  /// unit that follows a long way needs its first parts only. The searcher keeps the index alive meanwhile.
  Cost begin_legs(const CostGrid& costs, Cell from, Cell to, const Prepared& prepared);
  /// The next straight part of it; nothing at its end, and nothing once the searcher was asked for another route or
  /// cost.
  [[nodiscard]] std::optional<Leg> next_leg();
  /// The costs of routes from each of some cells to each of some goals: out[from * goals + goal], as by cost().
  /// @pre out has room for all, else the rest is left out
  /// @cost less than single questions: what a goal has in common with all is worked out once; 8 bytes for each hub of
  ///       each goal are kept
  void cost_table(const CostGrid& costs, std::span<const Cell> from, std::span<const Cell> goals, std::span<Cost> out,
                  const Prepared& prepared);
  /// The nearest of some goals, the nearest first, among equals in the order given: those that are reached at all, at
  /// most `most` of them. @param out  made anew
  void nearest_goals(const CostGrid& costs, Cell from, std::span<const Cell> goals, std::size_t most,
                     std::vector<NearGoal>& out, const Prepared& prepared);

  /// Bytes of scratch memory kept for the next question, the last route's cells among them. It only grows.
  [[nodiscard]] std::size_t memory() const;

 private:
  class RouteSearch;
  class FieldSearch;
  class LookUp;
  struct Scratch;
  std::unique_ptr<Scratch> scratch_;
  Route route_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
