/// @file
/// The one thing a search reads: where one mover can stand, what each entry costs and which steps are legal.
///
/// Units: entry costs and lengths in hundredths, 0 = blocked.
/// Errors: off the map is blocked; costs out of range are clipped or refused as each call says.
/// Cost: O(1) a question, 2 to 9 bytes a cell; allocates when made and for the first sides.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <array>
#include <concepts>
#include <optional>
#include <span>
#include <type_traits>
#include <vector>

#include "saunter/grid/bit_grid.hpp"
#include "saunter/grid/compiler.hpp"
#include "saunter/grid/grid.hpp"
#include "saunter/grid/stamp.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/ground/change_log.hpp"
#include "saunter/ground/entry_counts.hpp"
#include "saunter/ground/hundredths.hpp"
#include "saunter/ground/mover.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// A callable that tells what entering a cell costs, in the type that says its unit.
template <typename F>
concept EntryCostOfCell = std::invocable<F&, Cell> && (std::same_as<std::invoke_result_t<F&, Cell>, EntryCost> ||
                                                       std::same_as<std::invoke_result_t<F&, Cell>, Hundredths>);

/// What becomes of the steps across corners in a caller's own plane.
enum class PlaneCorners : std::uint8_t {
  by_rule,  ///< taken away where a way round the corner is not open as the corner rule wants it
  as_given  ///< kept where steps across edges beside them are missing: cells that are only not to be entered
};

/// Walkability and movement cost of every cell of a board for one mover.
///
/// Made by `bake(map, mover)`, or straight from the game's own numbers:
/// ```cpp
/// std::vector<std::uint16_t> mine = ...;                        // cols * rows, row by row, hundredths, 0 = blocked
/// auto costs = saunter::CostGrid::from_hundredths({saunter::Tiling::square(), {cols, rows}}, {.steps = 8}, mine);
/// ```
/// A cell stands for the **place** of a mover whose own cell it is (see `body_cells`). A grid baked for a larger mover
/// knows its size, so that cells of ground that a question names (changes, closures, stops) concern every place whose
/// body covers one.
///
/// Memory: 2 bytes of entry cost and 1 or 2 bits a cell, 1 KB for each 256 costs in use; 2 bytes a cell more (4 on
/// triangles) only where barriers or height limits take part, 1 more with height limits, and 3 for a mover larger than
/// a cell. Reading is `const`, allocates nothing, is answered off the map too, and may happen in any number of threads
/// at once while no thread changes the grid. A grid moved from is empty.
class CostGrid {
 public:
  CostGrid() = default;
  CostGrid(const CostGrid&) = default;
  CostGrid(CostGrid&&) noexcept = default;
  /// When it throws, nothing has changed.
  CostGrid& operator=(const CostGrid& other) { return *this = CostGrid(other); }
  CostGrid& operator=(CostGrid&&) noexcept = default;
  ~CostGrid() = default;

  /// @param costs  entry cost of each cell in reading order, hundredths, 0 = blocked; copied
  /// @pre costs.size() == board.size.cell_count(), else cells without a number are blocked; a sound size, else the grid
  ///      is empty; rules that fit the tiling (see mover_problem), else those of the tiling's usual mover are taken
  [[nodiscard]] static CostGrid from_hundredths(Board board, StepRules rules, std::span<const std::uint16_t> costs);
  /// The same from bytes that count whole steps: 0 = blocked, 1 = 1.00, 255 = 255.00.
  [[nodiscard]] static CostGrid from_steps(Board board, StepRules rules, std::span<const std::uint8_t> steps);
  /// Takes over the caller's own planes without a copy: boards of many millions of cells need not be in memory twice.
  /// @param entries  entry costs, hundredths, 0 = blocked
  /// @param steps  the steps that may be taken from each cell, a bit for each direction: walls between cells, ledges,
  ///               one-way doors. What the rules and the entry costs don't allow is left out, off the map as well; of
  ///               steps across corners too, by what is left of those across edges (corners that are free mind no walls
  ///               here: a plane can't tell a wall from what stands beside the step). Empty: they alone decide. Bytes
  ///               hold the directions of squares and hexes, 16 bits those of triangles; a plane of the other kind is
  ///               copied
  /// @pre planes of the board's size, else cells without a number are blocked and no step leads from cells without one
  /// @cost O(cells), a few nanoseconds a cell; allocates 1 or 2 bits a cell
  [[nodiscard]] static CostGrid from_planes(Board board, StepRules rules, Grid<EntryCost> entries,
                                            Grid<std::uint8_t> steps = {},
                                            PlaneCorners corners = PlaneCorners::by_rule);
  [[nodiscard]] static CostGrid from_planes(Board board, StepRules rules, Grid<EntryCost> entries,
                                            Grid<DirectionSet> steps, PlaneCorners corners = PlaneCorners::by_rule);
  /// The same from a function of the cell, called once for each in reading order. It returns EntryCost or Hundredths;
  /// what is above 655.35 counts as that.
  template <EntryCostOfCell CostAt>
  CostGrid(Board board, StepRules rules, CostAt&& cost_at) : CostGrid(board, rules) {
    for (std::int32_t row = 0; row < size().rows; ++row) {
      for (std::int32_t col = 0; col < size().cols; ++col) {
        put(Cell{col, row}, as_entry(cost_at(Cell{col, row})));
      }
    }
    take_open_bits(Rect::whole(size()));
    count_entries();
  }

