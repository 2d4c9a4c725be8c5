/// @file
/// A walk: a walker on its way, how it ends and what it leaves behind.
///
/// Units: edge steps; bytes.
/// Errors: a start or goal that can't be used: the verdict says why and where, and no step is taken.
/// Cost: O(1) a step; a byte a step and one for each cell of the blocks of 64 x 64 touched.
/// Threads: one at a time; each thread its own.
#pragma once

#include <concepts>
#include <memory>

#include "saunter/grid/visible.hpp"
#include "saunter/search/verdict.hpp"
#include "saunter/walk/trail.hpp"
#include "saunter/walk/walker.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// How a walk ended, tested in this order before each step.
enum class WalkEnd : std::uint8_t {
  none,     ///< it goes on
  arrived,  ///< it stands on the goal
  loop,     ///< proven: it is where it was before, as it was then, and the ground has not changed since
  stuck,    ///< no step is legal
  steps     ///< as many as allowed have been taken
};
/// "none", "arrived", "loop", "stuck", "steps".
[[nodiscard]] std::string_view walk_end_name(WalkEnd end);

struct WalkOptions {
  WalkerKind kind = WalkerKind::explore;
  Cell from = {};
  std::optional<Cell> to = {};  ///< @pre given where needs_goal(kind), else its own cell is the goal
  std::uint64_t seed = 0;
  std::optional<std::uint64_t> most_steps = {};  ///< nothing: four for each cell of the board
  bool keep_trail = true;
};

/// A walker of the caller's own: told what is around it, it says which way to step, or `Direction{-1}` to wait. What it
/// remembers is its own affair. @pre what it says is legal, else it waits
template <typename F>
concept OwnWalker = std::is_invocable_r_v<Direction, F&, const Surroundings&>;

/// One walker from its start to its end. The grid may change between two steps, or be another of the same board: the
/// walker finds out when it gets there.
///
/// A loop is told of walkers without chance and without counts: the hands and those that turn to one side (the first
/// time they are in a cell and heading again; on triangles the side that straight on lies on is part of the heading), and
/// an explorer that has nothing left to try where it began before.
class Walk {
 public:
  Walk(const CostGrid& costs, const WalkOptions& options);
  ~Walk();
  Walk(Walk&&) noexcept;
  Walk& operator=(Walk&&) noexcept;

  /// Takes at most so many steps; when memory runs out, the last one has not been taken. @return whether the walk has ended. @pre a grid of the same board, else it ends stuck
  bool run(const CostGrid& costs, std::uint64_t steps = 1);
  /// The same by a walker of the caller's own. A tick in which it waits counts as one of `steps` and of those allowed.
  template <OwnWalker Own>
  bool run(const CostGrid& costs, std::uint64_t steps, Own&& own) {
    for (; steps > 0 && ready(costs); --steps) take(costs, own(surroundings(costs, cell())));
    return end() != WalkEnd::none;
  }

  /// `found` when both ends can be used, else why not and where: start-off-map, start-blocked, goal-...
  [[nodiscard]] const Verdict& verdict() const;
  [[nodiscard]] WalkEnd end() const;
  [[nodiscard]] bool arrived() const { return end() == WalkEnd::arrived; }
  [[nodiscard]] Cell cell() const;
  [[nodiscard]] const Walker& walker() const;
  [[nodiscard]] std::uint64_t steps() const;
  /// Different cells walked on, the start among them.
  [[nodiscard]] std::uint64_t visited() const;
  /// Steps into cells it had been on before.
  [[nodiscard]] std::uint64_t revisits() const { return steps() + 1 - visited(); }
  [[nodiscard]] std::uint64_t restarts() const { return walker().restarts(); }
  /// Empty but for its start when it is not kept.
  [[nodiscard]] const Trail& trail() const;
  /// Bytes kept: what the walker remembers, where it has been, and the trail.
  [[nodiscard]] std::size_t memory() const;

 private:
  struct Reflexes;
  struct State;
  [[nodiscard]] bool ready(const CostGrid& costs);
  void take(const CostGrid& costs, Direction direction);

  std::unique_ptr<State> state_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
