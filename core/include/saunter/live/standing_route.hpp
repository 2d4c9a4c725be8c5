/// @file
/// A route that stands while its unit walks and the map changes.
///
/// Units: costs in hundredths.
/// Errors: without a way the reason says why; only memory can throw, and then it begins anew at the next call.
/// Cost: the first search is one of A*'s; then O(what changed where it matters). 8 bytes a cell of the blocks searched.
/// Threads: one at a time; each thread its own.
#pragma once

#include <limits>
#include <memory>
#include <optional>
#include <span>
#include <string_view>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost_grid.hpp"
#include "saunter/search/verdict.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// What has become of a route since it was last asked.
enum class Standing : std::uint8_t {
  holds,   ///< its remaining cells can still be walked, and no way costs less
  better,  ///< they can, but a cheaper way exists; or there was none and now there is
  broken   ///< a step of it is not legal any more, or there is still no way
};
/// "holds", "better", "broken".
[[nodiscard]] std::string_view standing_name(Standing standing);

/// How a route stands, and the way of least cost from where the unit is.
struct RouteReport {
  Standing standing = Standing::holds;
  std::size_t step = 0;            ///< broken: the first illegal step; 0 = standing where it stands
  Cell at = {};                    ///< broken: the cell of that step; without a route the unit's own cell
  std::optional<Cost> cost = {};   ///< least cost from where the unit stands; nothing when there is no way
  std::optional<Cost> saved = {};  ///< better: by how much, where there was a way before
  bool searched = false;           ///< false: a look at what changed was proof enough
};

/// One route, kept of least cost on a grid that changes, for a unit that walks it.
///
/// Searches backwards from the goal and mends its tree where the grid has changed (D* Lite; Koenig and Likhachev 2002),
/// so that its cost is always a fresh search's. Before that comes a proof that costs next to nothing: what changed is
/// off the route, and the estimate from the unit to it and on to the goal is no less than the route costs.
/// The grid tells what has changed (CostGrid::for_each_change_since). It may also be another one: then it begins anew.
/// After warm-up nothing is allocated while the search stays in blocks it has been in.
class StandingRoute {
 public:
  StandingRoute();
  ~StandingRoute();
  StandingRoute(StandingRoute&&) noexcept;
  StandingRoute& operator=(StandingRoute&&) noexcept;

  /// A new question; the first route is there when it returns.
  const RouteReport& begin(const CostGrid& costs, Cell from, Cell to) &;
  /// The same for `run` to search in slices.
  void begin_stepped(const CostGrid& costs, Cell from, Cell to);

  /// The unit stands somewhere else: on a later cell of its route, or anywhere. Takes effect at once on the route's
  /// remaining cells and on what they cost, where it lies on it. Else there are none, and no cost is told, until the
  /// next call of follow. O(steps taken)
  void stand_at(Cell cell);

  /// Takes in what has changed in the grid, and where the unit stands now, and searches if it must.
  const RouteReport& follow(const CostGrid& costs) &;
  /// The same a little at a time: `notice` first, then `run` until it has ended. Until then route and report are as
  /// they were. @return whether it has ended
  bool notice(const CostGrid& costs);
  bool run(std::uint64_t places = 1);
  [[nodiscard]] bool ended() const;

  /// What is told lives in the route: one that ends with the statement tells nothing.
  [[nodiscard]] const RouteReport& report() const&;
  const RouteReport& report() && = delete;
  /// `found`, or why there is no way.
  [[nodiscard]] Reason reason() const;
  [[nodiscard]] bool found() const { return reason() == Reason::found; }
  /// From where the unit stands to the goal, both included; empty without a way.
  [[nodiscard]] std::span<const Cell> cells() const&;
  std::span<const Cell> cells() && = delete;
  [[nodiscard]] Cell cell() const;
  [[nodiscard]] Cell goal() const;
  /// Places expanded since `begin`.
  [[nodiscard]] std::uint64_t expanded() const;
  /// Bytes it keeps.
  [[nodiscard]] std::size_t memory() const;

 private:
  class Search;
  std::unique_ptr<Search> search_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
