/// @file
/// What a prepared map can tell exactly about a grid that has changed since.
#pragma once

#include "../kernel/changed_moves.hpp"
#include "prepared_ways.hpp"

namespace saunter::inline v0_2::detail {

/// Straight parts of a list of cells.
class StraightParts {
 public:
  void begin(Tiling tiling) {
    tiling_ = tiling;
    next_ = 0;
  }
  [[nodiscard]] std::optional<Leg> next(std::span<const Cell> cells) {
    if (next_ + 1 >= cells.size()) return std::nullopt;
    Leg leg{cells[next_], tiling_.direction(cells[next_], cells[next_ + 1]), 0};
    while (next_ + 1 < cells.size() && tiling_.direction(cells[next_], cells[next_ + 1]) == leg.direction) {
      ++next_;
      ++leg.steps;
    }
    return leg;
  }

 private:
  Tiling tiling_;
  std::size_t next_ = 0;
};

/// A question to a prepared map about the grid it follows. What became dearer makes no way cheaper, so a least-cost way
/// of old that avoids it is still one. What became cheaper betters only ways that can go there and be cheaper by the
/// estimate; where one cell alone might, the ways through it are looked up from its neighbours.
class PreparedAnswer {
 public:
  /// Whether the index knows the way of least cost between two open cells. @return false: a search must tell
  [[nodiscard]] bool find(const Prepared& prepared, const CostGrid& costs, Cell from, Cell to);
  /// Whether the way found is still one of least cost on ground that a question sees otherwise: everything that is
  /// changed is dearer or closed, and lies aside of it.
  [[nodiscard]] bool holds_on(const CostGrid& costs, const ChangedMoves& ground);
  /// Of the way found.
  [[nodiscard]] Cost cost() const { return static_cast<Cost>(cost_); }
  [[nodiscard]] std::uint64_t expanded() const { return ways_.expanded(); }
  void write_cells(std::vector<Cell>& out);
  /// Its straight parts, one after the other; nothing at the end.
  void begin_legs();
  std::optional<Leg> next_leg();
  [[nodiscard]] std::size_t memory() const;

  /// For a table of costs: whether the map answers without a look at changes.
  [[nodiscard]] static const PreparedMap* unchanged(const Prepared& prepared, const CostGrid& costs);
  [[nodiscard]] PreparedWays& ways() { return ways_; }

 private:
  struct Portal {
    Cell cell;
    std::uint64_t from_start = 0;
    std::size_t before = 0;  // the portal a cheaper step came from; itself where the old board leads there
    bool settled = false;
  };

  [[nodiscard]] bool better_through(const CostGrid& costs, Cell cheaper, std::uint64_t than) const;
  void look_through(const CostGrid& costs, Cell cheaper);
  void settle_portals(const CostGrid& costs);
  template <typename Moves, typename Entry>
  [[nodiscard]] bool walk(const CostGrid& costs, const Moves& moves, const Entry& entry);
  [[nodiscard]] bool walk_again(const CostGrid& costs);

  const PreparedMap* map_ = nullptr;
  PreparedWays ways_;
  Cell from_;
  Cell to_;
  std::uint64_t cost_ = 0;
  std::vector<Portal> portals_;
  std::size_t last_portal_ = 0;
  bool through_portals_ = false;
  bool looked_through_ = false;
  std::vector<Cell> cells_;  // of a way that had to be written out
  std::vector<Cell> part_;
  bool written_ = false;
  StraightParts parts_;
};

}  // namespace saunter::inline v0_2::detail
