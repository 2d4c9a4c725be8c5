#include "dead_ends.hpp"

#include <algorithm>

#include "legal_steps.hpp"

namespace saunter::inline v0_2::detail {
namespace {

/// The steps that arrive at a place join it too.
template <typename Sets>
void join_both_ways(const CostGrid& costs, Sets& joined) {
  const Size size = costs.size();
  const Tiling tiling = costs.tiling();
  const Neighbourhood& hood = tiling.neighbourhood();
  for (const Cell cell : size.cells()) {
    const auto kind = static_cast<unsigned>(tiling.kind(cell));
    for_each_direction(joined[size.index(cell).value()], [&](unsigned d) {
      auto& there = joined[size.index(cell + hood.offset[kind][d]).value()];
      there = static_cast<typename Sets::value_type>(there | 1U << hood.opposite[kind][d]);
    });
  }
}

/// The same for all cells of a row at once, where every cell has the same neighbours by number. A step off the map is
/// never legal, so that no cell is joined to one of another row's end.
void join_both_ways_by_rows(const CostGrid& costs, std::span<const std::uint8_t> moves, std::uint8_t* joined) {
  const Size size = costs.size();
  const Neighbourhood& hood = costs.tiling().neighbourhood();
  const auto cols = static_cast<std::ptrdiff_t>(size.cols);
  const auto count = static_cast<std::ptrdiff_t>(moves.size());
  for (std::ptrdiff_t row = 0; row < count; row += cols) {
    for (unsigned d = 0; d < static_cast<unsigned>(costs.rules().steps); ++d) {
      const Offset by = hood.offset[0][d];
      const std::ptrdiff_t there = by.rows * cols + by.cols;
      const unsigned back = hood.opposite[0][d];
      const std::ptrdiff_t end = std::min(row + cols, count - there);
      for (std::ptrdiff_t i = std::max(row, -there); i < end; ++i) {
        joined[i] =
            static_cast<std::uint8_t>(joined[i] | (moves[static_cast<std::size_t>(i + there)] >> back & 1U) << d);
      }
    }
  }
}

}  // namespace

bool DeadEnds::join_up(const CostGrid& costs, const ChangedMoves& ground) {
  const Size size = costs.size();
  by_bytes_ = costs.tiling().direction_count() <= 8;
  const auto fill = [&](auto& joined) {
    using Set = typename std::remove_reference_t<decltype(joined)>::value_type;
    joined.resize(size.cell_count());
    const std::span<const std::uint8_t> stored = costs.stored_moves();
    if (!stored.empty() && !ground.any()) {
      std::copy(stored.begin(), stored.end(), joined.begin());
    } else {
      std::size_t next = 0;
      for (const Cell cell : size.cells()) joined[next++] = static_cast<Set>(ground.moves(cell));
    }
    // Without barriers and height limits every step has a way back.
    if (!costs.has_sides()) return;
    if constexpr (std::is_same_v<Set, std::uint8_t>) {
      if (costs.tiling().shape() == Shape::square && !stored.empty() && !ground.any()) {
        return join_both_ways_by_rows(costs, stored, joined.data());
      }
    }
    join_both_ways(costs, joined);
  };
  if (by_bytes_) {
    fill(narrow_);
  } else {
    fill(wide_);
  }
  return by_bytes_;
}

}  // namespace saunter::inline v0_2::detail
