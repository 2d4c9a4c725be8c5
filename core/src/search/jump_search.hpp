/// @file
/// Ways of least cost on square boards of one cost, found by jumping along open rows and columns.
#pragma once

#include "jump_ground.hpp"
#include "kernel/marks.hpp"
#include "kernel/queue.hpp"
#include "question.hpp"

namespace saunter::inline v0_2::detail {

/// A* over the cells where a canonical way can turn (jump point search; Harabor and Grastien 2011), found 64 cells at a
/// time by scanning rows of bits, and columns in a turned copy (block-based scanning; Harabor and Grastien 2014). The
/// corner rule is ours: strict. Diagonals enqueue what their rows and columns hold themselves, so all places in the
/// queue but the start and the goal are cells beside the end of a wall.
class JumpSearch {
 public:
  /// More cells to arrive at are not looked for along every line.
  static constexpr std::size_t most_ends = 16;

  /// Whether it can be used on this board.
  [[nodiscard]] static bool suits(const CostGrid& costs);
  /// Whether it can be asked this there as well: what is changed keeps the board one of one cost.
  [[nodiscard]] static bool suits(const CostGrid& costs, const Beyond& beyond);

  /// Whether it suits and is likely to be the fastest: where walls are long. Beside single blocked cells, as in
  /// scattered rubble, it stops too often. O(1)
  [[nodiscard]] static bool pays(const CostGrid& costs);

  /// @pre suits(question.costs), and what it has beyond one goal
  Ending run(const Question& question);
  void write_way_back(const Question& question, Cell from, std::vector<Cell>& out) const;
  /// The nearest of the places that were enqueued.
  [[nodiscard]] Cell nearest(const Question& question) const;
  [[nodiscard]] bool knows(std::uint32_t index) const { return query_.knows(nodes_[index]); }
  /// Visits those places, by number.
  template <typename Visit>
  void for_each(Visit&& visit) const {
    for (std::uint32_t index = touched_.first; index <= touched_.last; ++index) {
      if (knows(index)) visit(index);
    }
  }
  [[nodiscard]] std::size_t memory() const { return nodes_.memory() + queue_.memory() + ground_.memory(); }

 private:
  struct Node {
    std::uint32_t query = 0;
    Cost cost = 0;
    std::uint32_t parent = 0;  // packed
  };

  template <typename Ends, typename Along, typename Guide>
  Ending run_to(const Question& question, const Along& along, const Guide& guide);

  JumpGround ground_;
  Zeroed<Node> nodes_;
  QueryNumber query_;
  StateHeap queue_;
  Span touched_;
};

}  // namespace saunter::inline v0_2::detail
