/// @file
/// A place for each of many units: a rally point that is not one cell.
///
/// Units: cells; costs in hundredths.
/// Errors: units that find no place have none, and say so.
/// Cost: a field for each unit or each way in, O(units^3) to assign them; 4 bytes for each unit and place.
/// Threads: one at a time; each thread its own.
#pragma once

#include <memory>
#include <optional>
#include <span>
#include <vector>

#include "saunter/grid/borrowed.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/search/searcher.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// What the assignment of units to places is to make least. First of all as many units as possible get a place.
enum class GatherAim : std::uint8_t {
  least_sum,  ///< the sum of what all spend on their ways
  soonest     ///< the costliest way of all, then the sum
};

struct GatherOptions {
  GatherAim aim = GatherAim::least_sum;
  Borrowed<Offset> formation = {};  ///< places beside the rally cell wanted first, in this order: columns and rows,
                                    ///< on hexes q and r (see Footprint::parts)
  const BitGrid* taken = nullptr;   ///< cells where nobody may end, though units may cross them
};

/// One unit of a gathering.
struct Gathered {
  Cell from = {};
  std::optional<Cell> to = {};  ///< nothing: it can't get to any place left for it
  Cost cost = 0;                ///< of a way there of least cost
  friend bool operator==(const Gathered&, const Gathered&) = default;
};

/// Belongs to its gatherer and is overwritten by the next question.
struct Gathering {
  std::vector<Gathered> units = {};  ///< in the order given
  std::vector<Cell> places = {};  ///< one for each unit, or as many as there are: those of the formation, then nearest
                                  ///< to the rally cell first
  std::size_t placed = 0;         ///< units that have a place
  std::uint64_t sum = 0;          ///< of their costs
  Cost last = 0;                  ///< the largest of them
};

/// Gathers units; keeps its memory.
class Gatherer {
 public:
  Gatherer();
  ~Gatherer();
  Gatherer(Gatherer&&) noexcept;
  Gatherer& operator=(Gatherer&&) noexcept;

  /// Chooses a place for each unit and who goes where. Units are as large as the mover the grid was baked for.
  ///
  /// **Places**: cells that travel from the rally cell leads to, the cheapest to get to first and in reading order
  /// among equals, each unless its body would overlap one chosen before or a cell that is taken; as many as there are
  /// units. Cells of the formation, in its order, are chosen before all others by the same rule. A rally cell that
  /// can't be stood on counts as the one `unstick` gives.
  /// **Who goes where**: an assignment that is best by the aim (Kuhn 1955, as shortest augmenting paths, Jonker and
  /// Volgenant 1987; for `soonest` a bound found by matching, Hopcroft and Karp 1973). Of several as good it is always
  /// the same one for the same question.
  ///
  /// The units themselves must not stand in the way in `costs`: bake it without them.
  /// @pre at most 5,000 units, else the rest has no place. A unit that is off the map or blocked has none
  const Gathering& gather(const CostGrid& costs, std::span<const Cell> units, Cell rally,
                          const GatherOptions& options = {}) &;
  const Gathering& gather(const CostGrid& costs, std::span<const Cell> units, Cell rally,
                          const GatherOptions& options = {}) && = delete;

  /// The most units it places in one call.
  static constexpr std::size_t most_units = 5'000;

 private:
  class Work;
  std::unique_ptr<Work> work_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
