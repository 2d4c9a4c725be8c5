/// @file
/// Slow, obvious versions of what the library computes, written from the definitions and from geometry. They share no
/// code with it beyond maps, cells and the frame's centre points (which are tested against distances of their own).
#pragma once

#include <functional>
#include <limits>
#include <optional>
#include <vector>

#include "saunter/grid/frame.hpp"
#include "saunter/ground/bake.hpp"

namespace saunter::test {

inline constexpr std::uint64_t never = std::numeric_limits<std::uint64_t>::max();

/// Where a mover can stand and how it may step, by definition.
class GroundOracle {
 public:
  GroundOracle(const Map& map, const Mover& mover, const BitGrid* occupied = nullptr)
      : map_(map), mover_(mover), occupied_(occupied), frame_(map.tiling()) {}

  /// The cells it covers when it stands at a cell: n x n, or all hexes whose centres are near enough.
  [[nodiscard]] std::vector<Cell> body(Cell at) const;
  /// Entry cost at a place, 0 when it can't stand there.
  [[nodiscard]] EntryCost entry(Cell at) const;
  [[nodiscard]] bool stands(Cell at) const { return entry(at) != blocked; }
  [[nodiscard]] bool legal(Cell from, Cell to) const;
  /// Cost of a legal step.
  [[nodiscard]] std::uint64_t step_cost(Cell from, Cell to) const;
  /// All cells that touch a cell at an edge or corner, on the map, in no special order.
  [[nodiscard]] std::vector<Cell> touching(Cell cell) const;
  [[nodiscard]] bool share_edge(Cell a, Cell b) const;
  /// Whether a step between two touching cells is among the directions the mover uses.
  [[nodiscard]] bool uses(Cell from, Cell to) const;

 private:
  [[nodiscard]] double distance(Cell a, Cell b) const { return length(frame_.centre(a) - frame_.centre(b)); }
  [[nodiscard]] bool barrier(Cell from, Cell to) const;
  [[nodiscard]] bool level(Cell from, Cell to) const;
  /// The places round the corner between two cells, first one way, then the other; without the two cells.
  [[nodiscard]] std::vector<std::vector<Cell>> ways(Cell from, Cell to) const;
  [[nodiscard]] bool way_open(Cell from, const std::vector<Cell>& way, Cell to) const;
  [[nodiscard]] bool way_unbarred(Cell from, const std::vector<Cell>& way, Cell to) const;
  [[nodiscard]] bool body_step_unbarred(Cell from, Cell to) const;
  [[nodiscard]] bool body_step_level(Cell from, Cell to) const;
  [[nodiscard]] Cell moved(Cell part, Cell from, Cell to) const;

  const Map& map_;
  const Mover& mover_;
  const BitGrid* occupied_;
  Frame frame_;
};

/// Least costs from a cell to all others, by relaxing every step until nothing changes (Bellman 1958, Ford 1956).
/// `fewest_steps` counts each step as 1 instead.
[[nodiscard]] std::vector<std::uint64_t> least_costs(const CostGrid& costs, Cell from, bool fewest_steps = false);

/// The same with every turn between two steps costing something: for each cell the least sum of `step_factor` x step
/// cost and turn(direction before, direction after) over all steps, by relaxing until nothing changes.
[[nodiscard]] std::vector<std::uint64_t> least_costs_with_turns(
    const CostGrid& costs, Cell from, std::optional<Direction> heading, std::uint64_t step_factor,
    const std::function<std::uint64_t(Direction, Direction)>& turn);

}  // namespace saunter::test
