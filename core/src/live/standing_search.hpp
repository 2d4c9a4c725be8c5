/// @file
/// The search behind a standing route.
#pragma once

#include <vector>

#include "../search/kernel/queue.hpp"
#include "../walk/paged_plane.hpp"
#include "saunter/live/standing_route.hpp"
#include "saunter/search/estimate.hpp"

namespace saunter::inline v0_2 {

class StandingRoute::Search {
 public:
  void begin(const CostGrid& costs, Cell start, Cell goal);
  void stand_at(Cell cell);
  bool notice(const CostGrid& costs);
  bool run(std::uint64_t places);
  [[nodiscard]] bool ended() const { return !working_; }
  [[nodiscard]] std::size_t memory() const;

  RouteReport report;
  Reason reason = Reason::not_asked;
  Cell from;
  Cell to;
  std::uint64_t expanded = 0;
  /// The rest of the route, from where the unit stands.
  [[nodiscard]] std::span<const Cell> rest() const { return std::span(cells_).subspan(passed_); }

 private:
  /// What the search knows of a cell: the cost to the goal as settled, and as its neighbours have it now.
  struct Node {
    Cost settled = unreached;
    Cost ahead = unreached;
  };
  struct Key {
    std::uint64_t total = 0;
    Cost cost = 0;
    std::uint32_t cell = 0;  // packed
    friend bool operator<(const Key& a, const Key& b) {
      return a.total != b.total ? a.total < b.total : a.cost < b.cost;
    }
  };

  void start_over();
  [[nodiscard]] bool run_first(std::uint64_t& places);
  void end_first();
  [[nodiscard]] bool soundly_begun(const CostGrid& costs) const;
  [[nodiscard]] Key key_of(Cell cell, const Node& node) const;
  void enqueue(Cell cell, const Node& node);
  void look_again(Cell cell);
  void take_in_changes();
  void expand(Cell cell);
  void offer(Cell leaner, Cost step, Cost settled, Cost before);
  [[nodiscard]] Cost least_ahead(Cell cell);
  [[nodiscard]] Cost step(unsigned kind, unsigned d, Cell into) const;
  [[nodiscard]] bool proven_to_hold();
  [[nodiscard]] bool too_far(Rect block, const Estimate& to_unit, std::uint64_t cost) const;
  [[nodiscard]] bool touches_route(Rect block) const;
  /// A part of the route as it is now. Step 0 is standing on its first cell.
  struct Walked {
    bool legal = true;
    std::size_t step = 0;  // the first that is not legal
    std::uint64_t cost = 0;
  };
  [[nodiscard]] Walked walk(std::span<const Cell> cells) const;
  [[nodiscard]] std::optional<Cost> cost_after(std::size_t steps) const;
  [[nodiscard]] bool leads_to_goal() const;
  void conclude();
  void write_route();

  const CostGrid* costs_ = nullptr;
  Stamp stamp_;
  EntryCost cheapest_ = 0;   // what estimates go by
  std::uint64_t shift_ = 0;  // by how much keys have risen since they were made, for the unit has moved
  Cell searched_from_;       // where the unit stood when it last searched
  bool working_ = false;
  bool beyond_ = false;  // a sum did not fit
  bool searched_ = false;
  Walked before_;       // the rest, as it was last walked or found
  bool moved_ = false;  // since then
  std::optional<Estimate> to_unit_;
  std::optional<Estimate> to_goal_;
  detail::PagedPlane<Node> nodes_;
  detail::BinaryHeap<Key> queue_;
  detail::StateRing first_queue_;  // of a first search, whose keys only rise
  bool first_ = false;
  std::vector<Rect> pending_;  // changes not taken in yet
  std::vector<Cell> cells_;
  std::size_t passed_ = 0;
  Rect box_;  // of the route
};

}  // namespace saunter::inline v0_2
