/// @file
/// Ways between places as runs of steps in one direction.
#pragma once

#include <vector>

#include "../kernel/pack.hpp"
#include "index.hpp"
#include "passages.hpp"
#include "saunter/ground/cost_grid.hpp"

namespace saunter::inline v0_2::detail {

/// What is needed to follow the ways of an index.
struct WayGround {
  const CostGrid& costs;  ///< as it was when the index was made
  const Index& index;
  bool straight = false;  ///< direct ways are diagonal steps, then straight ones; else passages

  [[nodiscard]] Cell cell(std::uint32_t place) const { return unpack(index.cells[place]); }
};

/// Takes ways apart into runs.
class RunWriter {
 public:
  /// Appends the runs of a straight way: diagonal steps first.
  static void straight(Cell from, Cell to, std::vector<Straight>& out);
  /// Appends those of a passage that leaves a cell in a direction, as far as another cell.
  void passage(const CostGrid& costs, Cell from, unsigned direction, Cell to, std::vector<Straight>& out);
  /// The same, gone from that other cell to the first.
  void passage_back(const CostGrid& costs, Cell from, unsigned direction, Cell to, std::vector<Straight>& out);
  /// Appends those of the last stretch, or of its first part when it is made up of several: what is left of it stays.
  void next(const WayGround& ground, std::vector<Stretch>& stretches, std::vector<Straight>& out);
  [[nodiscard]] std::size_t memory() const { return bytes_of(back_); }

 private:
  template <unsigned sides>
  static void take_apart(const Index& index, std::vector<Stretch>& stretches);

  std::vector<std::uint8_t> back_;
};

/// Appends a straight part, to the last one where it goes on.
inline void add_straight(std::vector<Straight>& runs, std::uint8_t direction, std::uint32_t steps) {
  if (steps == 0) return;
  if (!runs.empty() && runs.back().direction == direction) {
    runs.back().steps += steps;
  } else {
    runs.push_back({direction, steps});
  }
}

/// Appends runs as bytes, ended by 0.
inline void write_text(std::span<const Straight> runs, std::vector<std::uint8_t>& out) {
  for (Straight part : runs) {
    while (part.steps > 0) {
      const std::uint32_t steps = part.steps < Straight::most_steps ? part.steps : Straight::most_steps;
      out.push_back(static_cast<std::uint8_t>(unsigned{part.direction} << 4U | steps));
      part.steps -= steps;
    }
  }
  out.push_back(0);
}

}  // namespace saunter::inline v0_2::detail