  [[nodiscard]] Board board() const { return {tiling_, entry_.size()}; }
  [[nodiscard]] Tiling tiling() const { return tiling_; }
  [[nodiscard]] Size size() const { return entry_.size(); }
  /// The rules it was made with; `steps` is filled in, never 0.
  [[nodiscard]] const StepRules& rules() const { return rules_; }
  /// Cells across the mover it was baked for; 1 when it was made from numbers.
  [[nodiscard]] int mover_size() const { return mover_size_; }
  /// Names the grid as it is now: what is made from it (regions, fields, searches) keeps it and can tell later whether
  /// it still fits. No other grid and no other state of this one has it.
  [[nodiscard]] const Stamp& stamp() const { return identity_.stamp(); }
  /// A block that holds every cell whose entry cost or legal steps have changed since this stamp was taken; nothing
  /// when it is not of this grid. O(1).
  [[nodiscard]] std::optional<Rect> changed_since(const Stamp& since) const;
  /// The same as blocks that may overlap: visit(Rect). The last 64 changes are told as they were, those before them by
  /// tiles of 8 x 8 cells, in rows. False, and nothing is visited, when the stamp is not of this grid. O(blocks), and
  /// O(cells / 64) where more than 64 changes have come since.
  template <typename Visit>
  bool for_each_change_since(const Stamp& since, Visit&& visit) const {
    if (!stamp().of_same(since)) return false;
    changes_.for_each_since(since.revision(), size(), visit);
    return true;
  }

  /// Entry cost in hundredths, 0 = cannot be entered, also off the map.
  [[nodiscard]] EntryCost entry(Cell cell) const { return entry_[cell]; }
  [[nodiscard]] EntryCost entry(CellIndex index) const { return entry_[index]; }
  [[nodiscard]] std::span<const EntryCost> entries() const { return entry_.values(); }
  /// What the cell alone costs to enter, without what else a large mover covers there; for one of size 1 the same.
  [[nodiscard]] EntryCost ground_entry(Cell cell) const { return ground_.empty() ? entry_[cell] : ground_[cell]; }
  /// Whether the mover can stand there; no off the map.
  [[nodiscard]] bool open(Cell cell) const { return open_.test(cell); }
  [[nodiscard]] const BitGrid& open_cells() const { return open_; }
  /// The same with columns as rows. Kept where long scans along both pay: squares with 8 steps; else of size 0 x 0.
  [[nodiscard]] const BitGrid& open_cells_turned() const { return open_turned_; }
  /// What scans along all columns meet, kept up with every change: how lines of open cells end.
  struct LineCounts {
    std::uint64_t cells = 0;  ///< open ones
    std::uint64_t walls = 0;  ///< ends of lines of them
    std::uint64_t stops = 0;  ///< open cells beside which a wall ends
  };
  /// All 0 where open_cells_turned() is not kept. O(1).
  [[nodiscard]] const LineCounts& line_counts() const { return line_counts_; }

