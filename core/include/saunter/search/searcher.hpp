/// @file
/// The searches and the memory they work in.
#pragma once

#include <limits>
#include <memory>
#include <optional>
#include <span>
#include <vector>

#include "saunter/search/estimate.hpp"
#include "saunter/search/field.hpp"
#include "saunter/search/route.hpp"

namespace saunter {

/// One expanded place of a search, for teaching and drawing.
struct Visit {
  CellIndex cell;
  CellIndex parent;            ///< the cell it was reached from; itself at the start
  Cost cost = 0;               ///< from the start, hundredths
  std::uint64_t estimate = 0;  ///< of what remains; 0 for the unguided searches
};

struct RouteOptions {
  Algorithm by = Algorithm::astar;
  /// Give up beyond this cost, hundredths. Not for bfs, which does not minimise cost.
  std::optional<Cost> budget = {};
  /// Expand at most this many places; at least 1.
  std::uint64_t limit = std::numeric_limits<std::uint64_t>::max();
  /// Where to append each expanded place, in order; null = no trace.
  std::vector<Visit>* trace = nullptr;
};

/// Answers route queries. Owns the scratch memory of the searches: one searcher for each thread, kept between queries.
/// After the first query on a board of some size (and with the longest way met), queries allocate nothing.
///
/// Order of expansion: least cost + estimate first (dijkstra: least cost); among equals the place that was put in line
/// last. bfs: in the order of discovery, neighbours in the tiling's fixed order. Equal input
/// gives the same way on every machine and compiler; two algorithms may give different ways of equal cost.
class Searcher {
 public:
  Searcher();
  ~Searcher();
  Searcher(Searcher&&) noexcept;
  Searcher& operator=(Searcher&&) noexcept;

  /// A way between two cells.
  ///
  /// @return a route that lives in the searcher until its next query; copy it to keep it
  /// @errors never fails: a start or goal off the map or blocked, and a way that does not exist, is too dear or took
  /// too
  ///         long, are verdicts. See `Reason` for their order. The verdict's cell is the start or goal as given, or the
  ///         reached cell with the least estimate (the first of them in reading order).
  /// @pre options.limit > 0; no budget with bfs
  /// @cost O(n) for n cells reached with a ring of buckets; O(n log n) where a step may cost more than 200 (a heap
  /// then).
  ///       12 bytes a cell of scratch, 8 for each place in line
  [[nodiscard]] const Route& route(const CostGrid& costs, Cell from, Cell to, const RouteOptions& options = {}) &;

  /// The cost of travelling from every cell to the cheapest of some goals, with the next step there. Goals that can't
  /// be used are left out and listed in the field.
  /// @param out  its memory is used again; after the first field on a board of some size this allocates next to nothing
  /// @cost O(n) for n cells reached (a ring of buckets; Dial 1969)
  void field_to(const CostGrid& costs, std::span<const Source> goals, Field& out, const FieldOptions& options = {});
  [[nodiscard]] Field field_to(const CostGrid& costs, std::span<const Source> goals, const FieldOptions& options = {});

  /// The cost of travelling from the cheapest of some starts to every cell, with the step back from each: what a unit
  /// reaches within a budget. The start is in, at cost 0, also with budget 0.
  void reach(const CostGrid& costs, std::span<const Source> starts, Field& out, const FieldOptions& options = {});
  [[nodiscard]] Field reach(const CostGrid& costs, Cell start, const FieldOptions& options = {});

 private:
  friend class RouteSearch;
  struct Scratch;
  std::unique_ptr<Scratch> scratch_;
  Route route_;
};

}  // namespace saunter
