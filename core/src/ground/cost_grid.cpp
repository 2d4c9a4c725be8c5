#include "saunter/ground/cost_grid.hpp"

#include <algorithm>
#include <bit>
#include <utility>

namespace saunter::inline v0_2 {
namespace {

constexpr int window_cols = 5;  // two cells left and right of the middle one: triangles reach that far

constexpr std::uint16_t window_bit(Offset o) {
  return static_cast<std::uint16_t>(1U << static_cast<unsigned>((o.rows + 1) * window_cols + o.cols + 2));
}

std::uint32_t window(const BitGrid& bits, Cell cell) {
  return bits.five_around({cell.col, cell.row - 1}) | (bits.five_around(cell) << 5U) |
         (bits.five_around({cell.col, cell.row + 1}) << 10U);
}

/// Which cells of the window are on the map.
std::uint32_t window_on_map(Size size, Cell cell) {
  std::uint32_t bits = 0;
  for (std::int32_t row = -1; row <= 1; ++row) {
    for (std::int32_t col = -2; col <= 2; ++col) {
      if (size.contains(cell + Offset{col, row})) bits |= window_bit({col, row});
    }
  }
  return bits;
}

}  // namespace

CostGrid::CostGrid(Board board, StepRules rules, Grid<EntryCost> entries)
    : identity_(Identity::fresh()),
      tiling_(board.tiling),
      rules_(rules),
      entry_(std::move(entries)),
      open_(board.size) {
  board.size = entry_.size();
  const bool sound = !mover_problem(board.tiling, Mover{.rules = rules});
  SAUNTER_EXPECT(sound);
  if (!sound) rules_ = {};
  if (rules_.steps == 0) rules_.steps = default_steps(board.tiling);
  if (rules_.steps == 8) open_turned_ = BitGrid({board.size.rows, board.size.cols});
  const Neighbourhood& hood = board.tiling.neighbourhood();
  lengths_ = hood.length;
  for (unsigned kind = 0; kind < 2; ++kind) {
    for (unsigned d = 0; d < static_cast<unsigned>(hood.directions); ++d) {
      masks_[kind][d].target = window_bit(hood.offset[kind][d]);
      if (d < static_cast<unsigned>(hood.edges)) continue;
      if (board.tiling.shape() == Shape::square) lengths_[kind][d] = rules_.diagonal;
      for (unsigned side = 0; side < 2; ++side) {
        const CornerWay& way = hood.ways[kind][d][side];
        Offset at;
        unsigned at_kind = kind;
        for (unsigned i = 0; i + 1 < way.count; ++i) {
          at = at + hood.offset[at_kind][way.steps[i]];
          at_kind = hood.kind_after[at_kind][way.steps[i]];
          masks_[kind][d].beside[side] |= window_bit(at);
        }
      }
    }
  }
  for (unsigned d = 0; d < static_cast<unsigned>(rules_.steps); ++d) {
    longest_step_ = std::max({longest_step_, lengths_[0][d], lengths_[1][d]});
  }
  if (board.tiling.shape() != Shape::triangle) fill_table();
}

CostGrid CostGrid::from_hundredths(Board board, StepRules rules, std::span<const std::uint16_t> costs) {
  SAUNTER_EXPECT(costs.size() == board.size.cell_count());
  std::size_t next = 0;
  return {board, rules, [&](Cell) { return next < costs.size() ? costs[next++] : blocked; }};
}

CostGrid CostGrid::from_steps(Board board, StepRules rules, std::span<const std::uint8_t> steps) {
  SAUNTER_EXPECT(steps.size() == board.size.cell_count());
  std::size_t next = 0;
  return {board, rules, [&](Cell) { return static_cast<EntryCost>(next < steps.size() ? steps[next++] * 100U : 0U); }};
}

namespace {

/// A plane of another size, brought to this one; cells without a value get none.
template <typename T>
Grid<T> of_size(Grid<T> plane, Size size) {
  SAUNTER_EXPECT(plane.size() == size);
  if (plane.size() == size) return plane;
  Grid<T> fitting(size);
  for (const Cell cell : fitting.size().cells()) fitting[cell] = std::as_const(plane)[cell];
  return fitting;
}

}  // namespace

void CostGrid::take_open_bits(Rect block) {
  if (open_turned_.size().cols == 0 || block.empty()) return;
  if (line_counts_.cells > 0) count_lines(block, less);
  open_turned_.take_turned(open_, block);
  count_lines(block, more);
}

/// Counts all that a block's cells have a part in, times a sign, by whole words: what lies beside them in a word is
/// counted before a change and after it alike.
void CostGrid::count_lines(Rect block, std::uint64_t sign) {
  const auto word_of = [](std::int32_t bit) { return (static_cast<std::size_t>(bit) + BitGrid::margin) / 64; };
  const std::size_t first = word_of(block.top);
  const std::size_t last = word_of(block.bottom);  // a line may end at the cell after the block
  for (std::int32_t line = std::max(0, block.left - 1); line < std::min(size().cols, block.right + 1); ++line) {
    const std::uint64_t* const here = open_turned_.row_words(line).data();
    const std::uint64_t* const before = open_turned_.row_words(line - 1).data();
    const std::uint64_t* const after = open_turned_.row_words(line + 1).data();
    for (std::size_t word = first; word <= last; ++word) {
      const auto shifted = [word](const std::uint64_t* words) {
        return words[word] << 1U | (word == 0 ? 0 : words[word - 1] >> 63U);
      };
      const std::uint64_t ends = (before[word] & ~shifted(before)) | (after[word] & ~shifted(after));
      const auto add = [&](std::uint64_t& count, std::uint64_t bits) {
        count += sign * static_cast<unsigned>(std::popcount(bits));
      };
      add(line_counts_.cells, here[word]);
      add(line_counts_.walls, shifted(here) & ~here[word]);
      add(line_counts_.stops, ends & here[word]);
    }
  }
}

void CostGrid::take_entries() {
  for (std::int32_t row = 0; row < size().rows; ++row) {
    const EntryCost* const entries = std::as_const(entry_).row(row).data();
    open_.set_row(row, [entries](std::int32_t col) { return entries[col] != blocked; });
  }
  take_open_bits(Rect::whole(size()));
  count_entries();
}

/// Takes from the sets of a row what the rules don't allow. Where all cells around are open they allow everything,
/// which is seen for 64 cells at a time.
template <typename Set>
void CostGrid::leave_legal(std::int32_t row, std::span<Set> sets) const {
  const auto all = static_cast<Set>((1U << static_cast<unsigned>(rules_.steps)) - 1);
  const auto three = [&](std::int32_t of_row, std::size_t i) {
    const std::span<const std::uint64_t> words = open_.row_words(of_row);
    const std::uint64_t from_left = i == 0 ? 0 : words[i - 1] >> 63U;
    const std::uint64_t from_right = i + 1 == words.size() ? 0 : words[i + 1] << 63U;
    return words[i] & (words[i] << 1U | from_left) & (words[i] >> 1U | from_right);
  };
  constexpr std::size_t margin = BitGrid::margin;
  for (std::size_t i = 0; i * 64 < sets.size() + margin; ++i) {
    std::uint64_t amid = three(row - 1, i) & three(row, i) & three(row + 1, i);
    if (tiling().shape() == Shape::triangle) amid = 0;  // steps lead farther there
    const std::size_t first = i == 0 ? margin : i * 64;
    const std::size_t last = std::min(i * 64 + 64, sets.size() + margin);
    for (std::size_t bit = first; bit < last; ++bit) {
      Set& set = sets[bit - margin];
      if ((amid >> (bit % 64) & 1U) != 0) {
        set = static_cast<Set>(set & all);
      } else {
        set = static_cast<Set>(set & moves_on_map({static_cast<std::int32_t>(bit - margin), row}));
      }
    }
  }
}

/// Takes from the sets steps across corners whose ways round, by the steps across edges that are left, are not open as
/// the corner rule wants them: walls between cells, which a caller tells by edges alone.
template <typename Set>
void CostGrid::leave_corners(Grid<Set>& steps) const {
  const Neighbourhood& hood = tiling().neighbourhood();
  const auto edges = static_cast<unsigned>(hood.edges);
  const auto count = static_cast<unsigned>(rules_.steps);
  if (count <= edges || rules_.corners == Corners::free) return;
  const auto opens = [&](Cell cell, const CornerWay& way) {
    for (unsigned i = 0; i < way.count; ++i) {
      if ((unsigned{steps[cell]} >> way.steps[i] & 1U) == 0) return false;
      cell = cell + hood.offset[static_cast<unsigned>(tiling().kind(cell))][way.steps[i]];
    }
    return true;
  };
  for (const Cell cell : size().cells()) {
    const auto kind = static_cast<unsigned>(tiling().kind(cell));
    for (unsigned left = unsigned{steps[cell]} >> edges << edges; left != 0; left &= left - 1) {
      const auto d = static_cast<unsigned>(std::countr_zero(left));
      const auto& ways = hood.ways[kind][d];
      const bool first = opens(cell, ways[0]);
      const bool legal =
          rules_.corners == Corners::strict ? first && opens(cell, ways[1]) : first || opens(cell, ways[1]);
      if (!legal) steps[cell] = static_cast<Set>(steps[cell] & ~(1U << d));
    }
  }
}

/// A caller's plane as the tiling stores it.
template <typename Set>
CostGrid::Sides CostGrid::Sides::from(Board board, Grid<Set> sets) {
  const auto copied = [&]<typename T>(Grid<T> to) {
    std::transform(sets.values().begin(), sets.values().end(), to.values().begin(),
                   [](Set set) { return static_cast<T>(set); });
    return to;
  };
  if (board.tiling.shape() == Shape::triangle) {
    if constexpr (sizeof(Set) == 2) return {{}, std::move(sets)};
    return {{}, copied(Grid<std::uint16_t>(sets.size()))};
  }
  if constexpr (sizeof(Set) == 1) return {std::move(sets), {}};
  return {copied(Grid<std::uint8_t>(sets.size())), {}};
}

template <typename Set>
CostGrid CostGrid::with_steps(Board board, StepRules rules, Grid<EntryCost> entries, Grid<Set> steps,
                              PlaneCorners corners) {
  CostGrid costs(board, rules, of_size(std::move(entries), board.size));
  costs.take_entries();
  if (steps.empty()) return costs;
  steps = of_size(std::move(steps), costs.size());
  costs.edges_decide_ = corners == PlaneCorners::by_rule;
  if (costs.open_.count() < costs.size().cell_count()) costs.unbarred_ = Sides::from(board, Grid<Set>(steps));
  for (std::int32_t row = 0; row < costs.size().rows; ++row) costs.leave_legal(row, steps.row(row));
  if (costs.edges_decide_) costs.leave_corners(steps);
  costs.sides_ = Sides::from(board, std::move(steps));
  return costs;
}

CostGrid CostGrid::from_planes(Board board, StepRules rules, Grid<EntryCost> entries, Grid<std::uint8_t> steps,
                               PlaneCorners corners) {
  return with_steps(board, rules, std::move(entries), std::move(steps), corners);
}
CostGrid CostGrid::from_planes(Board board, StepRules rules, Grid<EntryCost> entries, Grid<DirectionSet> steps,
                               PlaneCorners corners) {
  return with_steps(board, rules, std::move(entries), std::move(steps), corners);
}

/// @param around  open cells of the 5 x 3 window  @param on_map  which of them are on the map
DirectionSet CostGrid::legal_within(unsigned kind, std::uint32_t around, std::uint32_t on_map) const {
  if ((around & window_bit({0, 0})) == 0) return 0;
  const auto& masks = masks_[kind];
  const auto edges = static_cast<unsigned>(tiling().edge_count());
  const std::uint32_t beside = rules_.corners == Corners::free ? on_map : around;
  unsigned legal = 0;
  for (unsigned d = 0; d < static_cast<unsigned>(rules_.steps); ++d) {
    if ((around & masks[d].target) == 0) continue;
    if (d >= edges) {
      const bool first = (beside & masks[d].beside[0]) == masks[d].beside[0];
      const bool second = (beside & masks[d].beside[1]) == masks[d].beside[1];
      if (rules_.corners == Corners::strict ? !(first && second) : !(first || second)) continue;
    }
    legal |= 1U << d;
  }
  return static_cast<DirectionSet>(legal);
}

void CostGrid::fill_table() {
  // On squares a way round a corner never leaves the map when its end is on it.
  constexpr std::uint32_t everywhere = ~std::uint32_t{0};
  for (unsigned kind = 0; kind < 2; ++kind) {
    for (std::uint32_t open = 0; open < 512; ++open) {
      const std::uint32_t around = ((open & 7U) << 1U) | (((open >> 3U) & 7U) << 6U) | ((open >> 6U) << 11U);
      table_[kind][open] = static_cast<std::uint8_t>(legal_within(kind, around, everywhere));
    }
  }
}

DirectionSet CostGrid::triangle_moves(Cell cell) const {
  return legal_within(static_cast<unsigned>(tiling().kind(cell)), window(open_, cell),
                      rules_.corners == Corners::free ? window_on_map(size(), cell) : 0);
}

void CostGrid::count_entries() {
  counts_.clear();
  for (std::int32_t row = 0; row < size().rows; ++row) counts_.add_all(std::as_const(entry_).row(row));
}

void CostGrid::note_change(Rect block) {
  identity_.changed();
  changes_.note(block, stamp().revision(), size());
}

std::optional<Rect> CostGrid::changed_since(const Stamp& since) const {
  Rect all;
  const bool own = for_each_change_since(since, [&](Rect block) { all = all.joined(block); });
  return own ? std::optional(all) : std::nullopt;
}

bool operator==(const CostGrid& a, const CostGrid& b) {
  if (a.board() != b.board() || a.rules_ != b.rules_ || a.entry_ != b.entry_) return false;
  if (a.mover_size_ != b.mover_size_) return false;
  if (!a.has_sides() && !b.has_sides()) return true;  // then the rules and entries decide
  for (std::int32_t row = 0; row < a.size().rows; ++row) {
    for (std::int32_t col = 0; col < a.size().cols; ++col) {
      if (a.moves({col, row}) != b.moves({col, row})) return false;
    }
  }
  return true;
}

}  // namespace saunter::inline v0_2