  /// The legal steps from a cell, a bit for each direction; none from a blocked cell and off the map. O(1).
  [[nodiscard]] DirectionSet moves(Cell cell) const {
    if (!size().contains(cell)) return 0;
    return moves_on_map(cell);
  }
  /// The same for inner loops. @pre the cell is on the map
  [[nodiscard]] DirectionSet moves_on_map(Cell cell) const {
    if (!sides_.narrow.empty()) return sides_.narrow[cell];
    if (!sides_.wide.empty()) return sides_.wide[cell];
    if (tiling_.shape() == Shape::triangle) return triangle_moves(cell);
    return moves_by_table(cell);
  }
  /// The same for inner loops. @pre !has_sides(), and no triangles
  [[nodiscard]] SAUNTER_INLINE DirectionSet moves_by_table(Cell cell) const {
    return moves_by_table(open_.spot(cell), static_cast<unsigned>(tiling().kind(cell)));
  }
  [[nodiscard]] SAUNTER_INLINE DirectionSet moves_by_table(BitGrid::Spot spot, unsigned kind) const {
    return table_[kind][open_.nine_around(spot)];
  }
  /// The same if other cells were open. @pre the cells are of this board's size
  [[nodiscard]] SAUNTER_INLINE DirectionSet moves_by_table(const BitGrid& open, Cell cell) const {
    return table_[static_cast<unsigned>(tiling().kind(cell))][open.nine_around(open.spot(cell))];
  }
  /// The steps that barriers and heights (or a caller's plane) leave from a cell, whatever is open; all bits where none
  /// are stored. Steps across corners beside what the corner rule asks of the steps across edges. @pre on the map
  [[nodiscard]] DirectionSet unbarred_moves(Cell cell) const {
    return has_sides() ? (unbarred_.empty() ? sides_ : unbarred_).at(cell) : DirectionSet{0xFFFF};
  }
  /// Whether a barrier lets nothing across an edge, seen from a cell, whatever heights there are. O(1). @pre an edge
  [[nodiscard]] bool barred(Cell cell, Direction edge) const {
    if (!has_sides() || !size().contains(cell)) return false;
    const unsigned free = walls_.empty() ? unsigned{unbarred_moves(cell)} : ~unsigned{walls_[cell]};
    return (free >> static_cast<unsigned>(edge) & 1U) == 0;
  }
  /// Whether a barrier runs through a large mover's body there, so that nothing opens the place.
  [[nodiscard]] bool split(Cell place) const { return split_.test(place); }
  /// The legal steps from a cell if other cells were open: open(cell), also asked off the map. @pre on the map
  template <typename Open>
  [[nodiscard]] DirectionSet moves_if(Cell cell, Open&& open) const {
    if (!open(cell)) return 0;
    const unsigned unbarred = unbarred_moves(cell);
    const bool free = rules_.corners == Corners::free;  // then barriers beside corners are looked up already
    const auto edge_free = [&](Cell at, unsigned edge) {
      return free || !edges_decide_ || (unsigned{unbarred_moves(at)} >> edge & 1U) != 0;
    };
    unsigned legal = 0;
    for (unsigned d = 0; d < static_cast<unsigned>(rules_.steps); ++d) {
      if ((unbarred >> d & 1U) != 0 && step_if(cell, d, open, edge_free)) legal |= 1U << d;
    }
    return static_cast<DirectionSet>(legal);
  }
  /// Whether a step from a cell would be legal if other cells were open and all heights the same: barriers and corner
  /// rule alone. @pre on the map, a direction of the rules, open(cell); for movers of size 1
  template <typename Open>
  [[nodiscard]] bool level_step_if(Cell cell, Direction direction, Open&& open) const {
    const auto d = static_cast<unsigned>(direction);
    const auto edge_free = [&](Cell at, unsigned edge) { return !barred(at, Direction(edge)); };
    if (d < static_cast<unsigned>(tiling_.edge_count()) && !edge_free(cell, d)) return false;
    return step_if(cell, d, open, edge_free);
  }
  /// The legal steps of every cell where they are stored, a byte each; empty where they follow from the open cells, and
  /// on triangles.
  [[nodiscard]] std::span<const std::uint8_t> stored_moves() const { return sides_.narrow.values(); }
  /// Length of a step in hundredths, with the mover's own diagonal.
  [[nodiscard]] Length step_length(int kind, int direction) const {
    return lengths_[static_cast<unsigned>(kind)][static_cast<unsigned>(direction)];
  }
  /// Cost of a step in hundredths; 0 when there is no such direction. @pre it is legal
  [[nodiscard]] Cost cost_of_step(Cell from, Direction direction) const {
    if (direction < 0 || direction >= tiling_.direction_count()) return 0;
    return step_cost(step_length(tiling().kind(from), direction), entry(tiling().neighbour(from, direction)));
  }
  /// The smallest entry cost of any cell; `blocked` when there is nowhere to stand. O(1).
  [[nodiscard]] EntryCost lowest_entry() const { return counts_.least(); }
  /// The largest entry cost of any cell. O(1).
  [[nodiscard]] EntryCost highest_entry() const { return counts_.largest(); }
  /// How many cells have each entry cost.
  [[nodiscard]] const EntryCounts& entry_counts() const { return counts_; }
  /// No legal step is longer. O(1).
  [[nodiscard]] Length longest_step() const { return longest_step_; }
  /// No legal step costs more, hundredths. O(1).
  [[nodiscard]] Cost highest_step() const { return step_cost(longest_step_, highest_entry()); }

