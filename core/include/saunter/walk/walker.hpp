/// @file
/// Movers that feel their way: they know where they stand, which steps are legal from there now, and what they remember.
///
/// Units: edge steps.
/// Errors: none; where no step is legal there is no intent.
/// Cost: O(directions) a step; memory as each kind says.
/// Threads: one at a time; each thread its own.
#pragma once

#include <array>
#include <memory>
#include <optional>
#include <string_view>

#include "saunter/grid/dice.hpp"
#include "saunter/grid/stamp.hpp"
#include "saunter/grid/tiling.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost_grid.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

enum class WalkerKind : std::uint8_t {
  wander,        ///< at random, not back unless it must
  turn_right,    ///< straight on; bumped, it turns right until it can go on
  turn_left,     ///< the same to the left
  turn_to_goal,  ///< straight on; bumped, it turns to the neighbour nearest to the goal, the least often walked first
  right_hand,    ///< keeps its right hand on the wall
  left_hand,     ///< its left hand
  explore,       ///< the untried neighbour nearest to the goal; backs out of dead ends
  own            ///< as a function of the caller's says, see Walk::run
};
/// Ours, in that order.
inline constexpr std::array all_walkers = {WalkerKind::wander,       WalkerKind::turn_right, WalkerKind::turn_left,
                                           WalkerKind::turn_to_goal, WalkerKind::right_hand, WalkerKind::left_hand,
                                           WalkerKind::explore};
/// "wander", "turn-right", "turn-left", "turn-to-goal", "right-hand", "left-hand", "explore", "own".
[[nodiscard]] std::string_view walker_name(WalkerKind kind);
/// Whether a kind heads for a goal and so must have one.
[[nodiscard]] constexpr bool needs_goal(WalkerKind kind) {
  return kind == WalkerKind::turn_to_goal || kind == WalkerKind::explore;
}

/// Whether all that a kind goes by, after its first step, is its heading and what is around it.
[[nodiscard]] constexpr bool goes_by_heading(WalkerKind kind) {
  return kind == WalkerKind::turn_right || kind == WalkerKind::turn_left || kind == WalkerKind::right_hand ||
         kind == WalkerKind::left_hand;
}

/// What a walker can tell of the place it stands on.
struct Surroundings {
  Tiling tiling;
  Cell cell;
  DirectionSet legal = 0;  ///< across which edges a step is legal now
};
/// What is around a cell on a grid as it is. O(1)
[[nodiscard]] inline Surroundings surroundings(const CostGrid& costs, Cell cell) {
  const auto edges = (1U << static_cast<unsigned>(costs.tiling().edge_count())) - 1;
  return {costs.tiling(), cell, static_cast<DirectionSet>(costs.moves(cell) & edges)};
}

struct WalkerOptions {
  WalkerKind kind = WalkerKind::explore;
  std::optional<Cell> goal = {};  ///< @pre given where needs_goal(kind), else its own cell is the goal
  std::uint64_t seed = 0;         ///< of `wander`
};

/// A mover without a plan.
///
/// `intend` says what it would do, and changes nothing: a game may refuse (the cell is taken), and the walker waits
/// with its memory as it was. `follow` does it. "Straight on" on triangles is the exit that turns the other way than
/// the last turn did, the first time right; a turn back leaves this as it was.
/// Memory: none but these few bytes for `wander`, the hands and the two that turn to one side; `explore` keeps a byte
/// and `turn_to_goal` four for each cell of the blocks of 64 x 64 cells it has touched.
class Walker {
 public:
  /// What it would do now.
  struct Intent {
    Direction direction{-1};
    bool starts_anew = false;  ///< explore: forgets all it knows first
    Dice dice{0};              ///< wander: as it stands after the draw
  };

  Walker(Board board, Cell cell, const WalkerOptions& options);
  ~Walker();
  Walker(Walker&&) noexcept;
  Walker& operator=(Walker&&) noexcept;

  [[nodiscard]] WalkerKind kind() const { return kind_; }
  [[nodiscard]] Cell cell() const { return cell_; }
  [[nodiscard]] const std::optional<Cell>& goal() const { return goal_; }
  /// The direction it would go straight on in; none before the first step.
  [[nodiscard]] std::optional<Direction> heading() const;
  /// How often it has started anew (explore).
  [[nodiscard]] std::uint64_t restarts() const { return restarts_; }

  /// What it would do on the grid as it is; nothing where no step is legal. Allocates nothing.
  [[nodiscard]] std::optional<Intent> intend(const CostGrid& costs) const { return intend(surroundings(costs, cell_)); }
  [[nodiscard]] std::optional<Intent> intend(const Surroundings& here) const;
  /// Steps. When it throws, it has not. @pre the intent is this walker's, of its present cell
  void follow(const Intent& intent);
  /// Both: one step. @return the cell it stands on now, or nothing where no step is legal
  std::optional<Cell> step(const CostGrid& costs);

  /// Whether it is an explorer that has nothing left to try at a place where it began before, `since` nothing has
  /// changed: it would go round for ever.
  [[nodiscard]] bool exhausted(const Surroundings& here, const Stamp& ground) const;
  /// Tells an explorer how the ground is now: where it began on another ground does not count any more.
  void note_ground(const Stamp& ground);
  /// A number below 7 for all that it goes by beside its cell, where that is all there is to know: the same cell and
  /// number again mean the same way again, as long as the ground stays. Nothing for those that remember more or draw,
  /// and before the first legal step.
  [[nodiscard]] std::optional<unsigned> state(const Surroundings& here) const;
  /// Bytes it keeps for the cells it has touched.
  [[nodiscard]] std::size_t memory() const;

 private:
  friend class Walk;  // goes many steps at once, by stances
  struct Memory;
  enum class Turn : std::uint8_t { none, right, left };

  [[nodiscard]] Direction by_hand(const Surroundings& here, bool right) const;
  [[nodiscard]] Direction by_turning(const Surroundings& here, bool right) const;
  [[nodiscard]] Direction toward_goal(const Surroundings& here) const;
  [[nodiscard]] std::optional<Direction> untried(const Surroundings& here) const;
  [[nodiscard]] Intent exploring(const Surroundings& here) const;
  void remember(const Intent& intent, Cell next, std::uint8_t back);
  /// Which way back and turn it goes by, after its first step: a number below max_stances; and back from it.
  static constexpr unsigned max_stances = 6;
  [[nodiscard]] unsigned stance() const;
  void stand(Cell cell, unsigned stance);
  [[nodiscard]] int straight(const Surroundings& here) const;
  [[nodiscard]] int turn_of(int direction) const;

  Tiling tiling_;
  Cell cell_;
  std::optional<Cell> goal_;
  WalkerKind kind_ = WalkerKind::explore;
  Turn last_turn_ = Turn::none;  // triangles
  std::int8_t back_ = -1;        // the way back from here; -1 before the first step
  Dice dice_;
  std::uint64_t restarts_ = 0;
  std::unique_ptr<Memory> memory_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
