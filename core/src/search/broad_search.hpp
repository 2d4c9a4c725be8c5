/// @file
/// The search for everything beyond one start, one goal and the board as it is.
#pragma once

#include <vector>

#include "saunter/search/changed_moves.hpp"
#include "line.hpp"
#include "pack.hpp"
#include "question.hpp"
#include "saunter/search/stepped_search.hpp"

namespace saunter {

/// The options as they are, or without what contradicts (see RouteOptions); stops a checked build where something does.
[[nodiscard]] RouteOptions made_sound(RouteOptions options, Tiling tiling);

/// A search under way, or ended. Every query starts it anew; its memory is used again.
///
/// A place is a cell, or with turn costs a cell and the direction it was entered in.
///
/// Nothing an earlier query has left is trusted: marks carry the number of their query, and lists of what was marked
/// are written before the marks, so that the next query can clear them even after an exception.
class BroadSearch {
 public:
  /// @pre options made sound
  void begin(const CostGrid& costs, const Query& query, const RouteOptions& options);
  /// Expands at most so many places. True when the search has ended.
  bool run(std::uint64_t places);
  [[nodiscard]] bool ended() const { return ended_; }
  /// Writes the answer. @pre ended()
  void write(Route& route);

  [[nodiscard]] CellState state(Cell cell) const;
  /// Least cost known and where it was reached from. @pre state(cell) != unseen
  [[nodiscard]] Cost cost(Cell cell) const;
  [[nodiscard]] Cell parent(Cell cell) const;
  [[nodiscard]] std::uint64_t estimate(Cell cell) const;
  [[nodiscard]] std::uint64_t expanded() const { return expanded_; }
  [[nodiscard]] const CostGrid* costs() const { return costs_; }

 private:
  struct Node {
    std::uint32_t query = 0;
    Cost cost = 0;
    std::uint8_t back = 0;     // direction back to the cell before; from_nowhere at a start
    std::uint8_t heading = 0;  // with turn costs: the direction in which the cell before was entered
    bool expanded = false;
  };
  /// A cell that counts as arrived, and the goal it belongs to.
  struct Accepted {
    Cell cell;
    std::uint32_t goal = 0;
  };
  /// Estimates are taken towards these: the cost to a cell, less how far from it one may arrive.
  struct Aim {
    Estimate estimate;
    std::uint64_t slack = 0;
  };
  /// What a way is judged by among those of least cost.
  struct Looks {
    std::uint32_t turns = ~std::uint32_t{0};
    std::uint64_t aside = ~std::uint64_t{0};  // sum of distances from the straight line, scaled
    std::uint8_t before = 0;                  // direction back from the cell before
    friend bool operator<(const Looks& a, const Looks& b) {
      return a.turns != b.turns ? a.turns < b.turns : a.aside < b.aside;
    }
  };

  [[nodiscard]] Verdict take_starts(std::span<const Source> starts);
  [[nodiscard]] Verdict take_goals();
  [[nodiscard]] const Labels* apart_by_labels() const;
  /// Sets out from the starts, by a search that may be another than the one asked for.
  void forget_search();
  void set_out(Algorithm by);
  bool accept(Cell cell, std::size_t goal);
  void clear_accepted();
  void take_aims();
  [[nodiscard]] std::size_t accepted_goal(Cell cell) const;  // or no_goal
  void reach(Cell cell, unsigned heading, std::uint64_t cost, unsigned back, unsigned heading_before);
  void end(Reason reason);
  [[nodiscard]] std::uint64_t total(std::uint64_t cost, std::uint64_t estimate) const;
  [[nodiscard]] unsigned start_heading() const;
  [[nodiscard]] bool leads_to_goal(Cell& nearest) const;
  [[nodiscard]] std::uint64_t turning(unsigned from, unsigned to) const;
  [[nodiscard]] std::size_t state_of(Cell cell, unsigned heading) const {
    return std::size_t{costs_->size().index(cell).value()} * headings_ + heading;
  }
  [[nodiscard]] bool knows(std::size_t state) const { return nodes_[state].query == query_; }
  /// The cheapest known state of a cell, or none.
  [[nodiscard]] std::size_t best_state(Cell cell) const;
  /// What the verdict and RouteOptions::or_nearest go by: the exact heuristic to the nearest goal.
  [[nodiscard]] std::uint64_t heuristic(Cell cell) const;
  template <typename Among>
  [[nodiscard]] Cell nearest(Among&& among) const;
  [[nodiscard]] Cell nearest_by_labels() const;
  /// Searches again for the least costs of all cells within the budget, or only as far as one.
  void survey(Algorithm by, const Cell* to);
  void find_place_of_no();
  void write_nearest(Route& route);
  void write_way(std::size_t state, Cell cell, std::vector<Cell>& out) const;
  void write_natural_way(Cell goal, std::vector<Cell>& out);
  void write_cost(Route& route);
  [[nodiscard]] std::uint64_t cost_of(std::span<const Cell> way) const;

  static constexpr std::size_t no_goal = ~std::size_t{0};
  static constexpr std::size_t no_state = ~std::size_t{0};
  static constexpr std::uint8_t from_nowhere = 15;

  const CostGrid* costs_ = nullptr;
  RouteOptions options_;
  Algorithm by_ = Algorithm::astar;  // the search under way
  CellTest until_;
  int within_ = 0;
  bool beside_ = false;
  bool changed_ = false;            // other entry costs for this query
  const Labels* labels_ = nullptr;  // that proved the query hopeless
  std::vector<Cell> goals_;
  ChangedMoves ground_;
  std::vector<Node> nodes_;
  std::uint32_t query_ = 0;
  unsigned headings_ = 1;
  bool bucketed_ = false;
  BucketLine buckets_;
  HeapLine heap_;
  std::vector<Source> starts_;
  std::vector<std::uint32_t> start_numbers_;
  std::vector<Accepted> accepted_;
  BitGrid accepted_cells_;
  std::vector<Aim> aims_;
  std::vector<Estimate> heuristics_;  // one for each goal that counts
  std::vector<Cell> disk_;
  Span touched_;
  std::uint64_t expanded_ = 0;
  std::uint64_t pushed_ = 0;
  bool cut_ = false;        // places were left out because they lie beyond the budget
  bool cut_short_ = false;  // the limit was used up
  bool ended_ = true;
  Verdict verdict_;
  std::size_t found_state_ = no_state;
  std::size_t found_goal_ = no_goal;
  Cell found_cell_;
  std::uint64_t found_cost_ = 0;
  // for natural ways
  std::vector<std::uint32_t> position_;  // among the ties, from 1; 0 elsewhere
  std::vector<std::uint32_t> ties_;      // numbers of cells
  std::vector<Looks> looks_;
};

}  // namespace saunter