  /// Changes what one cell of ground costs, also on maps with barriers and heights, which stay as they are; places of a
  /// large mover that cover it follow. O(1), for a large mover O(cells of its body x log). When it throws (a cost may
  /// take a KB to be counted; the first cell that is shut among stored steps takes a copy of them), nothing has
  /// changed.
  /// @return false, and nothing is done, off the map and above 655.35
  bool set_entry(Cell cell, Hundredths cost);
  /// Changes what the cells of a block cost, as set_entry does for each, at a few nanoseconds a cell and as one change.
  /// @param costs  of the block's cells on the map, row by row. When it throws, nothing has changed.
  /// @return false, and nothing is done, when there are not as many numbers as cells
  bool set_entries(Rect block, std::span<const EntryCost> costs);
  /// Makes a block what it is in another grid of the same board, rules and size of mover (steps at its rim as the cells
  /// about it now let them); an empty block changes nothing. O(cells of the block); O(cells) the first time a block
  /// with barriers or heights comes to a grid without. When it throws, nothing has changed.
  /// @return false, and nothing is done, for other boards, rules and movers
  bool take_block(const CostGrid& from, Rect block);
  /// Whether legal steps are stored for each cell because barriers or height limits take part.
  [[nodiscard]] bool has_sides() const { return !sides_.empty(); }

  /// Equal answers: the same board, rules, entry costs and legal steps (revisions may differ).
  friend bool operator==(const CostGrid& a, const CostGrid& b);

  /// What `bake` writes a grid with; not for others.
  class Baker;

 private:
  /// The cells that decide about one direction, as bits of the 5 x 3 window round a cell.
  struct StepMask {
    std::uint16_t target = 0;
    std::array<std::uint16_t, 2> beside = {};  // the middle cells of the two ways round a corner
  };

