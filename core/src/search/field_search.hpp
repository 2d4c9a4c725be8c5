/// @file
/// How fields are computed.
#pragma once

#include <array>
#include <span>
#include <vector>

#include "kernel/cell_queue.hpp"
#include "field_by_fours.hpp"
#include "field_ground.hpp"
#include "onward.hpp"
#include "saunter/search/searcher.hpp"

namespace saunter::inline v0_2 {
namespace detail {

/// Cells reached by steps, level by level, as bits: which are still to be reached and which were reached last.
class BitLevels {
 public:
  void begin(const CostGrid& costs);
  /// The directions that lead from a cell to marked ones.
  [[nodiscard]] unsigned towards(const BitGrid& marked, BitGrid::Spot spot, unsigned kind) const {
    return directions_[kind][marked.nine_around(spot)];
  }

  BitGrid to_reach;
  BitGrid before;  // the level before the one being expanded
  std::vector<std::uint32_t> level;
  std::vector<std::uint32_t> beyond;
  std::vector<std::uint32_t> last;  // the cells of `before`

 private:
  Tiling tiling_;
  bool ready_ = false;
  std::array<std::array<std::uint8_t, 512>, 2> directions_ = {};
};

/// Memory a field search works in, kept between searches.
struct FieldScratch {
  CellQueues queues;
  Onward onward;
  BitLevels levels;
  FieldByFours fours;
  FieldGround ground;
  std::vector<QueuedCell> waiting;  // sources not in the queue yet, by cost

  [[nodiscard]] std::size_t memory() const {
    return queues.memory() + bytes_of(waiting, levels.level, levels.beyond, levels.last) + levels.to_reach.memory() +
           levels.before.memory() + fours.memory() + ground.memory();
  }
};

/// Stands for "no source" in lists of sources' numbers.
inline constexpr std::uint32_t no_source = 0xFFFFFFFF;

/// How long the steps in each direction are, by kind of cell.
using StepLengths = std::array<std::array<Length, max_directions>, 2>;

inline StepLengths lengths_of(const CostGrid& costs) {
  StepLengths lengths = {};
  for (unsigned kind = 0; kind < 2; ++kind) {
    for (unsigned d = 0; d < max_directions; ++d) {
      lengths[kind][d] = costs.step_length(static_cast<int>(kind), static_cast<int>(d));
    }
  }
  return lengths;
}

/// A block that holds every cell such a field can reach: all of the board without a budget. @pre the field knows what
/// was asked
[[nodiscard]] Rect within_bound(const CostGrid& costs, const FieldGround& ground, const Field& field);
/// Whether a step joins a reached cell to one that is not (asked only after a sum was too large for one way).
[[nodiscard]] bool leaves_cells_out(const CostGrid& costs, const FieldGround& ground, const Grid<Cost>& reached,
                                    bool to_sources);

/// In which direction units travel along the field.
enum class Travel : std::uint8_t { to_sources, from_sources };

}  // namespace detail

/// One field under way: Dijkstra's search from all sources at once, against the travel when it leads to them.
class Searcher::FieldSearch {
 public:
  FieldSearch(detail::FieldScratch& scratch, Field& field, const CostGrid& costs, detail::Travel travel)
      : scratch_(scratch), field_(field), costs_(costs), hood_(costs.tiling().neighbourhood()), travel_(travel) {}

  void run(std::span<const Source> sources, const FieldOptions& options);

 private:
  void prepare(std::span<const Source> sources, const FieldOptions& options);
  void add_source(const Source& source, std::size_t number);
  /// Settles every cell in reach. @tparam asked  barriers or height limits take part, so that the steps that arrive at
  /// a cell must be asked for at its neighbours
  template <detail::Travel travel, bool asked, bool many>
  void settle_all();
  template <detail::Travel travel, bool asked, bool many, typename Queue>
  void settle_with(Queue& queue);
  /// The same on ground that differs from the grid's, and no further than is wanted.
  template <bool many>
  void settle_limited();
  template <bool many, bool changed, typename Queue>
  void settle_limited_with(Queue& queue);
  /// The same, several neighbours at a time, where one source is all and no budget ends it early.
  [[nodiscard]] bool settle_by_fours();
  /// Counts steps from one source where barriers, height limits and triangles take no part.
  void settle_by_levels();
  /// Calls visit(direction) for each legal step at a cell among those wanted: those that leave it, or those that arrive
  /// there.
  template <detail::Travel travel, bool asked, typename Visitor>
  void for_each_step(Cell cell, unsigned kind, unsigned wanted, Visitor&& visit) const;

  detail::FieldScratch& scratch_;
  Field& field_;
  const CostGrid& costs_;
  const Neighbourhood& hood_;
  detail::Travel travel_;
  Cost bound_ = max_cost;
  bool count_steps_ = false;
  bool budgeted_ = false;
  bool limited_ = false;
  bool overflow_seen_ = false;
};

}  // namespace saunter::inline v0_2
