/// @file
/// Ways for several units that must not collide: planned one after the other over cells and ticks.
///
/// Units: ticks; costs in hundredths.
/// Errors: a unit without a plan has its reason; a plan is complete or says that it is not.
/// Cost: O(states log states) a unit and try, a state being a cell at a tick; a field for each goal, as far as members
/// stand from it; up to 64 MB for them, and one more each time where there are more.
/// Threads: one at a time; each thread its own.
#pragma once

#include <memory>
#include <span>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost_grid.hpp"
#include "saunter/search/verdict.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

struct GroupMember {
  Cell from;
  Cell to;
};

struct GroupOptions {
  Hundredths waiting = 1_steps;   ///< what a tick of waiting costs; at least 0.01, which 0 counts as
  std::uint32_t tries = 16;       ///< orders tried before it gives up, at least 1
  std::uint64_t seed = 0;         ///< of the orders drawn
  std::uint64_t limit = 200'000;  ///< states expanded for one member in one try, at most
};

/// Ways that can be walked at the same time, a cell a tick, from tick 0 on; whoever has arrived stays. Of a plan that
/// is not complete the members with a way can be walked together all the same, if the others keep out of it.
struct GroupPlan {
  struct Member {
    std::vector<Cell> cells = {};       ///< at tick 0, 1, ...; the same cell again is waiting; empty without a way
    Reason reason = Reason::not_asked;  ///< `found`, or why not; `stopped`: others were in the way in every order tried
    std::uint64_t cost = 0;             ///< of its steps, hundredths
    std::uint32_t waits = 0;            ///< ticks of waiting before it arrives
  };
  std::vector<Member> members = {};
  bool complete = false;
  std::uint32_t tries = 0;     ///< orders tried
  std::uint64_t expanded = 0;  ///< states, in all tries
};

/// Plans for groups; keeps its memory.
class GroupPlanner {
 public:
  GroupPlanner();
  ~GroupPlanner();
  GroupPlanner(GroupPlanner&&) noexcept;
  GroupPlanner& operator=(GroupPlanner&&) noexcept;

  /// Each member in turn gets a way of least cost, waiting counted, that meets none of those before it (cooperative A*
  /// over cells and ticks; Silver 2005; guided by the true distance to its goal). In the first order those with the
  /// longest way alone come first. When somebody finds none, that one goes to the front, the order behind it is drawn
  /// anew, and all plan again (Bennewitz, Burgard, Thrun 2001).
  ///
  /// What it does not promise: to find a plan wherever there is one (whoever plans early does not know of those who
  /// come later), nor the least cost of all together. Two of one goal or of overlapping starts can't be planned.
  /// Deterministic.
  [[nodiscard]] GroupPlan plan(const CostGrid& costs, std::span<const GroupMember> members,
                               const GroupOptions& options = {});

 private:
  class Work;
  std::unique_ptr<Work> work_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