  CostGrid(Board board, StepRules rules) : CostGrid(board, rules, Grid<EntryCost>(board.size)) {}
  CostGrid(Board board, StepRules rules, Grid<EntryCost> entries);
  template <typename Set>
  static CostGrid with_steps(Board board, StepRules rules, Grid<EntryCost> entries, Grid<Set> steps,
                             PlaneCorners corners);
  template <typename Set>
  void leave_corners(Grid<Set>& steps) const;
  template <typename Set>
  void leave_legal(std::int32_t row, std::span<Set> sets) const;
  void take_entries();
  static EntryCost as_entry(Hundredths cost) {
    SAUNTER_EXPECT(cost <= max_entry_cost);
    return static_cast<EntryCost>(cost < Cost{max_entry_cost} ? Cost{cost} : Cost{max_entry_cost});
  }
  void put(Cell cell, EntryCost cost) {
    entry_[cell] = cost;
    if (cost != blocked) open_.set(cell);
  }
  void count_entries();
  /// Tells that a block has changed.
  void note_change(Rect block);
  /// To be called when open cells have changed within a block.
  void take_open_bits(Rect block);
  static constexpr std::uint64_t more = 1;
  static constexpr std::uint64_t less = ~std::uint64_t{0};
  void count_lines(Rect block, std::uint64_t sign);
  void fill_table();
  /// Whether the cell a step leads to is open and a way round a corner is as the corner rule wants it.
  template <typename Open, typename EdgeFree>
  [[nodiscard]] bool step_if(Cell cell, unsigned d, Open&& open, EdgeFree&& edge_free) const {
    const Neighbourhood& hood = tiling_.neighbourhood();
    const auto kind = static_cast<unsigned>(tiling_.kind(cell));
    if (!open(cell + hood.offset[kind][d])) return false;
    if (d < static_cast<unsigned>(hood.edges)) return true;
    const auto passes = [&](const CornerWay& way) {
      Cell at = cell;
      for (unsigned i = 0; i < way.count; ++i) {
        const Cell next = tiling_.neighbour(at, Direction(way.steps[i]));
        // With free corners what lies beside does not matter, but a way must not leave the map.
        if (rules_.corners == Corners::free ? !size().contains(next) : !open(next)) return false;
        if (!edge_free(at, way.steps[i])) return false;
        at = next;
      }
      return true;
    };
    const bool first = passes(hood.ways[kind][d][0]);
    return rules_.corners == Corners::strict ? first && passes(hood.ways[kind][d][1])
                                             : first || passes(hood.ways[kind][d][1]);
  }
  void take_sides(Rect block);
  void set_ground(Cell cell, EntryCost cost);
  [[nodiscard]] std::uint8_t barred_edges(Cell cell) const;
  [[nodiscard]] DirectionSet triangle_moves(Cell cell) const;
  [[nodiscard]] DirectionSet legal_within(unsigned kind, std::uint32_t around, std::uint32_t on_map) const;

  /// A set of steps for each cell: a byte where a tiling has up to 8 directions, two on triangles.
  struct Sides {
    Grid<std::uint8_t> narrow;
    Grid<std::uint16_t> wide;
    [[nodiscard]] static Sides of(Board board, DirectionSet fill) {
      if (board.tiling.shape() == Shape::triangle) return {{}, Grid<std::uint16_t>(board.size, fill)};
      return {Grid<std::uint8_t>(board.size, static_cast<std::uint8_t>(fill)), {}};
    }
    template <typename Set>
    [[nodiscard]] static Sides from(Board board, Grid<Set> sets);
    [[nodiscard]] bool empty() const { return narrow.empty() && wide.empty(); }
    [[nodiscard]] DirectionSet at(Cell cell) const { return narrow.empty() ? wide[cell] : narrow[cell]; }
    void put(Cell cell, DirectionSet set) {
      if (narrow.empty()) {
        wide[cell] = set;
      } else {
        narrow[cell] = static_cast<std::uint8_t>(set);
      }
    }
  };

  Identity identity_;
  Tiling tiling_;
  StepRules rules_;
  Grid<EntryCost> entry_;
  BitGrid open_;
  BitGrid open_turned_;
  LineCounts line_counts_;
  Sides sides_;               // legal steps; none where they follow from the open cells
  Sides unbarred_;            // the same whatever is open; none while no cell has been shut: sides_ then
  Grid<std::uint8_t> walls_;  // barriers alone, an edge a bit; none where unbarred_ tells (size 1, no height limits)
  Grid<EntryCost> ground_;    // of a large mover: what each cell costs alone
  BitGrid split_;             // of a large mover: places that a barrier runs through; none without barriers
  bool edges_decide_ = true;  // whether a way round a corner takes steps across edges, or only asks what is open
  int mover_size_ = 1;
  std::array<std::array<Length, max_directions>, 2> lengths_ = {};
  std::array<std::array<StepMask, max_directions>, 2> masks_ = {};
  /// Squares and hexes: the legal steps by kind and by which of the 3 x 3 cells around are open.
  std::array<std::array<std::uint8_t, 512>, 2> table_ = {};
  EntryCounts counts_;
  ChangeLog changes_;
  Length longest_step_ = 100;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
