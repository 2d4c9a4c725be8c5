/// @file
/// The answer to "how do I get there?".
///
/// Units: costs in hundredths.
/// Errors: not found: the verdict says why and where.
/// Cost: O(1) to read; keeps its list of cells.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <array>
#include <span>
#include <string_view>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost.hpp"
#include "saunter/search/verdict.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

enum class Algorithm : std::uint8_t {
  automatic,  ///< the fastest of those that find a route of least cost on this board
  astar,      ///< least cost, guided by an estimate (Hart, Nilsson, Raphael 1968)
  dijkstra,   ///< least cost, unguided (Dijkstra 1959)
  bfs,        ///< fewest steps, whatever they cost (Moore 1959)
  greedy,     ///< some route soon: by the estimate alone, at whatever cost (Doran and Michie 1966)
  jump,       ///< astar that leaps along open rows and columns; squares of one cost with strict corners, else astar
  dead_ends,  ///< least cost, all dead ends struck off first; astar where only a test knows the goals. Reads every cell
  prepared    ///< least cost, looked up in RouteOptions::prepared; automatic where that can't tell
};

/// "automatic", "astar", "dijkstra", "bfs", "greedy", "jump", "dead-ends",
/// "prepared".
inline constexpr std::array all_algorithms = {Algorithm::automatic, Algorithm::astar,   Algorithm::dijkstra,
                                              Algorithm::bfs,       Algorithm::greedy,  Algorithm::jump,
                                              Algorithm::dead_ends, Algorithm::prepared};
[[nodiscard]] std::string_view algorithm_name(Algorithm algorithm);

/// A route from cell to cell, or the reason why there is none.
class Route {
 public:
  [[nodiscard]] bool found() const { return verdict_.reason == Reason::found; }
  [[nodiscard]] const Verdict& verdict() const { return verdict_; }
  /// Every cell of the route from start to goal, each a legal step from the one before; empty when not found (but see
  /// RouteOptions::or_nearest).
  [[nodiscard]] std::span<const Cell> cells() const { return cells_; }
  /// Number of steps: one less than cells; 0 when not found.
  [[nodiscard]] std::size_t steps() const { return cells_.empty() ? 0 : cells_.size() - 1; }
  /// Sum of the step costs in hundredths, head starts and turns included; 0 when there are no cells.
  [[nodiscard]] Cost cost() const { return cost_; }
  /// Places taken from the queue and expanded, the goal's included.
  [[nodiscard]] std::uint64_t expanded() const { return expanded_; }
  /// The search that was used: the one asked for, or what `automatic` (or a `jump` that does not suit the board) chose.
  [[nodiscard]] Algorithm algorithm() const { return algorithm_; }
  /// Which of several starts and goals the route joins, by their place in the query; 0 with one of each.
  [[nodiscard]] std::size_t start_number() const { return start_number_; }
  [[nodiscard]] std::size_t goal_number() const { return goal_number_; }
  /// Whether the route is as natural as RouteOptions::natural promises: false when that was not asked for, or when a
  /// limit cut the search short before all routes of least cost had been looked at.
  [[nodiscard]] bool natural() const { return natural_; }
  /// What is left from the last cell to the goal, hundredths, at the least: 0 when found. Set where a route to the
  /// nearest reachable cell was asked for instead (RouteOptions::or_nearest).
  [[nodiscard]] std::uint64_t remaining() const { return remaining_; }

  friend bool operator==(const Route&, const Route&) = default;

 private:
  friend class Searcher;
  friend class SteppedSearch;

  /// Forgets the answer before; its memory is used again.
  void restart(Algorithm algorithm) {
    verdict_ = {};
    cells_.clear();
    cost_ = 0;
    expanded_ = 0;
    start_number_ = 0;
    goal_number_ = 0;
    remaining_ = 0;
    natural_ = false;
    algorithm_ = algorithm;
  }

  Verdict verdict_;
  std::vector<Cell> cells_;
  Cost cost_ = 0;
  std::uint64_t expanded_ = 0;
  std::size_t start_number_ = 0;
  std::size_t goal_number_ = 0;
  std::uint64_t remaining_ = 0;
  bool natural_ = false;
  Algorithm algorithm_ = Algorithm::astar;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
